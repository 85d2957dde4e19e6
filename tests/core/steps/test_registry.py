"""The common battery: what holds for every step kind, over the registry."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.evaluate import evaluate
from saucer.core.steps import step_kinds
from saucer.core.steps.parameters import StepParameters
from saucer.core.steps.registry import LINE_SAMPLES, StepKind, register
from tests.make import a_look

KINDS = list(step_kinds().values())
# One setting of each kind that changes something; a new kind adds its own here or the test that follows fails.
CHANGED = {"curves": {"kind": "curves", "master": [[0, 0.1], [0.4, 0.3], [1, 0.9]]}}
values = arrays(np.float32, (7, 3), elements=st.floats(-1, 16, width=32))


def test_every_kind_has_a_changed_setting():
    assert set(CHANGED) == set(step_kinds())


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.kind)
@given(x=values)
def test_neutral_returns_the_input_bit_for_bit(kind: StepKind, x: np.ndarray):
    step = kind.parameters()
    assert kind.neutral(step)
    for encoding in ENCODINGS.values():
        assert np.array_equal(kind.evaluate(step, x, encoding), x)


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.kind)
@given(x=values)
def test_shape_dtype_and_finite(kind: StepKind, x: np.ndarray):
    step = kind.parameters.model_validate(CHANGED[kind.kind])
    before = x.copy()
    result = kind.evaluate(step, x, ENCODINGS["srgb"])
    assert (result.shape, result.dtype) == (x.shape, np.float32)
    assert np.isfinite(result).all()
    assert np.array_equal(x, before), "the input was written to"


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.kind)
@given(x=values, strength=st.floats(0, 1, width=32))
def test_strength_goes_straight_from_the_input_to_the_full_effect(kind: StepKind, x: np.ndarray, strength: float):
    full = evaluate(a_look(CHANGED[kind.kind]), x)
    assert not np.array_equal(full, x) or np.array_equal(x, x[:1].repeat(7, 0))
    assert np.array_equal(evaluate(a_look(CHANGED[kind.kind] | {"strength": 0}), x), x)
    part = evaluate(a_look(CHANGED[kind.kind] | {"strength": strength}), x)
    expected = x.astype(np.float64) + strength * (full.astype(np.float64) - x)
    np.testing.assert_allclose(part, expected, rtol=3e-6, atol=3e-6)


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.kind)
def test_words_and_lines_for_people(kind: StepKind):
    step = kind.parameters.model_validate(CHANGED[kind.kind])
    assert kind.summary(step)
    assert kind.summary(kind.parameters()) == "no change"
    assert kind.lines(kind.parameters()) == {}
    assert all(len(line) == LINE_SAMPLES for line in kind.lines(step).values())


def test_a_second_registration_names_both_owners():
    class Other(StepParameters):
        kind: str = "curves"

    with pytest.raises(RuntimeError, match=r'"curves" of tests\.core\.steps.*already that of saucer\.core\.steps\.curves'):
        register(StepKind(Other, "Other", lambda s, v, e: v, lambda s: True, lambda s: "", lambda s: {}))
