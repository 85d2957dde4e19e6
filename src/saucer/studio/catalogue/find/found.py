"""What is found on the Shelf, asked of the columns in memory: which entries fit, beside what is chosen of any facet."""

from __future__ import annotations

import operator
from dataclasses import replace
from functools import cached_property, reduce

import numpy as np
from django.db.models import Q

from saucer.studio.catalogue.find.asking import find_rows
from saucer.studio.catalogue.find.columns import Columns, read_columns
from saucer.studio.catalogue.find.wanted import MOST_WORDS, Wanted, conditions_of
from saucer.studio.catalogue.models import Kind, Tag, seen_by
from saucer.studio.catalogue.spelling import respell
from saucer.studio.people.models import Person


class Found:
    """columns: of all entries; wanted: as it is asked; words: as `find_rows` fills them"""

    def __init__(self, columns: Columns, wanted: Wanted, seen: np.ndarray, words: dict[str, np.ndarray]) -> None:
        self.columns, self.wanted, self._seen, self._words = columns, wanted, seen, words
        self._masks = {facet: self.where(asked) for facet, asked in conditions_of(replace(wanted, used="")).items()}
        if wanted.used:
            self._masks["used"] = self.where_used(wanted.used)
        if wanted.tags:
            self._masks["tags"] = reduce(operator.and_, (self._with_tag(tag) for tag in wanted.tags))

    def where(self, condition: Q) -> np.ndarray:
        """(entries,) bool: of all entries, whatever else is asked of them"""
        return find_rows(self.columns, condition, self._words)

    def where_used(self, choice: str) -> np.ndarray:
        """As `is_used` asks it of the database."""
        return self.where(Q(kind=Kind.LUT)) & (self.columns.used if choice == "yes" else ~self.columns.used)

    def _with_tag(self, name: str) -> np.ndarray:
        tags = list(Tag.objects.filter(name__iexact=name).values_list("pk", flat=True))
        return self.columns.rows_of(self.columns.tagged[np.isin(self.columns.tagged[:, 1], tags), 0])

    @cached_property
    def rows(self) -> np.ndarray:
        """(entries,) bool: those that fit."""
        return reduce(operator.and_, self._masks.values(), self._seen)

    @cached_property
    def places(self) -> np.ndarray:
        """(found,): which of the entries they are, rising."""
        return np.flatnonzero(self.rows)

    def but(self, facet: str) -> np.ndarray:
        """(entries,) bool: those that fit whatever is chosen of this facet, so that its other choices can be counted."""
        if facet not in self._masks:
            return self.rows
        return reduce(operator.and_, (mask for name, mask in self._masks.items() if name != facet), self._seen)

    def places_but(self, facet: str) -> np.ndarray:
        """(found,): which of the entries `but` says, rising."""
        return np.flatnonzero(self.but(facet)) if facet in self._masks else self.places

    def again(self, wanted: Wanted) -> Found:
        """Of the same person at the same moment."""
        return Found(self.columns, wanted, self._seen, self._words)

    def __bool__(self) -> bool:
        return bool(self.rows.any())


def find_entries(person: Person, wanted: Wanted) -> Found:
    """Entries that this person's lists have, and that fit: those that `filter_entries` finds.

    Where nothing at all has all the words of a search: with words that are written much like them; or, where nothing has all of those
    either, with some of the words.
    """
    columns = read_columns()
    found = Found(columns, Wanted(search=wanted.search), find_rows(columns, seen_by(person), {}), {})
    if not wanted.search.strip() or found:
        return found.again(wanted)
    words = tuple(dict.fromkeys(wanted.search.lower().split()))[:MOST_WORDS]
    meant = respell(wanted.search)
    if meant and found.again(Wanted(meant=meant)):
        return found.again(replace(wanted, search="", meant=meant))
    if len(words) > 1 and found.again(Wanted(some=words)):
        return found.again(replace(wanted, search="", some=words))
    return found.again(replace(wanted, search="", meant=meant) if meant else wanted)


def understand(person: Person, wanted: Wanted) -> Wanted:
    """As it is asked of the database, with the words that the search is taken for."""
    return find_entries(person, wanted).wanted
