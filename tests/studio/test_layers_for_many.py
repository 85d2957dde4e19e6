"""Layers for more than one shot: a roll's, a scene's, the project's; inherited, switched off for one, taken back, known to all that reads chains."""

from __future__ import annotations

import io
import json
import zipfile

import numpy as np
import opentimelineio as otio
import pytest
from PIL import Image

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.model import look_from
from saucer.core.look.stack import Layer as Part
from saucer.core.look.stack import stack
from saucer.studio.catalogue.uses import list_uses
from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible
from saucer.studio.looks import rules as looks
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects.check.match import propose_match
from saucer.studio.projects.grade import grading, sharing
from saucer.studio.projects.grade.chain import chain_of, with_content
from saucer.studio.projects.grade.stacking import look_of
from saucer.studio.projects.models import Layer, LayerRole, Project, Reach, Shot
from saucer.studio.projects.story import details, ordering, shots
from tests.make import a_picture
from tests.studio.conftest import api_for
from tests.studio.delivery import as_picture, deliver, read
from tests.studio.delivery import project as ferry
from tests.studio.story import FADED, WARM, ids, look, project

pytestmark = pytest.mark.django_db
__all__ = ["ferry", "project"]

BRIGHTER = {"kind": "tone", "exposure": 0.5}
COOL = {"kind": "white-balance", "warm": -30}
LESS = {"kind": "saturation", "factor": 0.7}


def put(api, project: dict, reach: str, *layers: dict, expect: int = 200, **where) -> dict:
    given = {"reach": reach, "layers": list(layers)} | where
    return api.expect(expect, "PUT", f"/projects/{project['id']}/shared", given)


def names(shot: Shot) -> list[tuple[str, str, bool]]:
    """The chain of a shot: whom each layer is for, what it is, and whether it acts."""
    found = []
    for one in chain_of(Shot.objects.select_related("scene__project").get(pk=shot.pk), with_content()):
        what = one.version.entry.name if one.version else one.steps[0]["kind"]
        found.append((str(one.reach), what, one.enabled))
    return found


def roll(designer, project: dict, name: str, *codes: str) -> None:
    details.change_shots(designer, project["id"], ids(project, *codes), {"roll": name})


def a_shot(project: dict, code: str) -> Shot:
    return Shot.objects.select_related("scene__project", "picture").get(pk=ids(project, code)[0])


def scene_of(project: dict, code: str) -> int:
    return a_shot(project, code).scene_id


def preview(api, project: dict, code: str) -> np.ndarray:
    pk = ids(project, code)[0]
    found = api.client.get(f"/api/projects/{project['id']}/shots/{pk}/preview.jpg?large=true")
    return np.asarray(Image.open(io.BytesIO(found.content)), dtype=np.int16)


@pytest.fixture
def full(api, project, designer) -> dict:
    """Something in every place of one shot's chain, put there in an order that is not the chain's."""
    roll(designer, project, "Camera B", "Quay1", "Inside1")
    finish, own = look(designer, "Finish", LESS), look(designer, "Own", FADED)
    put(api, project, "project", {"entry": finish, "strength": 0.5}, role="after")
    shot = ids(project, "Quay1")
    api.expect(200, "POST", f"/projects/{project['id']}/looks", {"shots": shot, "entry": own})
    put(api, project, "scene", {"steps": [COOL]}, scene=scene_of(project, "Quay1"))
    api.expect(200, "POST", f"/projects/{project['id']}/trims", {"shots": shot, "steps": [{"kind": "tone", "exposure": 0.1}]})
    put(api, project, "roll", {"steps": [{"kind": "saturation", "factor": 1.2}]}, roll=" Camera  B ")
    put(api, project, "project", {"steps": [WARM]})
    return project


