"""Isolate hue: one range of hues keeps its colour, all others lose saturation."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.working import in_oklab
from saucer.core.numeric.elementary import F, angle, compiled, smooth
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import Degrees, StepParameters, Strength, within
from saucer.core.steps.registry import LINE_SAMPLES, Junction, PixelKind, line_set, register

FADE_CHROMA = 0.04


class IsolateHue(StepParameters):
    """Hues within width / 2 of the centre are kept; over the next `softness` degrees saturation falls to `others`.

    So it does towards grey, which has no hue, from an OKLab chroma of 0.04 down: a hue that is kept comes on from there.
    """

    kind: Literal["isolate-hue"] = "isolate-hue"
    centre: Degrees = 40.0
    width: Annotated[float, within(0, 360, "degrees")] = 60.0
    softness: Annotated[float, within(1, 120, "degrees")] = 20.0
    others: Annotated[float, within(0, 1, what="saturation that all other hues keep")] = 1.0
    strength: Strength = 1.0


@compiled
def _isolate(planes, centre, half, per_softness, others):  # type: ignore[no-untyped-def]
    a, b = planes[1], planes[2]
    for j in range(a.size):
        away = abs(angle(b[j], a[j]) - centre)
        away = away if away <= F(np.pi) else abs(away - F(2 * np.pi))
        full = smooth(np.sqrt(a[j] * a[j] + b[j] * b[j]) * F(1 / FADE_CHROMA))
        keep = others + full * (F(1) - others) * (F(1) - smooth((away - half) * per_softness))
        a[j] *= keep
        b[j] *= keep


def prepare(step: IsolateHue, junction: Junction) -> Operation:
    centre = np.radians(step.centre - 360 if step.centre > 180 else step.centre)
    numbers = [F(centre), F(np.radians(step.width / 2)), F(1 / np.radians(step.softness)), F(step.others)]
    return in_oklab(junction.encoding, lambda planes: _isolate(planes, *numbers))


def neutral(step: IsolateHue) -> bool:
    return step.others == 1


def summary(step: IsolateHue) -> str:
    if neutral(step):
        return "no change"
    return f"keeps {step.width:.0f}\N{DEGREE SIGN} round {step.centre:.0f}\N{DEGREE SIGN}, others x {step.others:.2f}"


def lines(step: IsolateHue, junction: Junction) -> dict[str, list[float]]:
    """The saturation kept, over hues 0..360, at neutral too."""
    away = np.abs((np.linspace(0, 360, LINE_SAMPLES) - step.centre + 180) % 360 - 180)
    t = np.clip((away - step.width / 2) / step.softness, 0, 1)
    return line_set({"saturation": 1 - (1 - step.others) * t * t * (3 - 2 * t)})


register(PixelKind(IsolateHue, "Isolate hue", prepare, neutral, summary, lines, examples=({"others": 0.5},)))
