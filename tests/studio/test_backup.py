"""Backups: whole, incremental, read through, kept as many as are wanted, and never in the way of anything. Restoring: tests/launch/test_a_team.py."""

from __future__ import annotations

import json
import threading
import time
from io import StringIO
from pathlib import Path

import pytest
from django.core.files.storage import default_storage
from django.core.management import CommandError, call_command
from django.db import connection

from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.studio.common.locking import Busy
from saucer.studio.common.models import Blob
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import name_of
from saucer.studio.luts import rules as luts
from saucer.studio.people.models import Activity, Person
from saucer.studio.site.backup import making, place, restoring
from saucer.studio.site.backup.place import Manifest, Place
from saucer.studio.site.sweeping import sweep
from tests.make import a_lut
from tests.studio.conftest import person

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    return tmp_path / "backups"


def newest(folder: Path) -> Manifest:
    return place.read_manifest(Place(folder), place.find(Place(folder)))


def bring_in(somebody: Person, seed: int) -> None:
    luts.bring_in(somebody, formats()["cube"].write(a_lut(5, seed=seed), PLAIN), f"{seed}.cube")


def test_a_backup_names_every_row_and_every_file_and_the_next_copies_only_what_is_new(designer: Person, folder: Path):
    bring_in(designer, 1)
    first = making.make(Place(folder))
    assert (first.files, first.copied, first.missing) == (Blob.objects.count(), Blob.objects.count(), [])
    manifest = newest(folder)
    assert manifest.rows["people_person"] == 1
    assert manifest.files == dict(Blob.objects.values_list("sha256", "bytes"))
    assert restoring.verify(Place(folder)) == []
    (folder / first.name).rename(folder / "20010101T000000Z")  # within the same second there is no second name
    before = Blob.objects.count()
    bring_in(designer, 2)
    second = making.make(Place(folder))
    assert second.copied == Blob.objects.count() - before > 0
    assert place.list_backups(Place(folder)) == ["20010101T000000Z", second.name]
    assert Activity.objects.filter(action="back up", person=None, about=second.name).exists()


def test_nobody_else_may_read_one(designer: Person, folder: Path):
    made = making.make(Place(folder))
    assert [oct(path.stat().st_mode & 0o777) for path in (folder, folder / made.name, folder / made.name / "secret")] == [
        "0o700",
        "0o700",
        "0o600",
    ]


def test_what_is_damaged_or_missing_is_found_and_a_damaged_one_is_not_restored(designer: Person, folder: Path):
    bring_in(designer, 1)
    bring_in(designer, 2)
    made = making.make(Place(folder))
    files = sorted((folder / "files").glob("*/*"))
    files[0].write_bytes(b"x" * files[0].stat().st_size)
    files[1].unlink()
    (folder / made.name / "database.dump").write_bytes(b"PGDMP and no more")
    found = restoring.verify(Place(folder))
    assert [one.split(":")[0] for one in found] == ["damaged", "missing", "damaged"]
    with pytest.raises(CommandError, match="3 faults"):
        call_command("verify", str(folder), stdout=StringIO())
    Person.objects.all().delete()
    connection.cursor().execute("TRUNCATE common_blob, catalogue_entry CASCADE")
    with pytest.raises(NotPossible, match="cannot be restored as it is"):
        restoring.restore(Place(folder))
    assert connection.introspection.table_names(), "nothing was changed"


def test_what_the_store_has_not_whole_is_told_and_the_rest_is_kept(designer: Person, folder: Path):
    bring_in(designer, 1)
    lost = Blob.objects.order_by("sha256").values_list("sha256", flat=True)[0]
    default_storage.delete(name_of(lost))
    made = making.make(Place(folder))
    assert made.missing == [lost]
    assert [one.split(":")[:2] for one in restoring.verify(Place(folder))] == [["missing", f" {lost}"]]
    with pytest.raises(CommandError, match="not whole in the store itself"):
        call_command("backup", str(folder / "other"), stdout=StringIO())


