"""Shots as they are seen: the picture through everything that lies on it."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence

import numpy as np

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.lut.apply import to_codes
from saucer.studio.common.images import encoded
from saucer.studio.encodings import rules as encodings
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.preview.entries import CARD_WIDTH, FINE, grade_of_version, kept_preview
from saucer.studio.projects.models import Layer, Shot


def state_of(shot: Shot, layers: Sequence[Layer], large: bool) -> str:
    """Changes whenever the shot would look different; versions never do."""
    told = [shot.picture.proxy_id, shot.picture.encoding, *(f"{one.version_id}:{one.strength!r}" for one in layers)]
    return f"shot-{hashlib.sha256('/'.join(told).encode()).hexdigest()[:32]}{'-large' if large else ''}"


def preview_file(shot: Shot, layers: Sequence[Layer], large: bool) -> bytes:
    """JPEG of a card's width, or of the whole proxy; kept by what it shows, whichever shot it is of."""
    return kept_preview(state_of(shot, layers, large), lambda: encoded(frame(shot, layers, large), "jpeg", FINE if large else 90))


def frame(shot: Shot, layers: Sequence[Layer], large: bool = False) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the shot's picture through its looks, the lowest first, each between its own encodings."""
    width, srgb = None if large else CARD_WIDTH, ENCODINGS["srgb"]
    if not layers:
        return to_codes(proxy_in(shot.picture, srgb, width), np.uint8)
    values, encoding = proxy_in(shot.picture, None, width), encodings.find(shot.picture.encoding)
    for number, layer in enumerate(layers, 1):
        grade = grade_of_version(layer.version, layer.strength)
        target = srgb if number == len(layers) else grade.gives
        values, encoding = grade(values, encoding, target), target
    return to_codes(values, np.uint8)
