"""The family of a look in the studio: told, put on shots by name, seen, baked, packed and delivered."""

from __future__ import annotations

import io
import json
import zipfile

import numpy as np
import PyOpenColorIO as ocio
import pytest
from PIL import Image

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.files.registry import read_lut
from saucer.core.look.family import as_member
from saucer.core.look.model import look_from
from saucer.core.lut.apply import apply_lut
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.catalogue.review import rules as review
from saucer.studio.common.store import read_kept
from saucer.studio.looks import rules as looks
from saucer.studio.luts.models import Lut as LutRow
from saucer.studio.people.models import Activity
from saucer.studio.pictures import rules as pictures
from saucer.studio.preview.entries import grade_of_version
from saucer.studio.projects.models import Shot
from tests.clips import moving
from tests.make import evaluate, random_pixels
from tests.studio.delivery import as_picture, deliver, read
from tests.studio.delivery import project as film
from tests.studio.story import ids, project
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db
__all__ = ["film", "project"]
TONE = {"kind": "tone", "id": "t", "exposure": 0.25}
NIGHT = {"name": "Night", "settings": {"t": {"exposure": -1}}}
THIN = {"name": "Thin", "strength": 0.4}
QUAY = {"name": "Quay", "steps": [TONE], "family": [NIGHT, THIN]}


@pytest.fixture
def quay(designer) -> int:
    draft = looks.create(designer, look_from(QUAY), may_pass_on="yes")
    looks.save_version(designer, draft.pk)
    return draft.pk


def with_version(designer, pk: int, **changes) -> None:
    draft = looks.draft_of(pk)
    looks.save_draft(designer, pk, look_from(QUAY | changes), draft.revision)
    looks.save_version(designer, pk)


def lying(api, project: dict, code: str) -> list[tuple[str, str, int]]:
    shots = {one["code"]: one for one in api.get(f"/projects/{project['id']}")["shots"]}
    return [(one["name"], one["member"], one["version"]) for one in shots[code]["layers"]]


def card(api, project: dict, shot: int, **asked) -> bytes:
    if asked:
        response = api.call("POST", f"/projects/{project['id']}/previews", {"shots": [shot], **asked})
        assert response.status_code == 200, response.content
        return response.content
    return api.client.get(f"/api/projects/{project['id']}/shots/{shot}/preview.jpg").content


def done(api, job: dict) -> dict:
    run_worker()
    job = api.get(f"/jobs/{job['id']}")
    assert job["state"] == "done", job["problem"]
    return job


def test_a_family_is_kept_with_its_look_and_told_in_words(api, designer, quay):
    assert api.get(f"/looks/{quay}")["draft"]["family"][0]["name"] == "Night"
    told = [
        {"name": "Night", "changes": ["Tone: exposure 0.25 -> -1"]},
        {"name": "Thin", "changes": ["Strength of the look: 100 % -> 40 %"]},
    ]
    assert api.get(f"/looks/{quay}/family") == told
    assert api.expect(200, "POST", "/looks/family", {"look": QUAY}) == told
    assert [(one["detail"], one["family"]) for one in api.get("/shelf/entries")["entries"]] == [
        ("Family of 3, version 1", ["Night", "Thin"])
    ]
    beside = api.expect(200, "POST", "/looks/family", {"look": QUAY, "beside": "Night"})
    assert beside[1]["changes"] == ["Strength of the look: 100 % -> 40 %", "Tone: exposure -1 -> 0.25"]
    with_version(designer, quay, family=[THIN])
    assert [one["name"] for one in api.get(f"/looks/{quay}/family?version=1")] == ["Night", "Thin"]
    assert [one["name"] for one in api.get(f"/looks/{quay}/family")] == ["Thin"]
    assert api.get(f"/looks/{quay}/history")[0]["changes"] == ['Family: "Night" removed']
    draft = api.expect(200, "POST", "/looks", QUAY)
    assert api.get(f"/looks/{draft['id']}/family") == [], "there is no version yet"


def test_between_two_is_one_more(api):
    body = {"look": QUAY, "first": "", "second": "Night", "at": 0.4, "name": " Dusk "}
    made = api.expect(200, "POST", "/looks/family/between", body)
    assert made == {"name": "Dusk", "strength": None, "settings": {"t": {"exposure": -0.25}}}
    problem = api.expect(422, "POST", "/looks/family/between", body | {"second": "Noon"})
    assert 'there is no "Noon" in this look; there are "Night", "Thin"' in problem["detail"]
    wrong = QUAY | {"family": [{"name": "A", "settings": {"gone": {}}}]}
    refused = api.expect(422, "POST", "/looks", wrong)
    assert "family[0].settings.gone: no step has this id" in json.dumps(refused)


