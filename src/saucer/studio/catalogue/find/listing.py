"""The catalogue listed: filtered, counted, searched and paged in SQL, however many entries there are. What it is narrowed by: `wanted`."""

from __future__ import annotations

import base64
import json
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from functools import reduce
from operator import add
from typing import Any

import numpy as np
from django.db.models import Case, Exists, F, FloatField, IntegerField, OuterRef, Q, QuerySet, Value, When
from django.db.models.functions import Abs, Cast, Extract

from saucer.core.reports.character import PROBES, likeness
from saucer.studio.catalogue.find.wanted import Order, Wanted, filter_entries, has_word, understand
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
    """field: what is sorted by, falling where `falls`, then by number; read: its value out of a cursor"""

    field: str
    falls: bool
    read: Callable[[Any], Any]


def _by_measure(measure: str, falls: bool) -> _Ordering:
    return _Ordering(f"character__{measure}", falls, float)


_ORDERINGS: dict[Order, _Ordering] = {
    "newest": _Ordering("shown_at", True, datetime.fromisoformat),
    "mine": _Ordering("weight", True, float),
    "name": _Ordering("name", False, str),
    "cooler": _by_measure("warmth", False), "warmer": _by_measure("warmth", True),
    "softer": _by_measure("contrast", False), "harder": _by_measure("contrast", True),
    "quieter": _by_measure("colour", False), "richer": _by_measure("colour", True),
    "darker": _by_measure("lightness", False), "brighter": _by_measure("lightness", True),
    "gentler": _by_measure("strength", False), "stronger": _by_measure("strength", True),
}  # fmt: skip
_BEST = _Ordering("rank", True, int)


def list_page(person: Person, wanted: Wanted, cursor: str = "", size: int = PAGE) -> Page:
    """Raises: NotPossible for a cursor that is none"""
    wanted = understand(person, wanted)
    found, near = filter_entries(person, wanted), bool(wanted.meant)
    total = found.count()
    ordering = _ORDERINGS[wanted.order]
    if wanted.some:
        found, ordering = _rank_by_words(found, wanted.some), _BEST
    elif wanted.order == "mine":
        found = _mine_first(found, person, wanted)
    elif wanted.order == "newest" and wanted.search.strip():
        found, ordering = _rank(found, wanted.search), _BEST
    elif ordering.field.startswith("character__"):
        found = found.filter(character__isnull=False)
    page = _begin_at(found, ordering, cursor) if cursor else found
    sign = "-" if ordering.falls else ""
    size = max(1, min(size, MOST_ON_A_PAGE))
    # What is sorted is narrow; only what is shown is fetched whole.
    keys = list(page.order_by(f"{sign}{ordering.field}", f"{sign}pk").values_list(ordering.field, "pk")[: size + 1])
    more = len(keys) > size
    some = {word: filter_entries(person, replace(wanted, some=(word,))).count() for word in wanted.some}
    return Page(load_entries([pk for _, pk in keys[:size]]), _cursor(*keys[size - 1]) if more else "", total, near, some)


def load_entries(ids: Sequence[int]) -> list[Entry]:
    """As cards need them, in this order."""
    shown = Entry.objects.select_related("owner", "category", "latest", "character").only(
        *CARD, "owner__username", "owner__full_name", "category__path", "latest__number",
        *(f"character__{name}" for name in ("words", *MEASURES)),
    )  # fmt: skip
    found = shown.in_bulk(ids)
    return [found[pk] for pk in ids if pk in found]


def _rank(found: QuerySet[Entry], search: str) -> QuerySet[Entry]:
    """Names that are what was typed, that begin with it, that hold it; then what does what was typed; then the rest."""
    words = " ".join(search.split())
    ranks = (
        When(name__iexact=words, then=Value(4)),
        When(name__istartswith=words, then=Value(3)),
        When(name__icontains=words, then=Value(2)),
        When(character__words__overlap=words.lower().split(), then=Value(1)),
    )
    return found.annotate(rank=Case(*ranks, default=Value(0), output_field=IntegerField()))


