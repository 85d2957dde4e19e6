"""Tone: exposure, contrast about a pivot, toe and shoulder, brightness. Rising and without a bend for every setting."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.transfer import HALF_MAX
from saucer.core.colour.working import in_light, in_turn
from saucer.core.numeric.elementary import F, compiled, power, split
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import StepParameters, at_defaults, within
from saucer.core.steps.registry import Junction, PixelKind, grey_lines, register

STEEPEST = 1.5
"""Powers of two that toe and shoulder at 1 give the slope at black and white."""


class Tone(StepParameters):
    """Exposure in linear light; the rest, in the order of the fields, on code values of each channel.

    contrast: the slope at the pivot; black and white stay where they are, with a slope of 1 / contrast
    contrast_on: `code`, as above; `light`, for light of a scene: a power about the pivot, which is a slope in stops, has no white and is
        undone by its reciprocal; what is below 0 stays, what it lifts beyond 65504 is held there
    toe: below the pivot, -1 deepens and +1 opens shadows; black stays
    shoulder: above the pivot the slope eases to what it is from white on: -1 holds highlights back, +1 extends them
    brightness: lifts or lowers the middle; black and white stay
    Source of the rational curves of contrast and brightness: Schlick, "Fast alternatives to Perlin's bias and gain functions",
    Graphics Gems IV, 1994
    """

    kind: Literal["tone"] = "tone"
    exposure: Annotated[float, within(-8, 8, "stops")] = 0.0
    contrast: Annotated[float, within(0.2, 5, "slope at the pivot")] = 1.0
    contrast_on: Literal["code", "light"] = "code"
    pivot: Annotated[float, within(0.001, 1, "linear light")] = 0.18
    toe: Annotated[float, within(-1, 1)] = 0.0
    shoulder: Annotated[float, within(-1, 1)] = 0.0
    brightness: Annotated[float, within(-1, 1)] = 0.0


@compiled
def _expose(values, gain):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        values[j] *= gain


@compiled
def _raise(values, pivot, high, low):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        x = values[j]
        bent = pivot * power((x if x > F(0) else F(0)) / pivot, high, low)
        bent = bent if bent < F(HALF_MAX) else F(HALF_MAX)
        values[j] = bent if x > F(0) else x


@compiled
def _contrast(values, pivot, slope):  # type: ignore[no-untyped-def]
    """u / (k + (1 - k) u) from 0 (black) or from 1 (white) to the pivot; straight on past black and white."""
    above = F(1) - pivot
    for j in range(values.size):
        x = values[j]
        up = x > pivot
        room = above if up else pivot
        u = (F(1) - x if up else x) / room
        inside = u if u > F(0) else F(0)
        bent = inside / (slope + (F(1) - slope) * inside) + (u - inside) / slope
        values[j] = F(1) - bent * room if up else bent * room


@compiled
def _toe(values, pivot, slope):  # type: ignore[no-untyped-def]
    """Hermite's cubic from black, with this slope, to the pivot, with slope 1; straight on past black."""
    for j in range(values.size):
        u = values[j] / pivot
        v = u if u > F(0) else F(0)
        bent = v * (slope + v * ((F(2) - slope - slope) + v * (slope - F(1)))) + (u - v) * slope
        values[j] = bent * pivot if u < F(1) else values[j]


@compiled
def _shoulder(values, pivot, slope):  # type: ignore[no-untyped-def]
    """The slope goes evenly from 1 at the pivot to `slope` at white and stays there."""
    room = F(1) - pivot
    half = (slope - F(1)) / (room + room)
    for j in range(values.size):
        d = values[j] - pivot
        v = d if d > F(0) else F(0)
        v = v if v < room else room
        values[j] += v * v * half + (d - v) * (slope - F(1)) if d > F(0) else F(0)


@compiled
def _brighten(values, k):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        x = values[j]
        v = x if x > F(0) else F(0)
        v = v if v < F(1) else F(1)
        rest = x - v
        values[j] = v / (k + (F(1) - k) * v) + (rest * k if x > F(0) else rest / k)


def prepare(step: Tone, junction: Junction) -> Operation:
    pivot = F(np.clip(junction.encoding.transfer.encode(np.array(step.pivot)), 0.02, 0.98))
    parts: list[Operation] = []
    if step.exposure:
        gain = F(2.0**step.exposure)
        parts.append(in_light(junction.encoding, lambda planes: _expose(planes.reshape(-1), gain)))
    if step.contrast != 1 and step.contrast_on == "light":
        about, exponent = F(step.pivot), split(step.contrast)
        parts.append(in_light(junction.encoding, lambda planes: _raise(planes.reshape(-1), about, *exponent)))
    if step.contrast != 1 and step.contrast_on == "code":
        parts.append(lambda planes: _contrast(planes.reshape(-1), pivot, F(step.contrast)))
    if step.toe:
        parts.append(lambda planes: _toe(planes.reshape(-1), pivot, F(2 ** (STEEPEST * step.toe))))
    if step.shoulder:
        parts.append(lambda planes: _shoulder(planes.reshape(-1), pivot, F(2 ** (STEEPEST * step.shoulder))))
    if step.brightness:
        parts.append(lambda planes: _brighten(planes.reshape(-1), F(4**-step.brightness)))
    return in_turn(parts)


def neutral(step: Tone) -> bool:
    return at_defaults(step.model_copy(update={"pivot": 0.18, "contrast_on": "code" if step.contrast == 1 else step.contrast_on}))


def summary(step: Tone) -> str:
    parts = [f"{step.exposure:+.2f} stops"] if step.exposure else []
    parts += [f"contrast {step.contrast:.2f}{' on light' if step.contrast_on == 'light' else ''}"] if step.contrast != 1 else []
    parts += [f"{name} {getattr(step, name):+.2f}" for name in ("toe", "shoulder", "brightness") if getattr(step, name)]
    return ", ".join(parts) or "no change"


def lines(step: Tone, junction: Junction) -> dict[str, list[float]]:
    return {} if neutral(step) else grey_lines(prepare(step, junction))


register(
    PixelKind(
        Tone,
        "Tone",
        prepare,
        neutral,
        summary,
        lines,
        corrects=True,
        examples=(
            {"exposure": 1, "contrast": 1.2, "toe": 0.1, "shoulder": 0.1, "brightness": 0.1},
            {"contrast": 1.2, "contrast_on": "light"},
        ),
    )
)
