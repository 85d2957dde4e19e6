"""What detail the steps of a look destroy in a picture, junction by junction. A correction placed after a loss cannot bring it back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from saucer.core.colour.working import in_turn
from saucer.core.engine.plan import Plan, Stage
from saucer.core.numeric.planes import Operation, through
from saucer.core.steps.registry import SpatialKind

MOST_SAMPLES = 1 << 16
STEP = 1 / 1023
LEVELS_IN, LEVELS_OUT = 1023, 65535
INSENSITIVE = 0.01
"""A channel that answers to a change of one 10-bit code with less than this part of it, whichever channel changes, is clipped."""
TOGETHER = 1 / 16
"""Where no channel answers to a change of all three by one 10-bit code with this part of it, sixteen tones have become one of 10 bits."""


@dataclass(frozen=True)
class Loss:
    """After the step at `path`, counted from where its recipe (the look's, or its group's) begins.

    encoding: id of the encoding at this junction
    clipped: share 0..1 of the pixels of which some channel was clipped by this step or one before it
    clipped_here: share of those that this step clipped first
    fallen: share 0..1 of the pixels whose tone has fallen together with its neighbours, by this step or one before it: of what is not
        clipped. Not asked where a step works between linear encodings, whose codes say nothing of tones
    fallen_here: share of those that fell together in this step first
    merged: share 0..1 of the distinct colours, 10 bits a channel, that have become equal to another at 16 bits
    """

    path: str
    encoding: str
    clipped: float
    clipped_here: float
    fallen: float
    fallen_here: float
    merged: float


def find_losses(plan: Plan, values: np.ndarray) -> list[Loss]:
    """One entry a per-pixel step, groups and what they hold included, in order.

    values: (..., 3) float32 code values of the look's input; of more than 65,536 samples an even choice is taken
    """
    flat = values.reshape(-1, 3)
    flat = np.ascontiguousarray(flat[:: -(-len(flat) // MOST_SAMPLES)])
    levels = (np.round(flat * LEVELS_IN) / LEVELS_IN).astype(np.float32)
    return _along(plan.stages, levels)


def _along(stages: Sequence[Stage], values: np.ndarray) -> list[Loss]:
    found: list[Loss] = []
    distinct = _distinct(values)
    clipped = np.zeros(len(values), bool)
    fallen = np.zeros(len(values), bool)
    for stage in stages:
        if isinstance(stage.kind, SpatialKind):
            continue
        after, lost, flat = _through_stage(stage, values)
        fresh, together = lost & ~clipped, flat & ~(fallen | clipped | lost)
        clipped |= lost
        fallen |= together
        merged = 1 - _distinct(after) / distinct
        lost_by_now, lost_here, fallen_by_now, fallen_here = (
            float(share.mean()) for share in (clipped, fresh, fallen & ~clipped, together)
        )
        end = stage.after.id
        found.append(Loss(stage.path, end, lost_by_now, lost_here, fallen_by_now, fallen_here, max(float(merged), 0.0)))
        found += _along(stage.inner, values)
        values = after
    return found


def _through_stage(stage: Stage, values: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """What the stage makes of the values, which of them it clips, and the tones of which fall together in it.

    A channel that goes in is clipped where no small change of it, up or down, shows anywhere, though it does in other samples; one
    that comes out, where it answers to no change of any channel.
    """
    if not stage.operations:
        return values, np.zeros(len(values), bool), np.zeros(len(values), bool)

    run = in_turn(stage.operations)
    result = through(run, values)
    answers = _answers(run, values, result)
    used = np.any(answers, axis=(0, 2))  # a channel that shows in no sample at all is left out on purpose, by a mix
    going_in = np.logical_not(np.any(answers[:, used], axis=2))
    coming_out = np.logical_not(np.any(answers, axis=1))
    clipped = np.any(going_in, axis=1) | np.any(coming_out, axis=1)
    if stage.before.linear or stage.after.linear:
        return result, clipped, np.zeros(len(values), bool)
    return result, clipped, _together(run, values, result)


def _together(run: Operation, values: np.ndarray, result: np.ndarray) -> np.ndarray:
    """(n) bool: no channel tells the tone from the one above it or from the one below"""
    told = np.zeros(len(values), bool)
    for way in (-STEP, STEP):
        told |= np.any(np.abs(through(run, values + np.float32(way)) - result) > TOGETHER * STEP, axis=1)
    return ~told


def _answers(run: Operation, values: np.ndarray, result: np.ndarray) -> np.ndarray:
    """(n, 3 in, 3 out) bool: does this channel of the result answer to a change of that one?"""
    answers = np.zeros((len(values), 3, 3), bool)
    for channel in range(3):
        for way in (-STEP, STEP):
            moved = values.copy()
            moved[:, channel] += np.float32(way)
            answers[:, channel] |= np.abs(through(run, moved) - result) > INSENSITIVE * STEP
    return answers


def _distinct(values: np.ndarray) -> int:
    codes = np.round(values.astype(np.float64) * LEVELS_OUT).astype(np.int64)
    return len(np.unique((codes[:, 0] * 1000003 + codes[:, 1]) * 1000003 + codes[:, 2]))
