"""Limit: clip or soft clip to a range, channel by channel or keeping hue."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.lut.formulas import Range
from saucer.core.lut.table import Link
from saucer.core.numeric.elementary import F, compiled, inlined
from saucer.core.numeric.planes import Operation
from saucer.core.steps.parameters import Share, StepParameters, Strength, within
from saucer.core.steps.registry import Junction, PixelKind, grey_lines, register

SMALLEST_RANGE = 0.01
Bound = Annotated[float, within(-16, 16, "code value")]


class Limit(StepParameters):
    """Values are held to low..high; either may be left open.

    knee: share of the range (of 1, where an end is open) over which an end is eased into; 0 clips. Beyond the knee the distance u,
        in knees, becomes u / (1 + u), so that the end is never quite reached and nothing merges
    keep: `channels`, each by itself; `hue`, the largest and the smallest channel are limited and the middle one keeps its place between
    """

    kind: Literal["limit"] = "limit"
    low: Annotated[Bound | None, Field(description="null: open")] = None
    high: Annotated[Bound | None, Field(description="null: open")] = None
    knee: Share = 0.0
    keep: Literal["channels", "hue"] = "channels"
    strength: Strength = 1.0

    @model_validator(mode="after")
    def _rising(self) -> Limit:
        if self.low is not None and self.high is not None and self.high - self.low < SMALLEST_RANGE - 1e-9:
            raise PydanticCustomError(
                "field",
                "{place}: must be above low ({low}) by at least 0.01, got {high}",
                {"place": "high", "low": f"{self.low:g}", "high": f"{self.high:g}"},
            )
        return self


@inlined
def _limited(x, low, low_knee, high, high_knee):  # type: ignore[no-untyped-def]
    """The knees reach at most to the middle of the range, so that only one acts."""
    over = (x - (high - high_knee)) / (high_knee if high_knee > F(0) else F(1))
    eased = high - high_knee + high_knee * over / (F(1) + (over if over > F(0) else F(0)))
    eased = eased if eased < high else high
    x = eased if x > high - high_knee else x
    under = ((low + low_knee) - x) / (low_knee if low_knee > F(0) else F(1))
    eased = low + low_knee - low_knee * under / (F(1) + (under if under > F(0) else F(0)))
    eased = eased if eased > low else low
    return eased if x < low + low_knee else x


@compiled
def _limit_channels(values, low, low_knee, high, high_knee):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        values[j] = _limited(values[j], low, low_knee, high, high_knee)


@compiled
def _limit_hue(planes, low, low_knee, high, high_knee):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        r, g, b = red[j], green[j], blue[j]
        most = r if r > g else g
        most = most if most > b else b
        least = r if r < g else g
        least = least if least < b else b
        top, floor = _limited(most, low, low_knee, high, high_knee), _limited(least, low, low_knee, high, high_knee)
        spread = most - least
        scale = (top - floor) / (spread if spread > F(1e-12) else F(1e-12))
        scale = scale if spread > F(1e-12) else F(0)
        same = (top == most) & (floor == least)
        red[j] = r if same else floor + (r - least) * scale
        green[j] = g if same else floor + (g - least) * scale
        blue[j] = b if same else floor + (b - least) * scale


OPEN = 1e30


def prepare(step: Limit, junction: Junction) -> Operation:
    low, high = (-OPEN if step.low is None else step.low), (OPEN if step.high is None else step.high)
    knee = step.knee * (min(high - low, 2.0) / 2)
    numbers = [F(low), F(knee if step.low is not None else 0), F(high), F(knee if step.high is not None else 0)]
    if step.keep == "hue":
        return lambda planes: _limit_hue(planes, *numbers)
    return lambda planes: _limit_channels(planes.reshape(-1), *numbers)


def neutral(step: Limit) -> bool:
    return step.low is None and step.high is None


def summary(step: Limit) -> str:
    if neutral(step):
        return "no change"
    ends = f"{'open' if step.low is None else f'{step.low:g}'} to {'open' if step.high is None else f'{step.high:g}'}"
    words = [f"knee {step.knee:.2f}"] if step.knee else []
    return ", ".join([ends, *words, *(["keeping hue"] if step.keep == "hue" else [])])


def lines(step: Limit, junction: Junction) -> dict[str, list[float]]:
    return {} if neutral(step) else grey_lines(prepare(step, junction))


def links(step: Limit, junction: Junction) -> tuple[Link, ...] | None:
    if step.knee or step.keep == "hue":
        return None
    return (Range(step.low, step.high, step.low, step.high),)


register(
    PixelKind(
        Limit,
        "Limit",
        prepare,
        neutral,
        summary,
        lines,
        links=links,
        examples=(
            {"low": 0, "keep": "hue"},
            {"low": 0},
        ),
    )
)
