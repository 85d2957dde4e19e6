"""Previews: the steps as they stand, sampled as they will be baked, on a picture's proxy, with the spatial steps."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from PIL import Image

from saucer.core import advice as core_advice
from saucer.core import losses as core_losses
from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.errors import SaucerError
from saucer.core.evaluate import end_of, evaluate, junction_of, shown, stages
from saucer.core.junctions import Ends, ends_of
from saucer.core.lattice_cache import LatticeCache
from saucer.core.look import Group, Look, is_spatial, leading_to, walk
from saucer.core.lut.apply import to_codes
from saucer.core.pictures import read_rows
from saucer.core.rendering import Sampling, reach, render
from saucer.core.scopes import histogram, outside, parade, vectorscope, waveform
from saucer.core.spatial import spatial_kinds
from saucer.core.spatial.registry import Frame
from saucer.core.steps import step_kinds
from saucer.core.steps.registry import Junction
from saucer.core.steps.white_balance import from_neutral
from saucer.studio.encodings import rules as encodings
from saucer.studio.luts.rules import at_hand, declared
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.pictures.shown import DISC, disc_of, square
from saucer.studio.refusals import NotPossible
from saucer.studio.store import local_file

Quality = Literal["drag", "rest", "exact"]
LATTICE: dict[Quality, int | None] = {"drag": 17, "rest": 33, "exact": None}
CACHE = LatticeCache()
"""One a process: the steps before the one that is being edited, on the lattices of previews."""


def graded(look: Look, values: np.ndarray, quality: Quality, steps: int | None = None, edited: int | None = None) -> np.ndarray:
    """(h, w, 3) code values of the look's input to code values of its output, or of the junction after `steps` steps."""
    return render(look, values, None, steps, at_hand, Sampling(LATTICE[quality], CACHE, edited))


def frame(
    look: Look, picture: Picture, quality: Quality, steps: int | None = None, width: int | None = None, edited: int | None = None
) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the picture's proxy after the look, or after its first `steps` steps; not much wider than `width`.

    edited: top-level index of the step that is being edited; what those before it do is kept between calls
    """
    values = graded(look, proxy_in(picture, look.encoding(look.input), width), quality, steps, edited)
    return to_codes(shown(values, end_of(look, steps, at_hand)), np.uint8)


def _disc(look: Look, picture: Picture) -> np.ndarray:
    """(DISC, DISC, 3) uint8: the middle of the picture through the look."""
    middle = square(proxy_in(picture, look.encoding(look.input)))
    step = max(1, middle.shape[0] // (2 * DISC))
    values = graded(look, np.ascontiguousarray(middle[::step, ::step]), "drag")
    return disc_of(to_codes(shown(values, look.encoding(look.output)), np.uint8))


def discs(look: Look, pictures: list[Picture]) -> np.ndarray:
    """(DISC * n, DISC, 3) uint8: the middle of each picture through the look, one below the other."""
    return np.concatenate([_disc(look, picture) for picture in pictures])


def tries(looks: list[Look], picture: Picture) -> np.ndarray:
    """(DISC * n, DISC, 3) uint8: the middle of one picture through each look, one below the other; plain where a look fails."""
    tiles = []
    for look in looks:
        try:
            tiles.append(_disc(look, picture))
        except SaucerError:
            tiles.append(_disc(look.model_copy(update={"steps": (), "output": look.input}), picture))
    return np.concatenate(tiles)


LARGEST_REGION = 2048


def region(look: Look, picture: Picture, left: int, top: int, width: int, height: int, steps: int | None = None) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: these pixels of the picture as it was brought in, after the look. Less where they reach beyond its edge.

    Raises: NotPossible when none of them lies within the picture
    """
    encoding = look.encoding(look.input)
    with local_file(picture.sha256) as path:
        margin = reach(look, picture.height)
        rows, first, whole = read_rows(path, max(top - margin, 0), top + height + margin, picture.file_name)
    if not rows.size or left >= rows.shape[1]:
        raise NotPossible("That part lies outside the picture.")
    spatial, across = any(is_spatial(step) for step in look.steps), rows.shape[1]
    if not spatial:  # columns that are not shown take no part
        rows = rows[:, left : left + width]
    values = convert(np.ascontiguousarray(rows), encodings.find(picture.encoding), encoding)
    done = render(look, values, Frame(across, whole, first), steps, at_hand, Sampling(LATTICE["rest"], CACHE))
    done = done[top - first : top - first + height]
    done = done[:, left : left + width] if spatial else done
    return to_codes(shown(np.ascontiguousarray(done), end_of(look, steps, at_hand)), np.uint8)


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
    source = look.encoding(look.input)
    values = proxy_in(picture, source)
    reaching, between = values, source
    leading = leading_to(look, before)
    if leading.steps:
        count = len(leading.steps)
        reaching, between = graded(leading, values, "rest", count), end_of(leading, count, at_hand)
    result = graded(look, values, "rest")
    low, high = outside(result)
    target = look.encoding(look.output)
    return Scopes(histogram(values, source), histogram(reaching, between), histogram(result, target), low, high)


Trace = Literal["waveform", "parade", "vectorscope"]


def trace(look: Look, picture: Picture, kind: Trace, steps: int | None) -> np.ndarray:
    """Counts (planes, rows, columns) int64 of the picture after the look, or after its first `steps` steps."""
    values, encoding = graded(look, proxy_in(picture, look.encoding(look.input)), "rest", steps), end_of(look, steps, at_hand)
    if kind == "parade":
        return parade(values)
    return (waveform(values, encoding) if kind == "waveform" else vectorscope(values, encoding))[None]


