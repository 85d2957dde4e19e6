"""What is read off a picture on its way through a look: why a colour is so, what each step does, whether the look holds."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import oklab_to_linear
from saucer.core.engine.plan import prepare
from saucer.core.reports.along import walk_along
from saucer.core.reports.holding import find_failings
from saucer.core.reports.misfits import Tolerances
from saucer.core.reports.telling import tell_steps
from saucer.core.reports.why import most_moved, trace_colour
from tests.make import CHANGED_SPATIAL, WARM, a_look, evaluate, random_pixels, render

SRGB = ENCODINGS["srgb"]
DARKER = {"kind": "tone", "exposure": -1, "id": "darker"}
TINTED = {"kind": "split-tone", "all": {"hue": 250, "amount": 0.05}, "id": "tinted"}
HALF = {"kind": "group", "strength": 0.5, "id": "half", "steps": [DARKER, TINTED]}
SOFT = CHANGED_SPATIAL["soft-focus"] | {"id": "soft"}


def a_scene(seed: int = 3) -> np.ndarray:
    """(90, 160, 3) sRGB: greys from dark to light, skin, greens and blues, a quarter each, with a little noise in their hues."""
    random = np.random.default_rng(seed)
    hues, chromas = np.repeat([55.0, 55.0, 140.0, 255.0], 3600), np.repeat([0.0, 0.07, 0.09, 0.09], 3600)
    lights = np.concatenate([np.linspace(0.15, 0.97, 3600), *random.uniform(0.45, 0.75, (3, 3600))])
    angle = np.radians(hues + random.normal(0, 4, hues.size))
    lab = np.stack([lights, chromas * np.cos(angle), chromas * np.sin(angle)], axis=-1)
    return SRGB.transfer.encode(np.clip(oklab_to_linear(lab), 0, 1)).astype(np.float32).reshape(90, 160, 3)


def told(*steps: dict) -> list[str]:
    return [one.words for one in tell_steps(prepare(a_look(*steps)), a_scene())]


@pytest.mark.parametrize("steps", [[WARM, HALF], [WARM, SOFT, DARKER], [HALF | {"steps": [DARKER, SOFT]}, WARM]])
def test_what_is_reached_last_is_what_the_look_makes(steps):
    pixels = random_pixels()
    plan = prepare(a_look(*steps, strength=0.8))
    passed = list(walk_along(plan, pixels))
    np.testing.assert_allclose(passed[-1].after, render(a_look(*steps), pixels), atol=2e-6)
    for one, after in pairwise(passed):
        if one.stage.place[:1] != after.stage.place[:1]:
            assert (one.after == after.before).all()
    end = trace_colour(plan, pixels, lambda whole: whole[3:4, 5:6])[-1]
    np.testing.assert_allclose(end.codes, render(a_look(*steps, strength=0.8), pixels)[3, 5], atol=2e-6)
    assert end.title == "Strength of the look"


def test_a_colour_is_followed_step_by_step_and_the_step_that_moved_it_most_is_known():
    pixel = np.float32([[[0.5, 0.4, 0.3]]])
    reached = trace_colour(prepare(a_look(WARM | {"id": "warm"}, DARKER)), pixel, lambda whole: whole)
    assert [one.id for one in reached] == ["", "warm", "darker"]
    np.testing.assert_allclose(reached[0].codes, pixel[0, 0])
    np.testing.assert_allclose(reached[1].codes, evaluate(a_look(WARM), pixel)[0, 0], atol=1e-6)
    # A neutral grey of OKLab 0.6: sRGB by the formulas of Ottosson (2020).
    grey = trace_colour(prepare(a_look(DARKER)), np.full((1, 1, 3), 0.5028865, np.float32), lambda whole: whole)[0]
    assert (grey.lightness, grey.chroma) == (pytest.approx(0.6, abs=1e-3), pytest.approx(0, abs=1e-4))
    assert reached[2].lightness < reached[1].lightness
    assert most_moved(reached) == 2
    assert most_moved(reached[:1]) is None


def test_of_a_part_of_a_picture_means_and_spread_are_told():
    pixels = random_pixels()
    first, last = trace_colour(prepare(a_look(DARKER)), pixels, lambda whole: whole[2:6, 4:9])
    part = pixels[2:6, 4:9].reshape(-1, 3).astype(np.float64)
    np.testing.assert_allclose(first.codes, part.mean(axis=0), atol=1e-6)
    np.testing.assert_allclose(first.spread, part.std(axis=0), atol=1e-6)
    np.testing.assert_allclose(last.codes, evaluate(a_look(DARKER), pixels)[2:6, 4:9].reshape(-1, 3).mean(axis=0), atol=1e-6)


@pytest.mark.parametrize(
    ("step", "wanted"),
    [
        ({"kind": "curves", "master": [[0, 0.1], [1, 1]]}, "lifts blacks to "),
        ({"kind": "curves", "master": [[0, 0], [1, 0.8]]}, "lowers whites to "),
        ({"kind": "curves", "blue": [[0, 0.15], [1, 0.85]]}, "highlights 1"),
        ({"kind": "saturation", "factor": 0}, "takes the colour away"),
        ({"kind": "saturation", "factor": 1.4}, "more colour"),
        ({"kind": "tone", "exposure": -1}, "darker"),
        ({"kind": "tone", "contrast": 1.5}, "more contrast"),
        ({"kind": "split-tone", "shadows": {"hue": 250, "amount": 0.05}}, "shadows"),
        ({"kind": "colour-curves", "turn": [[100, 0], [140, -20], [180, 0]]}, "greens "),
    ],
)
def test_a_step_is_told_by_what_it_does(step, wanted):
    (words,) = told(step)
    assert wanted in words
    assert len(words.split(", ")) <= 3


def test_what_is_told_goes_the_right_way():
    (cool,) = told({"kind": "split-tone", "shadows": {"hue": 255, "amount": 0.05}, "highlights": {"hue": 85, "amount": 0.05}})
    assert "shadows" in cool.split(" cooler")[0]
    assert "highlights" in cool.split(" warmer")[0]
    (turned,) = told({"kind": "colour-curves", "turn": [[100, 0], [140, -20], [180, 0]]})
    assert turned.endswith("\N{DEGREE SIGN} to yellow")
    (plain,) = told({"kind": "saturation", "factor": 0.6})
    assert "warmer" not in plain
    assert "cooler" not in plain, "less colour in a warm picture is no tint"


def test_of_nothing_nothing_is_told_and_what_spreads_is_left_out():
    assert told({"kind": "tone"}) == [""]
    assert told(SOFT, DARKER | {"enabled": False}) == []


def test_a_look_holds_on_one_picture_and_fails_on_another_by_the_step_that_did_it():
    plan = prepare(a_look(TINTED, {"kind": "tone", "exposure": 1.2, "id": "lit"}))
    dark, bright = np.float32(0.15) + np.float32(0.35) * a_scene(), a_scene()
    assert [one.misfit.what for one in find_failings(plan, dark, Tolerances(skin=180))] == []
    failings = find_failings(plan, bright, Tolerances(skin=10))
    by = {one.misfit.what: one.id for one in failings}
    assert by["clipped"] == "lit"
    assert by["skin"] == "tinted"
    assert [one.times for one in failings] == sorted((one.times for one in failings), reverse=True)
    assert all(one.times > 1 for one in failings)


def test_at_part_strength_a_look_holds_where_it_did_not():
    steps = [{"kind": "curves", "master": [[0, 0], [0.6, 1], [1, 1]]}]
    assert find_failings(prepare(a_look(*steps)), a_scene(), Tolerances())
    assert not find_failings(prepare(a_look(*steps, strength=0.3)), a_scene(), Tolerances())
