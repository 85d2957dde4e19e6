"""Misfits and matches on pictures whose faults are put there on purpose."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.reports.match import Seen, match, see
from saucer.core.reports.misfits import Common, Figures, Tolerances, common_to, find_misfits, find_remedies, measure

SRGB = ENCODINGS["srgb"]


def scene(seed: int = 1, grey: float = 0.4) -> np.ndarray:
    """(64, 96, 3) float32: soft tones, part of them grey."""
    rng = np.random.default_rng(seed)
    y, x = np.mgrid[0:64, 0:96].astype(np.float32)
    tone = 0.25 + 0.35 * (x / 96) + 0.15 * np.sin(y / 9)
    colour = 1 + 0.35 * np.stack([np.sin(x / 20), np.sin(y / 14 + 1), np.cos((x + y) / 25)], -1)
    is_grey = rng.random((64, 96, 1)) < grey
    return np.clip(tone[..., None] * np.where(is_grey, 1, colour) + rng.normal(0, 0.01, (64, 96, 1)), 0, 1).astype(np.float32)


def through(values: np.ndarray, *steps: dict) -> np.ndarray:
    return evaluate(prepare(look_from({"steps": list(steps)})), values)


def test_a_look_that_changes_nothing_has_no_figures():
    figures = measure(scene(), scene())
    assert (figures.clipped, figures.crushed, figures.merged, figures.shift, figures.skin) == (0, 0, 0, 0, 0)
    assert find_misfits(figures, None, Tolerances()) == []


def test_what_is_clipped_and_crushed_is_counted():
    before = scene()
    bright = through(before, {"kind": "tone", "exposure": 1.5})
    figures = measure(before, bright)
    assert figures.clipped == pytest.approx(float((bright >= 1 - 0.5 / 255).any(-1).mean()), abs=1e-6)
    assert figures.clipped > 0.2
    assert figures.crushed == 0
    dark = measure(before, before - np.float32(0.3))
    assert dark.crushed > 0.2
    assert next(one.what for one in find_misfits(dark, None, Tolerances())) == "crushed"
    already = np.ones_like(before)
    assert measure(already, already).clipped == 0, "what was white before is no fault of the look"


def test_tones_that_fall_together_are_counted():
    before = np.repeat(np.linspace(0, 1, 256, dtype=np.float32)[None, :, None], 3, axis=-1).repeat(16, axis=0)
    eight = np.round(before * 7) / np.float32(7)
    assert measure(before, eight).merged == pytest.approx(1 - 8 / 256)


def test_skin_that_turns_is_told():
    skin = np.broadcast_to(np.array([0.78, 0.57, 0.45], np.float32), (32, 32, 3)).copy()
    green = np.broadcast_to(np.array([0.66, 0.62, 0.42], np.float32), (32, 32, 3)).copy()
    figures = measure(skin, green)
    assert figures.skin > 15
    assert any(one.what == "skin" and "skin turns by +" in one.words for one in find_misfits(figures, None, Tolerances()))


def test_a_shot_is_held_against_the_others_under_its_look():
    def at(lightness: float, cast_b: float = 0.0) -> Figures:
        return Figures(0, 0, 0, lightness, 0, 0, cast_b, 0)

    assert common_to([at(0.5), at(0.6)]) is None
    common = common_to([at(0.5), at(0.52), at(0.54), at(0.9)])
    assert common == Common(pytest.approx(0.53), 0, 0)
    assert find_misfits(at(0.9), common, Tolerances())[0].words == "lighter than the others by 0.37 of lightness"
    assert find_misfits(at(0.5, -0.08), common, Tolerances())[0].words == "cooler than the others by 0.080 of colour"
    assert find_misfits(at(0.5), common, Tolerances()) == []


def test_a_remedy_is_tried_before_it_is_offered():
    """A look that clips a shot which is a stop and a half too bright: the exposure that is found takes it back."""
    shot = through(scene(3), {"kind": "tone", "exposure": 0.5})
    look = {"kind": "tone", "exposure": 0.6, "contrast": 1.3}

    def show(stops: float, strength: float) -> Figures:
        graded = through(shot, {"kind": "tone", "exposure": stops}, look | {"strength": strength})
        return measure(np.clip(shot, 0, None), graded)

    tolerances = Tolerances(clipped=0.01)
    misfits = find_misfits(show(0, 1), None, tolerances)
    assert misfits[0].what == "clipped"
    exposure, *others = find_remedies(show, 1.0, None, tolerances, misfits)
    assert exposure.kind == "exposure"
    assert -3 <= exposure.value < 0
    assert show(exposure.value, 1).clipped <= 0.01
    assert show(exposure.value + 1 / 3, 1).clipped > 0.01, "no gentler one does"
    for other in others:
        assert show(0, other.value).clipped <= 0.01


@pytest.mark.parametrize("stops", [-1.5, -0.5, 0.8])
@pytest.mark.parametrize("warm", [-30, 0, 40])
def test_a_match_finds_the_exposure_and_the_white_that_were_changed(stops, warm):
    """Within a twentieth of a stop and three mired, in scene light where nothing is lost."""
    light = ENCODINGS["linear-709"]
    reference = scene(5) ** np.float32(2.2)
    changed = look_from(
        {
            "input": "linear-709",
            "output": "linear-709",
            "steps": [{"kind": "white-balance", "warm": warm}, {"kind": "tone", "exposure": stops}],
        }
    )
    shot = evaluate(prepare(changed), reference)
    found = match(see(shot, light), see(reference, light), light)
    assert found.exposure == pytest.approx(-stops, abs=0.05)
    assert found.warm == pytest.approx(-warm, abs=max(3, abs(warm) / 10)), "mireds of two adaptations do not quite add up"
    assert found.exposure_confidence > 0.9
    assert found.white_confidence == 1


def test_pictures_without_greys_are_not_trusted():
    red = np.broadcast_to(np.array([0.8, 0.1, 0.05], np.float32), (32, 32, 3)).copy()
    found = match(see(red, SRGB), see(scene(2), SRGB), SRGB)
    assert found.white_confidence == 0
    assert (found.warm, found.tint) == (0, 0)
    assert "no white could be read" in found.words or "0 % of this picture" in found.words


def seen(spread: float = 1.0, greys: float = 0.1, light: float = -2.0) -> Seen:
    return Seen(light, spread, (0.18, 0.18, 0.18), greys)


@pytest.mark.parametrize(("apart", "confidence"), [(0.0, 1.0), (0.5, 0.61), (1.0, 0.37), (2.0, 0.14)])
def test_exposure_is_trusted_less_the_more_differently_tones_are_spread(apart, confidence):
    """exp(-x) of the difference of their deviations in stops (docs/colour.md, common practice, no source)."""
    for own, other in ((1.0, 1.0 + apart), (1.0 + apart, 1.0)):
        found = match(seen(own), seen(other), SRGB)
        assert found.exposure_confidence == confidence
        assert (found.white_confidence, found.exposure) == (1.0, 0.0)
        assert f"{own:.1f} stops here and {other:.1f} there" in found.words


@pytest.mark.parametrize(("greys", "confidence"), [(0.03, 1.0), (0.3, 1.0), (0.015, 0.5), (0.003, 0.1), (0.0, 0.0)])
def test_white_is_trusted_as_far_as_the_picture_with_fewer_greys_allows(greys, confidence):
    for own, other in ((greys, 0.5), (0.5, greys)):
        assert match(seen(greys=own), seen(greys=other), SRGB).white_confidence == confidence


def test_a_few_lights_and_blacks_change_neither_brightness_nor_spread():
    values = scene(grey=1.0)
    before = see(values, SRGB)
    values[0, :6], values[1, :6] = 1.0, 0.0
    after = see(values, SRGB)
    assert (after.light, after.spread) == pytest.approx((before.light, before.spread), abs=0.02)
    assert float(np.log2(np.maximum(values, 1e-3)).std()) > 0.1


def test_the_spread_is_the_deviation_in_stops():
    """Half of it a stop above, half a stop below 18 % grey: a deviation of one."""
    light = np.where(np.arange(4000).reshape(40, 100, 1) % 2 == 0, 0.36, 0.09) * np.ones(3)
    found = see(light.astype(np.float32), ENCODINGS["linear-709"])
    assert (found.spread, found.light) == (pytest.approx(1.0, abs=1e-3), pytest.approx(np.log2(0.18), abs=1e-3))


def test_skin_is_told_of_only_where_there_is_enough_of_it():
    values = np.full((100, 100, 3), 0.4, np.float32)
    turned = values.copy()
    for count, told in ((99, False), (101, True)):
        flat, after = values.reshape(-1, 3).copy(), turned.reshape(-1, 3).copy()
        flat[:count], after[:count] = (0.78, 0.57, 0.45), (0.66, 0.62, 0.42)
        figures = measure(flat.reshape(100, 100, 3), after.reshape(100, 100, 3))
        assert (figures.skin != 0) is told
