"""Curves: master, red, green and blue, each through 2 to 16 points, over 0..1 or a range of code values beyond it."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.numeric.cubic import bend, monotone, natural_slopes
from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import Share, StepParameters, within
from saucer.core.steps.registry import LINE_SAMPLES, Junction, PixelKind, line_set, register

CHANNELS = ("red", "green", "blue")
SMALLEST_STEP = 1 / 1023
IDENTITY: tuple[tuple[float, float], ...] = ((0.0, 0.0), (1.0, 1.0))

Points = Annotated[
    tuple[tuple[Share, Share], ...],
    Field(min_length=2, max_length=16, description="[in, out] pairs, shares 0..1 of the range, in rising by at least 1/1023"),
]
Interpolation = Literal["smooth", "natural", "linear"]


class Curves(StepParameters):
    """Channel curves first, then master. Neutral: every point on the diagonal."""

    kind: Literal["curves"] = "curves"
    interpolation: Interpolation = "smooth"
    master: Points = IDENTITY
    red: Points = IDENTITY
    green: Points = IDENTITY
    blue: Points = IDENTITY
    master_on: Annotated[Literal["rgb", "luma"], Field(description="luma: the change of luma is added to all three")] = "rgb"
    low: Annotated[float, within(-1, 0, "code value", "where the range begins")] = 0.0
    high: Annotated[float, within(1, 100, "code value", "where it ends: light, or code values above white")] = 1.0
    clip: Annotated[bool, Field(description="hold the result to the range")] = False

    @model_validator(mode="after")
    def _rising(self) -> Curves:
        for channel in ("master", *CHANNELS):
            points = getattr(self, channel)
            for index in range(1, len(points)):
                before, here = points[index - 1][0], points[index][0]
                if here - before < SMALLEST_STEP - 1e-9:
                    raise PydanticCustomError(
                        "field",
                        "{place}: in must be larger than the point before ({before}) by at least 1/1023, got {here}",
                        {"place": f"{channel}[{index}]", "before": f"{before:g}", "here": f"{here:g}"},
                    )
        return self


@lru_cache(maxsize=512)
def segments(points: tuple[tuple[float, float], ...], interpolation: Interpolation) -> tuple[np.ndarray, np.ndarray]:
    """A curve as cubic pieces: knots (k,) and pieces (5, k + 1) of origin, c0, c1, c2, c3 in powers of x - origin, float32.

    The first and last piece lie outside the points: straight on where the end point stands at 0 or 1, else flat.
    """
    x, y = np.array(points, np.float64).T
    h, secant = np.diff(x), np.diff(y) / np.diff(x)
    pieces = np.zeros((len(x) + 1, 5))
    pieces[1:-1, 0], pieces[1:-1, 1] = x[:-1], y[:-1]
    if interpolation == "linear":
        pieces[1:-1, 2] = secant
        first, last = secant[0], secant[-1]
    else:
        slopes = natural_slopes(x, y)
        if interpolation == "smooth":
            slopes = monotone(slopes, secant)
        pieces[1:-1, 2] = slopes[:-1]
        pieces[1:-1, 3] = (3 * secant - 2 * slopes[:-1] - slopes[1:]) / h
        pieces[1:-1, 4] = (slopes[:-1] + slopes[1:] - 2 * secant) / h**2
        first, last = slopes[0], slopes[-1]
    pieces[0, :3] = x[0], y[0], first if x[0] == 0 else 0
    pieces[-1, :3] = x[-1], y[-1], last if x[-1] == 1 else 0
    return x.astype(np.float32), np.ascontiguousarray(pieces.T, np.float32)


def over_range(curve: tuple[np.ndarray, np.ndarray], low: float, high: float) -> tuple[np.ndarray, np.ndarray]:
    """Knots and pieces over 0..1 as the same curve over low..high, in and out."""
    knots, pieces = curve
    span = high - low
    scale = np.array([span, span, 1, 1 / span, 1 / span**2])[:, None]
    offset = np.array([low, low, 0, 0, 0])[:, None]
    return (knots * span + low).astype(np.float32), np.ascontiguousarray(pieces * scale + offset, np.float32)


@compiled
def _luma(planes, wr, wg, wb, luma):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(luma.size):
        luma[j] = green[j] + wr * (red[j] - green[j]) + wb * (blue[j] - green[j])


def evaluate_curve(points: Any, interpolation: Interpolation, x: Any) -> np.ndarray:
    """One curve at (n,) positions, float32, for graphs and tests."""
    values = np.array(x, np.float32, ndmin=1)
    if not is_identity(points):
        bend(values, *segments(tuple(map(tuple, points)), interpolation))
    return values


def is_identity(points: Any) -> bool:
    """On the diagonal from 0 to 1, so that nothing moves inside or outside."""
    return all(x == y for x, y in points) and points[0][0] == 0 and points[-1][0] == 1


def prepare(step: Curves, junction: Junction) -> Operation:
    def curve_of(name: str) -> tuple[np.ndarray, np.ndarray] | None:
        points = getattr(step, name)
        return None if is_identity(points) else over_range(segments(points, step.interpolation), step.low, step.high)

    curves, master = [curve_of(name) for name in CHANNELS], curve_of("master")
    weights = junction.encoding.luma.astype(np.float32)

    def run(planes: np.ndarray) -> None:
        for plane, curve in zip(planes, curves, strict=True):
            if curve is not None:
                bend(plane, *curve)
        if master is not None and step.master_on == "rgb":
            bend(planes.reshape(-1), *master)
        elif master is not None:
            luma = np.empty(planes.shape[1], np.float32)
            _luma(planes, *weights, luma)
            bent = luma.copy()
            bend(bent, *master)
            planes += bent - luma
        if step.clip:
            np.clip(planes, step.low, step.high, out=planes)

    return run


def neutral(step: Curves) -> bool:
    return not step.clip and all(is_identity(getattr(step, name)) for name in ("master", *CHANNELS))


def summary(step: Curves) -> str:
    """Which curves are bent, and the black and white points that moved, in 8-bit codes."""
    parts = []
    for name in ("master", *CHANNELS):
        points = getattr(step, name)
        if is_identity(points):
            continue
        (_, low), (_, high) = points[0], points[-1]
        ends = [("black", low)] if points[0] != (0, 0) else []
        ends += [("white", high)] if points[-1] != (1, 1) else []
        span = step.high - step.low
        moved = [f"{end} {(step.low + share * span) * 255:.0f}" for end, share in ends]
        parts.append(" ".join([name, *moved]) if moved else f"{name} {len(points)} points")
    if parts and (step.low, step.high) != (0, 1):
        parts.append(f"over {step.low:g} to {step.high:g}")
    return ", ".join(parts) or "no change"


def lines(step: Curves, junction: Junction) -> dict[str, list[float]]:
    """Each curve that is bent, over the range and in shares of it."""
    positions = np.linspace(0, 1, LINE_SAMPLES, dtype=np.float32)
    bent = [name for name in ("master", *CHANNELS) if not is_identity(getattr(step, name))]
    return line_set({name: evaluate_curve(getattr(step, name), step.interpolation, positions) for name in bent})


register(
    PixelKind(
        Curves,
        "Curves",
        prepare,
        neutral,
        summary,
        lines,
        corrects=True,
        examples=(
            {"master": [[0, 0.05], [0.5, 0.6], [1, 1]], "red": [[0, 0.05], [0.5, 0.6], [1, 1]]},
            {"master": [[0, 0.05], [0.5, 0.6], [1, 1]], "master_on": "luma"},
        ),
    )
)
