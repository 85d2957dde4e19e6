"""The nightly sweep: what was deleted 30 days ago goes for good, what somebody may still want stays, a dry run changes nothing."""

from __future__ import annotations

import io
from datetime import timedelta

import pytest
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.management import call_command
from django.utils import timezone

from saucer.core.files.formats import cube
from saucer.core.look.model import look_from
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.common.models import Blob
from saucer.studio.common.store import keep_bytes
from saucer.studio.looks import rules as looks
from saucer.studio.luts.models import Lut
from saucer.studio.luts.rules import bring_in
from saucer.studio.people.models import Activity
from saucer.studio.pictures.models import Picture
from saucer.studio.preview.kept import PREVIEWS
from saucer.studio.site.sweeping import sweep
from tests.make import a_lut

LATER = timedelta(days=31)


@pytest.fixture
def lut(designer) -> Entry:
    """A LUT on the Shelf with a file of its own."""
    return bring_in(designer, cube.write(a_lut(5)), "one.cube")


@pytest.fixture
def look(designer) -> Entry:
    draft = looks.create(designer, look_from({"name": "Salt", "steps": [{"kind": "curves"}]}))
    looks.save_version(designer, draft.pk)
    return draft.entry


def in_store() -> int:
    """Files that rows refer to; previews and small copies can be made again and go by their age."""
    folders = [folder for folder in default_storage.listdir("")[0] if folder != PREVIEWS]
    return sum(1 for folder in folders for _ in default_storage.listdir(folder)[1])


def test_what_is_there_stays_however_old_it_is(lut, look, picture):
    before = (in_store(), Blob.objects.count())
    swept = sweep(now=timezone.now() + timedelta(days=4000))
    assert (swept.entries, swept.pictures, swept.files) == (0, 0, 0)
    assert (in_store(), Blob.objects.count()) == before


def test_a_deleted_entry_can_be_brought_back_for_thirty_days_and_is_gone_after(designer, lut, look, picture):
    for kind, entry in ((Kind.LUT, lut), (Kind.LOOK, look)):
        catalogue.delete(designer, kind, entry.pk)
    assert sweep(now=timezone.now() + timedelta(days=29)).entries == 0
    catalogue.restore(designer, Kind.LUT, lut.pk)
    catalogue.delete(designer, Kind.LUT, lut.pk)
    files = in_store()
    swept = sweep(now=timezone.now() + LATER)
    assert (swept.entries, swept.files) == (2, 1)
    assert swept.bytes >= len(cube.write(a_lut(5)))
    assert (Entry.objects.count(), Version.objects.count(), Lut.objects.count(), in_store()) == (0, 0, 0, files - 1)
    assert Activity.objects.latest("pk").action == "sweep"
    assert Picture.objects.count() == 1


def test_a_dry_run_tells_the_same_and_changes_nothing(designer, lut):
    catalogue.delete(designer, Kind.LUT, lut.pk)
    loose = keep_bytes(b"sent, and never kept")
    Blob.objects.filter(pk=loose.pk).update(made=timezone.now() - LATER)
    Entry.objects.update(deleted=timezone.now() - LATER)
    Blob.objects.update(made=timezone.now() - LATER)
    before = (Entry.objects.count(), Blob.objects.count(), in_store(), Activity.objects.count())
    out = io.StringIO()
    call_command("sweep", "--dry-run", stdout=out)
    assert out.getvalue().startswith("Would free: 1 entries, 2 files; ")
    assert (Entry.objects.count(), Blob.objects.count(), in_store(), Activity.objects.count()) == before
    out = io.StringIO()
    call_command("sweep", stdout=out)
    assert out.getvalue().startswith("Freed: 1 entries, 2 files; ")
    assert (Entry.objects.count(), Blob.objects.count(), in_store()) == (0, 0, 0)
    assert sweep().words == "nothing; 0.0 MB"


def test_a_file_that_two_share_stays_until_both_are_gone(designer, lut):
    again = bring_in(designer, cube.write(a_lut(5)), "two.cube")
    for entry in (lut, again):
        catalogue.delete(designer, Kind.LUT, entry.pk)
        Entry.objects.filter(pk=entry.pk).update(deleted=timezone.now() - LATER)
        Blob.objects.update(made=timezone.now() - LATER)
        assert sweep().entries == 1
        assert in_store() == (1 if entry == lut else 0)


def test_what_was_only_just_sent_is_not_taken_from_under_its_job(db):
    keep_bytes(b"on its way into a pack")
    assert sweep().files == 0
    assert sweep(now=timezone.now() + LATER).files == 1


def test_old_previews_go_and_are_made_again_when_looked_at(db):
    default_storage.save(f"{PREVIEWS}/one.jpg", ContentFile(b"x" * 1000))
    assert sweep().previews == 0
    swept = sweep(now=timezone.now() + LATER)
    assert (swept.previews, swept.bytes) == (1, 1000)
    assert default_storage.listdir(PREVIEWS)[1] == []
