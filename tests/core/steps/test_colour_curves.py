"""Colour curves: cyclic where hue is, never beyond their points, and refused with words where points cannot be followed."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab, oklab_to_linear
from saucer.core.steps.pixel.colour_curves import ColourCurves, evaluate_curve, summary
from tests.make import a_look, any_step, evaluate

SRGB, LINEAR = ENCODINGS["srgb"], ENCODINGS["linear-709"]
CIRCLE = np.linspace(0, 359.99, 3601)


def _run(step: dict[str, object], pixels: np.ndarray) -> np.ndarray:
    return evaluate(a_look({"kind": "colour-curves", **step}), pixels)


def _of_hue(hue: float, lightness: float = 0.7, chroma: float = 0.1) -> np.ndarray:
    """(1, 3) sRGB code values"""
    a, b = chroma * np.cos(np.radians(hue)), chroma * np.sin(np.radians(hue))
    return convert(oklab_to_linear(np.array([[lightness, a, b]])).astype(np.float32), LINEAR, SRGB)


def _seen(pixels: np.ndarray) -> tuple[float, float, float]:
    """Lightness, chroma and hue in degrees."""
    (lab,) = linear_to_oklab(convert(pixels, SRGB, LINEAR).astype(np.float64))
    return lab[0], float(np.hypot(lab[1], lab[2])), float(np.degrees(np.arctan2(lab[2], lab[1])) % 360)


@given(step=any_step("colour-curves"))
def test_curves_run_through_their_points_and_never_beyond_them(step):
    for name in ("turn", "saturation", "lightness"):
        points = getattr(step, name)
        if points:
            x, y = np.array(points).T
            np.testing.assert_allclose(evaluate_curve(step, name, x), y, atol=2e-4)
            found = evaluate_curve(step, name, CIRCLE)
            assert found.min() >= y.min() - 2e-4
            assert found.max() <= y.max() + 2e-4


@given(step=any_step("colour-curves"))
def test_over_hue_the_ends_meet_in_value_and_slope(step):
    for name in ("turn", "saturation", "lightness"):
        start, end = evaluate_curve(step, name, [0, 0.01]), evaluate_curve(step, name, [359.98, 359.99])
        # A hundredth of a degree on, at the slope that there is: a curve may fall by tens of degrees within one.
        onwards = float(2 * end[1] - end[0])
        assert start[0] == pytest.approx(onwards, abs=2e-3 * max(1, float(np.abs(end).max())))
    turned = [((x + 137) % 360, y) for x, y in step.saturation]
    other = ColourCurves(saturation=tuple(sorted(turned)))
    np.testing.assert_allclose(
        evaluate_curve(other, "saturation", (CIRCLE + 137) % 360), evaluate_curve(step, "saturation", CIRCLE), atol=2e-3
    )


def test_each_curve_does_to_a_colour_what_it_says():
    points = {"turn": [[60, 25]], "saturation": [[20, 1], [60, 0.5], [100, 1]], "lightness": [[20, 0], [60, 0.05], [100, 0]]}
    light, chroma, hue = _seen(_run(points, _of_hue(60)))
    assert (light, chroma, hue) == pytest.approx((0.75, 0.05, 85), abs=2e-3)
    light, chroma, hue = _seen(_run({"saturation_by_lightness": [[0.3, 0], [0.9, 1]]}, _of_hue(60, 0.6)))
    assert (light, chroma) == pytest.approx((0.6, 0.05), abs=1e-3)
    away = _run({"lightness": points["lightness"]}, _of_hue(240, 0.5))
    np.testing.assert_allclose(away, _of_hue(240, 0.5), atol=2e-6)


@given(hue=st.floats(0, 359.9), others=st.floats(0, 2))
def test_nothing_jumps_at_grey(hue, others):
    """Two colours of hardly any chroma stay as near to each other as they were, however far apart their hues are."""
    step = {"turn": [[hue, 170]], "saturation": sorted([[(hue + 90) % 360, others], [(hue + 270) % 360, 2]])}
    one, other = (_of_hue(at % 360, chroma=2e-4) for at in (hue, hue + 180))
    there = _run(step, np.concatenate([one, other]))
    assert np.abs(there[0] - there[1]).max() <= 4 * np.abs(one - other).max() + 1e-6


@pytest.mark.parametrize(
    ("points", "words"),
    [
        ({"turn": [[40, 5], [41, 0]]}, "turn[1]: must be at least 2 after the point before (40), got 41"),
        ({"saturation": [[0, 1], [180, 2], [359, 1]]}, "saturation[0]: must be at least 2 after the point before (359), got 0"),
        ({"saturation_by_lightness": [[0.5, 1], [0.4, 1]]}, "saturation_by_lightness[1]: must be at least 0.01"),
        ({"saturation": [[40, 5]]}, "less than or equal to 4"),
        ({"turn": [[360, 5]]}, "less than 360"),
    ],
)
def test_points_that_cannot_be_followed_are_told(points, words):
    with pytest.raises(ValidationError) as problem:
        ColourCurves.model_validate(points)
    assert words in str(problem.value)


def test_it_is_told_in_words():
    assert summary(ColourCurves()) == "no change"
    assert (
        summary(ColourCurves(turn=((40, 5), (90, 0)), lightness=((10, 0.1), (50, -0.1)))) == "hue at 1 point, lightness at 2 points"
    )
