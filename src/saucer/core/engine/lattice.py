"""The nodes of a lattice as inputs of a look, behind a shaper where its light is linear, and runs of steps sampled on them."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.engine.cache import PrefixCache
from saucer.core.engine.plan import PixelRun, in_turn
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.numeric.planes import through

SHAPER_SIZE = 4096
SHAPER_TOP = 16.0
SHAPER_BEND = 0.01


def log_shaper(size: int = SHAPER_SIZE, top: float = SHAPER_TOP) -> Curve1D:
    """Linear light 0..top to 0..1 as log2(1 + x / 0.01), so that a lattice has nodes where the picture has."""
    x = np.linspace(0, top, size)
    shaped = np.log2(1 + x / SHAPER_BEND) / np.log2(1 + top / SHAPER_BEND)
    return Curve1D(np.repeat(shaped[:, None], 3, axis=1).astype(np.float32), ((0.0,) * 3, (float(top),) * 3))


def unshape(values: np.ndarray, top: float = SHAPER_TOP) -> np.ndarray:
    """0..1 back to linear light 0..top."""
    light = (2.0 ** (values.astype(np.float64) * np.log2(1 + top / SHAPER_BEND)) - 1) * SHAPER_BEND
    return light.astype(np.float32)


@lru_cache(maxsize=8)
def _inputs(size: int, linear: bool) -> np.ndarray:
    values = unshape(grid(size)) if linear else grid(size)
    values.flags.writeable = False
    return values


def lattice_inputs(size: int, source: Encoding) -> np.ndarray:
    """(size**3, 3) float32 code values of `source` at the nodes of a lattice, behind the shaper where it is linear; read-only."""
    return _inputs(size, source.linear)


def as_lut(table: np.ndarray, size: int, source: Encoding) -> Lut:
    """What `lattice_inputs` became, (size**3, 3), as a LUT."""
    return Lut(log_shaper() if source.linear else None, Lattice(table.reshape(size, size, size, 3)))


def sample_run(run: PixelRun, size: int, cache: PrefixCache | None = None) -> np.ndarray:
    """(size**3, 3) float32: what the run makes of the nodes; not to be written to.

    cache: what its beginning made of them is taken from there, and left there up to the step that is being edited
    """
    inputs = lattice_inputs(size, run.before)
    if cache is None:
        return through(in_turn(run.operations), inputs)
    own = tuple(sorted(run.stages[0].junction.own.items())) if run.stages else ()
    keys = ((size, run.before, own), *(stage.content for stage in run.stages))
    known, reached = cache.longest(keys)
    begun, table = max(known, 1), inputs if reached is None else reached
    parting = cache.parting(keys)
    if parting > begun:
        table = _through_stages(run, table, begun, parting)
        cache.keep(keys[:parting], table)
        begun = parting
    return _through_stages(run, table, begun, len(keys))


def _through_stages(run: PixelRun, table: np.ndarray, begun: int, end: int) -> np.ndarray:
    """Keys begun..end of the run; key 0 is what goes in."""
    operations = [operation for stage in run.stages[begun - 1 : end - 1] for operation in stage.operations]
    return through(in_turn(operations), table) if operations else table
