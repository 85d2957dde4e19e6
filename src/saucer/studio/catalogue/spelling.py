"""Words as they are written in the catalogue, by which a mistyped one is understood."""

from __future__ import annotations

import re

from django.contrib.postgres.search import TrigramSimilarity

from saucer.studio.catalogue.models import Spelling

FEWEST_LETTERS, MOST_LETTERS = 4, 40
"""Shorter words are like too many others."""
CLOSE = 0.3
"""Share of three-letter groups that two spellings have in common; common practice (the default of pg_trgm), no source."""
MOST_MEANT = 6


def keep_spellings(document: str) -> None:
    """Know the words of a document from now on."""
    words = {word for word in re.findall(r"\w+", document) if FEWEST_LETTERS <= len(word) <= MOST_LETTERS}
    Spelling.objects.bulk_create([Spelling(word=word) for word in sorted(words)], ignore_conflicts=True)


def respell(search: str) -> tuple[tuple[str, ...], ...]:
    """For each word of a search what may have been meant by it, itself among it; empty where no word is like any that is known."""
    meant = []
    for word in search.lower().split():
        close: list[str] = []
        if len(word) >= FEWEST_LETTERS:
            near = Spelling.objects.filter(word__trigram_similar=word).annotate(near=TrigramSimilarity("word", word))
            close = list(near.filter(near__gte=CLOSE).order_by("-near", "word").values_list("word", flat=True)[:MOST_MEANT])
        meant.append(tuple(dict.fromkeys([word, *close])))
    return tuple(meant) if any(len(words) > 1 for words in meant) else ()
