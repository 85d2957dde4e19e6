"""The family of a look: one recipe under several named settings."""

from __future__ import annotations

import json
from itertools import product
from typing import Any

import numpy as np
import pytest

from saucer.core.errors import LookError
from saucer.core.files.registry import read_lut
from saucer.core.look.differences import describe_differences
from saucer.core.look.family import as_member, between, describe_member, named
from saucer.core.look.member import MOST_MEMBERS, SHARED
from saucer.core.look.model import look_from, look_text, parse_look
from saucer.core.look.tree import walk
from saucer.core.lut.apply import apply_lut
from saucer.core.pictures.io import read_picture
from saucer.core.steps.kinds import kinds
from tests.core.test_cli import folder, saucer  # noqa: F401 - the fixture is found by its name
from tests.make import CHANGED, CHANGED_SPATIAL, LUTS, a_look, evaluate, random_pixels

TONE = {"kind": "tone", "id": "t", "exposure": 0.25}
CURVES = {"kind": "curves", "id": "c", "interpolation": "linear", "master": [[0, 0], [0.5, 0.6], [1, 1]]}
WASH = {"kind": "wash", "id": "w", "mode": "multiply", "colour": [1, 0.5, 0], "enabled": False}
GROUP = {"kind": "group", "id": "g", "steps": [CURVES]}
NIGHT = {"name": "night", "strength": 0.8, "settings": {"t": {"exposure": -1}, "g": {"strength": 0.5}, "w": {"enabled": True}}}
BENT = {"name": "bent", "settings": {"c": {"master": [[0, 0.1], [0.25, 0.2], [1, 0.9]]}}}
EVERY = CHANGED | CHANGED_SPATIAL


def family(*members: dict[str, Any], **fields: Any):
    return a_look(TONE, GROUP, WASH, name="Quay", family=list(members), **fields)


def one_differs(kind: str, **settings: Any):
    """A step at its defaults, and the one of its family in which it has these settings."""
    return a_look({"kind": kind, "id": "s"}, family=[{"name": "b", "settings": {"s": settings}}])


def middle(look, at: float = 0.5, first: str = "", second: str = "b") -> dict[str, Any]:
    """What the step is set to between the two."""
    return between(look, first, second, at, "m").settings.get("s", {})


def test_a_member_is_the_recipe_with_its_own_settings():
    look = family(NIGHT, BENT)
    night = as_member(look, "Night")
    same = a_look(TONE | {"exposure": -1}, GROUP | {"strength": 0.5}, WASH | {"enabled": True}, strength=0.8)
    assert night.content_hash == same.content_hash
    assert night.name == "Quay, night"
    assert not night.family
    assert as_member(look, "bent").steps[0] == look.steps[0], "what it does not name follows the recipe"
    assert as_member(look, "").content_hash == a_look(TONE, GROUP, WASH).content_hash == look.content_hash


def test_a_family_stays_through_its_file():
    look = family(NIGHT, BENT)
    assert parse_look(look_text(look)) == look
    assert "family" not in look_text(a_look()), "files of looks without one stay as they were"


@pytest.mark.parametrize(
    ("members", "words"),
    [
        ([{"name": "a", "settings": {"zz": {}}}], "family[0].settings.zz: no step has this id"),
        ([{"name": "a"}, {"name": "b", "settings": {"t": {"exposur": 1}}}], "family[1].settings.t.exposur: unknown field; remove it or check its spelling"),
        ([{"name": "a", "settings": {"t": {"exposure": 99}}}], "family[0].settings.t.exposure: must be at most 8, got 99"),
        ([{"name": "a", "settings": {"c": {"master": [[0, 0]]}}}], "family[0].settings.c.master: must hold at least 2, got 1"),
        ([{"name": "a", "settings": {"c": {"red": [[0, 0], [0, 1]]}}}], "family[0].settings.c.red[1]: in must be larger than the point before (0) by at least 1/1023, got 0"),
        ([{"name": "a", "settings": {"t": {"kind": "cdl"}}}], "family[0].settings.t.kind: is the same in all of a family; change it in the steps of the look"),
        ([{"name": "a", "settings": {"g": {"steps": []}}}], "family[0].settings.g.steps: is the same in all of a family; change it in the steps of the look"),
        ([{"name": "Night"}, {"name": "night"}], 'family[1].name: there are two called "night"'),
        ([{"name": "  "}], 'family[0].name: string should have at least 1 character, got "  "'),
        ([{"name": "a", "strength": 9}], "family[0].strength: must be at most 1.5, got 9"),
        ([{"name": str(number)} for number in range(MOST_MEMBERS + 1)], "family: may hold at most 12"),
    ],
)  # fmt: skip
def test_what_no_family_is_says_where(members, words):
    with pytest.raises(LookError) as refused:
        look_from({"format": "saucer-look", "steps": [TONE, GROUP, WASH], "family": members})
    assert str(refused.value) == f"look: {words}"


