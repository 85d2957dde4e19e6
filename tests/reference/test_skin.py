"""Skin colours and how far they turn, against colour-science's OKLab."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.skin import CHROMAS, HUES, LIGHTNESSES, is_skin, skin_shift, turns

colour = pytest.importorskip("colour", reason="development requirements are not installed")
SRGB = ENCODINGS["srgb"]


def from_lch(lightness, chroma, hue) -> np.ndarray:
    """sRGB code values of OKLCh colours, by colour-science (Ottosson 2020)."""
    turn = np.radians(hue)
    lab = np.stack(np.broadcast_arrays(lightness, chroma * np.cos(turn), chroma * np.sin(turn)), axis=-1)
    return colour.XYZ_to_sRGB(colour.Oklab_to_XYZ(lab)).astype(np.float32)


def test_the_range_of_skin_is_what_is_declared():
    low, high = HUES
    hues = np.array([low - 1.5, low + 1.5, (low + high) / 2, high - 1.5, high + 1.5])
    assert is_skin(from_lch(0.65, 0.08, hues), SRGB).tolist() == [False, True, True, True, False]
    chromas = np.array([CHROMAS[0] - 0.005, CHROMAS[0] + 0.005, CHROMAS[1] - 0.005, CHROMAS[1] + 0.01])
    assert is_skin(from_lch(0.65, chromas, 55.0), SRGB).tolist() == [False, True, True, False]
    lights = np.array([LIGHTNESSES[0] - 0.02, LIGHTNESSES[0] + 0.02, LIGHTNESSES[1] - 0.02])
    assert is_skin(from_lch(lights, 0.04, 55.0), SRGB).tolist() == [False, True, True]


@pytest.mark.parametrize("turn", [-30.0, -4.0, 0.0, 9.0, 170.0])
def test_a_turn_of_hue_is_measured_in_degrees_either_way_round(turn):
    hues = np.arange(5, 360, 30.0)
    before, after = from_lch(0.6, 0.09, hues), from_lch(0.6, 0.09, hues + turn)
    # Bradford is not used by either; 0.3 degrees is what colour-science's rounded matrices differ by.
    assert np.abs(turns(before, SRGB, after, SRGB) - turn).max() < 0.3
    found = skin_shift(before[1:3], SRGB, after[1:3], SRGB, 6)
    assert found.shift == pytest.approx(turn, abs=0.3)
    assert found.beyond == (1.0 if abs(turn) > 6 else 0.0)
    assert found.share == 1.0


def test_grey_has_no_hue_to_turn():
    grey = np.full((4, 3), 0.5, np.float32)
    assert turns(grey, SRGB, from_lch(0.6, 0.1, np.array([0.0, 90, 180, 270])), SRGB).tolist() == [0, 0, 0, 0]
    assert skin_shift(grey, SRGB, grey, SRGB, 6) == skin_shift(grey[:0], SRGB, grey[:0], SRGB, 6)
