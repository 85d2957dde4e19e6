"""Patterns of names: text with {fields} and * in it, matched in one walk over the name. No expression is built from what people type."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

ANYTHING = "*"


@dataclass(frozen=True)
class _Piece:
    """Fields and stars that stand together, and the text behind them."""

    wilds: tuple[str, ...]
    text: str


@dataclass(frozen=True)
class Pattern:
    """begin: text in front of the first field or star. A field stands for a letter at least, a star for nothing too."""

    begin: str
    pieces: tuple[_Piece, ...]

    @property
    def fields(self) -> tuple[str, ...]:
        return tuple(one for piece in self.pieces for one in piece.wilds if one != ANYTHING)

    def match(self, name: str) -> Mapping[str, str] | None:
        """What each field stands for, as little as will do from the left; None where the name does not fit.

        Every piece is looked for behind the one before and never again, so this takes time in proportion to the name.
        """
        if not name.startswith(self.begin):
            return None
        found: dict[str, str] = {}
        at = len(self.begin)
        for index, piece in enumerate(self.pieces):
            least = at + sum(one != ANYTHING for one in piece.wilds)
            last = index == len(self.pieces) - 1
            end = len(name) - len(piece.text) if last else name.find(piece.text, least)
            if end < least or not name.startswith(piece.text, end):
                return None
            found.update(_share(piece.wilds, name[at:end]))
            at = end + len(piece.text)
        return found if at == len(name) else None


def _share(wilds: tuple[str, ...], text: str) -> Iterator[tuple[str, str]]:
    """Each that stands beside another takes as little as it may, the last one the rest."""
    for number, one in enumerate(wilds, 1):
        length = len(text) if number == len(wilds) else int(one != ANYTHING)
        if one != ANYTHING:
            yield one, text[:length]
        text = text[length:]


def read_pattern(text: str, known: frozenset[str]) -> Pattern:
    """known: names of fields; other words in braces are text"""
    pieces: list[_Piece] = []
    wilds: list[str] = []
    begin, plain, at = "", "", 0
    while at < len(text):
        field = next((one for one in known if text.startswith(f"{{{one}}}", at)), "")
        if not field and text[at] != ANYTHING:
            plain, at = plain + text[at], at + 1
            continue
        if plain or not wilds:
            if wilds:
                pieces.append(_Piece(tuple(wilds), plain))
            else:
                begin = plain
            wilds, plain = [], ""
        wilds.append(field or ANYTHING)
        at += len(field) + 2 if field else 1
    if not wilds:
        return Pattern(plain, ())
    return Pattern(begin, (*pieces, _Piece(tuple(wilds), plain)))
