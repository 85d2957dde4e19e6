"""What is sent by hand or by mistake: told in words, in problem+json, at once, and without harm to anybody else."""

from __future__ import annotations

import gzip
import json
import time

import pytest
from django.test import override_settings

from saucer.core.errors import LookError
from saucer.core.look.extent import DEEPEST, LONGEST_LIST, LONGEST_TEXT, MOST_VALUES, check_extent
from saucer.core.look.model import look_from, parse_look
from saucer.studio.baking.choices import BakeChoice
from saucer.studio.baking.rules import bake_version
from saucer.studio.catalogue.models import Entry
from saucer.studio.common.downloads import download, safe_name
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job, State
from saucer.studio.looks import rules as looks
from saucer.studio.luts.models import Lut
from saucer.studio.luts.packs import Uploads
from saucer.studio.pictures.models import Picture
from tests.make import WARM, a_picture
from tests.studio.conftest import api_for, person, propose_all
from tests.studio.work import at_once

pytestmark = pytest.mark.django_db
PROBLEM = "application/problem+json"


def send(api, path: str, text: bytes | str, method: str = "POST"):
    headers = {"X-CSRFToken": api.client.cookies["csrftoken"].value}
    return api.client.generic(method, f"/api{path}", text, "application/json", headers=headers)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ('{"steps": [' + "0, " * 400_000 + "0]}", "is the most here"),
        ('{"steps": [' + "0, " * 200_000 + "0]}", "steps: 200001 entries; 5000 is the most of one list"),
        ('{"steps": [' + '{"kind": "curves"}, ' * 4000 + '{"kind": "curves"}]}', "4001 steps; 200 is the most"),
        ('{"name": "a\\u0000b", "steps": []}', "name: holds a NUL character; take it out"),
        ('{"name": "a\\ud800b", "steps": []}', "name: holds half a letter at character 2 (a lone surrogate); take it out"),
        ('{"a\\u0000b": 1}', "holds a NUL character"),
        ('{"name": "' + "x" * 20_001 + '"}', "name: 20001 letters; 20000 is the most"),
        ("[" * 400 + "]" * 400, "nested more than 40 deep"),
        ("[" * 200_000, "nested too deeply"),
        ('{"strength": NaN}', "NaN is not a number that can be kept"),
        ('{"strength": 1' + "0" * 5000 + "}", "too many digits"),
        (b'{"name": "\xff"}', "not UTF-8 text"),
        ("{", "not valid JSON"),
        ("", "nothing was sent"),
    ],
    ids=range(14),
)
def test_a_body_that_cannot_be_used_is_refused_in_words_and_at_once(api, text, words):
    began = time.perf_counter()
    response = send(api, "/looks", text)
    assert (response.status_code, response["Content-Type"]) in ((422, PROBLEM), (413, PROBLEM)), response.content[:300]
    assert words in response.json()["detail"]
    assert len(response.content) < 2000, "what was sent is not sent back"
    # No measuring of speed: building 1.9 million errors took 53 s.
    assert time.perf_counter() - began < 20


