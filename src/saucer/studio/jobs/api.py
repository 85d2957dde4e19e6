from __future__ import annotations

from datetime import datetime
from typing import Any

from django.http import FileResponse, HttpRequest
from ninja import Router, Schema

from saucer.studio.jobs import rules
from saucer.studio.jobs.models import Job, State
from saucer.studio.refusals import NotPossible
from saucer.studio.signed_in import person_of
from saucer.studio.store import open_kept

router = Router(tags=["jobs"])


class JobOut(Schema):
    id: int
    kind: str
    state: State
    progress: float
    problem: str
    lut: int | None
    file_name: str
    has_file: bool
    left_out: list[str]
    created: datetime


def job_out(job: Job) -> JobOut:
    result: dict[str, Any] = job.result or {}
    return JobOut(
        id=job.pk, kind=job.kind, state=State(job.state), progress=job.progress, problem=job.problem, created=job.created,
        lut=result.get("lut"), file_name=result.get("file_name", ""), has_file="sha256" in result,
        left_out=result.get("left_out", []),
    )  # fmt: skip


@router.get("", response=list[JobOut])
def list_jobs(request: HttpRequest) -> list[JobOut]:
    return [job_out(job) for job in rules.recent(person_of(request))]


@router.get("/{pk}", response=JobOut)
def read(request: HttpRequest, pk: int) -> JobOut:
    return job_out(rules.find(person_of(request), pk))


@router.post("/{pk}/cancel", response=JobOut)
def cancel(request: HttpRequest, pk: int) -> JobOut:
    return job_out(rules.cancel(person_of(request), pk))


@router.get("/{pk}/file")
def file(request: HttpRequest, pk: int) -> FileResponse:
    job = rules.find(person_of(request), pk)
    if not job.result or "sha256" not in job.result:
        raise NotPossible("This job has no file to download.")
    return FileResponse(open_kept(job.result["sha256"]), as_attachment=True, filename=job.result["file_name"])
