"""Deliveries while they are made: in parts that survive what befalls workers, disks, sources and people."""

from __future__ import annotations

import json
import re
from datetime import timedelta
from fractions import Fraction
from pathlib import Path

import jsonschema_rs
import pytest
from django.db import connection
from django.utils import timezone

from saucer.core.look.model import look_from
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry
from saucer.studio.common import store
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job
from saucer.studio.packing.returning import read_pack
from saucer.studio.pictures import footage
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.deliver import making
from saucer.studio.projects.deliver.frozen import schema_text
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import DeliveryItem, Shot
from saucer.studio.projects.story import details, notes, ordering, shots
from tests.clips import write
from tests.studio.delivery import EVERYTHING, TRIM, deliver, empty, project, read
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db(transaction=True)
__all__ = ["project"]


def test_what_is_applied_is_fixed_when_it_is_asked_for(api, project, designer, tmp_path):
    clean = deliver(api, project, stills="tiff")
    asked = api.expect(200, "POST", f"/projects/{project.pk}/deliveries", {"stills": "tiff"})
    grading.take_off(designer, project.pk, list(Shot.objects.values_list("pk", flat=True)))
    run_worker()
    after = api.get(f"/projects/{project.pk}/deliveries/{asked['number']}")
    sums = [{one["file_name"]: one["sha256"] for one in made["items"] if one["kind"] == "still"} for made in (clean, after)]
    assert sums[0] == sums[1]


class Died(BaseException):
    """A worker that ends in the middle."""


def test_a_part_that_is_done_is_not_made_again_after_a_worker_died(api, project, designer, monkeypatch):
    asked = api.expect(200, "POST", f"/projects/{project.pk}/deliveries", {"sequences": "png", "stills": "png"})
    real, made = making._write_frame, []

    def dies(item, *rest):
        if len(made) == 5:
            raise Died
        made.append(item.row.file_name)
        return real(item, *rest)

    monkeypatch.setattr(making, "_write_frame", dies)
    parts = list(Job.objects.filter(kind="deliver-part").order_by("pk").values_list("pk", flat=True))
    for pk in parts:
        try:
            jobs.perform(pk)
        except Died:
            break
    kept = DeliveryItem.objects.exclude(blob=None).count()
    assert kept > 0
    assert all(store.is_whole(one.blob_id) for one in DeliveryItem.objects.exclude(blob=None))
    again: list[str] = []

    def goes_on(item, *rest):
        again.append(item.row.file_name)
        return real(item, *rest)

    monkeypatch.setattr(making, "_write_frame", goes_on)
    run_worker()
    found = api.get(f"/projects/{project.pk}/deliveries/{asked['number']}")
    assert found["job"]["state"] == "done"
    assert found["done"] == found["files"]
    assert not set(again) & set(made), "nothing twice"


def test_a_missing_source_fails_its_part_keeps_the_others_and_goes_on_when_it_is_back(api, project, designer, monkeypatch):
    clip = Shot.objects.get(code="gulls").picture.footage.files.get()
    path = Path(store.default_storage.path(store.name_of(clip.blob_id)))
    away = path.rename(path.with_suffix(".away"))
    made = deliver(api, project, clips="h264", stills="png")
    assert made["job"]["state"] == "failed"
    assert "of 5 parts failed; the others are kept" in made["job"]["problem"]
    assert made["job"]["may_restart"]
    assert 0 < made["done"] < made["files"]
    away.rename(path)
    api.expect(200, "POST", f"/jobs/{made['job']['id']}/restart")
    run_worker()
    again = api.get(f"/projects/{project.pk}/deliveries/{made['number']}")
    assert (again["job"]["state"], again["done"]) == ("done", again["files"])


def test_a_source_that_changed_underneath_is_told_and_nothing_of_it_is_delivered(api, project, designer, tmp_path, settings):
    (tmp_path / "rushes").mkdir()
    settings.MEDIA_FOLDERS = {"rushes": str(tmp_path / "rushes")}
    write(tmp_path / "rushes" / "tide.mp4", count=6, size=(160, 90))
    picture = footage.bring_in_from(designer, "rushes", "tide.mp4")
    (shot,) = shots.add_shots(designer, project.pk, [shots.NewShot(picture.pk, "Deck")])
    write(tmp_path / "rushes" / "tide.mp4", count=7, size=(160, 90))
    made = deliver(api, project, shots=[shot.pk], clips="h264")
    assert made["job"]["state"] == "failed"
    assert "tide.mp4: has changed since it was brought in" in made["job"]["problem"]
    assert made["done"] == 0