def test_the_chain_stands_in_the_order_of_light_whatever_was_put_on_first(full):
    assert names(a_shot(full, "Quay1")) == [
        ("project", "white-balance", True), ("roll", "saturation", True), ("shot", "tone", True), ("scene", "white-balance", True),
        ("shot", "Own", True), ("project", "Finish", True),
    ]  # fmt: skip
    assert [reach for reach, *_ in names(a_shot(full, "Quay2"))] == ["project", "scene", "project"]
    assert [reach for reach, *_ in names(a_shot(full, "Inside1"))] == ["project", "roll", "project"]
    assert [reach for reach, *_ in names(a_shot(full, "Inside2"))] == ["project", "project"]


def test_what_is_seen_is_the_same_steps_laid_on_the_shot_itself(full, api):
    """The chain against one look of its steps, put together by hand."""
    found = look_of(a_shot(full, "Quay1"), chain_of(a_shot(full, "Quay1")), "rec709")
    given = [
        [WARM], [{"kind": "saturation", "factor": 1.2}], [{"kind": "tone", "exposure": 0.1}], [COOL],
    ]  # fmt: skip
    parts = [Part("Trims", look_from({"steps": steps}).steps) for steps in given]
    entries = [looks.look_of(Layer.objects.get(version__entry__name=name).version) for name in ("Own", "Finish")]
    parts += [Part("Own", entries[0]), Part("Finish", entries[1], 0.5)]
    wanted = stack(a_shot(full, "Quay1").source_encoding, parts, "rec709", view="soft")
    assert found.content_hash == wanted.content_hash
    assert ENCODINGS["rec709"].id == found.output


def test_shots_that_come_later_inherit_and_a_move_to_another_scene_changes_the_chain(full, api, designer, tmp_path):
    late = pictures.bring_in(designer, a_picture(tmp_path / "late.png", seed=9), "late.png").pk
    (added,) = shots.add_shots(designer, full["id"], [shots.NewShot(late, "Quay", facts={"reel": "Camera B"})])
    assert [reach for reach, *_ in names(added)] == ["project", "roll", "scene", "project"]
    ordering.move_shots(designer, full["id"], [added.pk], "Inside", None)
    assert [reach for reach, *_ in names(added)] == ["project", "roll", "project"]
    details.change_shots(designer, full["id"], [added.pk], {"roll": ""})
    assert [reach for reach, *_ in names(added)] == ["project", "project"]


def test_one_shot_goes_without_and_takes_it_again(full, api):
    shared = api.get(f"/projects/{full['id']}")["shared"]
    (scene,) = [one for one in shared if one["reach"] == "scene"]
    before = preview(api, full, "Quay1"), preview(api, full, "Quay2")
    path, asked = f"/projects/{full['id']}/shared/switch", {"layer": scene["layers"][0]["id"], "shots": ids(full, "Quay1")}
    done = api.expect(200, "POST", path, asked | {"enabled": False})
    assert done["count"] == 1
    assert ("scene", "white-balance", False) in names(a_shot(full, "Quay1"))
    assert ("scene", "white-balance", True) in names(a_shot(full, "Quay2"))
    assert np.abs(preview(api, full, "Quay1") - before[0]).max() > 3
    assert np.array_equal(preview(api, full, "Quay2"), before[1])
    assert api.expect(200, "POST", path, asked | {"enabled": True})["count"] == 1
    assert np.array_equal(preview(api, full, "Quay1"), before[0])
    assert api.expect(200, "POST", path, asked | {"enabled": True})["count"] == 0
    api.expect(422, "POST", f"/projects/{full['id']}/undo/{done['undo']}")


