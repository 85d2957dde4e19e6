"""Scopes: counted from float code values, never from a picture that was compressed for the screen.

What lies outside the range of a scope is counted at its edge.
"""

from __future__ import annotations

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.elementary import compiled

BINS = 256
COLUMNS = 512
LOWEST, HIGHEST = np.float32(0.5 / 65535), np.float32(1 - 0.5 / 65535)
"""What 16 bits write as their first and as their last code: 1 that went to light and back is 1 less a rounding."""


def _luma(values: np.ndarray, encoding: Encoding) -> np.ndarray:
    return np.asarray(values @ encoding.luma.astype(np.float32))


def _binned(plane: np.ndarray, bins: int) -> np.ndarray:
    return np.clip((plane * np.float32(bins)).astype(np.int32), 0, bins - 1)


def histogram(values: np.ndarray, encoding: Encoding, bins: int = BINS) -> np.ndarray:
    """Counts (4, bins) int64 of red, green, blue and luma over code values 0..1.

    values: (..., 3) float32 code values
    """
    counts = np.zeros((4, bins), np.int64)
    _count(values.reshape(-1, 3), encoding.luma.astype(np.float32), counts)
    return counts


@compiled
def _count(values, weights, counts):  # type: ignore[no-untyped-def]
    bins = counts.shape[1]
    scale = np.float32(bins)
    for i in range(values.shape[0]):
        luma = np.float32(0)
        for channel in range(4):
            value = luma if channel == 3 else values[i, channel]
            if channel < 3:
                luma += value * weights[channel]
            place = value * scale
            if not place > 0:
                counts[channel, 0] += 1
            elif place >= bins:
                counts[channel, bins - 1] += 1
            else:
                counts[channel, int(place)] += 1


def _columns(plane: np.ndarray, columns: int, levels: int) -> np.ndarray:
    """(h, w) to counts (levels, columns): the bottom row is code value 0."""
    width = plane.shape[1]
    place = np.arange(width, dtype=np.int32) * min(columns, width) // width
    cells = (levels - 1 - _binned(plane, levels)) * np.int32(columns) + place[None]
    return np.bincount(cells.reshape(-1), minlength=levels * columns).reshape(levels, columns)


def waveform(values: np.ndarray, encoding: Encoding, columns: int = COLUMNS, levels: int = BINS) -> np.ndarray:
    """Counts (levels, columns) int64 of luma over the picture's width, code value 1 at the top; values (h, w, 3) float32.

    A picture narrower than `columns` fills as many columns as it has.
    """
    return _columns(_luma(values, encoding), columns, levels)


def parade(values: np.ndarray, columns: int = COLUMNS, levels: int = BINS) -> np.ndarray:
    """Counts (3, levels, columns) int64 as `waveform`, of red, green and blue."""
    return np.stack([_columns(values[..., channel], columns, levels) for channel in range(3)])


def vectorscope(values: np.ndarray, encoding: Encoding, size: int = BINS) -> np.ndarray:
    """Counts (size, size) int64 of colour differences -0.5..0.5: Cb to the right, Cr up. values (..., 3) float32.

    Cb = (B - Y) / (2 (1 - wb)), Cr = (R - Y) / (2 (1 - wr)), with the luma weights of the encoding's primaries.
    Source: ITU-R BT.709-6, item 3.3
    """
    flat = values.reshape(-1, 3)
    luma, (wr, _, wb) = _luma(flat, encoding), encoding.luma.astype(np.float32)
    across = _binned((flat[:, 2] - luma) / (2 * (1 - wb)) + np.float32(0.5), size)
    up = _binned((flat[:, 0] - luma) / (2 * (1 - wr)) + np.float32(0.5), size)
    return np.bincount((size - 1 - up) * size + across, minlength=size * size).reshape(size, size)


def outside(values: np.ndarray) -> tuple[float, float]:
    """Shares 0..1 of the pixels with some channel at `LOWEST` or below it, and at `HIGHEST` or above it."""
    flat = values.reshape(-1, 3)
    low, high = _ends(flat)
    return low / len(flat), high / len(flat)


@compiled
def _ends(values):  # type: ignore[no-untyped-def]
    low = high = 0
    for i in range(values.shape[0]):
        r, g, b = values[i, 0], values[i, 1], values[i, 2]
        low += r <= LOWEST or g <= LOWEST or b <= LOWEST
        high += r >= HIGHEST or g >= HIGHEST or b >= HIGHEST
    return low, high
