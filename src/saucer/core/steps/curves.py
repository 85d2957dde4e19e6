"""Curves: master, red, green and blue, each through 2 to 16 points."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Any, Literal

import numpy as np
from numba import njit
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.encodings import Encoding
from saucer.core.lut.kernels import FASTMATH
from saucer.core.steps.parameters import StepParameters
from saucer.core.steps.registry import LINE_SAMPLES, StepKind, register

CHANNELS = ("red", "green", "blue")
SMALLEST_STEP = 1 / 1023
BLOCK = 256
IDENTITY: tuple[tuple[float, float], ...] = ((0.0, 0.0), (1.0, 1.0))

Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Points = Annotated[
    tuple[tuple[Share, Share], ...],
    Field(min_length=2, max_length=16, description="[in, out] pairs, code values 0..1, in rising by at least 1/1023"),
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
    clip: Annotated[bool, Field(description="hold the result to 0..1")] = False

    @model_validator(mode="after")
    def _rising(self) -> Curves:
        for channel in ("master", *CHANNELS):
            points = getattr(self, channel)
            for index in range(1, len(points)):
                before, here = points[index - 1][0], points[index][0]
                if here - before < SMALLEST_STEP - 1e-9:
                    raise PydanticCustomError(
                        "curve_order",
                        "{place}: in must be larger than the point before ({before}) by at least 1/1023, got {here}",
                        {"place": f"{channel}[{index}]", "before": f"{before:g}", "here": f"{here:g}"},
                    )
        return self


def _natural_slopes(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    """Slopes at the knots of the natural cubic spline (second derivative 0 at both ends), by the usual tridiagonal system."""
    h, secant = np.diff(x), np.diff(y) / np.diff(x)
    matrix, right = np.zeros((len(x), len(x))), np.zeros(len(x))
    matrix[0, :2], right[0] = (2, 1), 3 * secant[0]
    matrix[-1, -2:], right[-1] = (1, 2), 3 * secant[-1]
    for i in range(1, len(x) - 1):
        matrix[i, i - 1 : i + 2] = h[i], 2 * (h[i - 1] + h[i]), h[i - 1]
        right[i] = 3 * (h[i] * secant[i - 1] + h[i - 1] * secant[i])
    return np.linalg.solve(matrix, right)


def _filtered(slopes: np.ndarray, secant: np.ndarray) -> np.ndarray:
    """Slopes held so that each monotone run of points gives a monotone curve.

    Source: Hyman, "Accurate monotonicity preserving cubic interpolation", SIAM J. Sci. Stat. Comput. 4(4), 1983, eq. 2.6
    (the number of the equation is from memory)
    """
    left, right = np.concatenate([secant[:1], secant]), np.concatenate([secant, secant[-1:]])
    limit = 3 * np.minimum(np.abs(left), np.abs(right))
    # Where the points turn round, the slope keeps its own sign; elsewhere it takes that of the points.
    sign = np.where(left * right > 0, np.sign(left), np.sign(slopes))
    return sign * np.clip(sign * slopes, 0, limit)


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
        slopes = _natural_slopes(x, y)
        if interpolation == "smooth":
            slopes = _filtered(slopes, secant)
        pieces[1:-1, 2] = slopes[:-1]
        pieces[1:-1, 3] = (3 * secant - 2 * slopes[:-1] - slopes[1:]) / h
        pieces[1:-1, 4] = (slopes[:-1] + slopes[1:] - 2 * secant) / h**2
        first, last = slopes[0], slopes[-1]
    pieces[0, :3] = x[0], y[0], first if x[0] == 0 else 0
    pieces[-1, :3] = x[-1], y[-1], last if x[-1] == 1 else 0
    return x.astype(np.float32), np.ascontiguousarray(pieces.T, np.float32)


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _along(values, knots, pieces, index):  # type: ignore[no-untyped-def]
    """One curve over up to BLOCK contiguous floats, in place. The piece of each is counted, not searched: that vectorises."""
    origin, c0, c1, c2, c3 = pieces[0], pieces[1], pieces[2], pieces[3], pieces[4]
    for j in range(values.size):
        index[j] = np.uint32(0)
    for knot in knots:
        for j in range(values.size):
            index[j] += np.uint32(1) if values[j] >= knot else np.uint32(0)
    for j in range(values.size):
        piece = index[j]
        t = values[j] - origin[piece]
        values[j] = ((c3[piece] * t + c2[piece]) * t + c1[piece]) * t + c0[piece]


@njit(nogil=True, cache=True, fastmath=FASTMATH)
def _bend(source, target, channels, channel, master):  # type: ignore[no-untyped-def]
    """Channel curve, then master, over every `channels`-th float; either may have no knots and then does nothing.

    source, target: interleaved float32; channel, master: (knots, pieces) as `segments` gives them
    """
    block, index = np.empty(BLOCK, np.float32), np.empty(BLOCK, np.uint32)
    count = (source.size + channels - 1) // channels
    for begin in range(0, count, BLOCK):
        part = block[: min(BLOCK, count - begin)]
        given, result = source[begin * channels :], target[begin * channels :]
        for j in range(part.size):
            part[j] = given[j * channels]
        if channel[0].size:
            _along(part, channel[0], channel[1], index)
        if master[0].size:
            _along(part, master[0], master[1], index)
        for j in range(part.size):
            result[j * channels] = part[j]


NO_CURVE = (np.empty(0, np.float32), np.empty((5, 1), np.float32))


def _segments_of(step: Curves, name: str) -> tuple[np.ndarray, np.ndarray]:
    points = getattr(step, name)
    return NO_CURVE if is_identity(points) else segments(points, step.interpolation)


def evaluate_curve(points: Any, interpolation: Interpolation, x: Any) -> np.ndarray:
    """One curve at (n,) positions, float32, for graphs and tests."""
    values = np.array(x, np.float32, ndmin=1)
    if not is_identity(points):
        _bend(values, values, 1, segments(tuple(map(tuple, points)), interpolation), NO_CURVE)
    return values


def is_identity(points: Any) -> bool:
    """On the diagonal from 0 to 1, so that nothing moves inside or outside."""
    return all(x == y for x, y in points) and points[0][0] == 0 and points[-1][0] == 1


def evaluate(step: Curves, values: np.ndarray, encoding: Encoding) -> np.ndarray:
    """values: (n, 3) float32 code values -> new (n, 3) float32; the values themselves when the step is neutral."""
    if neutral(step):
        return values
    out = np.empty(values.shape, np.float32)
    source, target = np.ascontiguousarray(values).reshape(-1), out.reshape(-1)
    master = _segments_of(step, "master") if step.master_on == "rgb" else NO_CURVE
    for channel, name in enumerate(CHANNELS):
        _bend(source[channel:], target[channel:], 3, _segments_of(step, name), master)
    if step.master_on == "luma" and not is_identity(step.master):
        luma = out @ encoding.luma.astype(np.float32)
        out += (evaluate_curve(step.master, step.interpolation, luma) - luma)[:, None]
    return np.clip(out, 0, 1, out=out) if step.clip else out


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
        moved = [f"black {low * 255:.0f}"] if points[0] != (0, 0) else []
        moved += [f"white {high * 255:.0f}"] if points[-1] != (1, 1) else []
        parts.append(" ".join([name, *moved]) if moved else f"{name} {len(points)} points")
    return ", ".join(parts) or "no change"


def lines(step: Curves) -> dict[str, list[float]]:
    """Each curve that is bent."""
    positions = np.linspace(0, 1, LINE_SAMPLES, dtype=np.float32)
    bent = [name for name in ("master", *CHANNELS) if not is_identity(getattr(step, name))]
    return {name: [round(float(y), 5) for y in evaluate_curve(getattr(step, name), step.interpolation, positions)] for name in bent}


register(StepKind(Curves, "Curves", evaluate, neutral, summary, lines))
