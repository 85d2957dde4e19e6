"""What the Shelf is narrowed by: one filter for lists, counts and changes to everything found."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from functools import reduce
from operator import and_, or_
from typing import Literal

from django.db.models import F, Func, Q, QuerySet
from django.utils import timezone

from saucer.studio.catalogue.models import Category, Entry, Kind, PassOn
from saucer.studio.catalogue.words import ALSO_SAID
from saucer.studio.people.models import Person

Order = Literal[
    "newest",
    "mine",
    "name",
    "cooler",
    "warmer",
    "softer",
    "harder",
    "quieter",
    "richer",
    "darker",
    "brighter",
    "gentler",
    "stronger",
]
WITHOUT = "/"
"""In the place of a category's path: entries that have none."""

ENDING_WITHIN = timedelta(days=30)
"""Curators are told so long before a right to pass on ends."""


MOST_WORDS = 12
"""Of a search that is taken word by word."""


@dataclass(frozen=True)
class Wanted:
    """What is asked for. Where several of one thing are named, any of them will do, but all tags must be there.

    search: every word of it stands somewhere; categories: paths, with what lies below them; owners: numbers of people
    used: `yes`, a look or preset names it; `no`, none does: of LUTs only
    ending: may be passed on, but not for longer than ENDING_WITHIN
    days: shown as it is since so many days; favourite_of: the number of a person
    meant: further words of a search, each in the spellings of which any will do; some: words of which any will do
    """

    search: str = ""
    kinds: tuple[str, ...] = ()
    categories: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    states: tuple[str, ...] = ()
    expects: tuple[str, ...] = ()
    formats: tuple[str, ...] = ()
    health: tuple[str, ...] = ()
    holds: tuple[str, ...] = ()
    may_pass_on: tuple[str, ...] = ()
    owners: tuple[int, ...] = ()
    favourite_of: int | None = None
    days: int | None = None
    ending: bool = False
    used: str = ""
    order: Order = "newest"
    meant: tuple[tuple[str, ...], ...] = ()
    some: tuple[str, ...] = ()


SCALARS = {
    "kinds": "kind", "states": "state", "expects": "expects", "health": "health",
    "holds": "holds", "may_pass_on": "may_pass_on", "owners": "owner",
}  # fmt: skip
"""Facets of which an entry has one each, and their columns."""


def has_word(word: str) -> Q:
    """Does the word stand somewhere, or what it also says?"""
    found = Q(document__contains=word)
    return found | Q(document__contains=ALSO_SAID[word]) if word in ALSO_SAID else found


def conditions_of(wanted: Wanted) -> dict[str, Q]:
    """What each facet that is chosen asks of an entry, by the facet's name; all of it has to hold. Tags are asked for apart."""
    asked = {facet: Q(**{f"{column}__in": chosen}) for facet, column in SCALARS.items() if (chosen := getattr(wanted, facet))}
    if wanted.categories:
        asked["categories"] = _in_categories(wanted.categories)
    if wanted.formats:
        asked["formats"] = Q(formats__overlap=list(wanted.formats))
    if wanted.favourite_of is not None:
        asked["favourite_of"] = is_starred_by(wanted.favourite_of)
    if wanted.used:
        asked["used"] = is_used(wanted.used)
    if wanted.ending:
        asked["ending"] = is_ending()
    if wanted.days is not None:
        asked["days"] = is_since(wanted.days)
    each = (*([word] for word in wanted.search.lower().split()), *wanted.meant, *((wanted.some,) if wanted.some else ()))
    if each:
        asked["words"] = reduce(and_, (reduce(or_, (has_word(word) for word in words)) for words in each))
    return asked


def filter_entries(person: Person, wanted: Wanted) -> QuerySet[Entry]:
    """Entries that this person's lists have, and that fit, asked of the database; `found.find_entries` asks what is in memory."""
    found: QuerySet[Entry] = Entry.objects.visible_to(person).filter(*conditions_of(wanted).values(), begun=True)
    for tag in wanted.tags:
        # As a subquery, so that a count over the tags of what is found sees all of them.
        found = found.filter(pk__in=Entry.tags.through.objects.filter(tag__name__iexact=tag).values("entry"))
    return found


def is_starred_by(person: int) -> Q:
    return Q(pk__in=Entry.favourite_of.through.objects.filter(person=person).values("entry"))


def is_ending() -> Q:
    """A right to pass on that ends soon."""
    return Q(pass_on_until__lte=timezone.localdate() + ENDING_WITHIN, may_pass_on=PassOn.YES)


def is_since(days: int) -> Q:
    return Q(shown_at__gte=timezone.now() - timedelta(days=days))


def is_used(choice: str) -> Q:
    """LUTs of which a file is named by a look or preset that is there, or by none; in anybody's draft too, so that it is kept.

    choice: `yes` or `no`
    """
    named = Entry.objects.filter(deleted=None, uses__len__gt=0).order_by().values_list(Each(F("uses")))
    luts = Entry.objects.filter(kind=Kind.LUT, versions__luts__files__blob__in=named).order_by().values("pk")
    return Q(kind=Kind.LUT) & (Q(pk__in=luts) if choice == "yes" else ~Q(pk__in=luts))


class Each(Func):
    """Every member of an array as a row of its own."""

    function = "unnest"


def _in_categories(paths: tuple[str, ...]) -> Q:
    asked, below = Q(), Q()
    for path in paths:
        if path == WITHOUT:
            asked |= Q(category=None)
        else:
            below |= Q(path=path) | Q(path__startswith=f"{path}/")
    return asked | Q(category__in=Category.objects.filter(below)) if below else asked
