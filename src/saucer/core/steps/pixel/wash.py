"""Wash: a colour laid over with a W3C blend mode."""

from __future__ import annotations

from typing import Literal

import numpy as np

from saucer.core.numeric.blending import BlendMode, blend
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import Colour, StepParameters
from saucer.core.steps.registry import Junction, PixelKind, register

WHITE, BLACK = (1.0, 1.0, 1.0), (0.0, 0.0, 0.0)


class Wash(StepParameters):
    """The mode acts on code values; the colour is given in those of the junction, so that 0 and 1 are the ends of every mode."""

    kind: Literal["wash"] = "wash"
    mode: BlendMode = "multiply"
    colour: Colour = WHITE


def prepare(step: Wash, junction: Junction) -> Operation:
    colour = np.array(step.colour, np.float32)

    def run(planes: np.ndarray) -> None:
        blend(step.mode, planes, np.repeat(colour[:, None], planes.shape[1], axis=1))

    return run


def changes_nothing(mode: BlendMode, colour: Colour) -> bool:
    """Is this the colour that leaves everything as it is, laid over by this mode?"""
    if colour == WHITE:
        return mode in ("multiply", "darken", "color-burn", "add-less-one")
    return colour == BLACK and mode in ("screen", "lighten", "color-dodge", "difference", "exclusion")


def neutral(step: Wash) -> bool:
    return changes_nothing(step.mode, step.colour)


def summary(step: Wash) -> str:
    if neutral(step):
        return "no change"
    codes = " ".join(f"{value * 255:.0f}" for value in step.colour)
    return f"{step.mode} {codes}"


register(PixelKind(Wash, "Wash", prepare, neutral, summary))
