"""The catalogue listed: filtered, searched, ordered and paged by what is kept in memory, however many entries there are."""

from __future__ import annotations

import base64
import json
import operator
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from itertools import repeat
from typing import Any

import numpy as np
from django.db.models import Q

from saucer.core.reports.character import PROBES, likeness
from saucer.studio.catalogue.find.columns import values_of
from saucer.studio.catalogue.find.found import Found, find_entries
from saucer.studio.catalogue.find.wanted import Order, Wanted, filter_entries, has_word, is_starred_by
from saucer.studio.catalogue.models import MEASURES, Category, Character, Entry, there_for
from saucer.studio.catalogue.rules import find_any
from saucer.studio.common.refusals import NotPossible
from saucer.studio.people.models import Person

PAGE = 60
CARD = (
    "kind", "name", "author", "state", "expects", "gives", "health", "holds", "formats", "may_pass_on", "shown_at", "shown_hash", "owner",
    "category", "latest", "published", "seen_by", "proposed",
)  # fmt: skip
MOST_ON_A_PAGE = 500


@dataclass(frozen=True)
class Page:
    """cursor: where the next page begins; empty at the end. total: entries on all pages; near: nothing has these words, these are close

    some: nothing has all of the words; how many entries have each
    """

    entries: list[Entry]
    cursor: str
    total: int
    near: bool = False
    some: dict[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class _Ordering:
    """of: what is sorted by, a number for each entry found, falling where `falls`, then by number; as_told, as_kept: in a page's cursor"""

    of: Callable[[Found, Person], np.ndarray]
    falls: bool
    as_told: Callable[[Any], Any] = float
    as_kept: Callable[[Any], Any] = float


def _by_measure(measure: str, falls: bool) -> _Ordering:
    return _Ordering(lambda found, _: found.columns.measures[:, MEASURES.index(measure)], falls)


def _of_shown(found: Found, person: Person) -> np.ndarray:
    return found.columns.shown_at


def _of_words(found: Found, person: Person) -> np.ndarray:
    """By how many of the words each has, or how its name has what was typed."""
    if found.wanted.some:
        return sum((found.where(has_word(word)).astype(int) for word in found.wanted.some), np.zeros(found.columns.size, int))
    return _rank(found)


def _of_mine(found: Found, person: Person) -> np.ndarray:
    """What has the person's star, then what is theirs, then the rest; the newest first. What was searched for is before all of that."""
    columns = found.columns
    mine = np.where(found.where(is_starred_by(person.pk)), 2, np.where(columns.owner == person.pk, 1, 0))
    # Microseconds since 1970 stay below 2^51 for sixty years: above them there is room for both.
    return (_rank(found) * 4 + mine) * (1 << 51) + columns.shown_at


def _rank(found: Found) -> np.ndarray:
    """Of those found: names that are what was typed, that begin with it, that hold it; then what does what was typed; then the rest."""
    columns, ranks = found.columns, np.zeros(found.columns.size, np.int64)
    typed = " ".join(found.wanted.search.lower().split())
    if typed:
        places, words = found.places, set(typed.split())
        does = np.array([not words.isdisjoint(said) for said in values_of("said")], bool)
        ranks[places] = does.take(columns.said.take(places))
        names = columns.name.take(places)
        # Each is asked of those alone of which the one before is true.
        holds = np.fromiter(map(operator.contains, names, repeat(typed)), bool, len(names)).nonzero()[0]
        begins = holds[np.fromiter(map(str.startswith, names[holds], repeat(typed)), bool, len(holds))]
        ranks[places[holds]] = 2
        ranks[places[begins]] = 3
        ranks[places[begins[names[begins] == typed]]] = 4
    return ranks


_ORDERINGS: dict[Order, _Ordering] = {
    "newest": _Ordering(_of_shown, True, int, int),
    "mine": _Ordering(_of_mine, True, int, int),
    "cooler": _by_measure("warmth", False), "warmer": _by_measure("warmth", True),
    "softer": _by_measure("contrast", False), "harder": _by_measure("contrast", True),
    "quieter": _by_measure("colour", False), "richer": _by_measure("colour", True),
    "darker": _by_measure("lightness", False), "brighter": _by_measure("lightness", True),
    "gentler": _by_measure("strength", False), "stronger": _by_measure("strength", True),
}  # fmt: skip
_BEST = _Ordering(_of_words, True, int, int)


def list_page(person: Person, wanted: Wanted, cursor: str = "", size: int = PAGE) -> Page:
    """Raises: NotPossible for a cursor that is none"""
    found, size = find_entries(person, wanted), max(1, min(size, MOST_ON_A_PAGE))
    ids, at = _first_by_name(person, found.wanted, cursor, size) if wanted.order == "name" else _first(person, found, cursor, size)
    some = {word: len(found.again(replace(found.wanted, some=(word,))).places) for word in found.wanted.some}
    return Page(load_entries(ids), at, len(found.places), bool(found.wanted.meant), some)


def _first(person: Person, found: Found, cursor: str, size: int) -> tuple[list[int], str]:
    """The numbers of a page's entries, and the cursor of the next one."""
    ordering = _ordering_of(found.wanted)
    values = ordering.of(found, person)
    rows = found.rows & ~np.isnan(values)
    if cursor:
        at, pk = _read_cursor(cursor, ordering.as_kept)
        ids = found.columns.ids
        rows &= (values < at) | (values == at) & (ids < pk) if ordering.falls else (values > at) | (values == at) & (ids > pk)
    places = np.flatnonzero(rows)
    keys = -values[places] if ordering.falls else values[places]
    if len(places) > size + 1:
        # Only what may be on the page is sorted; of those that are equal at its end, all.
        near = keys <= np.partition(keys, size)[size]
        places, keys = places[near], keys[near]
    ids = found.columns.ids[places]
    order = np.lexsort((-ids if ordering.falls else ids, keys))[: size + 1]
    told = [int(pk) for pk in ids[order]]
    more = len(told) > size
    return told[:size], _cursor(ordering.as_told(values[places[order[size - 1]]]), told[size - 1]) if more else ""


def _ordering_of(wanted: Wanted) -> _Ordering:
    if wanted.some or (wanted.order == "newest" and wanted.search.strip()):
        return _BEST
    return _ORDERINGS[wanted.order]


def _first_by_name(person: Person, wanted: Wanted, cursor: str, size: int) -> tuple[list[int], str]:
    """As `_first`. In the database, whose alphabet it is."""
    found = filter_entries(person, wanted)
    if cursor:
        name, pk = _read_cursor(cursor, str)
        found = found.filter(Q(name__gt=name) | Q(name=name, pk__gt=pk))
    # What is sorted is narrow; only what is shown is fetched whole.
    keys = list(found.order_by("name", "pk").values_list("name", "pk")[: size + 1])
    return [pk for _, pk in keys[:size]], _cursor(*keys[size - 1]) if len(keys) > size else ""


def load_entries(ids: Sequence[int]) -> list[Entry]:
    """As cards need them, in this order."""
    shown = Entry.objects.select_related("owner", "category", "latest", "character").only(
        *CARD, "owner__username", "owner__full_name", "category__path", "latest__number",
        *(f"character__{name}" for name in ("words", *MEASURES)),
    )  # fmt: skip
    found = shown.in_bulk(ids)
    return [found[pk] for pk in ids if pk in found]


def list_categories() -> list[str]:
    return list(Category.objects.values_list("path", flat=True))


def _cursor(at: Any, pk: int) -> str:
    return base64.urlsafe_b64encode(json.dumps([at, pk]).encode()).decode()


def _read_cursor(cursor: str, as_kept: Callable[[Any], Any]) -> tuple[Any, int]:
    """Keyset paging: what stands behind the entry that the page before ended with. Raises: NotPossible"""
    try:
        at, pk = json.loads(base64.urlsafe_b64decode(cursor))
        return as_kept(at), int(pk)
    except (ValueError, TypeError, OverflowError):
        raise NotPossible("This page of the Shelf does not exist; begin at the first.") from None


CANDIDATES = 300
"""How many entries of near character are compared colour by colour."""


@dataclass(frozen=True)
class Like:
    """apart: mean CIEDE2000 over known colours"""

    entry: Entry
    apart: float


# A unit of each measure is made to weigh about as much as it is seen: L* and b* as they are, ratios as their share of a chroma of 40.
_WEIGHTS = {"warmth": 1.0, "lightness": 1.0, "contrast": 20.0, "colour": 30.0, "black": 0.5, "white": 0.5}


def list_alike(person: Person, pk: int, most: int = 24) -> list[Like]:
    """What does most nearly what an entry does, the nearest first; of all that lists have. Raises: NotFound, NotPossible"""
    own = Character.objects.filter(there_for(person, "entry__"), pk=pk).first()
    if own is None:
        find_any(person, pk)
        raise NotPossible("What this does could not be measured, so nothing can be found by it.")
    found = find_entries(person, Wanted())
    far = sum(
        np.abs(found.columns.measures[:, MEASURES.index(name)] - getattr(own, name)) * weight for name, weight in _WEIGHTS.items()
    )
    places = np.flatnonzero(found.rows & ~np.isnan(far) & (found.columns.ids != pk))
    near = places[np.argsort(far[places], kind="stable")[:CANDIDATES]]
    ids = [int(one) for one in found.columns.ids[near]]
    seen = dict(Character.objects.filter(pk__in=ids).values_list("pk", "seen"))
    rows = [(one, seen[one]) for one in ids if one in seen]
    if not rows:
        return []
    apart = likeness(_seen(own.seen), np.stack([_seen(data) for _, data in rows]))
    first = np.argsort(apart, kind="stable")[: max(1, min(most, 100))]
    far_apart = {rows[at][0]: float(apart[at]) for at in first}
    return [Like(entry, far_apart[entry.pk]) for entry in load_entries(list(far_apart))]


def _seen(data: Any) -> np.ndarray:
    return np.frombuffer(bytes(data), np.float32).reshape(PROBES, 3)
