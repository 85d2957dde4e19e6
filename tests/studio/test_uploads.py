"""Large files in parts, by the tus protocol 1.0 (https://tus.io/protocols/resumable-upload): what its text asks of a server, and that every path
takes what came so."""

from __future__ import annotations

import base64
import json
from datetime import timedelta
from pathlib import Path

import pytest
from django.core.files.storage import default_storage
from django.http import HttpResponse
from django.utils import timezone

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.studio.common.store import names_below
from saucer.studio.luts.models import LutFile
from saucer.studio.people.models import Studio
from saucer.studio.people.quota import COUNTS
from saucer.studio.uploads import rules
from saucer.studio.uploads.models import Upload
from tests.clips import write
from tests.make import a_lut
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
LUT = formats()["cube"].write(a_lut(9), PLAIN)


def tus(
    api, method: str, path: str, data: bytes = b"", kind: str = "application/offset+octet-stream", **headers: str
) -> HttpResponse:
    """headers: with _ in place of -"""
    said = {name.replace("_", "-"): value for name, value in headers.items()} | {
        "X-CSRFToken": api.client.cookies["csrftoken"].value
    }
    return api.client.generic(method, path, data, kind, headers={"Tus-Resumable": "1.0.0"} | said)


def begin(api, size: int, name: str = "one.cube") -> str:
    answer = tus(
        api, "POST", "/api/uploads", Upload_Length=str(size), Upload_Metadata=f"filename {base64.b64encode(name.encode()).decode()}"
    )
    assert (answer.status_code, answer["Tus-Resumable"]) == (201, "1.0.0"), answer.content
    return answer["Location"]


def sent(api, data: bytes, name: str, part: int) -> str:
    """In parts of so many bytes. Returns: its number"""
    at = begin(api, len(data), name)
    for offset in range(0, len(data), part):
        answer = tus(api, "PATCH", at, data[offset : offset + part], Upload_Offset=str(offset))
        assert (answer.status_code, int(answer["Upload-Offset"])) == (204, min(len(data), offset + part)), answer.content
    return at.rsplit("/", 1)[1]


def take(api, path: str, *numbers: str, field: str = "file", **fields: str) -> HttpResponse:
    headers = {
        "X-CSRFToken": api.client.cookies["csrftoken"].value,
        "Saucer-Uploads": json.dumps([[field, one] for one in numbers]),
    }
    return api.client.post(f"/api{path}", fields, headers=headers)


