"""The fingerprint: a disc of known colours passed through a look or LUT, by which it is recognised."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.oklab import oklab_to_linear
from saucer.core.colour.rendering import View
from saucer.core.engine.evaluate import evaluate, show_on_srgb
from saucer.core.engine.plan import prepare
from saucer.core.look.model import Look
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut
from saucer.core.steps.registry import Luts, no_luts

LIGHTNESS, CHROMA = 0.72, 0.125
INNER, OUTER = 0.80, 0.84
SUPERSAMPLING = 3


@lru_cache(maxsize=8)
def plain_disc(size: int) -> tuple[np.ndarray, np.ndarray]:
    """The disc before any look: sRGB (size, size, 3) float32 and coverage (size, size) 0 clear .. 1 solid."""
    y, x = (np.mgrid[0:size, 0:size] + 0.5) / size * 2 - 1
    radius, angle = np.hypot(x, y), np.arctan2(-y, x)
    chroma = np.clip(radius / INNER, 0, 1) * CHROMA
    lab = np.stack([np.full_like(chroma, LIGHTNESS), chroma * np.cos(angle), chroma * np.sin(angle)], -1)
    hues = convert(oklab_to_linear(lab), ENCODINGS["linear-709"], ENCODINGS["srgb"])
    grey = (np.pi / 2 - angle) % (2 * np.pi) / (2 * np.pi)  # clockwise from the top
    colour = np.where((radius >= OUTER)[..., None], grey[..., None], hues)
    return colour.astype(np.float32), ((radius <= INNER) | ((radius >= OUTER) & (radius <= 1))).astype(np.float32)


def _average(colours: np.ndarray, coverage: np.ndarray, size: int) -> np.ndarray:
    """Average down, colours weighted by coverage, to (size, size, 4) uint8."""
    factor = SUPERSAMPLING
    solid = coverage.reshape(size, factor, size, factor)
    share = solid.mean(axis=(1, 3))
    summed = (np.clip(colours, 0, 1) * coverage[..., None]).reshape(size, factor, size, factor, 3).mean(axis=(1, 3))
    colour = summed / np.maximum(share, 1e-6)[..., None]
    return (np.concatenate([colour, share[..., None]], -1) * 255 + 0.5).astype(np.uint8)


def draw_look(look: Look, size: int, luts: Luts = no_luts) -> np.ndarray:
    """(size, size, 4) uint8 sRGB with alpha: the disc through the exact look, spatial steps left out."""
    colours, coverage = plain_disc(size * SUPERSAMPLING)
    plan = prepare(look, luts)
    through = show_on_srgb(evaluate(plan, convert(colours, ENCODINGS["srgb"], plan.source, plan.view)), plan.end, plan.view)
    return _average(through, coverage, size)


def draw_lut(lut: Lut, expects: Encoding, gives: Encoding, size: int, view: View) -> np.ndarray:
    """(size, size, 4) uint8: the disc through a LUT that expects and gives these encodings."""
    colours, coverage = plain_disc(size * SUPERSAMPLING)
    expected = convert(colours, ENCODINGS["srgb"], expects, view)
    through = show_on_srgb(apply_lut(lut, expected), gives, view)
    return _average(through, coverage, size)
