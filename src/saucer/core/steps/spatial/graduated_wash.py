"""Graduated wash: a colour laid over, in full at one place and fading to nothing at another."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.numeric.blending import BlendMode, blend
from saucer.core.numeric.parallel import over_runs
from saucer.core.numeric.planes import BLOCK
from saucer.core.steps.parameters import Colour, Share, StepParameters, within
from saucer.core.steps.registry import Frame, SpatialKind, register

Across = Annotated[float, within(-1, 2, "share of the width from the left")]
Down = Annotated[float, within(-1, 2, "share of the height from the top")]


class GraduatedWash(StepParameters):
    """linear: full at `start` and before, nothing at `end` and beyond; radial: full at `start`, nothing as far away as `end` is.

    The colour is given in code values of the junction, as that of a wash is.
    """

    kind: Literal["graduated-wash"] = "graduated-wash"
    shape: Literal["linear", "radial"] = "linear"
    start: tuple[Across, Down] = (0.5, 0.0)
    end: tuple[Across, Down] = (0.5, 0.6)
    mode: BlendMode = "multiply"
    colour: Colour = (1.0, 1.0, 1.0)
    amount: Share = 0.0


def weights(step: GraduatedWash, frame: Frame, rows: int) -> np.ndarray:
    """(rows, width) float32, 0..amount, from row `frame.top` on."""
    size = np.array([frame.width, frame.height], np.float32)
    start, end = np.array(step.start, np.float32) * size, np.array(step.end, np.float32) * size
    x = np.arange(frame.width, dtype=np.float32)[None] + np.float32(0.5) - start[0]
    y = (np.arange(rows, dtype=np.float32) + np.float32(frame.top + 0.5) - start[1])[:, None]
    way = end - start
    length = max(float(np.hypot(*way)), 1e-3)
    t = (x * way[0] + y * way[1]) / np.float32(length**2) if step.shape == "linear" else np.hypot(x, y) / np.float32(length)
    t = np.clip(t, 0, 1)
    return np.asarray(np.float32(step.amount) * (1 - t * t * (3 - 2 * t)), np.float32)


def evaluate(step: GraduatedWash, pixels: np.ndarray, encoding: Encoding, frame: Frame) -> np.ndarray:
    colour = np.array(step.colour, np.float32)
    result = np.empty_like(pixels)
    share = weights(step, frame, len(pixels))

    def rows(start: int, stop: int) -> None:
        planes = np.ascontiguousarray(pixels[start:stop].reshape(-1, 3).T).copy()
        before = planes.copy()
        blend(step.mode, planes, np.repeat(colour[:, None], planes.shape[1], axis=1))
        planes -= before
        planes *= share[start:stop].reshape(1, -1)
        planes += before
        result[start:stop] = planes.T.reshape(stop - start, -1, 3)

    over_runs(rows, len(pixels), chunk=max(1, BLOCK // frame.width))
    return result


def neutral(step: GraduatedWash) -> bool:
    return step.amount == 0


def summary(step: GraduatedWash) -> str:
    if neutral(step):
        return "no change"
    codes = " ".join(f"{value * 255:.0f}" for value in step.colour)
    return f"{step.shape}, {step.mode} {codes}, {step.amount * 100:.0f} %"


register(SpatialKind(GraduatedWash, "Graduated wash", evaluate, neutral, summary, examples=({"amount": 0.5, "strength": 0.5},)))
