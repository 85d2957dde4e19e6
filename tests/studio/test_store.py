"""The store of files: whole or not there, whatever happens while it is written; and read against what the database says."""

from __future__ import annotations

import hashlib
import io
import zipfile
from datetime import timedelta
from pathlib import Path
from threading import Event, Thread

import numpy as np
import pytest
from django.core.files.base import ContentFile
from django.core.files.storage import InMemoryStorage, Storage, default_storage
from django.core.management import CommandError, call_command
from django.db import connections, transaction
from django.utils import timezone
from PIL import Image

from saucer.core.errors import LutError
from saucer.core.files.formats import cube
from saucer.core.look.model import look_from
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Kind
from saucer.studio.common import store
from saucer.studio.common.models import Blob
from saucer.studio.jobs.rules import perform
from saucer.studio.jobs.rules import start as start_job
from saucer.studio.looks import bringing
from saucer.studio.looks import rules as looks
from saucer.studio.luts import packs
from saucer.studio.luts import rules as luts
from saucer.studio.luts.models import LutFile, PackRow
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.preview.entries import preview_file
from saucer.studio.preview.kept import PREVIEWS
from saucer.studio.preview.work import GradeWork
from saucer.studio.site.checking import check_store
from saucer.studio.site.sweeping import sweep
from tests.make import a_lut
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db
DATA = b"0.1 0.2 0.3\n" * 60_000
SHA = hashlib.sha256(DATA).hexdigest()


def path_of(sha256: str) -> Path:
    return Path(default_storage.path(store.name_of(sha256)))


def everything() -> list[str]:
    return sorted(
        str(path.relative_to(default_storage.location)) for path in Path(default_storage.location).rglob("*") if path.is_file()
    )


@pytest.mark.parametrize("after", [0, 1, 65_536, len(DATA) - 1])
def test_a_write_that_fails_leaves_nothing_and_the_next_one_is_whole(monkeypatch, after):
    """The file that is written fails at its nth byte."""

    class Failing:
        def __init__(self, file) -> None:
            self.file, self.left = file, after

        def write(self, block: bytes) -> None:
            self.file.write(block[: self.left])
            self.left -= len(block)
            if self.left < 0:
                raise OSError(28, "No space left on device")

        def __getattr__(self, name: str):
            return getattr(self.file, name)

        def __enter__(self):
            return self

        def __exit__(self, *args: object) -> None:
            self.file.close()

    monkeypatch.setattr(store, "open", lambda *given: Failing(open(*given)), raising=False)  # noqa: SIM115  who opens it closes it
    with pytest.raises(OSError, match="No space left"), transaction.atomic():
        store.keep_bytes(DATA)
    assert everything() == []
    assert not Blob.objects.exists()
    monkeypatch.undo()
    assert store.read_kept(store.keep_bytes(DATA).pk) == DATA


def test_what_a_keeping_left_half_is_not_believed():
    """A worker that was killed wrote under the final name once: 0 bytes, or right in length and wrong in content."""
    for left in (b"", DATA[:100], b"\0" * len(DATA)):
        path_of(SHA).parent.mkdir(parents=True, exist_ok=True)
        path_of(SHA).write_bytes(left)
        assert store.read_kept(store.keep_bytes(DATA).pk) == DATA
        Blob.objects.all().delete()


