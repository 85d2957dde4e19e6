"""Tables out of any LUT: chains of formulas sampled, lattices resized, another input range."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_curve, apply_lattice, apply_lut
from saucer.core.lut.domain import UNIT, Bounds, check_size, grid, ramp
from saucer.core.lut.formulas import per_channel
from saucer.core.lut.table import Curve1D, Lattice, Link, Lut, lut_of

CURVE_SIZE = 4096
DEFAULT_SIZE = 33


def through_links(chain: tuple[Link, ...], values: np.ndarray) -> np.ndarray:
    return apply_lut(lut_of(chain), values) if chain else values


def own_channels(chain: tuple[Link, ...]) -> int:
    """How many of the first links leave every channel to itself."""
    for count, link in enumerate(chain):
        if not isinstance(link, Curve1D) and not per_channel(link):
            return count
    return len(chain)


def sample_curve(chain: tuple[Link, ...], domain: Bounds, size: int) -> Curve1D:
    return Curve1D(through_links(chain, ramp(size, domain)), domain)


def lattice_domain(samples: np.ndarray) -> Bounds:
    """What a lattice behind this shaper is asked for, widened to 0..1 where it is narrower."""
    low, high = np.minimum(samples.min(axis=0), 0), np.maximum(samples.max(axis=0), 1)
    return tuple(map(float, low)), tuple(map(float, high))  # type: ignore[return-value]


def as_tables(lut: Lut, size: int | None = None) -> Lut:
    """A 1D table, a lattice or both: the LUT itself if it is that already, else its chain sampled.

    size: nodes a side of the lattice; without, that of its largest lattice, or 33. Raises: LutError
    """
    if not lut.links:
        return lut
    size = size or next((n.size for n in lut.chain if isinstance(n, Lattice) and n.size == lut.size), DEFAULT_SIZE)
    check_size(size)
    domain = lut.domain
    split = own_channels(lut.chain)
    front, rest = lut.chain[:split], lut.chain[split:]
    if not rest:
        return lut_of([sample_curve(front, domain, CURVE_SIZE)], lut.title, lut.comments)
    if not front:
        return lut_of([sample_lattice(lambda x: through_links(rest, x), size, domain)], lut.title, lut.comments)
    curve = sample_curve(front, domain, CURVE_SIZE)
    inner = lattice_domain(curve.samples)
    low, high = (np.array(bound, np.float32) for bound in inner)
    if inner != UNIT:  # formats expect what leaves a shaper within 0..1
        curve = Curve1D((curve.samples - low) / (high - low), domain)
    lattice = sample_lattice(lambda x: through_links(rest, low + x * (high - low)), size, UNIT)
    return lut_of([curve, lattice], lut.title, lut.comments)


def sample_lattice(function: Callable[[np.ndarray], np.ndarray], size: int, domain: Bounds) -> Lattice:
    return Lattice(np.asarray(function(grid(size, domain)), np.float32).reshape(size, size, size, 3), domain)


def sample_whole(lut: Lut, size: int, domain: Bounds | None = None) -> Lut:
    """One lattice that does what the whole LUT does, over `domain` or the LUT's own. Raises: LutError"""
    check_size(size)
    lattice = sample_lattice(lambda x: apply_lut(lut, x), size, domain or lut.domain)
    return Lut(lattice=lattice, title=lut.title, comments=lut.comments)


def resize(lut: Lut, size: int) -> Lut:
    """Its lattice with `size` nodes a side, read by tetrahedral interpolation; its curves stay. Raises: LutError for a 1D LUT"""
    check_size(size)
    tables = as_tables(lut, size if lut.links else None)
    if tables.lattice is None:
        raise LutError("size", "a 1D LUT has no lattice to resize")
    lattice = tables.lattice
    if lattice.size == size:
        return tables
    return replace(tables, lattice=sample_lattice(lambda x: apply_lattice(lattice, x), size, lattice.domain))


def change_domain(lut: Lut, domain: Bounds) -> Lut:
    """The same LUT asked over another input range: cropped where it is smaller, held at its faces where it is larger. Raises: LutError"""
    if not all(low < high for low, high in zip(*domain, strict=True)):
        raise LutError("domain", f"must rise in every channel, got {domain[0]} to {domain[1]}")
    tables = as_tables(lut)
    if tables.shaper is not None:
        curve = tables.shaper
        return replace(tables, shaper=Curve1D(apply_curve(curve, ramp(curve.size, domain)), domain))
    return sample_whole(tables, tables.size, domain)
