"""White balance against colour-science's adaptation between black bodies."""

from __future__ import annotations

import warnings

import numpy as np
import pytest

from saucer.core.colour import planckian
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.primaries import rgb_to_xyz, xyz_of
from saucer.core.pictures.io import read_picture, read_rows
from saucer.core.steps.pixel import white_balance
from tests.raw import MATRIX, write_dng

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # it says that it would draw, had it something to draw with
    colour = pytest.importorskip("colour", reason="development requirements are not installed")


@pytest.mark.parametrize("warm", [-60, -20, 20, 60])
def test_a_white_balance_is_an_adaptation_to_the_white_so_many_mired_away(warm):
    """Within what it leaves out so that its opposite undoes it: a second-order share. By colour-science's CAT16 between two black bodies.

    Source: Li et al., "Comprehensive color solutions", 2017; CIE 015:2018, 9.5 (uv of a black body, as colour-science computes it)
    """
    encoding = ENCODINGS["linear-709"]
    mired, duv = planckian.place_of(xyz_of(encoding.primaries.white))
    own, wanted = (planckian.white_at(one, duv) for one in (mired, mired + warm))
    theirs = colour.adaptation.matrix_chromatic_adaptation_VonKries(own, wanted, "CAT16")
    to_xyz = rgb_to_xyz(encoding.primaries)
    grey = np.linalg.inv(to_xyz) @ theirs @ to_xyz @ np.ones(3)
    ours = white_balance.matrix(encoding, float(warm), 0.0, "cat16") @ np.ones(3)
    # Both from warm to cool and from cool to warm; half a percent of the change at 20 mired, a few at 60.
    assert np.abs(ours / ours[1] - grey / grey[1]).max() < 0.25 * np.abs(grey / grey[1] - 1).max() * abs(warm) / 60


@pytest.mark.parametrize("kelvin", [2856, 5000, 12_000])
def test_a_raw_photograph_is_balanced_to_a_chosen_white(tmp_path, kelvin):
    """A grey as a made-up camera sees it under a black body, whose colour is colour-science's, is grey under that white and no other.

    Source: Planck's law with the CIE 1931 observer (CIE 015:2018, 7.2); Digital Negative specification 1.6 for what the matrix means
    """
    observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]
    light = observer.values.T @ colour.sd_blackbody(kelvin, observer.shape).values
    seen = np.array(MATRIX) @ (light / light[1])
    path = write_dng(tmp_path / "lamp.dng", np.full((64, 96, 3), seen / seen.max() * 0.3))
    grey = read_picture(path, white=kelvin).pixels[10, 40]
    assert grey == pytest.approx([grey[1]] * 3, rel=2e-3)
    warm = read_picture(path, white=round(kelvin * 1.3)).pixels[10, 40]
    assert warm[0] / warm[2] > 1.05, "taken for cooler light"
    assert np.array_equal(read_rows(path, 8, 12, white=kelvin)[0], read_picture(path, white=kelvin).pixels[8:12])
