"""Why a colour is what it is: its values after each step of a look, and which step moved it most."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.engine.plan import Plan
from saucer.core.reports.along import end_of_walk, walk_along
from saucer.core.steps.registry import Frame

Triple = tuple[float, float, float]
Pick = Callable[[np.ndarray], np.ndarray]
"""The pixels that are asked about, (h, w, 3), of a picture on its way."""


@dataclass(frozen=True)
class Reached:
    """What the colours are after a step; of the first, as they come in; of the last, as they leave, where the look has a
    strength of its own.

    id, path, title: of the step; empty ids for the two ends
    encoding: id of the one at this junction
    codes, spread: mean and standard deviation of the code values of each channel; a single pixel spreads by nothing
    lightness, chroma, hue: of the mean in OKLab, hue in degrees
    moved: mean CIEDE2000 from what reached the step
    """

    id: str
    path: str
    title: str
    encoding: str
    codes: Triple
    spread: Triple
    lightness: float
    chroma: float
    hue: float
    moved: float


def trace_colour(plan: Plan, pixels: np.ndarray, pick: Pick, frame: Frame | None = None) -> list[Reached]:
    """From what comes in to what leaves.

    pixels: (h, w, 3) float32 code values of the plan's source. Where no step is spatial only what is picked goes through the look
    pick: cuts the same pixels, one at least, out of any picture of that size
    """
    if not plan.acts_spatially:
        pixels, pick = np.ascontiguousarray(pick(pixels)), lambda picture: picture
    picked = pick(pixels)
    found = [_reached("", "", "As it comes", picked, plan.source, picked, plan.source)]
    last = pixels
    for passed in walk_along(plan, pixels, frame):
        stage, last = passed.stage, passed.after
        found.append(
            _reached(stage.step.id, stage.path, stage.title, pick(passed.before), stage.before, pick(passed.after), stage.after)
        )
    if plan.strength != 1:
        end = pick(end_of_walk(plan, pixels, last))
        found.append(_reached("", "", "Strength of the look", pick(last), plan.end, end, plan.end))
    return found


def most_moved(reached: list[Reached]) -> int | None:
    """Which of them moved the colours most; None where none did."""
    moved = [one.moved for one in reached]
    return int(np.argmax(moved)) if max(moved) > 0 else None


def _reached(step: str, path: str, title: str, before: np.ndarray, was_in: Encoding, after: np.ndarray, is_in: Encoding) -> Reached:
    flat = after.reshape(-1, 3).astype(np.float64)
    light_before, light = to_linear_709(before.reshape(-1, 3).astype(np.float64), was_in), to_linear_709(flat, is_in)
    lightness, a, b = linear_to_oklab(light).mean(axis=0)
    moved = ciede2000(linear_709_to_lab(light_before), linear_709_to_lab(light)).mean()
    return Reached(
        step, path, title, is_in.id, _triple(flat.mean(axis=0)), _triple(flat.std(axis=0)), float(lightness), float(np.hypot(a, b)),
        float(np.degrees(np.arctan2(b, a)) % 360), float(moved),
    )  # fmt: skip


def _triple(values: np.ndarray) -> Triple:
    red, green, blue = (float(value) for value in values)
    return red, green, blue
