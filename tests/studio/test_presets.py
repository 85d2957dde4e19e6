"""Presets and the settings that are kept by themselves."""

from __future__ import annotations

import pytest

from saucer.studio.people.models import Activity
from saucer.studio.presets.models import RecentSetting
from tests.make import CHANGED, CHANGED_SPATIAL, WARM
from tests.studio.conftest import api_for, person, propose_all

pytestmark = pytest.mark.django_db
RUN = [
    WARM | {"id": "a", "strength": 0.6},
    CHANGED_SPATIAL["grain"],
    {"kind": "group", "name": "Night", "steps": [CHANGED["tone"]]},
]


def keep(api, name="Warm and grainy", **fields):
    return api.expect(200, "POST", "/presets", {"name": name, "steps": RUN} | fields)


def test_a_run_of_steps_is_kept_with_its_spatial_ones_and_found_by_the_whole_team(api):
    made = keep(api, category="Evening", note="For interiors")
    assert [step["kind"] for step in made["steps"]] == ["curves", "grain", "group"]
    assert made["steps"][0]["strength"] == 0.6
    other = api_for(person("designer", "ada"))
    (found,) = other.get("/presets")
    assert (found["name"], found["category"], found["note"], found["by"], found["may_change"]) == (
        "Warm and grainy",
        "Evening",
        "For interiors",
        "Designer",
        False,
    )
    assert Activity.objects.filter(action="keep preset").count() == 1


def test_favourites_are_ones_own(api):
    made = keep(api)
    propose_all()
    other = api_for(person("viewer", "vera"))
    assert other.expect(204, "PUT", f"/catalogue/preset/{made['id']}/favourite", {"favourite": True}) is None
    assert [one["favourite"] for one in other.get("/presets")] == [True]
    assert [one["favourite"] for one in api.get("/presets")] == [False]
    other.expect(204, "PUT", f"/catalogue/preset/{made['id']}/favourite", {"favourite": False})
    assert [one["favourite"] for one in other.get("/presets")] == [False]


def test_changing_deleting_and_bringing_back_are_for_the_one_who_made_it(api):
    made = keep(api)
    assert api.expect(200, "PATCH", f"/catalogue/preset/{made['id']}", {"name": " Dusk ", "category": "Night"})["name"] == "Dusk"
    other = api_for(person("designer", "ada"))
    for method, path in (("PATCH", ""), ("DELETE", ""), ("POST", "/restore")):
        assert other.call(method, f"/catalogue/preset/{made['id']}{path}", {"name": "Mine"}).status_code == 403
    api.expect(204, "DELETE", f"/catalogue/preset/{made['id']}")
    assert api.get("/presets") == []
    api.expect(404, "PATCH", f"/catalogue/preset/{made['id']}", {"name": "x"})
    assert api.expect(200, "POST", f"/catalogue/preset/{made['id']}/restore")["name"] == "Dusk"
    curator = api_for(person("curator", "cleo"))
    curator.expect(204, "DELETE", f"/catalogue/preset/{made['id']}")


@pytest.mark.parametrize(
    ("content", "words"),
    [
        ({"name": "  ", "steps": RUN}, "A preset needs a name."),
        ({"name": "x", "steps": []}, "Choose the steps to keep first."),
        ({"name": "x", "steps": [{"kind": "tone", "exposure": 99}]}, "must be at most 8, got 99"),
        ({"name": "x", "steps": [{"kind": "convert", "to": "nowhere"}]}, 'unknown encoding "nowhere"'),
    ],
)
def test_refusals_say_why(api, content, words):
    refused = api.expect(422, "POST", "/presets", content)
    assert words in refused["detail"]
    assert api.get("/presets") == []


def test_a_viewer_keeps_none(viewer):
    assert api_for(viewer).call("POST", "/presets", {"name": "x", "steps": RUN}).status_code == 403


def test_the_last_ten_settings_of_each_kind_are_kept(api):
    for exposure in range(1, 14):
        api.expect(
            204,
            "POST",
            "/presets/recent",
            {"steps": [{"kind": "tone", "exposure": exposure / 2, "id": str(exposure), "enabled": False}]},
        )
    api.expect(204, "POST", "/presets/recent", {"steps": [WARM, {"kind": "tone"}, {"kind": "group", "steps": [CHANGED["wash"]]}]})
    api.expect(204, "POST", "/presets/recent", {"steps": [{"kind": "tone", "exposure": 5}]})  # again: it moves to the front
    found = api.get("/presets/recent")
    tones = [one["step"]["exposure"] for one in found if one["kind"] == "tone"]
    assert tones == [5, 6.5, 6, 5.5, 4.5, 4, 3.5, 3, 2.5, 2]
    assert [one["kind"] for one in found if one["kind"] != "tone"] == ["curves"], "no neutral step, no group"
    assert all(one["step"].get("enabled", True) and not one["step"].get("id") for one in found)
    assert found[0]["summary"]
    assert api_for(person("designer", "ada")).get("/presets/recent") == []
    assert RecentSetting.objects.count() == 11
