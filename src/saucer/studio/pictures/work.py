"""The job of a large picture: bringing it in, or reading it again in another encoding."""

from __future__ import annotations

from django.db import transaction
from pydantic import BaseModel

from saucer.studio.common.models import Blob
from saucer.studio.common.store import local_file
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind, settle
from saucer.studio.people.models import Role
from saucer.studio.pictures import rules


class PictureWork(BaseModel):
    """A kept file to become a picture, or a picture whose encoding is another. sha256: of the file; picture: which one, by its number

    passing: only to look at
    """

    encoding: str
    sha256: str = ""
    file_name: str = ""
    name: str = ""
    picture: int | None = None
    passing: bool = False


@job_kind("picture", Role.DESIGNER, PictureWork, JobResult)
def take_in(job: Job, given: PictureWork, report: Progress) -> JobResult:
    """Making the proxy is what takes long; nothing is locked or changed before it is there."""
    if given.picture is not None:
        return _read_again(job, given.picture, given.encoding, report)
    with local_file(given.sha256) as path:
        new = rules.look_into(job.person, path, given.file_name, given.name, given.encoding, given.passing)
        proxy = rules.proxy_of(path, new.encoding, new.file_name, report)
    with transaction.atomic():
        picture = rules.add(job.person, new, Blob.objects.get(pk=given.sha256), proxy)
        return settle(job, JobResult(page="/pictures", picture=picture.pk))


@job_kind("frame", Role.VIEWER, PictureWork, JobResult)
def look_at(job: Job, given: PictureWork, report: Progress) -> JobResult:
    """A large picture that is only to be looked at, for anybody."""
    return take_in(job, given.model_copy(update={"passing": True}), report)


def _read_again(job: Job, pk: int, encoding: str, report: Progress) -> JobResult:
    picture = rules.check_change(job.person, pk, encoding)
    with local_file(picture.blob_id) as path:
        proxy = rules.proxy_of(path, encoding, picture.file_name, report)
    with transaction.atomic():
        rules.change(job.person, pk, None, encoding, proxy)
        return settle(job, JobResult(page="/pictures", picture=pk))
