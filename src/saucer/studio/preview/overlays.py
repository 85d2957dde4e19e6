"""What is drawn over a picture to warn: clipping, skin that turned, colours outside a gamut, and where a baked LUT misses the look."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.skin import is_skin, skin_shift, turns
from saucer.core.engine.plan import prepare
from saucer.core.look.model import Look
from saucer.core.pictures.scopes import HIGHEST, LOWEST
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.preview.bench import grade

OverlayKind = Literal["clipping", "skin", "gamut", "bake"]
Gamut = Literal["srgb", "display-p3", "rec2020"]
OUTSIDE = 1e-3
"""Linear light below black, or above white, that nobody sees."""
SEEN, PLAIN = 1.0, 2.0
"""CIEDE2000 at which an error begins to be seen, and at which anybody sees it."""


@dataclass(frozen=True)
class Overlay:
    """codes (h, w) uint8 of the picture's proxy: 0 nothing; figures: what the codes come down to.

    clipping: 1 a channel at or below the lowest code, 2 at or above the highest; shares `low` and `high`
    skin: 1 skin, 2 skin that turned beyond the tolerance; `share` of the picture, median `shift` in degrees, share `beyond` of the skin
    gamut: 1 outside the primaries' triangle, 2 inside it and brighter than their white; shares `outside` and `above`
    bake: 1 off by CIEDE2000 1, 2 by 2 and more; `p95` and `worst`
    """

    codes: np.ndarray
    figures: dict[str, float]


def draw_overlay(look: Look, picture: Picture, kind: OverlayKind, tolerance: float, gamut: Gamut = "srgb") -> Overlay:
    plan = prepare(look, at_hand)
    source, target = plan.source, plan.end
    values = proxy_in(picture, source, view=plan.view)
    result = grade(plan, values, "rest")
    codes = np.zeros(values.shape[:2], np.uint8)
    if kind == "clipping":
        low, high = (result <= LOWEST).any(axis=-1), (result >= HIGHEST).any(axis=-1)
        codes[low], codes[high] = 1, 2
        return Overlay(codes, {"low": float(low.mean()), "high": float(high.mean())})
    if kind == "skin":
        found = skin_shift(values, source, result, target, tolerance)
        skin = is_skin(values, source)
        codes[skin] = 1
        codes[skin & (np.abs(turns(values, source, result, target)) > tolerance)] = 2
        return Overlay(codes, {"share": found.share, "shift": found.shift, "beyond": found.beyond})
    if kind == "gamut":
        light = ENCODINGS[gamut].transfer.decode(convert(result, target, ENCODINGS[gamut], plan.view))
        outside = (light < -OUTSIDE).any(axis=-1)
        above = (light > 1 + OUTSIDE).any(axis=-1) & ~outside
        codes[outside], codes[above] = 1, 2
        return Overlay(codes, {"outside": float(outside.mean()), "above": float(above.mean())})
    ends = (grade(plan, values, "sampled"), result)
    one, other = (linear_709_to_lab(to_linear_709(end.astype(np.float64), target)) for end in ends)
    error = ciede2000(one, other)
    codes[error > SEEN], codes[error > PLAIN] = 1, 2
    return Overlay(codes, {"p95": float(np.percentile(error, 95)), "worst": float(error.max())})
