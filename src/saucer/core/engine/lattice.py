"""The nodes of a lattice as inputs of a look, behind a shaper where its light is linear, and runs of steps sampled on them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.working import in_turn
from saucer.core.engine.cache import PrefixCache
from saucer.core.engine.plan import PixelRun
from saucer.core.lut.domain import Bounds, grid
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.numeric.planes import through

ENTRIES = 13108
"""Of the table that a shaper is written as. Every fifth entry of the longest table there is (65,536), so that a reader that fills one up
meets them all; the first lies 7.2 stops under 18 % grey, and the lattice's nodes lie where this very table puts them."""
HIGHEST_TOP = 65504.0


@dataclass(frozen=True)
class Shaper:
    """Linear light 0..top to 0..1 as log2(1 + x / toe), so that a lattice has nodes where the picture has.

    toe: up to about there the nodes are evenly spaced in light, from there on in stops. Light below 0 and above `top` is held
    """

    top: float = 16.0
    toe: float = 0.01

    def curve(self) -> Curve1D:
        return _curve(self)

    def light(self, values: np.ndarray) -> np.ndarray:
        """0..1 back to linear light 0..top, float32, by the formula."""
        return ((2.0 ** (values.astype(np.float64) * np.log2(1 + self.top / self.toe)) - 1) * self.toe).astype(np.float32)

    def light_by_curve(self, values: np.ndarray) -> np.ndarray:
        """The same by the table that stands for it."""
        shaped = self.curve().samples[:, 0].astype(np.float64)
        return np.interp(values.astype(np.float64), shaped, np.linspace(0, self.top, ENTRIES)).astype(np.float32)


SHAPER = Shaper()


@lru_cache(maxsize=8)
def _curve(shaper: Shaper) -> Curve1D:
    shaped = np.log2(1 + np.linspace(0, shaper.top, ENTRIES) / shaper.toe) / np.log2(1 + shaper.top / shaper.toe)
    domain: Bounds = ((0.0,) * 3, (float(shaper.top),) * 3)
    return Curve1D(np.repeat(shaped[:, None], 3, axis=1).astype(np.float32), domain)


@lru_cache(maxsize=8)
def _inputs(size: int, shaper: Shaper | None) -> np.ndarray:
    values = shaper.light_by_curve(grid(size)) if shaper is not None else grid(size)
    values.flags.writeable = False
    return values


def lattice_inputs(size: int, source: Encoding, shaper: Shaper = SHAPER) -> np.ndarray:
    """(size**3, 3) float32 code values of `source` at the nodes of a lattice, behind the shaper where it is linear; read-only."""
    return _inputs(size, shaper if source.linear else None)


def as_lut(table: np.ndarray, size: int, source: Encoding, shaper: Shaper = SHAPER) -> Lut:
    """What `lattice_inputs` became, (size**3, 3), as a LUT."""
    return Lut(shaper.curve() if source.linear else None, Lattice(table.reshape(size, size, size, 3)))


def sample_run(run: PixelRun, size: int, cache: PrefixCache | None = None, shaper: Shaper = SHAPER) -> np.ndarray:
    """(size**3, 3) float32: what the run makes of the nodes; not to be written to.

    cache: what its beginning made of them is taken from there, and left there up to the step that is being edited
    """
    inputs = lattice_inputs(size, run.before, shaper)
    if cache is None:
        return through(in_turn(run.operations), inputs)
    stands = (tuple(sorted(run.stages[0].junction.own.items())), run.stages[0].junction.view) if run.stages else ()
    keys = ((size, shaper, run.before, stands), *(stage.content for stage in run.stages))
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
