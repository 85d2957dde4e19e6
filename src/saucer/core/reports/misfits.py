"""Does a look sit well on a shot? What it does to it in figures, against its own input and against other shots under the same look."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass, fields

import numpy as np

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.colour.skin import skin_shift
from saucer.core.reports.marks import SRGB, mark_clipped, mark_crushed, mark_merged

ENOUGH_SKIN = 0.01
"""Share of a picture that must be skin coloured for its turn to mean anything."""


@dataclass(frozen=True)
class Figures:
    """What a look does to a shot, both as they are seen on a screen.

    clipped, crushed: share of pixels with a channel at white or black that was not there before, 0..1
    merged: share of the tones of luma, in codes of 8 bit, that are no longer told apart, 0..1
    lightness: mean OKLab L of the result; shift: by how much the look moves it
    cast_a, cast_b: mean OKLab a and b of the result
    skin: median turn of skin, OKLCh degrees; 0 without enough skin
    """

    clipped: float
    crushed: float
    merged: float
    lightness: float
    shift: float
    cast_a: float
    cast_b: float
    skin: float


@dataclass(frozen=True)
class Tolerances:
    """Beyond which a shot is a misfit. lightness, cast: from the median of the shots under the same look; skin: degrees

    Where these lie is common practice, no source; a project sets its own.
    """

    clipped: float = 0.02
    crushed: float = 0.04
    merged: float = 0.4
    lightness: float = 0.2
    cast: float = 0.035
    skin: float = 10.0


@dataclass(frozen=True)
class Misfit:
    """what: the tolerance that it is beyond; figure: by its measure; words: for people"""

    what: str
    figure: float
    words: str


def measure(before: np.ndarray, after: np.ndarray) -> Figures:
    """before, after: (h, w, 3) float32 sRGB code values, not clipped: the shot plainly shown, and through its look"""
    lab_before, lab = (_mean_lab(values) for values in (before, after))
    skin = skin_shift(np.clip(before, 0, 1), SRGB, np.clip(after, 0, 1), SRGB, 180.0)
    return Figures(
        clipped=float(mark_clipped(before, after).mean()), crushed=float(mark_crushed(before, after).mean()),
        merged=mark_merged(before, after).share, lightness=float(lab[0]), shift=float(lab[0] - lab_before[0]), cast_a=float(lab[1]),
        cast_b=float(lab[2]), skin=skin.shift if skin.share >= ENOUGH_SKIN else 0.0,
    )  # fmt: skip


def _mean_lab(values: np.ndarray) -> np.ndarray:
    light = to_linear_709(np.clip(values, 0, 1).reshape(-1, 3).astype(np.float64), SRGB)
    return np.asarray(linear_to_oklab(light).mean(axis=0))


@dataclass(frozen=True)
class Common:
    """What is usual among shots under one look: the medians of their lightness and cast."""

    lightness: float
    cast_a: float
    cast_b: float


def common_to(figures: Sequence[Figures]) -> Common | None:
    """None for fewer than three: a median of two says nothing."""
    if len(figures) < 3:
        return None
    return Common(*(float(np.median([getattr(one, field.name) for one in figures])) for field in fields(Common)))


def find_misfits(figures: Figures, common: Common | None, tolerances: Tolerances) -> list[Misfit]:
    """The worst first, by how far each is beyond its tolerance."""
    found: list[tuple[float, Misfit]] = []

    def check(what: str, figure: float, most: float, words: str) -> None:
        if abs(figure) > most:
            found.append((abs(figure) / max(most, 1e-9), Misfit(what, figure, words)))

    check("clipped", figures.clipped, tolerances.clipped, f"{figures.clipped * 100:.1f} % clipped")
    check("crushed", figures.crushed, tolerances.crushed, f"{figures.crushed * 100:.1f} % crushed")
    check("merged", figures.merged, tolerances.merged, f"{figures.merged * 100:.0f} % of its tones merged")
    check("skin", figures.skin, tolerances.skin, f"skin turns by {figures.skin:+.0f} degrees")
    if common is not None:
        off = figures.lightness - common.lightness
        way = "lighter" if off > 0 else "darker"
        check("lightness", off, tolerances.lightness, f"{way} than the others by {abs(off):.2f} of lightness")
        cast = float(np.hypot(figures.cast_a - common.cast_a, figures.cast_b - common.cast_b))
        warmer = figures.cast_b - common.cast_b > 0
        check("cast", cast, tolerances.cast, f"{'warmer' if warmer else 'cooler'} than the others by {cast:.3f} of colour")
    return [misfit for _, misfit in sorted(found, key=lambda one: -one[0])]


Show = Callable[[float, float], Figures]
"""(exposure in stops before the look, strength of the look) -> what it would be like"""


@dataclass(frozen=True)
class Remedy:
    """kind: "exposure", in stops before the look, or "strength" of the look; left: what would still be a misfit, in words"""

    kind: str
    value: float
    left: tuple[str, ...]


def find_remedies(
    show: Show, strength: float, common: Common | None, tolerances: Tolerances, misfits: Sequence[Misfit]
) -> list[Remedy]:
    """The gentlest exposure and the gentlest strength that take the worst misfit back and bring no other, each tried before it is offered.

    Fewer tries than a person would need: exposures outwards from 0 in thirds of a stop, strengths downwards in tenths.
    """
    found = []
    others = {one.what for one in misfits[1:]}

    def left_with(stops: float, share: float) -> tuple[bool, tuple[str, ...]]:
        left = find_misfits(show(stops, share), common, tolerances)
        return {one.what for one in left} <= others, tuple(one.words for one in left)

    for stops in sorted((n / 3 for n in range(-9, 10) if n), key=abs):
        good, left = left_with(stops, strength)
        if good:
            found.append(Remedy("exposure", round(stops, 2), left))
            break
    for tenth in range(int(strength * 10) - 1, 0, -2):
        good, left = left_with(0.0, tenth / 10)
        if good:
            found.append(Remedy("strength", tenth / 10, left))
            break
    return found


def as_numbers(figures: Figures) -> dict[str, float]:
    return {name: round(value, 5) for name, value in asdict(figures).items()}
