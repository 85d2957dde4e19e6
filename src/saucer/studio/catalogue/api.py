"""What is the same for entries of every kind: described, filed, marked, deleted, brought back."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.catalogue import listing, rules
from saucer.studio.catalogue.models import Entry, Kind, PassOn
from saucer.studio.people.access import designer
from saucer.studio.people.models import Person
from saucer.studio.people.rules import may_change
from saucer.studio.people.signed_in import person_of

router = Router(tags=["catalogue"])


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


class EntryChange(Schema):
    name: Annotated[str | None, Field(max_length=120)] = None
    author: Annotated[str | None, Field(max_length=120)] = None
    note: Annotated[str | None, Field(max_length=2000)] = None
    category: Annotated[str | None, Field(max_length=200)] = None
    source: Annotated[str | None, Field(max_length=300)] = None
    licence: Annotated[str | None, Field(max_length=200)] = None
    may_pass_on: PassOn | None = None
    pass_on_until: date | None = None
    seen: Annotated[
        dict[str, str | None],
        Field(
            max_length=8,
            description="what stood in a field when its change began: where something else stands now, nothing is written",
        ),
    ] = {}


class FavouriteIn(Schema):
    favourite: bool


def describe(entry: Entry, person: Person) -> Described:
    texts = {name: getattr(entry, name) for name in ("id", "name", "author", "note", "source", "licence", "pass_on_until")}
    return Described(
        **texts, kind=Kind(entry.kind), may_pass_on=PassOn(entry.may_pass_on), category=entry.category_path,
        by=entry.owner.shown_name if entry.owner else "", may_change=may_change(person, entry.owner_id),
    )  # fmt: skip


@router.get("/categories", response=list[str])
def list_categories(request: HttpRequest) -> list[str]:
    return listing.list_categories()


@router.get("/{kind}/{pk}", response=Described)
def read(request: HttpRequest, kind: Kind, pk: int) -> Described:
    return describe(rules.find(kind, pk), person_of(request))


@router.patch("/{kind}/{pk}", response=Described, auth=designer("change entries"))
def change(request: HttpRequest, kind: Kind, pk: int, given: EntryChange) -> Described:
    """Only what is sent is written."""
    person = person_of(request)
    return describe(rules.change(person, kind, pk, given.model_dump(exclude_unset=True, exclude={"seen"}), given.seen), person)


@router.put("/{kind}/{pk}/favourite", response={204: None})
def mark(request: HttpRequest, kind: Kind, pk: int, given: FavouriteIn) -> Status[None]:
    rules.mark_favourite(person_of(request), kind, pk, given.favourite)
    return Status(204, None)


@router.delete("/{kind}/{pk}", response={204: None}, auth=designer("delete entries"))
def delete(request: HttpRequest, kind: Kind, pk: int) -> Status[None]:
    rules.delete(person_of(request), kind, pk)
    return Status(204, None)


@router.post("/{kind}/{pk}/restore", response=Described, auth=designer("bring entries back"))
def restore(request: HttpRequest, kind: Kind, pk: int) -> Described:
    person = person_of(request)
    return describe(rules.restore(person, kind, pk), person)
