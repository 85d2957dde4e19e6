"""Saturation about luma, and more or less of it for muted colours."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.lut.formulas import Matrix
from saucer.core.lut.table import Link
from saucer.core.numeric.elementary import F, compiled, smooth
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import StepParameters, at_defaults, within
from saucer.core.steps.registry import LINE_SAMPLES, Junction, PixelKind, line_set, register

SKIN_SPARED, SKIN_FROM, DARK = 0.7, 0.2, 0.02
# The skin line of a vectorscope: 123 degrees from blue-difference towards red-difference (common practice, no source).
_SKIN_COS, _SKIN_SIN = np.cos(np.radians(123)), np.sin(np.radians(123))


class Saturation(StepParameters):
    """out = luma + k (in - luma), luma weights from the encoding's primaries, on code values; grey never moves.

    k = factor (1 + muted (1 - s)^2 (1 - 0.7 skin)), with s = (max - min) / (max |channel| + 0.02) and skin 1 on the skin line, 0 off it
        and at grey, from where it comes on up to s = 0.2: round grey and black nothing jumps, so that a lattice can follow
    """

    kind: Literal["saturation"] = "saturation"
    factor: Annotated[float, within(0, 3)] = 1.0
    muted: Annotated[float, within(-1, 1, what="more or less for unsaturated colours; skin hues are spared")] = 0.0


@compiled
def _saturate(planes, wr, wg, wb, factor):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        r, g, b = red[j], green[j], blue[j]
        luma = g + wr * (r - g) + wb * (b - g)
        red[j] = r + (factor - F(1)) * (r - luma)
        green[j] = g + (factor - F(1)) * (g - luma)
        blue[j] = b + (factor - F(1)) * (b - luma)


@compiled
def _saturate_muted(planes, wr, wg, wb, factor, muted, skin_cos, skin_sin):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    per_cb, per_cr = F(0.5) / (F(1) - wb), F(0.5) / (F(1) - wr)
    for j in range(red.size):
        r, g, b = red[j], green[j], blue[j]
        luma = g + wr * (r - g) + wb * (b - g)
        high = r if r > g else g
        high = high if high > b else b
        low = r if r < g else g
        low = low if low < b else b
        size = abs(high) if abs(high) > abs(low) else abs(low)
        s = (high - low) / (size + F(DARK))
        s = s if s < F(1) else F(1)
        cb, cr = (b - luma) * per_cb, (r - luma) * per_cr
        along = (cb * skin_cos + cr * skin_sin) / (np.sqrt(cb * cb + cr * cr) + F(1e-6))
        skin = smooth((along - F(0.8)) * F(5.5)) * smooth(s * F(1 / SKIN_FROM))
        rest = F(1) - s
        change = factor * (F(1) + muted * rest * rest * (F(1) - F(SKIN_SPARED) * skin)) - F(1)
        red[j] = r + change * (r - luma)
        green[j] = g + change * (g - luma)
        blue[j] = b + change * (b - luma)


def prepare(step: Saturation, junction: Junction) -> Operation:
    weights = [F(w) for w in junction.encoding.luma]
    if not step.muted:
        return lambda planes: _saturate(planes, *weights, F(step.factor))
    return lambda planes: _saturate_muted(planes, *weights, F(step.factor), F(step.muted), F(_SKIN_COS), F(_SKIN_SIN))


def summary(step: Saturation) -> str:
    parts = [f"x {step.factor:.2f}"] if step.factor != 1 else []
    parts += [f"muted colours {step.muted:+.2f}"] if step.muted else []
    return ", ".join(parts) or "no change"


def lines(step: Saturation, junction: Junction) -> dict[str, list[float]]:
    """The factor over how saturated a colour is, 0..1, off the skin line."""
    if at_defaults(step):
        return {}
    s = np.linspace(0, 1, LINE_SAMPLES)
    return line_set({"factor": step.factor * (1 + step.muted * (1 - s) ** 2)})


def links(step: Saturation, junction: Junction) -> tuple[Link, ...] | None:
    if step.muted:
        return None
    rows = step.factor * np.eye(3) + (1 - step.factor) * np.tile(junction.encoding.luma, (3, 1))
    return (Matrix(tuple(tuple(float(v) for v in row) for row in rows)),)  # type: ignore[arg-type]


register(
    PixelKind(
        Saturation,
        "Saturation",
        prepare,
        at_defaults,
        summary,
        lines,
        links=links,
        corrects=True,
        examples=(
            {"factor": 1.1},
            {"muted": 0.1},
        ),
    )
)
