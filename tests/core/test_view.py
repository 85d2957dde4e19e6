"""The view: what went through a display's LUT is seen as the LUT gives it, whatever scene's encoding the look goes on in."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.bake.bake import Words
from saucer.core.bake.exact import chain_of
from saucer.core.bake.part import WHOLE
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.rendering import soft
from saucer.core.engine.cache import PrefixCache
from saucer.core.engine.evaluate import evaluate, show_on_srgb
from saucer.core.engine.grade import Grade
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import Sampling, render
from saucer.core.look.model import look_from
from saucer.core.look.stack import Layer, look_of_lut, stack
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Lattice, Lut

CODE_OF_TEN_BITS = 1 / 1023
SHA = "ab" * 32
DISPLAYS = ["srgb", "rec709", "display-p3", "gamma22-709"]


def a_lut(black: float = 0.06) -> Lut:
    """Faded: black raised, cooler shadows, rolled off."""
    x = grid(17)
    lut = black + (0.94 - black) * x ** np.float32(0.8) * np.array([1, 0.97, 0.92], np.float32)
    return Lut(lattice=Lattice(lut.reshape(17, 17, 17, 3).astype(np.float32)))


LUT = a_lut()
SCENES = sorted(one.id for one in ENCODINGS.values() if one.referred == "scene")


def samples(encoding: str, count: int = 4000) -> np.ndarray:
    """Light from black to four times white, as codes of the encoding."""
    rng = np.random.default_rng(27)
    light = (rng.uniform(0, 1, (count, 3)) ** 3 * 4).astype(np.float32)
    return np.ascontiguousarray(convert(light, ENCODINGS["linear-709"], ENCODINGS[encoding]), np.float32)


def with_lut(encoding: str, gives: str, strength: float = 1.0, **step: str):
    lut = {"kind": "lut", "sha256": SHA, "gives": gives, "strength": strength} | step
    return prepare(look_from({"input": encoding, "output": encoding, "view": "soft", "steps": [lut]}), lambda _: LUT)


def seen(values: np.ndarray, encoding: str, gives: str) -> np.ndarray:
    return convert(values, ENCODINGS[encoding], ENCODINGS[gives], "soft")


@pytest.mark.parametrize("encoding", SCENES)
@pytest.mark.parametrize("gives", DISPLAYS[:2])
def test_a_lut_by_itself_is_seen_as_its_own_values(encoding, gives):
    x = samples(encoding)
    wanted = apply_lut(LUT, x)
    assert np.abs(seen(evaluate(with_lut(encoding, gives), x), encoding, gives) - wanted).max() < CODE_OF_TEN_BITS


@pytest.mark.parametrize("encoding", SCENES)
def test_a_lut_for_a_display_sees_the_picture_as_it_is_shown(encoding):
    x = samples(encoding)
    shown = seen(x, encoding, "rec709")
    result = seen(evaluate(with_lut(encoding, "rec709", expects="rec709"), x), encoding, "rec709")
    assert np.abs(result - apply_lut(LUT, shown)).max() < CODE_OF_TEN_BITS


@pytest.mark.parametrize("encoding", SCENES)
@pytest.mark.parametrize("strength", [0.25, 0.7])
def test_at_part_strength_what_is_seen_is_faded(encoding, strength):
    x = samples(encoding)
    wanted = (1 - strength) * seen(x, encoding, "rec709") + strength * apply_lut(LUT, x)
    result = seen(evaluate(with_lut(encoding, "rec709", strength), x), encoding, "rec709")
    assert np.abs(result - wanted).max() < CODE_OF_TEN_BITS


@pytest.mark.parametrize("encoding", SCENES)
@pytest.mark.parametrize("display", [*DISPLAYS, "pq"])
def test_the_view_is_taken_back_whole(encoding, display):
    """Whatever the primaries and the white: from a display's codes to the scene's and back."""
    codes = np.random.default_rng(3).uniform(0, 1, (3000, 3)).astype(np.float32)
    if display == "pq":
        codes *= np.float32(0.58)  # up to the reference white: HLG's display and soft end there
    there = convert(codes, ENCODINGS[display], ENCODINGS[encoding], "soft")
    back = convert(there, ENCODINGS[encoding], ENCODINGS[display], "soft")
    # A pure power's codes rise endlessly steeply from black: there the light itself is held to what float32 can say beside white.
    light = np.abs(ENCODINGS[display].transfer.decode(back) - ENCODINGS[display].transfer.decode(codes))
    assert ((np.abs(back - codes) < CODE_OF_TEN_BITS) | (light < 1e-6)).all()


@pytest.mark.parametrize("encoding", ["s-log3", "acescct", "linear-709", "logc4"])
def test_a_stack_and_a_grade_and_a_look_show_the_same(encoding):
    """A LUT in a log look, under a project's stack, laid on by itself, and on a lattice."""
    x = samples(encoding, 900).reshape(30, 30, 3)
    log = look_from(
        {"input": encoding, "output": encoding, "view": "plain", "steps": [{"kind": "lut", "sha256": SHA, "gives": "rec709"}]}
    )
    wanted = show_on_srgb(apply_lut(LUT, x), ENCODINGS["rec709"], "soft")
    places = {
        "look": show_on_srgb(
            render(prepare(log.model_copy(update={"view": "soft"}), lambda _: LUT), x), ENCODINGS[encoding], "soft"
        ),
        "stack": render(prepare(stack(encoding, [Layer("log", log)], "srgb", view="soft"), lambda _: LUT), x),
        "stack of the LUT": render(
            prepare(stack(encoding, [Layer("lut", look_of_lut("lut", SHA, encoding, "rec709"))], "srgb"), lambda _: LUT), x
        ),
        "grade of the LUT": Grade.of_lut(LUT, ENCODINGS[encoding], ENCODINGS["rec709"], 1, "soft")(
            x, ENCODINGS[encoding], ENCODINGS["srgb"]
        ),
    }
    for place, found in places.items():
        assert np.abs(found - wanted).max() < CODE_OF_TEN_BITS, place


