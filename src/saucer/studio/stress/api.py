"""Where a look breaks: asked for as a job, and told."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import BaseModel, Field

from saucer.core.reports.stress.limits import LARGEST, LIMITS
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.people.access import admin, designer
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of
from saucer.studio.stress import rules
from saucer.studio.stress.models import StressReport
from saucer.studio.stress.rules import MOST, BreakContent, StressContent

router = Router(tags=["stress"])


class StressIn(BaseModel):
    """pictures: none for those agreed for reviews, or for the shots of `project`"""

    pictures: Annotated[list[int], Field(max_length=MOST)] = []
    project: int | None = None


class StressFigure(BaseModel):
    """The worst of a measure over everything, and what it may be at most."""

    what: str
    figure: float
    limit: float


class StressLimit(BaseModel):
    """most: of this studio; usual: where nothing is set; largest: as good as none"""

    what: str
    most: float
    usual: float
    largest: float


class StressLimitsIn(BaseModel):
    """limits: by what is measured; those that are left out are the usual ones again"""

    limits: Annotated[dict[str, float], Field(max_length=len(LIMITS))]


class StressSize(BaseModel):
    """nodes: of a LUT a side; apart: 99th percentile of CIEDE2000 from the look, of the sort of colours that comes out worst"""

    nodes: int
    apart: float


class StressOut(BaseModel):
    """version: which one was tested; is_latest: is there none after it? pictures: over how many"""

    version: int
    is_latest: bool
    holds: bool
    pictures: int
    by: str
    made: datetime
    breaks: list[BreakContent]
    figures: list[StressFigure]
    sizes: list[StressSize]


def report_out(person: Person, report: StressReport) -> StressOut:
    content = StressContent.model_validate(report.content)
    seen = rules.seen_pictures(person, content)
    breaks = [
        one.model_copy(
            update={"on": seen[one.picture].name}
            if one.picture in seen
            else {"picture": None, "place": None, "on": one.on or "a picture that you do not see"}
        )
        for one in content.breaks
    ]
    return StressOut(
        version=report.version.number, is_latest=rules.is_latest(report), holds=report.holds, pictures=report.pictures,
        by=report.made_by.shown_name if report.made_by else "", made=report.made, breaks=breaks,
        figures=[StressFigure(what=what, figure=figure, limit=content.limits[what]) for what, figure in content.figures.items()],
        sizes=[StressSize(nodes=size, apart=apart) for size, apart in content.sizes.items()],
    )  # fmt: skip


@router.get("/limits", response=list[StressLimit])
def list_limits(request: HttpRequest) -> list[StressLimit]:
    """By what looks are tested: what each measure may be at most."""
    found = rules.studio_limits()
    return [StressLimit(what=what, most=found[what], usual=usual, largest=LARGEST[what]) for what, usual in LIMITS.items()]


@router.put("/limits", response=list[StressLimit], auth=admin("change by what looks are tested"))
def set_limits(request: HttpRequest, given: StressLimitsIn) -> list[StressLimit]:
    """All of them at once. Looks are held against them when they are tested next."""
    rules.set_limits(person_of(request), given.limits)
    return list_limits(request)


@router.get("/looks/{pk}", response=StressOut | None)
def find_report(request: HttpRequest, pk: int) -> StressOut | None:
    """Where a look breaks: the report of the last version that was tested; null where none was."""
    person = person_of(request)
    report = rules.find_report(person, pk)
    return report_out(person, report) if report is not None else None


@router.post("/looks/{pk}", response={202: JobOut}, auth=designer("test a look"))
def test_look(request: HttpRequest, pk: int, given: StressIn) -> Status[JobOut]:
    """A job that finds where the latest version of a look breaks."""
    return Status(202, job_out(rules.ask(person_of(request), pk, given.pictures, given.project)))
