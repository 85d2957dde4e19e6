"""Gaussian blur of pictures: two passes over float rows, wide ones on fewer pixels; borders repeated."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.parallel import over_runs

REACH = 4.0
"""Standard deviations after which the bell is cut; what is left out is 6e-5 of it."""
ROWS = 16
SIDE = 0.8
"""Standard deviation, in coarse pixels, of the bells that lead to them and back: what folds over at every step-th pixel is 4e-6 of it."""
AROUND = 4
"""Coarse pixels on each side that those bells reach: 5 standard deviations."""
FAR = 5.0
"""Standard deviations that the rest reaches, where pixels are few."""


def _step(sigma: float) -> int:
    """How many pixels become one before the blur: a power of two, no more than half of sigma."""
    step = 1
    while sigma >= 4 * step:
        step *= 2
    return step


def _inner(sigma: float, step: int) -> float:
    """Standard deviation, in coarse pixels, of what is left to blur there: variances of bells in turn are added up."""
    return float(np.sqrt((sigma / step) ** 2 - 2 * SIDE**2))


def _inner_reach(sigma: float, step: int) -> int:
    return int(FAR * _inner(sigma, step) + 0.5)


def blur_reach(sigma: float) -> int:
    """Pixels on each side that take part."""
    step = _step(sigma)
    return int(REACH * sigma + 0.5) if step == 1 else (2 * AROUND + 1 + _inner_reach(sigma, step)) * step


@lru_cache(maxsize=64)
def bell(sigma: float, reach: int) -> np.ndarray:
    """(reach + 1,) float32 weights from the middle outwards; middle + 2 x the others is 1."""
    x = np.arange(reach + 1)
    w = np.exp(-0.5 * (x / sigma) ** 2)
    return (w / (2 * w.sum() - w[0])).astype(np.float32)


@lru_cache(maxsize=16)
def _between(step: int) -> np.ndarray:
    """(step, 2 AROUND) float32: for each pixel between two coarse ones, weights of those around it, each row's sum 1."""
    away = np.arange(step)[:, None] / step - np.arange(1 - AROUND, AROUND + 1)
    w = np.exp(-0.5 * (away / SIDE) ** 2)
    return (w / w.sum(axis=1, keepdims=True)).astype(np.float32)


@compiled
def _down(source, target, weights, first, step, start, stop):  # type: ignore[no-untyped-def]
    """Rows start..stop of target: columns of source blurred, around its rows first, first + step and so on. Both (rows, floats)."""
    last = source.shape[0] - 1
    for row in range(start, stop):
        y = first + row * step
        out, middle = target[row], source[min(max(y, 0), last)]
        w = weights[0]
        for j in range(out.size):
            out[j] = middle[j] * w
        for k in range(1, weights.size):
            w = weights[k]
            above, below = source[min(max(y - k, 0), last)], source[min(max(y + k, 0), last)]
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


