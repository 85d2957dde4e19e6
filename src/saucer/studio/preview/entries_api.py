"""The wall of the Shelf, and entries tried on pictures."""

from __future__ import annotations

from datetime import datetime
from functools import partial
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema, Status
from pydantic import BaseModel, Field

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.member import LONGEST_NAME
from saucer.studio.catalogue.api import CharacterOut, character_out
from saucer.studio.catalogue.find import counting, listing
from saucer.studio.catalogue.find.wanted import Order, Wanted
from saucer.studio.catalogue.models import Entry, Kind, PassOn, SeenBy, VersionState
from saucer.studio.catalogue.rules import find_any, list_there
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import FRAMES
from saucer.studio.common.reading import tell_each
from saucer.studio.common.refusals import NotPossible
from saucer.studio.encodings.rules import own
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.looks import rules as looks
from saucer.studio.luts.models import Lut
from saucer.studio.people.access import designer
from saucer.studio.people.models import Person
from saucer.studio.people.rules import may_change
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures
from saucer.studio.preview import entries
from saucer.studio.preview.work import GradeWork

router = Router(tags=["shelf"])


class LutCard(BaseModel):
    """What a LUT step needs to know of a LUT on the Shelf."""

    sha256: str
    kind: str
    size: int
    expects: str
    gives: str


class EntryOut(BaseModel):
    """One card. shows changes whenever the entry would look different; own: is it the asking person's?"""

    kind: Kind
    id: int
    name: str
    detail: str
    shows: str
    by: str
    at: datetime
    category: str
    tags: list[str]
    state: VersionState
    favourite: bool
    own: bool
    may_change: bool
    seen_by: SeenBy
    proposed: bool
    may_pass_on: PassOn
    expects: str
    gives: str
    health: str
    holds: Annotated[str, Field(description='of a look whose latest version was tested: "holds" or "breaks"')]
    formats: list[str]
    family: Annotated[list[str], Field(description="of a look's version that is put on shots: the names beside its recipe")]
    character: CharacterOut | None
    lut: LutCard | None


class PageOut(BaseModel):
    """near: nothing has the words as they were typed; these have some like them

    some: nothing has all of the words that were typed; these have the most of them; how many entries have each
    """

    entries: list[EntryOut]
    cursor: Annotated[str, Field(description="where the next page begins; empty at the end")]
    total: int
    near: bool
    some: dict[str, int]


class LikeOut(BaseModel):
    """apart: mean CIEDE2000 over known colours"""

    entry: EntryOut
    apart: float


class CategoryOut(BaseModel):
    path: str
    name: str
    depth: int
    count: int


class CountsOut(BaseModel):
    """How many entries each choice would show beside the others that are made. facets: by facet, then by choice; owners: their names"""

    total: int
    facets: dict[str, dict[str, int]]
    categories: list[CategoryOut]
    without: int
    owners: dict[str, str]


Texts = Annotated[list[str], Field(max_length=50)]


class WantedIn(Schema):
    """What the wall is narrowed by. Of each, any that is named will do; of tags all must be there."""

    q: Annotated[str, Field(max_length=200)] = ""
    kind: Texts = []
    category: Texts = []
    tag: Texts = []
    in_state: Texts = []
    expects: Texts = []
    format: Texts = []
    health: Texts = []
    holds: Texts = []
    may_pass_on: Texts = []
    owner: Annotated[list[int], Field(max_length=50)] = []
    favourite: bool = False
    days: Annotated[int | None, Field(ge=1, le=3650)] = None
    used: Literal["", "yes", "no"] = ""
    ending: Annotated[bool, Field(description="may be passed on for 30 more days at most")] = False
    order: Order = "newest"

    def wanted(self, person: Person) -> Wanted:
        return Wanted(
            self.q, tuple(self.kind), tuple(self.category), tuple(self.tag), tuple(self.in_state), tuple(self.expects),
            tuple(self.format), tuple(self.health), tuple(self.holds), tuple(self.may_pass_on), tuple(self.owner),
            person.pk if self.favourite else None,
            self.days, self.ending, self.used, self.order,
        )  # fmt: skip


class TryIn(Schema):
    entry: int
    picture: int
    version: Annotated[int | None, Field(description="one of its versions, in place of what the wall shows")] = None
    member: Annotated[str, Field(max_length=LONGEST_NAME, description="which of a look's family; empty for the recipe")] = ""
    strength: Annotated[float, Field(ge=0, le=1)] = 1.0
    quality: Literal["drag", "rest"] = "rest"


def _details(found: list[Entry], families: dict[int, list[str]]) -> dict[int, tuple[str, LutCard | None]]:
    """A line about each, and what is known of LUTs; two queries for all of them. families: of looks, by entry"""
    names = {one.id: one.name for one in (*ENCODINGS.values(), *own().values())}
    cards: dict[int, LutCard] = {}
    latest = [entry.latest_id for entry in found if entry.kind == Kind.LUT]
    rows = Lut.objects.filter(version__in=latest, files__position=0)
    for version, sha256, kind, size, expects, gives in rows.values_list(
        "version", "files__blob", "kind", "size", "expects", "gives"
    ):
        cards[version] = LutCard(sha256=sha256, kind=kind, size=size, expects=expects, gives=gives)
    told: dict[int, tuple[str, LutCard | None]] = {}
    labels: dict[str, str] = dict(Kind.choices)
    for entry in found:
        card = cards.get(entry.latest_id or 0)
        if entry.kind == Kind.LUT and card is not None:
            told[entry.pk] = (f"LUT, {card.kind}, {card.size}, {names.get(card.expects, card.expects)}", card)
        else:
            number = f"version {entry.latest.number}" if entry.latest else "draft"
            what = f"Family of {1 + len(families[entry.pk])}" if families.get(entry.pk) else labels.get(entry.kind, entry.kind)
            told[entry.pk] = (f"{what}, {number}", None)
    return told


