"""Gaussian blur of pictures: two passes over float rows, borders repeated."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.parallel import over_runs

REACH = 4.0
"""Standard deviations after which the bell is cut; what is left out is 6e-5 of it."""
ROWS = 16


def blur_reach(sigma: float) -> int:
    """Pixels on each side that take part."""
    return int(REACH * sigma + 0.5)


@lru_cache(maxsize=64)
def bell(sigma: float) -> np.ndarray:
    """(reach + 1,) float32 weights from the middle outwards; middle + 2 x the others is 1."""
    x = np.arange(blur_reach(sigma) + 1)
    w = np.exp(-0.5 * (x / sigma) ** 2)
    return (w / (2 * w.sum() - w[0])).astype(np.float32)


@compiled
def _down(source, target, weights, start, stop):  # type: ignore[no-untyped-def]
    """Rows start..stop of target: columns of source blurred. Both (rows, floats)."""
    last = source.shape[0] - 1
    for y in range(start, stop):
        out, middle = target[y], source[y]
        w = weights[0]
        for j in range(out.size):
            out[j] = middle[j] * w
        for k in range(1, weights.size):
            w = weights[k]
            above, below = source[max(y - k, 0)], source[min(y + k, last)]
            for j in range(out.size):
                out[j] += w * (above[j] + below[j])


@compiled
def _across(rows, channels, weights, start, stop):  # type: ignore[no-untyped-def]
    """Rows start..stop of (rows, floats), `channels` floats a pixel, blurred along themselves, in place."""
    width = rows.shape[1]
    margin = (weights.size - 1) * channels
    padded = np.empty(width + 2 * margin, np.float32)
    for y in range(start, stop):
        out = rows[y]
        middle = padded[margin : margin + width]
        for j in range(width):
            middle[j] = out[j]
        for j in range(margin):
            padded[j] = out[j % channels]
            padded[margin + width + j] = out[width - channels + j % channels]
        w = weights[0]
        for j in range(width):
            out[j] = middle[j] * w
        for k in range(1, weights.size):
            w = weights[k]
            left, right = padded[margin - k * channels :], padded[margin + k * channels :]
            for j in range(width):
                out[j] += w * (left[j] + right[j])


def blur(pixels: np.ndarray, sigma: float) -> np.ndarray:
    """pixels: (rows, width) or (rows, width, channels) float32 -> new array; sigma in pixels, the borders repeated.

    Agrees with a Gaussian filter cut at 4 standard deviations. Below a sigma of 0.1 nothing would change and nothing is done.
    """
    source = np.ascontiguousarray(pixels)
    if sigma < 0.1:
        return source.copy()
    weights, channels = bell(round(float(sigma), 6)), 1 if pixels.ndim == 2 else pixels.shape[2]
    flat = source.reshape(source.shape[0], -1)
    result = np.empty_like(flat)
    over_runs(lambda a, b: _down(flat, result, weights, a, b), len(flat), chunk=ROWS)
    over_runs(lambda a, b: _across(result, channels, weights, a, b), len(flat), chunk=ROWS)
    return result.reshape(pixels.shape)
