"""Video clips frame by frame, at full depth: what a file says of itself, where each frame is, and its samples.

Frames are counted from 0 in the order they are shown. Decoding is done by a reader (`decoding`), in a process of its own.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np

from saucer.core.clips.coding import ClipInfo, Coding
from saucer.core.clips.decoding import Raw, StoredClip
from saucer.core.clips.yuv import Layout, to_rgb
from saucer.core.errors import PictureError
from saucer.core.reading.room import Session


@dataclass(frozen=True, eq=False)
class RawFrame:
    """Samples as they were decoded: Y, Cb, Cr planes, or red, green, blue with `coding` None."""

    number: int
    planes: tuple[np.ndarray, np.ndarray, np.ndarray]
    width: int
    height: int
    layout: Layout
    coding: Coding | None
    turn: int
    alpha: np.ndarray | None = None
    """(rows, at least as many columns) of the samples' bits, as it was decoded"""

    @property
    def comes_in_rows(self) -> bool:
        """Can some of its rows be had alone?"""
        return self.coding is not None and not self.turn

    def rows(self, top: int, bottom: int) -> np.ndarray:
        """(bottom - top, w, 3) float32 code values of one that comes in rows."""
        assert self.coding is not None
        return to_rgb(self.planes, self.width, self.height, self.layout, self.coding, 1, (top, bottom))

    def rgb(self, threads: int | None = None) -> np.ndarray:
        """(h, w, 3) float32 code values, upright."""
        if self.coding is None:
            peak = np.float32(2**self.layout.bits - 1)
            samples = np.stack([plane[: self.height, : self.width] for plane in self.planes], axis=-1)
            values = samples.astype(np.float32) / peak
        else:
            values = to_rgb(self.planes, self.width, self.height, self.layout, self.coding, threads)
        return np.ascontiguousarray(np.rot90(values, self.turn // 90)) if self.turn else values

    def alpha_plane(self) -> np.ndarray | None:
        """(h, w) of the samples' bits, upright."""
        if self.alpha is None:
            return None
        plane = self.alpha[: self.height, : self.width]
        return np.rot90(plane, self.turn // 90) if self.turn else plane


def inspect_clip(path: Path, name: str = "") -> ClipInfo:
    """Raises: PictureError for what is no clip, is interlaced, or damaged"""
    with ClipReader(path, name) as reader:
        return reader.info


class ClipReader:
    """A clip that is open. Not to be used by two threads at once.

    said: matrix and range that a person has said, in place of what the file says
    Raises: PictureError
    """

    def __init__(self, path: Path, name: str = "", said: Coding | None = None, threads: int = 0) -> None:
        self._place = name or path.name
        self._session = Session(StoredClip, path, self._place, said, threads, place=self._place)

    def __enter__(self) -> ClipReader:
        self.info: ClipInfo = self._session.open()
        return self

    def __exit__(self, *problem: Any) -> None:
        self._session.close()

    def frames(self, first: int = 0, last: int | None = None) -> Iterator[RawFrame]:
        """Frames first..last, both included. Raises: PictureError where one cannot be decoded, or is not there"""
        end = self.info.count - 1 if last is None else last
        self._check(first)
        self._check(end)
        for raw in self._session.each("frames", first, end):
            yield self._frame(raw)

    def times(self) -> tuple[np.ndarray, Fraction]:
        """When each frame is shown: (count) int64 from 0, and the length of one of these in seconds."""
        found: tuple[np.ndarray, Fraction] = self._session.call("times")
        return found

    def frame(self, number: int) -> RawFrame:
        """One frame; the one after the last is the quickest to get. Raises: PictureError"""
        self._check(number)
        return self._frame(self._session.call("frame", number))

    def _check(self, number: int) -> None:
        if not 0 <= number < self.info.count:
            raise PictureError(self._place, f"has frames 0 to {self.info.count - 1}, got {number}")

    def _frame(self, raw: Raw) -> RawFrame:
        number, planes, width, height, layout, alpha = raw
        return RawFrame(number, planes, width, height, layout, self.info.coding, self.info.turn, alpha)


def with_coding(info: ClipInfo, said: Coding) -> ClipInfo:
    """What it is once a person has said its matrix and range."""
    return replace(info, coding=said, matrix_from="person", range_from="person") if info.coding is not None else info
