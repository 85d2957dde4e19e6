"""Split tone: a tint and a lightness shift each for shadows, midtones and highlights, and for all."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.working import in_oklab
from saucer.core.numeric.elementary import F, compiled, smooth
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import Degrees, ParameterGroup, Share, SkinLeavingParameters, within
from saucer.core.steps.registry import LINE_SAMPLES, Junction, PixelKind, line_set, register

ZONES = ("shadows", "midtones", "highlights")
LEANING = 0.25


class Tint(ParameterGroup):
    """A step of `amount` in OKLab towards the hue."""

    hue: Degrees = 0.0
    amount: Annotated[float, within(0, 0.3, "OKLab chroma")] = 0.0
    lightness: Annotated[float, within(-0.3, 0.3, "OKLab L")] = 0.0


class SplitTone(SkinLeavingParameters):
    """Zones over OKLab L, weights summing to 1.

    lean: -1 gives shadows more of the range, +1 highlights
    overlap: how far zones reach into each other; 0 nearly hard edges
    """

    kind: Literal["split-tone"] = "split-tone"
    shadows: Tint = Tint()
    midtones: Tint = Tint()
    highlights: Tint = Tint()
    all: Tint = Tint()
    lean: Annotated[float, within(-1, 1)] = 0.0
    overlap: Share = 0.5


def edges(step: SplitTone) -> tuple[float, float, float]:
    """Begin of the step from shadows to midtones, begin of that from midtones to highlights, and the width of both, in L."""
    width = 0.02 + 0.64 * step.overlap
    shift = -LEANING * step.lean
    return 1 / 3 + shift - width / 2, 2 / 3 + shift - width / 2, width


def weights(step: SplitTone, lightness: np.ndarray) -> np.ndarray:
    """(n,) L to (3, n) float64 weights of shadows, midtones, highlights."""
    first, second, width = edges(step)
    up, high = (np.clip((lightness - begin) / width, 0, 1) for begin in (first, second))
    up, high = up * up * (3 - 2 * up), high * high * (3 - 2 * high)
    return np.stack([1 - up, up - high, high])


@compiled
def _tint(planes, first, second, per_width, base, to_middle, to_high):  # type: ignore[no-untyped-def]
    light, a, b = planes[0], planes[1], planes[2]
    l0, a0, b0 = base[0], base[1], base[2]
    l1, a1, b1 = to_middle[0], to_middle[1], to_middle[2]
    l2, a2, b2 = to_high[0], to_high[1], to_high[2]
    for j in range(light.size):
        up, high = smooth((light[j] - first) * per_width), smooth((light[j] - second) * per_width)
        a[j] += a0 + up * a1 + high * a2
        b[j] += b0 + up * b1 + high * b2
        light[j] += l0 + up * l1 + high * l2


def _vector(tint: Tint) -> np.ndarray:
    hue = np.radians(tint.hue)
    return np.array([tint.lightness, tint.amount * np.cos(hue), tint.amount * np.sin(hue)])


def prepare(step: SplitTone, junction: Junction) -> Operation:
    low, middle, high = (_vector(getattr(step, zone)) + _vector(step.all) for zone in ZONES)
    first, second, width = edges(step)
    tables = [part.astype(np.float32) for part in (low, middle - low, high - middle)]
    numbers = [F(first), F(second), F(1 / width)]
    return in_oklab(junction.encoding, lambda planes: _tint(planes, *numbers, *tables), neutrals_stay=False)


def neutral(step: SplitTone) -> bool:
    return all(getattr(step, zone).amount == 0 == getattr(step, zone).lightness for zone in (*ZONES, "all"))


def summary(step: SplitTone) -> str:
    parts = []
    for zone in (*ZONES, "all"):
        tint: Tint = getattr(step, zone)
        words = [f"{tint.amount:.2f} at {tint.hue:.0f}\N{DEGREE SIGN}"] if tint.amount else []
        words += [f"lightness {tint.lightness:+.2f}"] if tint.lightness else []
        parts += [f"{zone} {' '.join(words)}"] if words else []
    return ", ".join(parts) or "no change"


def lines(step: SplitTone, junction: Junction) -> dict[str, list[float]]:
    """The weights of the zones over L 0..1, at neutral too."""
    return line_set(dict(zip(ZONES, weights(step, np.linspace(0, 1, LINE_SAMPLES)), strict=True)))


register(
    PixelKind(
        SplitTone,
        "Split tone",
        prepare,
        neutral,
        summary,
        lines,
        corrects=True,
        examples=({"all": {"amount": 0.1}, "strength": 0.5},),
    )
)
