"""Pictures as they are shown: 8-bit sRGB, whole or cut to a disc's square."""

from __future__ import annotations

import numpy as np
from PIL import Image

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.lut.apply import to_codes
from saucer.studio.encodings.rules import studio_view
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in

DISC = 128


def plain_frame(picture: Picture) -> np.ndarray:
    return to_codes(proxy_in(picture, ENCODINGS["srgb"], view=studio_view()), np.uint8)


def square(pixels: np.ndarray) -> np.ndarray:
    """The middle square of (h, w, ...)."""
    side = min(pixels.shape[:2])
    top, left = (pixels.shape[0] - side) // 2, (pixels.shape[1] - side) // 2
    return pixels[top : top + side, left : left + side]


def disc_of(codes: np.ndarray) -> np.ndarray:
    """(h, w, 3) uint8 to the (DISC, DISC, 3) that a disc shows."""
    return np.asarray(Image.fromarray(np.ascontiguousarray(square(codes))).resize((DISC, DISC), Image.Resampling.BOX))
