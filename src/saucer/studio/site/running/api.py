"""How the studio runs, for its admins."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer import __version__
from saucer.studio.jobs.models import State
from saucer.studio.people.access import admin
from saucer.studio.people.models import Activity
from saucer.studio.people.signed_in import person_of
from saucer.studio.site.front import ask_parts
from saucer.studio.site.running import everybodys_jobs, room

router = Router(tags=["the studio"])


class PartOut(Schema):
    """key: name of an account, number of a project"""

    key: str
    name: str
    bytes: int
    files: int


class RoomOut(Schema):
    """Of each list the largest first; a file that serves two is counted with both"""

    bytes: int
    files: int
    free: Annotated[int | None, Field(description="of the disk")]
    kinds: list[PartOut]
    people: list[PartOut]
    projects: list[PartOut]


class TeamJob(Schema):
    id: int
    kind: str
    person: str
    state: State
    progress: float
    attempts: int
    problem: str
    created: datetime
    finished: datetime | None


class WellOut(Schema):
    """What is wrong with each part, empty for nothing. backup: when the last one was made"""

    version: str
    database: str
    worker: str
    store: str
    backup: datetime | None


@router.get("/studio/room", response=RoomOut, auth=admin("see what takes room"))
def measure_room(request: HttpRequest) -> RoomOut:
    """What takes room in the store, by person, project and kind."""
    found = room.measure(person_of(request))
    lists = {name: [PartOut(**vars(one)) for one in getattr(found, name)] for name in ("kinds", "people", "projects")}
    return RoomOut(bytes=found.bytes, files=found.files, free=found.free, **lists)


@router.get("/studio/jobs", response=list[TeamJob], auth=admin("see everybody's jobs"))
def list_everybodys_jobs(request: HttpRequest) -> list[TeamJob]:
    """Jobs of everybody, the newest first."""
    return [
        TeamJob(
            id=one.pk, kind=one.kind, person=one.person.shown_name, state=State(one.state), progress=one.progress, attempts=one.attempts,
            problem=one.problem, created=one.created, finished=one.finished,
        )
        for one in everybodys_jobs.list_jobs(person_of(request))
    ]  # fmt: skip


@router.post("/studio/jobs/{job}/cancel", response={204: None}, auth=admin("cancel jobs of others"))
def cancel_anybodys_job(request: HttpRequest, job: int) -> Status[None]:
    """Ends a job of anybody."""
    everybodys_jobs.cancel(person_of(request), job)
    return Status(204, None)


@router.get("/studio/well", response=WellOut, auth=admin("see whether all is well"))
def tell_whether_well(request: HttpRequest) -> WellOut:
    """What the server needs, and what of it is not well."""
    backup = Activity.objects.filter(action="back up").order_by("-pk").values_list("at", flat=True).first()
    return WellOut(version=__version__, backup=backup, **ask_parts())
