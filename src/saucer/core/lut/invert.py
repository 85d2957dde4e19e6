"""Inverses: of curves exactly, of lattices by iteration with what is left over."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_lattice, apply_lut
from saucer.core.lut.domain import Bounds, check_size, grid, ramp, spread_over
from saucer.core.lut.inverse_kernel import find_inputs
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.lut.tables import DEFAULT_SIZE, as_tables
from saucer.core.numeric.parallel import over_runs, thread_count

INVERSE_SIZE = 16384


def invert_curve(curve: Curve1D) -> Callable[[np.ndarray], np.ndarray]:
    """The inverse of rising or falling samples, exact between them: (..., 3) float32 outputs to inputs, held at the ends.

    Raises: LutError for a channel that turns back
    """
    points = [np.linspace(low, high, curve.size) for low, high in zip(*curve.domain, strict=True)]
    rising = []
    for name, channel in zip(("red", "green", "blue"), curve.planar.astype(np.float64), strict=True):
        steps = np.diff(channel)
        if (steps > 0).any() and (steps < 0).any():
            at = int(np.flatnonzero(steps < 0 if channel[-1] > channel[0] else steps > 0)[0])
            raise LutError(f"1D table, {name}", f"turns back at entry {at + 1}, so it has no inverse")
        rising.append(channel if channel[-1] >= channel[0] else channel[::-1])

    def inverse(values: np.ndarray) -> np.ndarray:
        columns = []
        for index, channel in enumerate(rising):
            axis = points[index] if curve.planar[index, -1] >= curve.planar[index, 0] else points[index][::-1]
            columns.append(np.interp(values[..., index], channel, axis))
        return np.stack(columns, axis=-1).astype(np.float32)

    return inverse


@dataclass(frozen=True)
class Inverse:
    """An inverse and how well it undoes the LUT: the distance, in code values, of f(inverse(y)) from y over the outputs the LUT can give.

    reached: share of the lattice's nodes that lie among the LUT's outputs; the others have the nearest input there is
    """

    lut: Lut
    mean: float
    largest: float
    reached: float


def invert(lut: Lut, size: int = DEFAULT_SIZE) -> Inverse:
    """1D exactly, at its own samples; 3D by damped Gauss-Newton steps from a nearest sample.

    Raises: LutError for a 1D table that turns back
    """
    tables = as_tables(lut)
    if tables.lattice is None:
        assert tables.shaper is not None
        curve = tables.shaper
        inverse = invert_curve(curve)
        domain: Bounds = tuple(tuple(map(float, end)) for end in (curve.samples.min(axis=0), curve.samples.max(axis=0)))  # type: ignore[assignment]
        if not all(low < high for low, high in zip(*domain, strict=True)):
            raise LutError("1D table", "gives one value for every input, so it has no inverse")
        count = max(curve.size, INVERSE_SIZE)
        rising = ramp(count, domain)
        made = Lut(Curve1D(inverse(rising), domain), None, lut.title, lut.comments)
        back = apply_lut(tables, apply_lut(made, rising))
        return Inverse(made, float(np.abs(back - rising).mean()), float(np.abs(back - rising).max()), 1.0)
    check_size(size)
    targets = grid(size)
    found = _solve(tables, targets)
    missed = np.abs(apply_lut(tables, found) - targets).max(axis=1)
    made = Lut(lattice=Lattice(found.reshape(size, size, size, 3)), title=lut.title, comments=lut.comments)
    inside = spread_over(tables.domain, 4000)
    outputs = apply_lut(tables, inside)
    outputs = outputs[((outputs >= 0) & (outputs <= 1)).all(axis=1)]
    error = np.abs(apply_lut(tables, apply_lut(made, outputs)) - outputs).max(axis=1) if len(outputs) else np.zeros(1)
    return Inverse(made, float(error.mean()), float(error.max()), float((missed < 1e-3).mean()))


def _solve(lut: Lut, targets: np.ndarray) -> np.ndarray:
    """(n, 3) float32 inputs of a lattice, or a shaper and a lattice, whose outputs are nearest to `targets` (n, 3) float32.

    Raises: LutError for a shaper that turns back
    """
    from scipy.spatial import cKDTree

    lattice, shaper = lut.lattice, lut.shaper
    assert lattice is not None
    start, end = (np.array(bound, np.float64) for bound in lattice.domain)
    least, most = (start, end) if shaper is None else (shaper.samples.min(axis=0), shaper.samples.max(axis=0))
    low, high = (np.clip((bound - start) / (end - start), 0, 1) for bound in (least, most))
    starts = low + grid(33).astype(np.float64) * (high - low)
    seen = apply_lattice(lattice, np.ascontiguousarray(start + starts * (end - start), np.float32))
    places = np.ascontiguousarray(starts[cKDTree(seen).query(targets, workers=thread_count())[1]])
    over_runs(lambda a, b: find_inputs(lattice.table, low, high, targets, places, a, b), len(targets), chunk=4096)
    found = np.ascontiguousarray(start + places * (end - start), np.float32)
    return found if shaper is None else invert_curve(shaper)(found)
