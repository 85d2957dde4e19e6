"""Where on a picture a look does harm, pixel by pixel: counted by whoever asks how much, shown by whoever asks where."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from saucer.core.colour.encodings import ENCODINGS

SRGB = ENCODINGS["srgb"]
EDGE = 0.5 / 255
"""Code values by which a channel must keep from 0 and 1, to be neither crushed nor clipped: half a code of 8 bit."""


class Merged(NamedTuple):
    """share: of the tones that many pixels have, 0..1; where: (h, w) bool, the pixels whose tone is no longer told from another"""

    share: float
    where: np.ndarray


def mark_clipped(before: np.ndarray, after: np.ndarray) -> np.ndarray:
    """(h, w) bool: a channel at white that was not there before. before, after: (h, w, 3) sRGB code values, not clipped"""
    return np.asarray(((after >= 1 - EDGE) & ~(before >= 1 - EDGE)).any(axis=-1))


def mark_crushed(before: np.ndarray, after: np.ndarray) -> np.ndarray:
    """(h, w) bool: a channel at black that was not there before"""
    return np.asarray(((after <= EDGE) & ~(before <= EDGE)).any(axis=-1))


def mark_merged(before: np.ndarray, after: np.ndarray) -> Merged:
    """Of the tones of luma that many pixels have, which fall together: each tone's mean result, in codes of 8 bit, told apart or not."""
    tones = np.round((np.clip(before, 0, 1) @ SRGB.luma) * 255).astype(int)
    counts = np.bincount(tones.ravel(), minlength=256)
    held = np.flatnonzero(counts >= max(1, tones.size // 4096))
    if len(held) < 2:
        return Merged(0.0, np.zeros(tones.shape, bool))
    sums = np.bincount(tones.ravel(), (np.clip(after, 0, 1) @ SRGB.luma).ravel(), minlength=256)
    _, which, alike = np.unique(np.round(sums[held] / counts[held] * 255), return_inverse=True, return_counts=True)
    fallen = np.zeros(256, bool)
    fallen[held] = alike[which] > 1
    return Merged(1 - len(alike) / len(held), fallen[tones])
