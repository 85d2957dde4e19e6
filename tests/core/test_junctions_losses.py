"""Encodings at junctions, what is wrong at the end and how it is mended, and what detail steps destroy."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.engine.plan import prepare, settle_end
from saucer.core.errors import LookError, LutError
from saucer.core.reports.losses import find_losses
from tests.make import CHANGED, LUTS, SHA, WARM, a_look, evaluate

TO_LOG = {"kind": "convert", "to": "film-log"}
X = np.random.default_rng(7).random((4000, 3), dtype=np.float32)


def test_the_encoding_at_every_junction_is_derived():
    look = a_look(
        WARM, {"kind": "group", "steps": [TO_LOG, CHANGED["lut"] | {"ends_in": "gives"}]}, {"kind": "grain"}, output="rec709"
    )
    found = [(stage.path, stage.before.id, stage.after.id) for stage in prepare(look, LUTS).walk()]
    assert found == [
        ("steps[0]", "srgb", "srgb"),
        ("steps[1]", "srgb", "rec709"),
        ("steps[1].steps[0]", "srgb", "film-log"),
        ("steps[1].steps[1]", "film-log", "rec709"),
        ("steps[2]", "rec709", "rec709"),
    ]
    assert prepare(look, LUTS).problem == ""
    assert prepare(look, LUTS).first(1).end.id == "srgb"
    assert prepare(look, LUTS).first(2).end.id == "rec709"


def test_a_lut_step_comes_back_to_the_junctions_encoding_unless_told_to_go_on():
    back = a_look(TO_LOG, CHANGED["lut"], output="film-log")
    assert prepare(back, LUTS).end.id == "film-log"


@pytest.mark.parametrize("by", ["declare", "convert"])
def test_an_end_that_is_not_the_declared_output_is_reported_and_mended_either_way(by):
    look = a_look(WARM, TO_LOG)
    assert prepare(look).problem.startswith('the steps end in "film-log" but the look declares "srgb"; declare "film-log"')
    with pytest.raises(LookError, match="add a Convert step"):
        evaluate(look, X)
    whole = settle_end(look, by)
    assert prepare(whole).problem == ""
    assert whole.output == ("film-log" if by == "declare" else "srgb")
    assert np.isfinite(evaluate(whole, X)).all()


def test_a_conversion_that_is_off_is_not_there():
    look = a_look(TO_LOG | {"enabled": False}, WARM)
    assert [stage.after.id for stage in prepare(look).walk()] == ["srgb", "srgb"]
    assert np.array_equal(evaluate(look, X), evaluate(a_look(WARM), X))


def test_a_missing_lut_names_the_step():
    with pytest.raises(LutError, match=r"steps\[1\]\.steps\[0\], LUT: the LUT abababababab is not at hand"):
        evaluate(a_look(WARM, {"kind": "group", "steps": [CHANGED["lut"]]}), X)
    with pytest.raises(LutError, match=r'steps\[0\], LUT: "print.cube" was not read with the look'):
        evaluate(a_look({"kind": "lut", "file": "print.cube"}), X)


def test_clipping_is_counted_where_it_happens_and_stays_lost():
    clip = {"kind": "limit", "low": 0.25, "high": 0.75}
    found = find_losses(prepare(a_look(WARM, clip, CHANGED["saturation"], clip)), X)
    warm = evaluate(a_look(WARM), X)
    share = ((warm < 0.25) | (warm > 0.75)).any(axis=1).mean()
    assert [loss.path for loss in found] == [f"steps[{i}]" for i in range(4)]
    assert found[0].clipped == 0
    assert found[1].clipped == pytest.approx(share, abs=0.01)
    assert found[1].clipped_here == found[1].clipped
    assert found[2].clipped == found[1].clipped
    assert found[2].clipped_here == 0
    assert found[3].clipped >= found[2].clipped


def test_steps_that_lose_nothing_say_so():
    for kind in ("white-balance", "tone", "hue-bands", "split-tone", "wash"):
        (loss,) = find_losses(prepare(a_look(CHANGED[kind])), X)
        assert loss.clipped == 0, kind
        assert loss.merged < 0.001, kind


def test_merging_is_counted_in_distinct_colours():
    mono = {"kind": "channel-mix", "monochrome": True}
    (loss,) = find_losses(prepare(a_look(mono)), X)
    assert loss.clipped == 0
    codes = np.round(X * 1023) @ [0.2126, 0.7152, 0.0722]
    distinct = len(np.unique(np.round(codes / 1023 * 65535)))
    assert loss.merged == pytest.approx(1 - distinct / len(np.unique(np.round(X * 1023), axis=0)), abs=0.02)
    flat = {"kind": "levels", "master": {"output_black": 0.5, "output_white": 0.5}}
    (loss,) = find_losses(prepare(a_look(flat)), X)
    assert loss.clipped == 1
    assert loss.merged > 0.999


def test_groups_and_what_they_hold_are_listed_in_order_and_strength_saves_detail():
    clip = {"kind": "limit", "low": 0.3, "high": 0.7}
    found = find_losses(prepare(a_look({"kind": "group", "strength": 0.5, "steps": [WARM, clip]}, WARM)), X)
    assert [loss.path for loss in found] == ["steps[0]", "steps[0].steps[0]", "steps[0].steps[1]", "steps[1]"]
    assert found[2].clipped > 0.5
    assert found[0].clipped == 0, "half of the input still shows through the group"


def test_a_lut_in_front_of_a_correction_loses_what_the_correction_cannot_bring_back():
    """Common practice: corrections go before the transform LUT."""
    bright = np.clip(X * 1.6, 0, 1.6).astype(np.float32)
    found = find_losses(prepare(a_look(CHANGED["lut"], {"kind": "tone", "exposure": -1}), LUTS), bright)
    assert found[0].clipped == pytest.approx((bright > 1).any(axis=1).mean(), abs=0.02)
    assert found[1].clipped == found[0].clipped
    assert CHANGED["lut"]["sha256"] == SHA


def test_an_end_is_converted_before_what_no_lut_can_hold():
    """Behind it a bake would have to leave the conversion out."""
    soft = {"kind": "soft-focus", "amount": 0.3}
    whole = settle_end(a_look(TO_LOG, soft, WARM, {"kind": "grain"}, soft), "convert")
    assert [step.kind for step in whole.steps] == ["convert", "soft-focus", "curves", "convert", "grain", "soft-focus"]
    assert prepare(whole).problem == ""
    assert [step.kind for step in settle_end(a_look(TO_LOG, soft), "convert").steps] == ["convert", "convert", "soft-focus"]


def test_a_loss_is_told_once_where_it_happens_and_carried_through_what_follows():
    hard = {"kind": "limit", "low": 0.25, "high": 0.75}
    found = find_losses(prepare(a_look(hard, WARM, WARM)), X.reshape(40, 100, 3))
    assert found[0].clipped_here > 0.2
    assert [one.clipped_here for one in found[1:]] == [0, 0]
    assert all(one.clipped >= found[0].clipped for one in found[1:])
    again = find_losses(prepare(a_look(hard, WARM, hard | {"low": 0.3})), X.reshape(40, 100, 3))
    assert again[2].clipped_here > 0
    assert again[2].clipped == pytest.approx(again[0].clipped_here + again[2].clipped_here), "nothing is counted twice"
