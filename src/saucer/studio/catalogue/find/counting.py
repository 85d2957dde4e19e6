"""How many entries each choice of a filter would show beside the other choices that are made."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from saucer.studio.catalogue.find.columns import NONE, WORDS, values_of
from saucer.studio.catalogue.find.found import Found, find_entries
from saucer.studio.catalogue.find.wanted import SCALARS, Wanted, is_ending, is_since, is_starred_by
from saucer.studio.catalogue.models import Category, Tag
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
    """Some six queries, however many entries and choices there are; what is counted lies in memory."""
    found = find_entries(person, wanted)
    facets = {facet: _count_scalar(found, facet) for facet in SCALARS}
    facets["tags"] = _count_tags(found)
    facets["formats"] = _count_formats(found)
    facets |= _count_conditions(person, found)
    filed = _count_in(found, "categories", found.columns.category)
    without = filed.pop(NONE, 0)
    names = {str(one.pk): one.shown_name for one in Person.objects.filter(pk__in=[int(pk) for pk in facets["owners"] if pk])}
    return Counts(len(found.places), facets, _with_those_above(list(Category.objects.all()), filed), without, names)


def _count_values(values: np.ndarray) -> dict[int, int]:
    """How many there are of each; numbers from -1 on."""
    counts = np.bincount(values + 1)
    return {int(at) - 1: int(counts[at]) for at in np.flatnonzero(counts)}


def _count_in(found: Found, facet: str, column: np.ndarray) -> dict[int, int]:
    """Of the entries that fit whatever is chosen of this facet: only those are gone through."""
    return _count_values(column.take(found.places_but(facet)).astype(np.int64, copy=False))


def _count_scalar(found: Found, facet: str) -> dict[str, int]:
    column = SCALARS[facet]
    if column in WORDS:
        values = values_of(column)
        return {str(values[at]): n for at, n in _count_in(found, facet, found.columns.words[column]).items()}
    return {"" if at == NONE else str(at): n for at, n in _count_in(found, facet, found.columns.owner).items()}


def _count_tags(found: Found) -> dict[str, int]:
    """Beside the tags that are chosen: how many have this one as well."""
    columns = found.columns
    # The last place is asked for by tags of what is in no list any more.
    counts = _count_values(columns.tags[np.append(found.rows, False).take(columns.tag_rows)])
    named = [(name, counts[pk]) for pk, name in Tag.objects.filter(pk__in=counts).values_list("pk", "name")]
    return dict(sorted(named, key=lambda row: (-row[1], row[0]))[:MOST_TAGS])


def _count_formats(found: Found) -> dict[str, int]:
    counts = Counter[str]()
    values = values_of("formats")
    for at, n in _count_in(found, "formats", found.columns.formats).items():
        counts.update(dict.fromkeys(values[at], n))
    return dict(counts)


def _count_conditions(person: Person, found: Found) -> dict[str, dict[str, int]]:
    """What an entry is or is not."""

    def count_of(rows: np.ndarray, field: str) -> int:
        return int(np.count_nonzero(rows & found.but(field)))

    return {
        "favourites": {"mine": count_of(found.where(is_starred_by(person.pk)), "favourite_of")},
        "ending": {"soon": count_of(found.where(is_ending()), "ending")},
        "used": {choice: count_of(found.where_used(choice), "used") for choice in ("yes", "no")},
        "days": {str(days): count_of(found.where(is_since(days)), "days") for days in SPANS},
    }


def _with_those_above(categories: Sequence[Category], own: dict[int, int]) -> list[CategoryCount]:
    """As a tree in order of names, every count with those below it; categories that would show nothing are left out."""
    total = {one.pk: own.get(one.pk, 0) for one in categories}
    for one in sorted(categories, key=lambda one: -one.depth):
        if one.parent_id is not None:
            total[one.parent_id] += total[one.pk]
    order = sorted(categories, key=lambda one: one.path.lower().split("/"))
    return [CategoryCount(one.path, one.name, one.depth, total[one.pk]) for one in order if total[one.pk]]
