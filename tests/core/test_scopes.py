"""Waveform, parade and vectorscope, counted from floats."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.pictures.scopes import histogram, outside, parade, vectorscope, waveform
from tests.make import random_pixels

SRGB = ENCODINGS["srgb"]


def test_every_pixel_is_counted_once_everywhere():
    x = random_pixels(40, 60) * 1.5 - 0.25
    assert waveform(x, SRGB, 32, 64).sum() == 2400
    assert (parade(x, 32, 64).sum(axis=(1, 2)) == 2400).all()
    assert vectorscope(x, SRGB, 64).sum() == 2400


@pytest.mark.parametrize("bins", [256, 37])
def test_histograms_and_ends_are_those_of_numpy(bins):
    x = random_pixels(300, 400) * 1.5 - 0.25
    x[0, 0] = (np.inf, -np.inf, 1)
    flat = x.reshape(-1, 3)
    counts = histogram(x, SRGB, bins)
    for channel in range(3):
        assert np.array_equal(counts[channel], np.histogram(np.clip(flat[:, channel], 0, 1), bins, (0, 1))[0])
    luma = np.clip(flat[1:] @ SRGB.luma, 0, 1)
    assert np.abs(counts[3] - np.histogram(luma, bins, (0, 1))[0]).sum() <= 4, "a rounding, and the pixel that has no luma"
    assert outside(x) == ((flat < 0.5 / 65535).any(axis=1).mean(), (flat > 1 - 0.5 / 65535).any(axis=1).mean())


def test_a_ramp_is_a_diagonal_from_bottom_left_to_top_right():
    ramp = np.repeat(np.linspace(0, 0.999, 64, dtype=np.float32)[None, :, None], 3, axis=2).repeat(10, axis=0)
    counts = waveform(ramp, SRGB, 64, 64)
    assert np.array_equal(np.argmax(counts, axis=0), 63 - np.arange(64))
    assert np.array_equal(parade(ramp, 64, 64)[2], counts)


def test_clipped_values_stand_at_the_edges():
    x = np.float32([[[-1, -1, -1], [3, 3, 3]]])
    counts = waveform(x, SRGB, 2, 16)
    assert counts[15, 0] == 1
    assert counts[0, 1] == 1


def test_narrow_pictures_fill_as_many_columns_as_they_have():
    assert (waveform(random_pixels(8, 5), SRGB, 512, 16).sum(axis=0) > 0).sum() == 5


def test_the_vectorscope_places_grey_in_the_middle_and_primaries_where_bt709_has_them():
    """ITU-R BT.709-6, item 3.3: for pure red Cb = -0.1146 and Cr = 0.5; for pure blue Cb = 0.5 and Cr = -0.0458."""
    for rgb, cb, cr in (
        ((0.5, 0.5, 0.5), 0, 0),
        ((1, 0, 0), -0.1146, 0.5),
        ((0, 0, 1), 0.5, -0.0458),
        ((0, 1, 0), -0.3854, -0.4542),
    ):
        counts = vectorscope(np.float32([[rgb]]), SRGB, 201)
        row, column = np.argwhere(counts)[0]
        assert (column / 201 - 0.5, 0.5 - row / 201) == pytest.approx((cb, cr), abs=0.008)
