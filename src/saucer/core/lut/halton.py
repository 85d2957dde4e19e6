"""Colours spread evenly over the cube, the same every time."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.lut.table import UNIT, Bounds

COUNT = 20_000


@lru_cache(maxsize=4)
def halton(count: int = COUNT) -> np.ndarray:
    """(count, 3) float32 in 0..1, bases 2, 3 and 5; read-only. Source: Halton, Numer. Math. 2 (1960)."""
    columns = []
    for base in (2, 3, 5):
        index, share, column = np.arange(1, count + 1), 1.0, np.zeros(count)
        while index.any():
            share /= base
            column += share * (index % base)
            index //= base
        columns.append(column)
    points = np.stack(columns, axis=1).astype(np.float32)
    points.flags.writeable = False
    return points


def over(domain: Bounds = UNIT, count: int = COUNT) -> np.ndarray:
    """(count, 3) float32 spread over a domain."""
    low, high = (np.array(bound, np.float32) for bound in domain)
    return low + halton(count) * (high - low)
