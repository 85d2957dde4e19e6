"""Soft focus: the picture's light mixed with a blurred copy of itself."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.blur import blur, blur_reach
from saucer.core.steps.parameters import Share, StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register


class SoftFocus(StepParameters):
    """radius: standard deviation of the bell, as a share of the picture's height."""

    kind: Literal["soft-focus"] = "soft-focus"
    radius: Annotated[float, within(0.0005, 0.05, "picture heights")] = 0.01
    amount: Share = 0.0


def evaluate(step: SoftFocus, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    light = encoding.transfer.decode(pixels)
    soft = blur(light, step.radius * frame.height)
    soft -= light
    soft *= np.float32(step.amount)
    soft += light
    return encoding.transfer.encode(soft)


def reach(step: SoftFocus, height: int) -> int:
    return blur_reach(step.radius * height)


def neutral(step: SoftFocus) -> bool:
    return step.amount == 0


def summary(step: SoftFocus) -> str:
    return "no change" if neutral(step) else f"{step.amount * 100:.0f} %, radius {step.radius * 100:.2g} % of the height"


register(SpatialKind(SoftFocus, "Soft focus", evaluate, neutral, summary, reach, examples=({"amount": 0.5, "radius": 0.05},)))
