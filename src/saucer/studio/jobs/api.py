"""One's jobs: listed, cancelled, begun again, their files taken."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from ninja import Router, Schema

from saucer.studio.common.downloads import download
from saucer.studio.common.reading import tell_each
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import open_kept
from saucer.studio.jobs import rules
from saucer.studio.jobs.models import Job, State
from saucer.studio.people.signed_in import person_of

router = Router(tags=["jobs"])


class JobOut(Schema):
    """page: where the outcome is; download: address of what can be downloaded, if anything can; file_name: what that is called"""

    id: int
    kind: str
    state: State
    progress: float
    problem: str
    page: str
    entry: int | None
    picture: int | None
    file_name: str
    download: str
    left_out: list[str]
    created: datetime
    may_restart: bool


def job_out(job: Job) -> JobOut:
    result = rules.read_result(job) or rules.JobResult()
    download = f"/api/jobs/{job.pk}/file" if result.file else ""
    return JobOut(
        id=job.pk, kind=job.kind, state=State(job.state), progress=job.progress, problem=job.problem, created=job.created,
        page=result.page, entry=result.entry, picture=result.picture, file_name=result.file_name, download=download,
        left_out=result.left_out, may_restart=rules.may_restart(job),
    )  # fmt: skip


@router.get("", response=list[JobOut])
def list_jobs(request: HttpRequest) -> list[JobOut]:
    """One's own jobs, the newest first."""
    return tell_each(rules.list_recent(person_of(request)), job_out)


@router.get("/{pk}", response=JobOut)
def read(request: HttpRequest, pk: int) -> JobOut:
    """How far a job is, and what came of it."""
    return job_out(rules.find(person_of(request), pk))


@router.post("/{pk}/cancel", response=JobOut)
def cancel(request: HttpRequest, pk: int) -> JobOut:
    """Ends a job of one's own."""
    return job_out(rules.cancel(person_of(request), pk))


@router.post("/{pk}/restart", response=JobOut)
def restart(request: HttpRequest, pk: int) -> JobOut:
    """One that failed or was cancelled, once more; parts of it that are done stay done."""
    return job_out(rules.restart(person_of(request), pk))


@router.get("/{pk}/file")
def file(request: HttpRequest, pk: int) -> HttpResponseBase:
    """The file that a job has made."""
    result = rules.read_result(rules.find(person_of(request), pk))
    if result is None or not result.file:
        raise NotPossible("This job has no file to download.")
    return download(open_kept(result.file), result.file_name)
