"""Evaluation: a look on any samples, exactly, or sampled on a lattice. Both are the same code."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np

from saucer.core.blending import blend
from saucer.core.colour.conversion import conversion, convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.elementary import F
from saucer.core.errors import LookError, SaucerError, ShapeError
from saucer.core.lattice_cache import LatticeCache
from saucer.core.look import Group, Look, steps_hash
from saucer.core.lut.table import Curve1D, Lattice, Lut, nodes
from saucer.core.planes import Operation, fade, through
from saucer.core.steps import step_kinds
from saucer.core.steps.registry import Junction, Luts, no_luts


def faded(values: np.ndarray, result: np.ndarray, strength: float) -> np.ndarray:
    """a + s (f(a) - a); `result` itself at strength 1, `values` themselves at 0."""
    if strength == 1 or result is values:
        return result
    if strength == 0:
        return values
    return values + np.float32(strength) * (result - values)


@dataclass(frozen=True)
class Stage:
    """One step ready to run: the operations it comes down to, in order (none where it changes nothing), and the encoding at its end."""

    path: str
    step: Any
    operations: tuple[Operation, ...]
    before: Encoding
    after: Encoding


def at_strength(operation: Operation, before: Encoding, after: Encoding, strength: float) -> Operation:
    """a + s (f(x) - a), where a is x itself, or x properly converted where the encoding changes."""
    if strength == 1:
        return operation
    converted = conversion(before, after)
    if strength == 0:
        return converted or (lambda planes: None)

    def run(planes: np.ndarray) -> None:
        kept = planes.copy()
        operation(planes)
        if converted is not None:
            converted(kept)
        fade(planes.reshape(-1), kept.reshape(-1), F(strength))

    return run


def stages(steps: Sequence[Any], junction: Junction, inside: str = "steps", first: int = 0) -> list[Stage]:
    """The per-pixel steps made ready, spatial ones left out; `first` is the index of the first.

    Raises: SaucerError naming the step
    """
    found = []
    for index, step in enumerate(steps, first):
        path = f"{inside}[{index}]"
        if step.kind in step_kinds() or isinstance(step, Group):
            stage = _group(step, junction, path) if isinstance(step, Group) else _single(step, junction, path)
            found.append(stage)
            junction = replace(junction, encoding=stage.after)
    return found


def _single(step: Any, junction: Junction, path: str) -> Stage:
    kind, before = step_kinds()[step.kind], junction.encoding
    try:
        # A conversion that is switched off is not there; anything else that changes the encoding leaves its conversion behind.
        if kind.neutral(step) or (step.kind == "convert" and not step.enabled):
            return Stage(path, step, (), before, before)
        after = kind.after(step, junction)
        strength = step.strength if step.enabled else 0.0
        if strength == 0:
            converted = conversion(before, after)
            return Stage(path, step, (converted,) if converted else (), before, after)
        return Stage(path, step, (at_strength(kind.prepare(step, junction), before, after, strength),), before, after)
    except SaucerError as error:
        raise error.within(path) from None


def _group(group: Group, junction: Junction, path: str) -> Stage:
    before, inner = junction.encoding, stages(group.steps, junction, f"{path}.steps")
    after = inner[-1].after if inner else before
    operations = tuple(operation for stage in inner for operation in stage.operations)
    strength = group.strength if group.enabled else 0.0
    if group.blend == "normal" and strength == 1:
        return Stage(path, group, operations, before, after)
    run = at_strength(_laid_over(in_turn(operations), group, before, after), before, after, strength)
    return Stage(path, group, (run,), before, after)


def in_turn(operations: Sequence[Operation]) -> Operation:
    def run(planes: np.ndarray) -> None:
        for operation in operations:
            operation(planes)

    return run


def _laid_over(operation: Operation, group: Group, before: Encoding, after: Encoding) -> Operation:
    """The group's result over its input, by its blend mode, on code values of the encoding at its end."""
    if group.blend == "normal":
        return operation
    converted = conversion(before, after)

    def run(planes: np.ndarray) -> None:
        result = planes.copy()
        operation(result)
        if converted is not None:
            converted(planes)
        blend(group.blend, planes, result)

    return run


def junction_of(look: Look, luts: Luts = no_luts) -> Junction:
    """Where the first step stands."""
    return Junction(look.encoding(look.input), look.own, luts)


def check_end(look: Look, end: Encoding) -> None:
    """Raises: LookError, with both ways to mend it, when the steps do not end in the declared output."""
    if end.id != look.output:
        raise LookError(
            "output",
            f'the steps end in "{end.id}" but the look declares "{look.output}"; '
            f'declare "{end.id}" as the output, or add a Convert step to "{look.output}" at the end',
        )


