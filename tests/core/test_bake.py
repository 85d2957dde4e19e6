"""Parts, encodings and exact chains of a bake, and its fidelity."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.bake.bake import Words, bake_file, round_as_written
from saucer.core.bake.exact import chain_of
from saucer.core.bake.fidelity import Spread, Truth, measure, survey
from saucer.core.bake.part import Part, name_left_out, put_between, take_part
from saucer.core.colour.conversion import convert
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.plan import prepare
from saucer.core.errors import LookError, LutError
from saucer.core.files.format import Options
from saucer.core.files.registry import formats, read_lut
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import halton
from saucer.core.lut.table import Lattice
from tests.make import CHANGED, LUTS, WARM, a_look, evaluate, random_pixels

X = halton(4000)
CUBE = formats()["cube"]
SRGB, ACES, REC709 = ENCODINGS["srgb"], ENCODINGS["acescct"], ENCODINGS["rec709"]
FOUR = a_look(
    CHANGED["cdl"], {"kind": "group", "name": "Film", "strength": 0.7, "steps": [{"kind": "convert", "to": "acescct"}, CHANGED["tone"], {"kind": "convert", "to": "srgb"}]},
    {"kind": "grain", "amount": 0.4}, CHANGED["saturation"], strength=0.5,
)  # fmt: skip


def test_steps_k_to_m_stand_alone():
    part = take_part(FOUR, Part(2, 3))
    assert [step.kind for step in part.steps] == ["group", "grain"]
    assert (part.strength, part.input, part.output) == (1.0, "srgb", "srgb")
    alone = a_look(FOUR.model_dump(mode="json")["steps"][1])
    np.testing.assert_array_equal(evaluate(part, X), evaluate(alone, X))


def test_a_part_may_begin_with_the_first_step_and_end_with_the_last():
    assert [step.kind for step in take_part(FOUR, Part(1, 1)).steps] == ["cdl"]
    assert [step.kind for step in take_part(FOUR, Part(1, 4)).steps] == ["cdl", "group", "grain", "saturation"]
    assert [step.kind for step in take_part(FOUR, Part(4, 4)).steps] == ["saturation"]


@pytest.mark.parametrize(
    ("expects", "gives", "kinds"),
    [
        ("srgb", "srgb", ["tone"]), ("srgb", "", ["tone"]), ("", "", ["tone"]), ("srgb", "rec709", ["tone", "convert"]),
        ("acescct", "srgb", ["convert", "tone"]), ("acescct", "", ["convert", "tone"]), ("acescct", "rec709", ["convert", "tone", "convert"]),
    ],
)  # fmt: skip
def test_a_conversion_is_put_only_where_the_encoding_is_another(expects, gives, kinds):
    put = put_between(a_look(CHANGED["tone"]), expects, gives)
    assert [step.kind for step in put.steps] == kinds
    assert (put.input, put.output) == (expects or "srgb", gives or "srgb")


def test_a_group_or_a_step_inside_it_stands_alone_in_its_own_encoding():
    group = take_part(FOUR, Part(path="steps[1]"))
    assert (group.input, group.output, len(group.steps)) == ("srgb", "srgb", 1)
    inner = take_part(FOUR, Part(path="steps[1].steps[1]"))
    assert (inner.input, inner.output) == ("acescct", "acescct")
    np.testing.assert_array_equal(evaluate(inner, X), evaluate(a_look(CHANGED["tone"], input="acescct", output="acescct"), X))


@pytest.mark.parametrize(
    ("part", "words"),
    [
        (Part(3, 9), "the look has steps 1 to 4, got 3 to 9"),
        (Part(3, 2), "got 3 to 2"),
        (Part(path="steps[7]"), 'there is no "steps\\[7\\]" in this look'),
    ],
)
def test_a_part_that_is_not_there(part, words):
    with pytest.raises(LookError, match=words):
        take_part(FOUR, part)


def test_conversions_are_put_around_and_strength_leaves_them_alone():
    """At strength 0 a look between two encodings is the plain conversion from one to the other."""
    off = put_between(a_look(CHANGED["tone"], strength=0.0), "acescct", "rec709")
    np.testing.assert_allclose(evaluate(off, X), convert(X, ACES, REC709), rtol=1e-4, atol=2e-5)
    on = put_between(a_look(CHANGED["tone"]), "acescct", "rec709")
    expected = convert(evaluate(a_look(CHANGED["tone"]), np.asarray(convert(X, ACES, SRGB), np.float32)), SRGB, REC709)
    np.testing.assert_allclose(evaluate(on, X), expected, rtol=1e-4, atol=2e-5)


@pytest.mark.parametrize("form", sorted(formats()))
def test_the_same_inputs_give_the_same_bytes_and_the_words_are_in(form):
    look = a_look(CHANGED["cdl"]) if form != "spi1d" else a_look(WARM)
    words = Words("Salt", "Ilse", "Team only", "First\nlight", ("Version 3 of Salt",))
    one, two = (bake_file(look, formats()[form], 9, words, Options()) for _ in range(2))
    assert one.data == two.data
    if formats()[form].holds.words and form != "icc":
        told = "\n".join(read_lut(one.data, "a")[0].comments)
        for expected in (
            "Made with Saucer",
            "Version 3 of Salt",
            "Expects srgb, gives srgb",
            "Author: Ilse",
            "Rights: Team only",
            "Note: First light",
        ):
            assert expected in told


def test_what_no_lut_holds_is_left_out_and_said():
    assert name_left_out(prepare(FOUR)) == ["Grain (step 3)"]
    made = bake_file(FOUR, CUBE, 17, Words("Salt"))
    assert "Left out: Grain (step 3)" in read_lut(made.data, "a")[0].comments
    assert len(FOUR.steps) == 4, "the look is as it was"


@pytest.mark.parametrize("kind", ["cdl", "channel-mix", "levels", "white-balance", "convert", "lut"])
def test_steps_with_formulas_are_written_as_formulas(kind):
    look = a_look(CHANGED[kind], output="acescct" if kind == "convert" else "srgb")
    chain = chain_of(prepare(look, LUTS), 5)
    assert kind == "lut" or not any(isinstance(node, Lattice) for node in chain.chain)
    np.testing.assert_allclose(apply_lut(chain, X), evaluate(look, X, luts=LUTS), atol=3e-5)


def test_formulas_and_lattices_stand_in_the_order_of_the_steps():
    look = a_look(
        {"kind": "cdl", "slope": [0.9, 1, 0.95]},
        CHANGED["isolate-hue"],
        {"kind": "convert", "to": "linear-709"},
        CHANGED["tone"],
        output="linear-709",
    )
    chain = chain_of(prepare(look), 33)
    assert [type(node).__name__ for node in chain.chain] == ["Cdl", "Lattice", "Exponent", "Log", "Lattice"]
    one, many = (np.abs(apply_lut(chain_of(prepare(look), size), X) - evaluate(look, X)).mean() for size in (17, 65))
    assert many < one / 3, "a larger lattice is nearer"


def test_a_look_that_is_only_a_cdl_is_written_exactly_as_one():
    look = a_look(CHANGED["cdl"])
    made = bake_file(look, formats()["cdl"], 33, Words("Salt"))
    assert made.lost == ()
    np.testing.assert_allclose(apply_lut(made.lut, X), evaluate(look, X), atol=2e-6)
    nearest = bake_file(a_look(CHANGED["hue-bands"]), formats()["cc"], 33, Words("Salt"))
    assert nearest.lost == ("only slope, offset, power and saturation fit: this is the nearest",)
    assert nearest.largest > 0.05


@pytest.mark.parametrize(("form", "depth"), [("3dl", 8), ("3dl", 12), ("hald", 8), ("icc", 16)])
def test_stored_is_what_the_file_will_hold(form, depth):
    """So that fidelity can include the rounding without writing a file."""
    look = a_look(WARM)
    made = bake_file(look, formats()[form], 16, Words(), Options(depth))
    np.testing.assert_allclose(
        apply_lut(round_as_written(bake_file(look, CUBE, 16, Words()).lut, formats()[form], Options(depth)), X),
        apply_lut(made.lut, X),
        atol=1e-6,
    )


def test_the_fast_difference_is_the_formula():
    """Checked itself against Sharma's pairs and colour-science in tests/reference/test_difference.py."""
    y = np.clip(X + np.random.default_rng(2).normal(scale=0.05, size=X.shape), -0.2, 2).astype(np.float32)
    slow = ciede2000(linear_709_to_lab(X.astype(float)), linear_709_to_lab(y.astype(float)))
    np.testing.assert_allclose(difference_of_light(X, y), slow, atol=1e-9)


