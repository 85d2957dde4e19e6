"""The .3dl text format: a lattice of whole numbers, blue fastest, under a line with its input mesh.

Sources: public descriptions of the format. The depth of the output is not declared by most files: it is found from the largest number,
as is common practice; a `Mesh` line (input bits, output bits) declares it.
"""

from __future__ import annotations

import math

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.lines import Text, comments, one_line, whole
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES, UNIT
from saucer.core.lut.numbers import write_whole_rows
from saucer.core.lut.table import Curve1D, Lattice, Lut

DEPTHS = (12, 16, 10, 8)
MESH_BITS = 10
SLACK = 2
"""Codes by which a mesh line may miss even spacing: programs round it in different ways."""
FEWEST = 4
"""Nodes a side: with three, the mesh line has three numbers and other readers take it for a row."""
TRAILERS = ("LUT8", "LUT10", "LUT12", "LUT16", "GAMMA")


def sniff(data: bytes) -> bool:
    try:
        first = Text(data[:65536]).peek()
    except LutError:
        return False
    words = first.split()
    if first.upper().startswith(("3DMESH", "MESH ")):
        return True
    return len(words) >= 2 and all(word.isascii() and word.isdigit() for word in words)


def _depth(largest: float) -> int:
    """The likely number of bits. A table that stays below its white is one of the next smaller depth at the most by half."""
    return next((bits for bits in (8, 10, 12, 14, 16) if largest <= 2 ** (bits + 1) - 1), 0)


def _mesh(words: list[str]) -> tuple[np.ndarray, int]:
    """The input mesh, 0..1, and its bits. Raises: LutError without a place"""
    if len(words) > MOST_NODES or len(words) < FEWEST_NODES:
        raise LutError("", f"the input mesh must have {FEWEST_NODES} to {MOST_NODES} numbers, got {len(words)}")
    mesh = np.array(whole(words, len(words), "the input mesh", 0, 65536), np.float64)
    if not (np.diff(mesh) > 0).all():
        raise LutError("", "the input mesh must rise")
    bits = _depth(mesh[-1])
    return mesh, bits


def read(data: bytes) -> Lut:
    """Raises: LutError with `line N`"""
    text = Text(data)
    line = text.take("the input mesh")
    declared = 0
    if line.upper() == "3DMESH":
        line = text.take("a Mesh line")
    try:
        if line.upper().startswith("MESH"):
            input_bits, declared = whole(line.split()[1:], 2, "Mesh", 1, 16)
            if not FEWEST_NODES <= 2**input_bits + 1 <= MOST_NODES:
                raise LutError("", f"Mesh {input_bits} is a lattice of {2**input_bits + 1}; {MOST_NODES} is the most")
            line = text.take("the input mesh")
        mesh, bits = _mesh(line.split())
    except LutError as error:
        raise error if error.place else text.here(error.problem) from None
    size = len(mesh)
    first_line = text.line
    rows = text.rows(size**3, 3, f"a mesh of {size}")
    for extra in iter(text.take, ""):
        if extra.split()[0].upper() not in TRAILERS:
            raise text.here(f'one row more than the {size**3} of a mesh of {size}: "{extra[:60]}"')
    wrong = np.flatnonzero((rows < 0).any(1) | (rows != np.floor(rows)).any(1))
    if wrong.size:
        number = next(value for value in rows[wrong[0]] if value < 0 or value != np.floor(value))
        raise LutError(f"line {first_line + int(wrong[0])}", f"expected whole numbers from 0, got {number:g}")
    largest = float(rows.max())
    depth = declared or _depth(largest)
    if not depth or largest > 2**depth + 1:
        raise LutError(f"line {first_line + int(rows.max(1).argmax())}", f"{largest:g} is more than {depth or 16} bits hold")
    lattice = Lattice((rows / np.float32(2**depth - 1)).reshape(size, size, size, 3))
    even = np.linspace(0, 2**bits - 1, size)
    uneven = np.abs(mesh - even).max() > SLACK and np.abs(mesh / mesh[-1] - even / even[-1]).max() > SLACK / mesh[-1]
    shaper = None
    if uneven:
        shaper = Curve1D(np.repeat((mesh / (2**bits - 1)).astype(np.float32)[:, None], 3, axis=1))
    words = tuple(word for word in comments(data) if not word.lower().startswith("tokens"))
    return Lut(shaper, lattice, comments=words)


def write(lut: Lut, options: Options = PLAIN) -> bytes:
    """Raises: LutError for anything but one lattice over 0..1"""
    if lut.lattice is None or lut.shaper is not None or lut.domain != UNIT:
        raise LutError("", "a .3dl file holds one lattice over 0..1 and nothing else")
    depth, size = options.depth or DEPTHS[0], lut.lattice.size
    lines = [f"# {one_line(word)}" for word in (lut.title, *lut.comments) if word]
    input_bits = math.log2(size - 1)
    if input_bits == int(input_bits) and input_bits > 0:
        lines += ["3DMESH", f"Mesh {int(input_bits)} {depth}"]
    mesh_bits = max(MESH_BITS, math.ceil(math.log2(size)) + 3)
    lines.append(" ".join(str(round(at)) for at in np.linspace(0, 2**mesh_bits - 1, size)))
    codes = np.floor(np.clip(lut.lattice.table, 0, 1).astype(np.float64) * (2**depth - 1) + 0.5).astype(np.uint32)
    return "\n".join([*lines, ""]).encode() + write_whole_rows(codes.reshape(-1, 3))


FORMAT = Format(
    "3dl", "3DL", (".3dl",), sniff, read, write,
    Holds(frozenset({"3D"}), depths=DEPTHS, sizes=tuple(range(FEWEST, MOST_NODES + 1)), beyond=False, words=True),
)  # fmt: skip
