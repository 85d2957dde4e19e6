"""Looks that come as files and go as bundles, with the LUTs that they name."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import pytest

from saucer.core.files.formats import cube
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.luts.models import Lut
from tests.core.test_schema_and_own import LOGC3
from tests.make import a_lut
from tests.studio.conftest import api_for

pytestmark = pytest.mark.django_db
CUBE = cube.write(a_lut(9, title="Print"))
OWN = LOGC3["id"]


def bundle(steps: list[dict[str, Any]], **look: Any) -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        archive.writestr("look.json", json.dumps({"format": "saucer-look", "version": 1, "name": "Print", "steps": steps} | look))
        archive.writestr("print.cube", CUBE)
    return packed.getvalue()


def test_a_bundle_brings_its_luts_and_goes_out_as_it_came(api, viewer):
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        steps = [{"kind": "lut", "file": "print.cube", "expects": "film-log", "gives": "rec709"}]
        archive.writestr("look.json", json.dumps({"format": "saucer-look", "version": 1, "name": "Print", "steps": steps}))
        archive.writestr("print.cube", CUBE)
    made = api.upload("/looks/file", "print.zip", packed.getvalue()).json()
    (lut,) = Lut.objects.all()
    assert (lut.version.entry.name, lut.expects, lut.gives) == ("print", "film-log", "rec709")
    assert made["draft"]["steps"][0]["sha256"] == lut.files.get().blob_id
    again = api.call("GET", f"/looks/{made['id']}/bundle.zip")
    assert api.upload("/looks/file", "b.zip", again.content).json()["draft_hash"] == made["draft_hash"]
    assert Entry.objects.filter(kind=Kind.LUT).count() == 1
    assert api_for(viewer).call("GET", f"/looks/{made['id']}/bundle.zip").status_code == 403


def test_a_bad_bundle_leaves_nothing_behind(api):
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        steps = [{"kind": "lut", "file": name} for name in ("good.cube", "bad.cube")]
        archive.writestr("look.json", json.dumps({"format": "saucer-look", "version": 1, "steps": steps}))
        archive.writestr("good.cube", CUBE)
        archive.writestr("bad.cube", "LUT_3D_SIZE 2\n0 0 zero\n")
    refused = api.upload("/looks/file", "a.zip", packed.getvalue())
    assert refused.status_code == 422
    assert "a.zip, steps[1], bad.cube, line 2" in refused.json()["detail"]
    assert Entry.objects.filter(kind=Kind.LUT).count() == 0


@pytest.mark.parametrize(
    ("named", "kept"),
    [
        ({}, ("film-log", "film-log")), ({"expects": "acescct"}, ("acescct", "acescct")), ({"gives": "rec709"}, ("film-log", "rec709")),
        ({"expects": OWN, "gives": "rec709"}, ("srgb", "rec709")), ({"expects": "acescct", "gives": OWN}, ("acescct", "acescct")),
    ],
)  # fmt: skip
def test_a_lut_of_a_bundle_stands_on_the_shelf_between_encodings_that_all_know(api, named, kept):
    """What a step leaves open is the look's; the step itself goes on naming what only the look defines."""
    steps = [{"kind": "lut", "file": "print.cube"} | named]
    made = api.upload("/looks/file", "print.zip", bundle(steps, input="film-log", encodings=[LOGC3])).json()
    assert Lut.objects.values_list("expects", "gives").get() == kept
    assert [made["draft"]["steps"][0][end] for end in ("expects", "gives")] == [named.get(end, "") for end in ("expects", "gives")]


def test_a_lut_that_stands_on_the_shelf_is_not_brought_in_again(api):
    own = api.upload("/luts", "one.cube", CUBE, expects="rec709", gives="rec709").json()
    made = api.upload(
        "/looks/file", "print.zip", bundle([{"kind": "lut", "file": "print.cube", "expects": "film-log"}, {"kind": "saturation"}])
    ).json()
    assert made["draft"]["steps"][0]["sha256"] == own["files"][0]["sha256"]
    assert Lut.objects.values_list("expects", flat=True).get() == "rec709"