@pytest.mark.django_db(transaction=True)
def test_equal_files_at_once_are_one_blob_and_leave_nothing(own_files):
    def keep() -> None:
        try:
            store.keep_bytes(DATA)
        finally:
            connections.close_all()

    threads = [Thread(target=keep) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert Blob.objects.count() == 1
    assert everything() == [store.name_of(SHA)]
    assert store.read_kept(SHA) == DATA


@pytest.mark.django_db(transaction=True)
def test_a_file_that_is_wanted_again_while_it_is_discarded_is_there_afterwards(monkeypatch):
    blob = store.keep_bytes(DATA)
    is_deleting, may_go_on = Event(), Event()
    delete = default_storage.delete

    def slow_delete(name: str) -> None:
        is_deleting.set()
        may_go_on.wait(5)
        delete(name)

    def discard() -> None:
        try:
            store.discard(blob)
        finally:
            connections.close_all()

    def keep() -> None:
        try:
            store.keep_bytes(DATA)
        finally:
            connections.close_all()

    monkeypatch.setattr(default_storage._wrapped, "delete", slow_delete)
    one, two = Thread(target=discard), Thread(target=keep)
    one.start()
    is_deleting.wait(5)
    two.start()
    two.join(0.5)
    may_go_on.set()
    one.join()
    two.join()
    assert store.read_kept(SHA) == DATA
    assert Blob.objects.count() == 1


def test_the_check_tells_what_is_damaged_missing_and_left_over(designer, picture):
    lut = luts.bring_in(designer, cube.write(a_lut(5)), "one.cube", name="One")
    assert check_store().is_sound
    [damaged] = LutFile.objects.values_list("blob", flat=True)
    path_of(damaged).write_bytes(path_of(damaged).read_bytes()[:-1] + b"!")
    path_of(picture.blob_id).unlink()
    default_storage.save("ab/" + "ab" * 32, ContentFile(b"cut"))
    checked = check_store()
    assert list(checked.damaged) == [damaged]
    assert "One" in checked.damaged[damaged] or "file" in checked.damaged[damaged]
    assert list(checked.missing) == [picture.blob_id]
    assert checked.left_over == ["ab/" + "ab" * 32]
    told = io.StringIO()
    with pytest.raises(CommandError, match="not sound"):
        call_command("check_store", stdout=told)
    assert f"damaged: {store.name_of(damaged)}" in told.getvalue()
    assert lut.pk


def test_proxies_and_previews_are_made_again(designer, picture):
    look = looks.create(designer, look_from({"name": "Salt", "steps": [{"kind": "curves"}]})).entry
    whole = preview_file(look, picture)
    [name] = [one for one in default_storage.listdir(PREVIEWS)[1] if one.endswith(".jpg")]
    Path(default_storage.path(f"{PREVIEWS}/{name}")).write_bytes(whole[:-40])
    proxy = path_of(picture.proxy_id).read_bytes()
    path_of(picture.proxy_id).write_bytes(proxy[:-8])
    assert preview_file(look, Picture.objects.get()) == whole, "one that was cut off is not served"
    Path(default_storage.path(f"{PREVIEWS}/{name}")).write_bytes(whole[:-40])
    checked = check_store(mend=True)
    assert checked.is_sound
    assert len(checked.mended) == 2
    assert path_of(Picture.objects.get().proxy_id).read_bytes() == proxy
    assert preview_file(look, picture) == whole
    [small] = [one for one in default_storage.listdir(PREVIEWS)[1] if one != name]
    Path(default_storage.path(f"{PREVIEWS}/{small}")).write_bytes(b"cut")
    pictures._small_proxy_as.cache_clear()
    default_storage.delete(f"{PREVIEWS}/{name}")
    assert preview_file(look, picture) == whole, "a small copy that was cut off is made again"


def packed(method: int) -> bytes:
    """A zip of three LUTs and a look that uses them, the second of them damaged in its middle."""
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", method) as archive:
        for index in range(3):
            archive.writestr(f"{index}.cube", cube.write(a_lut(9, seed=index)))
    data = bytearray(file.getvalue())
    with zipfile.ZipFile(io.BytesIO(bytes(data))) as archive:
        info = archive.infolist()[1]
    middle = info.header_offset + 30 + len(info.filename) + info.compress_size // 2
    data[middle : middle + 40] = bytes(255 - one for one in data[middle : middle + 40])
    return bytes(data)


@pytest.mark.parametrize("method", [zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA])
def test_one_damaged_member_is_one_bad_row_and_a_bundle_is_refused_in_words(designer, method):
    blob = store.keep_bytes(packed(method))
    job = start_job(designer, "intake", packs.Uploads(uploads=[packs.Upload(sha256=blob.pk, path="pack.zip")]), [blob])
    perform(job.pk)
    rows = packs.list_rows(packs.find_pack(designer, job.pk))
    assert [bool(row.problem) for row in rows] == [False, True, False]
    assert "cannot be unpacked" in rows[1].problem
    refused = api_for(designer).upload("/looks/file", "one.zip", packed(method))
    assert refused.status_code == 422, refused.content
    assert "1.cube" in refused.json()["detail"]


def using(sha256: str):
    return look_from({"name": "Uses", "steps": [{"kind": "lut", "sha256": sha256}]})


def test_only_luts_of_the_studio_are_used_by_hash(designer, curator, picture):
    """Not a picture, not a row of a pack that nobody has kept."""
    blob = store.keep_bytes(cube.write(a_lut(5, seed=77)))  # no other test has it in memory
    job = start_job(designer, "intake", packs.Uploads(uploads=[packs.Upload(sha256=blob.pk, path="one.cube")]), [blob])
    perform(job.pk)
    [row] = PackRow.objects.all()
    for sha256 in (row.blob_id, picture.blob_id):
        with pytest.raises(LutError, match="is not at hand"):
            luts.at_hand(sha256)
    packs.keep(designer, job.pk, [0])
    assert luts.at_hand(row.blob_id).size == 5


def test_a_deleted_lut_goes_on_in_looks_and_leaves_in_no_bundle(designer):
    lut = luts.bring_in(designer, cube.write(a_lut(5)), "one.cube", name="Harbour")
    sha256 = LutFile.objects.get().blob_id
    draft = looks.create(designer, using(sha256))
    assert bringing.bundle_of(draft)
    catalogue.delete(designer, Kind.LUT, lut.pk)
    assert luts.at_hand(sha256).size == 5, "a look that uses it looks as it did"
    with pytest.raises(LutError, match='the LUT "Harbour" was deleted, so it is not passed on'):
        bringing.bundle_of(draft)
    later = timezone.now() + timedelta(days=40)
    assert sweep(now=later).entries == 0, "not while a look uses it"
    catalogue.delete(designer, Kind.LOOK, draft.pk)
    later += timedelta(days=1)
    assert sweep(now=later).entries == 2
    assert not LutFile.objects.exists()


@pytest.mark.django_db(transaction=True)
def test_a_storage_that_is_no_folder_serves_as_well(monkeypatch, designer, tmp_path):
    """A bucket has no paths, and may give a taken name another one: Django's storage in memory does both."""

    class Bucket(Storage):
        """What it holds lies in memory; `path` is the base's, which says that there is none."""

        def __init__(self) -> None:
            kept = InMemoryStorage()
            self._open, self._save, self.exists, self.delete = kept._open, kept._save, kept.exists, kept.delete
            self.size, self.listdir = kept.size, kept.listdir

    monkeypatch.setattr(default_storage, "_wrapped", Bucket())
    source = tmp_path / "quay.png"
    Image.fromarray(np.full((40, 60, 3), 90, np.uint8)).save(source)
    picture = pictures.bring_in(designer, source, "quay.png")
    lut = luts.bring_in(designer, cube.write(a_lut(9)), "one.cube")
    job = start_job(designer, "grade", GradeWork(entry=lut.pk, picture=picture.pk))
    run_worker()
    graded = api_for(designer).client.get(f"/api/jobs/{job.pk}/file")
    with Image.open(io.BytesIO(graded.getvalue())) as made:
        assert made.size == (60, 40)
    assert api_for(designer).client.get(f"/api/shelf/entries/{lut.pk}/preview.jpg?picture={picture.pk}").status_code == 200
    assert check_store().is_sound
    name = store.name_of(picture.proxy_id)
    default_storage.delete(name)
    default_storage.save(name, ContentFile(b"cut"))
    assert list(check_store().damaged) == [picture.proxy_id]
    assert check_store(mend=True).mended
    assert check_store().is_sound, "what was damaged lies under its own name again"
