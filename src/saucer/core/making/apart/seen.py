"""What a LUT gives as it is seen: on a display, through the view where it gives light of a scene.

Codes of a scene's log reach far beyond what any display shows, and most of their cube is no colour at all: steps are fitted, and
measured, by the colours that a display shows.
"""

from __future__ import annotations

import numpy as np

from saucer.core.colour.conversion import conversion, convert, to_linear_709
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.working import put_in_oklab
from saucer.core.steps.registry import Junction

DISPLAY = ENCODINGS["srgb"]


def codes_of_seen(colours: np.ndarray, junction: Junction) -> np.ndarray:
    """(n, 3) float32 codes 0..1 of the encoding there, for colours spread over 0..1 of a display."""
    if junction.encoding.referred == "display":
        return colours
    return np.clip(convert(colours, DISPLAY, junction.encoding, junction.view), 0, 1)


def light_of(values: np.ndarray, junction: Junction) -> np.ndarray:
    """(n, 3) float32 linear light of BT.709 that is seen of (n, 3) float32 codes."""
    if junction.encoding.referred == "display":
        return np.ascontiguousarray(to_linear_709(values, junction.encoding), np.float32)
    shown = np.clip(convert(values, junction.encoding, DISPLAY, junction.view), 0, 1)
    return np.ascontiguousarray(to_linear_709(shown, DISPLAY), np.float32)


def lab_of(planes: np.ndarray, junction: Junction) -> np.ndarray:
    """(3, n) OKLab of (3, n) float32 codes, held to 0..1. What a scene has above a display's white goes on above it: it is still fitted."""
    lab = np.clip(planes, 0, 1)
    if junction.encoding.referred == "display":
        put_in_oklab(lab, junction.encoding)
        return lab
    to_display = conversion(junction.encoding, DISPLAY, junction.view)
    if to_display is not None:
        to_display(lab)
    np.maximum(lab, 0, out=lab)
    put_in_oklab(lab, DISPLAY)
    return lab
