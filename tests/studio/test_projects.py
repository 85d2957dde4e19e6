"""Projects: who sees and works in them, shots in scenes, looks on many at once, replaced, stacked, taken back; what they use stays."""

from __future__ import annotations

from datetime import timedelta

import numpy as np
import pytest
from django.utils import timezone

from saucer.core.colour.conversion import conversion, convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.look.model import look_from
from saucer.core.lut.apply import to_codes
from saucer.core.numeric.planes import through
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.looks import rules as looks
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Activity
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.presets import rules as presets
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
        made = api.expect(200, "POST", f"/projects/{made['id']}/shots", {"shots": [{"scene": scene, "picture": pk} for pk in ids]})
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
        200, "POST", f"/projects/{project['id']}/shots", {"shots": [{"scene": "quay", "picture": project["shots"][0]["picture"]}]}
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
    base = f"/projects/{project['id']}"
    path = f"{base}/looks"
    first = api.expect(200, "POST", path, {"shots": ids(project, "Quay1", "Quay2"), "entry": warm})
    second = api.expect(200, "POST", path, {"shots": ids(project, "Quay1", "Quay2", "Inside1"), "entry": faded})
    api_for(curator).expect(200, "POST", f"{path}/strength", {"shots": ids(project, "Quay2"), "strength": 0.3})
    back = api.expect(200, "POST", f"{base}/undo/{second['undo']}")
    assert (back["count"], back["left"]) == (2, ["Quay2"])
    assert on(api, project) == {"Quay1": [("Warm", 1, 1.0)], "Quay2": [("Faded", 1, 0.3)], "Inside1": [], "Inside2": []}
    assert "taken back already" in api.expect(422, "POST", f"{base}/undo/{second['undo']}")["detail"]
    assert api_for(curator).call("POST", f"{base}/undo/{first['undo']}").status_code == 404, "another's"
    assert api.expect(200, "POST", f"{base}/undo/{first['undo']}")["left"] == ["Quay2"]
    assert Activity.objects.filter(action="grade shots").count() == 3


def test_versions_are_pinned_and_a_newer_one_is_offered(api, project, designer):
    warm = look(designer, "Warm", WARM)
    base, shot = f"/projects/{project['id']}", ids(project, "Quay1")
    path = f"{base}/looks"
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
    api.expect(200, "POST", f"{base}/undo/{taken['undo']}")
    assert on(api, project)["Quay1"] == [("Warm", 1, 1.0)]
    assert api.expect(200, "POST", path, {"shots": shot, "entry": warm, "version": 2})["count"] == 1
    assert "no version 9" in api.expect(422, "POST", path, {"shots": shot, "entry": warm, "version": 9})["detail"]


def test_a_shot_is_seen_through_its_whole_stack(api, project, designer):
    """Against the engine's parts: a look for film log on a display picture, which is rendered for it, then one for display, each faded."""
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
    got = showing.pixels(found, list(found.layers.select_related("version__entry")))
    film, rec709, srgb = ENCODINGS["film-log"], ENCODINGS["rec709"], ENCODINGS["srgb"]
    values = pictures.proxy_in(found.picture, srgb)
    as_film = through(conversion(srgb, film, "soft"), values)
    graded = Grade.of_look(looks.look_of(Version.objects.get(entry=logged.pk)), 1.0, at_hand)(as_film, film, rec709)
    back = through(conversion(film, rec709, "soft"), as_film)
    mixed = convert(back + np.float32(0.6) * (graded - back), rec709, srgb)
    wanted = Grade.of_look(looks.look_of(Version.objects.get(entry=faded)), 0.5, at_hand)(mixed, srgb, srgb)
    off = np.abs(got.astype(int) - to_codes(wanted, np.uint8).astype(int))
    assert off.mean() < 0.5, "but for the lattice of previews"
    assert np.percentile(off, 99) <= 3
    plain = showing.pixels(found, [])
    assert np.abs(got.astype(int) - plain.astype(int)).mean() > 2


def trims_on(api, project: dict) -> dict[str, list[str]]:
    shots = api.get(f"/projects/{project['id']}")["shots"]
    return {one["code"]: [step["kind"] for layer in one["layers"] for step in layer["steps"] or []] for one in shots}


