"""Names, timecode and a mark written into the frames of review clips."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from PIL import Image, ImageDraw, ImageFont

VEIL = 0.55
SHARE = 0.035
"""Of the picture's height, for the letters; the band is half as high again."""


@lru_cache(maxsize=64)
def _mask(text: str, height: int) -> np.ndarray:
    """(rows, columns) float32 0..1: a line of text in letters of this height."""
    font = ImageFont.load_default(size=height)
    box = font.getbbox(text)
    image = Image.new("L", (max(1, int(np.ceil(box[2]))), round(height * 1.5)), 0)
    ImageDraw.Draw(image).text((0, height * 0.12), text, fill=255, font=font)
    return np.asarray(image, np.float32) / 255


def burn_into(pixels: np.ndarray, left: str, right: str, mark: str = "") -> np.ndarray:
    """(h, w, 3) float32 code values with a veiled band at the foot: words at both ends; the mark at the top right."""
    done = pixels.copy()
    height, width = pixels.shape[:2]
    size = max(9, round(height * SHARE))
    band = min(height, round(size * 1.5))
    if left or right:
        done[height - band :] *= 1 - VEIL
        _lay(done, left, size, height - band, size // 2)
        if right:
            _lay(done, right, size, height - band, width - _mask(right, size).shape[1] - size // 2)
    if mark:
        columns = _mask(mark, size).shape[1]
        done[:band, max(0, width - columns - size) :] *= 1 - VEIL
        _lay(done, mark, size, 0, width - columns - size // 2)
    return done


def _lay(pixels: np.ndarray, text: str, size: int, top: int, left: int) -> None:
    if not text:
        return
    mask = _mask(text, size)
    left = max(0, left)
    rows, columns = min(mask.shape[0], pixels.shape[0] - top), min(mask.shape[1], pixels.shape[1] - left)
    share = mask[:rows, :columns, None]
    area = pixels[top : top + rows, left : left + columns]
    area[...] = area * (1 - share) + np.float32(0.95) * share
