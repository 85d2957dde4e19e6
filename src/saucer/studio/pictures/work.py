"""The jobs of pictures: a large one brought in, or read again in another encoding; the small copy of what moves."""

from __future__ import annotations

from django.db import transaction
from pydantic import BaseModel

from saucer.studio.common.models import Blob
from saucer.studio.common.store import keep_file, local_file
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind, settle, start
from saucer.studio.people.models import Person, Role
from saucer.studio.pictures import footage, rules


class PictureWork(BaseModel):
    """A kept file to become a picture, or a picture whose encoding is another. sha256: of the file; picture: which one, by its number

    encoding: as the person said; empty where the file is to say it; white: of a raw photograph, in another one
    passing: only to look at
    """

    encoding: str
    sha256: str = ""
    file_name: str = ""
    name: str = ""
    picture: int | None = None
    white: int | None = None
    passing: bool = False


@job_kind("picture", Role.DESIGNER, PictureWork, JobResult)
def take_in(job: Job, given: PictureWork, report: Progress) -> JobResult:
    """Making the proxy is what takes long; nothing is locked or changed before it is there."""
    if given.picture is not None:
        return _read_again(job, given.picture, rules.Reading(given.encoding or None, given.white), report)
    with local_file(given.sha256) as path:
        new = rules.look_into(job.person, path, given.file_name, given.name, given.encoding, given.passing)
        with rules.as_kept(new, path, given.encoding) as (new, kept):
            proxy = rules.proxy_of(kept, new.encoding, new.file_name, report)
            blob = Blob.objects.get(pk=given.sha256) if kept == path else keep_file(kept)
    with transaction.atomic():
        picture = rules.add(job.person, new, blob, proxy)
        return settle(job, JobResult(page="/pictures", picture=picture.pk))


@job_kind("frame", Role.VIEWER, PictureWork, JobResult)
def look_at(job: Job, given: PictureWork, report: Progress) -> JobResult:
    """A large picture that is only to be looked at, for anybody."""
    return take_in(job, given.model_copy(update={"passing": True}), report)


def _read_again(job: Job, pk: int, wanted: rules.Reading, report: Progress) -> JobResult:
    proxy = rules.read_again(rules.check_change(job.person, pk, wanted), wanted, report)
    with transaction.atomic():
        rules.change(job.person, pk, None, wanted, proxy)
        return settle(job, JobResult(page="/pictures", picture=pk))


class ProxyWork(BaseModel):
    """footage: the number of its picture"""

    footage: int


@job_kind("proxy", Role.DESIGNER, ProxyWork, JobResult, gives_way=True, alone=True, restarted=True)
def make_proxy(job: Job, given: ProxyWork, report: Progress) -> JobResult:
    """Made of the footage as it stands at the beginning; where that was changed meanwhile, the job that the change began makes it."""
    found = footage.find(given.footage, job.person)
    blob, encoding = footage.make_proxy(found, report)
    with transaction.atomic():
        footage.keep_proxy(found.pk, blob, encoding, found)
        return settle(job, JobResult(page="/pictures", picture=found.pk))


def start_proxy(person: Person, pk: int) -> Job:
    """The job that makes the small copy of a picture that moves."""
    return start(person, "proxy", ProxyWork(footage=pk))
