"""A look prepared once: paths and places, what is spatial, the look's own strength, and the cache of what was reached."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.cache import ByteCache, PrefixCache
from saucer.core.engine.evaluate import sample_look
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import Sampling
from saucer.core.engine.rendering import render as render_plan
from saucer.core.errors import LookError
from saucer.core.look.model import look_from
from saucer.core.look.tree import number_of, path_of, place_of, walk
from saucer.core.lut.domain import grid
from tests.make import CHANGED, CHANGED_SPATIAL, WARM, a_look, evaluate, random_pixels

X = random_pixels(30, 40)
TONE, VIGNETTE = CHANGED["tone"], CHANGED_SPATIAL["vignette"]


@pytest.mark.parametrize(
    ("place", "path", "number"),
    [((0,), "steps[0]", "1"), ((2, 0), "steps[2].steps[0]", "3.1"), ((11, 3, 1), "steps[11].steps[3].steps[1]", "12.4.2")],
)
def test_places_paths_and_numbers_say_the_same(place, path, number):
    assert (path_of(place), place_of(path), number_of(place)) == (path, place, number)


@pytest.mark.parametrize(
    "path", ["", "steps", "steps[]", "steps[-1]", "steps[1].steps", "steps[1]steps[2]", "xsteps[1]", "steps[1] "]
)
def test_what_is_no_path_is_refused(path):
    with pytest.raises(LookError, match="must be like"):
        place_of(path)


def test_every_step_is_walked_in_the_order_of_the_light():
    look = a_look(TONE, {"kind": "group", "steps": [WARM, {"kind": "group", "steps": [VIGNETTE]}]}, TONE)
    assert [path_of(place) for place, _ in walk(look.steps)] == [
        "steps[0]", "steps[1]", "steps[1].steps[0]", "steps[1].steps[1]", "steps[1].steps[1].steps[0]", "steps[2]",
    ]  # fmt: skip
    assert [stage.place for stage in prepare(look).stages] == [(0,), (1,), (2,)]


def test_a_group_is_spatial_where_it_holds_a_spatial_step_however_deep():
    deep = {"kind": "group", "steps": [TONE, {"kind": "group", "steps": [VIGNETTE]}]}
    flat = {"kind": "group", "steps": [TONE, WARM]}
    assert [stage.spatial for stage in prepare(a_look(TONE, VIGNETTE, deep, flat)).stages] == [False, True, True, False]


@pytest.mark.parametrize("strength", [0.0, 0.4, 1.0])
def test_the_looks_strength_goes_from_the_conversion_to_the_whole(strength):
    """a + s (f(x) - a), where a is x properly converted to the encoding at the end."""
    steps = [TONE, {"kind": "convert", "to": "rec709"}]
    log, display = ENCODINGS["film-log"], ENCODINGS["rec709"]
    whole = evaluate(a_look(*steps, input="film-log", output="rec709"), X)
    plain = convert(X, log, display)
    faded = a_look(*steps, input="film-log", output="rec709", strength=strength)
    np.testing.assert_allclose(evaluate(faded, X), plain + strength * (whole - plain), atol=2e-6)
    lattice = sample_look(prepare(faded), 9).lattice.table.reshape(-1, 3)
    np.testing.assert_allclose(lattice, evaluate(faded, grid(9)), atol=2e-6)


def test_groups_may_stand_as_deep_as_is_said_and_no_deeper():
    from saucer.core.look.model import DEEPEST_GROUP

    def nested(depth: int) -> dict:
        return {"kind": "group", "steps": [nested(depth - 1)]} if depth else dict(TONE)

    look_from({"steps": [nested(DEEPEST_GROUP)]})
    with pytest.raises(LookError, match=f"{DEEPEST_GROUP} is the most"):
        look_from({"steps": [nested(DEEPEST_GROUP + 1)]})


def test_the_byte_cache_keeps_what_was_used_last_within_its_bytes():
    cache: ByteCache[str] = ByteCache(100)
    for name in "abc":
        cache.keep(name, name, 40)
    assert [cache.get(name) for name in "abc"] == [None, "b", "c"]
    cache.get("b")
    cache.keep("d", "d", 40)
    assert [cache.get(name) for name in "bcd"] == ["b", None, "d"]
    cache.keep("e", "e", 500)
    assert [cache.get(name) for name in "bde"] == [None, None, "e"], "the newest stays, however large"


def test_dragging_takes_up_where_the_steps_before_left_off_also_round_a_spatial_step():
    """Hits of the lattice cache while one step of a look with grain in its middle is dragged, with the pixels as they would be anew."""
    cache = PrefixCache()

    def dragged(exposure: float):
        middle = {"kind": "grain", "amount": 0.2, "seed": 3}
        return a_look(WARM, CHANGED["saturation"], TONE | {"exposure": exposure}, middle, CHANGED["split-tone"], WARM)

    for number in range(12):
        look = prepare(dragged(number / 20))
        kept = render_plan(look, X, sampling=Sampling(17, cache))
        np.testing.assert_array_equal(kept, render_plan(look, X, sampling=Sampling(17)))
    assert cache.hits >= 20, "two runs a frame, both of them known but for the first frames"
    assert cache.misses <= 4


def test_what_is_replaced_in_the_byte_cache_gives_its_bytes_back():
    cache: ByteCache[str] = ByteCache(100)
    cache.keep("other", "x", 30)
    for size in (60, 10, 70, 60):
        cache.keep("one", str(size), size)
    assert (cache.get("other"), cache.get("one")) == ("x", "60"), "90 of 100 are held, however often one was replaced"
    cache.keep("one", "large", 71)
    assert (cache.get("other"), cache.get("one")) == (None, "large")


def test_how_far_steps_reach_adds_up_also_within_groups():
    soft = {"kind": "soft-focus", "amount": 0.5, "radius": 0.01}
    bloom = {"kind": "bloom", "amount": 0.5, "radius": 0.02}
    alone = [prepare(look_from({"steps": [step]})).reach(1000) for step in (soft, bloom)]
    assert min(alone) > 0
    assert alone[0] != alone[1]
    assert prepare(look_from({"steps": [soft, {"kind": "tone"}, bloom]})).reach(1000) == sum(alone)
    assert prepare(look_from({"steps": [soft, {"kind": "group", "steps": [bloom]}]})).reach(1000) == sum(alone)
    off = {"kind": "group", "steps": [bloom], "enabled": False}
    assert prepare(look_from({"steps": [soft, off]})).reach(1000) == alone[0]
