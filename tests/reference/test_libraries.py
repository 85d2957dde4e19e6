"""Steps and parts of steps against OpenColorIO, colour-science and SciPy."""

from __future__ import annotations

import numpy as np
import PyOpenColorIO as ocio
import pytest
from pydantic import ValidationError
from scipy.interpolate import make_interp_spline
from scipy.ndimage import gaussian_filter

from saucer.core.colour.adaptation import CONES, adaptation
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab, oklab_to_linear
from saucer.core.colour.own import OwnEncoding, encoding_of
from saucer.core.colour.planckian import locus_uv, place_of, white_at
from saucer.core.colour.primaries import D65, xyz_of
from saucer.core.numeric.blur import blur, blur_reach
from saucer.core.numeric.planes import through
from saucer.core.steps.kinds import pixel_kinds
from saucer.core.steps.registry import Junction
from tests.make import LUTS

colour = pytest.importorskip("colour", reason="development requirements are not installed")
X = (np.random.default_rng(8).random((5000, 3), dtype=np.float32) * np.float32(1.4)) - np.float32(0.2)


def by_ocio(transform: ocio.Transform, x: np.ndarray) -> np.ndarray:
    config = ocio.Config.CreateRaw()
    cpu = config.getProcessor(transform).getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE)
    result = x.copy()
    cpu.apply(ocio.PackedImageDesc(result, len(x), 1, 3))
    return result


def ours(step: dict, x: np.ndarray, encoding: str = "srgb") -> np.ndarray:
    kind = pixel_kinds()[step["kind"]]
    return through(kind.prepare(kind.parameters.model_validate(step), Junction(ENCODINGS[encoding])), x)


@pytest.mark.parametrize("clamp", [True, False])
def test_cdl_against_opencolorio(clamp):
    """ASC CDL 1.2 with the clamps, and OpenColorIO's form without them."""
    slope, offset, power, saturation = [1.2, 0.9, 1.05], [0.05, -0.03, 0.0], [0.8, 1.3, 2.1], 1.4
    style = ocio.CDL_ASC if clamp else ocio.CDL_NO_CLAMP
    transform = ocio.CDLTransform()
    transform.setStyle(style)
    transform.setSlope(slope)
    transform.setOffset(offset)
    transform.setPower(power)
    transform.setSat(saturation)
    result = ours({"kind": "cdl", "slope": slope, "offset": offset, "power": power, "saturation": saturation, "clamp": clamp}, X)
    np.testing.assert_allclose(result, by_ocio(transform, X), atol=4e-6)


def test_channel_mix_against_opencolorios_matrix():
    rows = [[0.8, 0.3, -0.1], [0.1, 0.7, 0.4], [-0.2, 0.1, 1.3]]
    flat = [v for row in rows for v in (*row, 0.0)] + [0.0, 0.0, 0.0, 1.0]
    transform = ocio.MatrixTransform(matrix=flat, offset=[0.02, -0.01, 0.3, 0.0])
    step = {"kind": "channel-mix", "red": rows[0], "green": rows[1], "blue": rows[2], "offset": [0.02, -0.01, 0.3]}
    np.testing.assert_allclose(ours(step, X), by_ocio(transform, X), atol=1e-6)


def test_levels_range_against_opencolorio():
    transform = ocio.RangeTransform()
    for name, value in (("MinInValue", 0.1), ("MaxInValue", 0.9), ("MinOutValue", 0.2), ("MaxOutValue", 0.7)):
        getattr(transform, f"set{name}")(value)
    transform.setStyle(ocio.RANGE_NO_CLAMP)
    step = {"kind": "levels", "master": {"input_black": 0.1, "input_white": 0.9, "output_black": 0.2, "output_white": 0.7}}
    np.testing.assert_allclose(ours(step, X), by_ocio(transform, X), atol=1e-6)


def test_levels_gamma_against_opencolorio():
    inside = np.clip(X, 0, 1)
    transform = ocio.ExponentTransform([1 / 1.7, 1 / 1.7, 1 / 1.7, 1.0])
    np.testing.assert_allclose(ours({"kind": "levels", "master": {"gamma": 1.7}}, inside), by_ocio(transform, inside), atol=5e-6)


