"""What a look does to ramps of 10 bits: tones that fall together, leaps between neighbours, tones that turn round, and what lies beyond."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from saucer.core.engine.evaluate import evaluate, show_on_srgb
from saucer.core.engine.lattice import SHAPER
from saucer.core.engine.plan import Plan
from saucer.core.reports.marks import SRGB

LEVELS = 1023
RAMPS = {
    "grey": (1, 1, 1), "red": (1, 0, 0), "yellow": (1, 1, 0), "green": (0, 1, 0), "cyan": (0, 1, 1),
    "blue": (0, 0, 1), "magenta": (1, 0, 1),
}  # fmt: skip
BEYOND = 0.25
"""Code values below 0 and above 1 that are asked as well."""


@dataclass(frozen=True)
class Along:
    """figure: codes of 10 bits; ramp: which one is worst; at: the code where, 0..1023, below and above for what lies beyond"""

    figure: float
    ramp: str
    at: int


def strain_ramps(plan: Plan) -> dict[str, Along]:
    """By what is measured: together, leaps, reversed, beyond, each the worst of all ramps.

    together: the longest run of codes that come out as one, those at black and at white not counted
    leaps: the most codes between the results of two neighbours
    reversed: by how much luma falls while a ramp rises; beyond: the same below 0 and above 1, or infinite for what is no number there
    """
    codes = np.arange(LEVELS + 1) / LEVELS
    found: dict[str, Along] = {}
    for name, channels in RAMPS.items():
        shown = _shown(plan, codes, channels)
        _keep_worst(found, "together", name, *_longest_run(shown))
        leaps = np.abs(np.diff(np.clip(shown, 0, 1), axis=0)).max(axis=-1) * LEVELS
        _keep_worst(found, "leaps", name, float(leaps.max()), int(leaps.argmax()))
        _keep_worst(found, "reversed", name, *_deepest_fall(np.clip(shown, 0, 1) @ SRGB.luma))
    steps = int(BEYOND * LEVELS)
    for first, last in ((-steps, 0), (LEVELS, LEVELS + steps)):
        shown = _shown(plan, np.arange(first, last + 1) / LEVELS, RAMPS["grey"])
        fall, at = _deepest_fall(shown @ SRGB.luma) if np.isfinite(shown).all() else (float("inf"), 0)
        _keep_worst(found, "beyond", "grey", fall, first + at)
    return found


def _shown(plan: Plan, codes: np.ndarray, channels: tuple[int, int, int]) -> np.ndarray:
    """(n, 3) float64 sRGB code values of a ramp behind the look. Codes of linear light are those of the lattice's shaper."""
    values = codes[:, None] * np.array(channels)
    if plan.source.linear:
        values = SHAPER.light(values)
    return show_on_srgb(evaluate(plan, values.astype(np.float32)), plan.end, plan.view).astype(np.float64)


def _keep_worst(found: dict[str, Along], what: str, ramp: str, figure: float, at: int) -> None:
    if what not in found or figure > found[what].figure:
        found[what] = Along(figure, ramp, at)


def _longest_run(shown: np.ndarray) -> tuple[float, int]:
    """How many neighbouring codes come out as one code of 10 bits in every channel, and where they begin."""
    rounded = np.round(np.clip(shown, 0, 1) * LEVELS).astype(int)
    held = ((rounded > 0) & (rounded < LEVELS)).any(axis=-1)  # else it is clipped, which pictures tell
    begins = np.flatnonzero(np.r_[True, (np.diff(rounded, axis=0) != 0).any(axis=-1)])
    lengths = np.where(held[begins], np.diff(np.r_[begins, len(rounded)]), 0)
    longest = int(lengths.argmax())
    return float(lengths[longest]), int(begins[longest])


def _deepest_fall(luma: np.ndarray) -> tuple[float, int]:
    falls = np.maximum.accumulate(luma) - luma
    return float(falls.max() * LEVELS), int(falls.argmax())


RAMP_WORDS: Mapping[str, str] = {
    "together": "{figure:.0f} neighbouring codes of 10 bits come out as one, from {at} on",
    "leaps": "{figure:.0f} codes of 10 bits lie between neighbours, at {at}",
    "reversed": "tones turn round by {figure:.0f} codes of 10 bits, at {at}",
    "beyond": "what lies beyond turns round by {figure:.0f} codes of 10 bits, at {at}",
}
