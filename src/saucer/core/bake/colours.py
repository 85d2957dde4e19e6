"""The colours by which a LUT is measured beside those of a picture: everywhere, round grey, in the dark, and those of skin.

Pictures live near grey, and there a lattice may be far worse than elsewhere: each sort is measured by itself, never averaged.
"""

from __future__ import annotations

from functools import lru_cache
from itertools import chain, pairwise
from typing import Literal

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.oklab import oklab_to_linear
from saucer.core.colour.skin import CHROMAS, HUES, LIGHTNESSES
from saucer.core.engine.lattice import SHAPER
from saucer.core.lut.domain import COUNT, halton

Sort = Literal["uniform", "neutral", "dark", "skin"]
SORTS: tuple[Sort, ...] = ("uniform", "neutral", "dark", "skin")
AWAY_FROM_GREY = (0.004, 0.012, 0.04)
"""By how much, in code values at most, the channels of near-neutral colours differ from a grey."""
DARK_BELOW = (0.08, 0.2)
"""Up to which code value colours are dark."""
DARK_LIGHT = (0.01, 0.1)
"""Up to which linear light they are: 4.2 stops and 0.8 below mid grey."""
SKIN_LIGHTNESSES = tuple(np.linspace(*LIGHTNESSES, 4).tolist())
"""OKLab: dark skin, middle and light are sets of their own."""
FEW = 12_000


@lru_cache(maxsize=8)
def colours_for(source: Encoding) -> dict[Sort, tuple[np.ndarray, ...]]:
    """For each sort one set of colours or more, of which the worst counts; (n, 3) float32 code values of `source`, read-only.

    Linear light is spread over what the shaper spans
    """
    found: dict[Sort, tuple[np.ndarray, ...]] = {
        "uniform": (_light(halton(COUNT), source),),
        "neutral": tuple(_light(_near_grey(away), source) for away in AWAY_FROM_GREY),
        "dark": tuple(_light(halton(FEW) * np.float32(top), source) for top in DARK_BELOW),
        "skin": tuple(_skin(source, low, high) for low, high in pairwise(SKIN_LIGHTNESSES)),
    }
    if source.linear:
        found["dark"] += tuple(halton(FEW) * np.float32(top) for top in DARK_LIGHT)
    for colours in chain.from_iterable(found.values()):
        colours.flags.writeable = False
    return found


def _light(unit: np.ndarray, source: Encoding) -> np.ndarray:
    """Colours of 0..1; over the light that a shaper spans where the input is linear."""
    return SHAPER.light(unit) if source.linear else unit.copy()


def _near_grey(away: float) -> np.ndarray:
    points = halton(FEW, (2, 3, 5, 7))
    return np.clip(points[:, :1] + (2 * points[:, 1:] - 1) * np.float32(away), 0, 1).astype(np.float32)


def _skin(source: Encoding, darkest: float, lightest: float) -> np.ndarray:
    """Colours that count as skin, as far as sRGB holds them, in the source: in scene light as bright as on a display."""
    points = halton(2 * FEW).astype(np.float64)
    ends = ((darkest, lightest), CHROMAS, HUES)
    light, chroma, hue = (low + points[:, i] * (high - low) for i, (low, high) in enumerate(ends))
    angle = np.radians(hue)
    rgb = oklab_to_linear(np.stack([light, chroma * np.cos(angle), chroma * np.sin(angle)], axis=-1))
    inside = rgb[((rgb >= 0) & (rgb <= 1)).all(axis=-1)][:FEW]
    return np.asarray(convert(inside, ENCODINGS["linear-709"], source).astype(np.float32))
