"""Strengths beyond full, where the steps allow it."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.errors import LookError
from tests.make import CHANGED, WARM, a_look, evaluate, random_pixels, render

LIMIT = {"kind": "limit", "high": 0.8}


def test_half_as_much_again_goes_on_in_a_straight_line():
    pixels = random_pixels()
    once = evaluate(a_look(WARM), pixels)
    for look in (a_look(WARM | {"strength": 1.5}), a_look(WARM, strength=1.5),
                 a_look({"kind": "group", "strength": 1.5, "steps": [WARM]})):  # fmt: skip
        np.testing.assert_allclose(evaluate(look, pixels), pixels + 1.5 * (once - pixels), atol=2e-6)


def test_a_spatial_step_goes_beyond_too():
    pixels = random_pixels()
    step = {"kind": "vignette", "amount": 0.5}
    once = render(a_look(step), pixels)
    np.testing.assert_allclose(render(a_look(step | {"strength": 1.2}), pixels), pixels + 1.2 * (once - pixels), atol=2e-6)


@pytest.mark.parametrize(
    ("look", "said"),
    [
        ({"steps": [LIMIT | {"strength": 1.1}]}, "steps[0].strength: must be at most 1, got 1.1"),
        ({"strength": 1.1, "steps": [WARM, LIMIT]}, "strength: must be at most 1, for it holds a step that goes no further (Limit), got 1.1"),
        ({"steps": [{"kind": "group", "strength": 1.3, "steps": [CHANGED["isolate-hue"]]}]},
         "steps[0].strength: must be at most 1, for it holds a step that goes no further (Isolate hue), got 1.3"),
        ({"steps": [WARM | {"strength": 1.6}]}, "steps[0].strength: must be at most 1.5, got 1.6"),
    ],
)  # fmt: skip
def test_what_goes_no_further_says_so(look, said):
    with pytest.raises(LookError) as error:
        a_look(**look) if "steps" not in look else a_look(*look["steps"], **{k: v for k, v in look.items() if k != "steps"})
    assert said in str(error.value)
