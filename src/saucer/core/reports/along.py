"""A picture on its way through a look: what it is before and after each step that acts."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from saucer.core.engine.evaluate import fade_look
from saucer.core.engine.plan import Plan, Stage
from saucer.core.engine.rendering import render
from saucer.core.steps.registry import Frame


@dataclass(frozen=True)
class Passed:
    """before, after: float32 code values of `stage.before` and `stage.after`, of the shape that came in"""

    stage: Stage
    before: np.ndarray
    after: np.ndarray


def walk_along(plan: Plan, pixels: np.ndarray, frame: Frame | None = None) -> Iterator[Passed]:
    """What a group holds, step by step, then the group itself where it does more than hold: a blend mode, or a strength of its own.

    pixels: (h, w, 3) float32 code values of the plan's source, all of the picture where a step is spatial
    frame: which picture of a moving one it is. The look's own strength is not laid on
    """
    yield from _along(plan, plan.stages, pixels, frame)


def end_of_walk(plan: Plan, pixels: np.ndarray, last: np.ndarray) -> np.ndarray:
    """What comes out of the look: what its last step made, at the look's strength. pixels: what came in"""
    return fade_look(pixels, last, plan)


def _along(plan: Plan, stages: Sequence[Stage], pixels: np.ndarray, frame: Frame | None) -> Iterator[Passed]:
    for stage in stages:
        if stage.strength == 0 and stage.before == stage.after:
            continue
        whole = render(Plan((stage,), replace(plan.start, encoding=stage.before)), pixels, frame)
        if stage.kind is None:
            yield from _along(plan, stage.inner, pixels, frame)
        if stage.kind is not None or stage.strength != 1 or stage.step.blend != "normal":
            yield Passed(stage, pixels, whole)
        pixels = whole
