"""What entries are found and counted by, kept in memory by column, the same in every process of the server.

Read whole once; afterwards each question asks the database which entries were changed (`EntryChange`, noted by its triggers) and reads
those again. A note is known by the transaction that made it: transactions end in another order than they begin, so everything from the
oldest one that was still under way is looked at, and a note that was followed is not followed again.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, fields, replace
from datetime import UTC, date, datetime
from functools import cached_property
from threading import Lock
from typing import Any

import numpy as np
from django.db import connection
from django.db.models import BigIntegerField, F, Func, TextField, Value
from django.db.models.functions import Cast, Extract

from saucer.studio.catalogue.find.texts import Texts, index_texts, lay_beside
from saucer.studio.catalogue.find.wanted import Each
from saucer.studio.catalogue.models import LISTED, MEASURES, Entry, Kind

WORDS = ("kind", "state", "expects", "health", "holds", "may_pass_on", "seen_by")
"""Columns of few different words each, kept as their places in a list of them."""
NONE = -1
"""In a column of numbers: nothing stands there."""

PAIRS = ("tagged", "files", "uses")
"""Of what an entry may have many: a row for each, with the entry's number."""

_LISTS: dict[str, dict[Any, int]] = {name: {} for name in (*WORDS, "formats", "said", "blob")}
_adding = Lock()
UNKNOWN = -2
"""The place of a value that no entry has."""


def find_place(column: str, value: Any) -> int:
    """Where a value stands in the column's list; UNKNOWN where it does not. What people ask for is never added."""
    return _LISTS[column].get(value, UNKNOWN)


def _place(column: str, value: Any) -> int:
    """Where a value that an entry has stands in the column's list, which has it from now on."""
    at = _LISTS[column].get(value)
    if at is None:
        with _adding:
            at = _LISTS[column].setdefault(value, len(_LISTS[column]))
    return at


def values_of(column: str) -> list[Any]:
    """By their places."""
    with _adding:
        return list(_LISTS[column])


def as_day(day: date | None) -> int:
    return NONE if day is None else day.toordinal()


def as_moment(moment: datetime) -> int:
    """Microseconds since 1970, exactly."""
    since = moment - datetime(1970, 1, 1, tzinfo=UTC)
    return (since.days * 86_400 + since.seconds) * 1_000_000 + since.microseconds


@dataclass(frozen=True)
class Columns:
    """Entries that lists have, whoever may see them, by rising number: one value each in every column; never written into.

    words: of WORDS, their places; formats: places of tuples of names; measures: (entries, MEASURES), NaN where it has no character
    tagged: (pairs, 2) numbers of entries and of their tags; files: of LUTs and the places of their files' hashes; uses: of entries, also
    those in no list, and the places of the hashes that they name; name: in small letters; said: places of tuples of words
    """

    ids: np.ndarray
    words: dict[str, np.ndarray]
    formats: np.ndarray
    owner: np.ndarray
    category: np.ndarray
    pass_on_until: np.ndarray
    shown_at: np.ndarray
    proposed: np.ndarray
    name: np.ndarray
    said: np.ndarray
    measures: np.ndarray
    tagged: np.ndarray
    files: np.ndarray
    uses: np.ndarray
    documents: Texts

    @property
    def size(self) -> int:
        return len(self.ids)

    @cached_property
    def _row_of(self) -> np.ndarray:
        """By numbers of entries, from 0 to the last one's and one more: in which row each stands; -1 for one that is in no list."""
        rows = np.full((int(self.ids[-1]) if self.size else 0) + 2, -1, np.int32)
        rows[self.ids] = np.arange(self.size, dtype=np.int32)
        return rows

    def _places_of(self, pks: np.ndarray) -> np.ndarray:
        """In which row each entry stands; -1 for one that is in no list."""
        return self._row_of.take(pks, mode="clip")

    def rows_of(self, pks: np.ndarray | Iterable[int]) -> np.ndarray:
        """(entries,) bool: which of the entries these are; numbers that are none of them do not matter."""
        at = self._places_of(pks if isinstance(pks, np.ndarray) else np.fromiter(pks, np.int64))
        found = np.zeros(self.size, bool)
        found[at[at >= 0]] = True
        return found

    @cached_property
    def tags(self) -> np.ndarray:
        """(pairs,) of `tagged`: the tags, one behind the other in memory."""
        return np.ascontiguousarray(self.tagged[:, 1])

    @cached_property
    def tag_rows(self) -> np.ndarray:
        """(pairs,) of `tagged`: in which row its entry stands; -1 for one that is in no list any more."""
        return self._places_of(self.tagged[:, 0])

    @cached_property
    def used(self) -> np.ndarray:
        """LUTs of which a file is named by a look or preset that is there."""
        return self.rows_of(self.files[np.isin(self.files[:, 1], self.uses[:, 1]), 0])


