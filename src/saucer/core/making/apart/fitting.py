"""Steps fitted to what a LUT does: damped least squares on OKLab differences, with what is far off counting less.

Source: Levenberg 1944 and Marquardt 1963 for the damping; the loss is 2 (sqrt(1 + r^2) - 1), "soft L1", by weights anew each round (Holland
and Welsch 1977). Slopes are those of one step at a time, chained by the slopes of what follows it: a fit of 70 numbers costs as much as 90
single steps.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from saucer.core.making.apart.parts import Part
from saucer.core.making.apart.seen import lab_of
from saucer.core.numeric.planes import Operation
from saucer.core.steps.kinds import pixel_kinds
from saucer.core.steps.registry import Junction

NEAR = 1e-3
"""Code values by which colours are moved to see how what follows answers."""
JUST_SEEN = 0.01
"""OKLab difference that counts as 1 in the loss: about half of what is just seen (CIEDE2000 1 is 0.01 to 0.02)."""
RIDGE = 0.012
"""How much each number is drawn to neutral, per step that is as much to look at as the others: what explains nothing stays there."""
ROUNDS = 24
ENOUGH = 1e-4
"""Share by which a round must lower the loss for another one to come."""


@dataclass(frozen=True)
class Sample:
    """start: (3, n) float32 code values at the first step; aim: (3, n) OKLab of what the LUT makes of them; weight: (n,)"""

    start: np.ndarray
    aim: np.ndarray
    weight: np.ndarray


def operation_of(part: Part, numbers: np.ndarray, junction: Junction) -> Operation:
    step = part.make(numbers)
    kind = pixel_kinds()[step.kind]
    return (lambda planes: None) if kind.neutral(step) else kind.prepare(step, junction)


def fit(
    parts: Sequence[Part], begin: Sequence[np.ndarray], sample: Sample, junction: Junction,
    rounds: int = ROUNDS, report: Callable[[float], None] = lambda share: None, ridge: float = RIDGE,
) -> tuple[list[np.ndarray], float]:  # fmt: skip
    """The numbers of each part, and the loss they come to.

    begin: where each starts; ridge: how much each is drawn to neutral
    report: told the share of the rounds that are done, and what it raises ends the work
    """
    numbers, damping = [one.copy() for one in begin], 1e-2
    neutral, scale = (np.concatenate([getattr(part, name) for part in parts]) for name in ("neutral", "scale"))
    edges = np.cumsum([0, *(part.neutral.size for part in parts)])
    loss = _loss(parts, numbers, sample, junction, neutral, scale, ridge)
    for done in range(rounds):
        off, slopes = _slopes(parts, numbers, sample, junction)
        weight = np.repeat(sample.weight / np.sqrt(1 + (off**2).sum(axis=0)), 3)
        flat, jacobian = off.T.reshape(-1), slopes.reshape(-1, slopes.shape[-1]) * scale
        drawn = (np.concatenate(numbers) - neutral) / scale
        normal = (jacobian * weight[:, None]).T @ jacobian + ridge**2 * np.eye(scale.size)
        downhill = (jacobian * weight[:, None]).T @ flat + ridge**2 * drawn
        lowered = False
        while damping < 1e6:
            step = np.linalg.solve(normal + damping * np.diag(np.diag(normal)), downhill) * scale
            tried = [one - step[low:high] for one, low, high in zip(numbers, edges, edges[1:], strict=False)]
            new = _loss(parts, tried, sample, junction, neutral, scale, ridge)
            if new < loss:
                lowered = new < loss * (1 - ENOUGH)
                numbers, loss, damping = tried, new, max(damping / 4, 1e-7)
                break
            damping *= 6
        report((done + 1) / rounds)
        if not lowered:
            break
    return numbers, loss


def _loss(
    parts: Sequence[Part], numbers: Sequence[np.ndarray], sample: Sample, junction: Junction, neutral: np.ndarray, scale: np.ndarray,
    ridge: float,
) -> float:  # fmt: skip
    planes = sample.start.copy()
    for part, one in zip(parts, numbers, strict=True):
        operation_of(part, one, junction)(planes)
    off = ((lab_of(planes, junction) - sample.aim) / JUST_SEEN).astype(np.float64)
    drawn = (np.concatenate(numbers) - neutral) / scale
    return float((sample.weight * 2 * (np.sqrt(1 + (off**2).sum(axis=0)) - 1)).sum() + ridge**2 * (drawn**2).sum())


def _slopes(
    parts: Sequence[Part], numbers: Sequence[np.ndarray], sample: Sample, junction: Junction
) -> tuple[np.ndarray, np.ndarray]:
    """(3, n) how far off the colours are, and (n, 3, p) its slopes."""
    states, operations = [sample.start], [operation_of(part, one, junction) for part, one in zip(parts, numbers, strict=True)]
    for operation in operations:
        planes = states[-1].copy()
        operation(planes)
        states.append(planes)
    end = lab_of(states[-1], junction)
    onward = _by_colour(lambda planes: lab_of(planes, junction), states[-1], end)
    columns: list[np.ndarray] = []
    for part, one, state, after, operation in reversed(list(zip(parts, numbers, states, states[1:], operations, strict=False))):
        own = np.empty((state.shape[1], 3, one.size), np.float64)
        for index in range(one.size):
            moved = one.copy()
            moved[index] += NEAR * 2
            planes = state.copy()
            operation_of(part, moved, junction)(planes)
            own[:, :, index] = ((planes - after) / (NEAR * 2)).T
        columns.insert(0, np.einsum("nij,njp->nip", onward, own))

        def through(planes: np.ndarray, run: Operation = operation) -> np.ndarray:
            run(planes)
            return planes

        onward = np.einsum("nij,njk->nik", onward, _by_colour(through, state, after))
    return (end - sample.aim).astype(np.float64) / JUST_SEEN, np.concatenate(columns, axis=2) / JUST_SEEN


def _by_colour(run: Callable[[np.ndarray], np.ndarray], state: np.ndarray, after: np.ndarray) -> np.ndarray:
    """(n, 3, 3): how each channel of what `run` makes of the colours answers to each of theirs."""
    slopes = np.empty((state.shape[1], 3, 3), np.float64)
    for channel in range(3):
        moved = state.copy()
        moved[channel] += NEAR
        slopes[:, :, channel] = ((run(moved) - after) / NEAR).T
    return slopes
