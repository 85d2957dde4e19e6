"""What each step of a look does to a picture, in words that are measured on it.

Which tones are shadows and from where a change is worth a word is common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.difference import linear_709_to_lab
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.rendering import View
from saucer.core.engine.plan import Plan
from saucer.core.reports.along import Passed, walk_along
from saucer.core.steps.registry import Frame, SpatialKind

BLACKS, WHITES = 2, 98
"""Percentiles of lightness that stand for black and white in a picture."""
SHADOWS, HIGHLIGHTS = 35.0, 70.0
"""CIELAB L* below which are shadows, and above which highlights."""
CODES = 3.0
"""Codes of 255 by which black, white or the middle must move."""
GREYISH = 12.0
"""CIELAB chroma below which a colour says by how much all of its range of tones is tinted."""
TINTED = 1.5
"""CIELAB units by which a range of tones must be tinted."""
COLOURED = 8.0
"""CIELAB chroma from which a colour has a hue that can turn."""
TURNED = 3.0
"""Degrees by which a hue must turn."""
FEW = 0.01
"""Share of a picture that a range of tones or of hues must have for a word about it."""
FAMILIES = (
    ("skin and oranges", 30, 75), ("yellows", 75, 110), ("greens", 110, 170), ("cyans", 170, 230), ("blues", 230, 300),
    ("magentas", 300, 350), ("reds", 350, 390),
)  # fmt: skip
"""CIELAB hues of families of colours, in degrees, as their names are used commonly."""
MOST = 3


@dataclass(frozen=True)
class Told:
    """id, path: of the step; words: what it does to this picture, the most telling first; empty where nothing is to be seen"""

    id: str
    path: str
    words: str


@dataclass(frozen=True)
class _Phrase:
    """weight: about how many times what is just worth a word"""

    weight: float
    words: str


def tell_steps(plan: Plan, pixels: np.ndarray, frame: Frame | None = None) -> list[Told]:
    """One for each step that acts on colours; what spreads over the picture is told by its settings.

    pixels: (h, w, 3) float32 code values of the plan's source: a picture, or a sample of one where no step is spatial
    """
    return [
        Told(passed.stage.step.id, passed.stage.path, _words(passed, plan.view))
        for passed in walk_along(plan, pixels, frame) if not isinstance(passed.stage.kind, SpatialKind)
    ]  # fmt: skip


def _words(passed: Passed, view: View) -> str:
    before, after = _seen(passed.before, passed.stage.before, view), _seen(passed.after, passed.stage.after, view)
    tints = [_tint(before[some], after[some]) for some in _ranges(before)]
    plain = after.copy()
    for some, tint in zip(_ranges(before), tints, strict=True):
        plain[some, 1:] -= tint
    found = sorted([*_of_tones(before, after), *_of_tints(tints), *_of_colours(before, plain)], key=lambda one: -one.weight)
    return ", ".join(one.words for one in found[:MOST])


def _seen(values: np.ndarray, encoding: Encoding, view: View) -> np.ndarray:
    """(n, 3) CIELAB of what is seen on a screen."""
    shown = np.clip(convert(values.reshape(-1, 3), encoding, ENCODINGS["srgb"], view), 0, 1)
    return linear_709_to_lab(convert(shown, ENCODINGS["srgb"], ENCODINGS["linear-709"]).astype(np.float64))


def _code(lightness: float) -> float:
    """L* of a grey to its sRGB code, 0..255."""
    y = ((lightness + 16) / 116) ** 3 if lightness > 8 else lightness / (24389 / 27)
    return float(ENCODINGS["srgb"].transfer.encode(np.array(y)) * 255)


def _of_tones(before: np.ndarray, after: np.ndarray) -> Iterator[_Phrase]:
    ends = [[_code(float(level)) for level in np.percentile(lab[:, 0], (BLACKS, 50, WHITES))] for lab in (before, after)]
    (black, middle, white), (to_black, to_middle, to_white) = ends
    if abs(to_black - black) >= CODES:
        yield _Phrase(abs(to_black - black) / CODES, f"{'lifts' if to_black > black else 'lowers'} blacks to {to_black:.0f}")
    if abs(to_white - white) >= CODES:
        yield _Phrase(abs(to_white - white) / CODES, f"{'raises' if to_white > white else 'lowers'} whites to {to_white:.0f}")
    if abs(to_middle - middle) >= CODES:
        way = "lighter" if to_middle > middle else "darker"
        yield _Phrase(abs(to_middle - middle) / CODES, f"middle {abs(to_middle - middle):.0f} {way}")
    spread, to_spread = (np.subtract(*np.percentile(lab[:, 0], (75, 25))) for lab in (before, after))
    if spread > 4 and abs(to_spread / spread - 1) >= 0.06:
        change = to_spread / spread - 1
        yield _Phrase(abs(change) / 0.06, f"{abs(change) * 100:.0f} % {'more' if change > 0 else 'less'} contrast")


def _ranges(before: np.ndarray) -> tuple[np.ndarray, ...]:
    """Which pixels are shadows, middle and highlights."""
    light = before[:, 0]
    return light < SHADOWS, (light >= SHADOWS) & (light <= HIGHLIGHTS), light > HIGHLIGHTS


def _tint(before: np.ndarray, after: np.ndarray) -> np.ndarray:
    """(2,) CIELAB a and b by which greys move, and with them all of a range of tones; nothing where there are too few."""
    greyish = np.hypot(before[:, 1], before[:, 2]) < GREYISH
    if greyish.sum() < max(FEW * len(before), 8):
        return np.zeros(2)
    return np.asarray(np.median(after[greyish, 1:] - before[greyish, 1:], axis=0))


def _of_tints(tints: list[np.ndarray]) -> Iterator[_Phrase]:
    """The three ranges by themselves, or together where all go the same way about as far."""
    said = [_tint_words(*tint) for tint in tints]
    by, ways = [one for one, _ in said], {way for _, way in said}
    if len(ways) == 1 and min(by) >= max(TINTED, 0.6 * max(by)):
        yield _Phrase(max(by) / TINTED, f"all {max(by):.0f} {ways.pop()}")
        return
    for name, (one, way) in zip(("shadows", "middle", "highlights"), said, strict=True):
        if one >= TINTED:
            yield _Phrase(one / TINTED, f"{name} {one:.0f} {way}")


def _tint_words(a: float, b: float) -> tuple[float, str]:
    if abs(b) >= abs(a):
        return abs(b), "warmer" if b > 0 else "cooler"
    return abs(a), "pinker" if a > 0 else "greener"


def _of_colours(before: np.ndarray, after: np.ndarray) -> Iterator[_Phrase]:
    """before, after: CIELAB, tints of whole ranges of tones taken off"""
    (chroma, hue), (to_chroma, to_hue) = (_polar(lab) for lab in (before, after))
    coloured = chroma >= COLOURED
    if coloured.mean() < FEW:
        return
    change = float(to_chroma[coloured].mean() / chroma[coloured].mean() - 1)
    if change < -0.97:
        yield _Phrase(20, "takes the colour away")
        return
    if abs(change) >= 0.08:
        yield _Phrase(abs(change) / 0.08, f"{abs(change) * 100:.0f} % {'more' if change > 0 else 'less'} colour")
    both = coloured & (to_chroma >= COLOURED / 2)
    for name, low, high in FAMILIES:
        some = both & (((hue >= low) & (hue < high)) | ((hue + 360 >= low) & (hue + 360 < high)))
        if some.mean() < FEW:
            continue
        turn = float(np.median((to_hue[some] - hue[some] + 180) % 360 - 180))
        if abs(turn) >= TURNED:
            yield _Phrase(abs(turn) / TURNED, f"{name} {abs(turn):.0f}\N{DEGREE SIGN} to {_towards(name, turn)}")


def _towards(name: str, turn: float) -> str:
    """The family that lies that way."""
    names = [family for family, _, _ in FAMILIES]
    after = names[(names.index(name) + (1 if turn > 0 else -1)) % len(names)]
    return {"skin and oranges": "orange"}.get(after, after.removesuffix("s"))


def _polar(lab: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    return np.hypot(lab[:, 1], lab[:, 2]), np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360
