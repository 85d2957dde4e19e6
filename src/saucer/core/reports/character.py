"""The character of a look or LUT: what it does to fixed display colours, in numbers to sort by and words to search by.

The thresholds of the words are common practice, no source; they stand in `WORDS` and in docs/character.md.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.difference import linear_709_to_lab
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.oklab import oklab_to_linear
from saucer.core.colour.rendering import View
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import Look
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut
from saucer.core.steps.registry import Luts, no_luts

GREYS, SKINS, HUES = 17, 15, 28
LIGHTNESSES = ((0.35, 0.05), (0.45, 0.09), (0.55, 0.05), (0.6, 0.12), (0.7, 0.06), (0.72, 0.14), (0.82, 0.05), (0.88, 0.08))
"""OKLab lightness and chroma of the eight rings of hues; chroma is held to what sRGB can show."""
PROBES = GREYS + SKINS + HUES * len(LIGHTNESSES)
WARM = np.array([0.2, 0.98])
"""Where daylight goes as it gets warmer, in CIELAB a* and b*, seen from D65."""
FAINT = 3.0
"""CIELAB chroma from which a tint of shadows or highlights has a name."""
TINTS = (
    (22, "red"),
    (60, "orange"),
    (105, "yellow"),
    (165, "green"),
    (225, "teal"),
    (290, "blue"),
    (325, "violet"),
    (345, "magenta"),
    (360, "red"),
)
"""CIELAB hue in degrees up to which a tint has this name."""  # fmt: skip


@dataclass(frozen=True)
class Character:
    """warmth, tint: how far grey moves along WARM and, across it, from green to magenta, CIELAB units
    lightness: of what was middle grey (L* 50), less 50; contrast: slope of L* from 31 to 69, 1 is unchanged
    colour: how far hues lie apart against before, 1 is unchanged, 0 is grey; black, white: L* of what was black and white
    shadow, highlight: L* of what was 12.5 and 87.5; skin: turn of its hue, degrees, positive towards yellow
    shadow_tint, highlight_tint: names, empty where there is none; strength: mean CIEDE2000 between before and after
    """

    warmth: float
    tint: float
    lightness: float
    contrast: float
    colour: float
    black: float
    white: float
    shadow: float
    highlight: float
    skin: float
    strength: float
    shadow_tint: str = ""
    highlight_tint: str = ""

    @property
    def words(self) -> tuple[str, ...]:
        """What people would call it, in the order of WORDS; then its tints."""
        found = [one.word for one in WORDS if one.fits(getattr(self, one.measure))]
        if "monochrome" in found:
            found = [word for word in found if not word.endswith("skin")]
        tints = (f"{name} {where}" for name, where in ((self.shadow_tint, "shadows"), (self.highlight_tint, "highlights")) if name)
        return (*found, *tints)


@dataclass(frozen=True)
class Word:
    """A word, and between which values of which measure it is used: above `low`, below `high`."""

    word: str
    measure: str
    low: float = -np.inf
    high: float = np.inf

    def fits(self, value: float) -> bool:
        return self.low < value < self.high


WORDS = (
    Word("cool", "warmth", high=-3),
    Word("warm", "warmth", low=3),
    Word("greenish", "tint", high=-3),
    Word("pinkish", "tint", low=3),
    Word("dark", "lightness", high=-6),
    Word("bright", "lightness", low=6),
    Word("soft", "contrast", high=0.88),
    Word("hard", "contrast", low=1.15),
    Word("monochrome", "colour", high=0.15),
    Word("muted", "colour", low=0.15, high=0.85),
    Word("rich", "colour", low=1.15),
    Word("faded", "black", low=6),
    Word("crushed", "shadow", high=4),
    Word("low whites", "white", high=94),
    Word("blown", "highlight", low=98),
    Word("rosy skin", "skin", high=-6),
    Word("golden skin", "skin", low=6),
    Word("slight", "strength", high=2),
)


@lru_cache(maxsize=1)
def probes() -> np.ndarray:
    """(PROBES, 3) float32 sRGB: a ramp of even steps of L*, skins from deep to fair, hues of several lightnesses and chromas."""
    lightness = np.linspace(0, 100, GREYS)
    luminance = np.where(lightness > 8, ((lightness + 16) / 116) ** 3, lightness / (24389 / 27))
    greys = np.repeat(luminance[:, None], 3, axis=1)
    skins = [(light, 0.085, hue) for light in (0.42, 0.52, 0.62, 0.72, 0.82) for hue in (42, 52, 62)]
    circle = [(light, chroma, 360 * step / HUES) for light, chroma in LIGHTNESSES for step in range(HUES)]
    colours = np.array([_shown(*one) for one in (*skins, *circle)])
    codes = convert(np.concatenate([greys, colours]).astype(np.float32), ENCODINGS["linear-709"], ENCODINGS["srgb"])
    found = np.ascontiguousarray(np.clip(codes, 0, 1), np.float32)
    found.flags.writeable = False
    return found


def _shown(lightness: float, chroma: float, hue: float) -> np.ndarray:
    """(3,) linear BT.709 of an OKLCh colour, of less chroma where a display could not show it."""
    angle = np.radians(hue)
    for share in np.linspace(1, 0, 41):
        linear = oklab_to_linear(np.array([lightness, share * chroma * np.cos(angle), share * chroma * np.sin(angle)]))
        if (linear >= 0).all() and (linear <= 1).all():
            return linear
    return linear


def see_look(look: Look, luts: Luts = no_luts) -> np.ndarray:
    """(PROBES, 3) float32 sRGB, held to 0..1: what the probes become through the exact look, spatial steps left out.

    Raises: SaucerError for a look that cannot be made ready
    """
    plan, srgb = prepare(look, luts), ENCODINGS["srgb"]
    through = evaluate(plan, np.ascontiguousarray(convert(probes(), srgb, plan.source, plan.view), np.float32))
    return _held(convert(np.asarray(through, np.float32), plan.end, srgb, plan.view))


def see_lut(lut: Lut, expects: Encoding, gives: Encoding, view: View) -> np.ndarray:
    """(PROBES, 3) float32 sRGB, held to 0..1: what the probes become through a LUT between these encodings."""
    srgb = ENCODINGS["srgb"]
    through = apply_lut(lut, np.ascontiguousarray(convert(probes(), srgb, expects, view), np.float32))
    return _held(convert(through, gives, srgb, view))


def _held(values: np.ndarray) -> np.ndarray:
    return np.ascontiguousarray(np.clip(np.nan_to_num(values), 0, 1), np.float32)


def measure(seen: np.ndarray) -> Character:
    """seen: (PROBES, 3) float32 sRGB, what the probes became"""
    before, after = _lab(probes()), _lab(seen)
    grey, skin, hues = slice(0, GREYS), slice(GREYS, GREYS + SKINS), slice(GREYS + SKINS, PROBES)
    ramp = after[grey]
    middle = ramp[3:15, 1:] - before[grey][3:15, 1:]
    slope = np.polyfit(before[grey][5:12, 0], ramp[5:12, 0], 1)[0]
    return Character(
        warmth=float((middle @ WARM).mean()), tint=float((middle @ np.array([WARM[1], -WARM[0]])).mean()),
        lightness=float(ramp[8, 0] - 50), contrast=float(slope), colour=_spread(after[hues]) / _spread(before[hues]),
        black=float(ramp[0, 0]), white=float(ramp[-1, 0]), shadow=float(ramp[2, 0]), highlight=float(ramp[14, 0]),
        skin=_turn(before[skin], after[skin]), strength=float(difference_of_light(light_of(probes()), light_of(seen)).mean()),
        shadow_tint=_tint(ramp[2:6]), highlight_tint=_tint(ramp[11:15]),
    )  # fmt: skip


def likeness(seen: np.ndarray, others: np.ndarray) -> np.ndarray:
    """(n,) mean CIEDE2000 between what one and n others make of the probes. seen: (PROBES, 3); others: (n, PROBES, 3) float32 sRGB"""
    one = np.broadcast_to(light_of(seen), others.shape)
    return difference_of_light(one, light_of(others)).reshape(len(others), -1).mean(axis=1)


def light_of(values: np.ndarray) -> np.ndarray:
    """sRGB code values as linear Rec.709, float32, of any shape (..., 3)."""
    return np.ascontiguousarray(
        convert(np.ascontiguousarray(values, np.float32), ENCODINGS["srgb"], ENCODINGS["linear-709"]), np.float32
    )


def _lab(values: np.ndarray) -> np.ndarray:
    return linear_709_to_lab(light_of(values).astype(np.float64))


def _turn(before: np.ndarray, after: np.ndarray) -> float:
    """Mean turn of hue in degrees; of what kept some colour."""
    coloured = np.hypot(after[:, 1], after[:, 2]) > FAINT
    if not coloured.any():
        return 0.0
    turned = np.degrees(np.arctan2(after[:, 2], after[:, 1]) - np.arctan2(before[:, 2], before[:, 1]))
    return float(((turned[coloured] + 180) % 360 - 180).mean())


def _spread(colours: np.ndarray) -> float:
    """How far the hues of a ring lie from its middle, so that a tint over all of them is not taken for colour."""
    rings = colours[:, 1:].reshape(len(LIGHTNESSES), HUES, 2)
    return float(np.linalg.norm(rings - rings.mean(axis=1, keepdims=True), axis=-1).mean())


def _tint(greys: np.ndarray) -> str:
    a, b = greys[:, 1:].mean(axis=0)
    if np.hypot(a, b) < FAINT:
        return ""
    hue = float(np.degrees(np.arctan2(b, a)) % 360)
    return next(name for up_to, name in TINTS if hue <= up_to)
