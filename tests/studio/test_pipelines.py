"""What pipelines take: the OpenColorIO configuration in a pack, the manifest at its address, one file of any format, next versions."""

from __future__ import annotations

import hashlib
import io
import tempfile
import zipfile
from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio
import pytest

from saucer.core.bake.bake import Words, bake_file
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats, read_lut
from saucer.core.look.model import look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.steps.kinds import kinds
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.catalogue.order import many
from saucer.studio.catalogue.review import rules as review
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.packing.returning import bring_back
from saucer.studio.people.models import Activity
from saucer.studio.presets import rules as presets
from tests.make import a_lut
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db(transaction=True)
WARM = {"kind": "white-balance", "warm": 30}
COLOURS = np.random.default_rng(5).uniform(0, 1, (1000, 3)).astype(np.float32)


def done(api, path: str, given: dict) -> tuple[dict, bytes]:
    job = api.expect(202, "POST", path, given)
    run_worker()
    job = api.get(f"/jobs/{job['id']}")
    assert job["state"] == "done", job["problem"]
    return job, api.client.get(f"/api/jobs/{job['id']}/file").getvalue()


def published(designer, curator, content: dict, **fields) -> int:
    draft = looks.create(designer, look_from(content), may_pass_on="yes", **fields)
    looks.save_version(designer, draft.pk)
    review.move(designer, Kind.LOOK, draft.pk, 1, "proposed")
    review.move(curator, Kind.LOOK, draft.pk, 1, "published")
    return draft.pk


@pytest.fixture
def studio(designer, curator):
    """Two published looks, one between ACES encodings; a draft; a published LUT; a preset."""
    lut = luts.bring_in(
        designer, formats()["cube"].write(a_lut(9), PLAIN), "print.cube", may_pass_on="yes", expects="rec709", gives="rec709"
    )
    review.move(designer, Kind.LUT, lut.pk, 1, "proposed")
    review.move(curator, Kind.LUT, lut.pk, 1, "published")
    draft = looks.create(designer, look_from({"name": "Draft", "steps": [WARM]}), may_pass_on="yes")
    looks.save_version(designer, draft.pk)
    return {
        "dusk": published(designer, curator, {"name": "Dusk, 1: warm", "steps": [WARM]}, category="Film/Night"),
        "aces": published(designer, curator, {"name": "Within", "input": "acescct", "output": "acescct", "steps": [WARM]}),
        "lut": lut.pk, "draft": draft.pk, "preset": presets.keep(designer, "Warm", look_from({"steps": [WARM]}).steps, may_pass_on="yes").pk,
    }  # fmt: skip


def test_a_pack_holds_a_configuration_of_what_is_published(api, studio, tmp_path):
    job, data = done(api, "/packing", {"entries": list(studio.values()), "pipelines": True})
    pack = zipfile.ZipFile(io.BytesIO(data))
    pack.extractall(tmp_path)
    config = ocio.Config.CreateFromFile(str(tmp_path / "pipelines" / "config.ocio"))
    config.validate()
    assert sorted(config.getLookNames()) == ["Dusk 1 warm", "Within", "print"]
    assert config.getLook("Within").getProcessSpace() == "ACEScct"
    assert [line for line in job["left_out"] if "for pipelines" in line] == ["Draft for pipelines: it is not published"]
    assert '"pipelines": "pipelines/config.ocio"' in pack.read("manifest.json").decode()
    assert "pipelines/config.ocio" in pack.read("READ ME.txt").decode()
    assert b"pipelines/config.ocio" in pack.read("SHA256SUMS")
    (transform,) = [name for name in pack.namelist() if name.startswith("pipelines/aces/")]
    assert b"<InputDescriptor>ACES2065-1</InputDescriptor>" in pack.read(transform)
    table = luts.table_of(luts.lut_of(studio["lut"]))
    processor = config.getProcessor(ocio.LookTransform(src="Rec.709 display", dst="Rec.709 display", looks="print"))
    got = COLOURS.copy()
    processor.getOptimizedCPUProcessor(ocio.OPTIMIZATION_LOSSLESS).applyRGB(got)
    assert np.abs(got - apply_lut(table, COLOURS)).max() < 2e-5


