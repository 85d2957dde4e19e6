"""Vignette: the corners drawn towards a colour, in linear light, as a lens does: the same number of stops in every encoding."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.working import over_rows_in_light
from saucer.core.numeric.elementary import F, compiled, smooth
from saucer.core.steps.parameters import Colour, Share, StepParameters, within
from saucer.core.steps.registry import LINE_SAMPLES, Frame, Junction, SpatialKind, line_set, register

ROWS = 32


class Vignette(StepParameters):
    """The distance from the middle is 0 there and 1 in the corners, along ellipses of the picture's shape or, with roundness, circles.

    amount: share of the light that a corner loses at most, and takes of the colour: 0.5 in black is one stop
    midpoint: the distance at which half of the amount acts; feather: over which distance it comes on; colour in sRGB
    """

    kind: Literal["vignette"] = "vignette"
    amount: Share = 0.0
    midpoint: Annotated[float, within(0.05, 1.5, "share of the half diagonal")] = 0.75
    roundness: Share = 0.0
    feather: Annotated[float, within(0.01, 2, "share of the half diagonal")] = 0.7
    colour: Colour = (0.0, 0.0, 0.0)


@compiled
def _vignette(rows, top, middle_x, middle_y, per_x, per_y, begin, per_feather, amount, colour):  # type: ignore[no-untyped-def]
    width = rows.shape[1] // 3
    weight = np.empty(width, np.float32)
    cr, cg, cb = colour[0], colour[1], colour[2]
    for row in range(rows.shape[0]):
        dy = (F(top + row) + F(0.5) - middle_y) * per_y
        for x in range(width):
            dx = (F(x) + F(0.5) - middle_x) * per_x
            weight[x] = amount * smooth((np.sqrt(dx * dx + dy * dy) - begin) * per_feather)
        out = rows[row]
        for x in range(width):
            w = weight[x]
            out[3 * x] = out[3 * x] + w * (cr - out[3 * x])
            out[3 * x + 1] = out[3 * x + 1] + w * (cg - out[3 * x + 1])
            out[3 * x + 2] = out[3 * x + 2] + w * (cb - out[3 * x + 2])


def evaluate(step: Vignette, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    colour = encoding.transfer.decode(convert(np.array(step.colour), ENCODINGS["srgb"], encoding)).astype(np.float32)
    half_x, half_y = frame.width / 2, frame.height / 2
    # A corner of the ellipse with the picture's half sides is at the square root of 2; so it is on this circle.
    circle = np.hypot(half_x, half_y) / np.sqrt(2)
    axes = [side + step.roundness * (circle - side) for side in (half_x, half_y)]
    numbers = [F(v) for v in (half_x, half_y, *(1 / (np.sqrt(2) * axis) for axis in axes))]
    numbers += [F(step.midpoint - step.feather / 2), F(1 / step.feather), F(step.amount)]
    rows = pixels.reshape(len(pixels), -1)
    over_rows_in_light(encoding, rows, lambda light, start: _vignette(light, frame.top + start, *numbers, colour), ROWS)
    return pixels


def neutral(step: Vignette) -> bool:
    return step.amount == 0


def summary(step: Vignette) -> str:
    return "no change" if neutral(step) else f"{step.amount * 100:.0f} % from {step.midpoint:.2f}"


def lines(step: Vignette, junction: Junction) -> dict[str, list[float]]:
    """The weight over the distance from the middle, 0..1 (a corner)."""
    if neutral(step):
        return {}
    t = np.clip((np.linspace(0, 1, LINE_SAMPLES) - step.midpoint) / step.feather + 0.5, 0, 1)
    return line_set({"weight": step.amount * t * t * (3 - 2 * t)})


register(SpatialKind(Vignette, "Vignette", evaluate, neutral, summary, lines=lines, examples=({"amount": 0.5},)))