def test_an_own_encoding_is_opencolorios_camera_log():
    """The same ST 2136-1 parameters given to both, and a linear slope too."""
    log = {
        "base": 10, "log_side_slope": 0.25, "log_side_offset": 0.4, "lin_side_slope": 5.5, "lin_side_offset": 0.05,
        "lin_side_break": 0.01, "linear_slope": 5.4,
    }  # fmt: skip
    own = OwnEncoding.model_validate(
        {
            "id": "house-log",
            "name": "House log",
            "log": log,
            "red": [0.7, 0.3],
            "green": [0.2, 0.75],
            "blue": [0.12, 0.02],
            "white": list(D65),
        }
    )
    transform = ocio.LogCameraTransform(
        base=10, logSideSlope=[0.25] * 3, logSideOffset=[0.4] * 3, linSideSlope=[5.5] * 3, linSideOffset=[0.05] * 3,
        linSideBreak=[0.01] * 3, linearSlope=[5.4] * 3, direction=ocio.TRANSFORM_DIR_FORWARD,
    )  # fmt: skip
    light = np.concatenate([X, 20 * np.abs(X)]).astype(np.float32)
    np.testing.assert_allclose(encoding_of(own).transfer.encode(light), by_ocio(transform, light), atol=3e-6)
    code = by_ocio(transform, light)
    np.testing.assert_allclose(encoding_of(own).transfer.decode(code), light, rtol=1e-5, atol=2e-6)


CORNERS = {"red": [0.64, 0.33], "green": [0.3, 0.6], "blue": [0.15, 0.06], "white": list(D65)}


@pytest.mark.parametrize(("exponent", "offset"), [(2.4, 0.055), (2.0, 0.1), (3.0, 0.16), (1.8, 0.0), (0.6, 0.0)])
def test_an_own_power_is_opencolorios_exponent_with_its_straight_piece(exponent, offset):
    own = OwnEncoding.model_validate(
        {"id": "house-gamma", "name": "House", "gamma": {"exponent": exponent, "offset": offset}, **CORNERS}
    )
    if offset:
        transform = ocio.ExponentWithLinearTransform([exponent] * 3 + [1], [offset] * 3 + [0], ocio.NEGATIVE_MIRROR)
    else:
        transform = ocio.ExponentTransform([exponent] * 3 + [1], ocio.NEGATIVE_MIRROR)
    codes = np.linspace(-0.5, 1.5, 3000, dtype=np.float32).reshape(-1, 3)
    light = encoding_of(own).transfer.decode(codes)
    np.testing.assert_allclose(light, by_ocio(transform, codes), atol=3e-6)
    np.testing.assert_allclose(encoding_of(own).transfer.encode(light), codes, atol=2e-5 if exponent > 1 else 2e-4)
    exact = encoding_of(own).transfer.decode(codes.astype(np.float64))
    np.testing.assert_allclose(light, exact, atol=2e-6)


def test_an_own_curve_of_points_is_scipys_straight_interpolation_and_goes_on():
    points = [(0.05, -0.01), (0.1, 0.0), (0.3, 0.05), (0.6, 0.4), (1.0, 4.0)]
    own = OwnEncoding.model_validate({"id": "measured", "name": "Measured", "points": points, **CORNERS})
    codes = np.linspace(-0.5, 1.5, 2001)
    expected = make_interp_spline(*np.array(points).T, k=1)(codes)
    transfer = encoding_of(own).transfer
    np.testing.assert_allclose(transfer.decode(codes), expected, atol=1e-9)
    np.testing.assert_allclose(transfer.decode(codes.astype(np.float32)), expected, atol=2e-6)
    np.testing.assert_allclose(transfer.encode(expected), codes, atol=1e-9)


@pytest.mark.parametrize(
    ("curve", "words"),
    [
        ({}, "give one of log, logc3, gamma, pq, points; got none"),
        ({"gamma": {"exponent": 2}, "points": [[0, 0], [1, 1]]}, "got gamma and points"),
        ({"points": [[0, 0], [0.5, 0.5], [0.5, 0.6]]}, "points[2]: code value and light must rise"),
        ({"points": [[0, 0.2], [1, 0.1]]}, "points[1]: code value and light must rise"),
        ({"gamma": {"exponent": 0.8, "offset": 0.1}}, "offset: a straight piece touches only an exponent above 1"),
    ],
)
def test_an_own_curve_that_cannot_be_is_refused(curve, words):
    with pytest.raises(ValidationError) as problem:
        OwnEncoding.model_validate({"id": "no", "name": "No", **curve, **CORNERS})
    assert words in str(problem.value)


@pytest.mark.parametrize(("cones", "theirs"), [("cat16", "CAT16"), ("bradford", "Bradford")])
def test_adaptation_against_colour_science(cones, theirs):
    source, target = xyz_of(D65), xyz_of((0.4476, 0.4074))
    expected = colour.adaptation.matrix_chromatic_adaptation_VonKries(source, target, transform=theirs)
    np.testing.assert_allclose(adaptation(CONES[cones], source, target), expected, atol=2e-6)