@compiled
def _fewer_across(rows, target, channels, weights, first, step, start, stop):  # type: ignore[no-untyped-def]
    """Rows start..stop of target: rows blurred along themselves, around the pixels first, first + step and so on."""
    last, floats = rows.shape[1] // channels - 1, target.shape[1]
    reach = weights.size - 1
    steps = 2 * reach // step
    every = np.empty(floats + steps * channels, np.float32)
    for y in range(start, stop):
        row, out = rows[y], target[y]
        out[:] = np.float32(0)
        for part in range(step):
            # Every step-th pixel side by side, so that what is added up lies side by side too.
            for i in range(every.size // channels):
                x = min(max(first - reach + part + i * step, 0), last)
                for c in range(channels):
                    every[i * channels + c] = row[x * channels + c]
            for k in range(steps + 1 if part == 0 else steps):
                w = weights[abs(k * step + part - reach)]
                at = every[k * channels :]
                for j in range(floats):
                    out[j] += w * at[j]


@compiled
def _more_across(rows, target, channels, weights, begin, start, stop):  # type: ignore[no-untyped-def]
    """Rows start..stop of target, as wide as the picture, from coarse ones; `begin` coarse pixels lie before what the first one needs."""
    step, taps = weights.shape
    width = target.shape[1] // channels
    count = -(-width // step)
    made = np.empty(count * channels, np.float32)
    for y in range(start, stop):
        row, out = rows[y], target[y]
        for part in range(step):
            made[:] = np.float32(0)
            for k in range(taps):
                w, at = weights[part, k], row[(begin + k) * channels :]
                for j in range(made.size):
                    made[j] += w * at[j]
            for i in range((width - part + step - 1) // step):
                for c in range(channels):
                    out[(i * step + part) * channels + c] = made[i * channels + c]


@compiled
def _more_down(rows, target, weights, begin, top, start, stop):  # type: ignore[no-untyped-def]
    """Rows start..stop of target from coarse ones, its first row being the picture's row `top`."""
    step = weights.shape[0]
    for y in range(start, stop):
        at = begin + (top + y) // step - top // step
        w, out = weights[(top + y) % step], target[y]
        a, b, c, d, e, f, g, h = (rows[at], rows[at + 1], rows[at + 2], rows[at + 3],
                                  rows[at + 4], rows[at + 5], rows[at + 6], rows[at + 7])  # fmt: skip
        for j in range(out.size):
            near = w[2] * c[j] + w[3] * d[j] + w[4] * e[j] + w[5] * f[j]
            out[j] = near + (w[0] * a[j] + w[1] * b[j] + w[6] * g[j] + w[7] * h[j])


def blur(pixels: np.ndarray, sigma: float, top: int = 0) -> np.ndarray:
    """pixels: (rows, width) or (rows, width, channels) float32 -> new array; sigma in pixels, the borders repeated.

    top: how far down the first row lies in its picture, so that a part of it becomes what it is in the whole

    Below a sigma of 4, a Gaussian filter cut at 4 standard deviations; from there on the Gaussian itself to 2e-5 of the picture's
    range, where such a cut leaves out 6e-5. Below a sigma of 0.1 nothing would change and nothing is done.
    Source of the wide one: sampling behind a low pass and back through one, as in Burt and Adelson, The Laplacian Pyramid as a
    Compact Image Code, IEEE Transactions on Communications 31 (1983), with Gaussians for both
    """
    source = np.ascontiguousarray(pixels)
    if sigma < 0.1:
        return source.copy()
    channels = 1 if pixels.ndim == 2 else pixels.shape[2]
    flat = source.reshape(source.shape[0], -1)
    sigma = round(float(sigma), 6)
    step = _step(sigma)
    made = _plain(flat, channels, bell(sigma, blur_reach(sigma))) if step == 1 else _wide(flat, channels, sigma, step, top)
    return made.reshape(pixels.shape)


def _plain(flat: np.ndarray, channels: int, weights: np.ndarray) -> np.ndarray:
    result = np.empty_like(flat)
    over_runs(lambda a, b: _down(flat, result, weights, 0, 1, a, b), len(flat), chunk=ROWS)
    over_runs(lambda a, b: _across(result, channels, weights, a, b), len(flat), chunk=ROWS)
    return result


def _wide(flat: np.ndarray, channels: int, sigma: float, step: int, top: int) -> np.ndarray:
    """Through a bell to every step-th pixel, the rest of the blur there, and back through a bell."""
    inner, inner_reach = _inner(sigma, step), _inner_reach(sigma, step)
    margin = AROUND + inner_reach
    there, back = bell(SIDE * step, AROUND * step), _between(step)
    height, width = len(flat), flat.shape[1] // channels
    rows = (top + height - 1) // step - top // step + 2 * margin + 1
    columns = (width - 1) // step + 2 * margin + 1
    above, before = -(top % step) - margin * step, -margin * step
    tall = np.empty((rows, flat.shape[1]), np.float32)
    coarse = np.empty((rows, columns * channels), np.float32)
    over_runs(lambda a, b: _down(flat, tall, there, above, step, a, b), rows, chunk=ROWS)
    over_runs(lambda a, b: _fewer_across(tall, coarse, channels, there, before, step, a, b), rows, chunk=ROWS)
    coarse = _plain(coarse, channels, bell(inner, inner_reach))
    begin = margin + 1 - AROUND
    over_runs(lambda a, b: _more_across(coarse, tall, channels, back, begin, a, b), rows, chunk=ROWS)
    result = np.empty_like(flat)
    over_runs(lambda a, b: _more_down(tall, result, back, begin, top, a, b), height, chunk=ROWS)
    return result
