from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import LookError
from saucer.core.look.model import look_from
from saucer.core.steps.pixel.curves import SMALLEST_STEP, Curves, evaluate_curve, summary
from tests.make import BENT, a_look, evaluate

shares = st.floats(0, 1, allow_nan=False)


@st.composite
def points(draw: st.DrawFn, rising: bool = False) -> list[tuple[float, float]]:
    count = draw(st.integers(2, 16))
    gaps = np.array(draw(st.lists(st.floats(0.01, 1), min_size=count + 1, max_size=count + 1)))
    x = SMALLEST_STEP * np.arange(count) + np.cumsum(gaps / gaps.sum() * (1 - count * SMALLEST_STEP))[:-1]
    if draw(st.booleans()):
        x[0], x[-1] = 0.0, 1.0
    y = np.array(draw(st.lists(shares, min_size=count, max_size=count)))
    return list(zip(x.tolist(), (np.sort(y) if rising else y).tolist(), strict=True))


@given(points(), st.sampled_from(["smooth", "natural", "linear"]))
def test_the_curve_goes_through_its_points(curve, interpolation):
    x, y = np.array(curve).T
    np.testing.assert_allclose(evaluate_curve(curve, interpolation, x), y, atol=2e-5)


@given(points(rising=True))
def test_rising_points_give_a_rising_curve_without_overshoot(curve):
    """Source of the property: Hyman 1983, section 2."""
    y = evaluate_curve(curve, "smooth", np.linspace(curve[0][0], curve[-1][0], 2001, dtype=np.float32))
    assert np.diff(y).min() > -2e-6
    assert y.min() >= curve[0][1] - 2e-6
    assert y.max() <= curve[-1][1] + 2e-6


@given(points(), st.sampled_from(["smooth", "natural"]))
def test_the_slope_is_continuous(curve, interpolation):
    from saucer.core.steps.pixel.curves import segments

    knots, pieces = segments(tuple(curve), interpolation)
    for at in range(1, len(knots) - 1):
        left, right = pieces[:, at].astype(float), pieces[:, at + 1].astype(float)
        t = float(knots[at]) - left[0]
        slope = left[2] + 2 * left[3] * t + 3 * left[4] * t * t
        assert slope == pytest.approx(right[2], abs=1e-3 * max(1, abs(right[2]), np.abs(left[2:]).max() * 1e-2))


def test_beyond_the_ends():
    straight_on = [[0, 0], [0.5, 0.25], [1, 1]]
    y = evaluate_curve(straight_on, "linear", np.array([-0.5, 2.0]))
    assert y == pytest.approx([-0.25, 2.5])
    held = [[0.2, 0.1], [0.8, 0.9]]
    assert evaluate_curve(held, "smooth", np.array([-1, 0, 0.2, 0.8, 1, 5])) == pytest.approx([0.1, 0.1, 0.1, 0.9, 0.9, 0.9])


def test_channel_curves_come_before_master():
    x = np.array([[0.2, 0.5, 0.9]], np.float32)
    both = evaluate(a_look({"kind": "curves", "red": BENT, "master": BENT}), x)
    one_by_one = evaluate(a_look({"kind": "curves", "red": BENT}, {"kind": "curves", "master": BENT}), x)
    assert np.array_equal(both, one_by_one)
    assert both[0, 0] != both[0, 1]


def test_master_on_luma_keeps_the_differences_between_channels():
    x = np.array([[0.2, 0.5, 0.9], [0.4, 0.4, 0.4]], np.float32)
    for encoding in ("srgb", "acescct"):
        result = evaluate(a_look({"kind": "curves", "master": BENT, "master_on": "luma"}, input=encoding, output=encoding), x)
        np.testing.assert_allclose(np.diff(result, axis=1), np.diff(x, axis=1), atol=1e-6)
        luma = (x @ ENCODINGS[encoding].luma).astype(np.float32)
        np.testing.assert_allclose(result @ ENCODINGS[encoding].luma, evaluate_curve(BENT, "smooth", luma), atol=1e-6)


