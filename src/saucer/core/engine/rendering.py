"""A look on a picture, spatial steps and all, in the order of the recipe: segment by segment of its plan.

Runs of per-pixel steps are evaluated exactly or through lattices; large pictures come window by window.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from saucer.core.colour.conversion import conversion
from saucer.core.colour.working import in_turn
from saucer.core.engine.cache import PrefixCache
from saucer.core.engine.evaluate import evaluate, fade_look, sample_look
from saucer.core.engine.lattice import as_lut, sample_run
from saucer.core.engine.plan import GroupSegment, PixelRun, Plan, Segment, SpatialSegment, rendering_of
from saucer.core.lut.apply import apply_lut
from saucer.core.numeric.blending import BlendMode, blend
from saucer.core.numeric.planes import fade_between, through
from saucer.core.steps.registry import Frame, SpatialKind


@dataclass(frozen=True)
class Sampling:
    """How per-pixel steps are evaluated: on a lattice of `size` nodes a side, or exactly where it is None."""

    size: int | None = None
    cache: PrefixCache | None = None


EXACTLY = Sampling()


def render(plan: Plan, pixels: np.ndarray, frame: Frame | None = None, sampling: Sampling = EXACTLY) -> np.ndarray:
    """pixels (rows, width, 3) float32 code values of the look's input -> new array of its output, spatial steps included.

    frame: the whole picture, when `pixels` are some of its rows; rows nearer than the plan's reach to a cut are not to be used
    Raises: as evaluate
    """
    if not plan.acts_spatially:
        if sampling.size is None:
            return evaluate(plan, pixels)
        return apply_lut(sample_look(plan, sampling.size, sampling.cache), pixels)
    plan.check_end()
    result = _run(plan.segments, pixels, frame or Frame(pixels.shape[1], pixels.shape[0]), sampling)
    return fade_look(pixels, result, plan)


def _run(segments: Sequence[Segment], begin: np.ndarray, frame: Frame, sampling: Sampling) -> np.ndarray:
    pixels = begin
    for segment in segments:
        match segment:
            case PixelRun():
                pixels = _per_pixel(segment, pixels, sampling)
            case SpatialSegment():
                pixels = _spatial(segment, pixels, pixels is begin, frame)
            case GroupSegment():
                pixels = _group(segment, pixels, frame, sampling)
    return pixels


def _per_pixel(run: PixelRun, pixels: np.ndarray, sampling: Sampling) -> np.ndarray:
    if sampling.size is None:
        return through(in_turn(run.operations), pixels)
    return apply_lut(as_lut(sample_run(run, sampling.size, sampling.cache), sampling.size, run.before), pixels)


def _spatial(segment: SpatialSegment, pixels: np.ndarray, borrowed: bool, frame: Frame) -> np.ndarray:
    """borrowed: the pixels are somebody else's. A step may write to what it is given: that must be ours, and not needed again."""
    stage = segment.stage
    assert isinstance(stage.kind, SpatialKind)
    given = pixels.copy() if borrowed or stage.strength < 1 else pixels
    return fade_between(pixels, stage.kind.evaluate(stage.step, given, stage.before, frame), stage.strength)


def _group(segment: GroupSegment, pixels: np.ndarray, frame: Frame, sampling: Sampling) -> np.ndarray:
    stage = segment.stage
    result = _run(segment.segments, pixels, frame, sampling)
    if stage.step.blend == "normal" and stage.strength == 1:
        return result
    converted = conversion(stage.before, stage.after, rendering_of(stage.step, stage.junction))
    plain = pixels if converted is None else through(converted, pixels)
    if stage.step.blend != "normal":
        result = _lay_over(stage.step.blend, plain, result)
    return fade_between(plain, result, stage.strength)


def _lay_over(mode: BlendMode, backdrop: np.ndarray, result: np.ndarray) -> np.ndarray:
    planes, source = (np.array(values.reshape(-1, 3).T, order="C") for values in (backdrop, result))
    blend(mode, planes, source)
    return np.ascontiguousarray(planes.T).reshape(result.shape)


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