def test_without_anything_published_there_is_no_configuration(api, studio):
    _, data = done(api, "/packing", {"entries": [studio["draft"], studio["preset"]], "pipelines": True})
    assert not [name for name in zipfile.ZipFile(io.BytesIO(data)).namelist() if name.startswith("pipelines")]


def test_a_pack_with_a_configuration_comes_back_as_any_other(api, studio, curator, designer):
    _, data = done(api, "/packing", {"entries": [studio["dusk"]], "pipelines": True})
    Entry.objects.filter(pk=studio["dusk"]).update(deleted="2026-01-01T00:00Z")
    with tempfile.NamedTemporaryFile(suffix=".zip") as file:
        Path(file.name).write_bytes(data)
        found = bring_back(curator, Path(file.name), "pack.zip", lambda share: None)
    assert [entry.name for entry in found.entries] == ["Dusk, 1: warm"]
    assert found.failed == []


def test_the_manifest_stands_at_an_address_with_filters_and_a_tag(api, studio, viewer, designer):
    answer = api.call("GET", "/packing/manifest.json")
    listed = answer.json()
    assert [one["name"] for one in listed["entries"]] == ["print", "Dusk, 1: warm", "Within"]
    assert (listed["total"], listed["more"], listed["format"]) == (3, False, "saucer-catalogue")
    (file,) = listed["entries"][0]["files"]
    taken = api.client.get(file["address"])
    assert hashlib.sha256(b"".join(taken.streaming_content)).hexdigest() == file["sha256"]
    again = api.client.get("/api/packing/manifest.json", headers={"If-None-Match": answer["ETag"]})
    assert (again.status_code, again.content) == (304, b"")
    assert [one["name"] for one in api.get("/packing/manifest.json?category=Film")["entries"]] == ["Dusk, 1: warm"]
    assert [one["name"] for one in api.get("/packing/manifest.json?in_state=draft&kind=look")["entries"]] == ["Draft"]
    many.change_one(designer, Kind.LOOK, studio["dusk"], {"note": "New"}, {}, [], [])
    assert api.client.get("/api/packing/manifest.json", headers={"If-None-Match": answer["ETag"]}).status_code == 200
    assert api_for(viewer).call("GET", "/packing/manifest.json").status_code == 200


@pytest.mark.parametrize("form", ["cube", "clf", "csp", "3dl", "spi3d", "hald"])
def test_a_file_of_any_format_is_made_of_any_entry(api, studio, form):
    for name in ("dusk", "lut", "preset"):
        job, data = done(api, "/packing/file", {"entry": studio[name], "format": {"format": form}, "size": 17})
        lut, found = read_lut(data, job["file_name"])
        assert found.id == form
        assert lut.chain
    told = Activity.objects.filter(action="download", about_id=studio["lut"]).get()
    assert told.data["file"].startswith("print")


def test_a_file_of_an_earlier_version_is_that_of_the_version(api, studio, designer):
    draft = looks.draft_of(studio["dusk"])
    looks.save_draft(
        designer, draft.pk, look_from({"name": "Dusk", "steps": [{"kind": "white-balance", "warm": -40}]}), draft.revision
    )
    looks.save_version(designer, draft.pk)
    first = done(api, "/packing/file", {"entry": draft.pk, "format": {"format": "cube"}, "size": 9, "version": 1})[1]
    second = done(api, "/packing/file", {"entry": draft.pk, "format": {"format": "cube"}, "size": 9, "version": 2})[1]
    look = look_from({"name": "Dusk, 1: warm", "steps": [WARM]})
    wanted, _ = read_lut(bake_file(look, formats()["cube"], 9, Words("x")).data, "x.cube")
    assert np.abs(apply_lut(read_lut(first, "a.cube")[0], COLOURS) - apply_lut(wanted, COLOURS)).max() < 1e-6
    assert np.abs(apply_lut(read_lut(second, "a.cube")[0], COLOURS) - apply_lut(wanted, COLOURS)).max() > 0.02
    assert "no version 9" in api.get(f"/jobs/{_failed(api, draft.pk)}")["problem"]


def _failed(api, pk: int) -> int:
    job = api.expect(202, "POST", "/packing/file", {"entry": pk, "format": {"format": "cube"}, "version": 9})
    run_worker()
    return job["id"]


