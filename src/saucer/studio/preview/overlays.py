"""What is drawn over a picture to warn: clipping, skin that turned, colours outside a gamut, where a baked LUT misses the look, and how
other eyes see it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.skin import is_skin, skin_shift, turns
from saucer.core.colour.vision import Vision, edges_lost, see_as
from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.engine.plan import Plan, Stage, prepare
from saucer.core.look.model import Look
from saucer.core.lut.apply import to_codes
from saucer.core.pictures.scopes import HIGHEST, LOWEST
from saucer.core.steps.leaving_skin import skin_share
from saucer.core.steps.parameters import SkinLeavingParameters
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.preview.bench import grade

OverlayKind = Literal["clipping", "skin", "left", "gamut", "bake", "vision"]
Gamut = Literal["srgb", "display-p3", "rec2020"]
OUTSIDE = 1e-3
"""Linear light below black, or above white, that nobody sees."""
SEEN, PLAIN = 1.0, 2.0
"""CIEDE2000 at which an error begins to be seen, and at which anybody sees it."""


LEFT_IN_PART, LEFT = 0.05, 0.5
"""Share of a colour that a step leaves as it came, from which it counts as left in part, and as left."""


@dataclass(frozen=True)
class Overlay:
    """codes (h, w) uint8 of the picture's proxy: 0 nothing; figures: what the codes come down to.

    clipping: 1 a channel at or below the lowest code, 2 at or above the highest; shares `low` and `high`
    skin: 1 skin, 2 skin that turned beyond the tolerance; `share` of the picture, median `shift` in degrees, share `beyond` of the skin
    left: 1 skin that steps leave in part, 2 mostly; shares `part` and `left`, and of how many steps, `steps`
    gamut: 1 outside the primaries' triangle, 2 inside it and brighter than their white; shares `outside` and `above`
    bake: 1 off by CIEDE2000 1, 2 by 2 and more; `p95` and `worst`
    vision: (h, w, 3) uint8 sRGB, the picture itself as such eyes see it; share `lost` of its edges
    """

    codes: np.ndarray
    figures: dict[str, float]


@dataclass(frozen=True)
class Eyes:
    """severity: 0 as most people see .. 1 without these cones"""

    vision: Vision = "deutan"
    severity: float = 1.0


MOST_EYES = Eyes()


def draw_overlay(
    look: Look, picture: Picture, kind: OverlayKind, tolerance: float, gamut: Gamut = "srgb", eyes: Eyes = MOST_EYES
) -> Overlay:
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
    if kind == "left":
        shares = [_left(plan, stage, values) for stage in plan.walk() if stage.acts and _leaves_skin(stage)]
        share = np.max([np.zeros(codes.shape), *shares], axis=0)
        codes[share > LEFT_IN_PART], codes[share > LEFT] = 1, 2
        return Overlay(codes, {"part": float((codes == 1).mean()), "left": float((codes == 2).mean()), "steps": len(shares)})
    if kind == "gamut":
        light = ENCODINGS[gamut].transfer.decode(convert(result, target, ENCODINGS[gamut], plan.view))
        outside = (light < -OUTSIDE).any(axis=-1)
        above = (light > 1 + OUTSIDE).any(axis=-1) & ~outside
        codes[outside], codes[above] = 1, 2
        return Overlay(codes, {"outside": float(outside.mean()), "above": float(above.mean())})
    if kind == "vision":
        shown = np.clip(show_on_srgb(result, target, plan.view), 0, 1)
        seen = see_as(shown, eyes.vision, eyes.severity)
        return Overlay(to_codes(seen, np.uint8), {"lost": edges_lost(shown, seen)})
    ends = (grade(plan, values, "sampled"), result)
    one, other = (linear_709_to_lab(to_linear_709(end.astype(np.float64), target)) for end in ends)
    error = ciede2000(one, other)
    codes[error > SEEN], codes[error > PLAIN] = 1, 2
    return Overlay(codes, {"p95": float(np.percentile(error, 95)), "worst": float(error.max())})


def _leaves_skin(stage: Stage) -> bool:
    return isinstance(stage.step, SkinLeavingParameters) and stage.step.leave_skin.amount > 0


def _left(plan: Plan, stage: Stage, values: np.ndarray) -> np.ndarray:
    """(h, w): how much of what reaches the stage it leaves."""
    reaching = grade(plan.before(stage), values, "rest")
    planes = np.array(reaching.reshape(-1, 3).T, np.float32, order="C")
    return skin_share(planes, stage.before, stage.step.leave_skin).reshape(values.shape[:2])
