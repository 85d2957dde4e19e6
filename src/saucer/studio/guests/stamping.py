"""Who looks, written into a picture: so that one that is passed on says whose it was."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import simplejpeg
from PIL import Image, ImageDraw, ImageFont

SHARE, ANGLE = 0.042, 24.0
"""Height of the letters, of the picture's; and how they rise, in degrees."""
VEIL = 0.22
QUALITY = 92


def stamp_on(jpeg: bytes, words: str, otherwise: str) -> bytes:
    """The JPEG with rows of words across it, light on dark and dark on light. otherwise: where the font lacks letters of the words"""
    codes = simplejpeg.decode_jpeg(jpeg, "RGB")
    height, width = codes.shape[:2]
    mask = _rows(words if _is_written(words) else otherwise, width, height)
    # Towards the other side of grey, by so much: seen on snow and in the night, and never hiding what is below.
    towards = np.where(codes.mean(axis=2, keepdims=True) > 127, 0.0, 255.0)
    done = codes + (towards - codes) * mask[..., None]
    return simplejpeg.encode_jpeg(np.ascontiguousarray(np.rint(done).astype(np.uint8)), QUALITY, "RGB", "444")


def _is_written(words: str) -> bool:
    """Pillow's own font has the letters of Latin-1."""
    return words.isprintable() and all(ord(letter) < 256 for letter in words)


@lru_cache(maxsize=64)
def _rows(words: str, width: int, height: int) -> np.ndarray:
    """(height, width) float32 0..VEIL"""
    size = max(10, round(height * SHARE))
    font = ImageFont.load_default(size=size)
    across = int(np.ceil(np.hypot(width, height)))
    image = Image.new("L", (across, across), 0)
    draw, step = ImageDraw.Draw(image), int(font.getlength(words)) + 4 * size
    for row, top in enumerate(range(0, across, 6 * size)):
        for left in range(-(row % 2) * step // 2, across, step):
            draw.text((left, top), words, fill=255, font=font)
    turned = image.rotate(ANGLE, Image.Resampling.BICUBIC)
    left, top = (across - width) // 2, (across - height) // 2
    return np.asarray(turned.crop((left, top, left + width, top + height)), np.float32) * np.float32(VEIL / 255)
