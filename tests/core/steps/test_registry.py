"""The common battery: what holds for every step kind, over the registry."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, reject
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import SaucerError
from saucer.core.look.model import look_from
from saucer.core.numeric.planes import through
from saucer.core.steps.kinds import pixel_kinds
from saucer.core.steps.parameters import StepParameters
from saucer.core.steps.registry import LINE_SAMPLES, Junction, PixelKind, register
from tests.make import CHANGED, LUTS, a_look, any_step, evaluate

KINDS = list(pixel_kinds().values())
values = arrays(np.float32, (7, 3), elements=st.floats(-1, 16, width=32))
of_every_kind = pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.kind)


def but_for(*names: str) -> pytest.MarkDecorator:
    return pytest.mark.parametrize("kind", [kind for kind in KINDS if kind.kind not in names], ids=lambda kind: kind.kind)


def test_every_kind_has_a_changed_setting():
    assert set(CHANGED) == set(pixel_kinds())


@of_every_kind
@given(x=values, name=st.sampled_from(sorted(ENCODINGS)))
def test_neutral_returns_the_input_bit_for_bit(kind: PixelKind, x: np.ndarray, name: str):
    assert kind.neutral(kind.parameters())
    look = look_from({"input": name, "output": name, "steps": [{"kind": kind.kind}]})
    assert np.array_equal(evaluate(look, x), x)


@of_every_kind
@given(data=st.data(), x=values)
def test_any_setting_gives_finite_values_of_the_same_shape(kind: PixelKind, data: st.DataObject, x: np.ndarray):
    """Also for what `neutral` takes to be no change: run in full, it must be no more than a rounding."""
    step = data.draw(any_step(kind.kind))
    encoding = ENCODINGS[data.draw(st.sampled_from(sorted(ENCODINGS)))]
    before = x.copy()
    try:
        result = through(kind.prepare(step, Junction(encoding, luts=LUTS)), x)
    except SaucerError:
        reject()  # settings that an encoding does not allow are refused, with words of their own tests
    assert (result.shape, result.dtype) == (x.shape, np.float32)
    assert np.isfinite(result).all()
    assert np.array_equal(x, before), "the input was written to"


@but_for("lut", "convert")  # at neutral these name nothing to compute
@given(x=arrays(np.float32, (7, 3), elements=st.floats(-0.25, 1.5, width=32)))
def test_the_full_computation_at_neutral_is_the_input_but_for_rounding(kind: PixelKind, x: np.ndarray):
    """`neutral` is a short cut past the computation, not a difference from it."""
    result = through(kind.prepare(kind.parameters(), Junction(ENCODINGS["srgb"])), x)
    np.testing.assert_allclose(result, x, rtol=6e-5, atol=6e-5)


@but_for("convert")  # it has no strength, see test_convert
@given(x=values, strength=st.floats(0, 1, width=32))
def test_strength_goes_straight_from_the_converted_input_to_the_full_effect(kind: PixelKind, x: np.ndarray, strength: float):
    step = CHANGED[kind.kind]
    full = evaluate(a_look(step), x, luts=LUTS)
    assert np.array_equal(evaluate(a_look(step | {"strength": 0}), x, luts=LUTS), x)
    part = evaluate(a_look(step | {"strength": strength}), x, luts=LUTS)
    expected = x.astype(np.float64) + strength * (full.astype(np.float64) - x)
    np.testing.assert_allclose(part, expected, rtol=3e-6, atol=3e-6 * max(1, np.abs(full).max(), np.abs(x).max()))


@of_every_kind
def test_the_changed_setting_changes_a_picture(kind: PixelKind):
    x = np.random.default_rng(4).random((500, 3), dtype=np.float32)
    junction = Junction(ENCODINGS["srgb"], luts=LUTS)
    result = through(kind.prepare(kind.parameters.model_validate(CHANGED[kind.kind]), junction), x)
    assert np.abs(result - x).mean() > 0.005


@of_every_kind
def test_words_and_lines_for_people(kind: PixelKind):
    step, junction = kind.parameters.model_validate(CHANGED[kind.kind]), Junction(ENCODINGS["srgb"], luts=LUTS)
    assert kind.summary(step) != "no change"
    assert kind.summary(kind.parameters()) == "no change"
    # Zones and ranges are drawn at neutral too: they are what the editor moves.
    assert (kind.lines(kind.parameters(), junction) == {}) == (kind.kind not in ("isolate-hue", "split-tone"))
    assert all(len(line) == LINE_SAMPLES for line in kind.lines(step, junction).values())
    assert kind.parameters.__doc__
    assert kind.parameters.__doc__ != StepParameters.__doc__


def test_a_conversion_inside_a_group_leaves_only_itself_behind_at_strength_0():
    """COLOUR.md 2: strength fades the look, never the conversion."""
    x = np.random.default_rng(1).random((200, 3), dtype=np.float32)
    group = {"kind": "group", "steps": [{"kind": "convert", "to": "film-log"}, CHANGED["curves"]]}
    srgb, film = ENCODINGS["srgb"], ENCODINGS["film-log"]
    plain = convert(x, srgb, film)
    full = evaluate(a_look(group, output="film-log"), x)
    for strength in (0.0, 0.3):
        part = evaluate(a_look(group | {"strength": strength}, output="film-log"), x)
        np.testing.assert_allclose(part, plain + strength * (full - plain), atol=2e-6)
    off = evaluate(a_look(group | {"enabled": False}, output="film-log"), x)
    np.testing.assert_allclose(off, plain, atol=1e-7)


def test_a_second_registration_names_both_owners():
    class Other(StepParameters):
        kind: str = "curves"

    with pytest.raises(RuntimeError, match=r'"curves" of tests\.core\.steps.*already that of saucer\.core\.steps\.pixel\.curves'):
        register(replace(pixel_kinds()["curves"], parameters=Other))