def test_fidelity_falls_with_size_and_proposes_the_smallest_good_one():
    look = a_look(CHANGED["curves"], CHANGED["split-tone"], CHANGED["hue-bands"] | {"strength": 0.5})
    truth = Truth(prepare(look), random_pixels(60, 80))
    found = survey(truth, CUBE, tolerance=0.5)
    errors = [one.colours.uniform.mean for one in found.sizes]
    assert errors == sorted(errors, reverse=True)
    assert found.proposed == next(one.size for one in found.sizes if one.p99 < 0.5)
    assert survey(truth, CUBE, sizes=(5,), tolerance=0.01).proposed is None
    assert all(one.trilinear.mean > one.colours.uniform.mean for one in found.sizes), (
        "tetrahedral is nearer than trilinear for such a look"
    )
    eight = survey(truth, formats()["3dl"], Options(8), (33,)).sizes[0]
    assert eight.colours.uniform.mean > found.sizes[2].colours.uniform.mean, "rounding to 8 bits costs something"


@pytest.mark.parametrize(
    ("form", "options", "depth"), [("3dl", Options(), 12), ("3dl", Options(8), 8), ("hald", Options(), 16), ("cube", Options(), 0)]
)
def test_a_survey_says_at_which_depth_it_was_made(form, options, depth):
    assert survey(Truth(prepare(a_look(WARM))), formats()[form], options, (9,)).depth == depth


