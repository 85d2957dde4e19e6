"""LUTs laid out as pictures, PNG or TIFF with 8 or 16 bits. `tiles.py`, `strip.py` and `hald.py` are the three layouts.

Two layouts can have one size (a lattice of 64 in 512 x 512): the right one is that in which neighbours of the lattice differ least.
"""

from __future__ import annotations

import math
import tempfile
from collections.abc import Callable
from functools import lru_cache, partial
from pathlib import Path

import numpy as np

from saucer.core.errors import LutError, PictureError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES, UNIT, grid
from saucer.core.lut.table import Lattice, Lut
from saucer.core.pictures.io import Picture, inspect_picture, read_picture, write_picture
from saucer.core.pictures.stored import Depth, sniff

KINDS = {".png": "png", ".tif": "tiff"}
DEPTHS = (16, 8)
SQUARES = tuple(n * n for n in range(2, 12))
_NEW: dict[str, Depth] = {"8": "u8", "16": "u16"}


def tiles_layout(size: int) -> np.ndarray | None:
    """(height, width) indices into rows with blue fastest: square tiles, red across, green down, blue from tile to tile."""
    across = math.isqrt(size)
    if across * across != size:
        return None
    y, x = np.mgrid[: across * size, : across * size]
    return _index(size, x % size, y % size, (y // size) * across + x // size)


def strip_layout(size: int) -> np.ndarray | None:
    """As tiles, all in one row."""
    y, x = np.mgrid[:size, : size * size]
    return _index(size, x % size, y, x // size)


def hald_layout(size: int) -> np.ndarray | None:
    """Red fastest, then green, then blue, along the rows of a square picture; level L has L**2 nodes a side and L**3 pixels."""
    level = math.isqrt(size)
    if level * level != size:
        return None
    at = np.arange(size**3).reshape(level**3, level**3)
    return _index(size, at % size, at // size % size, at // size**2)


def _index(size: int, red: np.ndarray, green: np.ndarray, blue: np.ndarray) -> np.ndarray:
    return (red * size + green) * size + blue


LAYOUTS: dict[str, Callable[[int], np.ndarray | None]] = {"hald": hald_layout, "tiles": tiles_layout, "strip": strip_layout}


def sizes_of(width: int, height: int) -> dict[str, int]:
    """Nodes a side of every layout that a picture of these dimensions could have."""
    found = {}
    if width == height:
        size = round(width ** (2 / 3))
        level = math.isqrt(size)
        if level * level == size and level**3 == width and FEWEST_NODES <= size <= MOST_NODES:
            found = {"hald": size, "tiles": size}
    if width == height * height and FEWEST_NODES <= height <= MOST_NODES:
        found["strip"] = height
    return found


@lru_cache(maxsize=2)
def _pixels(data: bytes) -> tuple[np.ndarray, Depth]:
    try:
        with tempfile.NamedTemporaryFile(suffix=".tif" if sniff(data[:16]) == "tiff" else ".png") as file:
            file.write(data)
            file.flush()
            info = inspect_picture(Path(file.name), "picture")
            if info.kind not in KINDS.values():
                raise LutError("", f"a {info.kind.upper()} picture; a picture LUT is PNG or TIFF")
            if not sizes_of(info.width, info.height):
                known = ", ".join(str(level**3) for level in range(2, 12))
                raise LutError(
                    "", f"{info.width} x {info.height} is no picture LUT: tiles and Hald are {known} pixels square, "
                    "a strip is as wide as the square of its height",
                )  # fmt: skip
            if info.depth not in ("u8", "u16"):
                raise LutError("", "a picture LUT has 8 or 16 bits, this one holds floats")
            picture = read_picture(Path(file.name), "picture")
    except PictureError as error:
        raise LutError("", error.problem) from None
    return picture.pixels, picture.depth


def _kind(data: bytes) -> bool:
    return sniff(data[:16]) in KINDS.values()


@lru_cache(maxsize=4)
def _layout(data: bytes) -> str:
    """The name of the layout, empty for a picture that is no LUT."""
    try:
        pixels, _ = _pixels(data)
    except LutError:
        return ""
    flat = pixels.reshape(-1, 3)
    best, least = "", math.inf
    for name, size in sizes_of(pixels.shape[1], pixels.shape[0]).items():
        table = _table(flat, name, size)
        rough = sum(float(np.abs(np.diff(table, axis=axis)).mean()) for axis in range(3))
        if rough < least:
            best, least = name, rough
    return best


def _table(flat: np.ndarray, name: str, size: int) -> np.ndarray:
    layout = LAYOUTS[name](size)
    assert layout is not None
    rows = np.empty_like(flat)
    rows[layout.reshape(-1)] = flat
    return rows.reshape(size, size, size, 3)


def is_layout(data: bytes, name: str) -> bool:
    """Is this picture a LUT in this layout? A picture of no LUT's size is taken by the first, whose reader says what is wrong."""
    if not _kind(data):
        return False
    found = _layout(data)
    return found == name or (not found and name == "hald")


def read_layout(data: bytes, name: str) -> Lut:
    """Raises: LutError"""
    pixels, _ = _pixels(data)
    sizes = sizes_of(pixels.shape[1], pixels.shape[0])
    if name not in sizes:
        raise LutError("", f"{pixels.shape[1]} x {pixels.shape[0]} is no size of this layout")
    return Lut(lattice=Lattice(_table(pixels.reshape(-1, 3), name, sizes[name])))


def write_layout(lut: Lut, options: Options, name: str) -> bytes:
    """Raises: LutError for anything but one lattice over 0..1 of a size that the layout has"""
    if lut.lattice is None or lut.shaper is not None or lut.domain != UNIT:
        raise LutError("", "a picture LUT holds one lattice over 0..1 and nothing else")
    layout = LAYOUTS[name](lut.lattice.size)
    if layout is None:
        raise LutError("", f"no picture of this layout holds {lut.lattice.size} nodes a side")
    return as_file(lut.lattice.table.reshape(-1, 3)[layout], options.depth or DEPTHS[0], options.suffix or ".png")


def as_file(pixels: np.ndarray, depth: int, suffix: str) -> bytes:
    """(h, w, 3) float32 as the bytes of a picture file."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"lut{suffix}"
        write_picture(Picture(np.ascontiguousarray(pixels), _NEW[str(depth)]), path)
        return path.read_bytes()


def identity(name: str, size: int) -> np.ndarray:
    """(h, w, 3) float32: the neutral picture of a layout."""
    layout = LAYOUTS[name](size)
    assert layout is not None
    return grid(size)[layout]


def layout_format(layout: str, title: str) -> Format:
    """The file format of one layout."""

    def write(lut: Lut, options: Options = PLAIN) -> bytes:
        return write_layout(lut, options, layout)

    sizes = SQUARES if layout != "strip" else None
    return Format(
        layout, title, (".png", ".tif", ".tiff"), partial(is_layout, name=layout), partial(read_layout, name=layout), write,
        Holds(frozenset({"3D"}), depths=DEPTHS, sizes=sizes, beyond=False),
    )  # fmt: skip
