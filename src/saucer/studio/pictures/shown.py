"""Pictures as they are shown: 8-bit sRGB, whole or cut to a disc's square."""

from __future__ import annotations

import numpy as np
from PIL import Image

from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in

DISC = 128


def to_codes(values: np.ndarray) -> np.ndarray:
    """(..., 3) float32 sRGB to uint8, rounded to nearest."""
    return (np.clip(values, 0, 1) * np.float32(255) + np.float32(0.5)).astype(np.uint8)


def plain_frame(picture: Picture) -> np.ndarray:
    return to_codes(proxy_in(picture, "srgb"))


def square(pixels: np.ndarray) -> np.ndarray:
    """The middle square of (h, w, ...)."""
    side = min(pixels.shape[:2])
    top, left = (pixels.shape[0] - side) // 2, (pixels.shape[1] - side) // 2
    return pixels[top : top + side, left : left + side]


def disc_of(codes: np.ndarray) -> np.ndarray:
    """(h, w, 3) uint8 to the (DISC, DISC, 3) that a disc shows."""
    return np.asarray(Image.fromarray(np.ascontiguousarray(square(codes))).resize((DISC, DISC), Image.Resampling.BOX))
