"""What is the same for entries of every kind: described, filed, marked, deleted, brought back."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import BaseModel, Field

from saucer.studio.catalogue import rules, sharing, uses
from saucer.studio.catalogue.find import listing
from saucer.studio.catalogue.models import Entry, Kind, PassOn, SeenBy, VersionState
from saucer.studio.catalogue.order import many, tags
from saucer.studio.catalogue.words import Author, CategoryPath, Licence, Name, Note, Source, TagName, Until
from saucer.studio.people.access import curator, designer, personal
from saucer.studio.people.models import Person
from saucer.studio.people.rules import may_change, name_of
from saucer.studio.people.signed_in import person_of

router = Router(tags=["catalogue"])


class CharacterOut(BaseModel):
    """What an entry does, in words and numbers (`core.reports.character`)."""

    words: list[str]
    warmth: float
    lightness: float
    contrast: float
    colour: float
    black: float
    white: float
    skin: float
    strength: float


class Described(Schema):
    """What people say of an entry."""

    id: int
    kind: Kind
    name: str
    author: str
    note: str
    category: str
    source: str
    licence: str
    may_pass_on: PassOn
    pass_on_until: date | None
    by: Annotated[str, Field(description="whose it is")]
    may_change: Annotated[bool, Field(description="by the person who asks")]
    tags: list[str]
    state: VersionState
    character: CharacterOut | None
    favourite: Annotated[bool, Field(description="of the person who asks")]
    seen_by: Annotated[SeenBy, Field(description="while no version was ever proposed")]
    proposed: Annotated[bool, Field(description="was one? then everybody sees it")]


class EntryChange(Schema):
    name: Name | None = None
    author: Author | None = None
    note: Note | None = None
    category: CategoryPath | None = None
    source: Source | None = None
    licence: Licence | None = None
    may_pass_on: PassOn | None = None
    pass_on_until: Until | None = None
    add_tags: Annotated[list[TagName], Field(max_length=tags.MOST_ON_AN_ENTRY)] = []
    remove_tags: Annotated[list[TagName], Field(max_length=tags.MOST_ON_AN_ENTRY)] = []
    seen: Annotated[
        dict[str, str | None],
        Field(
            max_length=8,
            description="what stood in a field when its change began: where something else stands now, nothing is written",
        ),
    ] = {}


class SharedPerson(Schema):
    """name: they sign in with; shown: as everybody sees them"""

    name: str
    shown: str


class SharedProject(Schema):
    id: int
    name: str


class SharingOut(Schema):
    """With whom a draft is shared; projects: of those that the person who asks may know of"""

    seen_by: SeenBy
    proposed: bool
    people: list[SharedPerson]
    projects: list[SharedProject]


class SharingIn(Schema):
    """people: by the names they sign in with. Both are kept where it is shared with those who are chosen, and with nobody otherwise"""

    seen_by: SeenBy
    people: Annotated[list[Annotated[str, Field(max_length=150)]], Field(max_length=sharing.MOST)] = []
    projects: Annotated[list[Annotated[int, Field(ge=1, le=2**63 - 1)]], Field(max_length=sharing.MOST)] = []


class FavouriteIn(Schema):
    favourite: bool


def character_out(entry: Entry) -> CharacterOut | None:
    found = getattr(entry, "character", None)
    return None if found is None else CharacterOut(**{name: getattr(found, name) for name in CharacterOut.model_fields})


def describe(entry: Entry, person: Person, favourite: bool | None = None) -> Described:
    """favourite: of the person, where it is known already"""
    if favourite is None:
        favourite = entry.favourite_of.filter(pk=person.pk).exists()
    texts = {name: getattr(entry, name) for name in ("id", "name", "author", "note", "source", "licence", "pass_on_until")}
    return Described(
        **texts, kind=Kind(entry.kind), may_pass_on=PassOn(entry.may_pass_on), category=entry.category_path,
        by=entry.owner.shown_name if entry.owner else "", may_change=may_change(person, entry.owner_id),
        tags=sorted(tag.name for tag in entry.tags.all()), state=VersionState(entry.state), character=character_out(entry),
        favourite=favourite, seen_by=SeenBy(entry.seen_by), proposed=entry.proposed,
    )  # fmt: skip


class TagOut(Schema):
    name: str
    count: int


class TagIn(Schema):
    """new: what it is to be called; where another is called so already, the two become one"""

    old: TagName
    new: TagName


class UseOut(Schema):
    name: str
    how: str
    page: str


class ActivityOut(Schema):
    at: datetime
    by: str
    action: str
    data: dict[str, Any]


class ManyIn(Schema):
    """What is to become of all these entries; what is not sent stays."""

    entries: Annotated[list[int], Field(min_length=1, max_length=many.MOST_AT_ONCE)]
    category: CategoryPath | None = None
    licence: Licence | None = None
    may_pass_on: PassOn | None = None
    pass_on_until: Annotated[Until | Literal[""] | None, Field(description="empty for no end")] = None
    state: Annotated[VersionState | None, Field(description="of the latest version of each")] = None
    add_tags: Annotated[list[TagName], Field(max_length=tags.MOST_ON_AN_ENTRY)] = []
    remove_tags: Annotated[list[TagName], Field(max_length=tags.MOST_ON_AN_ENTRY)] = []
    delete: bool = False


class ChangedOut(Schema):
    """undo: by which it is taken back; left: names of entries that somebody has changed since"""

    count: int
    undo: int | None
    left: list[str]


@router.get("/tags", response=list[TagOut])
def list_tags(request: HttpRequest, q: str = "") -> list[TagOut]:
    """All tags in use, with how many entries carry each."""
    return [TagOut(name=name, count=count) for name, count in tags.list_tags(person_of(request), q)]


@router.post("/tags/rename", response={204: None}, auth=curator("rename tags"))
def rename_tag(request: HttpRequest, given: TagIn) -> Status[None]:
    """On all entries at once; into one that there is, both become one."""
    tags.rename(person_of(request), given.old, given.new)
    return Status(204, None)


@router.post("/many", response=ChangedOut, auth=designer("change entries"))
def change_many(request: HttpRequest, given: ManyIn) -> ChangedOut:
    """All of them or none."""
    change = many.Change(
        given.category, given.licence, given.may_pass_on, None if given.pass_on_until is None else str(given.pass_on_until),
        given.state, tuple(given.add_tags), tuple(given.remove_tags), given.delete,
    )  # fmt: skip
    return ChangedOut(**vars(many.change_many(person_of(request), given.entries, change)))


@router.post("/many/{number}/undo", response=ChangedOut, auth=designer("change entries"))
def undo_many(request: HttpRequest, number: int) -> ChangedOut:
    """Takes back what was last done to many entries at once."""
    return ChangedOut(**vars(many.undo(person_of(request), number)))


@router.get("/categories", response=list[str])
def list_categories(request: HttpRequest) -> list[str]:
    """All folders, with how many entries lie in each."""
    return listing.list_categories()


@router.get("/{kind}/{pk}", response=Described)
def read(request: HttpRequest, kind: Kind, pk: int) -> Described:
    """A look, LUT or preset as the Shelf describes it."""
    person = person_of(request)
    return describe(rules.find(person, kind, pk), person)


@router.patch("/{kind}/{pk}", response=Described, auth=designer("change entries"))
def change(request: HttpRequest, kind: Kind, pk: int, given: EntryChange) -> Described:
    """Only what is sent is written."""
    person = person_of(request)
    fields = given.model_dump(exclude_unset=True, exclude={"seen", "add_tags", "remove_tags"})
    return describe(many.change_one(person, kind, pk, fields, given.seen, given.add_tags, given.remove_tags), person)


@router.get("/{kind}/{pk}/activity", response=list[ActivityOut])
def list_activity(request: HttpRequest, kind: Kind, pk: int) -> list[ActivityOut]:
    """What was done to it, by whom, the latest first."""
    return [
        ActivityOut(at=one.at, by=name_of(one.person, str(one.data.get("guest", ""))), action=one.action, data=one.data)
        for one in rules.list_activity(person_of(request), kind, pk)
    ]


@router.get("/{kind}/{pk}/uses", response=list[UseOut])
def list_uses(request: HttpRequest, kind: Kind, pk: int) -> list[UseOut]:
    """What uses it: looks that name it, boards it is on, what was made from it."""
    person = person_of(request)
    return [UseOut(**vars(use)) for use in uses.list_uses(person, rules.find(person, kind, pk))]


@router.get("/{kind}/{pk}/sharing", response=SharingOut)
def read_sharing(request: HttpRequest, kind: Kind, pk: int) -> SharingOut:
    """Who sees it before it is proposed."""
    person = person_of(request)
    return _sharing(sharing.find(person, kind, pk))


@router.put("/{kind}/{pk}/sharing", response=SharingOut, auth=designer("share drafts"))
def share(request: HttpRequest, kind: Kind, pk: int, given: SharingIn) -> SharingOut:
    """Says who sees it before it is proposed."""
    return _sharing(sharing.share(person_of(request), kind, pk, given.seen_by, given.people, given.projects))


def _sharing(found: sharing.Sharing) -> SharingOut:
    return SharingOut(
        seen_by=SeenBy(found.entry.seen_by), proposed=found.entry.proposed,
        people=[SharedPerson(name=one.username, shown=one.shown_name) for one in found.people],
        projects=[SharedProject(id=pk, name=name) for pk, name in found.projects],
    )  # fmt: skip


@router.put("/{kind}/{pk}/favourite", response={204: None}, auth=personal())
def mark(request: HttpRequest, kind: Kind, pk: int, given: FavouriteIn) -> Status[None]:
    """One's own star on it, or none."""
    rules.mark_favourite(person_of(request), kind, pk, given.favourite)
    return Status(204, None)


@router.delete("/{kind}/{pk}", response={204: None}, auth=designer("delete entries"))
def delete(request: HttpRequest, kind: Kind, pk: int) -> Status[None]:
    """Into the bin, from where it can be brought back for 30 days."""
    rules.delete(person_of(request), kind, pk)
    return Status(204, None)


@router.post("/{kind}/{pk}/restore", response=Described, auth=designer("bring entries back"))
def restore(request: HttpRequest, kind: Kind, pk: int) -> Described:
    """Back from the bin."""
    person = person_of(request)
    return describe(rules.restore(person, kind, pk), person)