def _rank_by_words(found: QuerySet[Entry], words: Sequence[str]) -> QuerySet[Entry]:
    """By how many of the words each has."""
    has = (Case(When(has_word(word), then=Value(1)), default=Value(0), output_field=IntegerField()) for word in words)
    return found.annotate(rank=reduce(add, has))


def _mine_first(found: QuerySet[Entry], person: Person, wanted: Wanted) -> QuerySet[Entry]:
    """What has the person's star, then what is theirs, then the rest; the newest first. What was searched for is before all of that."""
    starred = Entry.favourite_of.through.objects.filter(person=person, entry=OuterRef("pk"))
    mine = Case(When(Exists(starred), then=Value(2)), When(owner=person, then=Value(1)), default=Value(0))
    ranked = _rank(found, wanted.search) if wanted.search.strip() else found.annotate(rank=Value(0))
    # Seconds since 1970 have ten digits; in a double there is room for both above them, to a thousandth of a second. Cast, as the
    # database computes with more digits than a page's cursor gives back to it.
    since = Extract("shown_at", "epoch", output_field=FloatField())
    return ranked.annotate(weight=Cast(F("rank") * 1e11 + mine * 1e10 + since, FloatField()))


def list_categories() -> list[str]:
    return list(Category.objects.values_list("path", flat=True))


def _cursor(at: Any, pk: int) -> str:
    at = at.isoformat() if isinstance(at, datetime) else at
    return base64.urlsafe_b64encode(json.dumps([at, pk]).encode()).decode()


def _begin_at(found: QuerySet[Entry], ordering: _Ordering, cursor: str) -> QuerySet[Entry]:
    """Keyset paging: what stands behind the entry that the page before ended with."""
    try:
        at, pk = json.loads(base64.urlsafe_b64decode(cursor))
        at, pk = ordering.read(at), int(pk)
    except (ValueError, TypeError):
        raise NotPossible("This page of the Shelf does not exist; begin at the first.") from None
    way = "lt" if ordering.falls else "gt"
    return found.filter(Q(**{f"{ordering.field}__{way}": at}) | Q(**{ordering.field: at, f"pk__{way}": pk}))


CANDIDATES = 300
"""How many entries of near character are compared colour by colour."""


@dataclass(frozen=True)
class Like:
    """apart: mean CIEDE2000 over known colours"""

    entry: Entry
    apart: float


def list_alike(person: Person, pk: int, most: int = 24) -> list[Like]:
    """What does most nearly what an entry does, the nearest first; of all that lists have. Raises: NotFound, NotPossible"""
    own = Character.objects.filter(there_for(person, "entry__"), pk=pk).first()
    if own is None:
        find_any(person, pk)
        raise NotPossible("What this does could not be measured, so nothing can be found by it.")
    # A unit of each measure is made to weigh about as much as it is seen: L* and b* as they are, ratios as their share of a chroma of 40.
    far: Any = Value(0.0)
    for measure, weight in (
        ("warmth", 1.0),
        ("lightness", 1.0),
        ("contrast", 20.0),
        ("colour", 30.0),
        ("black", 0.5),
        ("white", 0.5),
    ):
        far = far + Abs(F(measure) - Value(getattr(own, measure))) * Value(weight)
    near = (
        Character.objects.filter(there_for(person, "entry__"), entry__begun=True)
        .exclude(pk=pk)
        .annotate(far=far)
        .order_by("far", "pk")
    )
    rows = list(near.values_list("entry", "seen")[:CANDIDATES])
    if not rows:
        return []
    apart = likeness(_seen(own.seen), np.stack([_seen(seen) for _, seen in rows]))
    first = np.argsort(apart, kind="stable")[: max(1, min(most, 100))]
    far_apart = {rows[at][0]: float(apart[at]) for at in first}
    return [Like(entry, far_apart[entry.pk]) for entry in load_entries(list(far_apart))]


def _seen(data: Any) -> np.ndarray:
    return np.frombuffer(bytes(data), np.float32).reshape(PROBES, 3)
