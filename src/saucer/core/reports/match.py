"""One picture brought to another: exposure and white, from robust averages and near-greys, with how far the proposal is to be trusted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.errors import LookError
from saucer.core.steps.pixel.white_balance import from_neutral

GREY = 0.045
"""OKLab chroma below which a pixel may be of something grey; common practice, no source."""
TONES = (0.25, 0.92)
"""OKLab lightness within which it is looked at: neither noise nor near white."""
TRIMMED = 0.1
"""Share of the darkest and of the brightest pixels that take no part in an average."""
ENOUGH = 0.03
"""Share of near-greys in both pictures at which white is fully trusted."""
MOST_STOPS = 4.0
ROUNDS = 6


@dataclass(frozen=True)
class Proposal:
    """exposure: stops; warm, tint: of a white balance, mired and Duv; confidence: of exposure and of white, 0..1; words: why"""

    exposure: float
    warm: float
    tint: float
    exposure_confidence: float
    white_confidence: float
    words: str


@dataclass(frozen=True)
class Seen:
    """What is read off a picture. light: trimmed mean of log2 luminance; spread: its deviation; grey: mean linear RGB of near-greys

    greys: share of the pixels that are near-greys, 0..1
    """

    light: float
    spread: float
    grey: tuple[float, float, float]
    greys: float


def see(values: np.ndarray, encoding: Encoding) -> Seen:
    """values: (..., 3) float32 code values of a picture's proxy"""
    linear = to_linear_709(values.reshape(-1, 3).astype(np.float64), encoding)
    luminance = np.maximum(linear @ ENCODINGS["linear-709"].luma, 1e-5)
    logs = np.sort(np.log2(luminance))
    cut = int(len(logs) * TRIMMED)
    kept = logs[cut : len(logs) - cut] if len(logs) > 2 * cut else logs
    # Greys are looked for at a common exposure: chroma in OKLab grows with lightness.
    level = linear * (0.18 / 2.0 ** float(kept.mean()))
    grey, near = _find_greys(np.maximum(level, 0))
    return Seen(float(kept.mean()), float(kept.std()), (float(grey[0]), float(grey[1]), float(grey[2])), float(near.mean()))


def _find_greys(level: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Mean of the near-greys, and which pixels they are. A cast hides some:
    what is found is balanced, and they are looked for again."""
    gains = np.ones(3)
    near = np.zeros(len(level), bool)
    for _ in range(ROUNDS):
        lab = linear_to_oklab(level * gains)
        near = (np.hypot(lab[:, 1], lab[:, 2]) < GREY) & (lab[:, 0] > TONES[0]) & (lab[:, 0] < TONES[1])
        if not near.any():
            return level.mean(axis=0), near
        mean = np.maximum(level[near].mean(axis=0), 1e-6)
        gains = mean[1] / mean
    return level[near].mean(axis=0), near


def match(own: Seen, other: Seen, encoding: Encoding) -> Proposal:
    """What brings a picture, whose steps work in `encoding`, to another one."""
    stops = float(np.clip(other.light - own.light, -MOST_STOPS, MOST_STOPS))
    alike = float(np.exp(-abs(own.spread - other.spread)))
    trusted = min(1.0, min(own.greys, other.greys) / ENOUGH)
    warm = tint = 0.0
    why = f"near-greys are {own.greys * 100:.0f} % of this picture and {other.greys * 100:.0f} % of the other"
    try:
        pairs = [from_neutral(_codes(one.grey, encoding), encoding) for one in (own, other)]
        warm, tint = pairs[0][0] - pairs[1][0], pairs[0][1] - pairs[1][1]
    except LookError as error:
        trusted, why = 0.0, f"no white could be read: {error.problem}"
    shown = f"tones spread over {own.spread:.1f} stops here and {other.spread:.1f} there; {why}"
    return Proposal(round(stops, 2), round(warm, 1), round(tint, 5), round(alike, 2), round(trusted, 2), shown)


def _codes(grey: tuple[float, float, float], encoding: Encoding) -> tuple[float, float, float]:
    light = np.maximum(np.array([grey]), 1e-4)
    red, green, blue = (float(value) for value in convert(light, ENCODINGS["linear-709"], encoding)[0])
    return red, green, blue