@dataclass(frozen=True)
class _Read:
    """columns: as the database had them at a moment; newest: the last note by then; since: the oldest transaction that was under way

    followed: notes from it on that are in the columns already
    """

    columns: Columns
    newest: int
    since: int
    followed: frozenset[int]


_lock = Lock()
_kept: dict[str, _Read] = {}

MANY = 1000
"""Entries, from which on to read all of them may take less than to read those."""

_NOTES = """
SELECT pg_snapshot_xmin(pg_current_snapshot())::text::bigint, (SELECT min(id) FROM catalogue_entrychange),
    (SELECT max(id) FROM catalogue_entrychange), noted.ids, noted.entries
FROM (
    SELECT array_agg(id) AS ids, array_agg(entry) AS entries FROM catalogue_entrychange
    WHERE xid >= COALESCE(%s, pg_snapshot_xmin(pg_current_snapshot())::text::bigint)
) AS noted
"""


def read_columns() -> Columns:
    """As they are now. Inside a transaction they are read for it alone: what it did may still be taken back."""
    if connection.in_atomic_block:
        return _read({})
    name = str(connection.settings_dict["NAME"])
    with _lock:
        _kept[name] = found = _follow(_kept.get(name))
    return found.columns


def forget_notes(before: datetime) -> None:
    """Of changes before a moment, and those that a restored database brought from another PostgreSQL with other numbers of transactions.

    The last one stays: by it who reads tells that nothing is missing. Whoever has not asked since then reads everything.
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "DELETE FROM catalogue_entrychange WHERE id < (SELECT max(id) FROM catalogue_entrychange) "
            "AND (made < %s OR xid >= pg_snapshot_xmax(pg_current_snapshot())::text::bigint)",
            [before],
        )


def _follow(before: _Read | None) -> _Read:
    since, first, last, ids, entries = _ask_for_notes(before.since if before else None)
    notes = dict(zip(ids or (), entries or (), strict=True))
    # Where nothing was kept, or what was noted since was taken away, everything is read.
    if before is None or (before.newest if first is None else first > before.newest):
        columns = _read({})
    elif changed := {entry for note, entry in notes.items() if note not in before.followed}:
        many = len(changed) > max(MANY, before.columns.size // 4)
        columns = _read({}) if many else _replace(before.columns, changed, _read({"pk__in": changed}))
    else:
        columns = before.columns
    return _Read(columns, last or 0, since, frozenset(notes))


def _ask_for_notes(since: int | None) -> tuple[int, int | None, int | None, list[int] | None, list[int] | None]:
    with connection.cursor() as cursor:
        cursor.execute(_NOTES, [since])
        row: Any = cursor.fetchone()
        return row


_SHOWN = Cast(Extract("shown_at", "epoch") * 1_000_000, BigIntegerField())
_JOINED = {
    name: Func(F(column), Value("\n"), function="array_to_string", output_field=TextField())
    for name, column in (("formats_told", "formats"), ("said_told", "character__words"))
}
"""Dates and lists as numbers and texts: to make them of what the database sends takes longer than all the rest."""


def _read(which: dict[str, Any]) -> Columns:
    """Four questions, however many they are. which: of all entries"""
    listed = Entry.objects.filter(LISTED, **which).order_by("pk")
    known = (*WORDS, "owner", "category", "pass_on_until", "proposed", "name", "document", "moment", *_JOINED)
    rows = list(
        listed.annotate(moment=_SHOWN, **_JOINED).values_list("pk", *known, *(f"character__{measure}" for measure in MEASURES))
    )
    columns = list(zip(*rows, strict=True)) or [()] * (1 + len(known) + len(MEASURES))
    of = dict(zip(("pk", *known, *MEASURES), columns, strict=True))

    def numbers(name: str) -> np.ndarray:
        return np.fromiter((NONE if value is None else value for value in of[name]), np.int64, len(rows))

    def places(column: str, values: Iterable[Any]) -> np.ndarray:
        return np.fromiter((_place(column, one) for one in values), np.int32 if column == "said" else np.int16, len(rows))

    files = listed.filter(kind=Kind.LUT, versions__luts__files__blob__isnull=False).values_list("pk", "versions__luts__files__blob")
    uses = Entry.objects.filter(deleted=None, uses__len__gt=0, **which).order_by().values_list("pk", Each(F("uses")))
    return Columns(
        ids=numbers("pk"),
        words={name: places(name, of[name]) for name in WORDS},
        formats=places("formats", (tuple(names.splitlines()) for names in of["formats_told"])),
        owner=numbers("owner"),
        category=numbers("category"),
        pass_on_until=np.fromiter(map(as_day, of["pass_on_until"]), np.int64, len(rows)),
        shown_at=numbers("moment"),
        proposed=np.array(of["proposed"], bool),
        name=_objects([name.lower() for name in of["name"]]),
        said=places("said", (tuple((words or "").splitlines()) for words in of["said_told"])),
        measures=np.stack([np.array(of[measure], np.float64) for measure in MEASURES], axis=1),
        tagged=_pairs(listed.filter(tags__isnull=False).values_list("pk", "tags")),
        files=_pairs((pk, _place("blob", sha256)) for pk, sha256 in files),
        uses=_pairs((pk, _place("blob", sha256)) for pk, sha256 in uses),
        documents=(lay_beside if which else index_texts)(zip(of["pk"], of["document"], strict=True)),
    )


def _pairs(rows: Iterable[tuple[int, int]]) -> np.ndarray:
    return np.array(list(rows), np.int64).reshape(-1, 2)


def _objects(values: Sequence[Any]) -> np.ndarray:
    found = np.empty(len(values), object)
    found[:] = values
    return found


def _replace(columns: Columns, changed: set[int], new: Columns) -> Columns:
    """Without what is known of the changed ones, and with what is new of them."""
    documents = columns.documents.with_changed({**dict.fromkeys(changed), **new.documents.beside})
    stays = ~columns.rows_of(changed)
    ids = np.concatenate([columns.ids[stays], new.ids])
    order = np.argsort(ids, kind="stable")

    def join(one: np.ndarray, other: np.ndarray) -> np.ndarray:
        return np.concatenate([one[stays], other])[order]

    def join_pairs(one: np.ndarray, other: np.ndarray) -> np.ndarray:
        return np.concatenate([one[~np.isin(one[:, 0], list(changed))], other])

    by_entry = {one.name for one in fields(columns)} - {"words", "documents", *PAIRS}
    joined = {name: join(getattr(columns, name), getattr(new, name)) for name in by_entry}
    joined |= {name: join_pairs(getattr(columns, name), getattr(new, name)) for name in PAIRS}
    return replace(
        columns, words={name: join(columns.words[name], new.words[name]) for name in WORDS}, documents=documents, **joined
    )
