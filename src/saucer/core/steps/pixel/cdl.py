"""ASC CDL: slope, offset and power per channel, then saturation."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from saucer.core.colour.transfer import HALF_MAX
from saucer.core.lut import formulas as files
from saucer.core.lut.table import Link
from saucer.core.numeric.elementary import F, clamp, compiled, power, split
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import StepParameters, within
from saucer.core.steps.registry import Junction, PixelKind, grey_lines, register

Slope = Annotated[float, within(0, 16)]
Offset = Annotated[float, within(-4, 4)]
Power = Annotated[float, within(0.05, 8)]
ONES, ZEROS = (1.0, 1.0, 1.0), (0.0, 0.0, 0.0)


class Cdl(StepParameters):
    """out = (in slope + offset)**power, then saturation about BT.709 luma. Source: ASC CDL transfer functions, version 1.2

    clamp: hold to 0..1 before the power and at the end, as version 1.2 does. Without it, as .cc, .ccc, .cdl and edit lists are read and
        written, negative values pass the power unchanged and what it lifts beyond 65504, the largest half float, is held there
    """

    kind: Literal["cdl"] = "cdl"
    slope: tuple[Slope, Slope, Slope] = ONES
    offset: tuple[Offset, Offset, Offset] = ZEROS
    power: tuple[Power, Power, Power] = ONES
    saturation: Annotated[float, within(0, 4)] = 1.0
    clamp: Annotated[bool, Field(description="hold to 0..1, as ASC CDL 1.2 does")] = False


@compiled
def _sop(values, slope, offset, high, low, bend, clamped):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        x = values[j] * slope + offset
        inside = clamp(x, F(0), F(1))
        x = inside if clamped else x
        bent = power(abs(x), high, low)
        bent = bent if bent < F(HALF_MAX) else F(HALF_MAX)
        values[j] = bent if bend & (x > F(0)) else x


@compiled
def _saturate(planes, factor):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        r, g, b = red[j], green[j], blue[j]
        luma = F(0.2126) * r + F(0.7152) * g + F(0.0722) * b
        red[j] = luma + factor * (r - luma)
        green[j] = luma + factor * (g - luma)
        blue[j] = luma + factor * (b - luma)


def prepare(step: Cdl, junction: Junction) -> Operation:
    channels = [
        (F(slope), F(offset), *split(exponent), exponent != 1, step.clamp)
        for slope, offset, exponent in zip(step.slope, step.offset, step.power, strict=True)
    ]

    def run(planes: np.ndarray) -> None:
        for plane, numbers in zip(planes, channels, strict=True):
            _sop(plane, *numbers)
        if step.saturation != 1:
            _saturate(planes, F(step.saturation))
        if step.clamp:
            np.clip(planes, 0, 1, out=planes)

    return run


def neutral(step: Cdl) -> bool:
    return not step.clamp and (step.slope, step.offset, step.power, step.saturation) == (ONES, ZEROS, ONES, 1)


def summary(step: Cdl) -> str:
    parts = [
        f"{name} {' '.join(f'{value:.3g}' for value in getattr(step, name))}"
        for name, none in (("slope", ONES), ("offset", ZEROS), ("power", ONES))
        if getattr(step, name) != none
    ]
    parts += [f"saturation {step.saturation:.2f}"] if step.saturation != 1 else []
    return ", ".join([*parts, *(["clamped"] if step.clamp else [])]) or "no change"


def lines(step: Cdl, junction: Junction) -> dict[str, list[float]]:
    return {} if neutral(step) else grey_lines(prepare(step, junction))


def links(step: Cdl, junction: Junction) -> tuple[Link, ...]:
    return (files.Cdl(step.slope, step.offset, step.power, step.saturation, "Fwd" if step.clamp else "FwdNoClamp"),)


register(
    PixelKind(
        Cdl,
        "CDL",
        prepare,
        neutral,
        summary,
        lines,
        links=links,
        corrects=True,
        examples=({"power": [1.1, 1, 1], "saturation": 1.1},),
    )
)
