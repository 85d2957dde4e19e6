"""The .spi3d text format: a lattice, each row with its place. Source: its public description, `SPILUT 1.0`."""

from __future__ import annotations

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.lines import Text, rows_text
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES, UNIT
from saucer.core.lut.table import Lattice, Lut


def sniff(data: bytes) -> bool:
    return data[:64].lstrip(b"\xef\xbb\xbf \t\r\n").upper().startswith(b"SPILUT")


def read(data: bytes) -> Lut:
    """Raises: LutError with `line N`"""
    text = Text(data)
    if text.take("SPILUT").split()[:1] != ["SPILUT"]:
        raise text.here("the file must begin with SPILUT")
    if text.take_whole(2, "the line under SPILUT", 0, 9) != (3, 3):
        raise text.here("only tables with 3 numbers in and 3 out are read")
    sizes = text.take_whole(3, "the size", FEWEST_NODES, MOST_NODES)
    size = sizes[0]
    if len(set(sizes)) != 1:
        raise text.here(f"the three sides must be equal, got {' '.join(map(str, sizes))}")
    first_line = text.line
    rows = text.rows(size**3, 6, f"a lattice of {size}")
    extra = text.take()
    if extra:
        raise text.here(f'one row more than the {size**3} of a lattice of {size}: "{extra[:60]}"')
    places = rows[:, :3]
    wrong = np.flatnonzero((places < 0).any(1) | (places >= size).any(1) | (places != np.floor(places)).any(1))
    if wrong.size:
        where = " ".join(f"{value:g}" for value in places[wrong[0]])
        raise LutError(f"line {first_line + int(wrong[0])}", f"the place {where} is not on a lattice of {size}")
    at = (places.astype(np.int64) @ np.array([size * size, size, 1])).astype(np.int64)
    counts = np.bincount(at, minlength=size**3)
    if counts.max() > 1:
        twice = int(np.argmax(counts > 1))
        second = int(np.flatnonzero(at == twice)[1])
        where = f"{twice // size**2} {twice // size % size} {twice % size}"
        raise LutError(f"line {first_line + second}", f"the place {where} stands twice")
    table = np.empty((size**3, 3), np.float32)
    table[at] = rows[:, 3:]
    return Lut(lattice=Lattice(table.reshape(size, size, size, 3)), comments=text.comments())


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """Raises: LutError for anything but one lattice over 0..1"""
    if lut.lattice is None or lut.shaper is not None or lut.domain != UNIT:
        raise LutError("", "a .spi3d file holds one lattice over 0..1 and nothing else")
    size = lut.lattice.size
    return f"SPILUT 1.0\n3 3\n{size} {size} {size}\n".encode() + rows_text(lut.lattice.table.reshape(-1, 3), size)


FORMAT = Format("spi3d", "SPI 3D", (".spi3d",), sniff, read, write, Holds(frozenset({"3D"})))
