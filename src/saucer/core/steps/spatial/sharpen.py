"""Sharpen: what a blur takes from luma is added to all three channels."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.blur import ROWS, blur, blur_reach
from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.parallel import over_runs
from saucer.core.steps.parameters import StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register


class Sharpen(StepParameters):
    """Detail d of luma code values becomes d |d| / (|d| + threshold) before it is added `amount` times: fine noise is left alone."""

    kind: Literal["sharpen"] = "sharpen"
    radius: Annotated[float, within(0.0002, 0.01, "picture heights")] = 0.001
    amount: Annotated[float, within(0, 4)] = 0.0
    threshold: Annotated[float, within(0, 0.1, "code value")] = 0.0


@compiled
def _add_detail(pixels, luma, smooth, amount, threshold):  # type: ignore[no-untyped-def]
    """To flat pixels, in place; threshold: above 0"""
    for x in range(luma.size):
        detail = luma[x] - smooth[x]
        size = abs(detail)
        more = amount * detail * (size / (size + threshold))
        pixels[3 * x] += more
        pixels[3 * x + 1] += more
        pixels[3 * x + 2] += more


def evaluate(step: Sharpen, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    luma = pixels @ encoding.luma.astype(np.float32)
    smooth = blur(luma, step.radius * frame.height, frame.top)
    # So small a threshold leaves every detail that a float32 code value can have as it is.
    amount, threshold = np.float32(step.amount), np.float32(max(step.threshold, 1e-30))

    def add(start: int, stop: int) -> None:
        _add_detail(pixels[start:stop].reshape(-1), luma[start:stop].reshape(-1), smooth[start:stop].reshape(-1), amount, threshold)

    over_runs(add, len(pixels), chunk=ROWS)
    return pixels


def reach(step: Sharpen, height: int) -> int:
    return blur_reach(step.radius * height)


def neutral(step: Sharpen) -> bool:
    return step.amount == 0


def summary(step: Sharpen) -> str:
    return "no change" if neutral(step) else f"x {step.amount:.2f}, radius {step.radius * 100:.2g} % of the height"


register(SpatialKind(Sharpen, "Sharpen", evaluate, neutral, summary, reach, examples=({"amount": 0.5},)))