def test_extent_counts_everything_wherever_it_stands():
    fine = {"steps": [{"points": [[0.0, 1.0]] * LONGEST_LIST}], "name": "x" * LONGEST_TEXT}
    check_extent(fine)
    nest: object = 0
    for _ in range(DEEPEST):
        nest = [nest]
    check_extent(nest)
    with pytest.raises(LookError, match=f"nested more than {DEEPEST} deep"):
        check_extent([nest])
    many = [[0] * 1000] * (MOST_VALUES // 1000)
    with pytest.raises(LookError, match=f"more than {MOST_VALUES} values"):
        check_extent(many)
    with pytest.raises(LookError, match=r"dusk.json, steps\[0\].points: 5001 entries; 5000 is the most of one list"):
        parse_look(json.dumps({"format": "saucer-look", "steps": [{"points": [0] * 5001}]}), "dusk.json")


@pytest.mark.parametrize("name", ["a\0b", "a\ud800b", "\x00", "x" * 5000])
def test_no_name_or_password_breaks_the_sign_in(name):
    api = api_for(None)
    for body in ({"username": name, "password": "x"}, {"username": "ilse", "password": name}):
        response = send(api, "/session", json.dumps(body))
        assert (response.status_code, response["Content-Type"]) == (422 if len(name) < 5000 else 413, PROBLEM)


@pytest.mark.parametrize(
    "path",
    [
        "/shelf/entries?q=%00", "/shelf/entries?category=%00", "/shelf/entries?cursor=%00", "/charts/new?encoding=%00", "/looks/99999999999999999999",
        "/looks/9223372036854775808/history", "/jobs/-1", "/luts/1/fingerprint.png?size=1e99",
        "/catalogue/nothing/1", "/pictures/abc/file", "/nowhere", "/shelf/entries/1/preview.jpg?picture=99999999999999999999",
    ],
)  # fmt: skip
def test_no_address_breaks_anything(api, path):
    response = api.client.get(f"/api{path}")
    assert response.status_code in (404, 422), response.content[:300]
    assert response["Content-Type"] == PROBLEM
    assert response.json()["detail"]


def test_whatever_breaks_is_told_as_a_problem(api, monkeypatch):
    def explode(*args: object, **kwargs: object) -> None:
        raise ZeroDivisionError("secret words")

    monkeypatch.setattr(looks, "find", explode)
    response = api.client.get("/api/looks/1")
    assert (response.status_code, response["Content-Type"]) == (500, PROBLEM)
    assert "secret" not in response.content.decode()


@override_settings(ALLOWED_HOSTS=["studio.example"])
def test_a_wrong_host_is_refused_as_a_problem_too(client):
    response = client.get("/api/session", headers={"Host": "elsewhere.example"})
    assert (response.status_code, response["Content-Type"]) == (400, PROBLEM)


@pytest.mark.parametrize(
    ("name", "told"),
    [
        ("low tide.cube", 'attachment; filename="low tide.cube"'),
        ('say "hello".cube', 'attachment; filename="say _hello_.cube"'),
        ("../../etc/passwd", 'attachment; filename="_.._etc_passwd"'),
        ("a\r\nSet-Cookie: x.cube", 'attachment; filename="aSet-Cookie_ x.cube"'),
        ("夕凪.cube", "attachment; filename*=utf-8''%E5%A4%95%E5%87%AA.cube"),
        ("\u202egpj.exe", 'attachment; filename="gpj.exe"'),
        ("", 'attachment; filename="file"'),
    ],
)
def test_a_downloads_name_is_told_as_rfc_6266_has_it(name, told):
    assert download(b"x", name)["Content-Disposition"] == told


def test_a_downloads_kind_is_that_of_its_name_and_never_a_page():
    assert download(b"x", "a.html")["Content-Type"] == "application/octet-stream"
    assert download(b"x", "a.PNG")["Content-Type"] == "image/png"
    assert safe_name("x" * 500) == "x" * 200


def test_a_picture_leaves_as_what_it_is_whatever_it_was_called(api, designer, tmp_path):
    data = a_picture(tmp_path / "quay.png").read_bytes()
    made = api.upload("/pictures", "page.html", data)
    assert made.status_code == 200, made.content
    response = api.client.get(f"/api/pictures/{made.json()['id']}/file")
    assert response["Content-Type"] == "image/png"
    assert response["Content-Disposition"] == 'attachment; filename="page.png"'
    assert b"".join(response.streaming_content) == data


def test_the_page_is_not_kept_and_text_is_sent_packed(page_there, api, client):
    page = client.get("/")
    assert page.status_code in (200, 503)
    assert "no-store" in page["Cache-Control"]
    assert page["X-Frame-Options"] == "DENY"
    kinds = api.client.get("/api/looks/step-kinds", headers={"Accept-Encoding": "gzip"})
    assert kinds["Content-Encoding"] == "gzip"
    assert json.loads(gzip.decompress(kinds.content)) == api.get("/looks/step-kinds")


def test_how_the_api_is_called_is_for_those_who_are_signed_in(api, client):
    assert client.get("/api/openapi.json").status_code == 401
    assert "paths" in api.client.get("/api/openapi.json").json()


def test_two_peoples_words_in_one_field_are_settled_not_lost(api, designer, curator):
    look = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]})).pk
    other = api_for(curator)
    address = f"/catalogue/look/{look}"
    other.expect(200, "PATCH", address, {"note": "For the quay", "seen": {"note": ""}})
    conflict = api.expect(409, "PATCH", address, {"note": "For the ferry", "seen": {"note": ""}})
    assert (conflict["detail"], conflict["now"]) == ("Curator has changed the note meanwhile.", "For the quay")
    assert api.get(address)["note"] == "For the quay"
    api.expect(200, "PATCH", address, {"category": "Film", "seen": {"category": ""}})
    api.expect(200, "PATCH", address, {"note": "For the ferry", "seen": {"note": conflict["now"]}})
    found = api.get(address)
    assert (found["note"], found["category"]) == ("For the ferry", "Film")
    api.expect(200, "PATCH", address, {"note": "For the ferry", "seen": {"note": "what stood once"}})


