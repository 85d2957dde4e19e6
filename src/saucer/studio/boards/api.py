"""Boards: kept, listed, changed, judged."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.boards import rules
from saucer.studio.boards.models import Board, Choice
from saucer.studio.catalogue.find import listing
from saucer.studio.common.reading import tell_each
from saucer.studio.people.access import designer, personal
from saucer.studio.people.models import Person
from saucer.studio.people.rules import may_change
from saucer.studio.people.signed_in import person_of
from saucer.studio.preview.entries_api import EntryOut, cards_of

router = Router(tags=["boards"])
Ids = Annotated[list[int], Field(min_length=1, max_length=rules.MOST)]
Name = Annotated[str, Field(max_length=120)]


class BoardLine(Schema):
    id: int
    name: str
    by: str
    changed: datetime
    entries: int
    pictures: int
    may_change: bool


class VerdictOut(Schema):
    """mine: of the person who asks; earlier: said when the entry looked otherwise than now"""

    entry: int
    by: str
    mine: bool
    choice: Choice
    note: str
    at: datetime
    earlier: bool


class BoardOut(Schema):
    """hides_names: they are to be told apart by eye alone, and stand in an order that tells nothing"""

    id: int
    name: str
    by: str
    revision: int
    hides_names: bool
    may_change: bool
    entries: list[EntryOut]
    pictures: list[int]
    verdicts: list[VerdictOut]


class BoardIn(Schema):
    name: Name
    entries: Ids
    pictures: Ids


class BoardChange(Schema):
    """What is not sent stays. seen: the revision that the change begins from"""

    seen: int
    name: Name | None = None
    entries: Ids | None = None
    pictures: Ids | None = None
    hide_names: bool | None = None


class VerdictIn(Schema):
    choice: Choice
    note: Annotated[str, Field(max_length=1000)] = ""


def _by(board: Board) -> str:
    return board.owner.shown_name if board.owner else ""


def _out(board: Board, person: Person) -> BoardOut:
    return BoardOut(
        id=board.pk, name=board.name, by=_by(board), revision=board.revision, hides_names=board.shuffle > 0,
        may_change=may_change(person, board.owner_id), pictures=rules.pictures_of(board, person),
        entries=cards_of(listing.load_entries(rules.order_of(board, person)), person),
        verdicts=tell_each(
            rules.list_verdicts(person, board),
            lambda one: VerdictOut(
                entry=one.entry_id, by=one.person.shown_name, mine=one.person_id == person.pk, choice=Choice(one.choice), note=one.note,
                at=one.at, earlier=one.said_of != one.entry.shown_hash,
            ),
        ),
    )  # fmt: skip


@router.get("", response=list[BoardLine])
def list_boards(request: HttpRequest) -> list[BoardLine]:
    """Boards that the person may see, the one changed last first."""
    person = person_of(request)
    return tell_each(
        rules.list_boards(person),
        lambda board: BoardLine(
            id=board.pk, name=board.name, by=_by(board), changed=board.changed, entries=len(board.entries.all()),
            pictures=len(board.pictures.all()), may_change=may_change(person, board.owner_id),
        ),
    )  # fmt: skip


@router.post("", response=BoardOut, auth=designer("keep boards"))
def keep(request: HttpRequest, given: BoardIn) -> BoardOut:
    """A new board of entries and pictures."""
    person = person_of(request)
    return _out(rules.keep(person, given.name, given.entries, given.pictures), person)


@router.get("/{pk}", response=BoardOut)
def read(request: HttpRequest, pk: int) -> BoardOut:
    """A board with its rows, pictures and what was said of each."""
    return _out(rules.find(pk), person_of(request))


@router.patch("/{pk}", response=BoardOut, auth=designer("change boards"))
def change(request: HttpRequest, pk: int, given: BoardChange) -> BoardOut:
    """Its name, rows, pictures or how it is shown."""
    person = person_of(request)
    entries = None if given.entries is None else tuple(given.entries)
    pictures = None if given.pictures is None else tuple(given.pictures)
    wanted = rules.Change(given.name, entries, pictures, given.hide_names)
    return _out(rules.change(person, pk, given.seen, wanted), person)


@router.put("/{pk}/verdicts/{entry}", response={204: None}, auth=personal())
def judge(request: HttpRequest, pk: int, entry: int, given: VerdictIn) -> Status[None]:
    """One's own; also a viewer has one."""
    rules.judge(person_of(request), pk, entry, given.choice, given.note)
    return Status(204, None)


@router.delete("/{pk}", response={204: None}, auth=designer("delete boards"))
def delete(request: HttpRequest, pk: int) -> Status[None]:
    """Into the bin, from where it can be brought back for 30 days."""
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=BoardOut, auth=designer("bring boards back"))
def restore(request: HttpRequest, pk: int) -> BoardOut:
    """Back from the bin."""
    person = person_of(request)
    return _out(rules.restore(person, pk), person)
