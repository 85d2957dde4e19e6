"""What may happen to boards: kept, changed, hidden, judged."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeVar

from django.db import models, transaction
from django.db.models import Prefetch, Q

from saucer.studio.boards.models import Board, BoardEntry, BoardPicture, Choice, Verdict
from saucer.studio.catalogue.models import Entry, seen_by
from saucer.studio.catalogue.order.duplicates import FOLLOWS
from saucer.studio.catalogue.rules import list_there
from saucer.studio.catalogue.uses import FINDERS, Use
from saucer.studio.common.refusals import Conflict, NotFound, NotPossible
from saucer.studio.people.deleting import bring_back, put_away
from saucer.studio.people.models import Activity, Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import find_to_share

MOST = 6
"""Entries, and pictures, on a board."""
GONE = "There is no such board, or it was deleted."
Placed = TypeVar("Placed", BoardEntry, BoardPicture)


def list_boards(person: Person) -> list[Board]:
    """With what is on them and there for the person, the one changed last first."""
    shown = Prefetch("pictures", BoardPicture.objects.filter(picture__in=Picture.objects.visible_to(person)))
    there = Prefetch("entries", BoardEntry.objects.filter(entry__in=Entry.objects.visible_to(person)))
    return list(Board.objects.filter(deleted=None).select_related("owner").prefetch_related(there, shown)[:200])


def find(pk: int) -> Board:
    """Raises: NotFound, for deleted ones too."""
    board = Board.objects.filter(pk=pk, deleted=None).select_related("owner").first()
    if board is None:
        raise NotFound(GONE)
    return board


def order_of(board: Board, person: Person) -> list[int]:
    """Numbers of its entries that are there for the person, as they stand on it; where names are hidden, in an order that tells nothing."""
    found = list(BoardEntry.objects.filter(board=board, entry__deleted=None).values_list("entry", flat=True))
    if board.shuffle:
        random.Random(board.shuffle).shuffle(found)  # noqa: S311
    return list_there(person, found)


def pictures_of(board: Board, person: Person) -> list[int]:
    """Those that are there for the person."""
    shown = BoardPicture.objects.filter(board=board, picture__in=Picture.objects.visible_to(person))
    return list(shown.values_list("picture", flat=True))


def keep(person: Person, name: str, entries: Sequence[int], pictures: Sequence[int]) -> Board:
    """Raises: NotAllowed, NotPossible, NotFound"""
    require(person, Role.DESIGNER, "keep boards")
    with transaction.atomic():
        board = Board.objects.create(name=_name(name), owner=person)
        _place_entries(board, entries, person)
        _place_pictures(board, pictures, person)
        record(person, "keep board", board, entries=list(entries), pictures=list(pictures))
    return board


@dataclass(frozen=True)
class Change:
    """What is to become of a board; what is None stays."""

    name: str | None = None
    entries: tuple[int, ...] | None = None
    pictures: tuple[int, ...] | None = None
    hide_names: bool | None = None


def change(person: Person, pk: int, seen: int, given: Change) -> Board:
    """seen: the revision that the person has before them. Raises: NotFound, NotAllowed, NotPossible; Conflict where it is another by now"""
    with transaction.atomic():
        board = Board.objects.select_for_update(of=("self",)).select_related("owner").filter(pk=pk, deleted=None).first()
        if board is None:
            raise NotFound(GONE)
        require_own(person, board.owner, "change this board")
        if board.revision != seen:
            last = Activity.objects.filter(about_kind="board", about_id=pk).select_related("person").first()
            who = last.person.shown_name if last and last.person else "Somebody"
            raise Conflict(f"{who} has changed this board meanwhile.", revision=board.revision)
        if given.name is not None:
            board.name = _name(given.name)
        if given.entries is not None:
            _place_entries(board, given.entries, person)
        if given.pictures is not None:
            _place_pictures(board, given.pictures, person)
        if given.hide_names is not None:
            board.shuffle = random.SystemRandom().randrange(1, 2**31) if given.hide_names else 0
        board.revision += 1
        board.save(update_fields=["name", "shuffle", "revision", "changed"])
        record(person, "change board", board, **{name: value for name, value in vars(given).items() if value is not None})
    return board


def judge(person: Person, pk: int, entry_id: int, choice: str, note: str) -> None:
    """One's own verdict on an entry of a board, in place of the one before. Raises: NotFound"""
    board = find(pk)
    entry = Entry.objects.visible_to(person).filter(pk=entry_id).only("pk", "shown_hash").first()
    if entry is None or not BoardEntry.objects.filter(board=board, entry=entry).exists():
        raise NotFound("This is not on the board any more.")
    with transaction.atomic():
        said = {"choice": Choice(choice), "note": note.strip()[:1000], "said_of": entry.shown_hash}
        Verdict.objects.update_or_create(board=board, entry=entry, person=person, defaults=said)
        record(person, "judge on board", board, entry=entry.pk, choice=choice)


