"""CIEDE2000, CIELAB and OKLab against published data and colour-science."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.difference import ciede2000, linear_709_to_lab, xyz_to_lab
from saucer.core.colour.oklab import linear_to_oklab, oklab_to_linear
from saucer.core.colour.primaries import D65, xyz_of_white

# Sharma, Wu, Dalal, "The CIEDE2000 color-difference formula: implementation notes, supplementary test data, and mathematical
# observations", Color Res. Appl. 30 (2005), table 1: L1 a1 b1 L2 a2 b2 dE00, all 34 pairs.
SHARMA = np.array(
    """
    50 2.6772 -79.7751 50 0 -82.7485 2.0425
    50 3.1571 -77.2803 50 0 -82.7485 2.8615
    50 2.8361 -74.0200 50 0 -82.7485 3.4412
    50 -1.3802 -84.2814 50 0 -82.7485 1.0000
    50 -1.1848 -84.8006 50 0 -82.7485 1.0000
    50 -0.9009 -85.5211 50 0 -82.7485 1.0000
    50 0 0 50 -1 2 2.3669
    50 -1 2 50 0 0 2.3669
    50 2.4900 -0.0010 50 -2.4900 0.0009 7.1792
    50 2.4900 -0.0010 50 -2.4900 0.0010 7.1792
    50 2.4900 -0.0010 50 -2.4900 0.0011 7.2195
    50 2.4900 -0.0010 50 -2.4900 0.0012 7.2195
    50 -0.0010 2.4900 50 0.0009 -2.4900 4.8045
    50 -0.0010 2.4900 50 0.0010 -2.4900 4.8045
    50 -0.0010 2.4900 50 0.0011 -2.4900 4.7461
    50 2.5 0 50 0 -2.5 4.3065
    50 2.5 0 73 25 -18 27.1492
    50 2.5 0 61 -5 29 22.8977
    50 2.5 0 56 -27 -3 31.9030
    50 2.5 0 58 24 15 19.4535
    50 2.5 0 50 3.1736 0.5854 1.0000
    50 2.5 0 50 3.2972 0 1.0000
    50 2.5 0 50 1.8634 0.5757 1.0000
    50 2.5 0 50 3.2592 0.3350 1.0000
    60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
    63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.2630
    61.2901 3.7196 -5.3901 61.4292 2.2480 -4.9620 1.8731
    35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
    22.7233 20.0904 -46.6940 23.0331 14.9730 -42.5619 2.0373
    36.4612 47.8580 18.3852 36.2715 50.5065 21.2231 1.4146
    90.8027 -2.0831 1.4410 91.1528 -1.6435 0.0447 1.4441
    90.9257 -0.5406 -0.9208 88.6381 -0.8985 -0.7239 1.5381
    6.7747 -0.2908 -2.4247 5.8714 -0.0985 -2.2286 0.6377
    2.0776 0.0795 -1.1350 0.9033 -0.0636 -0.5514 0.9082
    """.split(),
    float,
).reshape(34, 7)


def test_the_34_published_pairs():
    np.testing.assert_allclose(ciede2000(SHARMA[:, :3], SHARMA[:, 3:6]), SHARMA[:, 6], atol=5e-5)
    np.testing.assert_allclose(ciede2000(SHARMA[:, 3:6], SHARMA[:, :3]), SHARMA[:, 6], atol=5e-5)


def test_ciede2000_agrees_with_colour_science():
    colour = pytest.importorskip("colour", reason="development requirements are not installed")
    rng = np.random.default_rng(3)
    one, other = (rng.uniform((0, -90, -90), (100, 90, 90), (2000, 3)) for _ in range(2))
    np.testing.assert_allclose(ciede2000(one, other), colour.difference.delta_E_CIE2000(one, other), atol=1e-9)


def test_lab_agrees_with_colour_science():
    colour = pytest.importorskip("colour", reason="development requirements are not installed")
    xyz = np.random.default_rng(4).random((500, 3))
    np.testing.assert_allclose(xyz_to_lab(xyz, xyz_of_white(D65)), colour.XYZ_to_Lab(xyz, illuminant=np.array(D65)), atol=1e-9)


def test_lab_of_white_and_mid_grey():
    """CIE 15:2018: L* of Y = 1 is 100; L* of Y = 0.184187 is 50 (((50 + 16) / 116)**3)."""
    lab = linear_709_to_lab(np.array([[1.0, 1, 1], [((50 + 16) / 116) ** 3] * 3]))
    np.testing.assert_allclose(lab, [[100, 0, 0], [50, 0, 0]], atol=1e-9)


# Ottosson 2020, "A perceptual color space for image processing", table of XYZ and Lab pairs (three decimals).
@pytest.mark.parametrize(
    ("xyz", "lab"),
    [((0.950, 1.000, 1.089), (1.000, 0.000, 0.000)), ((1.000, 0.000, 0.000), (0.450, 1.236, -0.019)), ((0.000, 1.000, 0.000), (0.922, -0.671, 0.263)), ((0.000, 0.000, 1.000), (0.153, -1.415, -0.449))],
)
def test_oklab_of_the_published_pairs(xyz, lab):
    from saucer.core.colour.primaries import BT709, rgb_to_xyz

    linear = np.linalg.inv(rgb_to_xyz(BT709)) @ np.array(xyz)
    np.testing.assert_allclose(linear_to_oklab(linear), lab, atol=2e-3)
    np.testing.assert_allclose(oklab_to_linear(linear_to_oklab(linear)), linear, atol=1e-6)