def test_no_member_goes_further_than_its_steps():
    held = {"kind": "isolate-hue", "id": "x"}
    with pytest.raises(
        LookError,
        match=r"family\[0\].strength: must be at most 1, for it holds a step that goes no further \(Isolate hue\), got 1.2",
    ):
        a_look(held, family=[{"name": "a", "strength": 1.2}])
    with pytest.raises(LookError, match=r"several steps have this id"):
        a_look(TONE, TONE, family=[{"name": "a", "settings": {"t": {"exposure": 1}}}])


def test_who_is_not_there_is_told_with_those_who_are():
    with pytest.raises(LookError, match='there is no "dusk" in this look; there are "night", "bent"'):
        as_member(family(NIGHT, BENT), "dusk")
    with pytest.raises(LookError, match="it has no family"):
        as_member(a_look(), "dusk")


def test_members_in_words():
    look = family(NIGHT, BENT, {"name": "same"})
    assert describe_member(look, "night") == [
        "Strength of the look: 100 % -> 80 %", "Tone: exposure 0.25 -> -1", "Group: strength 100 % -> 50 %", "Wash: on",
    ]  # fmt: skip
    assert describe_member(look, "same") == []
    assert "Tone: exposure -1 -> 0.25" in describe_member(look, "bent", beside="night")


def test_a_change_of_the_family_is_one_of_the_look():
    after = family(NIGHT | {"strength": 0.5}, {"name": "thin"})
    assert describe_differences(family(NIGHT, BENT), after) == [
        'Family: "bent" removed', 'Family: "thin" added', 'Family: other settings in "night"',
    ]  # fmt: skip


@pytest.mark.parametrize("kind", sorted(EVERY))
def test_between_two_lies_at_the_ends_what_these_are_and_something_allowed_in_the_middle(kind: str):
    fields = {name: value for name, value in EVERY[kind].items() if name not in SHARED}
    shared = {name: value for name, value in EVERY[kind].items() if name in SHARED}
    look = a_look(shared | {"kind": kind, "id": "s"}, family=[{"name": "b", "settings": {"s": fields}}], **_ends_of(kind, shared))
    for at, end in ((0.0, ""), (1.0, "b")):
        member = between(look, "", "b", at, "new")
        assert as_member(look.model_copy(update={"family": (member,)}), "new").content_hash == as_member(look, end).content_hash
    for at in (0.25, 0.5, 0.8):
        whole = look.model_dump() | {"family": [*look.model_dump()["family"], between(look, "", "b", at, "new").model_dump()]}
        assert as_member(look_from(whole), "new").steps[0].kind == kind


def _ends_of(kind: str, shared: dict[str, Any]) -> dict[str, Any]:
    return {"output": shared["to"]} if kind == "convert" else {}


def test_numbers_lie_between_numbers_and_hues_go_the_short_way_round():
    assert middle(one_differs("tone", exposure=-1.0), 0.25) == {"exposure": -0.25}
    tint = {"hue": 350, "amount": 0.05}
    look = a_look(
        {"kind": "isolate-hue", "id": "s", "centre": 20}, family=[{"name": "b", "settings": {"s": {"centre": 350, "width": 340}}}]
    )
    assert middle(look) == {"centre": 5, "width": 200}, "a width is no angle of a circle"
    assert middle(look, 0.9)["centre"] == 353
    assert middle(one_differs("split-tone", shadows=tint))["shadows"]["amount"] == 0.025


def test_what_is_on_in_one_only_comes_in_by_its_strength():
    look = a_look(WASH | {"id": "s"}, family=[{"name": "b", "settings": {"s": {"enabled": True, "strength": 0.8}}}])
    assert middle(look, 0.25) == {"enabled": True, "strength": 0.2}
    assert middle(look, 0.25, "b", "") == {"enabled": True, "strength": pytest.approx(0.6)}


def test_what_has_nothing_between_changes_at_the_half():
    look = a_look(WASH | {"id": "s"}, family=[{"name": "b", "settings": {"s": {"mode": "screen"}}}])
    assert middle(look, 0.49) == {}
    assert middle(look, 0.5) == {"mode": "screen"}


def test_straight_curves_of_other_points_are_followed_exactly():
    """Between two polygons lies the polygon through the mean of both wherever either has a point: a fact of plane geometry."""
    other = [[0, 0.1], [0.25, 0.2], [0.8, 0.7], [1, 0.9]]
    made = middle(a_look(CURVES | {"id": "s"}, family=[{"name": "b", "settings": {"s": {"master": other}}}]), 0.3)["master"]
    assert [x for x, _ in made] == [0, 0.25, 0.5, 0.8, 1]
    x = np.linspace(0, 1, 101)
    first, second, mixed = (np.interp(x, *zip(*points, strict=True)) for points in (CURVES["master"], other, made))
    np.testing.assert_allclose(mixed, 0.7 * first + 0.3 * second, atol=1e-6)


