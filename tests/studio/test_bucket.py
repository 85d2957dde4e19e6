"""Files and backups in a bucket: as in a folder, seen by every machine, and said where it cannot be reached. The bucket is moto's."""

from __future__ import annotations

import os
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from django.core.files.base import ContentFile
from django.core.files.storage import storages
from django.core.management import CommandError, call_command
from django.test import override_settings

from saucer import options
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.studio.common import store
from saucer.studio.common.bucket import BucketStorage, where
from saucer.studio.common.models import Blob
from saucer.studio.common.store import StoreAway, name_of
from saucer.studio.jobs import rules as jobs
from saucer.studio.luts import rules as luts
from saucer.studio.people.models import Person
from saucer.studio.preview.work import GradeWork
from saucer.studio.site.backup import making, place, restoring
from saucer.studio.site.backup.place import Place
from saucer.studio.site.checking import check_store
from saucer.studio.site.doctor import examine
from saucer.studio.site.front import ask_parts
from tests.bucket import Bucket, bucket
from tests.make import WARM, a_lut
from tests.studio.conftest import api_for

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(scope="module")
def there() -> Iterator[Bucket]:
    with bucket() as made:
        yield made


@pytest.fixture
def kept(there: Bucket, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """The studio's files lie in the bucket, below a name of this test's own; the folder of copies on this machine."""
    said = f"s3://{there.name}/{tmp_path.name}"
    for name, value in there.settings.items():
        monkeypatch.setenv(name, value)
    cache = tmp_path / "cache"
    with use(there, said, cache):
        yield cache


def use(there: Bucket, said: str, cache: Path, url: str = "") -> Any:
    told = {
        "said": said,
        "url": url or there.url,
        "region": "eu-1",
        "key": "key",
        "secret": "secret",
        "cache": cache,
        "room": 10**9,
    }
    default = {"BACKEND": "saucer.studio.common.bucket.BucketStorage", "OPTIONS": told}
    return override_settings(STORAGES=storages.backends | {"default": default}, STORE=said)


def read(storage: BucketStorage, name: str) -> bytes:
    with storage.open(name) as file:
        return file.read()


def bring_in(somebody: Person, seed: int = 1) -> None:
    luts.bring_in(somebody, formats()["cube"].write(a_lut(5, seed=seed), PLAIN), f"{seed}.cube")


def test_what_one_machine_keeps_another_has_at_once(there: Bucket, tmp_path: Path):
    one, other = there.storage(tmp_path / "one"), there.storage(tmp_path / "other")
    one.save("ab/abc", ContentFile(b"first"))
    assert (other.exists("ab/abc"), other.size("ab/abc"), read(other, "ab/abc")) == (True, 5, b"first")
    assert other.get_modified_time("ab/abc").tzinfo is not None
    assert one.listdir("") == (["ab"], [])
    assert one.listdir("ab") == ([], ["abc"])
    other.delete("ab/abc")
    assert not one.exists("ab/abc")
    other.delete("ab/abc")  # and once more
    with pytest.raises(FileNotFoundError):
        other.open("ab/abc")
    assert not list((tmp_path / "other").glob("*/*")), "nothing half fetched is left"
    with pytest.raises(NotImplementedError):
        there.storage().path("ab/abc")


def test_copies_have_so_much_room_and_those_in_use_stay(there: Bucket, tmp_path: Path):
    cache = tmp_path / "cache"
    storage = there.storage(cache, room=2500)
    for number in range(4):
        storage.save(f"ro/{number}", ContentFile(bytes([number]) * 1000))
        storage.path(f"ro/{number}")
        long_ago = time.time() - 3600 + number
        if number != 1:
            os.utime(cache / "ro" / str(number), (long_ago, long_ago))
    storage.save("ro/9", ContentFile(b"9" * 1000))
    assert read(storage, "ro/9") == b"9" * 1000
    assert {path.name for path in cache.glob("*/*")} == {"1", "9"}, "the one lately used and the one just fetched"
    assert read(storage, "ro/0") == bytes(1000), "and what went comes again"


def test_a_studio_in_a_bucket_is_one_like_any_other(kept: Path, there: Bucket, designer: Person):
    api = api_for(designer)
    bring_in(designer)
    [entry] = api.get("/shelf/entries")["entries"]
    file = luts.first_file(luts.lut_of(entry["id"]))
    answer = api.client.get(f"/api/lut-files/{file.pk}")
    assert b"LUT_3D_SIZE 5" in b"".join(answer.streaming_content)
    with store.local_file(file.blob_id) as path:
        assert path.is_relative_to(kept)
    assert check_store().is_sound
    assert store.names_below("nothing") == []
    # What the bucket has counts, not the copy.
    storages["default"].connection.Object(there.name, f"{storages['default'].location}/{name_of(file.blob_id)}").put(
        Body=b"damaged"
    )
    assert list(check_store().damaged) == [file.blob_id]
    loose = store.keep_bytes(b"not wanted")
    store.discard(loose)
    assert not storages["default"].exists(name_of(loose.pk))


def test_a_backup_lies_in_a_bucket_and_is_read_through_there(kept: Path, there: Bucket, designer: Person):
    at = Place(f"s3://{there.name}/backups")
    bring_in(designer)
    first = making.make(at)
    assert (first.copied, first.missing) == (Blob.objects.count(), [])
    assert place.list_backups(at) == [first.name]
    assert restoring.verify(at) == []
    time.sleep(1)  # no two have the same name
    bring_in(designer, 2)
    second = making.make(at, keep=1)
    assert 0 < second.copied < second.files
    assert place.list_backups(at) == [second.name]
    some = sorted(place.read_manifest(at, second.name).files)[0]
    at.storage.save(place.file_named(some), ContentFile(b"x"))
    at.storage.delete(f"{second.name}/{place.DUMP}")
    assert [one.split(":")[0] for one in restoring.verify(at)] == ["damaged", "damaged"]
    at.storage.delete(f"{second.name}/{place.MANIFEST}")
    time.sleep(1)
    making.make(at)
    assert at.size_of(f"{second.name}/{place.SECRET}") is None, "what was cut off is cleared away"


def test_a_bucket_that_is_away_is_said_and_costs_no_draft(kept: Path, there: Bucket, designer: Person, tmp_path: Path, monkeypatch):
    api = api_for(designer)
    bring_in(designer)
    [entry] = api.get("/shelf/entries")["entries"]
    file = luts.first_file(luts.lut_of(entry["id"]))
    made = api.expect(200, "POST", "/looks", {"name": "Salt", "steps": [WARM]})
    monkeypatch.setattr("botocore.endpoint.Endpoint._send", _refuse)
    with use(there, f"s3://{there.name}/none", tmp_path / "elsewhere"):
        told = api.expect(503, "GET", f"/lut-files/{file.pk}")["detail"]
        assert "cannot reach where files are kept" in told
        assert "cannot be used" in ask_parts()["store"]
        assert "Nothing can be kept: the bucket" in next(one.words for one in examine() if one.id == "S08")
        with pytest.raises(StoreAway):
            store.keep_bytes(b"new")
        assert not Blob.objects.filter(bytes=3).exists(), "no row without its file"
        changed = {"look": {"name": "Salt", "steps": [WARM, WARM]}, "revision": made["revision"]}
        api.expect(200, "PUT", f"/looks/{made['id']}/draft", changed)
        with pytest.raises(CommandError, match="No backup was made"):
            call_command("backup", f"s3://{there.name}/backups")


def _refuse(*given: Any) -> Any:
    from botocore.exceptions import EndpointConnectionError

    raise EndpointConnectionError(endpoint_url="http://store")


def test_work_without_a_store_ends_in_words(kept: Path, designer: Person, monkeypatch):
    def fail(*given: Any) -> Any:
        raise StoreAway("no answer")

    monkeypatch.setitem(jobs._KINDS, "grade", replace(jobs._KINDS["grade"], work=fail))
    job = jobs.start(designer, "grade", GradeWork(entry=1, picture=1))
    jobs.perform(job.pk)
    job.refresh_from_db()
    assert job.problem == jobs.STORE_AWAY


@pytest.mark.parametrize("said", ["s3://", "s3:///below", "https://studio", "studio"])
def test_what_is_no_bucket_is_said_beforehand(said: str, monkeypatch):
    with pytest.raises(ValueError, match="s3://bucket"):
        where(said)
    monkeypatch.setenv("SAUCER_STORE", said)
    with pytest.raises(options.OptionError, match="it has to be s3://bucket"):
        options.value("STORE")


def test_a_place_for_backups_is_a_folder_or_a_bucket(monkeypatch):
    for said, is_good in (("/srv/backups", True), ("s3://backups/studio", True), ("s3:///studio", False)):
        monkeypatch.setenv("SAUCER_BACKUP", said)
        assert any("SAUCER_BACKUP" in words for words in options.check_all()) != is_good
