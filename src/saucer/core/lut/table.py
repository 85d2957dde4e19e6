"""LUT tables: a 1D table, a 3D lattice, or a 1D shaper in front of a lattice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES, UNIT, Bounds
from saucer.core.lut.formulas import Formula
from saucer.core.lut.kernels import swap_ends
from saucer.core.reading.passing import passed

MOST_SAMPLES = 65536


def _checked(samples: np.ndarray, domain: Bounds, place: str) -> np.ndarray:
    if not np.isfinite(samples).all():
        at = np.argwhere(~np.isfinite(samples))[0]
        raise LutError(place, f"entry {tuple(int(i) for i in at)} is not a finite number")
    if not all(low < high for low, high in zip(*domain, strict=True)):
        raise LutError(place, f"the domain must rise in every channel, got {domain[0]} to {domain[1]}")
    return np.ascontiguousarray(samples, np.float32)


@passed
@dataclass(frozen=True, eq=False)
class Curve1D:
    """samples (n, 3) float32, evenly spaced over `domain` (lowest and highest input per channel)."""

    samples: np.ndarray
    domain: Bounds = UNIT

    def __post_init__(self) -> None:
        if self.samples.ndim != 2 or self.samples.shape[1] != 3 or not 2 <= len(self.samples) <= MOST_SAMPLES:
            raise LutError("1D table", f"needs 2 to {MOST_SAMPLES} rows of three numbers, got shape {self.samples.shape}")
        object.__setattr__(self, "samples", _checked(self.samples, self.domain, "1D table"))

    @property
    def size(self) -> int:
        return len(self.samples)

    @cached_property
    def planar(self) -> np.ndarray:
        """(3, n) float32, as the kernel reads it."""
        return np.ascontiguousarray(self.samples.T)


@passed
@dataclass(frozen=True, eq=False)
class Lattice:
    """table[r, g, b] -> (3,) float32, n nodes a side, evenly spaced over `domain`."""

    table: np.ndarray
    domain: Bounds = UNIT

    def __post_init__(self) -> None:
        size = self.table.shape[0] if self.table.ndim == 4 else 0
        if self.table.shape != (size, size, size, 3) or not FEWEST_NODES <= size <= MOST_NODES:
            raise LutError(
                "3D table", f"needs {FEWEST_NODES} to {MOST_NODES} nodes a side of three numbers, got shape {self.table.shape}"
            )
        object.__setattr__(self, "table", _checked(self.table, self.domain, "3D table"))

    @property
    def size(self) -> int:
        return int(self.table.shape[0])

    @cached_property
    def padded(self) -> np.ndarray:
        """(4 * n**3,) float32, four floats a node, 16-byte aligned for the kernel's vector loads."""
        count = self.size**3
        room = np.zeros(4 * count + 4, np.float32)
        start = -room.ctypes.data % 16 // 4
        padded = room[start : start + 4 * count]
        padded.reshape(count, 4)[:, :3] = self.table.reshape(count, 3)
        return padded


Link = Curve1D | Lattice | Formula


@passed
@dataclass(frozen=True, eq=False)
class Lut:
    """What a LUT file holds: a 1D table (`shaper` alone), a 3D table, both, or a chain of tables and exact formulas (`links`)."""

    shaper: Curve1D | None = None
    lattice: Lattice | None = None
    title: str = ""
    comments: tuple[str, ...] = field(default=())
    links: tuple[Link, ...] = ()

    def __post_init__(self) -> None:
        if self.links and (self.shaper is not None or self.lattice is not None):
            raise LutError("LUT", "a chain of links has no shaper or lattice of its own")
        if not self.chain:
            raise LutError("LUT", "holds neither a 1D nor a 3D table")

    @cached_property
    def chain(self) -> tuple[Link, ...]:
        """What a colour goes through, in order."""
        return self.links or tuple(part for part in (self.shaper, self.lattice) if part is not None)

    @property
    def kind(self) -> str:
        """ "1D", "3D", "1D + 3D" or the names of the links."""
        return " + ".join(
            "1D" if isinstance(n, Curve1D) else "3D" if isinstance(n, Lattice) else type(n).__name__ for n in self.chain
        )

    @property
    def size(self) -> int:
        """Nodes a side of the largest lattice, without one samples of the longest 1D table, without tables 0."""
        sides = [node.size for node in self.chain if isinstance(node, Lattice)]
        return max(sides or [node.size for node in self.chain if isinstance(node, Curve1D)], default=0)

    @property
    def domain(self) -> Bounds:
        """The input range of the first table; 0..1 where a formula comes first."""
        first = self.chain[0]
        return first.domain if isinstance(first, Curve1D | Lattice) else UNIT

    @property
    def tables(self) -> list[np.ndarray]:
        """(n, 3) float32 entries of every table."""
        found = [
            node.samples if isinstance(node, Curve1D) else node.table for node in self.chain if isinstance(node, Curve1D | Lattice)
        ]
        return [table.reshape(-1, 3) for table in found]

    @property
    def nbytes(self) -> int:
        """Bytes it takes once it was used: a lattice is kept a second time, padded for the kernel."""
        return sum(table.nbytes + table.nbytes * 4 // 3 for table in self.tables)

    def titled(self, title: str, comments: tuple[str, ...] = ()) -> Lut:
        return replace(self, title=title, comments=comments)


def lut_of(chain: Sequence[Link], title: str = "", comments: tuple[str, ...] = ()) -> Lut:
    """The plainest LUT that holds this chain: one 1D table, one lattice, both in this order, or links."""
    match tuple(chain):
        case (Curve1D() as shaper,):
            return Lut(shaper, None, title, comments)
        case (Lattice() as lattice,):
            return Lut(None, lattice, title, comments)
        case (Curve1D() as shaper, Lattice() as lattice):
            return Lut(shaper, lattice, title, comments)
    return Lut(title=title, comments=comments, links=tuple(chain))


def red_fastest(rows: np.ndarray, size: int) -> np.ndarray:
    """(size**3, 3) float32 rows with blue running fastest, as table[r, g, b] lies, to red fastest, as files have them; or back."""
    out = np.empty((size**3, 3), np.float32)
    swap_ends(np.ascontiguousarray(rows, np.float32), size, out)
    return out