MOST_ADVISED = 1 << 12
"""Pixels that advice is taken from: a share is then right to within 1.6 % (two standard errors at one half)."""


def advice(look: Look, picture: Picture, tolerance: float) -> list[core_advice.Advice]:
    """On an even choice of the picture's pixels."""
    values = proxy_in(picture, look.encoding(look.input)).reshape(-1, 3)
    sample = np.ascontiguousarray(values[:: max(1, len(values) // MOST_ADVISED)])
    return core_advice.advice(look, sample, tolerance, at_hand, declared)


def losses(look: Look, picture: Picture) -> list[core_losses.Loss]:
    return core_losses.losses(look, proxy_in(picture, look.encoding(look.input)), at_hand)


PICKED = 2
"""Proxy pixels on each side of a picked one that are averaged with it."""


def neutral_at(look: Look, picture: Picture, x: float, y: float, before: str, cones: str) -> tuple[float, float]:
    """(warm, tint) of a white balance where the step of this id stands that makes the place in the picture grey."""
    values = proxy_in(picture, look.encoding(look.input))
    row, column = min(int(y * values.shape[0]), values.shape[0] - 1), min(int(x * values.shape[1]), values.shape[1] - 1)
    near = values[max(row - PICKED, 0) : row + PICKED + 1, max(column - PICKED, 0) : column + PICKED + 1]
    leading = leading_to(look, before)
    count = len(leading.steps)
    reached = evaluate(leading, np.ascontiguousarray(near), count, at_hand)
    return from_neutral(_triple(reached.reshape(-1, 3).mean(axis=0)), end_of(leading, count, at_hand), cones)


@dataclass(frozen=True)
class Pixel:
    """One proxy pixel: exact code values into the look, where the step begins, and out of the look.

    luma: of what reaches the step, by the weights of its encoding; hue, chroma: of the same, OKLCh degrees and chroma
    difference: CIEDE2000 between in and out
    """

    x: int
    y: int
    source: tuple[float, float, float]
    step: tuple[float, float, float]
    result: tuple[float, float, float]
    luma: float
    hue: float
    chroma: float
    difference: float


def pixel(look: Look, picture: Picture, x: float, y: float, before: str = "") -> Pixel:
    """x, y: 0..1 across and down the picture; before: id of a step."""
    values = proxy_in(picture, look.encoding(look.input))
    column, row = min(int(x * values.shape[1]), values.shape[1] - 1), min(int(y * values.shape[0]), values.shape[0] - 1)

    def reached(through: Look, steps: int | None) -> np.ndarray:
        # A spatial step needs the pixel's surroundings: then the whole proxy is computed.
        if any(is_spatial(step) for step in through.steps):
            return graded(through, values, "exact", steps)[row, column].reshape(1, 3)
        return evaluate(through, values[row, column].reshape(1, 3), steps, at_hand)

    leading = leading_to(look, before)
    source, result, step = values[row, column].reshape(1, 3), reached(look, None), reached(leading, len(leading.steps))
    between = end_of(leading, len(leading.steps), at_hand)
    ends = (source, look.encoding(look.input)), (result, look.encoding(look.output))
    lab = [linear_709_to_lab(to_linear_709(v.astype(np.float64), encoding)) for v, encoding in ends]
    _, green_red, blue_yellow = _triple(linear_to_oklab(to_linear_709(step.astype(np.float64), between)))
    return Pixel(
        column, row, _triple(source), _triple(step), _triple(result), float(step[0] @ between.luma),
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
    """Every step in order, groups passed over, and the encodings at every junction with what is wrong at the end."""

    steps: list[StepSketch]
    ends: Ends


def sketch(look: Look) -> Sketch:
    ends, start = ends_of(look, at_hand), junction_of(look, at_hand)
    before = {one.path: one for one in ends.steps}
    found = []
    for path, step in walk(look.steps):
        if isinstance(step, Group):
            continue
        at = before[path]
        junction = Junction(look.encoding(at.before), start.own, at_hand)
        spatial = spatial_kinds().get(step.kind)
        kind = spatial or step_kinds()[step.kind]
        lines = spatial.lines(step) if spatial else step_kinds()[step.kind].lines(step, junction)
        found.append(
            StepSketch(
                step.id, path, step.name or kind.title, kind.summary(step), kind.neutral(step), spatial is not None,
                at.before, at.after, lines, _ramp(step, junction),
            )
        )  # fmt: skip
    return Sketch(found, ends)


def _ramp(step: object, junction: Junction) -> list[tuple[int, int, int]]:
    """Grey code values 0..1 of the junction after the step, as sRGB; the plain ramp for a spatial one."""
    planes = np.repeat(np.linspace(0, 1, RAMP, dtype=np.float32)[None], 3, axis=0)
    after = junction.encoding
    for stage in stages([step.model_copy(update={"enabled": True})], junction):  # type: ignore[attr-defined]
        for operation in stage.operations:
            operation(planes)
        after = stage.after
    codes = to_codes(shown(np.ascontiguousarray(planes.T), after), np.uint8)
    return [(int(r), int(g), int(b)) for r, g, b in codes]


def thumbnail(codes: np.ndarray, width: int = 480) -> np.ndarray:
    """(h, w, 3) uint8 averaged down to `width`."""
    height = max(1, round(codes.shape[0] * width / codes.shape[1]))
    return np.asarray(Image.fromarray(codes).resize((width, height), Image.Resampling.BOX))
