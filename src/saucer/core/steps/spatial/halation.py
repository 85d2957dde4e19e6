"""Halation: a tinted halo round what is bright, as light thrown back from behind a film leaves it."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.primaries import rgb_to_rgb
from saucer.core.numeric.blur import blur, blur_reach
from saucer.core.steps.parameters import Colour, StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register
from saucer.core.steps.spatial.bloom import above


class Halation(StepParameters):
    """Luminance above `threshold` is blurred; what that has more than the pixel itself is added, `amount` times, in the tint's light."""

    kind: Literal["halation"] = "halation"
    threshold: Annotated[float, within(0, 16, "linear light")] = 0.7
    radius: Annotated[float, within(0.001, 0.05, "picture heights, standard deviation")] = 0.006
    tint: Colour = (1.0, 0.35, 0.1)
    amount: Annotated[float, within(0, 4)] = 0.0


def evaluate(step: Halation, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    light = encoding.transfer.decode(pixels)
    over = above(light, encoding.luma, step.threshold)
    halo = np.maximum(blur(over, step.radius * frame.height) - over, np.float32(0))
    srgb = ENCODINGS["srgb"]
    tint = rgb_to_rgb(srgb.primaries, encoding.primaries) @ convert(np.array(step.tint), srgb, ENCODINGS["linear-709"])
    light += halo[..., None] * (step.amount * tint).astype(np.float32)
    return encoding.transfer.encode(light)


def reach(step: Halation, height: int) -> int:
    return blur_reach(step.radius * height)


def neutral(step: Halation) -> bool:
    return step.amount == 0


def summary(step: Halation) -> str:
    return (
        "no change"
        if neutral(step)
        else f"x {step.amount:.2f} above {step.threshold:.2g}, radius {step.radius * 100:.2g} % of the height"
    )


register(SpatialKind(Halation, "Halation", evaluate, neutral, summary, reach))
