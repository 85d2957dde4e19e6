"""HLG as a display shows it, against ITU-R BT.2100, BT.2408, colour-science and OpenColorIO's built-in transforms."""

from __future__ import annotations

import warnings

import numpy as np
import PyOpenColorIO as ocio
import pytest

from saucer.core.colour.conversion import conversion, convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.hlg import system_gamma
from saucer.core.numeric.planes import through

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # it says that it would draw, had it something to draw with
    colour = pytest.importorskip("colour", reason="development requirements are not installed")

HLG, PQ, REC709 = (ENCODINGS[one] for one in ("hlg", "pq", "rec709"))
CODE = 1 / 1023
"""One ten-bit code value of the whole range."""


def codes(count: int = 20_000) -> np.ndarray:
    """Greys, near-greys and any colours, (n, 3) float64 in 0.02..1: below, HLG's square root and PQ leave a code no light to compare."""
    rng = np.random.default_rng(3)
    greys = np.repeat(np.linspace(0.02, 1, 2000)[:, None], 3, axis=1)
    near = np.clip(rng.uniform(0.05, 0.95, (count, 1)) + rng.normal(0, 0.02, (count, 3)), 0.02, 1)
    return np.concatenate([greys, near, rng.uniform(0.02, 1, (count, 3))])


def by_opencolorio(values: np.ndarray, *transforms: ocio.Transform) -> np.ndarray:
    group = ocio.GroupTransform(list(transforms))
    processor = ocio.Config.CreateRaw().getProcessor(group).getDefaultCPUProcessor()
    pixels = np.ascontiguousarray(values, np.float32)
    processor.applyRGB(pixels)
    return pixels


def built_in(name: str, inverse: bool = False) -> ocio.BuiltinTransform:
    return ocio.BuiltinTransform(name, ocio.TRANSFORM_DIR_INVERSE if inverse else ocio.TRANSFORM_DIR_FORWARD)


HLG_1000 = "DISPLAY - CIE-XYZ-D65_to_REC.2100-HLG-1000nit"
PQ_DISPLAY = "DISPLAY - CIE-XYZ-D65_to_REC.2100-PQ"


def test_hlg_to_pq_agrees_with_opencolorio():
    values = codes()
    theirs = by_opencolorio(values, built_in(HLG_1000, inverse=True), built_in(PQ_DISPLAY))
    assert np.abs(convert(values, HLG, PQ) - theirs).max() < CODE
    assert np.abs(convert(values.astype(np.float32), HLG, PQ) - theirs).max() < CODE


def test_pq_to_hlg_agrees_with_opencolorio():
    """Of what a display of 1000 cd/m2 shows, and of colours within HLG's range."""
    values = convert(codes(), HLG, PQ)
    theirs = by_opencolorio(values, built_in(PQ_DISPLAY, inverse=True), built_in(HLG_1000))
    assert np.abs(convert(values, PQ, HLG) - theirs).max() < CODE
    assert np.abs(convert(values.astype(np.float32), PQ, HLG) - theirs).max() < CODE


@pytest.mark.parametrize(("code", "light"), [(0.25, 9.6), (0.38, 26), (0.75, 203), (1.0, 1000)])
def test_greys_are_shown_at_their_published_light(code, light):
    """cd/m2. Source: ITU-R BT.2100-3, table 5 (1.0, and 0.25 computed from it); ITU-R BT.2408-7, table 1 (75 %, and 38 % for 18 % grey)"""
    shown = float(ENCODINGS["pq"].transfer.decode(convert(np.full(3, code), HLG, PQ))[1]) * 203
    assert shown == pytest.approx(light, rel=0.02)


@pytest.mark.parametrize("peak", [600.0, 1000.0, 2000.0])
def test_the_light_of_other_peaks_is_that_of_the_equations(peak):
    """Source: ITU-R BT.2100-3, table 5, as colour-science computes it, with the gamma of BT.2390-11, 6.2 in its place."""
    values = codes(2000)
    light = colour.models.eotf_BT2100_HLG(values, L_B=0, L_W=peak, gamma=system_gamma(peak))
    operation = conversion(HLG, PQ, peak=peak)
    assert operation is not None
    ours = PQ.transfer.decode(through(operation, values.astype(np.float32)).astype(np.float64)) * 203
    assert np.abs(ours / light - 1).max() < 1e-3


def test_gamma_is_the_published_one_at_a_thousand_and_near_it_elsewhere():
    """Source: ITU-R BT.2100-3, note 5f: 1.2 + 0.42 log10(peak / 1000), said to hold for 400 to 2000 cd/m2; BT.2390 stays within 0.03 of it."""
    assert system_gamma(1000) == 1.2
    for peak in (400, 600, 1500, 2000):
        assert system_gamma(peak) == pytest.approx(1.2 + 0.42 * np.log10(peak / 1000), abs=0.03)


@pytest.mark.parametrize("target", ["pq", "rec709", "srgb"])
@pytest.mark.parametrize("rendering", ["plain", "soft"])
def test_there_and_back_is_where_it_began(target, rendering):
    values = codes(3000).astype(np.float32)
    there, back = (conversion(*pair, rendering) for pair in ((HLG, ENCODINGS[target]), (ENCODINGS[target], HLG)))
    assert there is not None
    assert back is not None
    # Beyond the target's primaries the soft rendering has no way back: colours that a display of its own has, only.
    inside = values[np.ptp(values, axis=1) < 0.2]
    assert np.abs(through(back, through(there, inside)) - inside).max() < 2e-4


def test_black_stays_black_and_light_of_the_scene_is_not_touched():
    assert np.abs(convert(np.zeros((1, 3)), HLG, PQ)).max() < 1e-6
    assert np.abs(convert(np.zeros((1, 3), np.float32), REC709, HLG)).max() < 1e-6
    linear = convert(np.full((1, 3), 0.75), HLG, ENCODINGS["linear-2020"])
    assert linear == pytest.approx(np.ones((1, 3)), abs=1e-6), "scene to scene: no display comes between"
