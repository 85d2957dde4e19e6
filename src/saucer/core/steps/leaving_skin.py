"""Skin left as it was by a step: how much of each colour is skin, and what comes in laid over what the step makes of it by so much."""

from __future__ import annotations

import numpy as np

from saucer.core.colour.conversion import conversion
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import Rendering
from saucer.core.colour.skin import CHROMAS, LINE
from saucer.core.colour.working import put_in_oklab
from saucer.core.numeric.elementary import F, angle, compiled, smooth
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import LeaveSkin

EDGE = 30.0
"""Degrees over which what is left fades: a turn of half as much, 15 degrees, still keeps hues in their order there."""
RICHEST = 0.24
"""OKLab chroma from which nothing is skin any more: between there and the richest skin it fades."""


def skin_share(planes: np.ndarray, encoding: Encoding, leave: LeaveSkin) -> np.ndarray:
    """(n,) float32, 0..amount: how much of each colour is left as skin. planes: (3, n) float32 code values, not changed

    By hue round the line of skin and by chroma in OKLab, smooth in both, and nothing at grey; lightness takes no part, so that a face is
    left from its shadows to its highlights.
    """
    lab = planes.copy()
    put_in_oklab(lab, encoding)
    _weigh(lab[0], lab[1], lab[2], F(LINE), F(leave.width), F(leave.amount))
    return lab[0]


def leave_skin(operation: Operation, before: Encoding, after: Encoding, leave: LeaveSkin, rendering: Rendering) -> Operation:
    """What comes in, properly converted where the encoding changes, in place of what the operation makes of it, as far as it is skin."""
    if leave.amount == 0:
        return operation
    converted = conversion(before, after, rendering)

    def run(planes: np.ndarray) -> None:
        share, kept = skin_share(planes, before, leave), planes.copy()
        operation(planes)
        if converted is not None:
            converted(kept)
        for made, was in zip(planes, kept, strict=True):
            _give_back(made, was, share)

    return run


@compiled
def _weigh(light, a, b, line, width, amount):  # type: ignore[no-untyped-def]
    """Into the first plane."""
    for j in range(light.size):
        x, y = a[j], b[j]
        chroma = np.sqrt(x * x + y * y)
        away = np.abs(angle(y, x) * F(180 / np.pi) - line)
        away = away if away <= F(180) else F(360) - away
        near = F(1) - smooth((away - width) * F(1 / EDGE))
        coloured = smooth(chroma * F(1 / CHROMAS[0])) * (F(1) - smooth((chroma - F(CHROMAS[1])) * F(1 / (RICHEST - CHROMAS[1]))))
        light[j] = amount * near * coloured


@compiled
def _give_back(made, was, share):  # type: ignore[no-untyped-def]
    for j in range(made.size):
        made[j] += share[j] * (was[j] - made[j])
