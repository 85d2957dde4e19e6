"""On which pictures a look holds: where it clips, crushes, merges tones or turns skin, how far too much, and by which step."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.engine.plan import Plan
from saucer.core.reports.along import end_of_walk, walk_along
from saucer.core.reports.misfits import Figures, Misfit, Tolerances, find_misfits, measure
from saucer.core.steps.registry import Frame

WHAT = ("clipped", "crushed", "merged", "skin")


@dataclass(frozen=True)
class Failing:
    """misfit: what it is, its figure and words; times: how many times its tolerance; id, title: of the step that did most of it"""

    misfit: Misfit
    times: float
    id: str
    title: str


def find_failings(plan: Plan, pixels: np.ndarray, tolerances: Tolerances, frame: Frame | None = None) -> list[Failing]:
    """The worst first; empty where the look holds on the picture. Measured as misfits of a project are (`reports/misfits`).

    pixels: (h, w, 3) float32 code values of the plan's source, a small copy of the whole picture
    """
    before = show_on_srgb(pixels, plan.source, plan.view)
    last, along = pixels, [("", "", _nothing(before))]
    for passed in walk_along(plan, pixels, frame):
        last, stage = passed.after, passed.stage
        along.append((stage.step.id, stage.title, measure(before, show_on_srgb(last, stage.after, plan.view))))
    end = measure(before, show_on_srgb(end_of_walk(plan, pixels, last), plan.end, plan.view))
    found = []
    for misfit in find_misfits(end, None, tolerances):
        figures = np.array([abs(getattr(one, misfit.what)) for _, _, one in along])
        step, title, _ = along[int(np.argmax(np.diff(figures))) + 1]
        found.append(Failing(misfit, abs(misfit.figure) / max(getattr(tolerances, misfit.what), 1e-9), step, title))
    return found


def _nothing(before: np.ndarray) -> Figures:
    """What a look that does nothing would be measured as."""
    return measure(before, before)
