"""How many entries each choice of a filter would show beside the other choices that are made."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import timedelta
from typing import Any

from django.db.models import Count, F, Q
from django.utils import timezone

from saucer.studio.catalogue.find.wanted import SCALARS, Each, Wanted, filter_entries, understand
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
    """Some ten queries, however many entries and choices there are."""
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
    facets["favourites"] = {"mine": filter_entries(person, wanted.but("favourite_of")).filter(favourite_of=person).count()}
    facets["ending"] = {"soon": filter_entries(person, replace(wanted, ending=True)).count()}
    facets["used"] = {choice: filter_entries(person, replace(wanted, used=choice)).count() for choice in ("yes", "no")}
    facets["days"] = _count_spans(person, wanted)
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


def _count_spans(person: Person, wanted: Wanted) -> dict[str, int]:
    now = timezone.now()
    spans = {f"d{days}": Count("pk", filter=Q(shown_at__gte=now - timedelta(days=days))) for days in SPANS}
    found = filter_entries(person, wanted.but("days")).order_by().aggregate(**spans)
    return {str(days): found[f"d{days}"] for days in SPANS}


def _with_those_above(categories: Sequence[Category], own: dict[int | None, int]) -> list[CategoryCount]:
    """As a tree in order of names, every count with those below it; categories that would show nothing are left out."""
    total = {one.pk: own.get(one.pk, 0) for one in categories}
    for one in sorted(categories, key=lambda one: -one.depth):
        if one.parent_id is not None:
            total[one.parent_id] += total[one.pk]
    order = sorted(categories, key=lambda one: one.path.lower().split("/"))
    return [CategoryCount(one.path, one.name, one.depth, total[one.pk]) for one in order if total[one.pk]]
