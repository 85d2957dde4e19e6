from __future__ import annotations

import io
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from procrastinate.exceptions import AlreadyEnqueued

from saucer.core.files.formats import cube
from saucer.core.lut.apply import apply_lut
from saucer.core.pictures.io import read_picture
from saucer.studio.catalogue.models import Entry
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import MEMORY
from saucer.studio.luts.models import Lut
from saucer.studio.people.models import Activity
from saucer.studio.pictures.work import start_proxy
from tests.make import WARM, a_look, a_lut, evaluate, random_pixels
from tests.studio.conftest import api_for, propose_all
from tests.studio.work import run_worker

LOOK = {"name": "Salt & ferry", "steps": [WARM]}


def versioned(api) -> int:
    made = api.expect(200, "POST", "/looks", LOOK)
    api.save_version(made["id"])
    return made["id"]


@pytest.mark.django_db(transaction=True)
def test_bake_to_the_shelf(api, picture):
    look = versioned(api)
    job = api.expect(
        202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": {"size": 17, "title": "Ferry 17", "author": "Ilse"}}
    )
    assert job["state"] == "waiting"
    run_worker()
    job = api.get(f"/jobs/{job['id']}")
    assert (job["state"], job["progress"], job["file_name"]) == ("done", 1, "ferry-17-17.cube")
    assert (job["page"], job["entry"]) == (f"/shelf/look/{look}", None)
    (bake,) = api.get(f"/bake/looks/{look}")
    assert (bake["version"], bake["size"], bake["known"], bake["choice"]["title"]) == (1, 17, "baked", "Ferry 17")
    for path in (f"/api/jobs/{job['id']}/file", f"/api/lut-files/{bake['files'][0]['id']}"):
        baked = cube.read(b"".join(api.client.get(path).streaming_content))
        x = random_pixels()
        assert np.abs(apply_lut(baked, x) - evaluate(a_look(WARM), x)).max() < 0.02
        assert "Version 1 of Salt & ferry" in baked.comments
    (entry,) = api.get("/shelf/entries")["entries"]
    assert (entry["kind"], entry["name"], entry["detail"]) == ("look", "Salt & ferry", "Look, version 1"), "one card a look"
    preview = api.client.get(f"/api/shelf/entries/{look}/preview.jpg?picture={picture.pk}")
    assert Image.open(io.BytesIO(preview.content)).format == "JPEG"
    assert Activity.objects.filter(action="bake").count() == 1


@pytest.mark.django_db(transaction=True)
def test_a_bake_also_as_an_entry_of_its_own_where_that_is_asked_for(api):
    look = versioned(api)
    choice = {"size": 9, "title": "Ferry 9", "own_entry": True, "rights": "Team only"}
    for _ in range(2):
        job = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": choice})
        run_worker()
        job = api.get(f"/jobs/{job['id']}")
        lut = api.get(f"/luts/{job['entry']}")
        assert (lut["name"], lut["licence"], lut["size"]) == ("Ferry 9", "Team only", 9)
        assert lut["made_from"] == {"kind": "look", "id": look, "name": "Salt & ferry", "version": 1}
    assert [one["kind"] for one in api.get("/shelf/entries")["entries"]] == ["lut", "look"]
    assert Entry.objects.count() == 2, "the same bake again is the entry that is there"


@pytest.mark.django_db(transaction=True)
def test_a_job_done_twice_gives_one_lut(api):
    """As when a worker died after its work and before it could say so."""
    look = versioned(api)
    job = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": {"size": 9}})
    run_worker()
    Job.objects.update(state="running", result=None)
    from saucer.studio.jobs import rules

    rules.perform(job["id"])
    assert api.get(f"/jobs/{job['id']}")["state"] == "done"
    assert Lut.objects.count() == 1


@pytest.mark.django_db(transaction=True)
def test_a_worker_that_died_during_a_bake_is_replaced(api):
    """Its job stays marked as being done, its heartbeat stops; `rescue` gives it back to the queue."""
    from django.db import connection

    from saucer.studio.jobs.tasks import rescue

    look = versioned(api)
    job = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": {"size": 9}})
    with connection.cursor() as cursor:
        cursor.execute("insert into procrastinate_workers (last_heartbeat) values (now()) returning id")
        dead = cursor.fetchone()[0]
        mine = "where args->>'job' = %s and status = 'todo'"
        cursor.execute(
            f"insert into procrastinate_events (job_id, type, at) "
            f"select id, 'started', now() - interval '10 minutes' from procrastinate_jobs {mine}",
            [str(job["id"])],
        )
        cursor.execute(
            f"update procrastinate_jobs set status = 'doing', attempts = 1, worker_id = %s {mine}", [dead, str(job["id"])]
        )
    Job.objects.update(state="running", progress=0.1)
    run_worker()
    assert api.get(f"/jobs/{job['id']}")["state"] == "running", "nobody may take a job whose worker lives"
    with connection.cursor() as cursor:
        cursor.execute("update procrastinate_workers set last_heartbeat = now() - interval '10 minutes'")
    with suppress(AlreadyEnqueued):  # the worker may have queued one itself meanwhile
        rescue.defer(timestamp=0)
    run_worker()
    assert api.get(f"/jobs/{job['id']}")["state"] == "done"
    assert Lut.objects.count() == 1


