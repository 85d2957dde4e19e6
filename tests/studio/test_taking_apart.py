"""LUTs of the Shelf taken apart into steps, in a job."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.bake.bake import bake
from saucer.core.files.formats import cube
from saucer.core.lut.apply import apply_lut
from saucer.studio.catalogue.models import Entry, SeenBy
from tests.make import a_look, random_pixels
from tests.studio.conftest import api_for, person
from tests.studio.work import run_worker

STEPS = ({"kind": "curves", "red": [[0, 0.05], [0.5, 0.56], [1, 0.97]]}, {"kind": "saturation", "factor": 0.7})


@pytest.mark.django_db(transaction=True)
def test_a_lut_becomes_steps_and_a_rest_that_only_its_maker_sees(api, designer, picture):
    table = bake(a_look(*STEPS), 17)
    lut = api.upload("/luts", "print.cube", cube.write(table), expects="srgb").json()
    api.expect(200, "PATCH", f"/catalogue/lut/{lut['id']}", {"licence": "House"})
    job = api.expect(202, "POST", f"/luts/{lut['id']}/apart", {"simple": 0.1})
    run_worker()
    done = api.get(f"/jobs/{job['id']}")
    assert done["state"] == "done", done["problem"]
    apart = api.get(f"/apart/{job['id']}")
    assert [step["kind"] for step in apart["steps"]] == ["curves", "saturation", "lut"]
    assert [one["title"] for one in apart["shares"]] == ["Curves", "Saturation"]
    assert apart["explained"]["mean"] < 0.3 < apart["untouched"]["mean"]
    look = {"input": apart["expects"], "output": apart["gives"], "steps": apart["steps"]}
    seen = api.image("/looks/frame", {"look": look, "picture": picture.pk, "quality": "rest"}).astype(int)
    x = (np.round(random_pixels() * 65535) / 65535).astype(np.float32)
    wanted = np.round(np.clip(apply_lut(table, x), 0, 1) * 255)
    assert np.abs(seen - wanted).mean() < 0.5
    rest = Entry.objects.get(kind="lut", name__endswith=": rest")
    assert (rest.owner, rest.seen_by, rest.licence) == (designer, SeenBy.OWNER, "House")
    assert rest.latest.from_version.entry_id == lut["id"], "what it was taken from is known"
    other = api_for(person("designer", "ada"))
    other.expect(404, "GET", f"/apart/{job['id']}")
    other.expect(404, "GET", f"/luts/{rest.pk}")


@pytest.mark.django_db(transaction=True)
def test_what_it_is_taken_for_in_a_look_goes_before_what_is_known_of_it(api):
    lut = api.upload("/luts", "print.cube", cube.write(bake(a_look(*STEPS), 9)), expects="srgb").json()
    job = api.expect(202, "POST", f"/luts/{lut['id']}/apart", {"expects": "display-p3", "gives": "rec709"})
    run_worker()
    apart = api.get(f"/apart/{job['id']}")
    assert (apart["expects"], apart["gives"], apart["steps"][0]["kind"]) == ("display-p3", "rec709", "convert")


@pytest.mark.django_db(transaction=True)
def test_what_cannot_be_taken_apart(api, viewer):
    lut = api.upload("/luts", "light.cube", cube.write(bake(a_look(*STEPS), 9)), expects="film-log", gives="acescg").json()
    assert "nowhere" in api.expect(422, "POST", f"/luts/{lut['id']}/apart", {"expects": "nowhere"})["detail"]
    api_for(viewer).expect(403, "POST", f"/luts/{lut['id']}/apart", {})
    job = api.expect(202, "POST", f"/luts/{lut['id']}/apart", {})
    run_worker()
    done = api.get(f"/jobs/{job['id']}")
    assert done["state"] == "failed"
    assert "is linear light" in done["problem"]
    assert Entry.objects.filter(kind="lut").count() == 1
