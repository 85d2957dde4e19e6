"""Levels: input black and white, gamma, output black and white, for each channel and then for all."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import model_validator
from pydantic_core import PydanticCustomError

from saucer.core.lut.formulas import Exponent, Matrix
from saucer.core.lut.table import Link
from saucer.core.numeric.elementary import F, compiled, power, split
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import ParameterGroup, StepParameters, at_defaults, within
from saucer.core.steps.registry import Junction, PixelKind, grey_lines, register

SMALLEST_RANGE = 1 / 1023
CHANNELS = ("red", "green", "blue")
CodeAround = Annotated[float, within(-1, 2, "code value")]


class Range(ParameterGroup):
    """out = output_black + t**(1 / gamma) (output_white - output_black), t = (in - input_black) / (input_white - input_black)."""

    input_black: CodeAround = 0.0
    input_white: CodeAround = 1.0
    gamma: Annotated[float, within(0.1, 10)] = 1.0
    output_black: CodeAround = 0.0
    output_white: CodeAround = 1.0

    @model_validator(mode="after")
    def _rising(self) -> Range:
        if self.input_white - self.input_black < SMALLEST_RANGE - 1e-9:
            raise PydanticCustomError(
                "field",
                "{place}: must be above input_black ({black}) by at least 1/1023, got {white}",
                {"place": "input_white", "black": f"{self.input_black:g}", "white": f"{self.input_white:g}"},
            )
        return self


class Levels(StepParameters):
    """Channels first, then master. The power acts on t of 0..1; outside the line goes on, below 0 as the mirror image."""

    kind: Literal["levels"] = "levels"
    master: Range = Range()
    red: Range = Range()
    green: Range = Range()
    blue: Range = Range()


@compiled
def _range(values, black, scale, high, low, inverse, out_black, out_range):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        t = (values[j] - black) * scale
        size = abs(t)
        bent = power(size, high, low)
        bent = bent if size < F(1) else F(1) + (size - F(1)) * inverse
        values[j] = out_black + (-bent if t < F(0) else bent) * out_range


@compiled
def _straight(values, slope, offset):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        values[j] = values[j] * slope + offset


def _operation(part: Range) -> Operation:
    scale, out_range = 1 / (part.input_white - part.input_black), part.output_white - part.output_black
    if part.gamma == 1:
        slope = scale * out_range
        offset = part.output_black - part.input_black * slope
        return lambda values: _straight(values, F(slope), F(offset))
    numbers = [F(part.input_black), F(scale), *split(1 / part.gamma), F(1 / part.gamma), F(part.output_black), F(out_range)]
    return lambda values: _range(values, *numbers)


def prepare(step: Levels, junction: Junction) -> Operation:
    neutral = Range()
    channels = [
        (channel, _operation(getattr(step, name))) for channel, name in enumerate(CHANNELS) if getattr(step, name) != neutral
    ]
    master = _operation(step.master) if step.master != neutral else None

    def run(planes: np.ndarray) -> None:
        for channel, operation in channels:
            operation(planes[channel])
        if master is not None:
            master(planes.reshape(-1))

    return run


def summary(step: Levels) -> str:
    parts = []
    for name in ("master", *CHANNELS):
        part: Range = getattr(step, name)
        words = [f"in {part.input_black:.3g}..{part.input_white:.3g}"] if (part.input_black, part.input_white) != (0, 1) else []
        words += [f"gamma {part.gamma:.3g}"] if part.gamma != 1 else []
        words += (
            [f"out {part.output_black:.3g}..{part.output_white:.3g}"] if (part.output_black, part.output_white) != (0, 1) else []
        )
        parts += [" ".join([name, *words])] if words else []
    return ", ".join(parts) or "no change"


def lines(step: Levels, junction: Junction) -> dict[str, list[float]]:
    return {} if at_defaults(step) else grey_lines(prepare(step, junction))


def _affine(scales: list[float], offsets: list[float]) -> Matrix:
    r, g, b = scales
    return Matrix(((r, 0.0, 0.0), (0.0, g, 0.0), (0.0, 0.0, b)), (offsets[0], offsets[1], offsets[2]))


def links(step: Levels, junction: Junction) -> tuple[Link, ...]:
    """Into t, a power, out of t; channels first, then master. The power is exact for t up to 1."""
    found: list[Link] = []
    for parts in ([step.red, step.green, step.blue], [step.master] * 3):
        into = [1 / (part.input_white - part.input_black) for part in parts]
        found.append(_affine(into, [-part.input_black * scale for part, scale in zip(parts, into, strict=True)]))
        if any(part.gamma != 1 for part in parts):
            found.append(Exponent("basicMirrorFwd", tuple(1 / part.gamma for part in parts)))  # type: ignore[arg-type]
        found.append(_affine([part.output_white - part.output_black for part in parts], [part.output_black for part in parts]))
    return tuple(node for node in found if node != _affine([1.0] * 3, [0.0] * 3))


register(
    PixelKind(
        Levels,
        "Levels",
        prepare,
        at_defaults,
        summary,
        lines,
        links=links,
        corrects=True,
        examples=({"master": {"gamma": 1.2}, "red": {"output_black": 0.1}},),
    )
)
