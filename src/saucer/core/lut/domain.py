"""Inputs of a LUT: its domain, and the grids, ramps and spread colours over it."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.errors import LutError

UNIT = ((0.0, 0.0, 0.0), (1.0, 1.0, 1.0))
Bounds = tuple[tuple[float, float, float], tuple[float, float, float]]
"""Lowest and highest input of red, green and blue."""
FEWEST_NODES, MOST_NODES = 2, 129
COUNT = 20_000


def check_size(size: int) -> None:
    """Raises: LutError for what no lattice has as nodes a side."""
    if not FEWEST_NODES <= size <= MOST_NODES:
        raise LutError("size", f"must be from {FEWEST_NODES} to {MOST_NODES} nodes a side, got {size}")


def grid(size: int, domain: Bounds = UNIT) -> np.ndarray:
    """(size**3, 3) float32 inputs of a lattice, blue running fastest, so that it reshapes to table[r, g, b]."""
    axes = [np.linspace(low, high, size, dtype=np.float64) for low, high in zip(*domain, strict=True)]
    return np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 3).astype(np.float32)


def ramp(size: int, domain: Bounds = UNIT) -> np.ndarray:
    """(size, 3) float32: every channel from the lowest to the highest input in even steps; grey over 0..1."""
    return np.stack([np.linspace(low, high, size) for low, high in zip(*domain, strict=True)], axis=1).astype(np.float32)


@lru_cache(maxsize=8)
def halton(count: int = COUNT, bases: tuple[int, ...] = (2, 3, 5)) -> np.ndarray:
    """(count, one a base) float32 in 0..1; read-only. Source: Halton, Numer. Math. 2 (1960)."""
    columns = []
    for base in bases:
        index, share, column = np.arange(1, count + 1), 1.0, np.zeros(count)
        while index.any():
            share /= base
            column += share * (index % base)
            index //= base
        columns.append(column)
    points = np.stack(columns, axis=1).astype(np.float32)
    points.flags.writeable = False
    return points


def spread_over(domain: Bounds = UNIT, count: int = COUNT) -> np.ndarray:
    """(count, 3) float32 colours spread evenly over a domain, the same every time."""
    low, high = (np.array(bound, np.float32) for bound in domain)
    return low + halton(count) * (high - low)


def wider(one: Bounds, other: Bounds) -> Bounds:
    """The smallest domain that holds both."""
    low = tuple(min(pair) for pair in zip(one[0], other[0], strict=True))
    return low, tuple(max(pair) for pair in zip(one[1], other[1], strict=True))  # type: ignore[return-value]