def test_a_file_that_came_in_parts_is_taken_as_one_that_came_whole(api):
    number = sent(api, LUT, "one.cube", 1000)
    assert len(names_below(f"parts/{Upload.objects.get().pk.hex}")) == -(-len(LUT) // 1000)
    by_parts = take(api, "/luts", number, name="By parts").json()
    whole = api.upload("/luts", "two.cube", LUT).json()
    assert by_parts["name"] == "By parts"
    files = dict(LutFile.objects.values_list("lut__version__entry", "blob"))
    assert files[by_parts["id"]] == files[whole["id"]]
    assert not Upload.objects.exists(), "it was taken"
    assert not default_storage.listdir("parts")[0]


def test_clips_and_what_comes_with_the_form_are_taken_together(api, tmp_path: Path):
    write(tmp_path / "take.mov", count=3)
    number = sent(api, (tmp_path / "take.mov").read_bytes(), "take.mov", 2000)
    taken = take(api, "/footage", number, field="files").json()
    assert (len(taken["pictures"]), taken["left_out"]) == (1, [])


def test_one_asks_how_much_has_come_and_goes_on_from_there(api):
    at = begin(api, 10)
    asked = tus(api, "HEAD", at)
    assert (asked.status_code, asked["Upload-Offset"], asked["Upload-Length"], asked["Cache-Control"]) == (
        200,
        "0",
        "10",
        "no-store",
    )
    assert tus(api, "PATCH", at, b"12345", Upload_Offset="0").status_code == 204
    again = tus(api, "PATCH", at, b"12345", Upload_Offset="0")
    assert (again.status_code, again.json()["offset"]) == (409, 5), "what has come is not taken twice"
    assert tus(api, "HEAD", at)["Upload-Offset"] == "5"
    assert "only 5 of 10 bytes have come" in take(api, "/luts", at.rsplit("/", 1)[1]).json()["detail"]
    assert tus(api, "PATCH", at, b"67890", Upload_Offset="5").status_code == 204
    assert rules.gather(Upload.objects.get()).read() == b"1234567890"


def test_what_had_come_when_the_connection_was_lost_stays(designer):
    upload = rules.begin(designer, "clip.mov", 100)
    blocks = iter([b"a" * 30, b"b" * 20])

    def read(most: int) -> bytes:
        for block in blocks:
            return block
        raise OSError("lost")

    assert rules.receive(designer, upload.pk, 0, read).offset == 50
    rest = iter([b"c" * 50])
    whole = rules.receive(designer, upload.pk, 50, lambda most: next(rest, b""))
    assert (whole.is_whole, rules.gather(whole).read()) == (True, b"a" * 30 + b"b" * 20 + b"c" * 50)


@pytest.mark.parametrize(
    ("method", "data", "kind", "headers", "status", "words"),
    [
        ("PATCH", b"1", "application/offset+octet-stream", {"Tus_Resumable": "0.2.2"}, 412, 'says "0.2.2"'),
        ("PATCH", b"1", "application/json", {"Upload_Offset": "0"}, 415, "application/offset+octet-stream"),
        ("PATCH", b"1", "application/offset+octet-stream", {"Upload_Offset": "-1"}, 422, "offset"),
        ("PATCH", b"1", "application/offset+octet-stream", {}, 422, "offset"),
        ("PATCH", b"12345678901", "application/offset+octet-stream", {"Upload_Offset": "0"}, 422, "was said to have 10 bytes"),
        ("POST", b"", "", {"Upload_Length": "0"}, 422, "length"),
        ("POST", b"", "", {}, 422, "length"),
        ("POST", b"", "", {"Upload_Length": "5", "Upload_Metadata": "filename ###"}, 400, "no Base64"),
        ("POST", b"", "", {"Upload_Length": str(9 * 2**30)}, 422, "9.0 GB; 8 GB is the most"),
    ],
)  # fmt: skip
def test_what_is_against_the_protocol_is_refused_in_words(api, method, data, kind, headers, status, words):
    path = begin(api, 10) if method == "PATCH" else "/api/uploads"
    answer = tus(api, method, path, data, kind, **headers)
    assert answer.status_code == status
    assert words in answer.json()["detail"]
    assert not Upload.objects.exclude(offset=0).exists()


def test_it_is_nobody_elses(api):
    number = sent(api, LUT, "one.cube", 10_000)
    other = api_for(person("designer", "other"))
    for method in ("HEAD", "PATCH", "DELETE"):
        assert tus(other, method, f"/api/uploads/{number}", b"x", Upload_Offset="0").status_code == 404
    assert take(other, "/luts", number).status_code == 404
    assert take(api, "/luts", number).status_code == 200


def test_it_is_measured_as_if_it_came_with_the_form(api, settings):
    number = sent(api, LUT, "one.cube", 10_000)
    settings.FOOTAGE_UPLOAD_LIMIT = 2**40
    Upload.objects.update(size=2**33, offset=2**33)
    answer = take(api, "/luts", number)
    assert (answer.status_code, "129 MB is the most here" in answer.json()["detail"]) == (413, True)
    assert Upload.objects.exists(), "where it was refused it is there for another try"


def test_there_has_to_be_room_before_anything_is_sent(api):
    Studio.objects.update_or_create(pk=1, defaults={"person_gb": 1})
    answer = tus(api, "POST", "/api/uploads", Upload_Length=str(2 * 10**9))
    assert (answer.status_code, "this takes 2.0 GB" in answer.json()["detail"]) == (422, True)


def test_room_is_counted_once_for_a_file_and_not_of_who_cancels(api, monkeypatch):
    Studio.objects.update_or_create(pk=1, defaults={"person_gb": 1})
    counted: list[int] = []
    monkeypatch.setitem(COUNTS, "person", lambda pk: counted.append(pk) or 0)
    number = sent(api, b"123456", "a", 2)
    assert len(counted) == 1
    monkeypatch.setitem(COUNTS, "person", lambda pk: 2 * 10**9)
    assert tus(api, "HEAD", f"/api/uploads/{number}").status_code == 200
    assert tus(api, "DELETE", f"/api/uploads/{number}").status_code == 204


def test_too_many_on_their_way_and_those_nobody_goes_on_with(api, monkeypatch):
    monkeypatch.setattr(rules, "MOST_OPEN", 2)
    sent(api, b"123", "a", 2)
    begin(api, 3)
    assert "2 files of yours" in tus(api, "POST", "/api/uploads", Upload_Length="3").json()["detail"]
    Upload.objects.filter(offset=3).update(touched=timezone.now() - timedelta(days=2))
    assert rules.end_old(timezone.now()) == 1
    assert (Upload.objects.count(), default_storage.listdir("parts")[0]) == (1, [])


def test_who_cancels_leaves_nothing(api):
    number = sent(api, b"123456", "a", 2)
    assert tus(api, "DELETE", f"/api/uploads/{number}").status_code == 204
    assert default_storage.listdir("parts")[0] == []
    assert tus(api, "HEAD", f"/api/uploads/{number}").status_code == 404


def test_where_parts_are_gone_it_begins_anew(api):
    """As after a restore, whose backup holds no parts."""
    number = sent(api, LUT, "one.cube", 1000)
    folder = f"parts/{Upload.objects.get().pk.hex}"
    default_storage.delete(f"{folder}/{sorted(names_below(folder))[1]}")
    assert "Parts of one.cube are gone" in take(api, "/luts", number).json()["detail"]
    assert tus(api, "HEAD", f"/api/uploads/{number}").status_code == 404
    assert default_storage.listdir("parts")[0] == []


def test_what_was_taken_is_told_though_its_parts_cannot_be_taken_away(api, monkeypatch):
    number = sent(api, LUT, "one.cube", 10_000)

    def away(upload):
        raise OSError("the store is read-only")

    monkeypatch.setattr(rules, "end", away)
    assert take(api, "/luts", number).status_code == 200


@pytest.mark.parametrize("said", ["one", "[]x", '[["file"]]', '[["file", 7]]', json.dumps([["f" * 41, "0" * 32]])])
def test_a_header_that_names_no_files_is_refused_in_words(api, said):
    headers = {"X-CSRFToken": api.client.cookies["csrftoken"].value, "Saucer-Uploads": said}
    answer = api.client.post("/api/luts", {}, headers=headers)
    assert (answer.status_code, answer["Content-Type"]) == (422, "application/problem+json")
