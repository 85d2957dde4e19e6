"""Spatial steps once more, plainly, in NumPy and SciPy with float64: the reference that the compiled ones are held against.

Grain is left out: its numbers are what its hash makes of them, and what must hold for them is tested in tests/core/test_rendering.py.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from scipy.ndimage import convolve, gaussian_filter

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.primaries import rgb_to_rgb
from tests.numpy_steps import blended, smooth

Array = np.ndarray


def blur(x: Array, sigma: float) -> Array:
    return gaussian_filter(x, (sigma, sigma, 0)[: x.ndim], mode="nearest", truncate=4.0)


def disc(x: Array, radius: float) -> Array:
    """By a kernel whose rows are as wide as the disc is there on the mean, over 32 lines of each."""
    if radius < 0.5:
        return x
    reach = int(np.ceil(radius + 0.5))
    at = np.arange(-reach, reach + 1)
    lines = at[:, None] + (np.arange(32) + 0.5) / 32 - 0.5
    half = np.sqrt(np.maximum(radius**2 - lines**2, 0)).mean(axis=1)[:, None]
    kernel = np.clip(np.minimum(at + 0.5, half) - np.maximum(at - 0.5, -half), 0, None)
    return np.stack([convolve(x[..., c], kernel / kernel.sum(), mode="nearest") for c in range(3)], axis=-1)


def places(x: Array) -> tuple[Array, Array]:
    """Middle of each pixel, across and down, in pixels."""
    y, across = np.mgrid[0 : x.shape[0], 0 : x.shape[1]] + 0.5
    return across, y


def vignette(step: Any, x: Array, encoding: Encoding) -> Array:
    across, down = places(x)
    half = np.array([x.shape[1], x.shape[0]]) / 2
    axes = half + step.roundness * (np.hypot(*half) / np.sqrt(2) - half)
    away = np.hypot((across - half[0]) / axes[0], (down - half[1]) / axes[1]) / np.sqrt(2)
    weight = step.amount * smooth((away - step.midpoint) / step.feather + 0.5)
    light = encoding.transfer.decode(x)
    colour = encoding.transfer.decode(convert(np.array(step.colour), ENCODINGS["srgb"], encoding))
    return np.asarray(encoding.transfer.encode(light + weight[..., None] * (colour - light)))


def graduated_wash(step: Any, x: Array, encoding: Encoding) -> Array:
    across, down = places(x)
    size = np.array([x.shape[1], x.shape[0]])
    start, way = np.array(step.start) * size, (np.array(step.end) - np.array(step.start)) * size
    along = (across - start[0]) * way[0] + (down - start[1]) * way[1]
    t = along / (way @ way) if step.shape == "linear" else np.hypot(across - start[0], down - start[1]) / np.hypot(*way)
    over = blended(step.mode, x.reshape(-1, 3), np.broadcast_to(np.array(step.colour), (x.size // 3, 3))).reshape(x.shape)
    return x + (step.amount * (1 - smooth(t)))[..., None] * (over - x)


def soft_focus(step: Any, x: Array, encoding: Encoding) -> Array:
    light = encoding.transfer.decode(x)
    size = step.radius * len(x)
    soft = blur(light, size) if step.shape == "bell" else disc(light, 2 * size)
    return encoding.transfer.encode(light + step.amount * (soft - light))


def sharpen(step: Any, x: Array, encoding: Encoding) -> Array:
    luma = x @ encoding.luma
    detail = luma - blur(luma, step.radius * len(x))
    if step.threshold:
        detail = detail * np.abs(detail) / (np.abs(detail) + step.threshold)
    return x + step.amount * detail[..., None]


def bloom(step: Any, x: Array, encoding: Encoding) -> Array:
    light = encoding.transfer.decode(x)
    luminance = light @ encoding.luma
    over = np.maximum(luminance - step.threshold, 0)
    bright = light * (over / (over + max(step.threshold, 1e-6)))[..., None]
    return encoding.transfer.encode(light + step.amount * blur(bright, step.radius * len(x)))


def halation(step: Any, x: Array, encoding: Encoding) -> Array:
    light = encoding.transfer.decode(x)
    over = np.maximum(light @ encoding.luma - step.threshold, 0)
    thrown = (1 - step.wide) * blur(over, step.radius * len(x)) + step.wide * blur(over, step.wide_radius * len(x))
    halo = np.maximum(thrown - over, 0)
    srgb = ENCODINGS["srgb"]
    tint = rgb_to_rgb(srgb.primaries, encoding.primaries) @ srgb.transfer.decode(np.array(step.tint))
    return encoding.transfer.encode(light + step.amount * halo[..., None] * tint)


SPATIAL: dict[str, Callable[[Any, Array, Encoding], Array]] = {
    "vignette": vignette, "graduated-wash": graduated_wash, "soft-focus": soft_focus, "sharpen": sharpen, "bloom": bloom,
    "halation": halation,
}  # fmt: skip
