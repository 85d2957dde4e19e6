"""Skin colours in a picture and how far a look turns them.

Which colours count as skin, and that a few degrees are too many, is common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.oklab import linear_to_oklab

HUES = (35.0, 75.0)
"""OKLCh degrees within which a colour may be skin."""
LINE = sum(HUES) / 2
"""Degrees: the line that skin lies along."""
CHROMAS = (0.03, 0.16)
LIGHTNESSES = (0.25, 0.93)
FAINT = 0.01
"""OKLab chroma below which a result has no hue to speak of."""


@dataclass(frozen=True)
class SkinShift:
    """What became of a picture's skin colours.

    share: of the pixels that are skin coloured, 0..1
    shift: their median turn of hue, OKLCh degrees, positive towards yellow and green; 0 where there is no skin
    beyond: share of them, 0..1, that turned further than the tolerance
    """

    share: float
    shift: float
    beyond: float


def is_skin(values: np.ndarray, encoding: Encoding) -> np.ndarray:
    """(...,) bool for (..., 3) float32 code values."""
    return _skin(_oklab(values, encoding))


def turns(values: np.ndarray, source: Encoding, result: np.ndarray, target: Encoding) -> np.ndarray:
    """(...,) float64: by how many degrees, -180..180, the OKLCh hue turned; 0 where either end is nearly grey."""
    before, after = _oklab(values, source), _oklab(result, target)
    turned = np.degrees(np.arctan2(after[..., 2], after[..., 1]) - np.arctan2(before[..., 2], before[..., 1]))
    turned = (turned + 180) % 360 - 180
    coloured = (np.hypot(before[..., 1], before[..., 2]) > FAINT) & (np.hypot(after[..., 1], after[..., 2]) > FAINT)
    return np.where(coloured, turned, 0.0)


def skin_shift(values: np.ndarray, source: Encoding, result: np.ndarray, target: Encoding, tolerance: float) -> SkinShift:
    """values, result: (..., 3) float32 code values before and after; tolerance in degrees."""
    skin = is_skin(values, source)
    if not skin.any():
        return SkinShift(0.0, 0.0, 0.0)
    turned = turns(values[skin], source, result[skin], target)
    return SkinShift(float(skin.mean()), float(np.median(turned)), float((np.abs(turned) > tolerance).mean()))


def _oklab(values: np.ndarray, encoding: Encoding) -> np.ndarray:
    return linear_to_oklab(to_linear_709(values.astype(np.float64), encoding))


def _skin(lab: np.ndarray) -> np.ndarray:
    hue = np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    found = np.ones(lab.shape[:-1], bool)
    for value, (low, high) in ((hue, HUES), (chroma, CHROMAS), (lab[..., 0], LIGHTNESSES)):
        found &= (value >= low) & (value <= high)
    return found