def test_one_of_a_family_is_put_on_shots_by_its_name(api, project, quay):
    path, shots = f"/projects/{project['id']}/looks", ids(project, "Quay1", "Quay2")
    api.expect(200, "POST", path, {"shots": shots, "entry": quay})
    recipe = card(api, project, shots[0])
    tried = card(api, project, shots[0], trying=quay, member="Night")
    put = api.expect(200, "POST", path, {"shots": shots[:1], "entry": quay, "member": "night"})
    assert lying(api, project, "Quay1") == [("Quay", "Night", 1)]
    assert lying(api, project, "Quay2") == [("Quay", "", 1)]
    seen = card(api, project, shots[0])
    assert seen == tried
    assert np.asarray(Image.open(io.BytesIO(seen))).mean() < np.asarray(Image.open(io.BytesIO(recipe))).mean() - 20
    assert Activity.objects.filter(action="grade shots").order_by("pk").last().data["look"] == "Quay, Night"
    api.expect(200, "POST", f"/projects/{project['id']}/undo/{put['undo']}")
    assert lying(api, project, "Quay1") == [("Quay", "", 1)]
    assert card(api, project, shots[0]) == recipe
    refused = api.expect(422, "POST", path, {"shots": shots, "entry": quay, "member": "Noon"})
    assert refused["detail"] == 'Quay, version 1 has no "Noon": it has Night, Thin.'


def test_layers_are_set_with_their_member_and_steps_have_none(api, project, quay):
    base, shot = f"/projects/{project['id']}", ids(project, "Quay1")
    layer = {"role": "look", "entry": quay, "version": 1, "member": "Thin", "strength": 1, "enabled": True}
    api.expect(200, "PUT", f"{base}/layers", {"shots": shot, "layers": [layer]})
    assert lying(api, project, "Quay1") == [("Quay", "Thin", 1)]
    api.expect(200, "POST", f"{base}/looks/strength", {"shots": shot, "strength": 0.5})
    assert lying(api, project, "Quay1") == [("Quay", "Thin", 1)], "what else is changed leaves it"
    trims = {"role": "before", "steps": [TONE], "member": "Thin"}
    refused = api.expect(422, "PUT", f"{base}/layers", {"shots": shot, "layers": [trims]})
    assert "steps have no family" in json.dumps(refused)
    shared = {"reach": "project", "role": "after", "layers": [{"entry": quay, "member": "night"}]}
    api.expect(200, "PUT", f"{base}/shared", shared)
    assert [one["member"] for one in api.get(base)["shared"][0]["layers"]] == ["Night"]


def test_a_newer_version_is_taken_where_it_still_has_the_member(api, project, designer, quay):
    base, (first, second) = f"/projects/{project['id']}", ids(project, "Quay1", "Quay2")
    for shot, member in ((first, "Night"), (second, "Thin")):
        api.expect(200, "POST", f"{base}/looks", {"shots": [shot], "entry": quay, "member": member})
    with_version(designer, quay, family=[NIGHT | {"settings": {"t": {"exposure": -2}}}])
    before = card(api, project, first)
    offered = card(api, project, first, newest=True)
    told = {one["member"]: one for shot in api.get(base)["shots"] for one in shot["layers"]}
    assert [(one["newer"], one["lost"]) for one in (told["Night"], told["Thin"])] == [(2, None), (None, 2)]
    assert api.get(f"{base}/shots/{second}")["shot"]["layers"][0]["lost"] == 2
    assert api.expect(200, "POST", f"{base}/looks/newest", {"shots": [first, second]})["count"] == 1
    assert lying(api, project, "Quay1") == [("Quay", "Night", 2)]
    assert lying(api, project, "Quay2") == [("Quay", "Thin", 1)]
    assert card(api, project, first) == offered != before
    api.expect(200, "POST", f"{base}/looks", {"shots": [second], "entry": quay, "version": 1})
    (recipe,) = (one for shot in api.get(base)["shots"] if shot["id"] == second for one in shot["layers"])
    assert (recipe["newer"], recipe["lost"]) == (2, None)


def test_every_member_has_a_picture_of_its_own(api, designer, quay, tmp_path, a_chart):
    path = f"/api/shelf/entries/{quay}/preview.jpg?picture={a_chart}"
    seen = {name: api.client.get(f"{path}&member={name}").content for name in ("", "Night", "Thin")}
    assert len(set(seen.values())) == 3
    assert api.client.get(f"{path}&member=Night&version=1").content == seen["Night"]
    draft = looks.draft_of(quay)
    changed = look_from(QUAY | {"family": [NIGHT | {"settings": {"t": {"exposure": -3}}}, THIN]})
    looks.save_draft(designer, quay, changed, draft.revision)
    assert api.client.get(f"{path}&member=Night").content != seen["Night"], "though the recipe is the same"
    assert api.client.get(f"{path}&member=Noon").status_code == 422


