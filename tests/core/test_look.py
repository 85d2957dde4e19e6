from __future__ import annotations

import json

import numpy as np
import pytest

from saucer.core.engine.plan import prepare
from saucer.core.errors import LookError, ShapeError
from saucer.core.look.model import look_from, look_text, parse_look
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from tests.make import BENT, CHANGED, WARM, a_look, evaluate, random_pixels, sample_look

GOOD = '{"format": "saucer-look", "version": 1, "name": "Dusk",\n "steps": [{"kind": "curves", "blue": [[0, 0.1], [1, 0.9]]}]}'


def test_a_look_file_and_back():
    look = parse_look(GOOD)
    assert parse_look(look_text(look)) == look
    assert "[0.0, 0.1]" in look_text(look), "points stand on one line each"


@pytest.mark.parametrize(
    ("broken", "words"),
    [
        (GOOD.replace('"steps"', '"steps" :'), "dusk.json, line 2: not valid JSON: "),
        (GOOD.replace("0.9", "NaN"), "dusk.json: NaN is not a number that can be kept"),
        (GOOD.replace('"name"', '"nmae"'), "dusk.json: nmae: unknown field; remove it or check its spelling"),
        (
            GOOD.replace('"curves"', '"crves"'),
            'dusk.json: steps[0]: unknown kind of step "crves"; known are bloom, cdl, channel-mix, colour-curves, convert, curves, ',
        ),
        (GOOD.replace('"kind": "curves", ', ""), 'dusk.json: steps[0]: a step needs a "kind"'),
        (GOOD.replace("saucer-look", "other"), 'dusk.json: not a look file: it must be a JSON object with "format": "saucer-look"'),
        (GOOD.replace('"version": 1', '"version": 9'), "dusk.json: version: "),
        (GOOD.replace('"version": 1', '"input": "srbg"'), 'dusk.json: input: unknown encoding "srbg"; use one of srgb, '),
        (GOOD.replace('"version": 1', '"name": "x"'), 'dusk.json: the field "name" stands twice in one object'),
        (GOOD.replace('"version": 1', '"strength": 1' + "0" * 5000), "dusk.json: holds a number of too many digits"),
        ("[]", "dusk.json: not a look file"),
        ("", "dusk.json, line 1: not valid JSON"),
        ("[" * 100000, "dusk.json: nested too deeply"),
        (b"\xff\xfe{", "dusk.json"),
    ],
)
def test_broken_look_files_say_where_and_what(broken, words):
    with pytest.raises(LookError) as refusal:
        parse_look(broken, "dusk.json")
    assert str(refusal.value).startswith(words)


@pytest.mark.parametrize(
    ("points", "words"),
    [
        ([[0, 0]], ["steps[0].red: must hold at least 2, got 1"]),
        ([[0, 2]], ["steps[0].red[0][1]: must be at most 1, got 2"]),
        ([[one / 40, 0] for one in range(40)], ["steps[0].red: may hold at most 16"]),
        ([[0, 0], [0.5, "x"]], ["steps[0].red[1][1]: input should be a valid number"]),
    ],
)
def test_a_list_is_counted_only_where_nothing_in_it_is_wrong(points, words):
    with pytest.raises(LookError) as refusal:
        look_from({"steps": [{"kind": "curves", "red": points}, {"kind": "curves", "blue": [[0, 0], [1, 7]]}]})
    first, second = str(refusal.value).removeprefix("look: ").split(" ; ")
    assert [first.partition(", unable")[0]] == words
    assert second == "steps[1].blue[1][1]: must be at most 1, got 7"


def test_too_many_steps_and_too_deep_groups():
    with pytest.raises(LookError, match="201 steps; 200 is the most"):
        look_from({"steps": [{"kind": "curves"}] * 201})
    nested: dict = {"kind": "curves"}
    for _ in range(9):
        nested = {"kind": "group", "steps": [nested]}
    with pytest.raises(LookError, match="groups stand 9 deep; 8 is the most"):
        look_from({"steps": [nested]})


def test_the_content_hash_is_of_what_the_look_does():
    look = a_look(WARM)
    assert a_look(WARM | {"name": "Warmth", "note": "For the lamps", "id": "x"}, name="Other").content_hash == look.content_hash
    assert a_look(WARM | {"strength": 0.5}).content_hash != look.content_hash
    assert (
        a_look(WARM, {"kind": "curves", "master": BENT}).content_hash
        != a_look({"kind": "curves", "master": BENT}, WARM).content_hash
    )


