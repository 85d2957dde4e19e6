"""What can be done to a LUT: faded, joined, blended, inverted, resized, cropped, reduced to its grey axis.

Every result is a LUT of tables; `as_tables` makes one of a chain of formulas.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_curve, apply_lattice, apply_lut
from saucer.core.lut.halton import over
from saucer.core.lut.nodes import per_channel
from saucer.core.lut.table import LARGEST, SMALLEST, UNIT, Bounds, Curve1D, Lattice, Lut, Node, lut_of, nodes

CURVE_SIZE = 4096
INVERSE_SIZE = 16384
LIKENESS_COLOURS = 256
DEFAULT_SIZE = 33


def _check_size(size: int) -> None:
    if not SMALLEST <= size <= LARGEST:
        raise LutError("size", f"must be from {SMALLEST} to {LARGEST} nodes a side, got {size}")


def _through(chain: tuple[Node, ...], values: np.ndarray) -> np.ndarray:
    return apply_lut(lut_of(chain), values) if chain else values


def _own_channels(chain: tuple[Node, ...]) -> int:
    """How many of the first nodes leave every channel to itself."""
    for count, node in enumerate(chain):
        if not isinstance(node, Curve1D) and not per_channel(node):
            return count
    return len(chain)


def _curve_of(chain: tuple[Node, ...], domain: Bounds, size: int) -> Curve1D:
    ramp = np.stack([np.linspace(low, high, size) for low, high in zip(*domain, strict=True)], axis=1).astype(np.float32)
    return Curve1D(_through(chain, ramp), domain)


def lattice_domain(samples: np.ndarray) -> Bounds:
    """What a lattice behind this shaper is asked for, widened to 0..1 where it is narrower."""
    low, high = np.minimum(samples.min(axis=0), 0), np.maximum(samples.max(axis=0), 1)
    return tuple(map(float, low)), tuple(map(float, high))  # type: ignore[return-value]


def as_tables(lut: Lut, size: int | None = None) -> Lut:
    """A 1D table, a lattice or both: the LUT itself if it is that already, else its chain sampled.

    size: nodes a side of the lattice; without, that of its largest lattice, or 33. Raises: LutError
    """
    if not lut.nodes:
        return lut
    size = size or next((n.size for n in lut.chain if isinstance(n, Lattice) and n.size == lut.size), DEFAULT_SIZE)
    _check_size(size)
    domain = lut.domain
    split = _own_channels(lut.chain)
    front, rest = lut.chain[:split], lut.chain[split:]
    if not rest:
        return lut_of([_curve_of(front, domain, CURVE_SIZE)], lut.title, lut.comments)
    if not front:
        return lut_of([_sampled(lambda x: _through(rest, x), size, domain)], lut.title, lut.comments)
    curve = _curve_of(front, domain, CURVE_SIZE)
    inner = lattice_domain(curve.samples)
    low, high = (np.array(bound, np.float32) for bound in inner)
    if inner != UNIT:  # formats expect what leaves a shaper within 0..1
        curve = Curve1D((curve.samples - low) / (high - low), domain)
    lattice = _sampled(lambda x: _through(rest, low + x * (high - low)), size, UNIT)
    return lut_of([curve, lattice], lut.title, lut.comments)


def _sampled(function: Callable[[np.ndarray], np.ndarray], size: int, domain: Bounds) -> Lattice:
    return Lattice(np.asarray(function(nodes(size, domain)), np.float32).reshape(size, size, size, 3), domain)


def whole_lattice(lut: Lut, size: int, domain: Bounds | None = None) -> Lut:
    """One lattice that does what the whole LUT does, over `domain` or the LUT's own. Raises: LutError"""
    _check_size(size)
    lattice = _sampled(lambda x: apply_lut(lut, x), size, domain or lut.domain)
    return Lut(lattice=lattice, title=lut.title, comments=lut.comments)


def resized(lut: Lut, size: int) -> Lut:
    """Its lattice with `size` nodes a side, read by tetrahedral interpolation; its curves stay. Raises: LutError for a 1D LUT"""
    _check_size(size)
    tables = as_tables(lut, size if lut.nodes else None)
    if tables.lattice is None:
        raise LutError("size", "a 1D LUT has no lattice to resize")
    lattice = tables.lattice
    if lattice.size == size:
        return tables
    return replace(tables, lattice=_sampled(lambda x: apply_lattice(lattice, x), size, lattice.domain))