def test_the_worst_colours_have_their_places():
    picture = random_pixels(60, 80)
    truth = Truth(prepare(a_look(CHANGED["hue-bands"])), picture)
    found = measure(truth, bake_file(a_look(CHANGED["hue-bands"]), CUBE, 9, Words()).lut)
    assert len(found.worst) == 6
    assert found.worst[0].difference >= found.worst[-1].difference
    for worst in found.worst:
        if worst.place is not None:
            x, y = worst.place
            np.testing.assert_allclose(picture[int(y * 60), int(x * 80)], worst.source, atol=1e-6)
    assert sum(worst.place is not None for worst in found.worst) == 3


def test_linear_light_without_a_shaper_is_measured_as_useless():
    """KERNELS: scene-linear input without a shaper has a p99 of 14 and more; with one, little."""
    look = a_look({"kind": "convert", "to": "rec709", "rendering": "soft"}, CHANGED["curves"], input="linear-709", output="rec709")
    truth = Truth(prepare(look))
    with_shaper, without = (survey(truth, formats()[form], sizes=(33,)) for form in ("cube", "spi3d"))
    assert with_shaper.sizes[0].p99 < 2
    assert without.sizes[0].p99 > 10
    assert any("no room for a shaper" in words for words in without.lost)


def test_sizes_outside_are_refused():
    with pytest.raises(LutError, match="must be from 2 to 129"):
        bake_file(a_look(WARM), CUBE, 130, Words())


@pytest.mark.parametrize(("form", "step"), [("cc", CHANGED["cdl"]), ("clf", CHANGED["cdl"]), ("spi1d", CHANGED["levels"])])
def test_a_file_without_a_lattice_is_measured_once_and_has_no_size(form, step):
    found = survey(Truth(prepare(a_look(step))), formats()[form])
    assert [one.size for one in found.sizes] == [0]
    assert found.proposed in (0, None)


def test_the_figures_of_a_spread_are_of_their_own_percentiles():
    """Of 1001 evenly spaced values every percentile is known without counting."""
    differences = np.random.default_rng(1).permutation(np.arange(1001) / 10)
    found = Spread.of(differences)
    assert (found.mean, found.p95, found.p99, found.largest) == pytest.approx((50.0, 95.0, 99.0, 100.0))
