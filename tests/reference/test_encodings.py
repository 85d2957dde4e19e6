"""Encodings against published anchor values and against the library colour-science."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS

colour = pytest.importorskip("colour", reason="development requirements are not installed")
X = np.linspace(0, 1, 1001)


@pytest.mark.parametrize(
    ("name", "linear", "code", "tolerance", "source"),
    [
        ("srgb", 0.18, 0.4613561, 1e-6, "IEC 61966-2-1:1999, 5.2: 1.055 * 0.18**(1/2.4) - 0.055"),
        ("srgb", 1.0, 1.0, 1e-7, "IEC 61966-2-1:1999"),
        ("srgb", 0.0031308, 0.04045, 2e-6, "IEC 61966-2-1:1999, the break"),
        ("rec709", 0.18, 0.18 ** (1 / 2.4), 1e-7, "ITU-R BT.1886, annex 1 with black 0"),
        ("rec709", 1.0, 1.0, 1e-7, "ITU-R BT.1886"),
        ("film-log", 1.0, 685 / 1023, 1e-7, "Cineon: 90 % white at code 685 of 1023"),
        ("film-log", 0.0, 95 / 1023, 1e-7, "Cineon: black at code 95 of 1023"),
        ("film-log", 0.18, 0.457319613085418, 1e-9, "colour-science 0.4.7, documentation of log_encoding_Cineon"),
        ("acescct", 0.18, 0.4135884, 5e-8, "S-2016-001: 18 % grey"),
        ("acescct", 0.0, 0.0729055341958355, 1e-12, "S-2016-001, 4.4.1"),
        ("acescct", 0.0078125, 0.155251141552511, 1e-12, "S-2016-001, 4.4.1, the break"),
    ],
)
def test_published_anchors(name, linear, code, tolerance, source):
    transfer = ENCODINGS[name].transfer
    assert float(transfer.encode(np.float64(linear))) == pytest.approx(code, abs=tolerance), source
    assert float(transfer.decode(np.float64(code))) == pytest.approx(linear, abs=max(2e-6, tolerance * 10)), source


@pytest.mark.parametrize(
    ("name", "decode"),
    [
        ("srgb", lambda x: colour.models.eotf_sRGB(x)),
        ("rec709", lambda x: colour.models.eotf_BT1886(x, L_B=0, L_W=1)),
        ("film-log", lambda x: colour.models.log_decoding_Cineon(x)),
        ("acescct", lambda x: colour.models.log_decoding_ACEScct(x)),
    ],
)
def test_decoding_agrees_with_colour_science(name, decode):
    np.testing.assert_allclose(ENCODINGS[name].transfer.decode(X), decode(X), rtol=1e-9, atol=1e-9)


@pytest.mark.parametrize(
    ("name", "encode"),
    [
        ("srgb", lambda x: colour.models.eotf_inverse_sRGB(x)),
        ("film-log", lambda x: colour.models.log_encoding_Cineon(x)),
        ("acescct", lambda x: colour.models.log_encoding_ACEScct(x)),
    ],
)
def test_encoding_agrees_with_colour_science(name, encode):
    lit = X[1:]  # the library warns at exactly 0, which the anchors above cover
    np.testing.assert_allclose(ENCODINGS[name].transfer.encode(lit), encode(lit), rtol=1e-9, atol=1e-7)


def test_acescct_from_srgb_with_adaptation_agrees_with_colour_science():
    rgb = np.random.default_rng(2).random((200, 3))
    linear = colour.models.eotf_sRGB(rgb)
    spaces = colour.RGB_COLOURSPACES["sRGB"], colour.RGB_COLOURSPACES["ACEScg"]
    matrix = colour.matrix_RGB_to_RGB(*[space.copy() for space in spaces], "Bradford")
    expected = colour.models.log_encoding_ACEScct(linear @ matrix.T)
    # The library rounds the sRGB matrices to four decimals as IEC 61966-2-1 prints them; ours follow from the primaries.
    np.testing.assert_allclose(convert(rgb, ENCODINGS["srgb"], ENCODINGS["acescct"]), expected, atol=2e-4)
