"""Scopes of shots: what reaches the delivery, and the shot with nothing on it behind."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from saucer.core.engine.plan import Plan
from saucer.core.pictures.scopes import histogram, outside, parade, vectorscope, waveform
from saucer.studio.preview.bench import Trace
from saucer.studio.projects.grade.seeing import number_of, plan_between, rendered, source_of
from saucer.studio.projects.models import Layer, Shot


@dataclass(frozen=True)
class ShotScopes:
    """Counts (4, bins) of red, green, blue, luma, in code values of the delivery. plain: with nothing on it

    clipped_low, clipped_high: shares of pixels with a channel at 0 or below, at full or above
    """

    plain: np.ndarray
    result: np.ndarray
    clipped_low: float
    clipped_high: float


def _through(shot: Shot, layers: Sequence[Layer], delivery: str, frame: int | None) -> tuple[Plan, np.ndarray]:
    plan = plan_between(shot, layers, delivery)
    return plan, rendered(plan, source_of(shot, None, frame), number_of(shot, frame))


def histograms(shot: Shot, layers: Sequence[Layer], delivery: str, frame: int | None) -> ShotScopes:
    """Raises: SaucerError, NotFound, NotPossible"""
    plan, values = _through(shot, layers, delivery, frame)
    plain, before = _through(shot, [], delivery, frame)
    return ShotScopes(histogram(before, plain.end), histogram(values, plan.end), *outside(values))


def trace(shot: Shot, layers: Sequence[Layer], delivery: str, frame: int | None, kind: Trace) -> np.ndarray:
    """Counts (planes, rows, columns) int64. Raises: SaucerError, NotFound, NotPossible"""
    plan, values = _through(shot, layers, delivery, frame)
    if kind == "parade":
        return parade(values)
    return (waveform(values, plan.end) if kind == "waveform" else vectorscope(values, plan.end))[None]
