"""What is read off a look on pictures: why a colour is so, what each step does to a picture, and on which pictures the look holds."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from saucer.core.engine.plan import Plan, prepare
from saucer.core.look.model import Look
from saucer.core.reports.holding import Failing, find_failings
from saucer.core.reports.misfits import Tolerances
from saucer.core.reports.telling import Told, tell_steps
from saucer.core.reports.why import Reached, most_moved, trace_colour
from saucer.core.steps.registry import Frame
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures.models import Picture
from saucer.studio.preview.bench import MOST_ADVISED, values_of

SMALL = 240
"""Pixels across of the copy on which it is measured whether a look holds."""


@dataclass(frozen=True)
class Why:
    """most: which of `reached` moved the colours most, None where nothing did; width, height: proxy pixels that were asked about"""

    reached: list[Reached]
    most: int | None
    width: int
    height: int


def explain_colour(
    look: Look, picture: Picture, left: float, top: float, right: float, bottom: float, at: int | None = None
) -> Why:
    """The place or the part of the picture between these, 0..1 across and down, one pixel at least. at: a frame of what moves"""
    plan = prepare(look, at_hand)
    values = values_of(plan, picture, at=at)
    height, width = values.shape[:2]
    first, begin = min(int(left * width), width - 1), min(int(top * height), height - 1)
    last, end = max(first + 1, min(round(right * width), width)), max(begin + 1, min(round(bottom * height), height))
    reached = trace_colour(plan, values, lambda whole: whole[begin:end, first:last], Frame(width, height, 0, at or 0))
    return Why(reached, most_moved(reached), last - first, end - begin)


def tell(look: Look, picture: Picture) -> list[Told]:
    """What each step does to the picture, in words."""
    plan = prepare(look, at_hand)
    values = _small(plan, picture)
    if not plan.acts_spatially:  # an even choice of pixels says the same of colours
        flat = values.reshape(-1, 3)
        values = np.ascontiguousarray(flat[:: max(1, len(flat) // MOST_ADVISED)])[None]
    return tell_steps(plan, values)


@dataclass(frozen=True)
class Held:
    """failings: the worst first, empty where the look holds"""

    picture: int
    failings: list[Failing]


def find_held(look: Look, pictures: list[Picture], tolerances: Tolerances) -> list[Held]:
    """In the order of the pictures, each in its encoding."""
    plan = prepare(look, at_hand)
    return [Held(one.pk, find_failings(plan, _small(plan, one), tolerances)) for one in pictures]


def _small(plan: Plan, picture: Picture) -> np.ndarray:
    values = values_of(plan, picture, SMALL)
    return np.ascontiguousarray(values[:: max(1, values.shape[1] // SMALL), :: max(1, values.shape[1] // SMALL)])