def test_a_change_for_many_is_taken_back_unless_somebody_was_there_since(full, api, curator):
    path = f"/projects/{full['id']}"
    where = {"scene": scene_of(full, "Quay1")}
    was = names(a_shot(full, "Quay1"))
    first = put(api, full, "scene", {"steps": [WARM]}, {"steps": [LESS]}, **where)
    assert first["count"] == 2
    assert api.expect(200, "POST", f"{path}/undo/{first['undo']}")["count"] == 2
    assert names(a_shot(full, "Quay1")) == was
    second = put(api, full, "scene", **where)
    assert ("scene", "white-balance", True) not in names(a_shot(full, "Quay1"))
    put(api_for(curator), full, "scene", {"steps": [LESS]}, **where)
    assert "changed what lies there since" in api.expect(422, "POST", f"{path}/undo/{second['undo']}")["detail"]
    told = api.get(f"{path}/shots/{ids(full, 'Quay1')[0]}/activity")
    assert (told[0]["action"], told[0]["data"]["scene"]) == ("grade many shots", "Quay")
    assert not [one for one in api.get(f"{path}/shots/{ids(full, 'Inside2')[0]}/activity") if one["data"].get("scene") == "Quay"]


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({"reach": "shot"}, "before the look, or after it"),
        ({"reach": "project", "role": "look"}, "before the look, or after it"),
        ({"reach": "roll", "roll": "  "}, "which camera, roll or folder"),
        ({"reach": "roll", "roll": "B", "role": "after"}, "comes before the look"),
        ({"reach": "project", "layers": [{"steps": [WARM]}] * 5}, "4"),
    ],
)
def test_what_cannot_lie_there_is_refused_in_words(api, project, given, words):
    given = {"layers": [{"steps": [WARM]}]} | given
    assert words in json.dumps(api.expect(422, "PUT", f"/projects/{project['id']}/shared", given))
    assert not Layer.objects.exists()


def test_another_projects_scene_and_layers_are_not_there(api, project, designer, viewer):
    other = api.expect(200, "POST", "/projects", {"name": "Another"})
    mine = scene_of(project, "Quay1")
    put(api, project, "scene", {"steps": [WARM]}, scene=mine)
    put(api, other, "scene", {"steps": [WARM]}, scene=mine, expect=404)
    layer = Layer.objects.get().pk
    with pytest.raises(NotFound):
        sharing.switch_for(designer, other["id"], layer, ids(project, "Quay1"), False)
    with pytest.raises(NotAllowed):
        sharing.switch_for(viewer, project["id"], layer, ids(project, "Quay1"), False)
    with pytest.raises(NotFound, match="changed meanwhile"):
        sharing.switch_for(designer, project["id"], layer + 1, ids(project, "Quay1"), False)


def test_a_project_holds_only_so_many_layers_for_many(designer, project, monkeypatch):
    monkeypatch.setattr(sharing, "MOST_SHARED", 2)
    lying = [grading.item(LayerRole.BEFORE, steps=[WARM])] * 2
    sharing.set_shared(designer, project["id"], sharing.Spot(Reach.PROJECT), lying)
    with pytest.raises(NotPossible, match="2 layers"):
        sharing.set_shared(designer, project["id"], sharing.Spot(Reach.PROJECT, LayerRole.AFTER), lying)


def test_a_scene_keeps_what_lies_on_it_when_its_last_shot_leaves(full, api, designer):
    ordering.move_shots(designer, full["id"], ids(full, "Quay1", "Quay2"), "Elsewhere", None)
    back = Shot.objects.get(code="Quay2")
    assert [reach for reach, *_ in names(back)] == ["project", "project"]
    ordering.move_shots(designer, full["id"], [back.pk], "Quay", None)
    assert [reach for reach, *_ in names(back)] == ["project", "scene", "project"]


def test_a_trial_and_a_drag_are_seen_among_what_lies_on_many(full, api, designer):
    """A frame of what would lie there is, once it is kept, the picture of the shot."""
    shot = ids(full, "Quay1")[0]

    def frame(**given: object) -> bytes:
        found = api.call("POST", f"/projects/{full['id']}/shots/{shot}/frame", given)
        assert (found.status_code, found.content[:2]) == (200, b"\xff\xd8"), found.content[:200]
        return found.content

    shared = {"reach": "scene", "scene": scene_of(full, "Quay1"), "layers": [{"steps": [LESS], "strength": 0.4}]}
    before, tried = frame(), frame(shared=shared)
    assert tried != before
    put(api, full, "scene", *shared["layers"], scene=shared["scene"])
    kept = frame()
    assert tried == kept
    own = api.get(f"/projects/{full['id']}")["shots"][0]["layers"]
    asked = [{name: one[name] for name in ("role", "entry", "version", "steps", "strength", "enabled")} for one in own]
    assert frame(layers=asked) == kept
    assert frame(layers=[]) != kept


