"""A look as a chain of links: exact formulas where its steps have them, lattices elsewhere. What a Common LUT Format file is baked from."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from saucer.core.colour.working import in_turn
from saucer.core.engine.lattice import SHAPER, Shaper, lattice_inputs
from saucer.core.engine.plan import Plan, Stage
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import UNIT, Bounds, grid
from saucer.core.lut.formulas import Log, LogChannel
from saucer.core.lut.table import Lattice, Link, Lut, lut_of
from saucer.core.numeric.planes import Operation, through
from saucer.core.steps.registry import PixelKind
from saucer.core.steps.strength import at_strength

FORMULA_TOLERANCE = 2e-5
"""Code values, of the larger of 1 and the value, by which formulas may miss the step that they stand for: the published
constants of sRGB alone leave 1e-5 between its curve and the same curve as the standard's formula."""


WIDEST = 1.75
"""Code values that a lattice behind formulas may reach over: what a log of narrower primaries makes of light that they do not hold goes far
below 0, and nodes spread over all of it would leave none where pictures are."""


@dataclass
class _Piece:
    """Operations in a row; links: what says them exactly, none where no formula does"""

    operations: list[Operation]
    linear: bool
    links: tuple[Link, ...] | None = None


def chain_of(plan: Plan, size: int, shaper: Shaper = SHAPER) -> Lut:
    """The look as links; its lattices have `size` nodes a side. A look below full strength is one lattice. Spatial steps take no part.

    Raises: as evaluate
    """
    plan.check_end()
    values = lattice_inputs(17, plan.source, shaper)
    if plan.strength != 1:
        whole = at_strength(in_turn(plan.run.operations), plan.source, plan.end, plan.strength, plan.view)
        pieces = [_Piece([whole], plan.source.linear)]
    else:
        pieces = _pieces(plan, values)
    chain: list[Link] = []
    reached, before = values, _Piece([], plan.source.linear)
    for index, piece in enumerate(pieces):
        operation = in_turn(piece.operations)
        if piece.links is not None:
            chain += piece.links
        elif index and not piece.linear and float(np.ptp(reached, axis=0).max()) > WIDEST:
            whole = in_turn([*before.operations, *piece.operations])
            chain = _lattice(whole, size, shaper if before.linear else None, values if before.linear else None)
        else:
            chain += _lattice(
                operation, size, shaper if piece.linear else None, None if index == 0 and not piece.linear else reached
            )
        before.operations += piece.operations
        reached = through(operation, reached)
    return lut_of(chain or [Lattice(grid(2).reshape(2, 2, 2, 3))])


def _pieces(plan: Plan, values: np.ndarray) -> list[_Piece]:
    pieces: list[_Piece] = []
    reached = values
    for stage in _opened(plan.stages):
        if not stage.operations:
            continue
        after = through(in_turn(stage.operations), reached)
        exact = _links_of(stage, reached, after)
        if exact is not None:
            pieces.append(_Piece(list(stage.operations), stage.before.linear, exact))
        elif pieces and pieces[-1].links is None:
            pieces[-1].operations += stage.operations
        else:
            pieces.append(_Piece(list(stage.operations), stage.before.linear))
        reached = after
    return pieces


def _opened(stages: Sequence[Stage]) -> Iterator[Stage]:
    """Stages one by one; plain groups at full strength opened."""
    for stage in stages:
        if stage.kind is None and stage.strength == 1 and stage.step.blend == "normal":
            yield from _opened(stage.inner)
        else:
            yield stage


def _links_of(stage: Stage, values: np.ndarray, wanted: np.ndarray) -> tuple[Link, ...] | None:
    """The step's links, if they do to these values what the step does."""
    if not isinstance(stage.kind, PixelKind) or stage.strength != 1:
        return None
    exact = stage.kind.links(stage.step, stage.junction)
    if not exact:
        return None
    got = apply_lut(lut_of(exact), values)
    miss = np.abs(got - wanted) / np.maximum(1, np.abs(wanted))
    return exact if miss.max() <= FORMULA_TOLERANCE else None


def _lattice(operation: Operation, size: int, shaper: Shaper | None, reached: np.ndarray | None) -> list[Link]:
    """A lattice over what reaches it; over 0..1 for the first, behind a logarithm where it is linear light.

    reached: (n, 3) values that arrive; None for all of 0..1
    """
    if shaper is not None:
        wide = shaper if reached is None else Shaper(max(shaper.top, float(reached.max())), shaper.toe)
        shaped = Log("linToLog", 2.0, (LogChannel(1 / math.log2(1 + wide.top / wide.toe), 0.0, 1 / wide.toe, 1.0),) * 3)
        return [shaped, Lattice(through(operation, wide.light(grid(size))).reshape(size, size, size, 3))]
    domain: Bounds = UNIT
    if reached is not None:
        low, high = reached.min(axis=0).astype(np.float64), reached.max(axis=0).astype(np.float64)
        high = np.maximum(high, low + 1e-3)
        domain = tuple(map(float, low)), tuple(map(float, high))  # type: ignore[assignment]
    return [Lattice(through(operation, grid(size, domain)).reshape(size, size, size, 3), domain)]
