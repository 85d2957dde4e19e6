from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, encoding
from saucer.core.colour.primaries import AP1, BT709, rgb_to_rgb, rgb_to_xyz
from saucer.core.errors import EncodingError

wide = arrays(np.float32, (5, 3), elements=st.floats(-1, 16, width=32))
usual = arrays(np.float64, (15,), elements=st.floats(-0.2, 1.3))
GRID = np.concatenate(
    [np.linspace(-1, 16, 4001), np.linspace(-0.01, 1.2, 8001), -np.geomspace(1e-9, 1, 200), np.geomspace(1e-9, 1, 200)]
)


@pytest.mark.parametrize("name", ENCODINGS)
@given(x=wide)
def test_any_value_converts_to_something_finite(name, x):
    for source, target in ((name, "linear-709"), ("linear-709", name), (name, "acescct"), ("pq", name)):
        result = convert(x, ENCODINGS[source], ENCODINGS[target])
        assert result.dtype == np.float32
        assert np.isfinite(result).all()


@pytest.mark.parametrize("name", ENCODINGS)
@given(x=usual)
def test_there_and_back(name, x):
    transfer = ENCODINGS[name].transfer
    lowest = {"acescc": (9.72 - 16) / 17.52, "pq": 1e-6}.get(name, -1)  # below, these curves hold nothing
    reached = np.where(np.abs(x) < lowest, lowest, x) if name == "pq" else np.maximum(x, lowest)
    np.testing.assert_allclose(transfer.encode(transfer.decode(reached)), np.minimum(reached, _top(name)), atol=2e-6)


def _top(name: str) -> float:
    return float(ENCODINGS[name].transfer.encode(np.float64(65504))) if not ENCODINGS[name].linear else 65504.0


@pytest.mark.parametrize("name", ENCODINGS)
def test_the_compiled_float32_curve_is_the_formula(name):
    """Within what rounding the argument to float32 does to the exact curve, three times over, and 3e-6 of the value."""
    transfer = ENCODINGS[name].transfer
    for fast, exact in ((transfer.decode, transfer.decode), (transfer.encode, transfer.encode)):
        x = GRID.astype(np.float32)
        near = np.nextafter(x, np.float32(np.inf)).astype(np.float64)
        wanted = exact(x.astype(np.float64))
        allowed = 3 * np.abs(exact(near) - wanted) + 3e-6 * np.abs(wanted) + 2e-7
        if name == "pq" and fast == transfer.decode:
            # Its two powers multiply a rounding by 79 and by 6; beyond 10,000 cd/m2 the formula nears its pole.
            allowed = np.where(x <= 1.0, allowed + 3e-6 * np.abs(wanted), np.inf)
        assert (np.abs(fast(x) - wanted) <= allowed).all()


@pytest.mark.parametrize("name", [name for name, one in ENCODINGS.items() if one.transfer.scale_fast is not None])
def test_light_scaled_in_code_values_is_light_scaled(name):
    """A gain for each pixel, from none to all, on codes from below black to above white, against the formulas in float64."""
    transfer = ENCODINGS[name].transfer
    codes = np.repeat(np.linspace(-1.2, 2, 3201, dtype=np.float32)[:, None], 3, axis=1) * np.array([1, 0.1, 0.03], np.float32)
    for gain in (0, 1e-4, 0.01, 0.3, 0.9, 0.999, 1):
        gains = np.full(len(codes), gain, np.float32)
        gains[::7] = 1
        scaled = codes.reshape(-1).copy()
        transfer.scale_fast(scaled, gains)
        wanted = transfer.encode(transfer.decode(codes.astype(np.float64)) * gains[:, None].astype(np.float64))
        np.testing.assert_allclose(scaled.reshape(-1, 3), wanted, atol=1e-6, err_msg=str(gain))


@pytest.mark.parametrize("name", [name for name, one in ENCODINGS.items() if not one.primaries.absolute])
def test_white_stays_white_and_grey_stays_grey(name):
    srgb = ENCODINGS["srgb"]
    there = convert(np.array([[1.0, 1, 1], [0.5, 0.5, 0.5]]), srgb, ENCODINGS[name])
    np.testing.assert_allclose(there, there[:, :1].repeat(3, 1), atol=1e-6)
    np.testing.assert_allclose(convert(there, ENCODINGS[name], srgb)[0], 1, atol=1e-6)


@pytest.mark.parametrize("name", ENCODINGS)
def test_decoding_rises_and_has_no_step(name):
    x = np.linspace(-1, 2, 30001)
    y = ENCODINGS[name].transfer.decode(x)
    assert (np.diff(y) >= 0).all()
    # No jump where the pieces of a curve meet: each step is like its neighbours.
    steps = np.diff(y[(x > -0.5) & (x < 0.9)])
    assert (np.abs(np.diff(steps)) <= 0.03 * np.maximum(np.abs(steps[1:]), 1e-5) + 1e-8).mean() > 0.995
    assert np.abs(np.diff(y[(x > -0.5) & (x < 0.9)])).max() < 2


def test_matrices_of_the_published_primaries():
    """BT.709 to XYZ as in IEC 61966-2-1:1999 (to its four decimals); AP1 to XYZ as in S-2014-004, annex."""
    np.testing.assert_allclose(
        rgb_to_xyz(BT709), [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]], atol=6e-5
    )
    ap1 = [
        [0.6624541811, 0.1340042065, 0.1561876870],
        [0.2722287168, 0.6740817658, 0.0536895174],
        [-0.0055746495, 0.0040607335, 1.0103391003],
    ]
    np.testing.assert_allclose(rgb_to_xyz(AP1), ap1, atol=1e-9)
    assert rgb_to_rgb(BT709, AP1).sum(axis=1) == pytest.approx([1, 1, 1])


def test_an_unknown_encoding_is_named_with_those_there_are():
    with pytest.raises(EncodingError, match=r'--expects: unknown encoding "rgb"; use one of srgb, rec709, rec709-camera, '):
        encoding("rgb", "--expects")


def test_xyz_is_kept_as_it_is():
    """SMPTE ST 428-1: X'Y'Z' of a D65 white at 48 cd/m2, (48 X / 52.37) ** (1 / 2.6), without adaptation."""
    white = convert(np.ones((1, 3)), ENCODINGS["p3-d65"], ENCODINGS["dcdm"])[0]
    wanted = (np.array([0.3127 / 0.3290, 1, 0.3583 / 0.3290]) * 48 / 52.37) ** (1 / 2.6)
    np.testing.assert_allclose(white, wanted, atol=1e-6)
    np.testing.assert_allclose(convert(white[None], ENCODINGS["dcdm"], ENCODINGS["srgb"])[0], 1, atol=1e-6)
