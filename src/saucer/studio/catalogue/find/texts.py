"""Texts by the words that stand in them, so that a search looks through the words that there are and not through all texts."""

from __future__ import annotations

import operator
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import repeat

import numpy as np

FEW = 2000
"""Places at which a word is found, up to which they are gone to one by one."""
MOST_BESIDE = 1000
"""Texts that may lie beside the index, looked through each, before it is made anew."""


@dataclass(frozen=True)
class Texts:
    """words: all that stand in the texts, each once; ends: (words + 1,), where the numbers of the texts that have it lie in `texts`

    beside: texts that came later, or became others, by number; none for those that are gone. Numbers in `texts` that are here are not meant
    """

    words: list[str]
    ends: np.ndarray
    texts: np.ndarray
    beside: Mapping[int, str | None]

    def with_changed(self, changed: Mapping[int, str | None]) -> Texts:
        """changed: by number; none for those that are gone"""
        found = replace(self, beside={**self.beside, **changed})
        return found if len(found.beside) <= MOST_BESIDE else found._with_all_inside()

    def _with_all_inside(self) -> Texts:
        stays = ~np.isin(self.texts, list(self.beside))
        by_word = np.repeat(np.arange(len(self.words)), np.diff(self.ends))
        known = {word: at for at, word in enumerate(self.words)}
        there = [(number, text) for number, text in self.beside.items() if text is not None]
        return _index(known, there, by_word[stays], self.texts[stays])

    def find(self, looked_for: str) -> np.ndarray:
        """Numbers of texts that have it somewhere. Raises: LookupError where it is no word but has room between"""
        if looked_for.split() != [looked_for]:
            raise LookupError(f"{looked_for!r} is not one word")
        lists = [self.texts[self.ends[at] : self.ends[at + 1]] for at in self._words_with(looked_for)]
        found = np.concatenate(lists) if lists else np.empty(0, np.int64)
        if self.beside:
            found = found[~np.isin(found, list(self.beside))]
        fresh = [number for number, text in self.beside.items() if text is not None and looked_for in text]
        return np.concatenate([found, np.array(fresh, np.int64)])

    @cached_property
    def _joined(self) -> str:
        """All words one behind the other, as one text, with a mark between that is in none."""
        return "\n".join(self.words)

    @cached_property
    def _word_ends(self) -> np.ndarray:
        return np.cumsum(np.fromiter(map(len, self.words), np.int64, len(self.words)) + 1)

    def _words_with(self, looked_for: str) -> np.ndarray:
        """Their places in `words`."""
        if self._joined.count(looked_for) > FEW:
            return np.flatnonzero(np.fromiter(map(operator.contains, self.words, repeat(looked_for)), bool, len(self.words)))
        found, at = [], self._joined.find(looked_for)
        while at >= 0:
            found.append(at)
            at = self._joined.find(looked_for, at + 1)
        return np.unique(np.searchsorted(self._word_ends, np.array(found, np.int64), side="right"))


def index_texts(texts: Iterable[tuple[int, str]]) -> Texts:
    """texts: each with its number"""
    return _index({}, texts, np.empty(0, np.int64), np.empty(0, np.int64))


def lay_beside(texts: Iterable[tuple[int, str]]) -> Texts:
    """As they are, without an index: of a few."""
    return Texts([], np.zeros(1, np.int64), np.empty(0, np.int64), dict(texts))


def _index(places: dict[str, int], texts: Iterable[tuple[int, str]], by_word: np.ndarray, numbers: np.ndarray) -> Texts:
    """places: of the words that are known; by_word, numbers: the pairs that are"""
    new_words: list[int] = []
    new_numbers: list[int] = []
    for number, text in texts:
        of_text = {places.setdefault(word, len(places)) for word in text.split()}
        new_words.extend(of_text)
        new_numbers.extend(repeat(number, len(of_text)))
    by_word = np.concatenate([by_word, np.array(new_words, np.int64)])
    numbers = np.concatenate([numbers, np.array(new_numbers, np.int64)])
    counts = np.bincount(by_word, minlength=len(places))
    return Texts(list(places), np.concatenate([[0], np.cumsum(counts)]), numbers[np.argsort(by_word, kind="stable")], {})
