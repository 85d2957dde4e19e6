"""The Bench's pixels, counts and words: the steps as they stand, sampled as they will be baked, on a picture's proxy.

Each function prepares the look once and reads everything off its plan.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.colour.working import in_turn
from saucer.core.engine.evaluate import evaluate, show_on_srgb
from saucer.core.engine.plan import Plan, Stage, prepare
from saucer.core.engine.rendering import Sampling, render
from saucer.core.errors import SaucerError
from saucer.core.look.model import Look
from saucer.core.lut.apply import to_codes
from saucer.core.pictures.io import read_rows
from saucer.core.pictures.scopes import histogram, outside, parade, vectorscope, waveform
from saucer.core.reports import advice as core_advice
from saucer.core.reports.losses import Loss, find_losses
from saucer.core.steps.pixel.white_balance import from_neutral
from saucer.core.steps.registry import Frame, Kind, SpatialKind
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import local_file
from saucer.studio.encodings import rules as encodings
from saucer.studio.luts.rules import at_hand, declared
from saucer.studio.pictures import footage
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.pictures.shown import DISC, disc_of, square
from saucer.studio.preview.kept import CACHE

Quality = Literal["drag", "rest", "sampled"]
Screen = Literal["srgb", "display-p3"]
LATTICE: dict[Quality, int | None] = {"drag": 17, "rest": None, "sampled": 33}
"""Nodes a side that per-pixel steps go through; at rest none: exactly, as on a card, in a project and in what is delivered."""


def grade(plan: Plan, values: np.ndarray, quality: Quality, number: int = 0) -> np.ndarray:
    """(h, w, 3) code values of the plan's source to code values of its end. number: of a frame, for what moves from one to the next"""
    whole = Frame(values.shape[1], values.shape[0], 0, number)
    return render(plan, values, whole, Sampling(LATTICE[quality], CACHE))


def values_of(plan: Plan, picture: Picture, width: int | None = None, at: int | None = None) -> np.ndarray:
    """(h, w, 3) float32: the picture as the plan takes it in, by its view. at: a frame of what moves"""
    moving = None if at is None else footage.of_picture(picture)
    if moving is None:
        return proxy_in(picture, plan.source, width, plan.view)
    if moving.proxy_encoding == moving.picture.encoding:
        moving.proxy_encoding = picture.encoding  # its codes are those of the picture, read as that is
    return footage.frame_in(moving, at or 0, plan.source, width, plan.view)


def frame(
    look: Look,
    picture: Picture,
    quality: Quality,
    steps: int | None = None,
    width: int | None = None,
    at: int | None = None,
    screen: Screen = "srgb",
) -> np.ndarray:
    """(h, w, 3) uint8 of the screen: the picture's proxy after the look, or after its first `steps` steps; not much wider than `width`.

    at: a frame of what moves, from 0
    """
    plan = prepare(look, at_hand).first(steps)
    values = values_of(plan, picture, width, at)
    return to_codes(convert(grade(plan, values, quality, at or 0), plan.end, ENCODINGS[screen], plan.view), np.uint8)


