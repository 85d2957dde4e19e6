"""Mends of a LUT, where they are safe: smooth, put channels in order, legal to full range, extend the range, resize."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.health import BLACK, CHI_MEDIAN, WHITE, Repair, channel_order, unevenness
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.lut.tables import as_tables, change_domain, resize

LIGHTEST, HEAVIEST = -6, 16
"""Weights of smoothing that are tried, as powers of 2."""


def repair(lut: Lut, how: Repair, size: int = 33) -> Lut:
    """A healthier LUT. Raises: LutError where this mend does not apply"""
    tables = as_tables(lut)
    if how == "resize":
        return resize(tables, size)
    if how == "full-range":
        return _each(tables, lambda table: (table - np.float32(BLACK)) / np.float32(WHITE - BLACK))
    if how == "extend":
        return extend_domain(tables)
    if tables.lattice is None:
        raise LutError(how, "is for a lattice; this LUT is 1D")
    if how == "unswap":
        order = channel_order(lut)
        if order == (0, 1, 2):
            raise LutError("unswap", "the channels are in order already")
        back = [order.index(channel) for channel in range(3)]
        return Lut(tables.shaper, Lattice(np.ascontiguousarray(tables.lattice.table[..., back]), tables.lattice.domain))
    return Lut(tables.shaper, Lattice(smooth_table(tables.lattice.table), tables.lattice.domain))


def _each(lut: Lut, change: Callable[[np.ndarray], np.ndarray]) -> Lut:
    """The outputs of the last table changed."""
    if lut.lattice is not None:
        return Lut(lut.shaper, Lattice(change(lut.lattice.table), lut.lattice.domain))
    assert lut.shaper is not None
    return Lut(Curve1D(change(lut.shaper.samples), lut.shaper.domain))


def smooth_table(table: np.ndarray, strength: float | None = None) -> np.ndarray:
    """(n, n, n, 3) with its noise taken out: penalised least squares on second differences along every axis, ends left free.

    strength: weight of the penalty; without, chosen so that what is taken away is about as large as the noise that was measured
    Source: Whittaker, "On a new method of graduation" (1923); Eilers, "A perfect smoother", Anal. Chem. 75 (2003)
    """
    values = table.astype(np.float64)
    if strength is not None:
        return _smoothed(values, strength).astype(np.float32)
    noise = float(np.median(unevenness(table))) / CHI_MEDIAN
    low, high = LIGHTEST, HEAVIEST
    while low < high:
        # The more weight, the more is taken away: the heaviest that takes no more than the noise is found by halving.
        power = (low + high) // 2
        taken = _smoothed(table, 2.0**power) - table
        if float(np.sqrt(np.mean(taken**2))) > noise:
            high = power
        else:
            low = power + 1
    return table.copy() if low == LIGHTEST else _smoothed(values, 2.0 ** (low - 1)).astype(np.float32)


def _smoothed(values: np.ndarray, weight: float) -> np.ndarray:
    size = len(values)
    if size < 4:
        return values
    second = np.diff(np.eye(size), n=2, axis=0)
    smoother = np.linalg.inv(np.eye(size) + weight * second.T @ second).astype(values.dtype)
    for axis in range(3):
        values = np.moveaxis(np.tensordot(smoother, values, axes=(1, axis)), 0, axis)
    return values


def extend_domain(lut: Lut, low: float = -0.1, high: float = 1.1) -> Lut:
    """The LUT over a wider input range, going straight on past the ends of its old one with the slope it has there.

    Raises: LutError where its range is as wide already
    """
    domain = lut.domain
    wide = tuple(min(v, low) for v in domain[0]), tuple(max(v, high) for v in domain[1])
    if wide == domain:
        raise LutError("extend", f"the LUT already takes {low:g} to {high:g}")
    start, end = (np.array(bound, np.float32) for bound in domain)
    step = (end - start) / (lut.size - 1 if lut.size > 1 else 1)

    def onward(x: np.ndarray) -> np.ndarray:
        """f(held x) + per channel slope times what was cut off."""
        held = np.clip(x, start, end)
        at_edge = apply_lut(lut, held)
        result = at_edge.copy()
        for axis in range(3):
            past = x[:, axis] - held[:, axis]
            if not past.any():
                continue
            inner = held.copy()
            inner[:, axis] -= np.sign(past) * step[axis]
            result += (past / (np.sign(past) * step[axis] + (past == 0)))[:, None] * (at_edge - apply_lut(lut, inner))
        return result

    if lut.shaper is not None and lut.lattice is None:
        curve = lut.shaper
        ramp = np.stack([np.linspace(a, b, curve.size) for a, b in zip(*wide, strict=True)], axis=1).astype(np.float32)
        return Lut(Curve1D(onward(ramp), wide))  # type: ignore[arg-type]
    if lut.shaper is not None:
        return change_domain(lut, wide)  # type: ignore[arg-type]
    size = lut.size
    made = onward(grid(size, wide)).reshape(size, size, size, 3)  # type: ignore[arg-type]
    return Lut(lattice=Lattice(made, wide))  # type: ignore[arg-type]
