"""ACES's output transforms against the views of OpenColorIO's studio configuration, and BT.2446 against what the report says of itself."""

from __future__ import annotations

import numpy as np
import PyOpenColorIO as ocio
import pytest

from saucer.core.colour.bt2446 import between
from saucer.core.colour.conversion import conversion, convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.rendering import Rendering
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.numeric.planes import through
from saucer.core.steps.pixel.convert import Convert, summary
from tests.make import evaluate

ACES_1 = "studio-config-v2.2.0_aces-v1.3_ocio-v2.4"
ACES_2 = "studio-config-v4.0.0_aces-v2.0_ocio-v2.5"
REFERENCE_WHITE = 203.0
"""cd/m2. Source: ITU-R BT.2408, 2.1"""


def seen(config: str, source: str, display: str, view: str, values: np.ndarray) -> np.ndarray:
    made = ocio.Config.CreateFromBuiltinConfig(config)
    transform = ocio.DisplayViewTransform(src=source, display=display, view=view)
    found = values.copy()
    made.getProcessor(transform).getDefaultCPUProcessor().applyRGB(found)
    return found


def converted(
    source: str, target: str, values: np.ndarray, rendering: Rendering, peak: float = 1000.0, adaptation: str = "bradford"
):
    step = {"kind": "convert", "to": target, "rendering": rendering, "peak": peak, "adaptation": adaptation}
    return evaluate(look_from({"input": source, "output": target, "steps": [step]}), values)


def light() -> np.ndarray:
    """(3000, 3) light on AP1, from 0.001 to 20, of every saturation; and greys."""
    random = np.random.default_rng(3)
    colours = 0.001 * 20000 ** random.random((3000, 1)) * random.uniform(0.2, 1, (3000, 3))
    return np.concatenate([colours, np.repeat(np.geomspace(0.001, 20, 50)[:, None], 3, axis=1)]).astype(np.float32)


@pytest.mark.parametrize(
    ("rendering", "config", "target", "display", "view", "peak"),
    [
        ("aces-1", ACES_1, "srgb", "sRGB - Display", "ACES 1.0 - SDR Video", 1000),
        ("aces-1", ACES_1, "rec709", "Rec.1886 Rec.709 - Display", "ACES 1.0 - SDR Video", 1000),
        ("aces-1", ACES_1, "pq", "Rec.2100-PQ - Display", "ACES 1.1 - HDR Video (1000 nits & Rec.2020 lim)", 1000),
        ("aces-1", ACES_1, "pq", "Rec.2100-PQ - Display", "ACES 1.1 - HDR Video (4000 nits & Rec.2020 lim)", 3500),
        ("aces-2", ACES_2, "srgb", "sRGB - Display", "ACES 2.0 - SDR 100 nits (Rec.709)", 1000),
        ("aces-2", ACES_2, "rec709", "Rec.1886 Rec.709 - Display", "ACES 2.0 - SDR 100 nits (Rec.709)", 1000),
        ("aces-2", ACES_2, "display-p3", "Display P3 - Display", "ACES 2.0 - SDR 100 nits (P3 D65)", 1000),
        ("aces-2", ACES_2, "pq", "Rec.2100-PQ - Display", "ACES 2.0 - HDR 1000 nits (Rec.2020)", 1000),
        ("aces-2", ACES_2, "pq", "Rec.2100-PQ - Display", "ACES 2.0 - HDR 500 nits (Rec.2020)", 500),
    ],
)
def test_a_view_of_aces(rendering, config, target, display, view, peak):
    ours, theirs = converted("acescg", target, light(), rendering, peak), seen(config, "ACEScg", display, view, light())
    np.testing.assert_allclose(np.clip(ours, 0, 1), np.clip(theirs, 0, 1), atol=1e-4)


