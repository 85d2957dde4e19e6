"""Vignette: the corners drawn towards a colour, in linear light, as a lens does: the same number of stops in every encoding."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.working import over_rows_in_light
from saucer.core.numeric.elementary import F, compiled, smooth
from saucer.core.numeric.parallel import over_runs
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
def _weigh(weights, top, middle_x, middle_y, per_x, per_y, begin, per_feather, amount):  # type: ignore[no-untyped-def]
    for row in range(weights.shape[0]):
        line, dy = weights[row], (F(top + row) + F(0.5) - middle_y) * per_y
        for x in range(line.size):
            dx = (F(x) + F(0.5) - middle_x) * per_x
            line[x] = amount * smooth((np.sqrt(dx * dx + dy * dy) - begin) * per_feather)


@compiled
def _draw_towards(light, weights, colour):  # type: ignore[no-untyped-def]
    cr, cg, cb = colour[0], colour[1], colour[2]
    for x in range(weights.size):
        w = weights[x]
        light[3 * x] = light[3 * x] + w * (cr - light[3 * x])
        light[3 * x + 1] = light[3 * x + 1] + w * (cg - light[3 * x + 1])
        light[3 * x + 2] = light[3 * x + 2] + w * (cb - light[3 * x + 2])


def evaluate(step: Vignette, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    half_x, half_y = frame.width / 2, frame.height / 2
    # A corner of the ellipse with the picture's half sides is at the square root of 2; so it is on this circle.
    circle = np.hypot(half_x, half_y) / np.sqrt(2)
    axes = [side + step.roundness * (circle - side) for side in (half_x, half_y)]
    numbers = [F(v) for v in (half_x, half_y, *(1 / (np.sqrt(2) * axis) for axis in axes))]
    numbers += [F(step.midpoint - step.feather / 2), F(1 / step.feather), F(step.amount)]

    def weigh(start: int, count: int) -> np.ndarray:
        weights = np.empty((count, frame.width), np.float32)
        _weigh(weights, frame.top + start, *numbers)
        return weights.reshape(-1)

    rows, scale = pixels.reshape(len(pixels), -1), encoding.transfer.scale_fast
    if scale is not None and step.colour == (0, 0, 0):

        def darken(start: int, stop: int) -> None:
            scale(rows[start:stop].reshape(-1), 1 - weigh(start, stop - start))

        over_runs(darken, len(rows), chunk=ROWS)
        return pixels
    colour = encoding.transfer.decode(convert(np.array(step.colour), ENCODINGS["srgb"], encoding)).astype(np.float32)

    def draw(light: np.ndarray, start: int) -> None:
        _draw_towards(light.reshape(-1), weigh(start, len(light)), colour)

    over_rows_in_light(encoding, rows, draw, ROWS)
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


register(
    SpatialKind(
        Vignette,
        "Vignette",
        evaluate,
        neutral,
        summary,
        lines=lines,
        examples=({"amount": 0.5}, {"amount": 0.5, "colour": [0.1, 0.05, 0.2]}),
    )
)
