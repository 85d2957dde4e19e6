"""Encodings against published anchor values and against the library colour-science."""

from __future__ import annotations

from functools import partial

import numpy as np
import pytest

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.transfer import log

colour = pytest.importorskip("colour", reason="development requirements are not installed")
X = np.linspace(0, 1, 1001)


M = colour.models
EXPOSURES = (160, 200, 250, 320, 400, 500, 640, 1000, 1280, 1600)
SPACES = {
    "s-log3": "S-Gamut3", "s-log3-cine": "S-Gamut3.Cine", "logc3-ei800": "Wide Gamut 3", "logc4": "Wide Gamut 4",
    "v-log": "V-Gamut", "log3g10": "WideGamutRGB", "f-log2": "F-Gamut", "display-p3": "Display P3", "p3-theatre": "DCI-P3",
    "rec2020": "ITU-R BT.2020", "hlg": "ITU-R BT.2020", "pq": "ITU-R BT.2020", "linear-2020": "ITU-R BT.2020",
    "aces2065-1": "ACES2065-1", "acescg": "ACEScg", "acescc": "ACEScc", "acescct": "ACEScct", "srgb": "sRGB",
    "rec709": "ITU-R BT.709", "rec709-camera": "ITU-R BT.709", "gamma22-709": "ITU-R BT.709", "linear-709": "ITU-R BT.709",
    "film-log": "ITU-R BT.709", "s-log2": "S-Gamut", "s-log": "S-Gamut", "c-log": "Cinema Gamut", "f-log2-c": "F-Gamut C", "c-log2": "Cinema Gamut", "c-log3": "Cinema Gamut", "d-log": "D-Gamut",
    "n-log": "ITU-R BT.2020", "f-log": "F-Gamut", "romm-rgb": "ROMM RGB", "dcdm": "DCDM XYZ", "p3-d65": "P3-D65", "pq-p3": "P3-D65",
    "hlg-p3": "P3-D65", "pq-1000": "ITU-R BT.2020", "pq-p3-1000": "P3-D65", "oprgb": "RGB (1998)", **{f"logc3-ei{index}": "Wide Gamut 3" for index in EXPOSURES},
}  # fmt: skip


def space(name: str):
    """The library puts a maker's name in front of some; the end of the name is what is published."""
    spaces = colour.RGB_COLOURSPACES
    return spaces[name] if name in spaces else next(one for full, one in spaces.items() if full.endswith((f" {name}", f"D{name}")))


def log_curve(name: str):
    decoding, encoding = (
        next(f for f in dir(M) if f.startswith(f"log_{way}_") and f.endswith(name)) for way in ("decoding", "encoding")
    )
    return getattr(M, decoding), getattr(M, encoding)