def with_domain(lut: Lut, domain: Bounds) -> Lut:
    """The same LUT asked over another input range: cropped where it is smaller, held at its faces where it is larger. Raises: LutError"""
    if not all(low < high for low, high in zip(*domain, strict=True)):
        raise LutError("domain", f"must rise in every channel, got {domain[0]} to {domain[1]}")
    tables = as_tables(lut)
    if tables.shaper is not None:
        curve = tables.shaper
        ramp = np.stack([np.linspace(low, high, curve.size) for low, high in zip(*domain, strict=True)], axis=1).astype(np.float32)
        return replace(tables, shaper=Curve1D(apply_curve(curve, ramp), domain))
    return whole_lattice(tables, tables.size, domain)


def at_strength(lut: Lut, strength: float, convert: Callable[[np.ndarray], np.ndarray] | None = None) -> Lut:
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
        ramp = np.stack([np.linspace(a, b, curve.size) for a, b in zip(*curve.domain, strict=True)], axis=1).astype(np.float32)
        return Lut(Curve1D(faded(ramp), curve.domain), None, lut.title, lut.comments)
    if tables.shaper is None:
        return Lut(None, _sampled(faded, tables.size, tables.domain), lut.title, lut.comments)
    inverse = inverted_curve(tables.shaper)
    lattice = tables.lattice
    return Lut(tables.shaper, _sampled(lambda x: faded(inverse(x)), lattice.size, lattice.domain), lut.title, lut.comments)


def composed(first: Lut, second: Lut, size: int | None = None, between: Callable[[np.ndarray], np.ndarray] | None = None) -> Lut:
    """What `second` makes of what `first` gives, as one LUT.

    between: a conversion from what the first gives to what the second expects. Raises: LutError
    """
    if all(_own_channels(one.chain) == len(one.chain) for one in (first, second)) and between is None:
        return lut_of([_curve_of((*first.chain, *second.chain), first.domain, CURVE_SIZE)])

    def both(x: np.ndarray) -> np.ndarray:
        middle = apply_lut(first, x)
        return apply_lut(second, middle if between is None else between(middle))

    tables = as_tables(first)
    size = size or max(DEFAULT_SIZE, *(one.size for one in (first, second) if any(isinstance(n, Lattice) for n in one.chain)), 2)
    _check_size(size)
    if tables.shaper is not None and tables.lattice is not None:
        lattice = tables.lattice

        def behind(x: np.ndarray) -> np.ndarray:
            middle = apply_lattice(lattice, x)
            return apply_lut(second, middle if between is None else between(middle))

        return Lut(tables.shaper, _sampled(behind, size, lattice.domain))
    return Lut(lattice=_sampled(both, size, first.domain))


def blended(one: Lut, other: Lut, share: float, size: int | None = None) -> Lut:
    """(1 - share) of one and share of the other, over the wider of their domains. Raises: LutError"""
    if not 0 <= share <= 1:
        raise LutError("share", f"must be from 0 to 1, got {share:g}")
    low = tuple(min(pair) for pair in zip(one.domain[0], other.domain[0], strict=True))
    high = tuple(max(pair) for pair in zip(one.domain[1], other.domain[1], strict=True))
    domain: Bounds = (low, high)  # type: ignore[assignment]
    s = np.float32(share)

    def mixed(x: np.ndarray) -> np.ndarray:
        a = apply_lut(one, x)
        return a + s * (apply_lut(other, x) - a)

    if all(lut.kind == "1D" for lut in (one, other)):
        count = max(one.size, other.size)
        ramp = np.stack([np.linspace(a, b, count) for a, b in zip(*domain, strict=True)], axis=1).astype(np.float32)
        return Lut(Curve1D(mixed(ramp), domain))
    size = size or max(lut.size if any(isinstance(n, Lattice) for n in lut.chain) else DEFAULT_SIZE for lut in (one, other))
    _check_size(size)
    shaped = next((lut for lut in (one, other) if lut.shaper is not None and lut.lattice is not None), None)
    if shaped is not None and shaped.domain == domain:
        assert shaped.shaper is not None
        inverse = inverted_curve(shaped.shaper)
        return Lut(shaped.shaper, _sampled(lambda x: mixed(inverse(x)), size, UNIT))
    return Lut(lattice=_sampled(mixed, size, domain))


def likeness(lut: Lut) -> str:
    """A short name for what a LUT does: two files that do the same to 1/1000 have the same, whatever their formats."""
    inputs = over(lut.domain, LIKENESS_COLOURS)
    outputs = np.round(apply_lut(lut, inputs).astype(np.float64) * 1000) + 0.0
    return hashlib.sha256(np.array(lut.domain).tobytes() + outputs.tobytes()).hexdigest()[:32]