def cards_of(found: list[Entry], person: Person) -> list[EntryOut]:
    """found: as `listing.load_entries` gives them"""
    tags: dict[int, list[str]] = {}
    for pk, name in Entry.tags.through.objects.filter(entry__in=found).order_by("tag__name").values_list("entry", "tag__name"):
        tags.setdefault(pk, []).append(name)
    looks_of = {entry.pk: entry.published_id or entry.latest_id for entry in found if entry.kind == Kind.LOOK}
    of_versions = looks.families_of({number for number in looks_of.values() if number is not None})
    families = {pk: of_versions.get(number or 0, []) for pk, number in looks_of.items()}
    details = _details(found, families)
    favourites = set(Entry.objects.filter(pk__in=[entry.pk for entry in found], favourite_of=person).values_list("pk", flat=True))
    return tell_each(
        found,
        lambda entry: EntryOut(
            kind=Kind(entry.kind), id=entry.pk, name=entry.name, detail=details[entry.pk][0], shows=entry.shown_hash[:16],
            by=entry.author or (entry.owner.shown_name if entry.owner else ""), at=entry.shown_at, category=entry.category_path,
            tags=tags.get(entry.pk, []), state=VersionState(entry.state), favourite=entry.pk in favourites,
            own=entry.owner_id == person.pk, seen_by=SeenBy(entry.seen_by), proposed=entry.proposed,
            may_change=may_change(person, entry.owner_id), may_pass_on=PassOn(entry.may_pass_on), expects=entry.expects,
            gives=entry.gives, health=entry.health, holds=entry.holds, formats=entry.formats,
            family=families.get(entry.pk, []),
            character=character_out(entry), lut=details[entry.pk][1],
        ),
    )  # fmt: skip


@router.get("/entries", response=PageOut)
def list_entries(request: HttpRequest, given: Query[WantedIn], cursor: str = "", size: int = listing.PAGE) -> PageOut:
    """A page of entries, as the Shelf filters and orders them."""
    person = person_of(request)
    page = listing.list_page(person, given.wanted(person), cursor, size)
    return PageOut(entries=cards_of(page.entries, person), cursor=page.cursor, total=page.total, near=page.near, some=page.some)


@router.get("/entries/chosen", response=list[EntryOut])
def list_chosen(request: HttpRequest, entry: Query[list[int]]) -> list[EntryOut]:
    """These, in this order; those that were deleted are left out."""
    person = person_of(request)
    if len(entry) > listing.MOST_ON_A_PAGE:
        raise NotPossible(f"Ask for {listing.MOST_ON_A_PAGE} at most.")
    return cards_of(listing.load_entries(list_there(person, entry)), person)


@router.get("/entries/{pk}/alike", response=list[LikeOut])
def list_alike(request: HttpRequest, pk: int, most: int = 24) -> list[LikeOut]:
    """What does most nearly what an entry does."""
    person = person_of(request)
    found = listing.list_alike(person, pk, most)
    cards = {card.id: card for card in cards_of([one.entry for one in found], person)}
    return [LikeOut(entry=cards[one.entry.pk], apart=round(one.apart, 3)) for one in found if one.entry.pk in cards]


@router.get("/counts", response=CountsOut)
def count_entries(request: HttpRequest, given: Query[WantedIn]) -> CountsOut:
    """How many entries each choice of the Shelf would show."""
    person = person_of(request)
    found = counting.count(person, given.wanted(person))
    return CountsOut(
        total=found.total, facets=found.facets, without=found.without, owners=found.owners,
        categories=[CategoryOut(**vars(one)) for one in found.categories],
    )  # fmt: skip


@router.get("/entries/{pk}/preview.jpg")
def preview(
    request: HttpRequest, pk: int, picture: int, version: int | None = None, large: bool = False, member: str = ""
) -> HttpResponse:
    """version: one of its versions, in place of what the wall shows of it; large: the whole proxy, finer, in place of a card's size

    member: which of a look's family

    What was made once is given past those who wait for a processor.
    """
    person = person_of(request)
    entry, shown = entries.find_shown(person, pk), pictures.find_proxy(picture, person)
    state, turn = entries.state_of(entry, shown, version, large, member), partial(FRAMES.turn, person.pk)
    return respond(request, state, lambda: entries.preview_file(entry, shown, version, large, turn, member), "image/jpeg")


@router.post("/frame", response={200: None})
@FRAMES
def frame(request: HttpRequest, given: TryIn) -> HttpResponse:
    """The picture's proxy through the entry at a strength; every second pixel and JPEG while dragging."""
    dragging, person = given.quality == "drag", person_of(request)
    grade = entries.grade_of(find_any(person, given.entry), given.strength, given.version, given.member)
    codes = entries.frame(grade, pictures.find(given.picture, person), 2 if dragging else 1)
    return HttpResponse(encoded(codes, "jpeg" if dragging else "png"), content_type="image/jpeg" if dragging else "image/png")


@router.post("/grade", response={202: JobOut}, auth=designer("grade pictures"))
def grade(request: HttpRequest, given: GradeWork) -> Status[JobOut]:
    """A job that puts a picture through an entry at full size."""
    person = person_of(request)
    pictures.find(given.picture, person)
    entries.grade_of(find_any(person, given.entry), member=given.member)
    return Status(202, job_out(jobs.start(person, "grade", given)))
