"""Bloom: light above a threshold spreads over its surroundings."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.blur import ROWS, blur, blur_reach
from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.mixing import mix
from saucer.core.numeric.parallel import over_runs
from saucer.core.steps.parameters import StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register


class Bloom(StepParameters):
    """The share of each pixel's light that lies above `threshold` in luminance is blurred and added `amount` times."""

    kind: Literal["bloom"] = "bloom"
    threshold: Annotated[float, within(0, 16, "linear light")] = 0.8
    radius: Annotated[float, within(0.001, 0.08, "picture heights, standard deviation")] = 0.02
    amount: Annotated[float, within(0, 2)] = 0.0


@compiled
def _above(light, luma, threshold, out):  # type: ignore[no-untyped-def]
    red, green, blue = luma[0], luma[1], luma[2]
    for x in range(out.size):
        over = red * light[3 * x] + green * light[3 * x + 1] + blue * light[3 * x + 2] - threshold
        out[x] = over if over > np.float32(0) else np.float32(0)


def above(light: np.ndarray, luma: np.ndarray, threshold: float) -> np.ndarray:
    """(rows, width) float32 luminance over the threshold, else 0."""
    over = np.empty(light.shape[:2], np.float32)
    numbers = luma.astype(np.float32), np.float32(threshold)

    def rows(start: int, stop: int) -> None:
        _above(light[start:stop].reshape(-1), *numbers, over[start:stop].reshape(-1))

    over_runs(rows, len(light), chunk=ROWS)
    return over


@compiled
def _shares(light, over, threshold, out):  # type: ignore[no-untyped-def]
    """out: each pixel's light times how much of its luminance lies above the threshold. All flat, `over` one a pixel."""
    for x in range(over.size):
        share = over[x] / (over[x] + threshold)
        out[3 * x] = light[3 * x] * share
        out[3 * x + 1] = light[3 * x + 1] * share
        out[3 * x + 2] = light[3 * x + 2] * share


def evaluate(step: Bloom, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    encoding.transfer.decode_here(pixels)
    over = above(pixels, encoding.luma, step.threshold)
    lit, threshold = np.empty_like(pixels), np.float32(max(step.threshold, 1e-6))

    def share(start: int, stop: int) -> None:
        _shares(pixels[start:stop].reshape(-1), over[start:stop].reshape(-1), threshold, lit[start:stop].reshape(-1))

    over_runs(share, len(pixels), chunk=ROWS)
    mix(pixels, blur(lit, step.radius * frame.height, frame.top), 1.0, step.amount)
    encoding.transfer.encode_here(pixels)
    return pixels


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


register(SpatialKind(Bloom, "Bloom", evaluate, neutral, summary, reach, examples=({"amount": 0.5},)))
