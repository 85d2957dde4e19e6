"""LUTs faded, put one behind the other, blended, reduced to what they do to grey."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_lattice, apply_lut
from saucer.core.lut.domain import UNIT, check_size, ramp, wider
from saucer.core.lut.invert import invert_curve
from saucer.core.lut.table import Curve1D, Lattice, Lut, lut_of
from saucer.core.lut.tables import CURVE_SIZE, DEFAULT_SIZE, as_tables, own_channels, sample_curve, sample_lattice


def fade_lut(lut: Lut, strength: float, convert: Callable[[np.ndarray], np.ndarray] | None = None) -> Lut:
    """The LUT faded for good: in + strength (out - in).

    convert: the input properly converted to what the LUT gives, where that is another encoding. Raises: LutError
    """
    if not 0 <= strength <= 1:
        raise LutError("strength", f"must be from 0 to 1, got {strength:g}")
    s = np.float32(strength)

    def faded(x: np.ndarray) -> np.ndarray:
        plain = x if convert is None else convert(x)
        return plain + s * (apply_lut(lut, x) - plain)

    tables = as_tables(lut)
    if tables.lattice is None:
        assert tables.shaper is not None
        curve = tables.shaper
        return Lut(Curve1D(faded(ramp(curve.size, curve.domain)), curve.domain), None, lut.title, lut.comments)
    if tables.shaper is None:
        return Lut(None, sample_lattice(faded, tables.size, tables.domain), lut.title, lut.comments)
    inverse = invert_curve(tables.shaper)
    lattice = tables.lattice
    return Lut(tables.shaper, sample_lattice(lambda x: faded(inverse(x)), lattice.size, lattice.domain), lut.title, lut.comments)


def compose(first: Lut, second: Lut, size: int | None = None, between: Callable[[np.ndarray], np.ndarray] | None = None) -> Lut:
    """What `second` makes of what `first` gives, as one LUT.

    between: a conversion from what the first gives to what the second expects. Raises: LutError
    """
    if all(own_channels(one.chain) == len(one.chain) for one in (first, second)) and between is None:
        return lut_of([sample_curve((*first.chain, *second.chain), first.domain, CURVE_SIZE)])

    def both(x: np.ndarray) -> np.ndarray:
        middle = apply_lut(first, x)
        return apply_lut(second, middle if between is None else between(middle))

    tables = as_tables(first)
    size = size or max(DEFAULT_SIZE, *(one.size for one in (first, second) if any(isinstance(n, Lattice) for n in one.chain)), 2)
    check_size(size)
    if tables.shaper is not None and tables.lattice is not None:
        lattice = tables.lattice

        def behind(x: np.ndarray) -> np.ndarray:
            middle = apply_lattice(lattice, x)
            return apply_lut(second, middle if between is None else between(middle))

        return Lut(tables.shaper, sample_lattice(behind, size, lattice.domain))
    return Lut(lattice=sample_lattice(both, size, first.domain))


def mix_luts(one: Lut, other: Lut, share: float, size: int | None = None) -> Lut:
    """(1 - share) of one and share of the other, over the wider of their domains. Raises: LutError"""
    if not 0 <= share <= 1:
        raise LutError("share", f"must be from 0 to 1, got {share:g}")
    domain = wider(one.domain, other.domain)
    s = np.float32(share)

    def mixed(x: np.ndarray) -> np.ndarray:
        a = apply_lut(one, x)
        return a + s * (apply_lut(other, x) - a)

    if all(lut.kind == "1D" for lut in (one, other)):
        count = max(one.size, other.size)
        return Lut(Curve1D(mixed(ramp(count, domain)), domain))
    size = size or max(lut.size if any(isinstance(n, Lattice) for n in lut.chain) else DEFAULT_SIZE for lut in (one, other))
    check_size(size)
    shaped = next((lut for lut in (one, other) if lut.shaper is not None and lut.lattice is not None), None)
    if shaped is not None and shaped.domain == domain:
        assert shaped.shaper is not None
        inverse = invert_curve(shaped.shaper)
        return Lut(shaped.shaper, sample_lattice(lambda x: mixed(inverse(x)), size, UNIT))
    return Lut(lattice=sample_lattice(mixed, size, domain))


def extract_grey_axis(lut: Lut, size: int = 1024) -> Lut:
    """A 1D LUT that does to each channel what the LUT does to grey."""
    return Lut(Curve1D(apply_lut(lut, ramp(size, lut.domain)), lut.domain), None, lut.title, lut.comments)
