"""Soft focus: the picture's light mixed with a blurred copy of itself."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.blur import blur, blur_reach
from saucer.core.numeric.disc import disc_blur, disc_reach
from saucer.core.numeric.mixing import mix
from saucer.core.steps.parameters import Share, StepParameters, Strength, within
from saucer.core.steps.registry import Frame, SpatialKind, register


class SoftFocus(StepParameters):
    """radius: standard deviation, across, of what each point of light becomes, as a share of the picture's height.

    shape: a bell, or the evenly lit disc that a lens makes of a point, whose own radius is twice that
    """

    kind: Literal["soft-focus"] = "soft-focus"
    radius: Annotated[float, within(0.0005, 0.05, "picture heights")] = 0.01
    shape: Literal["bell", "disc"] = "bell"
    amount: Share = 0.0
    strength: Strength = 1.0


def evaluate(step: SoftFocus, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    encoding.transfer.decode_here(pixels)
    size = step.radius * frame.height
    soft = blur(pixels, size, frame.top) if step.shape == "bell" else disc_blur(pixels, 2 * size)
    mix(pixels, soft, 1 - step.amount, step.amount)
    encoding.transfer.encode_here(pixels)
    return pixels


def reach(step: SoftFocus, height: int) -> int:
    return blur_reach(step.radius * height) if step.shape == "bell" else disc_reach(2 * step.radius * height)


def neutral(step: SoftFocus) -> bool:
    return step.amount == 0


def summary(step: SoftFocus) -> str:
    if neutral(step):
        return "no change"
    size = f"radius {step.radius * 100:.2g} %" if step.shape == "bell" else f"disc of radius {step.radius * 200:.2g} %"
    return f"{step.amount * 100:.0f} %, {size} of the height"


register(
    SpatialKind(
        SoftFocus,
        "Soft focus",
        evaluate,
        neutral,
        summary,
        reach,
        examples=({"amount": 0.5, "radius": 0.05}, {"amount": 0.5, "shape": "disc"}),
    )
)
