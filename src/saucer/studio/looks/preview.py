"""Previews: the steps as they stand, sampled as they will be baked, on a picture's proxy."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from PIL import Image

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.encodings import encoding
from saucer.core.evaluate import evaluate, sampled, shown
from saucer.core.look import Look, walk
from saucer.core.lut.apply import apply_lut, to_codes
from saucer.core.scopes import histogram, outside
from saucer.core.steps import step_kinds
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.pictures.shown import DISC, disc_of, square

Quality = Literal["drag", "rest"]
LATTICE: dict[Quality, int] = {"drag": 17, "rest": 33}


def graded(look: Look, values: np.ndarray, size: int, steps: int | None = None) -> np.ndarray:
    """Code values of the look's input through its lattice to code values of its output."""
    return apply_lut(sampled(look, size, steps), values)


def frame(look: Look, picture: Picture, quality: Quality, steps: int | None = None, width: int | None = None) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the picture's proxy after the look, or after its first `steps` steps; not much wider than `width`."""
    values = graded(look, proxy_in(picture, look.input, width), LATTICE[quality], steps)
    return to_codes(shown(values, encoding(look.output)), np.uint8)


def discs(look: Look, pictures: list[Picture]) -> np.ndarray:
    """(DISC * n, DISC, 3) uint8: the middle of each picture through the look, one below the other."""
    lut = sampled(look, LATTICE["drag"])
    tiles = []
    for picture in pictures:
        middle = square(proxy_in(picture, look.input))
        step = max(1, middle.shape[0] // (2 * DISC))
        values = apply_lut(lut, np.ascontiguousarray(middle[::step, ::step]))
        tiles.append(disc_of(to_codes(shown(values, encoding(look.output)), np.uint8)))
    return np.concatenate(tiles)


@dataclass(frozen=True)
class Scopes:
    """Counts (4, bins) of red, green, blue, luma: before the look, where the step begins, and after the look."""

    source: np.ndarray
    step: np.ndarray
    result: np.ndarray
    clipped_low: float
    clipped_high: float


def scopes(look: Look, picture: Picture, before_step: int) -> Scopes:
    """Histograms of code values; `before_step` is the top-level index of the step being edited."""
    values = proxy_in(picture, look.input)
    reaching = values if before_step == 0 else graded(look, values, LATTICE["rest"], before_step)
    result = graded(look, values, LATTICE["rest"])
    source, target = encoding(look.input), encoding(look.output)
    low, high = outside(result)
    return Scopes(histogram(values, source), histogram(reaching, source), histogram(result, target), low, high)


@dataclass(frozen=True)
class Pixel:
    """One proxy pixel: code values in and out of the look, exact, and the CIEDE2000 between them."""

    x: int
    y: int
    source: tuple[float, float, float]
    step: tuple[float, float, float]
    result: tuple[float, float, float]
    difference: float


def pixel(look: Look, picture: Picture, x: float, y: float, before_step: int = 0) -> Pixel:
    """x, y: 0..1 across and down the picture."""
    values = proxy_in(picture, look.input)
    column, row = min(int(x * values.shape[1]), values.shape[1] - 1), min(int(y * values.shape[0]), values.shape[0] - 1)
    source = values[row, column].reshape(1, 3)
    result = evaluate(look, source)
    step = evaluate(look, source, before_step)
    lab = [
        linear_709_to_lab(to_linear_709(v.astype(np.float64), encoding(e)))
        for v, e in ((source, look.input), (result, look.output))
    ]
    return Pixel(column, row, _triple(source), _triple(step), _triple(result), float(ciede2000(*lab)[0]))


def _triple(values: np.ndarray) -> tuple[float, float, float]:
    red, green, blue = (float(part) for part in values.reshape(3))
    return red, green, blue


@dataclass(frozen=True)
class StepSketch:
    """One step in words and lines; `ramp` (RAMP, 3) 8-bit sRGB is an even grey ramp after this step alone, at its strength."""

    id: str
    title: str
    summary: str
    neutral: bool
    lines: dict[str, list[float]]
    ramp: list[tuple[int, int, int]]


RAMP = 33


def sketch(look: Look) -> list[StepSketch]:
    """Every step of the look, groups passed over, in order."""
    grey = np.repeat(np.linspace(0, 1, RAMP, dtype=np.float32)[:, None], 3, axis=1)
    found = []
    for step in walk(look.steps):
        if step.kind == "group":
            continue
        kind = step_kinds()[step.kind]
        alone = look.model_copy(update={"steps": (step.model_copy(update={"enabled": True}),), "strength": 1.0})
        ramp = to_codes(shown(evaluate(alone, grey), encoding(look.output)), np.uint8)
        codes = [(int(r), int(g), int(b)) for r, g, b in ramp]
        found.append(StepSketch(step.id, step.name or kind.title, kind.summary(step), kind.neutral(step), kind.lines(step), codes))
    return found


def thumbnail(codes: np.ndarray, width: int = 480) -> np.ndarray:
    """(h, w, 3) uint8 averaged down to `width`."""
    height = max(1, round(codes.shape[0] * width / codes.shape[1]))
    return np.asarray(Image.fromarray(codes).resize((width, height), Image.Resampling.BOX))
