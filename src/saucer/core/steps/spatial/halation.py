"""Halation: a tinted halo round what is bright, as light thrown back from behind a film leaves it, near and, with less of it, far."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.primaries import rgb_to_rgb
from saucer.core.numeric.blur import ROWS, blur, blur_reach
from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.mixing import mix
from saucer.core.numeric.parallel import over_runs
from saucer.core.steps.parameters import Colour, Share, StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register
from saucer.core.steps.spatial.bloom import above


class Halation(StepParameters):
    """Luminance above `threshold` is blurred; what that has more than the pixel itself is added, `amount` times, in the tint's light.

    wide: how much of the halo is blurred by `wide_radius` in place of `radius`
    """

    kind: Literal["halation"] = "halation"
    threshold: Annotated[float, within(0, 16, "linear light")] = 0.7
    radius: Annotated[float, within(0.001, 0.05, "picture heights, standard deviation")] = 0.006
    wide: Share = 0.0
    wide_radius: Annotated[float, within(0.001, 0.1, "picture heights, standard deviation")] = 0.03
    tint: Colour = (1.0, 0.35, 0.1)
    amount: Annotated[float, within(0, 4)] = 0.0


@compiled
def _add_halo(light, thrown, over, colour):  # type: ignore[no-untyped-def]
    """To flat light, in place: what of the light thrown back is more than the pixel's own, in its colour."""
    red, green, blue = colour[0], colour[1], colour[2]
    for x in range(over.size):
        more = thrown[x] - over[x]
        halo = more if more > np.float32(0) else np.float32(0)
        light[3 * x] += halo * red
        light[3 * x + 1] += halo * green
        light[3 * x + 2] += halo * blue


def evaluate(step: Halation, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    encoding.transfer.decode_here(pixels)
    over = above(pixels, encoding.luma, step.threshold)
    thrown = blur(over, step.radius * frame.height, frame.top)
    if step.wide:
        mix(thrown, blur(over, step.wide_radius * frame.height, frame.top), 1 - step.wide, step.wide)
    srgb = ENCODINGS["srgb"]
    tint = rgb_to_rgb(srgb.primaries, encoding.primaries) @ convert(np.array(step.tint), srgb, ENCODINGS["linear-709"])
    colour = (step.amount * tint).astype(np.float32)

    def add(start: int, stop: int) -> None:
        _add_halo(pixels[start:stop].reshape(-1), thrown[start:stop].reshape(-1), over[start:stop].reshape(-1), colour)

    over_runs(add, len(pixels), chunk=ROWS)
    encoding.transfer.encode_here(pixels)
    return pixels


def reach(step: Halation, height: int) -> int:
    return blur_reach(max(step.radius, step.wide_radius if step.wide else 0.0) * height)


def neutral(step: Halation) -> bool:
    return step.amount == 0


def summary(step: Halation) -> str:
    if neutral(step):
        return "no change"
    wide = f" and, {step.wide * 100:.0f} % of it, {step.wide_radius * 100:.2g} %" if step.wide else ""
    return f"x {step.amount:.2f} above {step.threshold:.2g}, radius {step.radius * 100:.2g} %{wide} of the height"


register(SpatialKind(Halation, "Halation", evaluate, neutral, summary, reach, examples=({"amount": 0.5, "wide": 0.5},)))