def test_the_newest_are_kept_with_their_files_and_no_others(designer: Person, folder: Path):
    names = []
    for number in range(3):
        bring_in(designer, number)
        made = making.make(Place(folder))
        names.append(f"2001010{number}T000000Z")
        (folder / made.name).rename(folder / names[-1])
    path = folder / names[0] / "manifest.json"
    alone = json.loads(path.read_text())
    gone = "f" * 64
    alone["files"][gone] = 1
    path.write_text(json.dumps(alone))
    (folder / "files" / "ff").mkdir(exist_ok=True)
    (folder / "files" / "ff" / gone).write_bytes(b"x")
    assert making.prune(Place(folder), 2) == 1
    assert place.list_backups(Place(folder)) == names[1:]
    assert not (folder / "files" / "ff" / gone).exists()
    assert restoring.verify(Place(folder), names[1]) == []
    with pytest.raises(NotFound, match="20010102T000000Z"):
        place.find(Place(folder), "none")
    with pytest.raises(NotPossible):
        making.prune(Place(folder), 0)


def test_a_studio_that_holds_something_is_left_alone(designer: Person, folder: Path):
    making.make(Place(folder))
    with pytest.raises(NotPossible, match="not empty"):
        restoring.restore(Place(folder))
    assert Person.objects.get() == designer


def test_nothing_is_swept_while_one_is_made_and_a_second_one_waits_for_it(designer: Person, folder: Path, monkeypatch):
    bring_in(designer, 1)
    copying, go_on, found = threading.Event(), threading.Event(), []
    copy = making._copy

    def slowly(*given) -> bool:
        copying.set()
        go_on.wait(30)
        return copy(*given)

    monkeypatch.setattr(making, "_copy", slowly)

    def make() -> None:
        try:
            found.append(making.make(Place(folder)))
        finally:
            connection.close()

    threads = [threading.Thread(target=make) for _ in range(2)]
    threads[0].start()
    copying.wait(30)
    threads[1].start()
    try:
        with pytest.raises(Busy):
            sweep()
        assert sweep(dry_run=True).files == 0, "telling is no taking away"
    finally:
        assert len(list(folder.glob("2*"))) == 1, "the second has not begun"
        assert not place.list_backups(Place(folder))
        time.sleep(1)  # no two have the same name
        go_on.set()
        for thread in threads:
            thread.join()
    assert [one.missing for one in found] == [[], []]
    assert [one.copied for one in found] == [Blob.objects.count(), 0]
    sweep()


def test_the_database_of_an_earlier_program_is_copied_before_it_is_changed(designer: Person, folder: Path, settings):
    """As at an update: the tables do not have yet what this program writes of a backup."""
    settings.BACKUP = str(folder)
    call_command("migrate", "people", "0002", verbosity=0)
    out = StringIO()
    try:
        call_command("prepare", stdout=out)
    finally:
        call_command("migrate", verbosity=0)
    assert "Making a backup before the database is changed" in out.getvalue()
    manifest = newest(folder)
    assert manifest.migrations["people"] == "0002_held_by_the_database"
    assert manifest.rows["people_person"] == 1
    assert Person.objects.get() == designer


def test_one_that_was_cut_off_is_cleared_away_by_the_next(designer: Person, folder: Path):
    left = folder / "20010101T000000Z.part"
    left.mkdir(parents=True)
    (left / "manifest.json").write_text("{}")
    with pytest.raises(NotFound):
        place.find(Place(folder))
    making.make(Place(folder))
    assert not left.exists()


def test_where_it_cannot_be_written_it_says_so_and_leaves_nothing(designer: Person, tmp_path: Path):
    (tmp_path / "file").write_text("no folder")
    with pytest.raises(CommandError, match="No backup was made"):
        call_command("backup", str(tmp_path / "file"))
    assert person("viewer").pk