@pytest.mark.parametrize("strength", [0.3, 0.8])
def test_strength_fades_alike_by_itself_and_in_a_stack(strength):
    x = samples("s-log3", 900).reshape(30, 30, 3)
    ends = ENCODINGS["s-log3"], ENCODINGS["rec709"]
    alone = Grade.of_lut(LUT, *ends, strength, "soft")(x, ENCODINGS["s-log3"], ENCODINGS["srgb"])
    layer = Layer("lut", look_of_lut("lut", SHA, "s-log3", "rec709"), strength)
    assert np.abs(alone - render(prepare(stack("s-log3", [layer], "srgb"), lambda _: LUT), x)).max() < CODE_OF_TEN_BITS


def test_a_look_that_says_nothing_is_seen_plainly_and_keeps_its_name():
    """Looks made before there was a view keep their picture, and the hash that names what they do."""
    old = look_from({"input": "s-log3", "output": "rec709", "steps": [{"kind": "convert", "to": "rec709"}]})
    assert old.view == "plain"
    assert old.content_hash != old.model_copy(update={"view": "soft"}).content_hash
    x = samples("s-log3")
    assert np.array_equal(
        Grade.of_look(old)(x[None], ENCODINGS["s-log3"], ENCODINGS["srgb"])[0],
        convert(evaluate(prepare(old), x), ENCODINGS["rec709"], ENCODINGS["srgb"]),
    )


def test_a_step_that_is_switched_off_leaves_the_view_behind():
    x = samples("s-log3")
    lut = {"kind": "lut", "sha256": SHA, "gives": "rec709", "ends_in": "gives", "enabled": False}
    plan = prepare(look_from({"input": "s-log3", "output": "rec709", "view": "soft", "steps": [lut]}), lambda _: LUT)
    assert np.abs(evaluate(plan, x) - seen(x, "s-log3", "rec709")).max() < 1e-6


def test_the_lattice_of_one_view_is_not_that_of_another():
    cache = PrefixCache()
    x = samples("s-log3", 400).reshape(20, 20, 3)
    found = {}
    for view in ("soft", "plain"):
        look = look_from(
            {"input": "s-log3", "output": "s-log3", "view": view, "steps": [{"kind": "lut", "sha256": SHA, "gives": "rec709"}]}
        )
        found[view] = render(prepare(look, lambda _: LUT), x, None, Sampling(17, cache))
    assert np.abs(found["soft"] - found["plain"]).max() > 0.01


def test_a_chain_of_formulas_does_not_spread_its_lattice_over_what_no_picture_holds():
    """S-Log3's primaries hold light that ACEScct's do not: it lies at codes of -50, and 65 nodes over that range were 0.8 apart."""
    layers = [
        Layer(
            "log",
            look_from({"input": "acescct", "output": "acescct", "steps": [{"kind": "lut", "sha256": SHA, "gives": "rec709"}]}),
            0.5,
        )
    ]
    plan = prepare(stack("s-log3", layers, "srgb"), lambda _: LUT)
    light = np.random.default_rng(8).uniform(0.02, 1, (2000, 1)) * np.random.default_rng(9).uniform(0.7, 1, (2000, 3))
    x = np.ascontiguousarray(convert(light.astype(np.float32), ENCODINGS["linear-709"], ENCODINGS["s-log3"]))
    assert np.abs(apply_lut(chain_of(plan, 65), x) - evaluate(plan, x)).max() < 1 / 255


def test_soft_is_extended_reinhard_on_the_displays_luminance():
    """Reinhard et al. 2002, eq. 4: L (1 + L / w^2) / (1 + L), here at 18 % and at the white of 4."""
    planes = np.repeat(np.array([0.18, 4.0], np.float32)[None], 3, axis=0)
    soft(4.0, ENCODINGS["rec709"].luma, True)(planes)
    assert planes[0] == pytest.approx([0.18 * (1 + 0.18 / 16) / 1.18, 1.0], abs=1e-6)


@pytest.mark.parametrize(
    ("fields", "is_told"),
    [
        ({"input": "s-log3", "output": "rec709", "view": "soft"}, True), ({"input": "s-log3", "output": "rec709"}, False), ({"view": "soft"}, False),
        ({"view": "soft", "steps": [{"kind": "group", "steps": [{"kind": "lut", "sha256": SHA, "expects": "acescct", "gives": "srgb"}]}]}, True),
    ],
)  # fmt: skip
def test_a_file_says_by_which_view_it_was_made_where_that_matters(fields, is_told):
    steps = [{"kind": "convert", "to": "rec709", "rendering": "soft"}] if fields.get("output") == "rec709" else []
    look = look_from({"steps": steps} | fields)
    assert ("Light of a scene is seen by the view soft" in Words().comments(look, WHOLE, ())) is is_told