def test_oklab_against_colour_science():
    light = np.abs(X.astype(np.float64))
    xyz = colour.RGB_to_XYZ(light, "sRGB", apply_cctf_decoding=False)
    # The library goes through XYZ with matrices of the first edition, printed to seven digits.
    np.testing.assert_allclose(linear_to_oklab(light), colour.XYZ_to_Oklab(xyz), atol=5e-4)
    np.testing.assert_allclose(oklab_to_linear(linear_to_oklab(light)), light, atol=1e-6)


@pytest.mark.parametrize("kelvin", [2000, 2856, 4000, 6504, 10000, 25000])
def test_the_planckian_locus_against_colour_science(kelvin):
    uv = colour.temperature.CCT_to_uv_Ohno2013(np.array([kelvin, 0.0]))
    np.testing.assert_allclose(locus_uv(1e6 / kelvin), uv, atol=3e-5)


@pytest.mark.parametrize("xy", [D65, (0.4476, 0.4074), (0.3457, 0.3585), (0.28, 0.30)])
def test_cct_and_duv_against_colour_science(xy):
    mired, duv = place_of(xyz_of(xy))
    kelvin, theirs = colour.temperature.uv_to_CCT_Ohno2013(colour.xy_to_UCS_uv(np.array(xy)))
    assert 1e6 / mired == pytest.approx(kelvin, rel=1e-3)
    assert duv == pytest.approx(theirs, abs=3e-5)
    np.testing.assert_allclose(white_at(mired, duv), xyz_of(xy), atol=1e-6)


def test_illuminant_a_is_a_planckian_radiator():
    """CIE 015:2018: illuminant A is 2856 K (2855.5 with today's constant c2), at x = 0.44757, y = 0.40745."""
    mired, duv = place_of(xyz_of((0.44757, 0.40745)))
    assert 1e6 / mired == pytest.approx(2855.5, abs=1.5)
    assert abs(duv) < 2e-5


def edges_and_noise() -> np.ndarray:
    """(310, 230, 3) float32: what a blur that leaves something out shows most."""
    x = np.random.default_rng(1).random((310, 230, 3), dtype=np.float32)
    x[40:90, 60:140], x[90:120] = 1, 0
    return x


@pytest.mark.parametrize(
    ("sigma", "cut", "within"),
    [(0.4, 4, 2e-6), (1, 4, 2e-6), (3.7, 4, 2e-6), (4, 8, 2e-5), (7.9, 8, 2e-5), (12, 8, 2e-5), (22, 8, 2e-5), (60, 8, 2e-5)],
)
def test_blur_against_scipy(sigma, cut, within):
    """Wide ones against the bell itself: cut at 4 standard deviations, SciPy's own is up to 6e-5 away from it here."""
    x = edges_and_noise()
    expected = gaussian_filter(x.astype(np.float64), (sigma, sigma, 0), mode="nearest", truncate=cut)
    np.testing.assert_allclose(blur(x, sigma), expected, atol=within)
    grey = blur(np.ascontiguousarray(x[..., 0]), sigma)
    np.testing.assert_allclose(grey, expected[..., 0], atol=within)


@pytest.mark.parametrize("sigma", [2.0, 5.0, 9.0, 17.0])
def test_rows_of_a_picture_are_blurred_as_in_the_whole(sigma):
    x, reach, top = edges_and_noise(), blur_reach(sigma), 37
    part = blur(np.ascontiguousarray(x[top:]), sigma, top)
    assert np.array_equal(part[reach:], blur(x, sigma)[top + reach :])
    assert len(part) > reach


def test_a_lut_step_against_opencolorio():
    """The same lattice in both, tetrahedral, and the encodings around it left as they are."""
    transform = ocio.Lut3DTransform(9)
    transform.setInterpolation(ocio.INTERP_TETRAHEDRAL)
    table = LUTS("ab" * 32).lattice.table
    for r, g, b in np.ndindex(9, 9, 9):
        transform.setValue(r, g, b, *table[r, g, b].tolist())
    kind = pixel_kinds()["lut"]
    step = kind.parameters.model_validate({"kind": "lut", "sha256": "ab" * 32})
    result = through(kind.prepare(step, Junction(ENCODINGS["srgb"], luts=LUTS)), X)
    np.testing.assert_allclose(result, by_ocio(transform, X), atol=2e-6)
