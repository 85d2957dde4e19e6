"""File formats, one module each. `formats()` finds them by walking this package."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from saucer.core.errors import LutError
from saucer.core.lut.table import LARGEST, SMALLEST, Lut


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

    tables: "1D", "3D", "1D + 3D" and "nodes", as far as it has them
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
            return min(max(size, SMALLEST), LARGEST)
        return next((one for one in self.sizes if one >= size), self.sizes[-1])


@dataclass(frozen=True)
class Format:
    """One LUT file format. sniff: is this file one of ours? read: bytes to Lut; write: Lut to bytes. Both raise LutError.

    `write` takes what `holds` allows; `fitting.fitted` makes any LUT so. The same LUT gives the same bytes.
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


@lru_cache(maxsize=1)
def formats() -> dict[str, Format]:
    """Every module of this package that defines FORMAT, by id. Raises RuntimeError when two claim the same id."""
    found: dict[str, Format] = {}
    for info in pkgutil.iter_modules(__path__):
        module = importlib.import_module(f"{__name__}.{info.name}")
        form = getattr(module, "FORMAT", None)
        if form is None:
            continue
        if form.id in found:
            raise RuntimeError(f'LUT format "{form.id}" is registered twice, the second time by {module.__name__}')
        found[form.id] = form
    return found


def format_for(path: str, chosen: str | None = None) -> Format:
    """The format with the id `chosen`, else the one with the suffix of `path`. Raises: LutError listing what there is."""
    for form in formats().values():
        if form.id == chosen or (chosen is None and path.lower().endswith(form.suffixes)):
            return form
    known = ", ".join(f"{form.id} ({' '.join(form.suffixes)})" for form in formats().values())
    raise LutError(path, f"no LUT format for this {'name' if chosen is None else 'choice'}; Saucer writes {known}")


def read_lut(data: bytes, name: str) -> tuple[Lut, Format]:
    """Recognise a LUT file by its content and read it. Raises: LutError whose place begins with `name`."""
    if not data.strip():
        raise LutError(name, "the file is empty")
    for form in formats().values():
        if form.sniff(data):
            try:
                return form.read(data), form
            except LutError as error:
                raise error.within(name) from None
    known = ", ".join(sorted({suffix for form in formats().values() for suffix in form.suffixes}))
    raise LutError(name, f"not a LUT file that Saucer reads (it reads {known}), going by its content")
