"""The neutral charts that another program recolours.

The plain chart is a picture LUT. The **twin chart** shows every colour of a lattice as a flat patch in two far-apart places with different
neighbours, between bands of flat greys; a strip of light and dark cells at its top says which chart it is. How it is laid out is ours.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.picture_lut import as_file, identity
from saucer.core.lut.domain import grid

Kind = Literal["plain", "twin"]
FEWEST_COLOURS, MOST_COLOURS = 5, 65
PATCHES, DEFAULT_PATCH = (4, 16), 8
OFFERED = (17, 11, 9, 25, 33)
"""Sizes of twin charts that people are offered, the default first."""
MARGIN = 4
"""Pixels around the twin chart: patches then never line up with the 8 x 8 blocks of compression."""
STRIP_ROWS, BAND_ROWS, GREY_CELLS = 2, 8, 8
GREYS = (0.5, 0.25, 0.75, 0.1, 0.9)
FILL = 0.5
VERSION = 1
_BITS = 32


@dataclass(frozen=True)
class TwinLayout:
    """Where everything stands on a twin chart of size**3 colours with patches of `patch` pixels. Positions are in cells."""

    size: int
    patch: int = DEFAULT_PATCH

    def __post_init__(self) -> None:
        if not FEWEST_COLOURS <= self.size <= MOST_COLOURS:
            raise LutError("size", f"a twin chart has {FEWEST_COLOURS} to {MOST_COLOURS} colours a side, got {self.size}")
        if not PATCHES[0] <= self.patch <= PATCHES[1]:
            raise LutError("patch", f"patches are {PATCHES[0]} to {PATCHES[1]} pixels wide, got {self.patch}")

    @cached_property
    def columns(self) -> int:
        """Even, about 1.5 times as many as rows, and room for the strip."""
        wanted = math.ceil(math.sqrt(2 * self.size**3 * 1.5) / 2) * 2
        return max(wanted, _BITS + 4 + _BITS % 2)

    @cached_property
    def main_rows(self) -> int:
        return math.ceil(self.size**3 / (self.columns // 2))

    @property
    def rows(self) -> int:
        return STRIP_ROWS + 2 * BAND_ROWS + self.main_rows

    @property
    def width(self) -> int:
        return self.columns * self.patch + 2 * MARGIN

    @property
    def height(self) -> int:
        return self.rows * self.patch + 2 * MARGIN

    @cached_property
    def cells(self) -> np.ndarray:
        """(main_rows, columns) index of the colour in each cell, blue fastest; the left half holds each once, the right half once more.

        A colour's twin stands half the chart to the right, in a row that is shuffled anew in every column.
        """
        rng = np.random.default_rng(20_000 + self.size)
        half, count = self.columns // 2, self.size**3
        left = rng.permutation(np.arange(self.main_rows * half) % count).reshape(self.main_rows, half)
        right = np.stack([left[rng.permutation(self.main_rows), column] for column in range(half)], axis=1)
        return np.concatenate([left, right], axis=1)

    @property
    def main_top(self) -> int:
        """The first row of the colours, in cells."""
        return STRIP_ROWS + BAND_ROWS

    def greys(self) -> list[tuple[int, int, float]]:
        """Row and column, in cells, of every flat grey square of GREY_CELLS cells, and its value."""
        found = []
        for band, row in enumerate((STRIP_ROWS, self.rows - BAND_ROWS)):
            for index in range(self.columns // GREY_CELLS):
                found.append((row, index * GREY_CELLS, GREYS[(index + 2 * band) % len(GREYS)]))
        return found

    def bits(self) -> list[bool]:
        """Dark, light, then version, size and patch with a check sum, most significant first."""
        value = (VERSION << 24) | (self.size << 16) | (self.patch << 8)
        value |= (VERSION * 31 + self.size * 17 + self.patch * 7) & 0xFF
        return [False, True, *((value >> (_BITS - 1 - bit)) & 1 == 1 for bit in range(_BITS))]

    def picture(self) -> np.ndarray:
        """(height, width, 3) float32."""
        cells = np.full((self.rows, self.columns, 3), FILL, np.float32)
        for column, light in enumerate(self.bits()):
            cells[:STRIP_ROWS, column] = 1.0 if light else 0.0
        for row, column, value in self.greys():
            cells[row : row + BAND_ROWS, column : column + GREY_CELLS] = value
        cells[self.main_top : self.main_top + self.main_rows] = grid(self.size)[self.cells]
        inner = np.repeat(np.repeat(cells, self.patch, axis=0), self.patch, axis=1)
        return np.pad(inner, ((MARGIN, MARGIN), (MARGIN, MARGIN), (0, 0)), constant_values=FILL)


def layout_from_strip(pixels: np.ndarray) -> TwinLayout | None:
    """The layout that the strip of a recoloured twin chart declares, for each patch width tried; None where none is found.

    pixels: (h, w, 3) float32
    """
    luma = pixels.mean(axis=2)
    for patch in range(PATCHES[0], PATCHES[1] + 1):
        if pixels.shape[1] < (_BITS + 2) * patch + 2 * MARGIN or pixels.shape[0] < 2 * MARGIN + STRIP_ROWS * patch:
            continue
        middle = MARGIN + patch // 2 + np.arange(_BITS + 2) * patch
        rows = luma[MARGIN + patch // 2 : MARGIN + STRIP_ROWS * patch - patch // 2]
        levels = np.stack([rows[:, middle + shift].mean(axis=0) for shift in (-1, 0, 1)]).mean(axis=0)
        dark, light = levels[0], levels[1]
        if abs(light - dark) < 0.05:
            continue
        value = 0
        for level in levels[2:]:
            value = value << 1 | int(abs(level - light) < abs(level - dark))
        size = value >> 16 & 0xFF
        if value >> 24 != VERSION or value >> 8 & 0xFF != patch or not FEWEST_COLOURS <= size <= MOST_COLOURS:
            continue
        layout = TwinLayout(size, patch)
        if [False, True, *((value >> (_BITS - 1 - bit)) & 1 == 1 for bit in range(_BITS))] == layout.bits():
            return layout
    return None


def new_chart(
    kind: Kind, size: int, depth: int = 16, patch: int = DEFAULT_PATCH, suffix: str = ".png", layout: str = "hald"
) -> bytes:
    """A neutral chart as a picture file.

    size: nodes a side; of a plain Hald or tiles chart a square number
    depth: 8 or 16. Raises: LutError
    """
    if depth not in (8, 16):
        raise LutError("depth", f"must be 8 or 16 bits, got {depth}")
    if kind == "twin":
        return as_file(TwinLayout(size, patch).picture(), depth, suffix)
    root = math.isqrt(size)
    if layout != "strip" and (root * root != size or not 4 <= size <= 121):
        raise LutError("size", f"a plain chart has 4, 9, 16, 25, 36, 49, 64, 81, 100 or 121 nodes a side, got {size}")
    return as_file(identity(layout, size), depth, suffix)
