"""Compiled search for the inputs of wanted outputs. Nothing here checks its input: `invert.py` does.

Damped Gauss-Newton steps with the exact slopes of the tetrahedron that a colour lies in. Source: Levenberg, "A method for the solution of
certain non-linear problems in least squares", Quart. Appl. Math. 2 (1944); Marquardt, SIAM J. Appl. Math. 11 (1963).
"""

from __future__ import annotations

import numpy as np
from numba import njit

MOST_STEPS = 60
CLOSE = 1e-14
"""Squared distance at which an output counts as reached."""
SOFTEST, HARDEST = 1e-9, 10.0


@njit(nogil=True, cache=True)
def _evaluate(table, u, value, slopes):  # type: ignore[no-untyped-def]
    """value (3,) and slopes (3 outputs, 3 inputs) at u (3,), by the tetrahedron of u."""
    last = table.shape[0] - 1
    ir, ig, ib = min(int(u[0] * last), last - 1), min(int(u[1] * last), last - 1), min(int(u[2] * last), last - 1)
    fr, fg, fb = u[0] * last - ir, u[1] * last - ig, u[2] * last - ib
    # From the cell's first corner to its last, along the axis of the largest fraction first.
    if fr >= fg:
        order = (0, 1, 2) if fg >= fb else ((0, 2, 1) if fr >= fb else (2, 0, 1))
    else:
        order = (1, 0, 2) if fr >= fb else ((1, 2, 0) if fg >= fb else (2, 1, 0))
    for c in range(3):
        value[c] = table[ir, ig, ib, c]
    i, j, k = ir, ig, ib
    for axis in order:
        fraction = fr if axis == 0 else (fg if axis == 1 else fb)
        ni, nj, nk = i + (axis == 0), j + (axis == 1), k + (axis == 2)
        for c in range(3):
            along = np.float64(table[ni, nj, nk, c]) - table[i, j, k, c]
            value[c] += fraction * along
            slopes[c, axis] = along * last
        i, j, k = ni, nj, nk


@njit(nogil=True, cache=True)
def _step(slopes, miss, damping, u, low, high, change):  # type: ignore[no-untyped-def]
    """Solves (JJ + damping) change = J miss by Cramer's rule. An input held at its end, pulled outwards, takes no part."""
    a = np.zeros((3, 3))
    pull = np.zeros(3)
    for m in range(3):
        for c in range(3):
            pull[m] += slopes[c, m] * miss[c]
    for m in range(3):
        if (u[m] <= low[m] and pull[m] < 0) or (u[m] >= high[m] and pull[m] > 0):
            pull[m] = 0.0
            for c in range(3):
                slopes[c, m] = 0.0
    for m in range(3):
        for n in range(3):
            for c in range(3):
                a[m, n] += slopes[c, m] * slopes[c, n]
        a[m, m] += damping
    m00, m01, m02 = (
        a[1, 1] * a[2, 2] - a[1, 2] * a[2, 1],
        a[0, 2] * a[2, 1] - a[0, 1] * a[2, 2],
        a[0, 1] * a[1, 2] - a[0, 2] * a[1, 1],
    )
    m11, m12, m22 = (
        a[0, 0] * a[2, 2] - a[0, 2] * a[2, 0],
        a[0, 2] * a[1, 0] - a[0, 0] * a[1, 2],
        a[0, 0] * a[1, 1] - a[0, 1] * a[1, 0],
    )
    whole = a[0, 0] * m00 + a[1, 0] * m01 + a[2, 0] * m02
    change[0] = (m00 * pull[0] + m01 * pull[1] + m02 * pull[2]) / whole
    change[1] = (m01 * pull[0] + m11 * pull[1] + m12 * pull[2]) / whole
    change[2] = (m02 * pull[0] + m12 * pull[1] + m22 * pull[2]) / whole


@njit(nogil=True, cache=True)
def find_inputs(table, low, high, targets, places, start, stop):  # type: ignore[no-untyped-def]
    """Moves places[start:stop] (m, 3) float64, 0..1 of the lattice's domain, to where the outputs are nearest to `targets` (m, 3).

    table: (n, n, n, 3) float32; low, high: (3,) float64 ends between which every place is held, within 0..1
    """
    u, tried = np.empty(3), np.empty(3)
    value, miss, change = np.empty(3), np.empty(3), np.empty(3)
    slopes, trial = np.empty((3, 3)), np.empty((3, 3))
    for at in range(start, stop):
        least, damping = 0.0, 1e-4
        for c in range(3):
            u[c] = places[at, c]
        _evaluate(table, u, value, slopes)
        for c in range(3):
            miss[c] = targets[at, c] - value[c]
            least += miss[c] * miss[c]
        for _ in range(MOST_STEPS):
            if least < CLOSE:
                break
            _step(slopes, miss, damping, u, low, high, change)
            moved, size = 0.0, 0.0
            for c in range(3):
                tried[c] = min(max(u[c] + change[c], low[c]), high[c])
                moved = max(moved, abs(tried[c] - u[c]))
            if moved < 1e-9:
                break
            _evaluate(table, tried, value, trial)
            for c in range(3):
                size += (targets[at, c] - value[c]) ** 2
            if size < least:
                least = size
                for c in range(3):
                    u[c], miss[c] = tried[c], targets[at, c] - value[c]
                slopes[:] = trial
                damping = max(damping * 0.3, SOFTEST)
            elif damping >= HARDEST:
                break
            else:
                damping *= 8
        for c in range(3):
            places[at, c] = u[c]
