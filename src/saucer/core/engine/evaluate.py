"""Evaluation: a look on any samples, exactly, or sampled on a lattice. Both run the same plan."""

from __future__ import annotations

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.rendering import View
from saucer.core.colour.working import in_turn
from saucer.core.engine.cache import PrefixCache
from saucer.core.engine.lattice import SHAPER, Shaper, as_lut, lattice_inputs, sample_run
from saucer.core.engine.plan import Plan
from saucer.core.errors import ShapeError
from saucer.core.lut.table import Lut
from saucer.core.numeric.planes import fade_between, through
from saucer.core.steps.strength import at_strength


def evaluate(plan: Plan, values: np.ndarray) -> np.ndarray:
    """The look on code values of its input encoding, giving code values of the encoding it ends in. Spatial steps take no part.

    values: (..., 3) float32, any finite values
    Raises: ShapeError; LookError when the look ends in another encoding than it declares
    """
    if values.shape[-1:] != (3,) or values.dtype != np.float32:
        raise ShapeError("values", f"need float32 with three channels last, got {values.dtype} {values.shape}")
    plan.check_end()
    operations = plan.run.operations
    if not operations:
        return values.copy()
    return through(at_strength(in_turn(operations), plan.source, plan.end, plan.strength, plan.view), values)


def sample_look(plan: Plan, size: int, cache: PrefixCache | None = None, shaper: Shaper = SHAPER) -> Lut:
    """The look on a lattice of size**3 nodes; linear input gets a shaper in front. Spatial steps take no part.

    Raises: as evaluate
    """
    plan.check_end()
    table = sample_run(plan.run, size, cache, shaper)
    if plan.strength != 1:
        table = fade_look(lattice_inputs(size, plan.source, shaper), table, plan)
    return as_lut(table, size, plan.source, shaper)


def fade_look(values: np.ndarray, result: np.ndarray, plan: Plan) -> np.ndarray:
    """The whole look's strength: between the values properly converted to the encoding at its end, and its result."""
    return fade_between(values if plan.strength == 1 else convert(values, plan.source, plan.end, plan.view), result, plan.strength)


def show_on_srgb(values: np.ndarray, source: Encoding, view: View) -> np.ndarray:
    """Code values as they are shown on an sRGB screen; not clipped."""
    return convert(values, source, ENCODINGS["srgb"], view)