def test_trims_come_before_looks_are_copied_and_taken_back(api, project, designer):
    warm = look(designer, "Warm", WARM)
    base = f"/projects/{project['id']}"
    api.expect(200, "POST", f"{base}/looks", {"shots": ids(project, "Quay1", "Quay2"), "entry": warm})
    done = api.expect(200, "POST", f"{base}/trims", {"shots": ids(project, "Quay1"), "steps": [{"kind": "tone", "exposure": 0.5}]})
    (quay, *_) = api.get(base)["shots"]
    assert [layer["role"] for layer in quay["layers"]] == ["before", "look"]
    api.expect(200, "POST", f"{base}/trims", {"shots": ids(project, "Inside1"), "steps": [{"kind": "saturation", "factor": 1.2}]})
    source = ids(project, "Quay1")[0]
    api.expect(200, "POST", f"{base}/trims/copy", {"shots": ids(project, "Inside1"), "source": source, "add": True})
    api.expect(200, "POST", f"{base}/trims/copy", {"shots": ids(project, "Inside2"), "source": source})
    assert trims_on(api, project) == {"Quay1": ["tone"], "Quay2": [], "Inside1": ["saturation", "tone"], "Inside2": ["tone"]}
    faded = look(designer, "Faded", FADED)
    api.expect(200, "POST", f"{base}/looks", {"shots": ids(project, "Quay1"), "entry": faded})
    assert trims_on(api, project)["Quay1"] == ["tone"], "another look leaves the trims"
    assert api.expect(200, "POST", f"{base}/undo/{done['undo']}")["left"] == ["Quay1"]
    wrong = api.expect(
        422, "POST", f"{base}/trims", {"shots": ids(project, "Quay1"), "steps": [{"kind": "tone", "exposure": "much"}]}
    )
    assert "trims: steps[0].exposure" in wrong["detail"]


def test_a_preset_becomes_a_trim_and_another_preset_replaces_it(api, project, designer):
    first = presets.keep(designer, "Dusk", look_from({"steps": [WARM]}).steps).pk
    other = presets.keep(designer, "Dawn", look_from({"steps": [FADED]}).steps).pk
    base, shot = f"/projects/{project['id']}", ids(project, "Quay1")
    api.expect(200, "POST", f"{base}/trims", {"shots": shot, "steps": [{"kind": "saturation", "factor": 0.9}]})
    for pk in (first, other):
        api.expect(200, "POST", f"{base}/looks", {"shots": shot, "entry": pk})
    layers = api.get(base)["shots"][0]["layers"]
    assert [(one["role"], one["name"]) for one in layers] == [("before", "Trims"), ("before", "Dawn")]


def test_a_whole_stack_is_set_ordered_and_switched_off(api, project, designer):
    warm, faded = look(designer, "Warm", WARM), look(designer, "Faded", FADED)
    base, shot = f"/projects/{project['id']}", ids(project, "Quay1")
    stack = [
        {"entry": warm, "version": 1, "enabled": False},
        {"entry": faded, "strength": 0.5},
        {"role": "before", "steps": [WARM]},
    ]
    api.expect(200, "PUT", f"{base}/layers", {"shots": shot, "layers": stack})
    layers = api.get(base)["shots"][0]["layers"]
    assert [(one["name"], one["strength"], one["enabled"]) for one in layers] == [
        ("Trims", 1, True),
        ("Warm", 1, False),
        ("Faded", 0.5, True),
    ]
    assert (
        "either an entry or steps"
        in api.expect(422, "PUT", f"{base}/layers", {"shots": shot, "layers": [{"role": "look"}]})["detail"]
    )
    five = [{"entry": warm}] * 5
    assert "4 is the most" in api.expect(422, "PUT", f"{base}/layers", {"shots": shot, "layers": five})["detail"]
    # What is only looked at changes nothing, and shows what the same would show once it is there.
    seen = api.image(
        f"{base}/shots/{shot[0]}/frame", {"layers": [{"entry": faded, "strength": 0.5}, {"role": "before", "steps": [WARM]}]}
    )
    kept = api.image(f"{base}/shots/{shot[0]}/frame", {})
    assert np.abs(seen.astype(int) - kept.astype(int)).max() <= 2
    plain = api.image(f"{base}/shots/{shot[0]}/frame", {"layers": []})
    assert np.abs(plain.astype(int) - kept.astype(int)).mean() > 2


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
    api.expect(204, "PUT", f"{base}/scenes", {"scenes": scenes[::-1]})
    assert [one["name"] for one in api.get(base)["scenes"]] == ["Inside", "Quay"]
    api.expect(204, "PATCH", f"{base}/scenes/{scenes[0]}", {"name": "Harbour"})
    assert "a scene called inside" in api.expect(422, "PATCH", f"{base}/scenes/{scenes[0]}", {"name": "inside"})["detail"]
    api.expect(200, "PATCH", f"{base}/shots/{ids(project, 'Quay2')[0]}", {"code": "H-010"})
    assert "called H-010 already" not in str(api.get(base))
    api.expect(204, "POST", f"{base}/shots/out", {"shots": ids(project, "Quay1", "Inside1")})
    assert [one["code"] for one in api.get(base)["shots"]] == ["Inside2", "H-010"]
    api.expect(204, "POST", f"{base}/shots/back", {"shots": ids(project, "Quay1")})
    assert [one["code"] for one in api.get(base)["shots"]] == ["Quay1", "Inside2", "H-010"]


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
    assert [(one["words"], one["mine"]) for one in detail["notes"]] == [("The lamp is too hot", False)]
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