def test_a_version_does_what_its_member_does(designer, quay):
    """A quarter of a stop more of the recipe, half the light of Night: tone's exposure is in stops of linear light."""
    version = Entry.objects.get(pk=quay).latest
    srgb, light = ENCODINGS["srgb"], ENCODINGS["linear-709"]
    grey = convert(np.full((1, 1, 3), 0.2, np.float32), light, srgb)
    graded = (convert(grade_of_version(version, member=name)(grey, srgb, srgb), srgb, light)[0, 0, 1] for name in ("", "Night"))
    assert list(graded) == [pytest.approx(0.2 * 2**0.25, rel=2e-3), pytest.approx(0.1, rel=2e-3)]


@pytest.fixture
def a_chart(designer, tmp_path) -> int:
    Image.fromarray((random_pixels() * 255).astype(np.uint8)).save(tmp_path / "chart.png")
    return pictures.bring_in(designer, tmp_path / "chart.png", "chart.png").pk


@pytest.mark.django_db(transaction=True)
def test_members_are_baked_packed_and_taken_as_files(api, curator, quay):
    night, values = evaluate(as_member(look_from(QUAY), "Night"), random_pixels()), random_pixels()
    choice = {"formats": [{"format": "cube"}], "size": 33, "member": "Night"}
    done(api, api.expect(202, "POST", f"/bake/looks/{quay}", {"version": 1, "choice": choice}))
    lut = LutRow.objects.get(version__entry=quay)
    assert lut.facts["member"] == "Night"
    assert lut.files.get().file_name == "quay-night-33.cube"
    table, _ = read_lut(read_kept(lut.files.get().blob_id), "a.cube")
    assert table.title == "Quay, Night"
    np.testing.assert_allclose(apply_lut(table, values), night, atol=3e-3)

    job = done(api, api.expect(202, "POST", "/packing/file", {"entry": quay, "format": {"format": "cube"}, "member": "Thin"}))
    assert job["file_name"] == "quay-thin.cube"

    review.move(curator, Kind.LOOK, quay, 1, "published")
    job = done(api, api.expect(202, "POST", "/packing", {"entries": [quay], "pipelines": True}))
    pack = zipfile.ZipFile(io.BytesIO(api.client.get(f"/api/jobs/{job['id']}/file").getvalue()))
    files = json.loads(pack.read("manifest.json"))["entries"][0]["files"]
    assert [(one["path"], one["member"]) for one in files[1:]] == [
        ("quay.cube", ""),
        ("quay-night.cube", "Night"),
        ("quay-thin.cube", "Thin"),
    ]
    np.testing.assert_allclose(apply_lut(read_lut(pack.read("quay-night.cube"), "a.cube")[0], values), night, atol=3e-3)
    config = ocio.Config.CreateFromStream(pack.read("pipelines/config.ocio").decode())
    assert set(config.getLookNames()) == {"Quay", "Quay Night", "Quay Thin"}
    job = done(api, api.expect(202, "POST", "/packing", {"entries": [quay], "family": False}))
    pack = zipfile.ZipFile(io.BytesIO(api.client.get(f"/api/jobs/{job['id']}/file").getvalue()))
    assert len([name for name in pack.namelist() if name.endswith(".cube")]) == 1


@pytest.mark.django_db(transaction=True)
def test_what_is_delivered_names_the_member(api, film, quay, tmp_path):
    still = Shot.objects.order_by("pk").first()
    api.expect(200, "POST", f"/projects/{film.pk}/trims", {"shots": [still.pk], "steps": []})
    api.expect(200, "POST", f"/projects/{film.pk}/looks", {"shots": [still.pk], "entry": quay, "member": "Night"})
    made = deliver(api, film, stills="png", shots=[still.pk], template="{shot}_{look}")
    pixels = as_picture(read(api, film, made, "stills/pier_Quay_Night.png"), tmp_path, "still.png")
    wanted = evaluate(
        as_member(look_from(QUAY), "Night"), np.round(np.clip(moving(1, 160, 90), 0, 1) * 255).astype(np.float32) / 255
    )
    np.testing.assert_allclose(pixels, np.clip(wanted, 0, 1), atol=1 / 255)
    (layer,) = json.loads(read(api, film, made, "lists/report.json"))["files"][0]["layers"]
    assert (layer["name"], layer["member"], layer["version"]) == ("Quay, Night", "Night", 1)