def grey_axis(lut: Lut, size: int = 1024) -> Lut:
    """A 1D LUT that does to each channel what the LUT does to grey."""
    ramp = np.stack([np.linspace(low, high, size) for low, high in zip(*lut.domain, strict=True)], axis=1).astype(np.float32)
    return Lut(Curve1D(apply_lut(lut, ramp), lut.domain), None, lut.title, lut.comments)


def inverted_curve(curve: Curve1D) -> Callable[[np.ndarray], np.ndarray]:
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
class Inverted:
    """An inverse and how well it undoes the LUT: the distance, in code values, of f(inverse(y)) from y over the outputs the LUT can give.

    reached: share of the lattice's nodes that lie among the LUT's outputs; the others have the nearest input there is
    """

    lut: Lut
    mean: float
    largest: float
    reached: float


def inverted(lut: Lut, size: int = DEFAULT_SIZE) -> Inverted:
    """1D exactly, at its own samples; 3D by damped Gauss-Newton steps from a nearest sample.

    Raises: LutError for a 1D LUT that turns back
    """
    tables = as_tables(lut)
    if tables.lattice is None:
        assert tables.shaper is not None
        curve = tables.shaper
        inverse = inverted_curve(curve)
        domain: Bounds = tuple(tuple(map(float, end)) for end in (curve.samples.min(axis=0), curve.samples.max(axis=0)))  # type: ignore[assignment]
        if not all(low < high for low, high in zip(*domain, strict=True)):
            raise LutError("1D table", "gives one value for every input, so it has no inverse")
        count = max(curve.size, INVERSE_SIZE)
        ramp = np.stack([np.linspace(low, high, count) for low, high in zip(*domain, strict=True)], axis=1).astype(np.float32)
        made = Lut(Curve1D(inverse(ramp), domain), None, lut.title, lut.comments)
        back = apply_lut(tables, apply_lut(made, ramp))
        return Inverted(made, float(np.abs(back - ramp).mean()), float(np.abs(back - ramp).max()), 1.0)
    _check_size(size)
    targets = nodes(size)
    found = _solve(tables, targets)
    missed = np.abs(apply_lut(tables, found) - targets).max(axis=1)
    made = Lut(lattice=Lattice(found.reshape(size, size, size, 3)), title=lut.title, comments=lut.comments)
    inside = over(tables.domain, 4000)
    outputs = apply_lut(tables, inside)
    outputs = outputs[((outputs >= 0) & (outputs <= 1)).all(axis=1)]
    error = np.abs(apply_lut(tables, apply_lut(made, outputs)) - outputs).max(axis=1) if len(outputs) else np.zeros(1)
    return Inverted(made, float(error.mean()), float(error.max()), float((missed < 1e-3).mean()))


def _solve(lut: Lut, targets: np.ndarray, steps: int = 40) -> np.ndarray:
    """(n, 3) inputs whose outputs are nearest to `targets`."""
    from scipy.spatial import cKDTree

    low, high = (np.array(bound, np.float32) for bound in lut.domain)
    starts = nodes(33, lut.domain)
    near = cKDTree(apply_lut(lut, starts)).query(targets)[1]
    x = starts[near].astype(np.float64)
    best, least = x.copy(), np.full(len(x), np.inf)
    damping = np.full(len(x), 1e-4)
    delta = (high - low).astype(np.float64) / (4 * max(lut.size, 2))
    for _ in range(steps):
        value = apply_lut(lut, x.astype(np.float32)).astype(np.float64)
        miss = targets - value
        size = (miss**2).sum(axis=1)
        better = size < least
        best[better], least[better] = x[better], size[better]
        damping = np.where(better, np.maximum(damping * 0.3, 1e-7), np.minimum(damping * 8, 10))
        if least.max() < 1e-14:
            break
        x = best.copy()
        value = apply_lut(lut, x.astype(np.float32)).astype(np.float64)
        miss = targets - value
        slopes = np.empty((len(x), 3, 3))
        for axis in range(3):
            moved = x.copy()
            step = np.where(moved[:, axis] + delta[axis] <= high[axis], delta[axis], -delta[axis])
            moved[:, axis] += step
            slopes[:, :, axis] = (apply_lut(lut, moved.astype(np.float32)) - value) / step[:, None]
        normal = np.einsum("nji,njk->nik", slopes, slopes)
        normal[:, range(3), range(3)] += damping[:, None]
        change = np.linalg.solve(normal, np.einsum("nji,nj->ni", slopes, miss)[..., None])[..., 0]
        x = np.clip(best + change, low, high)
    return best.astype(np.float32)
