"""What a LUT file format is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES
from saucer.core.lut.table import Lut


@dataclass(frozen=True)
class Options:
    """How a file is to be written, where its format leaves a choice.

    depth: bits of its whole numbers; 0 for the format's own first choice
    suffix: e.g. ".tif", where the format knows several; empty for its first
    """

    depth: int = 0
    suffix: str = ""


PLAIN = Options()


@dataclass(frozen=True)
class Holds:
    """What fits into a format.

    tables: "1D", "3D", "1D + 3D" and "links" (formulas beside tables), as far as it has them
    depths: bits of its whole numbers, its own first choice first; empty for floats
    sizes: nodes a side that it can have, None for every one of 2..129
    longest: samples of a 1D table
    domain: inputs outside 0..1; beyond: outputs outside 0..1; words: a title and comments
    """

    tables: frozenset[str]
    depths: tuple[int, ...] = ()
    sizes: tuple[int, ...] | None = None
    longest: int = 65536
    domain: bool = False
    beyond: bool = True
    words: bool = False

    def size_for(self, size: int) -> int:
        """The smallest size it can have that is not below `size`, else its largest."""
        if self.sizes is None:
            return min(max(size, FEWEST_NODES), MOST_NODES)
        return next((one for one in self.sizes if one >= size), self.sizes[-1])


@dataclass(frozen=True)
class Format:
    """One LUT file format. sniff: is this file one of ours? read: bytes to Lut; write: Lut to bytes. Both raise LutError.

    `write` takes what `holds` allows; `fitting.fit_lut` makes any LUT so. The same LUT gives the same bytes.
    """

    id: str
    name: str
    suffixes: tuple[str, ...]
    sniff: Callable[[bytes], bool]
    read: Callable[[bytes], Lut]
    write: Callable[[Lut, Options], bytes]
    holds: Holds

    @property
    def suffix(self) -> str:
        return self.suffixes[0]