def _disc(plan: Plan, picture: Picture) -> np.ndarray:
    """(DISC, DISC, 3) uint8: the middle of the picture through the look."""
    middle = square(values_of(plan, picture))
    step = max(1, middle.shape[0] // (2 * DISC))
    values = grade(plan, np.ascontiguousarray(middle[::step, ::step]), "drag")
    return disc_of(to_codes(show_on_srgb(values, plan.end, plan.view), np.uint8))


def discs(look: Look, pictures: list[Picture]) -> np.ndarray:
    """(DISC * n, DISC, 3) uint8: the middle of each picture through the look, one below the other."""
    plan = prepare(look, at_hand)
    return np.concatenate([_disc(plan, picture) for picture in pictures])


def tries(looks: list[Look], picture: Picture) -> np.ndarray:
    """(DISC * n, DISC, 3) uint8: the middle of one picture through each look, one below the other; plain where a look fails."""
    tiles = []
    for look in looks:
        try:
            tiles.append(_disc(prepare(look, at_hand), picture))
        except SaucerError:
            tiles.append(_disc(prepare(look.model_copy(update={"steps": (), "output": look.input})), picture))
    return np.concatenate(tiles)


LARGEST_REGION = 2048


def region(
    look: Look, picture: Picture, left: int, top: int, width: int, height: int, steps: int | None = None, screen: Screen = "srgb"
) -> np.ndarray:
    """(h, w, 3) uint8 of the screen: these pixels of the picture as it was brought in, after the look.

    Less where they reach beyond its edge. Raises: NotPossible when none of them lies within the picture
    """
    plan = prepare(look, at_hand).first(steps)
    with local_file(picture.blob_id) as path:
        margin = plan.reach(picture.height)
        rows, first, whole = read_rows(path, max(top - margin, 0), top + height + margin, picture.file_name, picture.chosen_white)
    if not rows.size or left >= rows.shape[1]:
        raise NotPossible("That part lies outside the picture.")
    spatial, across = plan.acts_spatially, rows.shape[1]
    if not spatial:  # columns that are not shown take no part
        rows = rows[:, left : left + width]
    values = convert(np.ascontiguousarray(rows), encodings.find(picture.encoding), plan.source, plan.view)
    done = render(plan, values, Frame(across, whole, first), Sampling(LATTICE["rest"], CACHE))
    done = done[top - first : top - first + height]
    done = done[:, left : left + width] if spatial else done
    return to_codes(convert(np.ascontiguousarray(done), plan.end, ENCODINGS[screen], plan.view), np.uint8)


@dataclass(frozen=True)
class Scopes:
    """Counts (4, bins) of red, green, blue, luma: before the look, where the step begins, and after the look."""

    source: np.ndarray
    step: np.ndarray
    result: np.ndarray
    clipped_low: float
    clipped_high: float


def scopes(look: Look, picture: Picture, before: str = "") -> Scopes:
    """Histograms of code values; `before` is the id of the step being edited."""
    plan = prepare(look, at_hand)
    values, leading = values_of(plan, picture), plan.leading_to(before)
    reaching = grade(leading, values, "rest") if leading.stages else values
    result = grade(plan, values, "rest")
    low, high = outside(result)
    return Scopes(histogram(values, plan.source), histogram(reaching, leading.end), histogram(result, plan.end), low, high)


Trace = Literal["waveform", "parade", "vectorscope"]


def trace(look: Look, picture: Picture, kind: Trace, steps: int | None) -> np.ndarray:
    """Counts (planes, rows, columns) int64 of the picture after the look, or after its first `steps` steps."""
    plan = prepare(look, at_hand).first(steps)
    values = grade(plan, values_of(plan, picture), "rest")
    if kind == "parade":
        return parade(values)
    return (waveform(values, plan.end) if kind == "waveform" else vectorscope(values, plan.end))[None]


MOST_ADVISED = 1 << 12
"""Pixels that advice is taken from: a share is then right to within 1.6 % (two standard errors at one half)."""


def advise(look: Look, picture: Picture, tolerance: float) -> list[core_advice.Advice]:
    """On an even choice of the picture's pixels."""
    values = proxy_in(picture, look.encoding(look.input), view=look.view).reshape(-1, 3)
    sample = np.ascontiguousarray(values[:: max(1, len(values) // MOST_ADVISED)])
    return core_advice.advise(look, sample, tolerance, at_hand, declared)


def losses(look: Look, picture: Picture) -> list[Loss]:
    plan = prepare(look, at_hand)
    return find_losses(plan, values_of(plan, picture))


PICKED = 2
"""Proxy pixels on each side of a picked one that are averaged with it."""


def neutral_at(look: Look, picture: Picture, x: float, y: float, before: str, cones: str) -> tuple[float, float]:
    """(warm, tint) of a white balance where the step of this id stands that makes the place in the picture grey."""
    leading = prepare(look, at_hand).leading_to(before)
    values = values_of(leading, picture)
    row, column = min(int(y * values.shape[0]), values.shape[0] - 1), min(int(x * values.shape[1]), values.shape[1] - 1)
    near = values[max(row - PICKED, 0) : row + PICKED + 1, max(column - PICKED, 0) : column + PICKED + 1]
    reached = evaluate(leading, np.ascontiguousarray(near))
    return from_neutral(_triple(reached.reshape(-1, 3).mean(axis=0)), leading.end, cones)


@dataclass(frozen=True)
class Pixel:
    """One proxy pixel: exact code values into the look, where the step begins, and out of the look.

    luma: of what reaches the step, by the weights of its encoding; lightness, hue, chroma: of the same, OKLCh, hue in degrees
    difference: CIEDE2000 between in and out
    """

    x: int
    y: int
    source: tuple[float, float, float]
    step: tuple[float, float, float]
    result: tuple[float, float, float]
    luma: float
    lightness: float
    hue: float
    chroma: float
    difference: float


def pixel(look: Look, picture: Picture, x: float, y: float, before: str = "") -> Pixel:
    """x, y: 0..1 across and down the picture; before: id of a step."""
    plan = prepare(look, at_hand)
    leading, values = plan.leading_to(before), values_of(plan, picture)
    column, row = min(int(x * values.shape[1]), values.shape[1] - 1), min(int(y * values.shape[0]), values.shape[0] - 1)
    source = values[row, column].reshape(1, 3)

    def reach(through: Plan) -> np.ndarray:
        # A spatial step needs the pixel's surroundings: then the whole proxy is computed.
        return grade(through, values, "rest")[row, column].reshape(1, 3) if through.acts_spatially else evaluate(through, source)

    result, step = reach(plan), reach(leading)
    ends = (source, plan.source), (result, plan.end)
    lab = [linear_709_to_lab(to_linear_709(v.astype(np.float64), encoding)) for v, encoding in ends]
    lightness, green_red, blue_yellow = _triple(linear_to_oklab(to_linear_709(step.astype(np.float64), leading.end)))
    return Pixel(
        column, row, _triple(source), _triple(step), _triple(result), float(step[0] @ leading.end.luma), lightness,
        float(np.degrees(np.arctan2(blue_yellow, green_red)) % 360), float(np.hypot(green_red, blue_yellow)), float(ciede2000(*lab)[0]),
    )  # fmt: skip


def _triple(values: np.ndarray) -> tuple[float, float, float]:
    red, green, blue = (float(part) for part in values.reshape(3))
    return red, green, blue


@dataclass(frozen=True)
class StepSketch:
    """One step in words and lines; `ramp` (RAMP, 3) 8-bit sRGB is an even grey ramp after this step alone, at its strength.

    path: steps[1].steps[0]; before, after: ids of the encodings at its junctions
    """

    id: str
    path: str
    title: str
    summary: str
    neutral: bool
    spatial: bool
    before: str
    after: str
    lines: dict[str, list[float]]
    ramp: list[tuple[int, int, int]]


RAMP = 33


@dataclass(frozen=True)
class Sketch:
    """Every step in order, groups passed over; the encoding the steps end in, and what is wrong with that, if anything."""

    steps: list[StepSketch]
    end: str
    problem: str


def sketch(look: Look) -> Sketch:
    plan = prepare(look, at_hand)
    return Sketch([_sketch_step(stage, stage.kind) for stage in plan.walk() if stage.kind is not None], plan.end.id, plan.problem)


def _sketch_step(stage: Stage, kind: Kind) -> StepSketch:
    return StepSketch(
        stage.step.id, stage.path, stage.title, kind.summary(stage.step), stage.neutral, isinstance(kind, SpatialKind),
        stage.before.id, stage.after.id, kind.lines(stage.step, stage.junction), _ramp(stage.switched_on()),
    )  # fmt: skip


def _ramp(stage: Stage) -> list[tuple[int, int, int]]:
    """Grey code values 0..1 of the junction after the step, as sRGB; the plain ramp for a spatial one."""
    planes = np.repeat(np.linspace(0, 1, RAMP, dtype=np.float32)[None], 3, axis=0)
    in_turn(stage.operations)(planes)
    codes = to_codes(show_on_srgb(np.ascontiguousarray(planes.T), stage.after, stage.junction.view), np.uint8)
    return [(int(r), int(g), int(b)) for r, g, b in codes]
