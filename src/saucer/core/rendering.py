"""A look on a picture, spatial steps and all, in the order of the recipe.

Runs of per-pixel steps are evaluated exactly or through lattices; large pictures come window by window.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from saucer.core.blending import blend
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import Encoding
from saucer.core.evaluate import as_lut, check_end, evaluate, junction_of, lattice_inputs, sampled, stages
from saucer.core.lattice_cache import LatticeCache
from saucer.core.look import Group, Look, is_spatial
from saucer.core.lut.apply import apply_lut
from saucer.core.planes import fade, through
from saucer.core.spatial import spatial_kinds
from saucer.core.spatial.registry import Frame
from saucer.core.steps.registry import Junction, Luts, no_luts


@dataclass(frozen=True)
class Sampling:
    """How per-pixel steps are evaluated: on a lattice of `size` nodes a side, or exactly where it is None."""

    size: int | None = None
    cache: LatticeCache | None = None
    edited: int | None = None


EXACTLY = Sampling()


def render(
    look: Look,
    pixels: np.ndarray,
    frame: Frame | None = None,
    steps: int | None = None,
    luts: Luts = no_luts,
    sampling: Sampling = EXACTLY,
) -> np.ndarray:
    """pixels (rows, width, 3) float32 code values of the look's input -> new array of its output, spatial steps included.

    frame: the whole picture, when `pixels` are some of its rows; rows nearer than `reach` to a cut are not to be used
    steps: only the first so many at the top level; the result is then in the encoding at that junction
    Raises: as evaluate
    """
    chosen = look.steps if steps is None else look.steps[:steps]
    frame = frame or Frame(pixels.shape[1], pixels.shape[0])
    if not any(step.enabled and is_spatial(step) for step in chosen):
        if sampling.size is None:
            return evaluate(look, pixels, steps, luts)
        return apply_lut(sampled(look, sampling.size, steps, luts, sampling.cache, sampling.edited), pixels)
    start = junction_of(look, luts)
    result, end = _run(chosen, pixels, start, frame, sampling)
    if steps is None:
        check_end(look, end)
    return _faded(pixels, result, start.encoding, end, look.strength)


def _run(
    steps: Sequence[Any], pixels: np.ndarray, junction: Junction, frame: Frame, sampling: Sampling, inside: str = "steps"
) -> tuple[np.ndarray, Encoding]:
    """Runs of per-pixel steps together, spatial steps and groups that hold one by themselves."""
    waiting: list[Any] = []
    begun, begin = 0, pixels
    for index, step in enumerate(steps):
        if not is_spatial(step):
            begun = begun if waiting else index
            waiting.append(step)
            continue
        pixels, junction = _per_pixel(waiting, begun, pixels, junction, sampling, inside)
        waiting = []
        if isinstance(step, Group):
            before, encoding = junction.encoding, junction.encoding
            result, encoding = _run(step.steps, pixels, junction, frame, sampling, f"{inside}[{index}].steps")
            if step.blend != "normal":
                result = _blended(step, convert(pixels, before, encoding), result)
            pixels = _faded(pixels, result, before, encoding, step.strength if step.enabled else 0.0)
            junction = replace(junction, encoding=encoding)
        elif step.enabled and step.strength > 0 and not spatial_kinds()[step.kind].neutral(step):
            # Spatial steps may write to what they are given: it must be ours, and not needed again.
            given = pixels.copy() if pixels is begin or step.strength < 1 else pixels
            result = spatial_kinds()[step.kind].evaluate(step, given, junction.encoding, frame)
            pixels = _faded(pixels, result, junction.encoding, junction.encoding, step.strength)
    pixels, junction = _per_pixel(waiting, begun, pixels, junction, sampling, inside)
    return pixels, junction.encoding


def _per_pixel(
    steps: Sequence[Any], first: int, pixels: np.ndarray, junction: Junction, sampling: Sampling, inside: str
) -> tuple[np.ndarray, Junction]:
    found = stages(steps, junction, inside, first)
    operations = [operation for stage in found for operation in stage.operations]
    if not operations:
        return pixels, junction

    def run(planes: np.ndarray) -> None:
        for operation in operations:
            operation(planes)

    source = junction.encoding
    if sampling.size is None:
        pixels = through(run, pixels)
    else:
        pixels = apply_lut(as_lut(through(run, lattice_inputs(sampling.size, source)), sampling.size, source), pixels)
    return pixels, replace(junction, encoding=found[-1].after)


def _blended(group: Group, backdrop: np.ndarray, result: np.ndarray) -> np.ndarray:
    planes, source = (np.array(values.reshape(-1, 3).T, order="C") for values in (backdrop, result))
    blend(group.blend, planes, source)
    return np.ascontiguousarray(planes.T).reshape(result.shape)


def _faded(pixels: np.ndarray, result: np.ndarray, before: Encoding, after: Encoding, strength: float) -> np.ndarray:
    if strength == 1:
        return result
    kept = np.ascontiguousarray(convert(pixels, before, after))
    if strength == 0:
        return kept.copy()
    faded = np.array(result, order="C")
    fade(faded.reshape(-1), kept.reshape(-1), np.float32(strength))
    return faded


def reach(look: Look, height: int) -> int:
    """Rows above and below a row that take part in it, in a picture of this height."""
    return _reach(look.steps, height)


def _reach(steps: Sequence[Any], height: int) -> int:
    total = 0
    for step in steps:
        if isinstance(step, Group) and step.enabled:
            total += _reach(step.steps, height)
        elif step.kind in spatial_kinds() and step.enabled and not spatial_kinds()[step.kind].neutral(step):
            total += spatial_kinds()[step.kind].reach(step, height)
    return total


def windows(strips: Iterable[np.ndarray], height: int, margin: int) -> Iterator[tuple[np.ndarray, int, slice]]:
    """Strips of rows, top first, each with `margin` rows of its neighbours: (rows at hand, where they begin, which of them are the strip).

    Holds no more than a few strips and two margins at a time.
    """
    held: list[np.ndarray] = []
    top = given = 0  # first row held; first row not yet given out
    ends: list[int] = []  # where the strips read so far end

    def window(begin: int, end: int) -> tuple[np.ndarray, int, slice]:
        rows = held[0] if len(held) == 1 else np.concatenate(held)
        low, high = max(begin - margin, 0), min(end + margin, height)
        return rows[low - top : high - top], low, slice(begin - low, end - low)

    read = 0
    for strip in strips:
        held.append(strip)
        read += len(strip)
        ends.append(read)
        while ends and (read >= min(ends[0] + margin, height)):
            end = ends.pop(0)
            yield window(given, end)
            given = end
            while len(held) > 1 and top + len(held[0]) <= given - margin:
                top += len(held.pop(0))
