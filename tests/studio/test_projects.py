"""Projects: who sees and works in them, shots in scenes, looks on many at once, replaced, stacked, taken back; what they use stays."""

from __future__ import annotations

from datetime import timedelta

import numpy as np
import pytest
from django.utils import timezone

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.look.model import look_from
from saucer.core.lut.apply import to_codes
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.looks import rules as looks
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Activity
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.projects import showing
from saucer.studio.projects.models import Layer, Shot
from saucer.studio.site.sweeping import sweep
from tests.make import a_picture
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
WARM = {"kind": "white-balance", "warm": 40}
FADED = {"kind": "levels", "master": {"output_black": 0.12}}


def look(owner, name: str, *steps: dict) -> int:
    draft = looks.create(owner, look_from({"name": name, "steps": list(steps)}))
    looks.save_version(owner, draft.pk)
    return draft.pk


@pytest.fixture
def project(api, designer, tmp_path) -> dict:
    """Two scenes of two shots each."""
    made = api.expect(200, "POST", "/projects", {"name": "The Salt Ferry", "code": "TSF"})
    for scene in ("Quay", "Inside"):
        ids = [pictures.bring_in(designer, a_picture(tmp_path / f"{scene}{n}.png", seed=n), f"{scene}{n}.png").pk for n in (1, 2)]
        made = api.expect(200, "POST", f"/projects/{made['id']}/shots", {"scene": scene, "pictures": ids})
    return made


def on(api, project: dict) -> dict[str, list[tuple[str, int, float]]]:
    """Shot to what lies on it: name, version, strength."""
    shots = api.get(f"/projects/{project['id']}")["shots"]
    return {one["code"]: [(layer["name"], layer["version"], layer["strength"]) for layer in one["layers"]] for one in shots}


def ids(project: dict, *codes: str) -> list[int]:
    return [one["id"] for one in project["shots"] if one["code"] in codes]


def test_shots_stand_in_story_order_in_their_scenes(api, project, viewer):
    assert [one["name"] for one in project["scenes"]] == ["Quay", "Inside"]
    assert [one["code"] for one in project["shots"]] == ["Quay1", "Quay2", "Inside1", "Inside2"]
    again = api.expect(
        200, "POST", f"/projects/{project['id']}/shots", {"scene": "quay", "pictures": [project["shots"][0]["picture"]]}
    )
    assert [one["code"] for one in again["shots"]][:3] == ["Quay1", "Quay2", "Quay1 2"], (
        "the scene that is there, a code that is free"
    )
    (line,) = api_for(viewer).get("/projects")
    assert (line["name"], line["shots"]) == ("The Salt Ferry", 5)


def test_a_look_is_put_on_many_shots_and_another_replaces_it(api, project, designer):
    warm, faded = look(designer, "Warm", WARM), look(designer, "Faded", FADED)
    path, all_of_them = f"/projects/{project['id']}/looks", [one["id"] for one in project["shots"]]
    assert api.expect(200, "POST", path, {"shots": all_of_them, "entry": warm, "strength": 0.5})["count"] == 4
    api.expect(200, "POST", path, {"shots": ids(project, "Quay2"), "entry": faded})
    assert on(api, project) == {
        "Quay1": [("Warm", 1, 0.5)], "Quay2": [("Faded", 1, 1.0)], "Inside1": [("Warm", 1, 0.5)], "Inside2": [("Warm", 1, 0.5)],
    }  # fmt: skip
    api.expect(200, "POST", path, {"shots": ids(project, "Quay1"), "entry": faded, "stack": True})
    assert on(api, project)["Quay1"] == [("Warm", 1, 0.5), ("Faded", 1, 1.0)]
    assert api.expect(200, "POST", f"{path}/strength", {"shots": all_of_them, "strength": 0.25})["count"] == 4
    assert on(api, project)["Quay1"] == [("Warm", 1, 0.5), ("Faded", 1, 0.25)]
    assert api.expect(200, "POST", f"{path}/off", {"shots": ids(project, "Inside1")})["count"] == 1
    assert on(api, project)["Inside1"] == []