@pytest.mark.parametrize("rendering", ["scale", "aces-1", "aces-2"])
def test_a_peak_that_an_encoding_states_is_the_one_that_is_shown(rendering):
    """Whatever the step says; nothing gets above it, and a clipped gamut ends there (1000 cd/m2: code 0.7518, SMPTE ST 2084)."""
    codes = np.random.default_rng(11).uniform(0, 1, (500, 3)).astype(np.float32)
    stated = converted("acescct", "pq-1000", codes, rendering, peak=4000)
    np.testing.assert_array_equal(stated, converted("acescct", "pq", codes, rendering, peak=1000))
    clip = conversion(ENCODINGS["linear-2020"], ENCODINGS["pq-1000"], gamut="clip")
    assert clip is not None
    brightest = through(clip, np.full((1, 3), 60, np.float32))
    np.testing.assert_allclose(brightest, 0.7518, atol=5e-5)


def test_hlg_and_bt2446_take_the_peak_that_is_stated():
    codes = np.random.default_rng(12).uniform(0, 0.75, (500, 3)).astype(np.float32)
    np.testing.assert_array_equal(
        converted("hlg", "pq-1000", codes, "plain", peak=2000), converted("hlg", "pq", codes, "plain", peak=1000)
    )
    to_sdr = converted("pq-1000", "rec2020", codes, "bt2446-a", peak=4000)
    np.testing.assert_array_equal(to_sdr, converted("pq", "rec2020", codes, "bt2446-a", peak=1000))


def test_a_camera_log_takes_its_own_adaptation_to_aces():
    codes = np.random.default_rng(4).uniform(0.2, 0.7, (500, 3)).astype(np.float32)
    names = ocio.Config.CreateFromBuiltinConfig(ACES_2).getColorSpaceNames()
    (log,) = [name for name in names if "LogC3 (EI800)" in name]
    theirs = seen(ACES_2, log, "sRGB - Display", "ACES 2.0 - SDR 100 nits (Rec.709)", codes)
    ours = converted("logc3-ei800", "srgb", codes, "aces-2", adaptation="cat02")
    np.testing.assert_allclose(np.clip(ours, 0, 1), np.clip(theirs, 0, 1), atol=2e-4)


@pytest.mark.parametrize("rendering", ["aces-1", "aces-2"])
def test_what_a_display_shows_goes_back_to_the_scene(rendering):
    shown = np.random.default_rng(5).uniform(0.15, 0.8, (300, 1)) * np.ones((1, 3)) + np.random.default_rng(6).uniform(
        -0.04, 0.04, (300, 3)
    )
    scene = converted("rec709", "acescct", shown.astype(np.float32), rendering)
    np.testing.assert_allclose(converted("acescct", "rec709", scene, rendering), shown, atol=2e-3)


def test_between_other_ends_they_are_plain():
    codes = np.random.default_rng(7).random((100, 3)).astype(np.float32)
    for rendering in ("aces-2", "bt2446-a"):
        plain = convert(codes, ENCODINGS["srgb"], ENCODINGS["display-p3"])
        np.testing.assert_allclose(converted("srgb", "display-p3", codes, rendering), plain, atol=1e-6)
    assert summary(Convert(to="pq", rendering="aces-1", peak=3500)) == "to pq, ACES 1 output transform, for 4000 cd/m2", (
        "the one there is"
    )
    assert summary(Convert(to="srgb", rendering="aces-2")) == "to srgb, ACES 2 output transform"


def pq_grey(nits: np.ndarray) -> np.ndarray:
    encoding: Encoding = ENCODINGS["pq"]
    return np.repeat(encoding.transfer.encode(np.asarray(nits) / REFERENCE_WHITE)[:, None], 3, axis=1).astype(np.float32)


@pytest.mark.parametrize("peak", [400, 1000, 4000])
def test_method_a_takes_black_to_black_the_peak_to_white_and_rises(peak):
    grey = converted("pq", "rec2020", pq_grey(np.linspace(0, peak, 2000)), "bt2446-a", peak)
    assert (grey[0], grey[-1]) == (pytest.approx(0, abs=1e-4), pytest.approx(1, abs=1e-4))
    assert np.diff(grey[:, 0]).min() > 0
    assert np.ptp(grey, axis=1).max() < 1e-4, "greys stay grey"


