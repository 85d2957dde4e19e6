"""Numbered frame sequences: files whose names differ in one number only."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator
from contextlib import AbstractContextManager
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import Literal

import numpy as np

from saucer.core.errors import PictureError
from saucer.core.pictures.io import read_picture

_NUMBERED = re.compile(r"^(.*?)(\d+)(\.[A-Za-z0-9]+)$")
MOST_MISSING_TOLD = 12
Gaps = Literal["refuse", "leave", "hold"]
"""What becomes of a sequence that lacks frames: refused, taken without them, or with the frame before in the place of each."""


@dataclass(frozen=True)
class Sequence:
    """names: by frame number, those that are there"""

    stem: str
    digits: int
    suffix: str
    names: dict[int, str]

    @property
    def first(self) -> int:
        return min(self.names)

    @property
    def last(self) -> int:
        return max(self.names)

    @cached_property
    def missing(self) -> list[int]:
        return [number for number in range(self.first, self.last + 1) if number not in self.names]

    @property
    def title(self) -> str:
        return self.stem.rstrip("._- ") or self.name_of(self.first)

    @property
    def gaps(self) -> str:
        """Which frames are missing, in words; empty for none."""
        return runs_of(self.missing)

    def held(self) -> list[str]:
        """The names of all frames from the first to the last; where one is missing that of the frame before it."""
        found: list[str] = []
        for number in range(self.first, self.last + 1):
            found.append(self.names.get(number) or found[-1])
        return found

    def name_of(self, number: int) -> str:
        return self.names.get(number, f"{self.stem}{number:0{self.digits}d}{self.suffix}")


def spans_of(numbers: Iterable[int]) -> list[tuple[int, int]]:
    """First and last of each unbroken run, in order."""
    spans: list[tuple[int, int]] = []
    for number in sorted(numbers):
        if spans and number == spans[-1][1] + 1:
            spans[-1] = (spans[-1][0], number)
        else:
            spans.append((number, number))
    return spans


def runs_of(numbers: Iterable[int]) -> str:
    """Numbers as people write them: 3, 7 to 9, 12"""
    words = [str(low) if low == high else f"{low} to {high}" for low, high in spans_of(numbers)]
    more = len(words) - MOST_MISSING_TOLD
    return ", ".join(words[:MOST_MISSING_TOLD] + ([f"and {more} more"] if more > 0 else []))


def find_sequences(names: Iterable[str]) -> tuple[list[Sequence], list[str]]:
    """The sequences among these names, by name, two frames or more each; and the names that belong to none.

    Two files of the same number (shot_1.png, shot_01.png) are of two sequences: the count of digits tells them apart, but for numbers
    that have outgrown it (99, 100).
    """
    groups: dict[tuple[str, str], dict[str, str]] = defaultdict(dict)
    others = []
    for name in names:
        found = _NUMBERED.match(name)
        if found:
            groups[found[1], found[3].lower()][found[2]] = name
        else:
            others.append(name)
    sequences = []
    for (stem, suffix), named in groups.items():
        for digits, members in _by_digits(named).items():
            if len(members) < 2:
                others += members.values()
            else:
                sequences.append(Sequence(stem, digits, suffix, members))
    return sorted(sequences, key=lambda one: (one.stem, one.digits)), sorted(others)


def _by_digits(named: dict[str, str]) -> dict[int, dict[int, str]]:
    """Padded numbers by how many digits they have; numbers without leading zeros with whichever they go on from, else together."""
    padded = {len(text) for text in named if text.startswith("0") and len(text) > 1}
    found: dict[int, dict[int, str]] = defaultdict(dict)
    for text, name in named.items():
        digits = len(text)
        if digits not in padded:
            shorter = [one for one in padded if one < digits]
            digits = max(shorter) if shorter else 1
        found[digits][int(text)] = name
    return found


def require_whole(sequence: Sequence, place: str) -> None:
    """Raises: PictureError naming the frames that are missing"""
    if sequence.missing:
        one = len(sequence.missing) == 1
        told = f"{'frame' if one else 'frames'} {sequence.gaps} of {sequence.first} to {sequence.last}"
        raise PictureError(place, f"{told} {'is missing; add it' if one else 'are missing; add them'}, or rename")


@dataclass(frozen=True, eq=False)
class StillFrame:
    """A frame of a sequence; it is read when it is asked for."""

    number: int
    place: Callable[[int], AbstractContextManager[Path]]
    name: str

    def rgb(self, threads: int | None = None) -> np.ndarray:
        """(h, w, 3) float32 code values. Raises: PictureError"""
        del threads
        with self.place(self.number) as path:
            return read_picture(path, self.name).pixels


class SequenceReader:
    """Files as the frames of a moving picture, counted from 0. place: from a number to a path for as long as it is read"""

    def __init__(self, names: list[str], place: Callable[[int], AbstractContextManager[Path]]) -> None:
        self._names, self._place = names, place

    def frame(self, number: int) -> StillFrame:
        """Raises: PictureError for a frame that is not there"""
        if not 0 <= number < len(self._names):
            raise PictureError(self._names[0], f"has frames 0 to {len(self._names) - 1}, got {number}")
        return StillFrame(number, self._place, self._names[number])

    def frames(self, first: int = 0, last: int | None = None) -> Iterator[StillFrame]:
        for number in range(first, len(self._names) if last is None else last + 1):
            yield self.frame(number)
