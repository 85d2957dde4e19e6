"""What a LUT is taken apart into: kinds of steps as vectors of numbers that can be fitted, in the order that a designer would set them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from saucer.core.steps.parameters import StepParameters
from saucer.core.steps.pixel.channel_mix import ChannelMix
from saucer.core.steps.pixel.curves import Curves, evaluate_curve
from saucer.core.steps.pixel.hue_bands import BANDS, DEFAULT_CENTRES, Band, HueBands
from saucer.core.steps.pixel.saturation import Saturation
from saucer.core.steps.pixel.split_tone import ZONES, SplitTone, Tint

PLACES = (0.0, 0.03, 0.08, 0.16, 0.28, 0.42, 0.58, 0.74, 0.88, 1.0)
"""Where the curves have points while they are fitted: closer together where print curves bend."""
CHANNELS = ("red", "green", "blue")
TURN = 60.0
"""Degrees of a hue band that stand for 1 in its vector."""


@dataclass(frozen=True)
class Part:
    """neutral: the vector that changes nothing; make: a vector to the step that it stands for, held to what the step allows

    scale: by how much of each number a step is about as much to look at
    """

    name: str
    neutral: np.ndarray
    scale: np.ndarray
    make: Callable[[np.ndarray], StepParameters]


def _held(value: float, low: float, high: float) -> float:
    return float(min(max(value, low), high))


def _mix(v: np.ndarray, light: str = "code") -> StepParameters:
    """Off the diagonal only: rows keep neutral, so that each channel's own amount is what is left of 1."""
    rows: dict[str, Any] = {}
    for index, channel in enumerate(CHANNELS):
        others = [_held(one, -1.5, 1.5) for one in v[2 * index : 2 * index + 2]]
        row = others.copy()
        row.insert(index, _held(1 - sum(others), -2, 2))
        rows[channel] = tuple(row)
    return ChannelMix(**rows, light=light)


def rising(values: np.ndarray) -> np.ndarray:
    """Heights of a curve, held to 0..1 and never falling."""
    return np.maximum.accumulate(np.clip(values, 0, 1))


def _curves(v: np.ndarray) -> StepParameters:
    rows = v.reshape(3, len(PLACES))
    points = {channel: tuple(zip(PLACES, rising(row).tolist(), strict=True)) for channel, row in zip(CHANNELS, rows, strict=True)}
    return Curves(**points)


def _master(v: np.ndarray) -> StepParameters:
    return Curves(master=tuple(zip(PLACES, rising(v).tolist(), strict=True)))


def _saturation(v: np.ndarray) -> StepParameters:
    return Saturation(factor=_held(v[0], 0, 3), muted=_held(v[1], -1, 1))


def _bands(v: np.ndarray) -> StepParameters:
    return HueBands(
        bands=tuple(
            Band(centre=centre, hue=_held(TURN * hue, -60, 60), saturation=_held(factor, 0, 3), lightness=_held(lift, -0.3, 0.3))
            for centre, (hue, factor, lift) in zip(DEFAULT_CENTRES, v.reshape(BANDS, 3), strict=True)
        )
    )


def _bands_of_colour(v: np.ndarray) -> StepParameters:
    return _bands(np.column_stack([v.reshape(BANDS, 2), np.zeros(BANDS)]).ravel())


def _tint(v: np.ndarray) -> Tint:
    hue = float(np.degrees(np.arctan2(v[1], v[0])) % 360)
    return Tint(hue=hue, amount=_held(float(np.hypot(v[0], v[1])), 0, 0.3), lightness=_held(v[2], -0.3, 0.3))


def _split(v: np.ndarray) -> StepParameters:
    return SplitTone(**{zone: _tint(row) for zone, row in zip(ZONES, v.reshape(3, 3), strict=True)})


def _tints(v: np.ndarray) -> StepParameters:
    return _split(np.column_stack([v.reshape(3, 2), np.zeros(3)]).ravel())


_CURVES = Part("curves", np.tile(PLACES, 3), np.full(3 * len(PLACES), 0.02), _curves)
_MIX = Part("channel mix", np.zeros(6), np.full(6, 0.05), _mix)
_MIX_OF_LIGHT = Part("mix of light", np.zeros(6), np.full(6, 0.05), lambda v: _mix(v, "linear"))
_MIX_AFTER = Part("mix of light after", np.zeros(6), np.full(6, 0.05), lambda v: _mix(v, "linear"))
SATURATION = Part("saturation", np.array([1.0, 0.0]), np.array([0.05, 0.1]), _saturation)
MASTER = Part("master", np.array(PLACES), np.full(len(PLACES), 0.03), _master)
BANDS_OF_COLOUR = Part("bands of colour", np.tile([0.0, 1.0], BANDS), np.tile([0.04, 0.08], BANDS), _bands_of_colour)
TINTS = Part("tints", np.zeros(6), np.full(6, 0.01), _tints)
_COLOUR = (
    SATURATION,
    Part("hue bands", np.tile([0.0, 1.0, 0.0], BANDS), np.tile([0.05, 0.08, 0.02], BANDS), _bands),
    Part("split tone", np.zeros(9), np.full(9, 0.01), _split),
)
MODELS: tuple[tuple[Part, ...], ...] = ((_MIX, _CURVES, *_COLOUR), (_MIX_OF_LIGHT, _CURVES, _MIX_AFTER, *_COLOUR))
"""What graders build, and what film does: dyes that take from each other's light before and after their curves."""


def fewer_points(step: Curves, tolerance: float, curves: Sequence[str] = CHANNELS) -> Curves:
    """The same curves through fewer points, none of them off by more than the tolerance, in code values."""
    return step.model_copy(update={curve: _thinned(getattr(step, curve), tolerance) for curve in curves})


def _thinned(points: tuple[tuple[float, float], ...], tolerance: float) -> tuple[tuple[float, float], ...]:
    x = np.linspace(0, 1, 129)
    wanted = evaluate_curve(points, "smooth", x)
    kept = list(points)
    while len(kept) > 2:
        tries = [kept[:index] + kept[index + 1 :] for index in range(1, len(kept) - 1)]
        off = [float(np.abs(evaluate_curve(tuple(one), "smooth", x) - wanted).max()) for one in tries]
        best = int(np.argmin(off))
        if off[best] > tolerance:
            break
        kept = tries[best]
    return tuple(kept)