def test_a_look_is_in_use_where_it_lies_on_many(full, designer):
    entry = Layer.objects.get(project=full["id"], role="after").version.entry
    assert [use.name for use in list_uses(designer, entry)] == ["The Salt Ferry"]


def test_match_starts_from_what_reaches_the_trims(api, project, designer):
    """One picture twice: under a correction of its roll, half a stop is what brings it to the other."""
    one, other = a_shot(project, "Quay1"), a_shot(project, "Quay2")
    Shot.objects.filter(pk=other.pk).update(picture=one.picture)
    roll(designer, project, "B", "Quay2")
    put(api, project, "roll", {"steps": [BRIGHTER]}, roll="B")
    proposal, _ = propose_match(designer, project["id"], one.pk, other.pk, None)
    assert proposal.exposure == pytest.approx(0.5, abs=0.05)
    proposal, _ = propose_match(designer, project["id"], other.pk, one.pk, None)
    assert proposal.exposure == pytest.approx(-0.5, abs=0.05)


def test_a_correction_after_something_that_lost_detail_is_told_on_its_layer(api, project, designer):
    shot = ids(project, "Quay1")
    cut = look(designer, "Print", {"kind": "limit", "low": 0.3, "high": 0.7})
    put(api, project, "project", {"entry": cut})
    path = f"/projects/{project['id']}/shots/{shot[0]}/advice"
    assert api.get(path) == []
    api.expect(200, "POST", f"/projects/{project['id']}/trims", {"shots": shot, "steps": [BRIGHTER]})
    put(api, project, "scene", {"steps": [LESS]}, scene=scene_of(project, "Quay1"))
    told = api.get(path)
    assert [(one["reach"], one["words"].split("% ")[1]) for one in told] == [
        ("shot", "of this picture is already clipped here, by Print."), ("scene", "of this picture is already clipped here, by Print."),
    ]  # fmt: skip
    assert {one["layer"] for one in told} == set(Layer.objects.filter(version=None).values_list("pk", flat=True))


@pytest.mark.django_db(transaction=True)
def test_a_delivery_is_what_is_seen_and_says_whose_each_layer_is(api, ferry, designer, tmp_path):
    """Delivered through layers for many: the still is that of the same look laid on the shot, the report and the CDL know them."""
    spot = sharing.Spot(Reach.SCENE, scene=Shot.objects.get(code="pier").scene_id)
    sharing.set_shared(designer, ferry.pk, spot, [grading.item(LayerRole.BEFORE, steps=[BRIGHTER])])
    finish = looks.create(designer, look_from({"name": "Finish", "steps": [LESS]}))
    version = looks.save_version(designer, finish.pk).pk
    over = sharing.Spot(Reach.PROJECT, LayerRole.AFTER)
    sharing.set_shared(designer, ferry.pk, over, [grading.item(LayerRole.AFTER, version=version, strength=0.5)])
    made = deliver(api, ferry, stills="tiff", luts="cube", cdl=True, timeline=True)
    still = as_picture(read(api, ferry, made, "stills/Quay_pier.tif"), tmp_path, "still.tif")
    shot = Shot.objects.select_related("scene__project", "picture").get(code="pier")
    seen = preview_of(api, ferry, shot)
    assert np.abs(still * 255 - seen).mean() < 2.5, "the card is a JPEG of the same picture"
    told = json.loads(read(api, ferry, made, "lists/report.json"))
    layers = next(one for one in told["files"] if (one["shot"], one["kind"]) == ("pier", "still"))["layers"]
    assert [(one["reach"], one["reached"], one["name"]) for one in layers] == [
        ("shot", "", "Trims"), ("scene", "Quay", "Trims"), ("shot", "", "Hearth"), ("project", "", "Finish"),
    ]  # fmt: skip
    edits = otio.adapters.read_from_string(read(api, ferry, made, "lists/timeline.edl").decode(), "cmx_3600")
    slopes = [one.metadata["cdl"]["asc_sop"]["slope"][0] for one in edits.find_clips() if "cdl" in one.metadata]
    assert len(slopes) == 2, "the scene's correction reaches its second shot, which has none of its own"
    assert slopes[0] > 1.1, "its own CDL and the scene's half stop in one"


