"""Pictures made smaller, in linear light."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.pictures.io import PictureReader, upright

STRIP_PIXELS = 1 << 21
STRIP_ROWS = 64
Rows = Callable[[int, int], np.ndarray]
"""From which row to before which -> (rows, w, 3) float32 code values"""


def unheard(fraction: float) -> None:
    """For who does not want to know how far it is."""


def make_proxy(
    path: Path,
    source: Encoding,
    width: int,
    height: int,
    name: str = "",
    report: Callable[[float], None] = unheard,
    white: int | None = None,
) -> tuple[np.ndarray, int]:
    """A picture file averaged down in linear light to fit width x height, upright, in its own encoding.

    report: called with the fraction done; raise from it to stop; white: as of `read_picture`
    Returns: (h, w, 3) float32 code values; the number of pixels that were not finite and became 0
    Raises: PictureError
    """
    linear = ENCODINGS["linear-709"]
    with PictureReader(path, name or path.name, white) as reader:
        info = reader.info
        turned = reader.orientation in (5, 6, 7, 8)
        bound = (height, width) if turned else (width, height)
        factor = max(1, int(min(info.width / bound[0], info.height / bound[1])))
        small, row = [], 0
        for strip in reader.strips(STRIP_PIXELS // info.width, factor):
            small.append(_average(convert(strip[..., :3], source, linear), factor))
            row += len(strip)
            report(row / info.height)
        light = scale_down(upright(np.concatenate(small), reader.orientation), width, height)
    return np.asarray(convert(light, linear, source), np.float32), reader.mended


def average_down(rows: Rows, size: tuple[int, int], source: Encoding, fit: tuple[int, int]) -> np.ndarray:
    """Rows of a picture of this width and height averaged down to fit, as (h, w, 3) float32 linear light of Rec.709.

    A few rows at a time, so that a large frame never stands in memory as floats whole
    """
    linear = ENCODINGS["linear-709"]
    factor = max(1, int(min(size[0] / fit[0], size[1] / fit[1])))
    step = max(factor, STRIP_ROWS // factor * factor)
    small = [_average(convert(rows(top, min(top + step, size[1])), source, linear), factor) for top in range(0, size[1], step)]
    return scale_down(np.concatenate(small), *fit)


def held_to(width: int, height: int, lines: int) -> tuple[int, int]:
    """Width and height of a picture of not more than so many lines (0: as many as it has), of the same shape; even, for codecs."""
    if not lines or height <= lines:
        return width, height
    return max(2, 2 * round(width * lines / height / 2)), max(2, lines // 2 * 2)


def resized(pixels: np.ndarray, encoding: Encoding, size: tuple[int, int]) -> np.ndarray:
    """(h, w, 3) float32 code values averaged down in linear light to this width and height, whatever its shape."""
    linear = ENCODINGS["linear-709"]
    light = _to_size(convert(pixels, encoding, linear), size)
    return np.asarray(convert(np.ascontiguousarray(light, np.float32), linear, encoding), np.float32)


def resized_plane(plane: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    """(h, w) whole numbers averaged down to this width and height, rounded."""
    return np.round(_to_size(plane.astype(np.float64)[..., None], size)[..., 0]).astype(plane.dtype)


def _to_size(pixels: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    return np.asarray(_means(_means(pixels, size[1]).swapaxes(0, 1), size[0]).swapaxes(0, 1))


def _average(strip: np.ndarray, factor: int) -> np.ndarray:
    """Means of factor x factor blocks; what is left over at the right and bottom is averaged over what is there."""
    if factor == 1:
        return strip
    by_row = np.add.reduceat(strip, np.arange(0, strip.shape[0], factor), axis=0)
    blocks = np.add.reduceat(by_row, np.arange(0, strip.shape[1], factor), axis=1)
    tall = np.diff([*range(0, strip.shape[0], factor), strip.shape[0]])
    wide = np.diff([*range(0, strip.shape[1], factor), strip.shape[1]])
    return np.asarray(blocks / (tall[:, None] * wide)[..., None], np.float32)


def scale_down(pixels: np.ndarray, width: int, height: int) -> np.ndarray:
    """(h, w, 3) float32 averaged down to fit width x height, keeping its shape; never enlarged. Give it linear light.

    Each new pixel is the mean of the area it covers, old pixels that it covers in part counted in part.
    """
    scale = min(1.0, width / pixels.shape[1], height / pixels.shape[0])
    if scale == 1:
        return pixels
    target = (max(1, round(pixels.shape[1] * scale)), max(1, round(pixels.shape[0] * scale)))
    return np.ascontiguousarray(_means(_means(pixels, target[1]).swapaxes(0, 1), target[0]).swapaxes(0, 1), np.float32)


def _means(rows: np.ndarray, count: int) -> np.ndarray:
    """(n, ...) to (count, ...): means over `count` equal lengths, from the running sum read at their ends."""
    total = np.concatenate([np.zeros_like(rows[:1], np.float64), np.cumsum(rows, axis=0, dtype=np.float64)])
    ends = np.arange(count + 1) * len(rows) / count
    below = np.minimum(ends.astype(int), len(rows) - 1)
    share = (ends - below).reshape(-1, *[1] * (rows.ndim - 1))
    at_ends = total[below] + share * (total[below + 1] - total[below])
    return np.diff(at_ends, axis=0) * (count / len(rows))