def evaluate(look: Look, values: np.ndarray, steps: int | None = None, luts: Luts = no_luts) -> np.ndarray:
    """The look on code values of its input encoding, giving code values of its output encoding. Spatial steps take no part.

    values: (..., 3) float32, any finite values
    steps: only the first so many at the top level; the result is then in the encoding at that junction
    Raises: ShapeError; LookError when the look ends in another encoding than it declares; SaucerError naming a step
    """
    if values.shape[-1:] != (3,) or values.dtype != np.float32:
        raise ShapeError("values", f"need float32 with three channels last, got {values.dtype} {values.shape}")
    start = junction_of(look, luts)
    found = stages(look.steps if steps is None else look.steps[:steps], start)
    end = found[-1].after if found else start.encoding
    if steps is None:
        check_end(look, end)
    operations = [operation for stage in found for operation in stage.operations]
    if not operations:
        return values.copy()
    return through(at_strength(in_turn(operations), start.encoding, end, look.strength), values)


def end_of(look: Look, steps: int | None = None, luts: Luts = no_luts) -> Encoding:
    """The encoding after the first `steps` steps at the top level; without, the declared output."""
    if steps is None:
        return look.encoding(look.output)
    start = junction_of(look, luts)
    found = stages(look.steps[:steps], start)
    return found[-1].after if found else start.encoding


SHAPER_SIZE = 4096
SHAPER_TOP = 16.0
SHAPER_BEND = 0.01


def shaper(size: int = SHAPER_SIZE, top: float = SHAPER_TOP) -> Curve1D:
    """Linear light 0..top to 0..1 as log2(1 + x / 0.01), so that a lattice has nodes where the picture has."""
    x = np.linspace(0, top, size)
    shaped = np.log2(1 + x / SHAPER_BEND) / np.log2(1 + top / SHAPER_BEND)
    return Curve1D(np.repeat(shaped[:, None], 3, axis=1).astype(np.float32), ((0.0,) * 3, (float(top),) * 3))


def unshaped(values: np.ndarray, top: float = SHAPER_TOP) -> np.ndarray:
    light = (2.0 ** (values.astype(np.float64) * np.log2(1 + top / SHAPER_BEND)) - 1) * SHAPER_BEND
    return light.astype(np.float32)


@lru_cache(maxsize=8)
def _inputs(size: int, linear: bool) -> np.ndarray:
    grid = unshaped(nodes(size)) if linear else nodes(size)
    grid.flags.writeable = False
    return grid


def lattice_inputs(size: int, source: Encoding) -> np.ndarray:
    """(size**3, 3) float32 code values of `source` at the nodes of a lattice, behind the shaper where it is linear; read-only."""
    return _inputs(size, source.linear)


def as_lut(table: np.ndarray, size: int, source: Encoding) -> Lut:
    """What `lattice_inputs` became, (size**3, 3), as a LUT."""
    return Lut(shaper() if source.linear else None, Lattice(table.reshape(size, size, size, 3)))


def sampled(
    look: Look,
    size: int,
    steps: int | None = None,
    luts: Luts = no_luts,
    cache: LatticeCache | None = None,
    edited: int | None = None,
) -> Lut:
    """The look on a lattice of size**3 nodes; linear input gets a shaper in front. Spatial steps take no part.

    cache, edited: what the steps before the top-level step `edited` make of the nodes is kept in the cache and found there again
    Raises: as evaluate
    """
    source = look.encoding(look.input)
    if cache is None or not edited or look.strength != 1 or (steps is not None and steps <= edited):
        return as_lut(evaluate(look, lattice_inputs(size, source), steps, luts), size, source)
    key = (size, source, steps_hash(look.steps[:edited]))
    reached = cache.get(key)
    if reached is None:
        reached = evaluate(look, lattice_inputs(size, source), edited, luts)
        cache.put(key, reached)
    start = junction_of(look, luts)
    before = stages(look.steps[:edited], start)
    found = stages(look.steps[edited:steps], replace(start, encoding=before[-1].after if before else source), first=edited)
    end = found[-1].after if found else before[-1].after if before else source
    if steps is None:
        check_end(look, end)
    return as_lut(through(in_turn([operation for stage in found for operation in stage.operations]), reached), size, source)


def shown(values: np.ndarray, source: Encoding) -> np.ndarray:
    """Code values as they are shown on an sRGB screen; not clipped."""
    return convert(values, source, ENCODINGS["srgb"])
