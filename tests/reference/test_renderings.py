"""Adaptation to another white against colour-science; the tone scale against its formula in float64, and what it promises."""

from __future__ import annotations

import warnings

import numpy as np
import pytest

from saucer.core.colour.conversion import conversion
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.primaries import rgb_to_rgb
from saucer.core.colour.rendering import ToneScale
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.numeric.planes import through

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # it says that it would draw, had it something to draw with
    colour = pytest.importorskip("colour", reason="development requirements are not installed")
LINEAR, SRGB = ENCODINGS["linear-709"], ENCODINGS["srgb"]
COLOURS = (0.18 * 2 ** np.random.default_rng(2).uniform(-8, 6, (4000, 3))).astype(np.float32)


@pytest.mark.parametrize(("method", "theirs"), [("bradford", "Bradford"), ("cat02", "CAT02"), ("cat16", "CAT16")])
@pytest.mark.parametrize(
    ("source", "target", "spaces"), [("acescg", "srgb", ("ACEScg", "sRGB")), ("p3-theatre", "rec2020", ("DCI-P3", "ITU-R BT.2020"))]
)
def test_white_is_adapted_to_as_chosen(method, theirs, source, target, spaces):
    wanted = colour.matrix_RGB_to_RGB(*(colour.RGB_COLOURSPACES[one] for one in spaces), chromatic_adaptation_transform=theirs)
    np.testing.assert_allclose(rgb_to_rgb(ENCODINGS[source].primaries, ENCODINGS[target].primaries, method), wanted, atol=2e-4)


def test_a_step_adapts_as_it_says():
    red = np.float32([[0.5, 0.2, 0.1]])
    done = {}
    for method in ("bradford", "cat02", "cat16"):
        step = {"kind": "convert", "to": "linear-709", "adaptation": method}
        done[method] = evaluate(prepare(look_from({"input": "acescg", "output": "linear-709", "steps": [step]})), red)
        matrix = rgb_to_rgb(ENCODINGS["acescg"].primaries, LINEAR.primaries, method)
        np.testing.assert_allclose(done[method], red @ matrix.T, atol=1e-6)
    assert np.abs(done["cat02"] - done["bradford"]).max() > 1e-4


@pytest.mark.parametrize("scale", [
    ToneScale(), ToneScale(0.1, 1.8, 1.0), ToneScale(0.3, 0.7, 0.0), ToneScale(toe=0.01), ToneScale(0.1, 1.5, 0.5, 1, 0.05, 2.2), ToneScale(shoulder=0.4),
])  # fmt: skip
def test_the_tone_scale_is_its_formula(scale: ToneScale):
    """Naka and Rushton 1966, eq. 1, in float64: on luminance as far as hue is kept, on each channel as far as it is not."""

    def curve(x: np.ndarray) -> np.ndarray:
        grey, peak = ((v + np.sqrt(v * v + 4 * v * scale.toe)) / 2 for v in (scale.grey, 1.0))
        s = scale.shoulder
        bent = np.maximum(x, 0) ** (scale.contrast * s)
        y = peak * (bent / (bent + 0.18 ** (scale.contrast * s) * ((peak / grey) ** s - 1))) ** (1 / s)
        return y**2 / np.maximum(y + scale.toe, 1e-300)

    light = COLOURS.astype(np.float64)
    luminance = (light @ LINEAR.luma)[:, None]
    wanted = scale.hue * light * curve(luminance) / luminance + (1 - scale.hue) * curve(light)
    shown = through(conversion(LINEAR, SRGB, "scale", scale=scale), COLOURS)
    np.testing.assert_allclose(SRGB.transfer.decode(shown.astype(np.float64)), wanted, rtol=2e-5, atol=2e-6)


@pytest.mark.parametrize(("toe", "shoulder"), [(0, 1), (0.02, 1), (0, 2.5), (0.01, 0.5)])
@pytest.mark.parametrize("target", ["srgb", "pq"])
def test_grey_comes_out_as_wanted_and_nothing_turns_back(target, toe, shoulder):
    scale, peak = ToneScale(0.12, 1.4, toe=toe, shoulder=shoulder), 1000.0
    ramp = np.repeat(np.geomspace(1e-4, 60, 2000, dtype=np.float32)[:, None], 3, axis=1)
    there = conversion(LINEAR, ENCODINGS[target], "scale", peak=peak, scale=scale)
    shown = ENCODINGS[target].transfer.decode(through(there, ramp).astype(np.float64))[:, 1]
    top = 1 if target == "srgb" else peak / 203
    rises = np.diff(shown)
    assert (rises[shown[1:] < 0.999 * top] > 0).all()
    assert (rises > -3e-7 * top).all(), "but for rounding"
    assert np.interp(0.18, ramp[:, 1], shown) == pytest.approx(0.12, rel=1e-3)
    assert (0.8 if shoulder >= 1 else 0.5) * top < shown[-1] < top * (1 + 1e-6)
    shadows = np.polyfit(np.log2(ramp[:300, 1]), np.log2(shown[:300]), 1)[0]
    steeper = 2 if toe else 1
    assert shadows == pytest.approx(steeper * scale.contrast, rel=0.05), (
        "stops shown to a stop of the scene, twice as many in the toe"
    )
    back = through(conversion(ENCODINGS[target], LINEAR, "scale", peak=peak, scale=scale), through(there, ramp))
    near = (ramp[:, 1] < 8) & (shown > 1e-4) & (shown < 0.995 * top)
    assert near.sum() > 800
    np.testing.assert_allclose(back[near], ramp[near], rtol=3e-3)