@pytest.mark.django_db(transaction=True)
def test_changes_beside_each_other_lose_nothing_and_undo_no_deletion(designer, picture):
    from saucer.studio.catalogue import rules as catalogue
    from saucer.studio.pictures import rules as pictures

    for number in range(8):
        look = looks.create(designer, look_from({"name": f"Salt {number}", "steps": [WARM]})).pk
        at_once(
            lambda look=look: catalogue.change(designer, "look", look, {"note": "Words"}),
            lambda look=look: catalogue.change(designer, "look", look, {"licence": "CC0-1.0"}),
        )
        entry = Entry.objects.get(pk=look)
        assert (entry.note, entry.licence) == ("Words", "CC0-1.0")
        at_once(
            lambda look=look: catalogue.change(designer, "look", look, {"note": "Late words"}),
            lambda look=look: catalogue.delete(designer, "look", look),
        )
        assert Entry.objects.get(pk=look).deleted is not None
        Picture.objects.update(deleted=None)
        at_once(
            lambda: pictures.change(designer, picture.pk, "Late", pictures.Reading()),
            lambda: pictures.delete(designer, picture.pk),
        )
        assert Picture.objects.get(pk=picture.pk).deleted is not None


@pytest.mark.django_db(transaction=True)
def test_the_same_bake_at_once_makes_one_lut_and_one_entry(designer):
    look = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]})).pk
    version, choice = looks.save_version(designer, look), BakeChoice(size=9, own_entry=True)
    made = at_once(*[lambda: bake_version(designer, version, choice)] * 4)
    assert len({one.lut.pk for one in made}) == len({one.entry.pk for one in made}) == 1
    assert Entry.objects.filter(kind="lut").count() == 1
    assert Lut.objects.count() == 2, "the look's, and that of the entry of its own"


@pytest.mark.django_db(transaction=True)
def test_a_version_is_of_the_draft_that_was_seen(api, designer):
    look = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]}))
    other = person("curator", "otis")
    looks.save_draft(other, look.pk, look_from({"name": "Salt", "steps": []}), look.revision)
    assert "has changed this look" in api.expect(409, "POST", f"/looks/{look.pk}/versions", {"revision": look.revision})["detail"]
    assert api.get(f"/looks/{look.pk}")["versions"] == []
    api.expect(422, "POST", f"/looks/{look.pk}/versions", {})


def test_a_viewer_edits_nothing_and_nobody_takes_anothers_presence_away(api, designer, viewer):
    look = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]})).pk
    propose_all()
    theirs = api_for(viewer)
    theirs.expect(200, "POST", f"/looks/{look}/presence", {"page": "one", "edited": True})
    (seen,) = api.expect(200, "POST", f"/looks/{look}/presence", {"page": "two"})["others"]
    assert (seen["name"], seen["editing"]) == ("Viewer", False)
    theirs.expect(200, "POST", f"/looks/{look}/presence", {"page": "two", "leaving": True})
    (still,) = theirs.expect(200, "POST", f"/looks/{look}/presence", {"page": "one"})["others"]
    assert still["name"] == "Designer"


def test_a_job_that_ends_its_worker_every_time_is_given_up(designer, monkeypatch):
    job = jobs.start(designer, "intake", Uploads(uploads=[]))
    begun = []

    def die(*args: object) -> None:
        begun.append(1)
        raise SystemExit  # as a worker that is killed: no word of how it ended

    monkeypatch.setitem(jobs._KINDS, "intake", jobs.JobKind(**{**vars(jobs._KINDS["intake"]), "work": die}))
    for _ in range(3):
        with pytest.raises(SystemExit):
            jobs.perform(job.pk)
        assert Job.objects.get(pk=job.pk).state == State.RUNNING
    jobs.perform(job.pk)
    ended = Job.objects.get(pk=job.pk)
    assert (ended.state, len(begun)) == (State.FAILED, 3)
    assert ended.problem.startswith("Its worker ended 3 times while doing it, so it was given up.")
