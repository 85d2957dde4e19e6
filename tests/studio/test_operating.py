"""What whoever runs the server relies on: an answer in time when the database is silent, words for a full disk, nothing left in caches."""

from __future__ import annotations

import errno
import os
import subprocess
import sys
import time
from pathlib import Path
from threading import Event

import pytest
from django.test import Client

from saucer.launch import processes
from saucer.studio.catalogue.order import views
from saucer.studio.common.downloads import safe_name
from saucer.studio.common.local import kept_in
from saucer.studio.common.refusals import NotPossible
from saucer.studio.pictures import rules as pictures
from saucer.studio.site import front
from saucer.studio.site import settings as declared
from saucer.studio.site.sweeping import sweep_uploads
from tests.make import a_picture


def test_readyz_answers_though_the_database_does_not(db, monkeypatch):
    release = Event()
    monkeypatch.setattr(front, "ANSWERS_WITHIN", 0.2)
    monkeypatch.setattr(front, "_ask_database", lambda: (release.wait(30) and "", ""))
    monkeypatch.setattr(front.ask_database, "__defaults__", (front._ask_database,))
    try:
        for _ in range(2):  # whoever asks behind the one who waits is answered too
            response = Client().get("/readyz")
            assert response.status_code == 503
            assert response.json()["database"] == "does not answer"
    finally:
        release.set()


def test_readyz_asks_on_a_connection_of_its_own(db):
    assert front.ask_database()[0] == ""


@pytest.mark.django_db
def test_a_full_disk_says_so_wherever_an_upload_meets_it(api, tmp_path, monkeypatch):
    data = a_picture(tmp_path / "one.png").read_bytes()

    def full(*args, **kwargs):
        for one in args:
            if hasattr(one, "file"):
                one.file.close()  # as the collector would, later
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr("django.core.files.uploadhandler.TemporaryFileUploadHandler.receive_data_chunk", full)
    while_sent = api.upload("/pictures", "one.png", data)
    monkeypatch.undo()
    monkeypatch.setattr(pictures, "keep_file", full)
    while_kept = api.upload("/pictures", "one.png", data)
    for response in (while_sent, while_kept):
        assert response.status_code == 507, response.content[:300]
        assert "disk is full" in response.json()["detail"]
        assert response["Content-Type"] == "application/problem+json"


def test_what_killed_uploads_have_left_is_swept_and_what_is_being_sent_is_not(settings):
    folder = Path(settings.FILE_UPLOAD_TEMP_DIR)
    (folder / "left.upload").write_bytes(b"x")
    (folder / "going.upload").write_bytes(b"x")
    os.utime(folder / "left.upload", (0, 0))
    assert sweep_uploads() == 1
    assert [path.name for path in folder.iterdir()] == ["going.upload"]


def test_uploads_wait_in_a_folder_of_their_own():
    folder = Path(declared.FILE_UPLOAD_TEMP_DIR)
    assert folder == kept_in() / "uploads"
    assert folder.is_dir()


@pytest.mark.django_db
def test_no_answer_is_kept_by_a_cache_of_several_people(api, picture):
    kept = {}
    for path in ("/session", "/pictures", f"/pictures/{picture.pk}/file", f"/pictures/{picture.pk}/frame.png", "/no-such-thing"):
        response = api.call("GET", path)
        if response.streaming:
            assert b"".join(response.streaming_content)
        kept[path] = response.headers["Cache-Control"]
    assert kept.pop(f"/pictures/{picture.pk}/frame.png") == "private, no-cache", "the browser asks whether it is current"
    assert set(kept.values()) == {"private, no-store"}


@pytest.mark.parametrize(
    "address", ["https://elsewhere/", "//elsewhere", "q=a&next=/x", "javascript:alert(1)", "q=a&q=b", "order", "&=&"]
)
@pytest.mark.django_db
def test_a_view_takes_only_addresses_of_the_wall(designer, address):
    with pytest.raises(NotPossible, match="no address of the Shelf's wall"):
        views.keep(designer, "Mine", address, False)


@pytest.mark.django_db
def test_a_view_keeps_the_walls_own_address(designer):
    kept = views.keep(designer, "Mine", "?q=warm+night&kind=look&kind=lut&tag=a%26b&layout=rows", False)
    assert kept.address == "q=warm+night&kind=look&kind=lut&tag=a%26b&layout=rows"
    assert views.keep(designer, "Plain", "", False).address == ""


@pytest.mark.parametrize("name", ["=1+1.csv", "+cmd", "-rf", "@sum"])
def test_no_file_name_begins_as_a_formula_or_a_switch(name):
    assert safe_name(name) == f"_{name}"


def test_a_start_is_waited_for_as_long_as_something_moves(capsys):
    work = iter([0.0, 5.0, 5.0, 9.0, 9.0, 9.0, 9.0])
    watch = processes.Watch(0.0, lambda: next(work))
    assert not watch.is_over(1)
    assert not watch.is_over(50)
    assert not watch.is_over(105), "55 s without a move"
    assert not watch.is_over(111)
    assert "still starting" in capsys.readouterr().out
    assert not watch.is_over(165)
    assert watch.is_over(172)
    assert "nothing has moved for 61 s" in watch.words
    busy = processes.Watch(0.0, time.monotonic)
    busy._done = -1e9
    assert not busy.is_over(600), "ten minutes, and it works"
    busy._done = -1e9
    assert busy.is_over(901)


WORKS = "import time\nwhile time.process_time() < 0.3: sum(range(1000))"


def test_the_work_of_a_session_is_counted_with_its_children():
    parent = (
        f"import subprocess, sys; subprocess.run([sys.executable, '-c', {WORKS!r}]); print('done', flush=True); sys.stdin.read()"
    )
    with subprocess.Popen(
        [sys.executable, "-c", parent], stdin=subprocess.PIPE, stdout=subprocess.PIPE, start_new_session=True
    ) as session:
        assert session.stdout.readline() == b"done\n"
        assert processes.work_of(session.pid) >= 0.25
        session.stdin.close()
