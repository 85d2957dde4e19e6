"""Bloom: light above a threshold spreads over its surroundings."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.blur import blur, blur_reach
from saucer.core.steps.parameters import StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register


class Bloom(StepParameters):
    """The share of each pixel's light that lies above `threshold` in luminance is blurred and added `amount` times."""

    kind: Literal["bloom"] = "bloom"
    threshold: Annotated[float, within(0, 16, "linear light")] = 0.8
    radius: Annotated[float, within(0.001, 0.08, "picture heights, standard deviation")] = 0.02
    amount: Annotated[float, within(0, 2)] = 0.0


def above(light: np.ndarray, luma: np.ndarray, threshold: float) -> np.ndarray:
    """(rows, width) float32 luminance over the threshold, else 0."""
    return np.maximum(light @ luma.astype(np.float32) - np.float32(threshold), np.float32(0))


def evaluate(step: Bloom, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    light = encoding.transfer.decode(pixels)
    over = above(light, encoding.luma, step.threshold)
    share = over / (over + np.float32(max(step.threshold, 1e-6)))
    glow = blur(light * share[..., None], step.radius * frame.height)
    glow *= np.float32(step.amount)
    glow += light
    return encoding.transfer.encode(glow)


def reach(step: Bloom, height: int) -> int:
    return blur_reach(step.radius * height)


def neutral(step: Bloom) -> bool:
    return step.amount == 0


def summary(step: Bloom) -> str:
    return (
        "no change"
        if neutral(step)
        else f"x {step.amount:.2f} above {step.threshold:.2g}, radius {step.radius * 100:.2g} % of the height"
    )


register(SpatialKind(Bloom, "Bloom", evaluate, neutral, summary, reach))