def test_curves_of_too_many_points_keep_to_the_places_of_one():
    def points(count: int, bend: float) -> list[list[float]]:
        return [[index / (count - 1), (index / (count - 1)) ** bend] for index in range(count)]

    look = a_look(
        {"kind": "curves", "id": "s", "red": points(16, 1.3)}, family=[{"name": "b", "settings": {"s": {"red": points(9, 0.7)}}}]
    )
    assert [x for x, _ in middle(look)["red"]] == [x for x, _ in points(16, 1)]
    near = a_look({"kind": "curves", "id": "s", "red": [[0, 0], [0.5, 0.4], [0.9995, 1]]},
                  family=[{"name": "b", "settings": {"s": {"red": [[0, 0], [0.5005, 0.6], [0.9, 0.95], [1, 1]]}}}])  # fmt: skip
    assert [x for x, _ in middle(near)["red"]] == [0, 0.5, 0.9, 1], "points nearer than 1/1023 are one"
    just = a_look({"kind": "curves", "id": "s", "red": [[0, 0], [1 / 1023, 0.1], [1, 1]]},
                  family=[{"name": "b", "settings": {"s": {"red": [[0, 0], [1, 1]]}}}])  # fmt: skip
    assert len(middle(just)["red"]) == 3, "as near as a curve may have them"


def test_curves_of_just_as_many_points_as_there_may_be_are_followed_at_all_of_them():
    """Thirteen places of one and three more of the other are sixteen, which a curve may have."""
    own = [[index / 12, (index / 12) ** 1.3] for index in range(13)]
    other = [[0, 0], [0.1, 0.2], [0.3, 0.4], [0.55, 0.7], [1, 1]]
    look = a_look({"kind": "curves", "id": "s", "red": own}, family=[{"name": "b", "settings": {"s": {"red": other}}}])
    assert [x for x, _ in middle(look)["red"]] == sorted({x for x, _ in (*own, *other)})


def test_a_member_is_named_with_its_look_where_both_have_a_name():
    assert [named("Quay", "night"), named("Quay", ""), named("", "night")] == ["Quay, night", "Quay", "night"]


def test_between_members_is_told_from_the_recipe():
    look = family(NIGHT, BENT)
    member = between(look, "night", "bent", 0.5, "dusk")
    assert member.strength == 0.9
    assert member.settings["t"] == {"exposure": -0.375}
    assert member.settings["g"] == {"strength": 0.75}
    assert member.settings["w"] == {"enabled": True, "strength": 0.5}


def test_no_kind_lets_a_family_have_another_encoding_or_another_lut():
    """What the steps of a family stand between is the same: a LUT of one is made for what a LUT of another is made for."""
    for kind in kinds().values():
        named = {name for name in kind.parameters.model_fields if name in ("to", "expects", "gives", "sha256", "file")}
        assert named <= SHARED
    look = family(NIGHT, BENT)
    for name, (_, step) in product(("night", "bent"), walk(look.steps)):
        assert step.id in {one.id for _, one in walk(as_member(look, name).steps)}


def test_members_are_applied_baked_and_told_from_the_command_line(folder):  # noqa: F811
    look = a_look(TONE, name="Quay", family=[{"name": "night", "settings": {"t": {"exposure": -1}}}])
    (folder / "look.json").write_text(look_text(look))
    assert saucer(folder, "apply", "look.json", "in.png", "-o", "night.png", "--member", "Night").returncode == 0
    done = read_picture(folder / "night.png").pixels
    np.testing.assert_allclose(done, evaluate(as_member(look, "night"), random_pixels()), atol=3e-5)
    assert saucer(folder, "bake", "look.json", "-o", "night.cube", "--member", "night").returncode == 0
    lut, _ = read_lut((folder / "night.cube").read_bytes(), "night.cube")
    assert lut.title == "Quay, night"
    np.testing.assert_allclose(apply_lut(lut, random_pixels()), evaluate(as_member(look, "night"), random_pixels()), atol=2e-3)
    assert json.loads(saucer(folder, "inspect", "look.json", "--json").stdout)["family"] == {"night": ["Tone: exposure 0.25 -> -1"]}
    assert "family     night: Tone: exposure 0.25 -> -1" in saucer(folder, "inspect", "look.json").stdout
    for words in (["losses", "look.json", "in.png"], ["stress", "look.json", "in.png"]):
        assert saucer(folder, *words, "--member", "dusk").stderr.startswith('saucer: family: there is no "dusk"')
        assert saucer(folder, *words, "--member", "night").returncode in (0, 2)
    assert saucer(folder, "apply", "a.cube", "in.png", "-o", "x.png", "--member", "night").stderr == (
        "saucer: --member: a.cube is a LUT, which has no family; leave it out\n"
    )


def test_tables_of_steps_are_held_at_their_lengths():
    """LUT steps are in families too, at another strength or off: only which LUT it is stays."""
    lut = CHANGED["lut"] | {"id": "l"}
    look = a_look(lut, family=[{"name": "thin", "settings": {"l": {"strength": 0.4}}}])
    thin = evaluate(as_member(look, "thin"), random_pixels(), luts=LUTS)
    whole, none = evaluate(look, random_pixels(), luts=LUTS), random_pixels()
    np.testing.assert_allclose(thin, none + 0.4 * (whole - none), atol=1e-5)
    with pytest.raises(LookError, match="is the same in all of a family"):
        a_look(lut, family=[{"name": "other", "settings": {"l": {"sha256": "cd" * 32}}}])
