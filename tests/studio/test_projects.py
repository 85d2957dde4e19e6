"""Projects: who sees and works in them, shots in scenes, their order and names, taken back; what they use stays."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.utils import timezone

from saucer.core.look.model import look_from
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.looks import rules as looks
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.projects.models import Layer, Shot
from saucer.studio.site.sweeping import sweep
from tests.make import a_picture
from tests.studio.conftest import api_for, person
from tests.studio.story import WARM, ids, look, on, project

pytestmark = pytest.mark.django_db
__all__ = ["project"]


def test_shots_stand_in_story_order_in_their_scenes(api, project, viewer):
    assert [one["name"] for one in project["scenes"]] == ["Quay", "Inside"]
    assert [one["code"] for one in project["shots"]] == ["Quay1", "Quay2", "Inside1", "Inside2"]
    again = api.expect(
        200, "POST", f"/projects/{project['id']}/shots", {"shots": [{"scene": "quay", "picture": project["shots"][0]["picture"]}]}
    )
    assert [one["code"] for one in again["shots"]][:3] == ["Quay1", "Quay2", "Quay1 2"], (
        "the scene that is there, a code that is free"
    )
    (line,) = api_for(viewer).get("/projects")
    assert (line["name"], line["shots"]) == ("The Salt Ferry", 5)


def test_scenes_and_shots_are_put_in_order_named_and_taken_out(api, project):
    base = f"/projects/{project['id']}"
    api.expect(
        200,
        "POST",
        f"{base}/shots/move",
        {"shots": ids(project, "Inside2", "Quay1"), "scene": "Inside", "before": ids(project, "Inside1")[0]},
    )
    codes = [one["code"] for one in api.get(base)["shots"]]
    assert codes == ["Quay2", "Quay1", "Inside2", "Inside1"]
    scenes = [one["id"] for one in project["scenes"]]
    api.expect(200, "PUT", f"{base}/scenes", {"scenes": scenes[::-1]})
    assert [one["name"] for one in api.get(base)["scenes"]] == ["Inside", "Quay"]
    api.expect(200, "PATCH", f"{base}/scenes/{scenes[0]}", {"name": "Harbour"})
    assert "a scene called inside" in api.expect(422, "PATCH", f"{base}/scenes/{scenes[0]}", {"name": "inside"})["detail"]
    api.expect(200, "PATCH", f"{base}/shots/{ids(project, 'Quay2')[0]}", {"code": "H-010"})
    assert "called H-010 already" not in str(api.get(base))
    api.expect(204, "POST", f"{base}/shots/out", {"shots": ids(project, "Quay1", "Inside1")})
    assert [one["code"] for one in api.get(base)["shots"]] == ["Inside2", "H-010"]
    api.expect(204, "POST", f"{base}/shots/back", {"shots": ids(project, "Quay1")})
    assert [one["code"] for one in api.get(base)["shots"]] == ["Quay1", "Inside2", "H-010"]


def test_names_and_the_order_of_scenes_are_taken_back(api, project):
    base, scenes = f"/projects/{project['id']}", [one["id"] for one in project["scenes"]]

    def names() -> list[str]:
        return [one["name"] for one in api.get(base)["scenes"]]

    turned = api.expect(200, "PUT", f"{base}/scenes", {"scenes": scenes[::-1]})
    renamed = api.expect(200, "PATCH", f"{base}/scenes/{scenes[0]}", {"name": "Harbour"})
    again = api.expect(200, "PATCH", f"{base}/scenes/{scenes[0]}", {"name": "Harbour"})
    assert (renamed["count"], again["count"], again["undo"]) == (1, 0, None)
    assert names() == ["Inside", "Harbour"]
    assert api.expect(200, "POST", f"{base}/undo/{renamed['undo']}")["left"] == []
    assert names() == ["Inside", "Quay"]
    assert api.expect(200, "POST", f"{base}/undo/{turned['undo']}")["count"] == 2
    assert names() == ["Quay", "Inside"]


def test_a_scene_that_somebody_named_or_ordered_since_stays(api, project):
    base, scenes = f"/projects/{project['id']}", [one["id"] for one in project["scenes"]]
    turned = api.expect(200, "PUT", f"{base}/scenes", {"scenes": scenes[::-1]})
    renamed = api.expect(200, "PATCH", f"{base}/scenes/{scenes[0]}", {"name": "Harbour"})
    api.expect(200, "PUT", f"{base}/scenes", {"scenes": scenes})
    api.expect(200, "PATCH", f"{base}/scenes/{scenes[0]}", {"name": "Pier"})
    assert api.expect(200, "POST", f"{base}/undo/{renamed['undo']}")["left"] == ["Harbour"]
    assert api.expect(200, "POST", f"{base}/undo/{turned['undo']}")["left"] == ["the order of the scenes"]
    assert [one["name"] for one in api.get(base)["scenes"]] == ["Pier", "Inside"]


def test_scenes_come_from_names_by_a_pattern(api, project, designer, tmp_path):
    names = ("quay_010", "quay_020", "deck-night_010", "still")
    made = [pictures.bring_in(designer, a_picture(tmp_path / f"{name}.png", seed=9), f"{name}.png").pk for name in names]
    path = f"/projects/{project['id']}/pattern"
    found = api.expect(200, "POST", path, {"pictures": made, "pattern": "{scene}_{shot}"})
    assert [(one["scene"], one["code"], one["fits"]) for one in found] == [
        ("quay", "010", True), ("quay", "020", True), ("deck-night", "010", True), ("", "still", False),
    ]  # fmt: skip
    found = api.expect(200, "POST", path, {"pictures": made, "pattern": "{scene}-*_{shot}"})
    assert [one["scene"] for one in found if one["fits"]] == ["deck"]
    assert "{scene} in it once" in api.expect(422, "POST", path, {"pictures": made, "pattern": "{shot}"})["detail"]


def test_notes_encodings_and_the_line(api, project, designer, viewer):
    base, shot = f"/projects/{project['id']}", ids(project, "Quay1")[0]
    note = api_for(viewer).expect(200, "POST", f"{base}/shots/{shot}/notes", {"words": "The lamp is too hot"})
    assert "has no frame 3" in api.expect(422, "POST", f"{base}/shots/{shot}/notes", {"words": "x", "frame": 3})["detail"]
    api.expect(404, "DELETE", f"{base}/notes/{note['id']}")
    before = api.get(base)["shots"][0]["shows"]
    api.expect(200, "PATCH", f"{base}/shots", {"shots": [shot], "encoding": "logc4"})
    detail = api.get(f"{base}/shots/{shot}")
    assert detail["shot"]["shows"] != before
    assert detail["line"] == [{"encoding": "logc4", "what": "as it comes"}, {"encoding": "rec709", "what": "rendered"}]
    assert [(one["words"], one["may_remove"]) for one in detail["notes"]] == [("The lamp is too hot", False)]
    assert detail["shot"]["notes"] == 1
    done = api.get(f"{base}/shots/{shot}/activity")
    assert {"note on shot", "change shots"} <= {one["action"] for one in done}
    api_for(viewer).expect(204, "DELETE", f"{base}/notes/{note['id']}")


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
    api.expect(200, "PATCH", path, {"closed": True, "members": [{"name": "other"}]})
    assert api_for(other).get(path)["may_work"]
    assert api_for(person("admin", "root")).get(path)["may_work"]
    for somebody in (curator, viewer):
        assert api_for(somebody).call("GET", path).status_code == 404
        assert api_for(somebody).get("/projects") == []
    shot = project["shots"][0]["id"]
    assert api_for(viewer).call("GET", f"{path}/shots/{shot}/preview.jpg").status_code == 404
    assert api_for(viewer).call("POST", f"{path}/previews", {"shots": [shot]}).status_code == 404
    assert api_for(other).call("POST", f"{path}/previews", {"shots": [shot]}).status_code == 200
    assert "nobody called nemo" in api.expect(422, "PATCH", path, {"members": [{"name": "nemo"}]})["detail"]


def test_pictures_of_a_closed_project_are_seen_by_its_members_only(api, project, curator, viewer):
    """Neither in the list, nor by their number, nor under a look, nor as shots of another project; test pictures everybody sees."""
    other, path = person("designer", "other"), f"/projects/{project['id']}"
    kept, shared = (Shot.objects.get(code=code).picture_id for code in ("Quay1", "Quay2"))
    Picture.objects.filter(pk=shared).update(test=True)
    assert {kept, shared} <= {one["id"] for one in api_for(curator).get("/pictures")}
    api.expect(200, "PATCH", path, {"closed": True, "members": [{"name": "other"}]})
    for somebody, sees in ((curator, False), (viewer, False), (other, True), (person("admin", "root"), True)):
        theirs = api_for(somebody)
        listed = {one["id"] for one in theirs.get("/pictures")}
        assert (kept in listed, shared in listed) == (sees, True)
        assert theirs.call("GET", f"/pictures/{kept}/frame.png").status_code == (200 if sees else 404)
        asked = {"look": {"steps": []}, "picture": kept}
        assert theirs.call("POST", "/looks/frame", asked).status_code == (200 if sees else 404)
    elsewhere = api_for(curator).expect(200, "POST", "/projects", {"name": "Elsewhere"})
    taken = {"shots": [{"scene": "A", "picture": kept}]}
    assert "deleted meanwhile" in api_for(curator).expect(404, "POST", f"/projects/{elsewhere['id']}/shots", taken)["detail"]
    api.expect(204, "DELETE", path)
    assert kept not in {one["id"] for one in api_for(viewer).get("/pictures")}, "deleting a closed project opens nothing"


def test_the_list_says_which_pictures_are_shots(api, project, designer, tmp_path):
    alone = pictures.bring_in(designer, a_picture(tmp_path / "alone.png", seed=5), "alone.png").pk
    of_shots = {one["id"]: one["of_shots"] for one in api.get("/pictures")}
    assert not of_shots[alone]
    assert of_shots[Shot.objects.get(code="Quay1").picture_id]


def test_members_do_what_their_role_allows(api, project, designer, viewer):
    """Leads, grades, follows; and never more than the role in the studio."""
    path, shots = f"/projects/{project['id']}", [one["id"] for one in project["shots"]][:1]
    people = {role: person("designer", role) for role in ("leads", "grades", "follows")}
    members = [{"name": name, "role": name} for name in people] + [{"name": "viewer", "role": "leads"}]
    told = api.expect(200, "PATCH", path, {"closed": True, "members": members})["members"]
    assert [(one["name"], one["role"]) for one in told] == [
        ("follows", "follows"),
        ("grades", "grades"),
        ("leads", "leads"),
        ("viewer", "leads"),
    ]
    may = {name: api_for(one).get(path) for name, one in (people | {"viewer": viewer}).items()}
    assert {name: (one["may_work"], one["may_lead"]) for name, one in may.items()} == {
        "leads": (True, True), "grades": (True, False), "follows": (False, False), "viewer": (False, False),
    }  # fmt: skip
    for name, shots_status, project_status in (("leads", 200, 200), ("grades", 200, 403), ("follows", 403, 403)):
        theirs = api_for(people[name])
        theirs.expect(shots_status, "PATCH", f"{path}/shots", {"shots": shots, "note": name})
        refused = theirs.expect(project_status, "PATCH", path, {"note": name})
        if project_status == 403:
            assert f"your role is one who {name}" in refused["detail"]
        theirs.expect(200, "POST", f"{path}/shots/{shots[0]}/notes", {"words": "Seen"})
    api.expect(200, "PATCH", path, {"members": [{"name": "grades", "role": "follows"}]})
    assert api_for(people["leads"]).call("GET", path).status_code == 404
    assert not api_for(people["grades"]).get(path)["may_work"]


def test_encodings_approvals_names_and_moves_are_taken_back(api, project, designer, curator):
    path = f"/projects/{project['id']}"

    def now() -> list[tuple[str, str, str, bool]]:
        found = api.get(path)
        scenes = {one["id"]: one["name"] for one in found["scenes"]}
        return [(scenes[one["scene"]], one["code"], one["encoding"], one["approved"]) for one in found["shots"]]

    before, all_of_them = now(), [one["id"] for one in project["shots"]]
    said = api.expect(200, "PATCH", f"{path}/shots", {"shots": all_of_them, "encoding": "linear-709"})
    assert {one[2] for one in now()} == {"linear-709"}
    approved = api.expect(200, "PATCH", f"{path}/shots", {"shots": all_of_them[:2], "approved": True})
    moved = api.expect(200, "POST", f"{path}/shots/move", {"shots": all_of_them[:2], "scene": "Night"})
    assert [one[0] for one in now()].count("Night") == 2
    assert api.expect(200, "PATCH", f"{path}/shots", {"shots": all_of_them, "encoding": "linear-709"})["undo"] is None, (
        "nothing to do"
    )
    api_for(curator).expect(200, "PATCH", f"{path}/shots", {"shots": all_of_them[-1:], "encoding": "rec709"})
    assert api.expect(200, "POST", f"{path}/undo/{moved['undo']}")["left"] == []
    assert [one[:2] for one in now()] == [one[:2] for one in before]
    assert api.expect(200, "POST", f"{path}/undo/{approved['undo']}")["count"] == 2
    back = api.expect(200, "POST", f"{path}/undo/{said['undo']}")
    assert (back["count"], back["left"]) == (3, [before[-1][1]])
    assert now()[:-1] == before[:-1]


def test_an_order_that_somebody_changed_since_is_left(api, project, designer):
    path, first = f"/projects/{project['id']}", [one["id"] for one in project["shots"]][:1]
    moved = api.expect(200, "POST", f"{path}/shots/move", {"shots": first, "scene": "Night"})
    api.expect(200, "POST", f"{path}/shots/move", {"shots": [one["id"] for one in project["shots"]][1:2], "scene": "Night"})
    back = api.expect(200, "POST", f"{path}/undo/{moved['undo']}")
    assert (back["count"], back["left"]) == (0, [project["shots"][0]["code"]])


def test_only_those_who_work_in_it_change_it(api, project, designer, curator, viewer):
    path, shots = f"/projects/{project['id']}", [one["id"] for one in project["shots"]]
    warm = look(designer, "Warm", WARM)
    other = api_for(person("designer", "other"))
    assert other.get(path)["may_work"] is False
    assert "no member of The Salt Ferry" in other.expect(403, "POST", f"{path}/looks", {"shots": shots, "entry": warm})["detail"]
    assert api_for(curator).expect(200, "POST", f"{path}/looks", {"shots": shots, "entry": warm})["count"] == 4
    assert api.expect(200, "PATCH", f"{path}/shots", {"shots": shots[:2], "approved": True, "note": "Good"})["count"] == 2
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