HLG_WHITE = (np.exp((0.75 - 0.55991073) / 0.17883277) + 0.28466892) / 12
# Decoding and encoding by the library; light is scaled to its 1.0 where ours is 1.0.
CURVES = {
    "srgb": (M.eotf_sRGB, M.eotf_inverse_sRGB),
    "rec709": (lambda x: M.eotf_BT1886(x, L_B=0, L_W=1), lambda x: M.eotf_inverse_BT1886(x, L_B=0, L_W=1)),
    "rec2020": (lambda x: M.eotf_BT1886(x, L_B=0, L_W=1), lambda x: M.eotf_inverse_BT1886(x, L_B=0, L_W=1)),
    "display-p3": (M.eotf_sRGB, M.eotf_inverse_sRGB),
    "gamma22-709": (lambda x: colour.gamma_function(x, 2.2), lambda x: colour.gamma_function(x, 1 / 2.2)),
    "p3-theatre": (lambda x: colour.gamma_function(x, 2.6), lambda x: colour.gamma_function(x, 1 / 2.6)),
    "pq": (lambda x: M.eotf_ST2084(x) / 203, lambda x: M.eotf_inverse_ST2084(x * 203)),
    "hlg": (lambda x: M.oetf_inverse_BT2100_HLG(x) / HLG_WHITE, lambda x: M.oetf_BT2100_HLG(x * HLG_WHITE)),
    "acescc": (M.log_decoding_ACEScc, M.log_encoding_ACEScc),
    "acescct": (M.log_decoding_ACEScct, M.log_encoding_ACEScct),
    "film-log": (M.log_decoding_Cineon, M.log_encoding_Cineon),
    "s-log3": (M.log_decoding_SLog3, M.log_encoding_SLog3),
    "s-log3-cine": (M.log_decoding_SLog3, M.log_encoding_SLog3),
    "logc3-ei800": log_curve("LogC3"),
    "logc4": log_curve("LogC4"),
    "v-log": (M.log_decoding_VLog, M.log_encoding_VLog),
    "log3g10": (M.log_decoding_Log3G10, M.log_encoding_Log3G10),
    "f-log2": (M.log_decoding_FLog2, M.log_encoding_FLog2),
    "f-log": (M.log_decoding_FLog, M.log_encoding_FLog),
    "s-log2": (M.log_decoding_SLog2, M.log_encoding_SLog2),
    "s-log": (M.log_decoding_SLog, M.log_encoding_SLog),
    "c-log": log_curve("nLog"),
    "f-log2-c": (M.log_decoding_FLog2, M.log_encoding_FLog2),
    "c-log2": log_curve("nLog2"),
    "c-log3": log_curve("nLog3"),
    "d-log": log_curve("IDLog"),
    "n-log": (M.log_decoding_NLog, M.log_encoding_NLog),
    "oprgb": (lambda x: x ** (563 / 256), lambda x: x ** (256 / 563)),
    "romm-rgb": (M.cctf_decoding_ROMMRGB, M.cctf_encoding_ROMMRGB),
    "p3-d65": (lambda x: colour.gamma_function(x, 2.6), lambda x: colour.gamma_function(x, 1 / 2.6)),
    "dcdm": (lambda x: M.eotf_DCDM(x) / 48, lambda x: M.eotf_inverse_DCDM(x * 48)),
    "pq-p3": (lambda x: M.eotf_ST2084(x) / 203, lambda x: M.eotf_inverse_ST2084(x * 203)),
    "hlg-p3": (lambda x: M.oetf_inverse_BT2100_HLG(x) / HLG_WHITE, lambda x: M.oetf_BT2100_HLG(x * HLG_WHITE)),
    **dict.fromkeys(("pq-1000", "pq-p3-1000"), (lambda x: M.eotf_ST2084(x) / 203, lambda x: M.eotf_inverse_ST2084(x * 203))),
    **{f"logc3-ei{index}": tuple(partial(one, EI=index) for one in log_curve("LogC3")) for index in EXPOSURES},
}
# The library works with constants as they are printed; these differ from the exact ones by up to so much.
PRINTED = {
    "rec709-camera": 3e-4,
    "logc4": 1e-7,
    "hlg": 1e-6,
    "f-log2": 1e-6,
    "f-log2-c": 1e-6,
    "logc3-ei800": 1e-5,
    "v-log": 1e-5,
    "d-log": 1e-6,
    "n-log": 1.4e-4,
}


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
        ("acescc", 0.18, 0.4135884, 5e-8, "S-2014-003: 18 % grey"),
        ("acescc", 1.0, 9.72 / 17.52, 1e-12, "S-2014-003, 4.4.1"),
        ("rec709-camera", 1.0, 1.0, 1e-9, "ITU-R BT.709-6, item 1.2"),
        ("rec709-camera", 0.18, 0.409, 5e-4, "ITU-R BT.709-6, item 1.2: 1.099 * 0.18**0.45 - 0.099"),
        ("gamma22-709", 0.18, 0.18 ** (1 / 2.2), 1e-9, "a pure power"),
        ("gamma22-709", 1.0, 1.0, 1e-9, "a pure power"),
        ("display-p3", 0.18, 0.4613561, 1e-6, "IEC 61966-2-1:1999, 5.2"),
        ("display-p3", 1.0, 1.0, 1e-7, "IEC 61966-2-1:1999"),
        ("p3-theatre", 0.18, 0.18 ** (1 / 2.6), 1e-9, "SMPTE RP 431-2: gamma 2.6"),
        ("p3-theatre", 1.0, 1.0, 1e-9, "SMPTE RP 431-2"),
        ("rec2020", 0.18, 0.18 ** (1 / 2.4), 1e-7, "ITU-R BT.1886, annex 1 with black 0"),
        ("rec2020", 1.0, 1.0, 1e-7, "ITU-R BT.1886"),
        ("pq", 1.0, 0.5807, 5e-5, "ITU-R BT.2408-7, 2.1: 203 cd/m2 is 58 % of PQ"),
        ("pq", 10000 / 203, 1.0, 1e-9, "SMPTE ST 2084: 10,000 cd/m2"),
        ("pq", 100 / 203, 0.508078, 1e-6, "SMPTE ST 2084: 100 cd/m2 is code 0.5081 (digits from memory)"),
        ("hlg", 1.0, 0.75, 1e-6, "ITU-R BT.2408-7, 2.1: reference white at 75 % of HLG"),
        ("hlg", 1 / 12 / HLG_WHITE, 0.5, 1e-6, "ITU-R BT.2100-3, table 5: the break"),
        ("s-log3", 0.18, 420 / 1023, 1e-7, "S-Log3 technical summary: 18 % grey at code 420 of 1023"),
        ("s-log3", 0.90, 598 / 1023, 5e-4, "S-Log3 technical summary: 90 % white at code 598"),
        ("s-log3", 0.0, 95 / 1023, 1e-7, "S-Log3 technical summary: black at code 95"),
        ("s-log3-cine", 0.18, 420 / 1023, 1e-7, "S-Log3 technical summary"),
        ("s-log3-cine", 0.90, 598 / 1023, 5e-4, "S-Log3 technical summary"),
        ("logc3-ei800", 0.18, 0.391, 5e-4, "LogC3 curve, usage in VFX: 18 % grey at 0.391 (400 of 1023)"),
        ("logc3-ei800", 0.0, 0.092809, 1e-6, "LogC3 curve, usage in VFX, table of parameters: f"),
        ("logc4", 0.18, 0.2784, 5e-5, "LogC4 specification: 18 % grey at 0.2784"),
        ("logc4", 0.0, 95 / 1023, 1e-7, "LogC4 specification: black at 95 of 1023"),
        ("logc4", 469.8, 1.0, 1e-5, "LogC4 specification: code 1 is light 469.8"),
        ("v-log", 0.18, 433 / 1023, 5e-4, "V-Log reference manual: 18 % grey at code 433 of 1023"),
        ("v-log", 0.90, 602 / 1023, 5e-4, "V-Log reference manual: 90 % white at code 602"),
        ("v-log", 0.0, 0.125, 1e-9, "V-Log reference manual: black at 128 of 1023"),
        ("log3g10", 0.18, 1 / 3, 1e-6, "Log3G10 white paper: 18 % grey at 1/3"),
        ("log3g10", 184.322, 1.0, 1e-6, "Log3G10 white paper: ten stops above grey is code 1"),
        ("f-log2", 0.18, 400 / 1023, 5e-4, "F-Log2 data sheet: 18 % grey at code 400 of 1023 (the code from memory)"),
        ("f-log2", 0.0, 95 / 1023, 5e-5, "F-Log2 data sheet: black at code 95 of 1023"),
    ],
)
def test_published_anchors(name, linear, code, tolerance, source):
    transfer = ENCODINGS[name].transfer
    assert float(transfer.encode(np.float64(linear))) == pytest.approx(code, abs=tolerance), source
    assert float(transfer.decode(np.float64(code))) == pytest.approx(linear, abs=max(2e-6, tolerance * 12), rel=20 * tolerance), (
        source
    )