def preview_of(api, ferry: Project, shot: Shot) -> np.ndarray:
    found = api.client.get(f"/api/projects/{ferry.pk}/shots/{shot.pk}/preview.jpg?large=true")
    return np.asarray(Image.open(io.BytesIO(found.content)), dtype=np.float64)


@pytest.mark.django_db(transaction=True)
def test_a_lut_of_a_shot_holds_what_lies_on_many(api, ferry, designer):
    before = deliver(api, ferry, luts="cube")
    sharing.set_shared(designer, ferry.pk, sharing.Spot(Reach.PROJECT), [grading.item(LayerRole.BEFORE, steps=[BRIGHTER])])
    after = deliver(api, ferry, luts="cube")
    name = next(one["file_name"] for one in before["items"] if one["kind"] == "lut" and "pier" in one["file_name"])
    assert read(api, ferry, before, name) != read(api, ferry, after, name)


@pytest.mark.django_db(transaction=True)
def test_a_correction_apart_from_the_others_is_told_not_lost(api, ferry, designer):
    """After a camera LUT under everything the trims are one CDL; what lies over everything is said to be in none."""
    under = looks.create(designer, look_from({"name": "Camera", "steps": [{"kind": "curves", "master": [[0, 0.1], [1, 0.9]]}]}))
    version = looks.save_version(designer, under.pk).pk
    sharing.set_shared(designer, ferry.pk, sharing.Spot(Reach.PROJECT), [grading.item(LayerRole.BEFORE, version=version)])
    over = sharing.Spot(Reach.PROJECT, LayerRole.AFTER)
    sharing.set_shared(designer, ferry.pk, over, [grading.item(LayerRole.AFTER, steps=[LESS])])
    made = deliver(api, ferry, cdl=True)
    words = read(api, ferry, made, "lists/trims.ccc").decode()
    assert "after project: Camera" in words
    assert words.count("<ColorCorrection id") == 1
    told = json.loads(read(api, ferry, made, "lists/report.json"))
    assert "pier: project: correction stands elsewhere in the chain and is in no CDL" in told["left_out"]


@pytest.mark.django_db(transaction=True)
def test_looks_for_many_are_in_the_pack_of_looks(api, ferry, designer):
    finish = looks.create(designer, look_from({"name": "Finish", "steps": [LESS]}))
    saved = looks.save_version(designer, finish.pk)
    saved.entry.may_pass_on = "yes"
    saved.entry.save(update_fields=["may_pass_on"])
    over = sharing.Spot(Reach.PROJECT, LayerRole.AFTER)
    sharing.set_shared(designer, ferry.pk, over, [grading.item(LayerRole.AFTER, version=saved.pk)])
    made = deliver(api, ferry, looks=True)
    (pack,) = [one["file_name"] for one in made["items"] if one["file_name"].endswith(".zip")]
    held = zipfile.ZipFile(io.BytesIO(read(api, ferry, made, pack))).namelist()
    assert [one for one in held if "finish" in one.lower()], held


def test_a_look_that_states_another_view_is_told_where_the_view_matters(api, project, designer):
    """On a shot in log that is rendered to reach it; not on one in its own encoding, nor for a look of the project's view."""
    plain = look(designer, "Plain", WARM)
    shot = ids(project, "Quay1")
    path = f"/projects/{project['id']}/shots/{shot[0]}/advice"
    api.expect(200, "POST", f"/projects/{project['id']}/looks", {"shots": shot, "entry": plain})
    assert api.get(path) == []
    details.change_shots(designer, project["id"], shot, {"encoding": "logc4"})
    (told,) = api.get(path)
    assert told["words"] == "By itself this look is seen by the plain view; in this project everything is seen by the soft one."
    api.expect(200, "PATCH", f"/projects/{project['id']}", {"view": "plain"})
    assert api.get(path) == []
