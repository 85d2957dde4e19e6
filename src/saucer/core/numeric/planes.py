"""Samples as three planes, (3, n) float32, in runs short enough to stay in a core's cache while they go through many operations."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.parallel import over_runs, thread_count

Operation = Callable[[np.ndarray], object]
"""Works in place on (3, n) float32, C-contiguous, n up to BLOCK; whatever it returns is not used."""

BLOCK = 18432
"""Half of a 33 lattice: two threads then take a run each. Shorter runs hand the interpreter's lock over more often."""
SHORTEST = 2048


@compiled
def _apart(samples, planes):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        red[j] = samples[3 * j]
        green[j] = samples[3 * j + 1]
        blue[j] = samples[3 * j + 2]


@compiled
def _together(planes, samples):  # type: ignore[no-untyped-def]
    red, green, blue = planes[0], planes[1], planes[2]
    for j in range(red.size):
        samples[3 * j] = red[j]
        samples[3 * j + 1] = green[j]
        samples[3 * j + 2] = blue[j]


def through(operation: Operation, values: np.ndarray, threads: int | None = None) -> np.ndarray:
    """values: (..., 3) float32 -> a new array of the same shape, block by block, shared between threads."""
    flat = np.ascontiguousarray(values).reshape(-1)
    result = np.empty(values.shape, np.float32)
    target = result.reshape(-1)

    def block(start: int, stop: int) -> None:
        planes = np.empty((3, stop - start), np.float32)
        _apart(flat[3 * start : 3 * stop], planes)
        operation(planes)
        _together(planes, target[3 * start : 3 * stop])

    count = flat.size // 3
    over_runs(block, count, threads, chunk=max(SHORTEST, min(BLOCK, -(-count // (threads or thread_count())))))
    return result


def from_planes(planes: np.ndarray) -> np.ndarray:
    """(3, n) to a new (n, 3)."""
    samples = np.empty((planes.shape[1], 3), np.float32)
    _together(planes, samples.reshape(-1))
    return samples


def put_planes(planes: np.ndarray, samples: np.ndarray) -> None:
    """(n, 3), contiguous, into (3, n)."""
    _apart(samples.reshape(-1), planes)


@compiled
def mix(planes, m, offset):  # type: ignore[no-untyped-def]
    """3x3 matrix m (float32) and offset (3,), in place."""
    red, green, blue = planes[0], planes[1], planes[2]
    m00, m01, m02 = m[0, 0], m[0, 1], m[0, 2]
    m10, m11, m12 = m[1, 0], m[1, 1], m[1, 2]
    m20, m21, m22 = m[2, 0], m[2, 1], m[2, 2]
    o0, o1, o2 = offset[0], offset[1], offset[2]
    for j in range(red.size):
        r, g, b = red[j], green[j], blue[j]
        red[j] = m00 * r + m01 * g + m02 * b + o0
        green[j] = m10 * r + m11 * g + m12 * b + o1
        blue[j] = m20 * r + m21 * g + m22 * b + o2


NO_OFFSET = np.zeros(3, np.float32)


@compiled
def fade(planes, before, strength):  # type: ignore[no-untyped-def]
    """before + strength (planes - before), in place; both contiguous of one axis."""
    for j in range(planes.size):
        planes[j] = before[j] + strength * (planes[j] - before[j])


def fade_between(before: np.ndarray, after: np.ndarray, strength: float) -> np.ndarray:
    """before + strength (after - before) of two arrays of one shape, float32; `after` itself at strength 1, `before` itself at 0."""
    if strength == 1 or after is before:
        return after
    if strength == 0:
        return before
    faded, kept = np.array(after, np.float32, order="C"), np.ascontiguousarray(before, np.float32)
    fade(faded.reshape(-1), kept.reshape(-1), np.float32(strength))
    return faded
