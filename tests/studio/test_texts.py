"""Texts by their words: what holds a word somewhere is found as by looking through each of them."""

from __future__ import annotations

import random

import pytest

from saucer.studio.catalogue.find import texts as module
from saucer.studio.catalogue.find.texts import Texts, index_texts

SYLLABLES = ("har", "bour", "quay", "mi", "ll", "ö", "é12", "3", "7", "x_%", "na")


def some_text(rng: random.Random) -> str:
    gap = rng.choice((" ", "\n", "  ", "\u00a0"))
    return gap.join("".join(rng.choices(SYLLABLES, k=rng.randint(1, 3))) for _ in range(rng.randint(0, 9)))


def assert_found(texts: Texts, told: dict[int, str]) -> None:
    for word in ("har", "bourmi", "l", "ö", "3", "12", "%", "nothing", "quayquay", "a"):
        assert set(texts.find(word).tolist()) == {number for number, text in told.items() if word in text}, word


@pytest.mark.parametrize("few", [0, 10_000])
def test_what_holds_a_word_is_found(monkeypatch, few):
    monkeypatch.setattr(module, "FEW", few)
    rng = random.Random(1)
    told = {number * 3: some_text(rng) for number in range(400)}
    assert_found(index_texts(told.items()), told)


def test_changes_are_followed_beside_the_index_and_inside_it(monkeypatch):
    monkeypatch.setattr(module, "MOST_BESIDE", 60)
    rng, told = random.Random(2), {}
    texts, sizes = index_texts([]), set()
    for _ in range(40):
        changed = {rng.randint(0, 300): some_text(rng) if rng.random() < 0.8 else None for _ in range(12)}
        texts = texts.with_changed(changed)
        told = {number: text for number, text in {**told, **changed}.items() if text is not None}
        sizes.add(len(texts.beside))
        assert_found(texts, told)
    assert 0 in sizes
    assert max(sizes) > 30
    assert len(told) > 100


def test_more_than_one_word_is_refused():
    for asked in ("har bour", "", " har", "har\n"):
        with pytest.raises(LookupError):
            index_texts([(1, "har bour")]).find(asked)