def test_order_matters_and_off_is_off():
    x = random_pixels()
    one, other = WARM, {"kind": "curves", "master": BENT}
    assert not np.array_equal(evaluate(a_look(one, other), x), evaluate(a_look(other, one), x))
    assert np.array_equal(evaluate(a_look(one | {"enabled": False}, other), x), evaluate(a_look(other), x))


def test_a_group_at_full_strength_changes_nothing_and_fades_as_one():
    x = random_pixels()
    inner = [WARM, {"kind": "curves", "master": BENT}]
    plain = evaluate(a_look(*inner), x)
    assert np.array_equal(evaluate(a_look({"kind": "group", "steps": inner}), x), plain)
    half = evaluate(a_look({"kind": "group", "strength": 0.5, "steps": inner}), x)
    np.testing.assert_allclose(half, (x + plain) / 2, atol=1e-6)
    assert np.array_equal(evaluate(a_look({"kind": "group", "enabled": False, "steps": inner}), x), x)


def test_the_strength_of_the_look():
    x = random_pixels()
    full = evaluate(a_look(WARM), x)
    np.testing.assert_allclose(evaluate(a_look(WARM, strength=0.25), x), x + 0.25 * (full - x), atol=1e-6)


def test_stages_are_the_first_steps():
    x = random_pixels()
    look = a_look(WARM, {"kind": "curves", "master": BENT})
    assert np.array_equal(evaluate(look, x, 0), x)
    assert np.array_equal(evaluate(look, x, 1), evaluate(a_look(WARM), x))
    assert np.array_equal(evaluate(look, x, 2), evaluate(look, x))


@pytest.mark.parametrize("size", [2, 9, 33])
def test_the_lattice_at_its_nodes_is_exact(size):
    look = a_look(WARM, {"kind": "curves", "master": BENT})
    np.testing.assert_allclose(apply_lut(sample_look(look, size), grid(size)), evaluate(look, grid(size)), atol=1e-6)


def test_linear_looks_are_sampled_behind_a_shaper():
    look = a_look({"kind": "curves", "master": [[0, 0.02], [1, 0.9]]}, input="linear-709", output="linear-709")
    lut = sample_look(look, 33)
    assert lut.kind == "1D + 3D"
    x = np.repeat(np.geomspace(0.002, 15, 200, dtype=np.float32)[:, None], 3, axis=1)
    np.testing.assert_allclose(apply_lut(lut, x), evaluate(look, x), rtol=0.02, atol=2e-4)


def test_an_output_that_the_steps_do_not_reach_is_reported_with_the_fix():
    with pytest.raises(
        LookError,
        match='the steps end in "srgb" but the look declares "film-log"; declare "srgb" as the output, or add a Convert step',
    ):
        evaluate(a_look(input="srgb", output="film-log"), random_pixels())


def test_arrays_of_the_wrong_kind_are_refused():
    with pytest.raises(ShapeError, match="float64"):
        evaluate(a_look(), random_pixels().astype(np.float64))
    with pytest.raises(ShapeError, match=r"\(24, 40\)"):
        evaluate(a_look(), random_pixels()[..., 0])


def test_the_stored_form_is_plain_json():
    look = a_look({"kind": "group", "steps": [WARM]}, name="Salt")
    assert look_from(json.loads(json.dumps(look.model_dump(mode="json")))) == look


def test_what_leads_to_a_step_in_a_group_is_what_its_light_went_through():
    inner = {
        "kind": "group",
        "strength": 0.3,
        "steps": [CHANGED["levels"], {"kind": "group", "steps": [CHANGED["cdl"], WARM | {"id": "w"}]}],
    }
    look = a_look(CHANGED["tone"], inner, CHANGED["wash"], strength=0.5)
    leading = prepare(look).leading_to("w")
    assert [stage.step.kind for stage in leading.stages] == ["tone", "levels", "cdl"]
    assert leading.strength == 1
    assert prepare(look).leading_to("").stages == ()
    assert prepare(look).leading_to("nowhere").stages == ()
