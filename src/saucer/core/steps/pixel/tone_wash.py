"""Wash over tones: two to five colours from dark to light, each at a tone of its own, laid over with a blend mode."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.numeric.blending import BlendMode, blend
from saucer.core.numeric.cubic import bend, held_curve
from saucer.core.numeric.elementary import clamp, compiled
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import Code, Colour, ParameterGroup, StepParameters
from saucer.core.steps.pixel.wash import changes_nothing
from saucer.core.steps.registry import Junction, Lines, PixelKind, grey_lines, register

MOST = 5
SMALLEST_STEP = 0.01


class Place(ParameterGroup):
    """at: the tone, luma of the junction, at which the wash has just this colour"""

    at: Code
    colour: Colour


class ToneWash(StepParameters):
    """The colour of each tone lies on one smooth curve a channel through the colours, never beyond them; before the first and after the
    last it stays. The mode acts on code values of the junction, as a plain wash does. Fewer than two colours: none, and nothing changes.
    """

    kind: Literal["tone-wash"] = "tone-wash"
    mode: BlendMode = "normal"
    colours: Annotated[tuple[Place, ...], Field(max_length=MOST, description="two to five, `at` rising by at least 0.01")] = ()

    @model_validator(mode="after")
    def _rising(self) -> ToneWash:
        if len(self.colours) == 1:
            raise PydanticCustomError("field", "{place}: needs two colours or more, got 1", {"place": "colours"})
        for index, (before, here) in enumerate(pairwise(self.colours), 1):
            if here.at - before.at < SMALLEST_STEP - 1e-9:
                raise PydanticCustomError(
                    "field", "{place}: must be at least {gap} above the one before ({before}), got {got}",
                    {"place": f"colours[{index}].at", "gap": f"{SMALLEST_STEP:g}", "before": f"{before.at:g}", "got": f"{here.at:g}"},
                )  # fmt: skip
        return self


@compiled
def _tones(planes, weights, target):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        target[j] = clamp(weights[0] * red[j] + weights[1] * green[j] + weights[2] * blue[j], 0, 1)


def prepare(step: ToneWash, junction: Junction) -> Operation:
    if not step.colours:
        return lambda planes: None
    curves = [held_curve(tuple((one.at, one.colour[channel]) for one in step.colours)) for channel in range(3)]
    weights = junction.encoding.luma.astype(np.float32)

    def run(planes: np.ndarray) -> None:
        over = np.empty((3, planes.shape[1]), np.float32)
        _tones(planes, weights, over[0])
        over[1:] = over[0]
        for row, curve in zip(over, curves, strict=True):
            bend(row, *curve)
        blend(step.mode, planes, over)

    return run


def neutral(step: ToneWash) -> bool:
    return all(changes_nothing(step.mode, one.colour) for one in step.colours)


def summary(step: ToneWash) -> str:
    if neutral(step):
        return "no change"
    places = ", ".join(f"{one.at * 255:.0f}: " + " ".join(f"{value * 255:.0f}" for value in one.colour) for one in step.colours)
    return f"{step.mode} {places}"


def lines(step: ToneWash, junction: Junction) -> Lines:
    return {} if neutral(step) else grey_lines(prepare(step, junction))


register(
    PixelKind(
        ToneWash, "Wash over tones", prepare, neutral, summary, lines,
        examples=({"mode": "soft-light", "colours": [{"at": 0, "colour": [0, 0, 0.2]}, {"at": 1, "colour": [1, 0.9, 0.8]}]},),
    )
)  # fmt: skip