def test_a_preset_gets_a_next_version_and_each_is_seen_by_itself(api, studio, picture, curator):
    pk = studio["preset"]
    other = {"kind": "white-balance", "warm": -30}
    kept = api.expect(200, "POST", f"/presets/{pk}/versions", {"steps": [other], "note": "Colder"})
    assert (kept["version"], kept["steps"][0]["warm"]) == (2, -30)
    assert "Nothing has changed since version 2" in api.expect(422, "POST", f"/presets/{pk}/versions", {"steps": [other]})["detail"]
    assert "Choose the steps" in api.expect(422, "POST", f"/presets/{pk}/versions", {"steps": []})["detail"]
    assert [one["note"] for one in api.get(f"/review/preset/{pk}")["versions"]] == ["Colder", ""]
    seen = [
        api.client.get(f"/api/shelf/entries/{pk}/preview.jpg?picture={picture.pk}{version}").content
        for version in ("", "&version=1", "&version=2")
    ]
    assert seen[0] == seen[2]
    assert seen[0] != seen[1]
    assert api.get(f"/catalogue/preset/{pk}")["character"]["warmth"] < 0
    assert kinds()["white-balance"].neutral(look_from({"steps": [{"kind": "white-balance"}]}).steps[0])


def test_an_earlier_version_of_a_lut_is_seen_by_itself(api, studio, picture, designer):
    luts.correct_ends(designer, studio["lut"], "film-log", "rec709")
    address = f"/api/shelf/entries/{studio['lut']}/preview.jpg?picture={picture.pk}"
    first, second, shown = (api.client.get(address + version).content for version in ("&version=1", "&version=2", ""))
    assert first != second == shown
    frame = {"entry": studio["lut"], "picture": picture.pk, "version": 1}
    assert api.call("POST", "/shelf/frame", frame).content != api.call("POST", "/shelf/frame", frame | {"version": 2}).content
    assert api.call("POST", "/shelf/frame", frame | {"version": 7}).status_code == 404


def test_what_uses_a_lut_is_told(api, studio, designer):
    file = luts.first_file(luts.lut_of(studio["lut"]))
    step = {"kind": "lut", "sha256": file.blob_id, "expects": "rec709", "gives": "rec709"}
    user = looks.create(designer, look_from({"name": "User", "steps": [step]}))
    (use,) = api.get(f"/catalogue/lut/{studio['lut']}/uses")
    assert use == {"name": "User", "how": "used in this look", "page": f"/shelf/look/{user.pk}"}
    branch = looks.branch(designer, studio["dusk"], 1)
    assert [one["page"] for one in api.get(f"/catalogue/look/{studio['dusk']}/uses")] == [f"/shelf/look/{branch.pk}"]


def test_rights_and_states_of_many_are_changed_together_and_taken_back(api, studio, curator):
    curators = api_for(curator)
    ids = [studio["draft"], studio["preset"]]
    changed = api.expect(200, "POST", "/catalogue/many", {"entries": ids, "pass_on_until": "2027-03-01", "licence": "CC-BY-4.0"})
    assert set(map(str, Entry.objects.filter(pk__in=ids).values_list("pass_on_until", flat=True))) == {"2027-03-01"}
    assert api.expect(200, "POST", f"/catalogue/many/{changed['undo']}/undo")["left"] == []
    assert set(Entry.objects.filter(pk__in=ids).values_list("pass_on_until", "licence")) == {(None, "")}
    moved = api.expect(200, "POST", "/catalogue/many", {"entries": ids, "state": "proposed"})
    assert set(Entry.objects.filter(pk__in=ids).values_list("state", flat=True)) == {"proposed"}
    assert len(curators.get("/review/queue")) == 2
    assert api.expect(200, "POST", f"/catalogue/many/{moved['undo']}/undo")["left"] == []
    assert set(Version.objects.filter(entry__in=ids).values_list("state", flat=True)) == {"draft"}
    refused = api.expect(403, "POST", "/catalogue/many", {"entries": ids, "state": "published"})
    assert "curator" in refused["detail"]
    assert set(Entry.objects.filter(pk__in=ids).values_list("state", flat=True)) == {"draft"}, "none or all"
    done_by = curators.expect(200, "POST", "/catalogue/many", {"entries": ids, "state": "published"})
    left = curators.expect(200, "POST", f"/catalogue/many/{done_by['undo']}/undo")["left"]
    assert sorted(left) == ["Draft", "Warm"], "what was published is retired, never a draft again"