def test_a_look_is_tried_over_the_trims_and_what_is_seen_is_what_is_put(api, project, designer):
    base, shot = f"/projects/{project['id']}", ids(project, "Quay1")
    warm, faded = look(designer, "Warm", WARM), look(designer, "Faded", FADED)
    api.expect(200, "POST", f"{base}/trims", {"shots": shot, "steps": [{"kind": "tone", "exposure": -1}]})
    api.expect(200, "POST", f"{base}/looks", {"shots": shot, "entry": warm})

    def seen(**asked: object) -> bytes:
        return api.call("POST", f"{base}/previews", {"shots": shot, **asked}).content

    before, tried, stacked = seen(), seen(trying=faded), seen(trying=faded, stack=True)
    assert len({before, tried, stacked}) == 3
    assert seen() == before, "looking changes nothing"
    api.expect(200, "POST", f"{base}/looks", {"shots": shot, "entry": faded, "stack": True})
    assert seen() == stacked
    api.expect(200, "POST", f"{base}/looks", {"shots": shot, "entry": faded})
    assert seen() == tried


def test_previews_of_many_shots_are_those_of_each(api, project, designer):
    base, shots = f"/projects/{project['id']}", [one["id"] for one in project["shots"]]
    warm = look(designer, "Warm", WARM)
    api.expect(200, "POST", f"{base}/looks", {"shots": shots[:2], "entry": warm})
    draft = looks.find(warm)
    looks.save_draft(designer, warm, look_from({"name": "Warm", "steps": [WARM | {"warm": -40}]}), draft.revision)
    looks.save_version(designer, warm)
    for newest in (False, True):
        answer = api.call("POST", f"{base}/previews", {"shots": [*shots, 999_999], "newest": newest})
        sizes = [int(one) for one in answer["Saucer-Sizes"].split(",")]
        assert sizes[-1] == 0, "there is no such shot"
        at = 0
        for shot, size in zip(shots, sizes, strict=False):
            alone = api.client.get(f"/api{base}/shots/{shot}/preview.jpg?newest={newest}").content
            assert answer.content[at : at + size] == alone
            at += size


def test_scopes_count_what_is_delivered(api, project, designer):
    base, shot = f"/projects/{project['id']}", ids(project, "Quay1")
    path = f"{base}/shots/{shot[0]}"
    plain = api.expect(200, "POST", f"{path}/histograms", {})
    assert plain["source"] == plain["result"], "nothing lies on it"
    count = sum(plain["result"][0])
    dark = [{"role": "before", "steps": [{"kind": "cdl", "slope": [0, 0, 0]}]}]
    looked_at = api.expect(200, "POST", f"{path}/histograms", {"layers": dark})
    assert looked_at["source"] == plain["source"]
    assert looked_at["result"][3][0] == count, "all of it is black"
    for kind, planes in (("waveform", 1), ("parade", 3), ("vectorscope", 1)):
        answer = api.call("POST", f"{path}/trace", {"kind": kind, "layers": dark})
        shape = [int(one) for one in answer["Saucer-Shape"].split(",")]
        counts = np.frombuffer(answer.content, "<u4").reshape(shape)
        assert shape[0] == planes
        assert (counts.reshape(planes, -1).sum(axis=1) == count).all()


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
