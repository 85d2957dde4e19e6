"""Hald: red fastest along the rows of a square picture; level 8 is 512 x 512.

Source: the public description of Hald CLUT identity pictures.
"""

from __future__ import annotations

from saucer.core.files import PLAIN, Format, Holds, Options
from saucer.core.files.picture_lut import DEPTHS, SQUARES, is_layout, read_layout, write_layout
from saucer.core.lut.table import Lut


def sniff(data: bytes) -> bool:
    return is_layout(data, "hald")


def read(data: bytes) -> Lut:
    return read_layout(data, "hald")


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    return write_layout(lut, options, "hald")


FORMAT = Format(
    "hald",
    "Picture LUT, Hald",
    (".png", ".tif", ".tiff"),
    sniff,
    read,
    write,
    Holds(frozenset({"3D"}), depths=DEPTHS, sizes=SQUARES, beyond=False),
)
