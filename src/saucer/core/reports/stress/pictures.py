"""What of a look strains one picture, and where on it: the marks that misfits count too, and what only a whole set of pictures shows."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.colour.skin import is_skin, turns
from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.engine.plan import Plan
from saucer.core.engine.rendering import render
from saucer.core.reports.marks import SRGB, mark_clipped, mark_crushed, mark_merged
from saucer.core.reports.misfits import ENOUGH_SKIN

GREY_NOISE = 1 / 255
"""Standard deviation of the noise that is laid on a picture to see by how much the look lifts it: one code of 8 bits, as it is seen."""
SHADOWS = (0.08, 0.4)
"""OKLab lightness of what counts as shadow; common practice, no source."""
FEW = 0.01
"""Share of a picture that shadows must have for their noise to mean anything."""
SMOOTH, BROKEN = 1.0, 4.0
"""Codes of 8 bits: neighbours no further apart are part of a smooth gradient, and it is broken where the look puts more between them."""
OUTSIDE = 2e-3
"""Light below 0, of a white of 1, from which a colour counts as left out of the gamut of its encoding."""
BLOCKS = 12
"""Blocks along the longer side of a picture, of which the fullest is shown as the place."""

Place = tuple[float, float, float, float]


@dataclass(frozen=True)
class Strain:
    """figure: as its limit is given; place: x, y, width, height of where it is most, 0..1 of the picture; None where nowhere"""

    figure: float
    place: Place | None = None


def strain(plan: Plan, pixels: np.ndarray) -> dict[str, Strain]:
    """By what is measured: clipped, crushed, merged, gamut, bands (shares, 0..1), skin (degrees, +/-), noise (a factor).

    pixels: (h, w, 3) float32 code values of the plan's source, a small copy of a whole picture
    """
    shown = show_on_srgb(pixels, plan.source, plan.view)
    result = render(replace(plan, declared=None), pixels)
    after = show_on_srgb(result, plan.end, plan.view)
    # Grain laid on purpose breaks no gradient: what is per pixel alone is asked.
    still = after if not plan.acts_spatially else show_on_srgb(render(_per_pixel(plan), pixels), plan.end, plan.view)
    merged = mark_merged(shown, after)
    found = {
        what: _counted(where) for what, where in (
            ("clipped", mark_clipped(shown, after)), ("crushed", mark_crushed(shown, after)),
            ("gamut", _mark_left(plan, pixels, result)), ("bands", _mark_broken(shown, still)),
        )
    }  # fmt: skip
    found["merged"] = Strain(merged.share, _place(merged.where))
    found["skin"] = _skin(shown, after)
    found["noise"] = _noise(plan, pixels, shown, after)
    return found


def _per_pixel(plan: Plan) -> Plan:
    return replace(plan, stages=tuple(stage for stage in plan.stages if not stage.spatial), declared=None)


def _counted(where: np.ndarray) -> Strain:
    return Strain(float(where.mean()), _place(where))


def _place(weights: np.ndarray) -> Place | None:
    """The fullest of blocks that lie half over each other."""
    height, width = weights.shape
    if not weights.any():
        return None
    side = max(1, max(height, width) // BLOCKS)
    sums = np.pad(weights.astype(np.float64), ((1, 0), (1, 0))).cumsum(axis=0).cumsum(axis=1)
    tops, lefts = (np.arange(0, max(1, length - side + 1), max(1, side // 2)) for length in (height, width))
    bottoms, rights = np.minimum(tops + side, height), np.minimum(lefts + side, width)
    held = sums[np.ix_(bottoms, rights)] - sums[np.ix_(tops, rights)] - sums[np.ix_(bottoms, lefts)] + sums[np.ix_(tops, lefts)]
    row, column = np.unravel_index(int(held.argmax()), held.shape)
    top, left = int(tops[row]), int(lefts[column])
    return left / width, top / height, min(side, width) / width, min(side, height) / height


def _mark_left(plan: Plan, pixels: np.ndarray, result: np.ndarray) -> np.ndarray:
    """Light that the primaries of the look's end cannot hold, though those of its beginning held what came in."""
    before, after = plan.source.transfer.decode(pixels), plan.end.transfer.decode(result)
    return np.asarray((after < -OUTSIDE).any(axis=-1) & ~(before < -OUTSIDE).any(axis=-1))


def _mark_broken(shown: np.ndarray, after: np.ndarray) -> np.ndarray:
    """Where neighbours that belong to one smooth gradient come out too far apart, to the right or below."""
    where = np.zeros(shown.shape[:2], bool)
    for axis in (0, 1):
        apart, become = (np.abs(np.diff(np.clip(one, 0, 1), axis=axis)).max(axis=-1) * 255 for one in (shown, after))
        broken = (apart <= SMOOTH) & (become > BROKEN)
        where[: broken.shape[0], : broken.shape[1]] |= broken
    return where


def _skin(shown: np.ndarray, after: np.ndarray) -> Strain:
    """The median turn of skin, as misfits have it; the place is where it turns furthest."""
    before, result = np.clip(shown, 0, 1), np.clip(after, 0, 1)
    skin = is_skin(before, SRGB)
    if skin.mean() < ENOUGH_SKIN:
        return Strain(0.0)
    turned = turns(before, SRGB, result, SRGB)
    return Strain(float(np.median(turned[skin])), _place(np.where(skin, np.abs(turned), 0.0)))


def _noise(plan: Plan, pixels: np.ndarray, shown: np.ndarray, after: np.ndarray) -> Strain:
    """Noise of one code of 8 bits, as it is seen, is laid on the picture; by how much larger it comes out in the shadows."""
    lab = _lab(shown)
    shadows = (lab[..., 0] > SHADOWS[0]) & (lab[..., 0] < SHADOWS[1])
    if shadows.mean() < FEW:
        return Strain(0.0)
    noise = np.random.default_rng(0).normal(0, GREY_NOISE, shown.shape).astype(np.float32)
    plain, noisy = (convert(one, SRGB, plan.source, plan.view) for one in (shown, shown + noise))
    there = render(replace(plan, declared=None), (pixels + (noisy - plain)).astype(np.float32))
    laid = ((_lab(shown + noise) - lab) ** 2).sum(axis=-1)
    come = ((_lab(show_on_srgb(there, plan.end, plan.view)) - _lab(after)) ** 2).sum(axis=-1)
    gain = float(np.sqrt(come[shadows].sum() / max(float(laid[shadows].sum()), 1e-12)))
    return Strain(gain, _place(np.where(shadows, come, 0.0)))


def _lab(shown: np.ndarray) -> np.ndarray:
    return linear_to_oklab(to_linear_709(np.clip(shown, 0, 1).astype(np.float64), SRGB))


PICTURE_WORDS: Mapping[str, str] = {
    "clipped": "{share} clipped", "crushed": "{share} crushed", "merged": "{share} of its tones merged",
    "gamut": "{share} outside the colours that its encoding holds", "bands": "{share} where a smooth gradient breaks",
    "skin": "skin turns by {figure:+.0f} degrees", "noise": "noise in the shadows comes out {figure:.1f} times as strong",
}  # fmt: skip