def test_clip_holds_and_is_not_neutral():
    x = np.array([[-0.5, 0.5, 3.0]], np.float32)
    assert np.array_equal(evaluate(a_look({"kind": "curves", "clip": True}), x), [[0, 0.5, 1]])
    assert evaluate(a_look({"kind": "curves", "master": [[0, 0.5], [1, 1]]}), x)[0, 2] == pytest.approx(2.0)


def test_lifting_the_blue_black_point_tints_shadows_and_leaves_white():
    """Common practice, no source: blue black point at 51 of 255."""
    look = a_look({"kind": "curves", "blue": [[0, 51 / 255], [1, 1]]})
    black, white = evaluate(look, np.array([[0, 0, 0], [1, 1, 1]], np.float32))
    assert black == pytest.approx([0, 0, 0.2])
    assert np.array_equal(white, [1, 1, 1])


def test_crossed_s_curves_turn_sea_green_skies_pale_yellow_and_shadows_purple_brown():
    """Common practice, no source: an S on red and green, the inverse S on blue."""
    s, inverse = [[0, 0], [0.25, 0.15], [0.75, 0.88], [1, 1]], [[0, 0], [0.25, 0.35], [0.75, 0.65], [1, 1]]
    look = a_look({"kind": "curves", "red": s, "green": s, "blue": inverse})
    sky, shadow = evaluate(look, np.array([[0.7, 0.8, 0.75], [0.2, 0.15, 0.15]], np.float32))
    assert sky[2] < min(sky[:2]), "yellow: less blue than red and green"
    assert shadow[2] > shadow[1]
    assert shadow[0] > shadow[1], "purple-brown: least of it green"


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [
        (
            "red",
            [[0, 0], [0.41, 0.5], [0.38, 0.6], [1, 1]],
            "steps[0].red[2]: in must be larger than the point before (0.41) by at least 1/1023, got 0.38",
        ),
        ("red", [[0, 0], [0.5, 1.2]], "steps[0].red[1][1]: must be at most 1, got 1.2"),
        ("blue", [[0, 0]], "steps[0].blue: "),
        ("master", [[i / 20, 0.5] for i in range(17)], "steps[0].master: "),
        ("interpolation", "wavy", "steps[0].interpolation: "),
        ("strength", 1.6, "steps[0].strength: must be at most 1.5, got 1.6"),
        ("strenght", 1, "steps[0].strenght: unknown field"),
    ],
)
def test_wrong_parameters_are_refused_by_name(field, value, words):
    with pytest.raises(LookError) as refusal:
        look_from({"steps": [{"kind": "curves", field: value}]}, "a.json")
    assert str(refusal.value).startswith(f"a.json: {words}")


def test_summary_names_what_moved():
    assert summary(Curves(blue=((0, 0.1), (1, 0.9)))) == "blue black 26 white 230"
    assert summary(Curves(red=((0, 0), (0.5, 0.6), (1, 1)))) == "red 3 points"


def test_a_curve_over_a_range_is_the_same_curve_in_its_shares():
    points = [[0, 0.02], [0.4, 0.3], [1, 0.9]]
    narrow = look_from({"input": "linear-709", "output": "linear-709", "steps": [{"kind": "curves", "master": points}]})
    step = {"kind": "curves", "master": points, "low": -0.5, "high": 11.5}
    wide = look_from({"input": "linear-709", "output": "linear-709", "steps": [step]})
    shares = np.random.default_rng(2).uniform(-0.1, 1.2, (500, 3)).astype(np.float32)
    light = (shares * 12 - 0.5).astype(np.float32)
    np.testing.assert_allclose(evaluate(wide, light), evaluate(narrow, shares) * 12 - 0.5, atol=2e-5)


def test_light_above_white_is_bent_and_held_by_its_range():
    bent = {"kind": "curves", "master": [[0, 0], [0.5, 0.8], [1, 1]], "high": 16}
    look = look_from({"input": "linear-709", "output": "linear-709", "steps": [bent]})
    assert evaluate(look, np.full((1, 3), 8, np.float32))[0, 0] == pytest.approx(12.8, abs=1e-4)
    held = look_from({"input": "linear-709", "output": "linear-709", "steps": [bent | {"clip": True}]})
    assert evaluate(held, np.full((1, 3), 40, np.float32))[0, 0] == 16
    assert summary(Curves.model_validate(bent)) == "master 3 points, over 0 to 16"
