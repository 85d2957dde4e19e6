"""Reading a recoloured chart back as a LUT, with the verdict on what else got in.

Charts that were resized, cropped or turned are refused by name.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.picture_lut import LAYOUTS, sizes_of
from saucer.core.lut.domain import grid
from saucer.core.lut.health import CODE, roughness
from saucer.core.lut.repairs import smooth_table
from saucer.core.lut.table import Lattice, Lut
from saucer.core.making.roundtrip.chart import (
    DEFAULT_PATCH,
    FEWEST_COLOURS,
    MOST_COLOURS,
    OFFERED,
    PATCHES,
    Kind,
    TwinLayout,
    layout_from_strip,
)
from saucer.core.making.roundtrip.verdict import CODES, Effect, Measures, measure_chart, middles, name_effects
from saucer.core.pictures.io import read_picture, upright

_TURNS = {2: "mirrored", 3: "turned upside down", 4: "mirrored upside down", 5: "turned and mirrored", 6: "turned by 90 degrees",
          7: "turned and mirrored", 8: "turned by 270 degrees"}  # fmt: skip
ROUGH_AT = 1.0


@dataclass(frozen=True, eq=False)
class ReadBack:
    """A chart read back.

    lut: as it stands; smooth: with what the verdict found taken out as far as it can be
    found: what got in, the strongest first; measured: of a twin chart, everything that was looked at
    """

    kind: Kind
    size: int
    depth: str
    lut: Lut
    smooth: Lut
    found: tuple[Effect, ...]
    measured: Measures | None

    @property
    def verdict(self) -> str:
        if self.found:
            return "; ".join(f"{one.title}: {one.sentence}" for one in self.found)
        if self.kind == "plain":
            return (
                "Smooth, as far as a plain chart can tell: vignettes and soft effects do not show in it. A twin chart shows them."
            )
        return "Clean: the colours alone decide what they become."


@dataclass(frozen=True)
class Expected:
    """The chart that was made, where that is known; the size and patch of a twin chart also stand in its own strip."""

    kind: Kind
    size: int
    patch: int = DEFAULT_PATCH
    layout: str = "hald"

    @property
    def dimensions(self) -> tuple[int, int]:
        """Width and height."""
        if self.kind == "twin":
            made = TwinLayout(self.size, self.patch)
            return made.width, made.height
        picture = LAYOUTS[self.layout](self.size)
        assert picture is not None
        return picture.shape[1], picture.shape[0]


def read_chart(path: Path, name: str = "", expected: Expected | None = None) -> ReadBack:
    """Raises: LutError for a chart that was resized, cropped, turned, or is none; PictureError"""
    place = name or path.name
    picture = read_picture(path, place)
    try:
        return _read(picture.pixels, picture.depth, expected)
    except LutError as error:
        raise LutError(place, error.problem) from None


def _read(pixels: np.ndarray, depth: str, expected: Expected | None) -> ReadBack:
    height, width = pixels.shape[:2]
    if expected is not None and (width, height) != expected.dimensions:
        raise LutError("", _refusal(width, height, *expected.dimensions))
    layout = layout_from_strip(pixels)
    if layout is not None and (width, height) != (layout.width, layout.height):
        raise LutError("", _refusal(width, height, layout.width, layout.height))
    if layout is not None and (expected is None or expected.kind == "twin"):
        return _twin(pixels, depth, layout)
    for turn, words in _TURNS.items():
        back = layout_from_strip(np.ascontiguousarray(upright(pixels, turn)))
        if back is not None:
            raise LutError("", f"the chart was {words}; turn it back, so that its strip of light and dark cells is at the top left")
    if expected is not None and expected.kind == "twin":
        raise LutError("", "the strip at the top of the twin chart cannot be read: it was cropped, moved or painted over")
    if expected is not None:
        return _plain(pixels, depth, expected.layout)
    sizes = sizes_of(width, height)
    if sizes:
        return _plain(pixels, depth, min(sizes, key=lambda one: _rough(pixels, one, sizes[one])))
    raise LutError("", _unknown(width, height))


def _refusal(width: int, height: int, was_width: int, was_height: int) -> str:
    same_shape = abs(width / height - was_width / was_height) < 0.01
    if (width, height) == (was_height, was_width):
        return f"the chart was turned: it is {width} x {height}, made as {was_width} x {was_height}; turn it back"
    if same_shape:
        return f"the chart was resized from {was_width} x {was_height} to {width} x {height}; export it at its own size"
    return f"the chart was cropped: it is {width} x {height}, made as {was_width} x {was_height}; export all of it"


def _is_resized(width: int, height: int, made: TwinLayout) -> bool:
    """Could it be that chart, scaled? Programs round, cut or extend each side by up to a pixel."""
    low = max((width - 1) / made.width, (height - 1) / made.height)
    high = min((width + 1) / made.width, (height + 1) / made.height)
    return low <= high and width != made.width


def _likely_charts() -> Iterator[TwinLayout]:
    """Those that people make first: the sizes that are offered, then every other one, in patches as they are by default before others."""
    others = [size for size in range(FEWEST_COLOURS, MOST_COLOURS + 1) if size not in OFFERED]
    for patch in (DEFAULT_PATCH, *(one for one in range(PATCHES[0], PATCHES[1] + 1) if one != DEFAULT_PATCH)):
        for size in (*OFFERED, *others):
            yield TwinLayout(size, patch)


def _unknown(width: int, height: int) -> str:
    """What happened to a picture whose dimensions are no chart's."""
    for made in _likely_charts():
        if _is_resized(width, height, made):
            was = f"{made.width} x {made.height}"
            return f"{width} x {height} is no chart's size; it may be a twin chart of {made.size} that was resized from {was}"
    if width == height:
        nearest = round(width ** (1 / 3))
        return f"{width} x {height} is no chart's size; a plain chart that was resized or cropped? {nearest**3} x {nearest**3} would be one"
    return f"{width} x {height} is no chart's size: it was cropped, or it is not one of our charts"


