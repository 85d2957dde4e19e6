"""The catalogue listed: filtered, counted, searched and paged in SQL, however many entries there are."""

from __future__ import annotations

import base64
import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from django.db.models import Count, Q, QuerySet

from saucer.studio.catalogue.models import Category, Entry
from saucer.studio.common.refusals import NotPossible

Order = Literal["newest", "name"]
WITHOUT = "/"
"""In the place of a category's path: entries that have none."""
PAGE = 60
MOST_ON_A_PAGE = 500


@dataclass(frozen=True)
class Wanted:
    """What is asked for. search: every word of it stands somewhere; category: a path, what lies below it too"""

    search: str = ""
    kind: str = ""
    category: str = ""
    order: Order = "newest"


@dataclass(frozen=True)
class Page:
    """cursor: where the next page begins; empty at the end. total: entries on all pages"""

    entries: list[Entry]
    cursor: str
    total: int


@dataclass(frozen=True)
class CategoryCount:
    """With what lies below it."""

    path: str
    name: str
    depth: int
    count: int


@dataclass(frozen=True)
class Counts:
    """How many entries each choice would show beside the other choices that are made. without: have no category"""

    total: int
    kinds: dict[str, int]
    categories: list[CategoryCount]
    without: int


def list_page(wanted: Wanted, cursor: str = "", size: int = PAGE) -> Page:
    """Raises: NotPossible for a cursor that is none"""
    found = _filter(wanted)
    total = found.count()
    page = _begin_at(found, wanted.order, cursor) if cursor else found
    order = ("-shown_at", "-pk") if wanted.order == "newest" else ("name", "pk")
    size = max(1, min(size, MOST_ON_A_PAGE))
    shown = page.order_by(*order).select_related("owner", "category", "latest").defer("document", "note", "latest__content")
    entries = list(shown[: size + 1])
    return Page(entries[:size], _cursor(entries[size - 1], wanted.order) if len(entries) > size else "", total)


def count(wanted: Wanted) -> Counts:
    """Three queries, however many entries, kinds and categories there are."""
    of_kinds = _filter(Wanted(wanted.search, category=wanted.category))
    kinds = {row["kind"]: row["n"] for row in of_kinds.order_by().values("kind").annotate(n=Count("pk"))}
    filed = _filter(Wanted(wanted.search, wanted.kind)).order_by().values("category").annotate(n=Count("pk"))
    own: dict[int | None, int] = {row["category"]: row["n"] for row in filed}
    return Counts(sum(kinds.values()), kinds, _with_those_above(list(Category.objects.all()), own), own.get(None, 0))


def list_categories() -> list[str]:
    return list(Category.objects.values_list("path", flat=True))


def _filter(wanted: Wanted) -> QuerySet[Entry]:
    found = Entry.objects.filter(deleted=None)
    if wanted.kind:
        found = found.filter(kind=wanted.kind)
    if wanted.category == WITHOUT:
        found = found.filter(category=None)
    elif wanted.category:
        below = Category.objects.filter(Q(path=wanted.category) | Q(path__startswith=f"{wanted.category}/"))
        found = found.filter(category__in=below)
    for word in wanted.search.split():
        found = found.filter(document__contains=word.lower())
    return found


def _with_those_above(categories: Sequence[Category], own: dict[int | None, int]) -> list[CategoryCount]:
    """As a tree in order of names, every count with those below it; categories that would show nothing are left out."""
    total = {one.pk: own.get(one.pk, 0) for one in categories}
    for one in sorted(categories, key=lambda one: -one.depth):
        if one.parent_id is not None:
            total[one.parent_id] += total[one.pk]
    order = sorted(categories, key=lambda one: one.path.lower().split("/"))
    return [CategoryCount(one.path, one.name, one.depth, total[one.pk]) for one in order if total[one.pk]]


def _cursor(entry: Entry, order: Order) -> str:
    at = entry.shown_at.isoformat() if order == "newest" else entry.name
    return base64.urlsafe_b64encode(json.dumps([at, entry.pk]).encode()).decode()


def _begin_at(found: QuerySet[Entry], order: Order, cursor: str) -> QuerySet[Entry]:
    """Keyset paging: what stands behind the entry that the page before ended with."""
    try:
        at, pk = json.loads(base64.urlsafe_b64decode(cursor))
        at, pk = (datetime.fromisoformat(at) if order == "newest" else str(at)), int(pk)
    except (ValueError, TypeError):
        raise NotPossible("This page of the Shelf does not exist; begin at the first.") from None
    if order == "newest":
        return found.filter(Q(shown_at__lt=at) | Q(shown_at=at, pk__lt=pk))
    return found.filter(Q(name__gt=at) | Q(name=at, pk__gt=pk))
