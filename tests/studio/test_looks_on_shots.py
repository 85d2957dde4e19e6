"""Looks on shots: on many at once, replaced, stacked, pinned, tried, taken back; trims before them; and how a shot is shown through them."""

from __future__ import annotations

from itertools import permutations

import numpy as np
import pytest
from django.utils import timezone

from saucer.core.colour.conversion import conversion, convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.lut.apply import to_codes
from saucer.core.numeric.planes import through
from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.catalogue.uses import list_uses
from saucer.studio.common.refusals import NotPossible
from saucer.studio.looks import rules as looks
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Activity
from saucer.studio.pictures import rules as pictures
from saucer.studio.presets import rules as presets
from saucer.studio.projects.grade import grading, seeing
from saucer.studio.projects.models import Shot
from tests.studio.conftest import api_for, person
from tests.studio.story import FADED, WARM, ids, look, on, project

pytestmark = pytest.mark.django_db
__all__ = ["project"]


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
    draft = looks.draft_of(warm)
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
    got = seeing.pixels(found, list(found.layers.select_related("version__entry")))
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
    plain = seeing.pixels(found, [])
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
    draft = looks.draft_of(warm)
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


def test_whoever_looks_at_a_look_learns_of_no_closed_project_it_lies_in(api, project, designer):
    on = look(designer, "Hearth", WARM)
    api.expect(200, "POST", f"/projects/{project['id']}/looks", {"shots": ids(project, "Quay1"), "entry": on})
    assert [use.name for use in list_uses(designer, Entry.objects.get(pk=on))] == ["The Salt Ferry"]
    api.expect(200, "PATCH", f"/projects/{project['id']}", {"closed": True})
    stranger = person("designer", "stranger")
    assert list_uses(stranger, Entry.objects.get(pk=on)) == []
    assert [use.name for use in list_uses(designer, Entry.objects.get(pk=on))] == ["The Salt Ferry"], "whose project it is"
    api.expect(200, "PATCH", f"/projects/{project['id']}", {"closed": False})
    Shot.objects.filter(code="Quay1").update(deleted=timezone.now())
    assert list_uses(designer, Entry.objects.get(pk=on)) == [], "nor of shots that were taken out"


def places(shot: Shot) -> list[str]:
    return [layer.version.entry.name if layer.version else "trims" for layer in shot.layers.order_by("position")]


@pytest.mark.parametrize("clicks", list(permutations(["trims", "preset", "look"])))
def test_each_thing_has_its_place_whatever_was_put_on_first(api, project, designer, clicks):
    """And setting the trims again turns nothing round."""
    warm = look(designer, "Warm", WARM)
    steps = look_from({"steps": [{"kind": "saturation", "factor": 0.5}]}).steps
    preset = presets.keep(designer, "Paler", steps).pk
    [quay] = ids(project, "Quay1")
    base = f"/projects/{project['id']}"
    trims = {"shots": [quay], "steps": [{"kind": "tone", "exposure": 0.4}]}
    puts = {
        "trims": ("trims", trims),
        "preset": ("looks", {"shots": [quay], "entry": preset}),
        "look": ("looks", {"shots": [quay], "entry": warm}),
    }
    for one in (*clicks, "trims", "preset"):
        path, body = puts[one]
        api.expect(200, "POST", f"{base}/{path}", body)
    shot = Shot.objects.select_related("scene__project").get(pk=quay)
    assert places(shot) == ["trims", "Paler", "Warm"]
    # What is looked at before it is kept is the same, in whatever order it is sent.
    kept = api.image(f"{base}/shots/{quay}/frame", {})
    given = [
        {"role": "look", "entry": warm, "version": 1},
        {"role": "before", "entry": preset, "version": 1},
        {"role": "before", "steps": trims["steps"]},
    ]
    seen = api.image(f"{base}/shots/{quay}/frame", {"layers": given})
    assert np.abs(seen.astype(int) - kept.astype(int)).max() <= 2


def test_stacked_looks_are_moved_past_each_other(api, project, designer):
    warm, faded = look(designer, "Warm", WARM), look(designer, "Faded", FADED)
    [quay] = ids(project, "Quay1")
    base = f"/projects/{project['id']}"
    for entry in (warm, faded):
        api.expect(200, "POST", f"{base}/looks", {"shots": [quay], "entry": entry, "stack": True})
    shot = Shot.objects.get(pk=quay)
    layers = [{"role": "look", "entry": faded, "version": 1}, {"role": "look", "entry": warm, "version": 1}]
    done = api.expect(200, "PUT", f"{base}/layers", {"shots": [quay], "layers": layers})
    assert places(shot) == ["Faded", "Warm"]
    api.expect(200, "POST", f"{base}/undo/{done['undo']}")
    assert places(shot) == ["Warm", "Faded"]


def test_more_trims_than_a_shot_may_have_are_refused_and_a_still_has_no_frames(designer, project):
    shot = Shot.objects.select_related("scene__project", "picture").get(pk=ids(project, "Quay1")[0])
    steps = look_from({"steps": [WARM] * 15}).steps
    grading.set_trims(designer, project["id"], [shot.pk], steps)
    with pytest.raises(NotPossible, match="Quay1 would have 30 trims; 20 is the most"):
        grading.set_trims(designer, project["id"], [shot.pk], steps, add=True)
    with pytest.raises(NotPossible, match="is a still"):
        seeing.pixels(shot, [], frame=0)


def test_a_finish_lies_on_the_whole_frame_and_moves_with_its_number():
    """A vignette on an even field is the same upside down; grain of one frame is that of no other."""
    field = np.full((40, 64, 3), 0.4, np.float32)
    vignette = prepare(look_from({"steps": [{"kind": "vignette", "amount": 0.8}]}))
    seen = seeing.rendered(vignette, field)
    assert np.allclose(seen, seen[::-1], atol=1e-6)
    assert seen[0, 0, 0] < seen[20, 32, 0] - 0.05
    grain = prepare(look_from({"steps": [{"kind": "grain", "amount": 0.6}]}))
    assert np.array_equal(seeing.rendered(grain, field, 7), seeing.rendered(grain, field, 7))
    assert np.abs(seeing.rendered(grain, field, 7) - seeing.rendered(grain, field, 8)).max() > 0.01
