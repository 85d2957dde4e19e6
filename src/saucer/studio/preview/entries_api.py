"""The wall of the Shelf, and entries tried on pictures."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema, Status
from pydantic import Field

from saucer.core.colour.encodings import ENCODINGS
from saucer.studio.catalogue import listing
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.catalogue.rules import find_any
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import FRAMES
from saucer.studio.encodings.rules import own
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.luts.models import Lut
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures
from saucer.studio.preview import entries
from saucer.studio.preview.work import GradeWork

router = Router(tags=["shelf"])


class LutCard(Schema):
    """What a LUT step needs to know of a LUT on the Shelf."""

    sha256: str
    kind: str
    size: int
    expects: str
    gives: str


class EntryOut(Schema):
    """One card. state changes whenever the entry would look different."""

    kind: Kind
    id: int
    name: str
    detail: str
    state: str
    by: str
    at: datetime
    category: str
    lut: LutCard | None


class PageOut(Schema):
    entries: list[EntryOut]
    cursor: Annotated[str, Field(description="where the next page begins; empty at the end")]
    total: int


class CategoryOut(Schema):
    path: str
    name: str
    depth: int
    count: int


class CountsOut(Schema):
    """How many entries each choice would show beside the others that are made."""

    total: int
    kinds: dict[str, int]
    categories: list[CategoryOut]
    without: int


class WantedIn(Schema):
    q: str = ""
    kind: Kind | Literal[""] = ""
    category: str = ""
    order: listing.Order = "newest"

    @property
    def wanted(self) -> listing.Wanted:
        return listing.Wanted(self.q, self.kind, self.category, self.order)


class TryIn(Schema):
    entry: int
    picture: int
    strength: Annotated[float, Field(ge=0, le=1)] = 1.0
    quality: Literal["drag", "rest"] = "rest"


def _details(found: list[Entry]) -> dict[int, tuple[str, LutCard | None]]:
    """A line about each, and what is known of LUTs; two queries for all of them."""
    names = {one.id: one.name for one in (*ENCODINGS.values(), *own().values())}
    cards: dict[int, LutCard] = {}
    latest = [entry.latest_id for entry in found if entry.kind == Kind.LUT]
    rows = Lut.objects.filter(version__in=latest, files__position=0)
    for version, sha256, kind, size, expects, gives in rows.values_list(
        "version", "files__blob", "kind", "size", "expects", "gives"
    ):
        cards[version] = LutCard(sha256=sha256, kind=kind, size=size, expects=expects, gives=gives)
    told: dict[int, tuple[str, LutCard | None]] = {}
    for entry in found:
        card = cards.get(entry.latest_id or 0)
        if entry.kind == Kind.LUT and card is not None:
            told[entry.pk] = (f"LUT, {card.kind}, {card.size}, {names.get(card.expects, card.expects)}", card)
        else:
            number = f"version {entry.latest.number}" if entry.latest else "draft"
            told[entry.pk] = (f"{Kind(entry.kind).label}, {number}", None)
    return told


@router.get("/entries", response=PageOut)
def list_entries(request: HttpRequest, given: Query[WantedIn], cursor: str = "", size: int = listing.PAGE) -> PageOut:
    page = listing.list_page(given.wanted, cursor, size)
    details = _details(page.entries)
    return PageOut(
        entries=[
            EntryOut(
                kind=Kind(entry.kind), id=entry.pk, name=entry.name, detail=details[entry.pk][0], state=entry.shown_hash[:16],
                by=entry.author or (entry.owner.shown_name if entry.owner else ""), at=entry.shown_at, category=entry.category_path,
                lut=details[entry.pk][1],
            )
            for entry in page.entries
        ],
        cursor=page.cursor, total=page.total,
    )  # fmt: skip


@router.get("/counts", response=CountsOut)
def count_entries(request: HttpRequest, given: Query[WantedIn]) -> CountsOut:
    found = listing.count(given.wanted)
    return CountsOut(
        total=found.total,
        kinds=found.kinds,
        without=found.without,
        categories=[CategoryOut(**vars(one)) for one in found.categories],
    )


@router.get("/entries/{pk}/preview.jpg")
@FRAMES
def preview(request: HttpRequest, pk: int, picture: int) -> HttpResponse:
    entry, shown = find_any(pk), pictures.find(picture)
    return respond(request, entries.state_of(entry, shown), lambda: entries.preview_file(entry, shown), "image/jpeg")


@router.post("/frame", response={200: None})
@FRAMES
def frame(request: HttpRequest, given: TryIn) -> HttpResponse:
    """The picture's proxy through the entry at a strength; every second pixel and JPEG while dragging."""
    dragging = given.quality == "drag"
    grade = entries.grade_of(find_any(given.entry), given.strength)
    codes = entries.frame(grade, pictures.find(given.picture), 2 if dragging else 1)
    return HttpResponse(encoded(codes, "jpeg" if dragging else "png"), content_type="image/jpeg" if dragging else "image/png")


@router.post("/grade", response={202: JobOut}, auth=designer("grade pictures"))
def grade(request: HttpRequest, given: GradeWork) -> Status[JobOut]:
    pictures.find(given.picture)
    entries.grade_of(find_any(given.entry))
    return Status(202, job_out(jobs.start(person_of(request), "grade", given)))
