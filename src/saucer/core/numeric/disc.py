"""Blur of pictures by an evenly lit disc, as a lens that is out of focus makes of a point; borders repeated."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.parallel import over_runs

ROWS = 16
FINE = 32
"""Lines by which the edge of the disc is measured inside each row of pixels."""


def disc_reach(radius: float) -> int:
    """Pixels on each side that take part."""
    return int(np.ceil(radius + 0.5))


@lru_cache(maxsize=64)
def spans(radius: float) -> tuple[np.ndarray, np.ndarray]:
    """For each row from the middle of the disc outwards, (reach + 1,) float64: half its mean width in pixels, and its share of the disc.

    The shares of the middle row and twice those of the others sum to 1.
    """
    rows = np.arange(disc_reach(radius) + 1)
    inside = (np.arange(FINE) + 0.5) / FINE - 0.5
    chords = np.sqrt(np.maximum(radius**2 - (rows[:, None] + inside) ** 2, 0)).mean(axis=1)
    return chords, chords / (2 * chords.sum() - chords[0])


@compiled
def _sum_along(rows, sums, channels, start, stop):  # type: ignore[no-untyped-def]
    """Rows start..stop of (rows, width * channels) summed from the left: (rows, width + 1, channels) flat, float64, the first one 0."""
    for y in range(start, stop):
        row, total = rows[y], sums[y]
        for c in range(channels):
            total[c] = 0.0
        for j in range(row.size):
            total[j + channels] = total[j] + row[j]


@compiled
def _until(row, total, channels, place, c):  # type: ignore[no-untyped-def]
    """The row's light of one channel from its left end to a place, which may lie outside it."""
    width = row.size // channels
    if place <= 0.0:
        return place * row[c]
    if place >= width:
        return total[width * channels + c] + (place - width) * row[(width - 1) * channels + c]
    whole = int(place)
    return total[whole * channels + c] + (place - whole) * row[whole * channels + c]


@compiled
def _discs(rows, sums, out, chords, shares, channels, start, stop):  # type: ignore[no-untyped-def]
    last, floats = rows.shape[0] - 1, rows.shape[1]
    width = floats // channels
    made = np.empty(floats, np.float64)
    for y in range(start, stop):
        made[:] = 0.0
        for k in range(1 - chords.size, chords.size):
            half, share = chords[abs(k)], shares[abs(k)]
            if half <= 0.0:
                continue
            at = min(max(y + k, 0), last)
            row, total = rows[at], sums[at]
            scale = share / (2.0 * half)
            # Of the pixel at x, from x + 1 - ahead to x + ahead: running sums to whole pixels, and a part of the one at either end.
            ahead = half + 0.5
            whole = int(ahead)
            part = ahead - whole
            first, end = min(whole, width), max(width - whole, min(whole, width))
            begin, count = first * channels, (end - first) * channels
            if count:
                target = made[begin : begin + count]
                right, right_end = total[begin + whole * channels :], row[begin + whole * channels :]
                left, left_end = total[begin + (1 - whole) * channels :], row[begin - whole * channels :]
                for j in range(count):
                    target[j] += scale * (right[j] - left[j] + part * (np.float64(right_end[j]) + np.float64(left_end[j])))
            for side in range(2):
                for x in range(0 if side == 0 else end, first if side == 0 else width):
                    for c in range(channels):
                        light = _until(row, total, channels, x + ahead, c) - _until(row, total, channels, x + 1 - ahead, c)
                        made[x * channels + c] += scale * light
        target_row = out[y]
        for j in range(floats):
            target_row[j] = np.float32(made[j])


def disc_blur(pixels: np.ndarray, radius: float) -> np.ndarray:
    """pixels: (rows, width, channels) float32 -> new array; radius of the disc in pixels, the borders repeated.

    Rows of the disc are as wide as it is there on the mean, so that its area and its edge are right to a fraction of a pixel. Below a
    radius of half a pixel nothing is done.
    """
    source = np.ascontiguousarray(pixels)
    if radius < 0.5:
        return source.copy()
    channels = pixels.shape[2]
    flat = source.reshape(len(source), -1)
    sums = np.empty((len(flat), flat.shape[1] + channels), np.float64)
    result = np.empty_like(flat)
    chords, shares = spans(round(float(radius), 6))
    over_runs(lambda a, b: _sum_along(flat, sums, channels, a, b), len(flat), chunk=ROWS)
    over_runs(lambda a, b: _discs(flat, sums, result, chords, shares, channels, a, b), len(flat), chunk=ROWS)
    return result.reshape(pixels.shape)