def test_a_full_disk_leaves_no_file_with_a_final_name(api, project, monkeypatch):
    real, count = store.put, [0]

    def full(name, content):
        count[0] += 1
        if count[0] == 2:
            raise OSError(28, "No space left on device")
        real(name, content)

    monkeypatch.setattr(store, "put", full)
    made = deliver(api, project, stills="png")
    assert made["job"]["state"] == "failed"
    assert "disk is full" in made["job"]["problem"]
    assert made["done"] == 2
    monkeypatch.setattr(store, "put", real)
    api.expect(200, "POST", f"/jobs/{made['job']['id']}/restart")
    run_worker()
    assert api.get(f"/projects/{project.pk}/deliveries/1")["job"]["state"] == "done"


def test_two_at_once_have_their_own_numbers_and_a_cancelled_one_stops(api, project):
    path = f"/projects/{project.pk}/deliveries"
    first, second = (api.expect(200, "POST", path, {"stills": form}) for form in ("png", "jpeg"))
    assert (first["number"], second["number"]) == (1, 2)
    api.expect(200, "POST", f"/jobs/{second['job']['id']}/cancel")
    run_worker()
    states = {one["number"]: (one["job"]["state"], one["done"]) for one in api.get(path)}
    assert states == {1: ("done", 4), 2: ("cancelled", 0)}
    assert {one["kind"] for one in api.get("/jobs")} == {"deliver"}, "its parts are not told one by one"


def test_nothing_that_happens_while_it_runs_changes_what_leaves(api, project, designer, curator, tmp_path):
    """Everything is changed, renamed and removed between asking and making; what leaves is what left before, to the byte."""
    grading.set_trims(designer, project.pk, list(Shot.objects.values_list("pk", flat=True)), look_from({"steps": TRIM}).steps)
    notes.add_note(designer, project.pk, Shot.objects.get(code="gulls").pk, "Lighter here", 6)
    clean = deliver(api, project, **EVERYTHING, template="{project}_{scene}_{shot}_{look}")
    asked = api.expect(
        200, "POST", f"/projects/{project.pk}/deliveries", EVERYTHING | {"template": "{project}_{scene}_{shot}_{look}"}
    )
    still, clip, frames = Shot.objects.order_by("pk")
    other = look_from({"steps": [{"kind": "cdl", "slope": [2, 2, 2]}]}).steps
    grading.set_trims(designer, project.pk, [still.pk, clip.pk], other)
    grading.set_strength(designer, project.pk, [clip.pk], 0.1)
    grading.take_off(designer, project.pk, [frames.pk])
    details.set_frames(designer, project.pk, clip.pk, {"first": 6, "last": 9, "poster": 7})
    details.rename_shot(designer, project.pk, still.pk, "other")
    details.change_shots(designer, project.pk, [still.pk], {"note": "changed", "encoding": "rec709"})
    ordering.move_shots(designer, project.pk, [frames.pk], "Quay", still.pk)
    ordering.rename_scene(designer, project.pk, clip.scene_id, "Harbour")
    notes.add_note(designer, project.pk, clip.pk, "Darker now", None)
    pictures.change(designer, still.picture_id, "another", pictures.Reading("display-p3"))
    footage.set_facts(designer, frames.picture_id, None, None, Fraction(30))
    projects.change(designer, project.pk, {"name": "Renamed", "code": "RE", "delivery": "rec2020"})
    entry = Entry.objects.get(kind="look")
    catalogue.change(designer, entry.kind, entry.pk, {"name": "Not Hearth", "note": "changed", "licence": "None"})
    catalogue.delete(designer, entry.kind, entry.pk)
    shots.take_out(designer, project.pk, [still.pk, clip.pk, frames.pk])
    for picture in (still.picture_id, clip.picture_id, frames.picture_id):
        pictures.delete(designer, picture)
    run_worker()
    after = api.get(f"/projects/{project.pk}/deliveries/{asked['number']}")
    assert after["job"]["state"] == "done", after["job"]["problem"]
    first, second = ({one["file_name"]: one["sha256"] for one in made["items"]} for made in (clean, after))
    numbered = {name for name in first if name.startswith(("looks/", "lists/"))}
    assert {name: sha for name, sha in first.items() if name not in numbered} == {
        name: sha for name, sha in second.items() if not name.startswith(("looks/", "lists/"))
    }
    # What tells its own number and time is held against the other with these taken out.
    for name in ("lists/trims.ccc", "lists/timeline.otio", "lists/timeline.edl", "lists/report.json"):
        told = [read(api, project, made, name).decode() for made in (clean, after)]
        plain = [re.sub(r'"(asked|at|delivery)": ("[^"]*"|\d+)|"lists": \[[^]]*\]', "", text) for text in told]
        assert plain[0] == plain[1], name
    sheets = [read(api, project, made, "lists/contact-sheet.pdf").split(b"endobj") for made in (clean, after)]
    seen = [[part.split(b"obj", 1)[1] for part in parts if b"/Subtype /Image" in part] for parts in sheets]
    assert len(seen[0]) == 3
    assert seen[0] == seen[1]
    packs = []
    for made, number in ((clean, 1), (after, 2)):
        data = read(api, project, made, f"looks/looks-of-the-salt-ferry-delivery-{number}.zip")
        (tmp_path / "pack.zip").write_bytes(data)
        packs.append(read_pack(tmp_path / "pack.zip", "pack.zip", empty(tmp_path)).entries)
    assert packs[0] == packs[1]
    document = json.loads(api.client.get(f"/api/projects/{project.pk}/deliveries/2/document.json").content)
    assert [(one["scene"], one["code"], one["first"]) for one in document["shots"]] == [
        ("Quay", "pier", None), ("Quay", "gulls", 4), ("Deck", "mast", 0),
    ]  # fmt: skip
    assert document["shots"][1]["notes"][0]["words"] == "Lighter here"
    jsonschema_rs.validate(json.loads(schema_text()), document)


