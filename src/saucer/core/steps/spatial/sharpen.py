"""Sharpen: what a blur takes from luma is added to all three channels."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.blur import blur, blur_reach
from saucer.core.steps.parameters import StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register


class Sharpen(StepParameters):
    """Detail d of luma code values becomes d |d| / (|d| + threshold) before it is added `amount` times: fine noise is left alone."""

    kind: Literal["sharpen"] = "sharpen"
    radius: Annotated[float, within(0.0002, 0.01, "picture heights")] = 0.001
    amount: Annotated[float, within(0, 4)] = 0.0
    threshold: Annotated[float, within(0, 0.1, "code value")] = 0.0


def evaluate(step: Sharpen, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    luma = pixels @ encoding.luma.astype(np.float32)
    detail = luma - blur(luma, step.radius * frame.height)
    if step.threshold:
        size = np.abs(detail)
        detail *= size / (size + np.float32(step.threshold))
    return np.asarray(pixels + (np.float32(step.amount) * detail)[..., None], np.float32)


def reach(step: Sharpen, height: int) -> int:
    return blur_reach(step.radius * height)


def neutral(step: Sharpen) -> bool:
    return step.amount == 0


def summary(step: Sharpen) -> str:
    return "no change" if neutral(step) else f"x {step.amount:.2f}, radius {step.radius * 100:.2g} % of the height"


register(SpatialKind(Sharpen, "Sharpen", evaluate, neutral, summary, reach))