def _rough(pixels: np.ndarray, name: str, size: int) -> float:
    table = _table(pixels, name, size)
    return sum(float(np.abs(np.diff(table, axis=axis)).mean()) for axis in range(3))


def _table(pixels: np.ndarray, name: str, size: int) -> np.ndarray:
    picture = LAYOUTS[name](size)
    assert picture is not None
    rows = np.empty((size**3, 3), np.float32)
    rows[picture.reshape(-1)] = pixels.reshape(-1, 3)
    return rows.reshape(size, size, size, 3)


def _follows(table: np.ndarray) -> float:
    """How well channels follow their own axes, -3..3. A recolouring leaves it near 3; a turn mixes the axes or reverses them."""
    size = len(table)
    inputs, outputs = grid(size).astype(np.float64), table.reshape(-1, 3).astype(np.float64)
    total = 0.0
    for channel in range(3):
        a, b = inputs[:, channel] - inputs[:, channel].mean(), outputs[:, channel] - outputs[:, channel].mean()
        total += float((a * b).sum() / max(np.sqrt((a * a).sum() * (b * b).sum()), 1e-12))
    return total


def _plain(pixels: np.ndarray, depth: str, name: str) -> ReadBack:
    size = sizes_of(pixels.shape[1], pixels.shape[0])[name]
    table = _table(pixels, name, size)
    follows = {1: _follows(table)}
    for turn in _TURNS:
        turned = np.ascontiguousarray(upright(pixels, turn))
        if sizes_of(turned.shape[1], turned.shape[0]).get(name) == size:
            follows[turn] = _follows(_table(turned, name, size))
    best = max(follows, key=lambda turn: follows[turn])
    if follows[best] > follows[1] + 0.5:
        raise LutError("", f"the chart was {_TURNS[best]}; turn it back")
    level = roughness(table)
    found: tuple[Effect, ...] = ()
    codes = level * CODE * CODES
    if level > ROUGH_AT * 2.2 if depth == "u8" else level > ROUGH_AT:
        words = (
            f"Neighbouring colours scatter by {codes:.1f} of 255 codes: grain, compression or sharpening. A twin chart tells which."
        )
        found = (Effect("rough", "Rough", codes, words),)
    lut = Lut(lattice=Lattice(table))
    return ReadBack("plain", size, depth, lut, Lut(lattice=Lattice(smooth_table(table))), found, None)


def _twin(pixels: np.ndarray, depth: str, layout: TwinLayout) -> ReadBack:
    seen = measure_chart(pixels, layout)
    found = name_effects(seen)
    colours = middles(pixels, layout)
    table = _average(colours, layout)
    corrected = seen.without_vignette(colours) if any(one.id == "vignette" for one in found) else colours
    smooth = _average(corrected, layout)
    if found:
        smooth = np.clip(smooth_table(smooth), 0, 1)
    return ReadBack("twin", layout.size, depth, Lut(lattice=Lattice(table)), Lut(lattice=Lattice(smooth)), found, seen)


def _average(colours: np.ndarray, layout: TwinLayout) -> np.ndarray:
    """(n, n, n, 3) means of the places of every colour."""
    flat, count = layout.cells.reshape(-1), layout.size**3
    places = np.bincount(flat, minlength=count)
    sums = [np.bincount(flat, weights=colours[..., channel].reshape(-1), minlength=count) for channel in range(3)]
    table = np.stack(sums, axis=-1) / places[:, None]
    return table.reshape(layout.size, layout.size, layout.size, 3).astype(np.float32)