@pytest.mark.django_db(transaction=True)
def test_cancelled_jobs_are_not_done(api):
    look = versioned(api)
    job = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1})
    assert api.expect(200, "POST", f"/jobs/{job['id']}/cancel")["state"] == "cancelled"
    run_worker()
    assert api.get(f"/jobs/{job['id']}")["state"] == "cancelled"
    assert Lut.objects.count() == 0
    assert "The job is cancelled already." in api.expect(422, "POST", f"/jobs/{job['id']}/cancel")["detail"]


@pytest.mark.django_db(transaction=True)
def test_a_job_that_cannot_be_done_says_why(api):
    look = versioned(api)
    assert api.expect(404, "POST", f"/bake/looks/{look}", {"version": 7})["detail"] == "This look has no version 7."
    job = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1})
    api.expect(204, "DELETE", f"/catalogue/look/{look}")
    run_worker()
    told = api.get(f"/jobs/{job['id']}")
    assert (told["state"], told["problem"]) == ("failed", "This look has no version 1.")


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("strength", [1.0, 0.4])
def test_a_graded_picture_at_full_size_and_depth(api, picture, tmp_path: Path, strength):
    lut = api.upload("/luts", "print.cube", cube.write(a_lut(9)), expects="srgb").json()
    job = api.expect(202, "POST", "/shelf/grade", {"entry": lut["id"], "picture": picture.pk, "strength": strength})
    run_worker()
    job = api.get(f"/jobs/{job['id']}")
    assert (job["state"], job["file_name"]) == ("done", "quay-print.png")
    (tmp_path / "graded.png").write_bytes(b"".join(api.client.get(f"/api/jobs/{job['id']}/file").streaming_content))
    graded = read_picture(tmp_path / "graded.png")
    assert (graded.depth, graded.width, graded.height) == ("u16", 40, 24)
    x = read_picture(tmp_path / "quay.png").pixels
    full = apply_lut(cube.read(cube.write(a_lut(9))), x)
    assert np.abs(graded.pixels - np.clip(x + strength * (full - x), 0, 1)).max() <= 0.51 / 65535


@pytest.mark.django_db
def test_bringing_in_a_lut(api):
    made = api.upload("/luts", "print.cube", cube.write(a_lut(9, title="Print")), expects="film-log", gives="rec709")
    assert made.status_code == 200, made.content
    lut = made.json()
    assert (lut["name"], lut["holds"], lut["size"], lut["expects"], lut["gives"]) == ("Print", "3D", 9, "film-log", "rec709")
    said = api.expect(200, "PATCH", f"/luts/{lut['id']}", {"expects": "srgb"})
    assert (said["expects"], said["gives"], said["known"], said["version"]) == ("srgb", "rec709", "said", 2)
    assert said["files"][0]["sha256"] == lut["files"][0]["sha256"], "the next version, with the same file"
    assert Lut.objects.get(version__number=1).expects == "film-log", "what was said before stays with its version"
    broken = cube.write(a_lut(9)).replace(b"LUT_3D_SIZE 9", b"LUT_3D_SIZE 10")
    refused = api.upload("/luts", "a/../bad.cube", broken)
    assert refused.json()["detail"] == "bad.cube, line 730: the file ends after 729 rows; LUT_3D_SIZE 10 needs 1000"
    assert refused.status_code == 422
    nan = cube.write(a_lut(2)).decode().splitlines()
    nan[3] = "0 nan 0"
    assert api.upload("/luts", "n.cube", "\n".join(nan).encode()).json()["detail"] == 'n.cube, line 4: "nan" is not a finite number'
    assert Entry.objects.count() == 1


@pytest.mark.django_db
def test_trying_an_entry_at_a_strength(api, picture):
    lut = api.upload("/luts", "print.cube", cube.write(a_lut(9))).json()
    x = (np.round(random_pixels() * 65535) / 65535).astype(np.float32)
    full = apply_lut(a_lut(9), x)
    for strength in (0, 0.5, 1):
        shown = api.image("/shelf/frame", {"entry": lut["id"], "picture": picture.pk, "strength": strength})
        assert np.abs(shown - np.round(np.clip(x + strength * (full - x), 0, 1) * 255)).max() <= 1
    assert api.image("/shelf/frame", {"entry": lut["id"], "picture": picture.pk, "quality": "drag"}).shape == (
        12,
        20,
        3,
    )


