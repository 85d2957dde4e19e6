"""Piecewise cubics through points, open and cyclic: their slopes, and how they are evaluated."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.numeric.elementary import compiled

BLOCK = 256


def natural_slopes(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    """Slopes at the knots of the natural cubic spline (second derivative 0 at both ends), by the usual tridiagonal system."""
    h, secant = np.diff(x), np.diff(y) / np.diff(x)
    matrix, right = np.zeros((len(x), len(x))), np.zeros(len(x))
    matrix[0, :2], right[0] = (2, 1), 3 * secant[0]
    matrix[-1, -2:], right[-1] = (1, 2), 3 * secant[-1]
    for i in range(1, len(x) - 1):
        matrix[i, i - 1 : i + 2] = h[i], 2 * (h[i - 1] + h[i]), h[i - 1]
        right[i] = 3 * (h[i] * secant[i - 1] + h[i - 1] * secant[i])
    return np.linalg.solve(matrix, right)


def monotone(slopes: np.ndarray, secant: np.ndarray) -> np.ndarray:
    """Slopes held so that each monotone run of points gives a monotone curve.

    Source: Hyman, "Accurate monotonicity preserving cubic interpolation", SIAM J. Sci. Stat. Comput. 4(4), 1983, eq. 2.6
    (the number of the equation is from memory)
    """
    left, right = np.concatenate([secant[:1], secant]), np.concatenate([secant, secant[-1:]])
    limit = 3 * np.minimum(np.abs(left), np.abs(right))
    # Where the points turn round, the slope keeps its own sign; elsewhere it takes that of the points.
    sign = np.where(left * right > 0, np.sign(left), np.sign(slopes))
    return sign * np.clip(sign * slopes, 0, limit)


def _cyclic_slopes(x: np.ndarray, y: np.ndarray, period: float) -> np.ndarray:
    """As `natural_slopes` for a curve that goes on after `period`: first and second derivatives meet there too."""
    n = len(x)
    h = np.diff([*x, x[0] + period])
    secant = np.diff([*y, y[0]]) / h
    matrix, right = np.zeros((n, n)), np.zeros(n)
    for i in range(n):
        before, after = h[i - 1], h[i]
        matrix[i, (i - 1) % n] += after
        matrix[i, i] += 2 * (before + after)
        matrix[i, (i + 1) % n] += before
        right[i] = 3 * (before * secant[i] + after * secant[i - 1])
    return np.linalg.solve(matrix, right)


def _level_at_turns(slopes: np.ndarray, secant: np.ndarray) -> np.ndarray:
    """As `monotone`, and flat where the points turn round: the curve never goes beyond the points."""
    left, right = np.concatenate([secant[:1], secant]), np.concatenate([secant, secant[-1:]])
    return np.where(left * right > 0, monotone(slopes, secant), 0)


def _pieces(x: np.ndarray, y: np.ndarray, slopes: np.ndarray) -> np.ndarray:
    """(5, k + 1) of origin, c0, c1, c2, c3 in powers of x - origin, float64; held before the first point and after the last."""
    h, secant = np.diff(x), np.diff(y) / np.diff(x)
    pieces = np.zeros((5, len(x) + 1))
    pieces[0, 1:-1], pieces[1, 1:-1], pieces[2, 1:-1] = x[:-1], y[:-1], slopes[:-1]
    pieces[3, 1:-1] = (3 * secant - 2 * slopes[:-1] - slopes[1:]) / h
    pieces[4, 1:-1] = (slopes[:-1] + slopes[1:] - 2 * secant) / h**2
    pieces[:2, 0], pieces[:2, -1] = (x[0], y[0]), (x[-1], y[-1])
    return pieces


@lru_cache(maxsize=512)
def held_curve(points: tuple[tuple[float, float], ...]) -> tuple[np.ndarray, np.ndarray]:
    """Knots (k,) and pieces (5, k + 1), float32, as `bend` takes them: through the points, never beyond them, held outside."""
    x, y = np.array(points, np.float64).T
    if len(x) == 1:
        return x.astype(np.float32), np.array([[x[0], x[0]], [y[0], y[0]], [0, 0], [0, 0], [0, 0]], np.float32)
    slopes = _level_at_turns(natural_slopes(x, y), np.diff(y) / np.diff(x))
    slopes[0] = slopes[-1] = 0
    return x.astype(np.float32), _pieces(x, y, slopes).astype(np.float32)


@lru_cache(maxsize=512)
def cyclic_curve(points: tuple[tuple[float, float], ...], period: float) -> tuple[np.ndarray, np.ndarray]:
    """As `held_curve` over 0..period, whose ends meet; the points' x rise within it."""
    x, y = np.array(points, np.float64).T
    if len(x) == 1:
        return held_curve(points)
    x_on, y_on = np.array([x[-1] - period, *x, x[0] + period]), np.array([y[-1], *y, y[0]])
    secant = np.diff(y_on) / np.diff(x_on)
    free = _cyclic_slopes(x, y, period)
    slopes = _level_at_turns(np.array([free[-1], *free, free[0]]), secant)
    # The ends stand for points inside, whose neighbours on both sides count.
    slopes[0], slopes[-1] = slopes[-2], slopes[1]
    return x_on.astype(np.float32), _pieces(x_on, y_on, slopes).astype(np.float32)


@compiled
def bend(values, knots, pieces):  # type: ignore[no-untyped-def]
    """One curve over contiguous floats, in place. The piece of each value is counted, not searched: that vectorises."""
    origin, c0, c1, c2, c3 = pieces[0], pieces[1], pieces[2], pieces[3], pieces[4]
    index = np.empty(BLOCK, np.uint32)
    for begin in range(0, values.size, BLOCK):
        part = values[begin : min(begin + BLOCK, values.size)]
        for j in range(part.size):
            index[j] = np.uint32(0)
        for knot in knots:
            for j in range(part.size):
                index[j] += np.uint32(1) if part[j] >= knot else np.uint32(0)
        for j in range(part.size):
            piece = index[j]
            t = part[j] - origin[piece]
            part[j] = ((c3[piece] * t + c2[piece]) * t + c1[piece]) * t + c0[piece]
