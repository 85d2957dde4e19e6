"""Evaluation: a look on any samples, exactly, or sampled on a lattice. Both are the same code."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from saucer.core.colour.encodings import ENCODINGS, Encoding, convert, encoding
from saucer.core.errors import LookError, ShapeError
from saucer.core.look import Group, Look
from saucer.core.lut.table import Curve1D, Lattice, Lut, nodes
from saucer.core.parallel import over_runs
from saucer.core.steps import step_kinds

BLOCK = 8192
"""Samples that go through all steps together: few enough to stay in a core's cache from step to step."""


def faded(values: np.ndarray, result: np.ndarray, strength: float) -> np.ndarray:
    """a + s (f(a) - a); `result` itself at strength 1, `values` themselves at 0."""
    if strength == 1 or result is values:
        return result
    if strength == 0:
        return values
    return values + np.float32(strength) * (result - values)


def _run(steps: Sequence[Any], values: np.ndarray, junction: Encoding) -> np.ndarray:
    for step in steps:
        if not step.enabled or step.strength == 0:
            continue
        if isinstance(step, Group):
            result = _run(step.steps, values, junction)
        else:
            result = step_kinds()[step.kind].evaluate(step, values, junction)
        values = faded(values, result, step.strength)
    return values


def evaluate(look: Look, values: np.ndarray, steps: int | None = None) -> np.ndarray:
    """The look on code values of its input encoding, giving code values of its output encoding.

    values: (..., 3) float32, any finite values; steps: only the first so many at the top level (the stage after them)
    Raises: ShapeError; LookError when the look ends in another encoding than it declares
    """
    if values.shape[-1:] != (3,) or values.dtype != np.float32:
        raise ShapeError("values", f"need float32 with three channels last, got {values.dtype} {values.shape}")
    if look.input != look.output:
        raise LookError("output", f'the steps end in "{look.input}" but the look declares "{look.output}"; declare "{look.input}"')
    flat = np.ascontiguousarray(values).reshape(-1, 3)
    chosen = look.steps if steps is None else look.steps[:steps]
    junction = encoding(look.input)
    result = np.empty_like(flat)

    def block(start: int, stop: int) -> None:
        part = flat[start:stop]
        result[start:stop] = faded(part, _run(chosen, part, junction), look.strength)

    over_runs(block, len(flat), chunk=BLOCK)
    return result.reshape(values.shape)


SHAPER_SIZE = 4096
SHAPER_TOP = 16.0
_SHAPER_BEND = 0.01


def shaper(size: int = SHAPER_SIZE, top: float = SHAPER_TOP) -> Curve1D:
    """Linear light 0..top to 0..1 as log2(1 + x / 0.01), so that a lattice has nodes where the picture has."""
    x = np.linspace(0, top, size)
    shaped = np.log2(1 + x / _SHAPER_BEND) / np.log2(1 + top / _SHAPER_BEND)
    return Curve1D(np.repeat(shaped[:, None], 3, axis=1).astype(np.float32), ((0.0,) * 3, (float(top),) * 3))


def _unshaped(values: np.ndarray, top: float = SHAPER_TOP) -> np.ndarray:
    light = (2.0 ** (values.astype(np.float64) * np.log2(1 + top / _SHAPER_BEND)) - 1) * _SHAPER_BEND
    return light.astype(np.float32)


def sampled(look: Look, size: int, steps: int | None = None) -> Lut:
    """The look on a lattice of size**3 nodes; linear input gets a shaper in front. Spatial steps take no part."""
    grid = nodes(size)
    linear = encoding(look.input).linear
    table = evaluate(look, _unshaped(grid) if linear else grid, steps).reshape(size, size, size, 3)
    return Lut(shaper() if linear else None, Lattice(table))


def shown(values: np.ndarray, source: Encoding) -> np.ndarray:
    """Code values as they are shown on an sRGB screen; not clipped."""
    return convert(values, source, ENCODINGS["srgb"])
