"""What the Bake sheet asks for: the formats there are, how well each will do, and the baked picture beside the exact one."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.core.bake.fidelity import WANTED_P99
from saucer.core.files.registry import formats
from saucer.core.look.model import Look
from saucer.studio.baking import rules, survey
from saucer.studio.baking.choices import BakeChoice, FormatChoice
from saucer.studio.baking.work import BakeWork
from saucer.studio.catalogue.models import Kind
from saucer.studio.catalogue.rules import find, find_version
from saucer.studio.common.images import encoded
from saucer.studio.common.lanes import HEAVY
from saucer.studio.common.reading import tell_each
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.luts.api import LutTable, table_out
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures

router = Router(tags=["bake"])


class FormatOut(Schema):
    id: str
    name: str
    suffixes: list[str]
    depths: list[int]
    sizes: list[int] | None
    tables: list[str]
    shaper: bool
    words: bool


class FidelityIn(Schema):
    look: Look
    choice: BakeChoice = BakeChoice()
    format: FormatChoice = FormatChoice(format="cube")
    picture: int | None = None
    sizes: Annotated[
        list[int], Field(max_length=6, description="2..129, one of them above 65 at most; empty: 17, 25, 33, 49 and 65")
    ] = []
    tolerance: Annotated[float, Field(gt=0, le=20, description="difference that the 99th percentile is to stay below")] = WANTED_P99


class SpreadOut(Schema):
    mean: float
    p95: float
    p99: float
    largest: float


class WorstOut(Schema):
    difference: float
    source: tuple[float, float, float]
    shown: tuple[float, float, float]
    exact: tuple[float, float, float]
    baked: tuple[float, float, float]
    place: tuple[float, float] | None


class SortsOut(Schema):
    """Each sort of colours by itself: those of the picture, everywhere, round grey, in the dark, those of skin."""

    picture: SpreadOut | None
    uniform: SpreadOut
    neutral: SpreadOut
    dark: SpreadOut
    skin: SpreadOut


class SizeOut(Schema):
    """p99: of the sort that comes out worst, which is `decided_by`; itp: Delta E ITP as well, for PQ and HLG"""

    size: int
    p99: float
    decided_by: str
    colours: SortsOut
    itp: SortsOut | None
    cells: SpreadOut
    trilinear: SpreadOut
    worst: list[WorstOut]
    about: int


class InsteadOut(Schema):
    """A log encoding of the same primaries that the LUT may be made for in place of linear light; p99 at the same sizes."""

    expects: str
    name: str
    p99: list[float]


class FidelityOut(Schema):
    """about: bytes of the file. proposed: the smallest size that is good enough, null when none is."""

    format: str
    depth: int
    sizes: list[SizeOut]
    proposed: int | None
    lost: list[str]
    expects: str
    gives: str
    left_out: list[str]
    instead: InsteadOut | None


class BakedFrameIn(Schema):
    look: Look
    choice: BakeChoice = BakeChoice()
    format: Annotated[FormatChoice | None, Field(description="null: the exact look")] = None
    picture: int
    width: Annotated[int | None, Field(ge=1, description="pixels across that are seen")] = None


@router.get("/formats", response=list[FormatOut])
def list_formats(request: HttpRequest) -> list[FormatOut]:
    """The formats a look can be baked into, with their sizes and options."""
    return [
        FormatOut(
            id=form.id, name=form.name, suffixes=list(form.suffixes), depths=list(form.holds.depths), words=form.holds.words,
            sizes=list(form.holds.sizes) if form.holds.sizes else None, tables=sorted(form.holds.tables),
            shaper=bool({"1D + 3D", "links"} & form.holds.tables),
        )
        for form in formats().values()
    ]  # fmt: skip


@router.post("/fidelity", response=FidelityOut)
@HEAVY
def fidelity(request: HttpRequest, given: FidelityIn) -> FidelityOut:
    """How near a LUT of each size comes to the look, measured."""
    picture = pictures.find(given.picture, person_of(request)) if given.picture is not None else None
    found = survey.survey_format(given.look, given.choice, given.format, picture, tuple(given.sizes), given.tolerance)
    sizes = [
        SizeOut(**vars(one), p99=one.p99, decided_by=one.deciding[0], about=about)
        for one, about in zip(found.report.sizes, found.about, strict=True)
    ]
    return FidelityOut(
        format=found.report.form, depth=found.report.depth, sizes=sizes, proposed=found.report.proposed,
        lost=list(found.report.lost), expects=found.expects, gives=found.gives, left_out=found.left_out,
        instead=InsteadOut(**vars(found.instead)) if found.instead else None,
    )  # fmt: skip


@router.post("/frame", response={200: None})
@HEAVY
def frame(request: HttpRequest, given: BakedFrameIn) -> HttpResponse:
    """A picture through the baked look instead of its steps."""
    codes = survey.draw_baked(given.look, given.choice, given.format, pictures.find(given.picture, person_of(request)), given.width)
    return HttpResponse(encoded(codes, "png"), content_type="image/png")


class BakeIn(Schema):
    version: int
    choice: BakeChoice = BakeChoice()


class BakeOut(LutTable):
    """What was baked from one version of a look."""

    version: int
    made: datetime
    choice: BakeChoice


@router.get("/looks/{pk}", response=list[BakeOut])
def list_bakes(request: HttpRequest, pk: int) -> list[BakeOut]:
    """Everything that was baked from a look, the latest first."""
    return tell_each(
        rules.list_bakes(find(person_of(request), Kind.LOOK, pk)),
        lambda lut: BakeOut(
            **table_out(lut).model_dump(), version=lut.version.number, made=lut.made, choice=BakeChoice.model_validate(lut.choice)
        ),
    )


@router.post("/looks/{pk}", response={202: JobOut}, auth=designer("bake LUTs"))
def bake(request: HttpRequest, pk: int, given: BakeIn) -> Status[JobOut]:
    """A job that bakes a version into files."""
    person = person_of(request)
    find_version(person, Kind.LOOK, pk, given.version)
    work = BakeWork(look=pk, version=given.version, choice=given.choice)
    return Status(202, job_out(jobs.start(person, "bake", work)))
