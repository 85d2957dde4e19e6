"""Tiles in one row: n**2 x n pixels. Common practice, no source."""

from __future__ import annotations

from saucer.core.files import PLAIN, Format, Holds, Options
from saucer.core.files.picture_lut import DEPTHS, is_layout, read_layout, write_layout
from saucer.core.lut.table import Lut


def sniff(data: bytes) -> bool:
    return is_layout(data, "strip")


def read(data: bytes) -> Lut:
    return read_layout(data, "strip")


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    return write_layout(lut, options, "strip")


FORMAT = Format(
    "strip",
    "Picture LUT, strip",
    (".png", ".tif", ".tiff"),
    sniff,
    read,
    write,
    Holds(frozenset({"3D"}), depths=DEPTHS, beyond=False),
)
