"""Square tiles in a picture: red across a tile, green down it, blue from tile to tile.

64 nodes are 8 x 8 tiles in 512 x 512. Common practice, no source.
"""

from __future__ import annotations

from saucer.core.files import PLAIN, Format, Holds, Options
from saucer.core.files.picture_lut import DEPTHS, SQUARES, is_layout, read_layout, write_layout
from saucer.core.lut.table import Lut


def sniff(data: bytes) -> bool:
    return is_layout(data, "tiles")


def read(data: bytes) -> Lut:
    return read_layout(data, "tiles")


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    return write_layout(lut, options, "tiles")


FORMAT = Format(
    "tiles",
    "Picture LUT, square tiles",
    (".png", ".tif", ".tiff"),
    sniff,
    read,
    write,
    Holds(frozenset({"3D"}), depths=DEPTHS, sizes=SQUARES, beyond=False),
)
