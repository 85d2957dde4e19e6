"""Hue bands: hue, saturation and lightness of eight bands round the OKLCh hue circle. Neutrals never move."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.working import in_oklab
from saucer.core.numeric.elementary import F, angle, compiled, cosine_sine, smooth
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import ParameterGroup, SkinLeavingParameters, within
from saucer.core.steps.registry import LINE_SAMPLES, Junction, PixelKind, line_set, register

BANDS = 8
SMALLEST_GAP = 5.0
FADE_CHROMA = 0.04
"""OKLab chroma from which hues act in full. At grey, which has none, the lightness shift is nothing, and turn and factor are the mean of
all hues, so that nothing jumps there and a lattice can follow."""


class Band(ParameterGroup):
    """centre: OKLCh hue; the band reaches to the centres on either side."""

    centre: Annotated[float, Field(ge=0, lt=360, allow_inf_nan=False, json_schema_extra={"unit": "degrees"})]
    hue: Annotated[float, within(-60, 60, "degrees")] = 0.0
    saturation: Annotated[float, within(0, 3)] = 1.0
    lightness: Annotated[float, within(-0.3, 0.3, "OKLab L")] = 0.0


# The hues of sRGB's corners in OKLCh, rounded, with orange and violet between them.
DEFAULT_CENTRES = (29.0, 66.0, 110.0, 142.0, 195.0, 264.0, 300.0, 328.0)


class HueBands(SkinLeavingParameters):
    """Weights of a hue: a smooth step from each centre to the next, so that they always sum to 1."""

    kind: Literal["hue-bands"] = "hue-bands"
    bands: Annotated[tuple[Band, ...], Field(min_length=BANDS, max_length=BANDS)] = tuple(Band(centre=c) for c in DEFAULT_CENTRES)

    @model_validator(mode="after")
    def _in_order(self) -> HueBands:
        for index, band in enumerate(self.bands):
            after = self.bands[(index + 1) % BANDS].centre + (360 if index == BANDS - 1 else 0)
            if after - band.centre < SMALLEST_GAP - 1e-9:
                raise PydanticCustomError(
                    "field",
                    "{place}: must be at least {gap} degrees after the band before ({before}), got {got}",
                    {
                        "place": f"bands[{(index + 1) % BANDS}].centre",
                        "gap": f"{SMALLEST_GAP:g}",
                        "before": f"{band.centre:g}",
                        "got": f"{after % 360:g}",
                    },
                )
        return self


def weights(step: HueBands, hues: np.ndarray) -> np.ndarray:
    """(n,) hues in degrees to (BANDS, n) float64 weights, each 0..1, summing to 1."""
    result = np.zeros((BANDS, len(hues)))
    for index, band in enumerate(step.bands):
        gap = (step.bands[(index + 1) % BANDS].centre - band.centre) % 360
        t = ((hues - band.centre) % 360) / gap
        inside = t < 1
        rise = np.where(inside, t * t * (3 - 2 * t), 0)
        result[index] += np.where(inside, 1 - rise, 0)
        result[(index + 1) % BANDS] += rise
    return result


BLOCK = 512
# One work array cut at fixed places, so that the parts are seen not to overlap; see docs/decisions/0002.
HUE, TURN, FACTOR, LIFT, FLOATS = 0, BLOCK, 2 * BLOCK, 3 * BLOCK, 4 * BLOCK


@compiled
def _turn(planes, start, centres, per_gap, turns, factors, lifts, mean_turn, mean_factor):  # type: ignore[no-untyped-def]
    """Each quantity is that of the first band plus, at every gap passed on the way round, its change there."""
    work = np.empty(FLOATS, np.float32)
    hue, turn, factor, lift = work[HUE:TURN], work[TURN:FACTOR], work[FACTOR:LIFT], work[LIFT:FLOATS]
    for begin in range(0, planes.shape[1], BLOCK):
        end = min(begin + BLOCK, planes.shape[1])
        light, a, b = planes[0, begin:end], planes[1, begin:end], planes[2, begin:end]
        for j in range(a.size):
            away = angle(b[j], a[j]) - start
            hue[j] = away if away >= F(0) else away + F(2 * np.pi)
        turn[:], factor[:], lift[:] = turns[0], factors[0], lifts[0]
        for band in range(8):
            centre, scale, d_turn, d_factor, d_lift = (
                centres[band],
                per_gap[band],
                turns[band + 1],
                factors[band + 1],
                lifts[band + 1],
            )
            for j in range(a.size):
                rise = smooth((hue[j] - centre) * scale)
                turn[j] += rise * d_turn
                factor[j] += rise * d_factor
                lift[j] += rise * d_lift
        for j in range(a.size):
            x, y = a[j], b[j]
            full = smooth(np.sqrt(x * x + y * y) * F(1 / FADE_CHROMA))
            c, s = cosine_sine(mean_turn + full * (turn[j] - mean_turn))
            scale = mean_factor + full * (factor[j] - mean_factor)
            light[j] += full * lift[j]
            a[j] = scale * (x * c - y * s)
            b[j] = scale * (x * s + y * c)


def prepare(step: HueBands, junction: Junction) -> Operation:
    start = np.radians(step.bands[0].centre)
    centres = np.radians([band.centre for band in step.bands]) - start
    gaps = np.diff([*centres, 2 * np.pi])
    # atan2 gives -pi..pi; counted from the first centre, hues lie in 0..2 pi.
    begin = start - 2 * np.pi if start > np.pi else start

    def changes(values: list[float]) -> np.ndarray:
        return np.array([values[0], *np.diff([*values, values[0]])], np.float32)

    tables = [
        changes([np.radians(band.hue) for band in step.bands]),
        changes([band.saturation for band in step.bands]),
        changes([band.lightness for band in step.bands]),
    ]
    # A smooth step takes half of the gap on either side.
    shares = (gaps + np.roll(gaps, 1)) / (4 * np.pi)
    means = [
        F(np.dot(shares, [np.radians(band.hue) for band in step.bands])),
        F(np.dot(shares, [band.saturation for band in step.bands])),
    ]
    places = [F(begin), centres.astype(np.float32), (1 / gaps).astype(np.float32)]
    return in_oklab(junction.encoding, lambda planes: _turn(planes, *places, *tables, *means))


def neutral(step: HueBands) -> bool:
    return all((band.hue, band.saturation, band.lightness) == (0, 1, 0) for band in step.bands)


def summary(step: HueBands) -> str:
    parts = []
    for band in step.bands:
        words = [f"hue {band.hue:+.0f}"] if band.hue else []
        words += [f"saturation x {band.saturation:.2f}"] if band.saturation != 1 else []
        words += [f"lightness {band.lightness:+.2f}"] if band.lightness else []
        parts += [f"{band.centre:.0f}\N{DEGREE SIGN} {' '.join(words)}"] if words else []
    return ", ".join(parts) or "no change"


def lines(step: HueBands, junction: Junction) -> dict[str, list[float]]:
    """Over hues 0..360: the shift in degrees, the factor, the lightness shift; those that change something."""
    if neutral(step):
        return {}
    w = weights(step, np.linspace(0, 360, LINE_SAMPLES))
    found = {
        name: np.array([getattr(band, name) for band in step.bands]) @ w
        for name, none in (("hue", 0), ("saturation", 1), ("lightness", 0))
        if any(getattr(band, name) != none for band in step.bands)
    }
    return line_set(found)


register(
    PixelKind(
        HueBands,
        "Hue bands",
        prepare,
        neutral,
        summary,
        lines,
        examples=({"bands": [{"centre": 45 * i, "hue": 5} for i in range(8)]},),
    )
)
