"""Colour curves: turn, saturation and lightness over hue, and saturation over lightness, through free points, in OKLCh."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.working import in_oklab
from saucer.core.numeric.cubic import bend, cyclic_curve, held_curve
from saucer.core.numeric.elementary import F, angle, compiled, cosine_sine, smooth
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import SkinLeavingParameters, within
from saucer.core.steps.registry import LINE_SAMPLES, Junction, PixelKind, line_set, register

MOST_POINTS = 16
SMALLEST_GAP = 2.0
SMALLEST_STEP = 0.01
FADE_CHROMA = 0.04
"""As for hue bands: from this OKLab chroma on hues act in full; at grey turn and factor are the mean of all hues, and nothing lifts."""
TOP_LIGHTNESS = 4.0
"""OKLab L of about 64 times white, above what PQ holds."""
NONE = {"turn": 0.0, "saturation": 1.0, "lightness": 0.0, "saturation_by_lightness": 1.0}
OVER_HUE = ("turn", "saturation", "lightness")

Hue = Annotated[float, Field(ge=0, lt=360, allow_inf_nan=False, json_schema_extra={"unit": "degrees"})]
Light = Annotated[float, within(0, TOP_LIGHTNESS, "OKLab L")]
Turn = Annotated[float, within(-180, 180, "degrees")]
Factor = Annotated[float, within(0, 4)]
Lift = Annotated[float, within(-0.5, 0.5, "OKLab L")]


def _points(what: str) -> Any:
    return Field(max_length=MOST_POINTS, description=what)


class ColourCurves(SkinLeavingParameters):
    """Each curve runs through its points and never beyond them; over hue it is cyclic. No points: nothing changes."""

    kind: Literal["colour-curves"] = "colour-curves"
    turn: Annotated[tuple[tuple[Hue, Turn], ...], _points("[hue, turn] pairs, hues rising by at least 2 degrees")] = ()
    saturation: Annotated[tuple[tuple[Hue, Factor], ...], _points("[hue, factor] pairs")] = ()
    lightness: Annotated[tuple[tuple[Hue, Lift], ...], _points("[hue, shift] pairs")] = ()
    saturation_by_lightness: Annotated[
        tuple[tuple[Light, Factor], ...], _points("[lightness, factor] pairs, rising by at least 0.01; held outside")
    ] = ()

    @model_validator(mode="after")
    def _rising(self) -> ColourCurves:
        for name in NONE:
            points = getattr(self, name)
            gap = SMALLEST_GAP if name in OVER_HUE else SMALLEST_STEP
            places = [point[0] for point in points]
            if name in OVER_HUE and len(places) > 1:
                places.append(places[0] + 360)
            for index in range(1, len(places)):
                before, here = places[index - 1], places[index]
                if here - before < gap - 1e-9:
                    at = index % len(points)
                    raise PydanticCustomError(
                        "field",
                        "{place}: must be at least {gap} after the point before ({before}), got {here}",
                        {"place": f"{name}[{at}]", "gap": f"{gap:g}", "before": f"{before:g}", "here": f"{points[at][0]:g}"},
                    )
        return self


def curve_of(step: ColourCurves, name: str) -> tuple[np.ndarray, np.ndarray]:
    """Knots and pieces of one of the curves as `bend` takes them, over degrees or OKLab L."""
    points = getattr(step, name)
    if not points:
        return held_curve(((0.0, NONE[name]),))
    return cyclic_curve(points, 360.0) if name in OVER_HUE else held_curve(points)


def evaluate_curve(step: ColourCurves, name: str, x: Any) -> np.ndarray:
    """One of the curves at (n,) hues of 0..360 degrees, or at OKLab L, float32."""
    values = np.array(x, np.float32, ndmin=1)
    bend(values, *curve_of(step, name))
    return values


BLOCK = 512
# One work array cut at fixed places, so that the parts are seen not to overlap; see docs/decisions/0002.
HUE, TURN, FACTOR, LIFT, TONE, FLOATS = (BLOCK * part for part in range(6))


@compiled
def _shape(planes, turns, factors, lifts, tones, mean_turn, mean_factor):  # type: ignore[no-untyped-def]
    """turns, factors, lifts, tones: knots and pieces over degrees (of turn in degrees), and over lightness"""
    work = np.empty(FLOATS, np.float32)
    hue, turn, factor = work[HUE:TURN], work[TURN:FACTOR], work[FACTOR:LIFT]
    lift, tone = work[LIFT:TONE], work[TONE:FLOATS]
    for begin in range(0, planes.shape[1], BLOCK):
        end = min(begin + BLOCK, planes.shape[1])
        light, a, b = planes[0, begin:end], planes[1, begin:end], planes[2, begin:end]
        count = a.size
        for j in range(count):
            degrees = angle(b[j], a[j]) * F(180 / np.pi)
            hue[j] = degrees if degrees >= F(0) else degrees + F(360)
        turn[:count], factor[:count], lift[:count], tone[:count] = hue[:count], hue[:count], hue[:count], light
        bend(turn[:count], turns[0], turns[1])
        bend(factor[:count], factors[0], factors[1])
        bend(lift[:count], lifts[0], lifts[1])
        bend(tone[:count], tones[0], tones[1])
        for j in range(count):
            x, y = a[j], b[j]
            full = smooth(np.sqrt(x * x + y * y) * F(1 / FADE_CHROMA))
            c, s = cosine_sine((mean_turn + full * (turn[j] - mean_turn)) * F(np.pi / 180))
            scale = (mean_factor + full * (factor[j] - mean_factor)) * tone[j]
            light[j] += full * lift[j]
            a[j] = scale * (x * c - y * s)
            b[j] = scale * (x * s + y * c)


def prepare(step: ColourCurves, junction: Junction) -> Operation:
    curves = [curve_of(step, name) for name in NONE]
    round_the_circle = np.arange(0.25, 360, 0.5)
    means = [F(evaluate_curve(step, name, round_the_circle).mean()) for name in ("turn", "saturation")]
    return in_oklab(junction.encoding, lambda planes: _shape(planes, *curves, *means))


def neutral(step: ColourCurves) -> bool:
    return all(value == none for name, none in NONE.items() for _, value in getattr(step, name))


def summary(step: ColourCurves) -> str:
    words = {
        "turn": "hue",
        "saturation": "saturation",
        "lightness": "lightness",
        "saturation_by_lightness": "saturation by lightness",
    }
    parts = []
    for name, none in NONE.items():
        changed = [point for point in getattr(step, name) if point[1] != none]
        if changed:
            parts.append(f"{words[name]} at {len(changed)} {'point' if len(changed) == 1 else 'points'}")
    return ", ".join(parts) or "no change"


def lines(step: ColourCurves, junction: Junction) -> dict[str, list[float]]:
    """Over hues 0..360 the shift in degrees ("hue"), the factor and the lightness shift, over OKLab L 0..1.2 the factor; those that change
    something."""
    ends = {**dict.fromkeys(OVER_HUE, 359.999), "saturation_by_lightness": 1.2}
    return line_set(
        {
            "hue" if name == "turn" else name: evaluate_curve(step, name, np.linspace(0, ends[name], LINE_SAMPLES))
            for name, none in NONE.items()
            if any(value != none for _, value in getattr(step, name))
        }
    )


register(
    PixelKind(
        ColourCurves,
        "Colour curves",
        prepare,
        neutral,
        summary,
        lines,
        examples=({"turn": [[40, 10], [200, -5]], "saturation_by_lightness": [[0.2, 0.5], [0.8, 1]]},),
    )
)