def test_every_curve_that_is_not_linear_is_compared():
    curved = {name for name, encoding in ENCODINGS.items() if not encoding.linear}
    assert curved == {*CURVES, "rec709-camera"}


@pytest.mark.filterwarnings("ignore:invalid value encountered in log")  # the library computes both pieces of HLG everywhere
@pytest.mark.parametrize("name", CURVES)
def test_curves_agree_with_colour_science(name):
    decode, encode = CURVES[name]
    lit = np.geomspace(1e-4, 4, 1001)  # the library warns at exactly 0, which the anchors cover
    transfer, near = ENCODINGS[name].transfer, PRINTED.get(name, 1e-9)
    codes = X[1:]
    np.testing.assert_allclose(transfer.decode(codes), decode(codes), rtol=max(50 * near, 1e-7), atol=max(10 * near, 1e-9))
    np.testing.assert_allclose(transfer.encode(lit), encode(lit), rtol=1e-7, atol=max(near, 1e-7))


def test_the_camera_curve_of_bt709_agrees_but_for_the_rounding_of_its_printed_constants():
    """BT.709-6 prints 1.099 and 0.018, with which the two pieces miss each other; BT.2020-2 gives the exact ones, which we use."""
    transfer = ENCODINGS["rec709-camera"].transfer
    np.testing.assert_allclose(transfer.encode(X), M.oetf_BT709(X), atol=3e-4)
    np.testing.assert_allclose(transfer.encode(X), M.oetf_BT2020(X, is_12_bits_system=True), atol=3e-5)