def list_verdicts(person: Person, board: Board) -> list[Verdict]:
    """Those of everybody; where names are hidden, those of others only on what the person has said something of, so that nobody follows."""
    known = Verdict.objects.filter(seen_by(person, "entry__"), board=board)
    found = list(known.exclude(choice="", note="").select_related("person", "entry"))
    if not board.shuffle:
        return found
    own = {one.entry_id for one in found if one.person_id == person.pk and one.choice}
    return [one for one in found if one.person_id == person.pk or one.entry_id in own]


def delete(person: Person, pk: int) -> None:
    """It can be brought back for 30 days."""
    put_away(person, Board.objects.all(), pk, "board")


def restore(person: Person, pk: int) -> Board:
    return bring_back(person, Board.objects.all(), pk, "board")


def _follow(kept: Entry, other: Entry) -> None:
    """Two entries become one: boards that have only the other show the kept one in its place; verdicts stay where they were said."""
    both = BoardEntry.objects.filter(entry=kept).values("board")
    BoardEntry.objects.filter(entry=other).exclude(board__in=list(both.values_list("board", flat=True))).update(entry=kept)


def _find_uses(person: Person, entry: Entry) -> list[Use]:
    on = Board.objects.filter(entries__entry=entry, deleted=None).values_list("name", "pk")
    return [Use(name, "on this board", f"/shelf/board/{pk}") for name, pk in on]


FOLLOWS.append(_follow)
FINDERS.append(_find_uses)


def _name(text: str) -> str:
    name = text.strip()[:120]
    if not name:
        raise NotPossible("A board needs a name.")
    return name


def _place_entries(board: Board, ids: Sequence[int], person: Person) -> None:
    """Drafts of others that they have put there stay where they are."""
    _check(ids, "entries")
    if Entry.objects.visible_to(person).filter(pk__in=ids).count() < len(ids):
        raise NotFound("Some of these entries were deleted meanwhile. Choose again.")
    there = Q(entry__in=Entry.objects.visible_to(person)) | Q(entry__deleted__isnull=False)
    _place(BoardEntry.objects.filter(there, board=board), board, "entry", ids)


def _place_pictures(board: Board, ids: Sequence[int], person: Person) -> None:
    """What others have put there and the person may not see stays where it is."""
    _check(ids, "pictures")
    find_to_share(ids, person)
    there = Q(picture__in=Picture.objects.visible_to(person)) | Q(picture__deleted__isnull=False)
    _place(BoardPicture.objects.filter(there, board=board), board, "picture", ids)


def _check(ids: Sequence[int], noun: str) -> None:
    if not 1 <= len(ids) <= MOST or len(set(ids)) != len(ids):
        raise NotPossible(f"A board has 1 to {MOST} {noun}, each of them once.")


def _place(rows: models.QuerySet[Placed], board: Board, field: str, ids: Sequence[int]) -> None:
    """Only rows that are new, gone or elsewhere are written, in a query each. rows: those that may be changed"""
    before: dict[int, Placed] = {getattr(row, f"{field}_id"): row for row in rows}
    everything, places = rows.model._default_manager, {one: position for position, one in enumerate(ids)}
    everything.filter(pk__in=[row.pk for one, row in before.items() if one not in places]).delete()
    moved = [row for one, row in before.items() if one in places and row.position != places[one]]
    for row in moved:
        row.position = places[getattr(row, f"{field}_id")]
    everything.bulk_update(moved, ["position"])
    everything.bulk_create(
        rows.model(board=board, position=at, **{f"{field}_id": one}) for one, at in places.items() if one not in before
    )