def test_method_a_from_sdr_ends_at_its_thousand():
    """The exponent of the report's second piece makes 255 of luma 1000 cd/m2."""
    codes = np.linspace(0, 1, 2000, dtype=np.float32)[:, None] * np.ones((1, 3), np.float32)
    shown = ENCODINGS["pq"].transfer.decode(converted("rec2020", "pq", codes, "bt2446-a").astype(np.float64)) * REFERENCE_WHITE
    assert shown[-1] == pytest.approx(1000, rel=0.01)
    assert np.diff(shown[20:, 1]).min() > 0
    around = shown[np.abs(codes[:, 0] * 255 - 70).argsort()[:8], 1]
    assert np.ptp(around) < 0.02 * around.mean() + 1, "its two pieces meet"


def test_method_c_is_undone_by_itself_and_its_pieces_meet():
    nits = np.geomspace(0.01, 1000, 4000)
    codes = pq_grey(nits)
    sdr = ENCODINGS["rec2020"].transfer.decode(converted("pq", "rec2020", codes, "bt2446-c").astype(np.float64))[:, 1] * 100
    dark = nits < 58.5 / 0.83802
    np.testing.assert_allclose(sdr[dark], 0.83802 * nits[dark], rtol=1e-3)
    assert np.diff(sdr).min() > 0
    bend = 58.5 / 0.83802
    below, above = (np.interp(at, nits, sdr) for at in (bend * 0.998, bend * 1.002))
    assert above - below == pytest.approx(0.83802 * bend * 0.004, abs=0.06), (
        "no corner where they meet, as exactly as it is published"
    )
    random = np.random.default_rng(8).uniform(0.2, 0.55, (500, 3)).astype(np.float32)
    there = converted("pq", "rec2020", random, "bt2446-c")
    np.testing.assert_allclose(converted("rec2020", "pq", there, "bt2446-c"), random, atol=2e-4)


@pytest.mark.parametrize("method", ["bt2446-a", "bt2446-c"])
def test_hlg_is_shown_before_it_is_brought_to_sdr(method):
    """HLG and PQ of the same light on a display of 1000 cd/m2 give the same picture."""
    codes = np.random.default_rng(9).uniform(0.1, 0.8, (400, 3)).astype(np.float32)
    as_pq = convert(codes, ENCODINGS["hlg"], ENCODINGS["pq"])
    np.testing.assert_allclose(converted("hlg", "rec709", codes, method), converted("pq", "rec709", as_pq, method), atol=5e-4)


@pytest.mark.parametrize("method", ["bt2446-a", "bt2446-c"])
@pytest.mark.parametrize("to_sdr", [True, False])
def test_nothing_is_not_a_number(method, to_sdr):
    planes = np.array([[-0.5, 0, 1e-9, 1, 60], [0, 0, 0, 0.2, -3], [0.3, 0, 1e-9, 5, 60]], np.float32)
    between(method, 1000, to_sdr)(planes)
    assert np.isfinite(planes).all()


@pytest.mark.parametrize("rendering", ["scale", "aces-1", "aces-2"])
@pytest.mark.parametrize("target", ["dcdm", "p3-theatre", "rec2020"])
def test_a_display_that_ends_at_white_is_given_no_more(rendering, target):
    """X'Y'Z' of ST 428-1 has codes above its white of 48 cd/m2, and yet no display that shows them."""
    bright = np.full((1, 3), ENCODINGS["acescct"].transfer.encode(np.array(60.0)), np.float32)
    light = ENCODINGS[target].transfer.decode(converted("acescct", target, bright, rendering).astype(np.float64))[0]
    assert 0.9 < light @ ENCODINGS[target].luma < 1.01


def test_a_look_with_them_is_prepared_for_every_display():
    for target in ("srgb", "rec709", "display-p3", "p3-d65", "p3-theatre", "rec2020", "pq", "pq-p3", "dcdm"):
        for rendering in ("aces-1", "aces-2"):
            step = {"kind": "convert", "to": target, "rendering": rendering}
            plan = prepare(look_from({"input": "acescct", "output": target, "steps": [step]}))
            assert plan.end == ENCODINGS[target]
