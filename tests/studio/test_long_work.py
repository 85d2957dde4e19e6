"""What takes more than a moment is a job, or is refused in words: no request holds up the server."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.studio.catalogue.models import Entry
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job, State
from saucer.studio.luts import tools
from saucer.studio.pictures import rules
from saucer.studio.pictures.models import Picture
from tests.make import a_lut
from tests.studio.work import run_worker


def png(width: int, height: int, seed: int = 1) -> bytes:
    packed = io.BytesIO()
    Image.fromarray(np.random.default_rng(seed).integers(0, 255, (height, width, 3), np.uint8)).save(packed, "PNG")
    return packed.getvalue()


@pytest.fixture
def few(monkeypatch):
    """Pictures count as large from 10,000 pixels on."""
    monkeypatch.setattr(rules, "MOST_AT_ONCE", 10_000)


@pytest.mark.django_db(transaction=True)
def test_a_large_picture_is_brought_in_by_a_job_and_a_small_one_at_once(api, few):
    small = api.upload("/pictures", "small.png", png(90, 100))
    assert (small.status_code, small.json()["name"]) == (200, "small")
    sent = api.upload("/pictures", "large.png", png(200, 120), encoding="rec709")
    assert sent.status_code == 202
    assert Picture.objects.count() == 1, "nothing is there before it can be shown"
    run_worker()
    job = api.get(f"/jobs/{sent.json()['id']}")
    (made,) = [one for one in api.get("/pictures") if one["id"] == job["picture"]]
    assert (made["name"], made["encoding"], made["width"], made["height"], made["file_name"]) == (
        "large",
        "rec709",
        200,
        120,
        "large.png",
    )
    assert api.client.get(f"/api/pictures/{made['id']}/file").getvalue() == png(200, 120)
    assert api.upload("/pictures", "large.png", png(200, 120), encoding="zap").status_code == 422, "told at once"


@pytest.mark.django_db(transaction=True)
def test_a_large_picture_is_read_anew_in_another_encoding_by_a_job(api, few, designer):
    api.upload("/pictures", "large.png", png(200, 120))
    run_worker()
    picture = Picture.objects.get()
    before = picture.proxy_id
    renamed = api.call("PATCH", f"/pictures/{picture.pk}", {"name": "Quay"})
    assert (renamed.status_code, renamed.json()["name"]) == (200, "Quay")
    job = api.expect(202, "PATCH", f"/pictures/{picture.pk}", {"encoding": "linear-709", "name": "Quay at dusk"})
    picture.refresh_from_db()
    assert (picture.name, picture.encoding, picture.proxy_id) == ("Quay at dusk", "srgb", before)
    run_worker()
    picture.refresh_from_db()
    assert api.get(f"/jobs/{job['id']}")["state"] == "done"
    assert picture.encoding == "linear-709"
    assert picture.proxy_id != before


@pytest.mark.django_db(transaction=True)
def test_a_job_whose_worker_ended_after_the_change_does_not_change_twice(api, few, designer):
    sent = api.upload("/pictures", "large.png", png(200, 120)).json()
    run_worker()
    Job.objects.filter(pk=sent["id"]).update(state=State.RUNNING, finished=None)
    jobs.perform(sent["id"])
    assert Picture.objects.count() == 1
    assert api.get(f"/jobs/{sent['id']}")["state"] == "done"


@pytest.mark.django_db(transaction=True)
def test_what_was_cancelled_at_the_last_moment_is_not_kept(api, designer, monkeypatch):
    lut = api.upload("/luts", "one.cube", formats()["cube"].write(a_lut(9, title="One"), PLAIN)).json()
    job = api.expect(202, "POST", f"/luts/{lut['id']}/tool", {"choice": {"tool": "grey"}})
    keep = tools.keep

    def cancelled_meanwhile(*given):
        made = keep(*given)
        # As the person's own request would, which a transaction of ours cannot see.
        Job.objects.filter(pk=job["id"]).update(state=State.CANCELLED)
        return made

    monkeypatch.setattr(tools, "keep", cancelled_meanwhile)
    run_worker()
    assert Entry.objects.count() == 1, "only the LUT that was brought in"


@pytest.mark.django_db
def test_what_would_take_too_long_is_refused_with_the_way_round(api):
    refused = api.call("GET", "/charts/new?kind=twin&size=65")
    assert refused.status_code == 422
    assert "./saucer chart new --size 65 -o chart.png" in refused.json()["detail"]
    assert api.call("GET", "/charts/new?kind=twin&size=9").status_code == 200
    look = {"name": "Plain"}
    many = api.expect(422, "POST", "/bake/fidelity", {"look": look, "sizes": [129, 128]})
    assert many["detail"] == "Measure one size above 65 at a time."


@pytest.mark.django_db
def test_a_slow_tool_is_tried_with_fewer_nodes_than_it_is_kept_with(api, picture, monkeypatch):
    lut = api.upload("/luts", "one.cube", formats()["cube"].write(a_lut(9), PLAIN)).json()
    sizes = []
    result = tools._result
    monkeypatch.setattr(tools, "_result", lambda *given: sizes.append(given[2].size) or result(*given))
    monkeypatch.setattr(tools, "MOST_IN_A_TRIAL", 9)
    for tool in ("invert", "resize"):
        api.image(f"/luts/{lut['id']}/tool/frame", {"choice": {"tool": tool, "size": 17}, "picture": picture.pk})
    assert sizes == [9, 17]