@pytest.mark.django_db
def test_the_shelf_is_searched_by_every_word(api):
    versioned(api)
    api.upload("/luts", "print.cube", cube.write(a_lut(9, title="Orchard print")))
    names = lambda query: [entry["name"] for entry in api.get(f"/shelf/entries?q={query}")["entries"]]  # noqa: E731
    assert names("") == ["Orchard print", "Salt & ferry"]
    assert names("orch designer") == ["Orchard print"]
    assert names("zebra") == []
    assert [entry["kind"] for entry in api.get("/shelf/entries?kind=look")["entries"]] == ["look"]


@pytest.mark.django_db
def test_viewers_may_try_but_not_take(api, viewer, picture):
    lut = api.upload("/luts", "print.cube", cube.write(a_lut(9))).json()
    propose_all()
    theirs = api_for(viewer)
    assert theirs.image("/shelf/frame", {"entry": lut["id"], "picture": picture.pk}).shape == (24, 40, 3)
    theirs.expect(403, "GET", f"/lut-files/{lut['files'][0]['id']}")
    theirs.expect(403, "POST", "/shelf/grade", {"entry": lut["id"], "picture": picture.pk})


@pytest.mark.django_db
def test_other_peoples_jobs_are_not_to_be_seen(api, curator):
    job = api.expect(202, "POST", f"/bake/looks/{versioned(api)}", {"version": 1})
    api_for(curator).expect(404, "GET", f"/jobs/{job['id']}")


@pytest.mark.django_db(transaction=True)
def test_a_job_that_runs_stops_at_its_next_report_once_it_is_cancelled(api, designer, monkeypatch):
    from saucer.studio.jobs import rules

    look = versioned(api)
    job = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1})
    went: list[float] = []

    def work(kept: Job, given: object, report: Callable[[float], None]) -> rules.JobResult:
        for fraction in (0.1, 0.2, 0.3):
            went.append(fraction)
            report(fraction)
            if fraction == 0.2:
                api.expect(200, "POST", f"/jobs/{job['id']}/cancel")
        return rules.JobResult(page="/never")

    monkeypatch.setitem(rules._KINDS, "bake", replace(rules._KINDS["bake"], work=work))
    rules.perform(job["id"])
    told = api.get(f"/jobs/{job['id']}")
    assert went == [0.1, 0.2, 0.3], "it began the third part, and was told there to stop"
    assert (told["state"], told["page"], told["progress"]) == ("cancelled", "", 0.2)


@pytest.mark.django_db(transaction=True)
def test_long_work_gives_way_and_never_takes_every_place(api, designer):
    """A small copy and another one wait, a bake comes after them: it is done first, and the copies one at a time."""
    from django.db import connection

    look = versioned(api)
    with connection.cursor() as cursor:
        cursor.execute("delete from procrastinate_jobs")
    copies = [start_proxy(designer, number).pk for number in (1, 2)]
    bake = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": {"size": 9}})["id"]
    with connection.cursor() as cursor:
        cursor.execute("select (args->>'job')::int, priority, lock from procrastinate_jobs order by id")
        told = cursor.fetchall()
    assert told == [(copies[0], -10, "proxy alone"), (copies[1], -10, "proxy alone"), (bake, 0, None)]
    run_worker()
    ended = dict(Job.objects.values_list("pk", "finished"))
    assert ended[bake] < min(ended[one] for one in copies)


@pytest.mark.django_db(transaction=True)
def test_a_job_that_wants_too_much_memory_fails_alone_and_says_so(api, monkeypatch):
    look = versioned(api)

    def too_much(*_: object, **__: object) -> None:
        raise MemoryError

    monkeypatch.setattr("saucer.studio.baking.work.rules.bake_version", too_much)
    first = api.expect(202, "POST", f"/bake/looks/{look}", {"version": 1, "choice": {"size": 9}})["id"]
    run_worker()
    told = api.get(f"/jobs/{first}")
    assert (told["state"], told["problem"]) == ("failed", MEMORY)


@pytest.mark.django_db
def test_a_lut_of_any_numbers_is_kept_and_told(api):
    """As large as float32 has them: what it is found by is a number that the database holds."""
    rows = "\n".join(f"{1e38 * (n & 1)} {-1e38 * (n >> 1 & 1)} {n >> 2 & 1}" for n in range(8))
    made = api.upload("/luts", "large.cube", f"LUT_3D_SIZE 2\n{rows}\n".encode()).json()
    assert [one["id"] for one in api.get("/shelf/entries")["entries"]] == [made["id"]]
    assert api.get(f"/luts/{made['id']}/health")["level"]
