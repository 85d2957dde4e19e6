"""On which pictures a look holds: where it clips, crushes, merges tones or turns skin, how far too much, and by which step."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.engine.plan import Plan
from saucer.core.engine.rendering import render
from saucer.core.reports.along import walk_along
from saucer.core.reports.misfits import Misfit, Tolerances, find_misfits, measure
from saucer.core.steps.registry import Frame


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
    end = measure(before, show_on_srgb(render(replace(plan, declared=None), pixels, frame), plan.end, plan.view))
    misfits = find_misfits(end, None, tolerances)
    if not misfits:  # as it mostly is: then nobody asks which step it was
        return []
    along = [("", "", measure(before, before))]
    for passed in walk_along(plan, pixels, frame):
        stage = passed.stage
        along.append((stage.step.id, stage.title, measure(before, show_on_srgb(passed.after, stage.after, plan.view))))
    found = []
    for misfit in misfits:
        figures = np.array([abs(getattr(one, misfit.what)) for _, _, one in along])
        step, title, _ = along[int(np.argmax(np.diff(figures))) + 1]
        found.append(Failing(misfit, abs(misfit.figure) / max(getattr(tolerances, misfit.what), 1e-9), step, title))
    return found