def test_every_bulk_change_is_taken_back_wherever_nobody_was_there_since(api, project, designer, curator):
    warm, faded = look(designer, "Warm", WARM), look(designer, "Faded", FADED)
    path = f"/projects/{project['id']}/looks"
    first = api.expect(200, "POST", path, {"shots": ids(project, "Quay1", "Quay2"), "entry": warm})
    second = api.expect(200, "POST", path, {"shots": ids(project, "Quay1", "Quay2", "Inside1"), "entry": faded})
    api_for(curator).expect(200, "POST", f"{path}/strength", {"shots": ids(project, "Quay2"), "strength": 0.3})
    back = api.expect(200, "POST", f"{path}/undo/{second['undo']}")
    assert (back["count"], back["left"]) == (2, ["Quay2"])
    assert on(api, project) == {"Quay1": [("Warm", 1, 1.0)], "Quay2": [("Faded", 1, 0.3)], "Inside1": [], "Inside2": []}
    assert "taken back already" in api.expect(422, "POST", f"{path}/undo/{second['undo']}")["detail"]
    assert api_for(curator).call("POST", f"{path}/undo/{first['undo']}").status_code == 404, "another's"
    assert api.expect(200, "POST", f"{path}/undo/{first['undo']}")["left"] == ["Quay2"]
    assert Activity.objects.filter(action="grade shots").count() == 3


def test_versions_are_pinned_and_a_newer_one_is_offered(api, project, designer):
    warm = look(designer, "Warm", WARM)
    path, shot = f"/projects/{project['id']}/looks", ids(project, "Quay1")
    api.expect(200, "POST", path, {"shots": shot, "entry": warm})
    draft = looks.find(warm)
    before = api.client.get(f"/api/projects/{project['id']}/shots/{shot[0]}/preview.jpg").content
    looks.save_draft(designer, warm, look_from({"name": "Warm", "steps": [WARM | {"warm": -40}]}), draft.revision)
    looks.save_version(designer, warm)
    assert api.client.get(f"/api/projects/{project['id']}/shots/{shot[0]}/preview.jpg").content == before
    (layer,) = api.get(f"/projects/{project['id']}")["shots"][0]["layers"]
    assert (layer["version"], layer["newer"]) == (1, 2)
    taken = api.expect(200, "POST", f"{path}/newest", {"shots": shot})
    assert on(api, project)["Quay1"] == [("Warm", 2, 1.0)]
    api.expect(200, "POST", f"{path}/undo/{taken['undo']}")
    assert on(api, project)["Quay1"] == [("Warm", 1, 1.0)]
    assert api.expect(200, "POST", path, {"shots": shot, "entry": warm, "version": 2})["count"] == 1
    assert "no version 9" in api.expect(422, "POST", path, {"shots": shot, "entry": warm, "version": 9})["detail"]


def test_a_shot_is_seen_through_its_whole_stack(api, project, designer):
    """Against the engine itself: a look for film log on a display picture, then one for display, each at its strength."""
    logged = looks.create(
        designer,
        look_from({"name": "Log", "input": "film-log", "output": "rec709", "steps": [{"kind": "convert", "to": "rec709"}, WARM]}),
    )
    looks.save_version(designer, logged.pk)
    faded = look(designer, "Faded", FADED)
    path, shot = f"/projects/{project['id']}/looks", ids(project, "Inside2")
    api.expect(200, "POST", path, {"shots": shot, "entry": logged.pk, "strength": 0.6})
    api.expect(200, "POST", path, {"shots": shot, "entry": faded, "strength": 0.5, "stack": True})
    found = Shot.objects.get(pk=shot[0])
    got = showing.frame(found, list(found.layers.select_related("version__entry")), large=True)
    values, encoding = pictures.proxy_in(found.picture), ENCODINGS[found.picture.encoding]
    for pk, strength, target in ((logged.pk, 0.6, "rec709"), (faded, 0.5, "srgb")):
        content = looks.look_of(Version.objects.get(entry=pk))
        values, encoding = Grade.of_look(content, strength, at_hand)(values, encoding, ENCODINGS[target]), ENCODINGS[target]
    assert np.array_equal(got, to_codes(values, np.uint8))
    plain = showing.frame(found, [], large=True)
    assert np.abs(got.astype(int) - plain.astype(int)).mean() > 2


