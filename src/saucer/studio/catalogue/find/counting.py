"""How many entries each choice of a filter would show beside the other choices that are made."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.db.models import Count, F, Q

from saucer.studio.catalogue.find.wanted import (
    SCALARS,
    Each,
    Wanted,
    filter_entries,
    is_ending,
    is_since,
    is_starred_by,
    is_used,
    understand,
)
from saucer.studio.catalogue.models import Category
from saucer.studio.people.models import Person

SPANS = (7, 30, 365)
"""Days that can be asked for."""
MOST_TAGS = 200


@dataclass(frozen=True)
class CategoryCount:
    """With what lies below it."""

    path: str
    name: str
    depth: int
    count: int


@dataclass(frozen=True)
class Counts:
    """total: what fits all choices; facets: choice to number for each facet; without: have no category; owners: number to name"""

    total: int
    facets: dict[str, dict[str, int]]
    categories: list[CategoryCount]
    without: int
    owners: dict[str, str]


def count(person: Person, wanted: Wanted) -> Counts:
    """Some six queries, however many entries and choices there are; one more for each facet of which something is chosen."""
    wanted = understand(person, wanted)
    facets: dict[str, dict[str, int]] = {facet: {} for facet in SCALARS}
    free = [facet for facet in SCALARS if not getattr(wanted, facet)]
    # Facets of which nothing is chosen are counted under the same filter: one query tells of all their combinations.
    rows = filter_entries(person, wanted).order_by().values_list(*(SCALARS[facet] for facet in free)).annotate(n=Count("pk"))
    total = 0
    for *values, n in rows if free else [(filter_entries(person, wanted).count(),)]:
        total += n
        for facet, value in zip(free, values, strict=True):
            _add(facets[facet], value, n)
    for facet in SCALARS:
        if facet not in free:
            column = SCALARS[facet]
            for value, n in filter_entries(person, wanted.but(facet)).order_by().values_list(column).annotate(n=Count("pk")):
                _add(facets[facet], value, n)
    facets["tags"] = _count_tags(person, wanted)
    each = filter_entries(person, wanted.but("formats")).order_by().values_list("pk", Each(F("formats")))
    facets["formats"] = dict(Counter(form for _, form in each))
    facets |= _count_conditions(person, wanted)
    filed = filter_entries(person, wanted.but("categories")).order_by().values("category").annotate(n=Count("pk"))
    own: dict[int | None, int] = {row["category"]: row["n"] for row in filed}
    names = {str(one.pk): one.shown_name for one in Person.objects.filter(pk__in=[int(pk) for pk in facets["owners"] if pk])}
    return Counts(total, facets, _with_those_above(list(Category.objects.all()), own), own.get(None, 0), names)


def _add(counts: dict[str, int], value: Any, n: int) -> None:
    key = "" if value is None else str(value)
    counts[key] = counts.get(key, 0) + n


def _count_tags(person: Person, wanted: Wanted) -> dict[str, int]:
    """Beside the tags that are chosen: how many have this one as well."""
    rows = filter_entries(person, wanted).order_by().values_list("tags__name").annotate(n=Count("pk"))
    named = [(name, n) for name, n in rows if name is not None]
    return dict(sorted(named, key=lambda row: (-row[1], row[0]))[:MOST_TAGS])


def _count_conditions(person: Person, wanted: Wanted) -> dict[str, dict[str, int]]:
    """What an entry is or is not. Facets of which nothing is chosen are counted under one filter, by one query."""
    conditions: dict[str, tuple[str, dict[str, Q]]] = {
        "favourites": ("favourite_of", {"mine": is_starred_by(person.pk)}),
        "ending": ("ending", {"soon": is_ending()}),
        "used": ("used", {choice: is_used(choice) for choice in ("yes", "no")}),
        "days": ("days", {str(days): is_since(days) for days in SPANS}),
    }
    together: dict[Wanted, dict[str, Count]] = {}
    for facet, (field, choices) in conditions.items():
        asked = together.setdefault(wanted.but(field), {})
        asked.update({f"{facet}_{choice}": Count("pk", filter=condition) for choice, condition in choices.items()})
    found: dict[str, int] = {}
    for narrowed, counts in together.items():
        found |= filter_entries(person, narrowed).order_by().aggregate(**counts)
    return {facet: {choice: found[f"{facet}_{choice}"] for choice in choices} for facet, (_, choices) in conditions.items()}


def _with_those_above(categories: Sequence[Category], own: dict[int | None, int]) -> list[CategoryCount]:
    """As a tree in order of names, every count with those below it; categories that would show nothing are left out."""
    total = {one.pk: own.get(one.pk, 0) for one in categories}
    for one in sorted(categories, key=lambda one: -one.depth):
        if one.parent_id is not None:
            total[one.parent_id] += total[one.pk]
    order = sorted(categories, key=lambda one: one.path.lower().split("/"))
    return [CategoryCount(one.path, one.name, one.depth, total[one.pk]) for one in order if total[one.pk]]
