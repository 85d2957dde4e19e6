"""Skin left as it was: within a degree where it is skin, everything else turned, and no edge between the two."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.bake.colours import colours_for
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import oklab_to_linear
from saucer.core.colour.skin import LINE, is_skin, turns
from saucer.core.engine.plan import prepare
from saucer.core.look.model import Look
from saucer.core.numeric.planes import through
from saucer.core.steps.leaving_skin import EDGE, skin_share
from saucer.core.steps.parameters import LeaveSkin
from tests.make import SHA, a_look, a_lut, evaluate, random_pixels

SRGB = ENCODINGS["srgb"]
CENTRES = (29.0, 66.0, 110.0, 142.0, 195.0, 264.0, 300.0, 328.0)
LEFT = {"leave_skin": {"amount": 1}}
TURNED = {"kind": "hue-bands", "bands": [{"centre": centre, "hue": 15} for centre in CENTRES]}
BY_CURVE = {"kind": "colour-curves", "turn": [[180, 15]]}
# The ColorChecker of 2005, patches 1 and 2, sRGB codes of 8 bit from the manufacturer's data sheet; from memory, to within two codes.
DARK_SKIN, LIGHT_SKIN = (115, 82, 68), (194, 150, 130)


def polar(lightness: float, chroma: float, hues: np.ndarray) -> np.ndarray:
    """(n, 3) float32 sRGB codes of OKLCh colours."""
    angle = np.radians(hues)
    lab = np.stack([np.full_like(angle, lightness), chroma * np.cos(angle), chroma * np.sin(angle)], axis=-1)
    return SRGB.transfer.encode(oklab_to_linear(lab)).astype(np.float32)


def turned(look: Look, values: np.ndarray) -> np.ndarray:
    return np.abs(turns(values, SRGB, evaluate(look, values), SRGB))


@pytest.mark.parametrize("step", [TURNED, BY_CURVE], ids=["hue bands", "colour curves"])
def test_skin_stays_within_a_degree_while_the_rest_turns_by_fifteen(step):
    skin = np.concatenate(colours_for(SRGB)["skin"])
    blues = polar(0.6, 0.1, np.linspace(130, 330, 50))
    assert turned(a_look(step), skin).min() > 14.9
    assert turned(a_look(step | LEFT), skin).max() < 1
    assert turned(a_look(step | LEFT), blues).min() > 14.9


def test_both_skins_of_a_colour_chart_lie_where_they_are_left():
    charts = np.array([DARK_SKIN, LIGHT_SKIN], np.float32) / 255
    assert is_skin(charts, SRGB).all()
    assert turned(a_look(TURNED | LEFT), charts).max() < 0.01
    half = turned(a_look(TURNED | {"leave_skin": {"amount": 0.5}}), charts)
    assert half.min() > 5
    assert half.max() < 9


def test_a_picture_of_a_face_before_a_wall():
    """Skin from shadow to light, with noise, before blue and green: every pixel that counts as skin stays, the wall turns."""
    random = np.random.default_rng(4)
    face = polar(0.6, 0.07, random.normal(LINE, 5, 2000)) * random.uniform(0.5, 1.2, (2000, 1)).astype(np.float32)
    wall = polar(0.5, 0.09, random.uniform(140, 280, 2000))
    look = a_look(TURNED | LEFT)
    found = is_skin(face, SRGB)
    assert found.mean() > 0.9
    assert turned(look, face[found]).max() < 1
    assert turned(look, wall).min() > 14.9


@pytest.mark.parametrize(
    "step", [TURNED, {"kind": "split-tone", "all": {"hue": 250, "amount": 0.05}}], ids=["hue bands", "split tone"]
)
@pytest.mark.parametrize("chroma", [0.05, 0.1])
def test_the_edge_of_what_is_left_shows_no_band(step, chroma):
    """Ramps of 1,024 steps through the hues and out of grey: the slope changes from one to the next by no quarter of a code of 10 bits."""
    look = a_look(step | LEFT)
    for ramp in (polar(0.65, chroma, np.linspace(LINE - 70, LINE + 70, 1024)), ramp_of_chroma(LINE + 35)):
        result = evaluate(look, ramp).astype(np.float64)
        assert np.abs(np.diff(result, n=2, axis=0)).max() < 0.25 / 1023
        given, made = (np.linalg.norm(np.diff(values, axis=0), axis=1) for values in (ramp.astype(np.float64), result))
        assert (made < 5 * given).all()


def ramp_of_chroma(hue: float) -> np.ndarray:
    return np.concatenate([polar(0.65, chroma, np.array([hue])) for chroma in np.linspace(0, 0.25, 1024)])


def test_hues_keep_their_order_across_the_edge():
    hues = np.linspace(LINE - 120, LINE + 120, 2000)
    values = polar(0.65, 0.1, hues)
    after = hues + turns(values, SRGB, evaluate(a_look(TURNED | LEFT), values), SRGB)
    assert (np.diff(after) > 0).all()


def test_what_is_left_is_widest_where_it_is_asked_and_nothing_at_grey():
    hues = LINE + np.array([0.0, 29.0, 31 + EDGE / 2, 31 + EDGE])
    share = skin_share(np.ascontiguousarray(polar(0.6, 0.1, hues).T), SRGB, LeaveSkin(amount=0.8, width=30))
    assert share[:2] == pytest.approx(0.8)
    assert 0.2 < share[2] < 0.6
    assert share[3] == 0
    greys = np.repeat(np.linspace(0, 1, 9, dtype=np.float32)[None], 3, axis=0)
    assert np.abs(skin_share(greys, SRGB, LeaveSkin(amount=1))).max() < 1e-5


@pytest.mark.parametrize("ends_in", ["back", "gives"])
def test_a_lut_leaves_skin_as_it_is_converted_plainly(ends_in):
    """Where the LUT ends in another encoding, skin is what it would be without the LUT."""
    step = {"kind": "lut", "sha256": SHA, "expects": "srgb", "gives": "display-p3", "ends_in": ends_in} | LEFT
    look = a_look(step, output="display-p3" if ends_in == "gives" else "srgb")
    plan = prepare(look, lambda sha: a_lut())
    skin = np.concatenate(colours_for(SRGB)["skin"])[:500]
    assert np.abs(turns(skin, SRGB, through(plan.stages[0].operations[0], skin), plan.end)).max() < 0.01


def test_what_leaves_no_skin_is_what_it_was():
    pixels = random_pixels()
    assert (evaluate(a_look(TURNED), pixels) == evaluate(a_look(TURNED | {"leave_skin": {"amount": 0}}), pixels)).all()
    assert a_look(TURNED).content_hash == a_look(TURNED | {"leave_skin": {"width": 20}}).content_hash