def test_a_delivery_is_what_its_parts_make_it_however_they_end(api, project):
    """Cancelled by their own numbers, parts left a delivery running for ever."""
    asked = api.expect(200, "POST", f"/projects/{project.pk}/deliveries", {"stills": "png"})
    parts = list(Job.objects.filter(parent=asked["job"]["id"]).values_list("pk", flat=True))
    for part in parts:
        assert api.get(f"/jobs/{asked['job']['id']}")["state"] == "waiting"
        api.expect(200, "POST", f"/jobs/{part}/cancel")
    told = api.get(f"/jobs/{asked['job']['id']}")
    assert (told["state"], told["may_restart"]) == ("cancelled", True)
    assert told["problem"].startswith("3 of 3 parts were cancelled")
    api.expect(200, "POST", f"/jobs/{told['id']}/restart")
    run_worker()
    assert api.get(f"/projects/{project.pk}/deliveries/1")["job"]["state"] == "done"


def test_what_was_cut_off_between_two_steps_is_put_right(api, project):
    """Parts that ended without their whole, and jobs that are in no queue any more; what is queued is let be."""
    asked, fresh = (api.expect(200, "POST", f"/projects/{project.pk}/deliveries", {"stills": one}) for one in ("png", "jpeg"))
    parts = Job.objects.filter(parent=asked["job"]["id"])
    parts.update(state="done")
    Job.objects.update(created=timezone.now() - timedelta(hours=1))
    # Rows of the queue may not be changed through the model: it is procrastinate's own.
    with connection.cursor() as cursor:
        cursor.execute(
            "DELETE FROM procrastinate_jobs WHERE (args->>'job')::int = ANY(%s)", [[*parts.values_list("pk", flat=True)]]
        )
    assert jobs.put_right() == 1
    assert jobs.put_right() == 0, "it is in the queue now"
    parts.update(state="failed", problem="It was too large")
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs WHERE (args->>'job')::int = %s", [asked["job"]["id"]])
    assert jobs.put_right() == 1
    assert "It was too large" in api.get(f"/jobs/{asked['job']['id']}")["problem"]
    assert api.get(f"/jobs/{fresh['job']['id']}")["state"] == "waiting"