def test_what_a_project_uses_is_not_taken_away_and_goes_on_being_shown(api, project, designer):
    warm = look(designer, "Warm", WARM)
    shot = ids(project, "Quay1")
    api.expect(200, "POST", f"/projects/{project['id']}/looks", {"shots": shot, "entry": warm})
    (use,) = api.get(f"/catalogue/look/{warm}/uses")
    assert use == {"name": "The Salt Ferry", "how": "on shots of this project", "page": f"/projects/{project['id']}"}
    catalogue.delete(designer, Kind.LOOK, warm)
    pictures.delete(designer, project["shots"][0]["picture"])
    sweep(now=timezone.now() + timedelta(days=40))
    assert Entry.objects.filter(pk=warm).exists()
    assert Picture.objects.filter(pk=project["shots"][0]["picture"]).exists()
    assert api.call("GET", f"/projects/{project['id']}/shots/{shot[0]}/preview.jpg").status_code == 200
    assert on(api, project)["Quay1"] == [("Warm", 1, 1.0)]


def test_a_closed_project_is_seen_by_its_members_and_admins_only(api, project, curator, viewer):
    other, path = person("designer", "other"), f"/projects/{project['id']}"
    api.expect(200, "PATCH", path, {"closed": True, "members": ["other"]})
    assert api_for(other).get(path)["may_work"]
    assert api_for(person("admin", "root")).get(path)["may_work"]
    for somebody in (curator, viewer):
        assert api_for(somebody).call("GET", path).status_code == 404
        assert api_for(somebody).get("/projects") == []
    shot = project["shots"][0]["id"]
    assert api_for(viewer).call("GET", f"{path}/shots/{shot}/preview.jpg").status_code == 404
    assert "nobody called nemo" in api.expect(422, "PATCH", path, {"members": ["nemo"]})["detail"]


def test_only_those_who_work_in_it_change_it(api, project, designer, curator, viewer):
    path, shots = f"/projects/{project['id']}", [one["id"] for one in project["shots"]]
    warm = look(designer, "Warm", WARM)
    other = api_for(person("designer", "other"))
    assert other.get(path)["may_work"] is False
    assert "no member of The Salt Ferry" in other.expect(403, "POST", f"{path}/looks", {"shots": shots, "entry": warm})["detail"]
    assert api_for(curator).expect(200, "POST", f"{path}/looks", {"shots": shots, "entry": warm})["count"] == 4
    answer = api.call("PATCH", f"{path}/shots", {"shots": shots[:2], "approved": True, "note": "Good"})
    assert answer.status_code == 204
    assert [(one["approved"], one["note"]) for one in api.get(path)["shots"]][:3] == [(True, "Good"), (True, "Good"), (False, "")]
    assert api.call("DELETE", path).status_code == 204
    assert api.get("/projects") == []
    assert api.expect(200, "POST", f"{path}/restore")["name"] == "The Salt Ferry"


@pytest.mark.parametrize(
    ("name", "words"), [(" ", "needs a name"), ("the salt ferry", "There is a project called the salt ferry already")]
)
def test_a_name_that_cannot_be_is_refused(api, project, name, words):
    assert words in api.expect(422, "POST", "/projects", {"name": name})["detail"]


def test_shots_of_another_project_and_what_is_gone_change_nothing(api, project, designer):
    warm = look(designer, "Warm", WARM)
    other = api.expect(200, "POST", "/projects", {"name": "Orchard"})
    given = {"shots": [project["shots"][0]["id"]], "entry": warm}
    assert "taken out meanwhile" in api.expect(404, "POST", f"/projects/{other['id']}/looks", given)["detail"]
    assert api.call("POST", f"/projects/{project['id']}/looks", given | {"entry": 98765}).status_code == 404
    assert api.call("POST", f"/projects/{project['id']}/looks", given | {"strength": 1.5}).status_code == 422
    unsaved = looks.create(designer, look_from({"name": "Unsaved", "steps": [WARM]})).pk
    refused = api.expect(422, "POST", f"/projects/{project['id']}/looks", given | {"entry": unsaved})
    assert "save one on the Bench" in refused["detail"]
    assert Layer.objects.count() == 0


def test_the_whole_wall_of_three_hundred_shots_is_told_in_few_queries(api, project, designer, django_assert_max_num_queries):
    warm = look(designer, "Warm", WARM)
    picture = project["shots"][0]["picture"]
    for scene in range(3):
        Shot.objects.bulk_create(
            Shot(scene_id=project["scenes"][0]["id"], code=f"{scene}-{n}", position=n, picture_id=picture) for n in range(100)
        )
    every = list(Shot.objects.values_list("pk", flat=True))
    api.expect(200, "POST", f"/projects/{project['id']}/looks", {"shots": every, "entry": warm})
    with django_assert_max_num_queries(16):
        assert len(api.get(f"/projects/{project['id']}")["shots"]) == 304