@pytest.mark.parametrize("name", SPACES)
def test_primaries_and_white_are_those_of_colour_science(name):
    theirs, ours = space(SPACES[name]), ENCODINGS[name].primaries
    np.testing.assert_allclose([ours.red, ours.green, ours.blue], theirs.primaries, atol=1e-9)
    np.testing.assert_allclose(ours.white, theirs.whitepoint, atol=1e-9)


@pytest.mark.parametrize("source", ["srgb", "display-p3", "p3-theatre", "s-log3", "log3g10", "aces2065-1"])
@pytest.mark.parametrize("target", ["acescct", "rec2020", "logc4"])
def test_conversions_with_adaptation_agree_with_colour_science(source, target):
    spaces = [space(SPACES[name]).copy() for name in (source, target)]
    for one in spaces:
        one.use_derived_transformation_matrices(True)  # not the rounded ones that some standards print
    matrix = colour.matrix_RGB_to_RGB(*spaces, "Bradford")
    code = 0.2 + 0.5 * np.random.default_rng(2).random((200, 3))
    expected = ENCODINGS[target].transfer.encode(ENCODINGS[source].transfer.decode(code) @ matrix.T)
    np.testing.assert_allclose(convert(code, ENCODINGS[source], ENCODINGS[target]), expected, atol=2e-6)


def test_acescct_from_srgb_with_adaptation_agrees_with_colour_science():
    rgb = np.random.default_rng(2).random((200, 3))
    linear = colour.models.eotf_sRGB(rgb)
    spaces = colour.RGB_COLOURSPACES["sRGB"], colour.RGB_COLOURSPACES["ACEScg"]
    matrix = colour.matrix_RGB_to_RGB(*[space.copy() for space in spaces], "Bradford")
    expected = colour.models.log_encoding_ACEScct(linear @ matrix.T)
    # The library rounds the sRGB matrices to four decimals as IEC 61966-2-1 prints them; ours follow from the primaries.
    np.testing.assert_allclose(convert(rgb, ENCODINGS["srgb"], ENCODINGS["acescct"]), expected, atol=2e-4)


@pytest.mark.parametrize("index", EXPOSURES)
def test_logc3_of_any_exposure_index_is_the_published_one_at_those(index):
    """Within the digits that are printed; between two of them, grey stays at code 0.391 (LogC3 curve, usage in VFX, 2012)."""
    light = np.concatenate([np.linspace(-0.01, 0.02, 200), np.geomspace(0.001, 30, 200)])
    transfer = log.logc3(index)
    codes = transfer.encode(light)
    np.testing.assert_allclose(codes, ENCODINGS[f"logc3-ei{index}"].transfer.encode(light), atol=3e-6)
    np.testing.assert_allclose(transfer.decode(codes), light, atol=1e-6, rtol=1e-5)
    assert float(log.logc3(index * 0.97 + 20).encode(np.array(0.18))) == pytest.approx(0.391, abs=1e-4)
