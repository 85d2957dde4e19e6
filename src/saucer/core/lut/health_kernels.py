"""Compiled measures of a lattice: how uneven its entries are, how its cells lie. Nothing here checks its input: `health.py` does."""

from __future__ import annotations

import numpy as np
from numba import njit

NORM = np.float64(1 / 70)
"""A fourth difference of independent errors of variance 1 has the variance 1 + 16 + 36 + 16 + 1."""


@njit(nogil=True, cache=True)
def uneven_planes(table, start, stop, out):  # type: ignore[no-untyped-def]
    """table: (n, n, n, 3) float32; writes out[start:stop] (n, n, n, 3) float32: the root mean square fourth difference of every entry."""
    size = table.shape[0]
    for i in range(start, stop):
        for j in range(size):
            for k in range(size):
                along_i, along_j, along_k = 2 <= i < size - 2, 2 <= j < size - 2, 2 <= k < size - 2
                count = np.float64(along_i) + np.float64(along_j) + np.float64(along_k)
                for c in range(3):
                    here, total = 6.0 * table[i, j, k, c], 0.0
                    if along_i:
                        off = here - 4.0 * (np.float64(table[i - 1, j, k, c]) + table[i + 1, j, k, c])
                        off += np.float64(table[i - 2, j, k, c]) + table[i + 2, j, k, c]
                        total += off * off
                    if along_j:
                        off = here - 4.0 * (np.float64(table[i, j - 1, k, c]) + table[i, j + 1, k, c])
                        off += np.float64(table[i, j - 2, k, c]) + table[i, j + 2, k, c]
                        total += off * off
                    if along_k:
                        off = here - 4.0 * (np.float64(table[i, j, k - 1, c]) + table[i, j, k + 1, c])
                        off += np.float64(table[i, j, k - 2, c]) + table[i, j, k + 2, c]
                        total += off * off
                    out[i, j, k, c] = np.sqrt(total * NORM / max(count, 1.0))


@njit(nogil=True, cache=True)
def count_turned(table, start, stop, limit, counts):  # type: ignore[no-untyped-def]
    """Of the cells whose first corner lies in planes start..stop and within 0..1: how many there are, are turned inside out, are not.

    limit: the least share of a neutral cell's volume, with its sign, that counts; counts: (3,) int64, added to
    """
    size = table.shape[0]
    whole = np.float64(size - 1) ** 3
    for i in range(start, min(stop, size - 1)):
        for j in range(size - 1):
            for k in range(size - 1):
                r, g, b = np.float64(table[i, j, k, 0]), np.float64(table[i, j, k, 1]), np.float64(table[i, j, k, 2])
                if not (0 <= r <= 1 and 0 <= g <= 1 and 0 <= b <= 1):
                    continue
                counts[0] += 1
                ar, ag, ab = table[i + 1, j, k, 0] - r, table[i + 1, j, k, 1] - g, table[i + 1, j, k, 2] - b
                br, bg, bb = table[i, j + 1, k, 0] - r, table[i, j + 1, k, 1] - g, table[i, j + 1, k, 2] - b
                cr, cg, cb = table[i, j, k + 1, 0] - r, table[i, j, k + 1, 1] - g, table[i, j, k + 1, 2] - b
                volume = (ar * (bg * cb - bb * cg) - ag * (br * cb - bb * cr) + ab * (br * cg - bg * cr)) * whole
                counts[1] += volume < -limit
                counts[2] += volume > limit
