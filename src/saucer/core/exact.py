"""A look as a chain of nodes: exact formulas where its steps have them, lattices elsewhere. What a Common LUT Format file is baked from."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from saucer.core.evaluate import (
    SHAPER_BEND,
    SHAPER_TOP,
    Stage,
    at_strength,
    check_end,
    in_turn,
    junction_of,
    lattice_inputs,
    stages,
)
from saucer.core.look import Group, Look
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.nodes import Log, LogChannel
from saucer.core.lut.table import UNIT, Bounds, Lattice, Lut, Node, lut_of, nodes
from saucer.core.planes import Operation, through
from saucer.core.steps import step_kinds
from saucer.core.steps.registry import Junction, Luts, no_luts

TOLERANCE = 2e-5
"""Code values, of the larger of 1 and the value, by which formulas may miss the step that they stand for: the published
constants of sRGB alone leave 1e-5 between its curve and the same curve as the standard's formula."""


@dataclass
class _Piece:
    """Operations in a row that no formula says."""

    operations: list[Operation]
    linear: bool


def as_chain(look: Look, size: int, luts: Luts = no_luts) -> Lut:
    """The look as nodes; its lattices have `size` nodes a side. A look below full strength is one lattice. Spatial steps take no part.

    Raises: as evaluate
    """
    start = junction_of(look, luts)
    found = stages(look.steps, start)
    check_end(look, found[-1].after if found else start.encoding)
    values = lattice_inputs(17, start.encoding)
    chain: list[Node] = []
    pieces: list[_Piece | tuple[Node, ...]] = []
    if look.strength != 1:
        end = found[-1].after if found else start.encoding
        whole = at_strength(in_turn([op for stage in found for op in stage.operations]), start.encoding, end, look.strength)
        pieces = [_Piece([whole], start.encoding.linear)]
    else:
        reached = values
        for stage, junction in _single_stages(found, start):
            if not stage.operations:
                continue
            after = through(in_turn(stage.operations), reached)
            exact = _nodes_of(stage, junction, reached, after)
            if exact is not None:
                pieces.append(exact)
            elif pieces and isinstance(pieces[-1], _Piece):
                pieces[-1].operations += stage.operations
            else:
                pieces.append(_Piece(list(stage.operations), stage.before.linear))
            reached = after
    reached = values
    for index, piece in enumerate(pieces):
        if isinstance(piece, tuple):
            chain += piece
            reached = apply_lut(lut_of(piece), reached)
        else:
            operation = in_turn(piece.operations)
            chain += _lattice(operation, size, piece.linear, None if index == 0 and not piece.linear else reached)
            reached = through(operation, reached)
    return lut_of(chain or [Lattice(nodes(2).reshape(2, 2, 2, 3))])


def _single_stages(found: Sequence[Stage], junction: Junction) -> Iterator[tuple[Stage, Junction]]:
    """Stages one by one, with the junction before each; plain groups at full strength opened."""
    for stage in found:
        here = Junction(stage.before, junction.own, junction.luts)
        step = stage.step
        if isinstance(step, Group) and step.enabled and step.strength == 1 and step.blend == "normal":
            yield from _single_stages(stages(step.steps, here, f"{stage.path}.steps"), here)
        else:
            yield stage, here


def _nodes_of(stage: Stage, junction: Junction, values: np.ndarray, wanted: np.ndarray) -> tuple[Node, ...] | None:
    """The step's nodes, if they do to these values what the step does."""
    step = stage.step
    if isinstance(step, Group) or not step.enabled or step.strength != 1:
        return None
    exact = step_kinds()[step.kind].nodes(step, junction)
    if not exact:
        return None
    got = apply_lut(lut_of(exact), values)
    miss = np.abs(got - wanted) / np.maximum(1, np.abs(wanted))
    return exact if miss.max() <= TOLERANCE else None


def _lattice(operation: Operation, size: int, linear: bool, reached: np.ndarray | None) -> list[Node]:
    """A lattice over what reaches it; over 0..1 for the first, behind a logarithm where it is linear light.

    reached: (n, 3) values that arrive; None for all of 0..1
    """
    if linear:
        bend, top = SHAPER_BEND, SHAPER_TOP if reached is None else max(SHAPER_TOP, float(reached.max()))
        slope = 1 / math.log2(1 + top / bend)
        shaped = Log("linToLog", 2.0, (LogChannel(slope, 0.0, 1 / bend, 1.0),) * 3)
        light = ((2.0 ** (nodes(size).astype(np.float64) / slope) - 1) * bend).astype(np.float32)
        return [shaped, Lattice(through(operation, light).reshape(size, size, size, 3))]
    domain: Bounds = UNIT
    if reached is not None:
        low, high = reached.min(axis=0).astype(np.float64), reached.max(axis=0).astype(np.float64)
        high = np.maximum(high, low + 1e-3)
        domain = tuple(map(float, low)), tuple(map(float, high))  # type: ignore[assignment]
    return [Lattice(through(operation, nodes(size, domain)).reshape(size, size, size, 3), domain)]
