"""Taking away for good what was deleted long ago, looks never begun, files that nothing refers to, previews that nobody looked at."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import nullcontext, suppress
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models, transaction
from django.db.models import Exists, OuterRef, ProtectedError, Q
from django.db.models.functions import Cast
from django.utils import timezone

from saucer.studio.boards.models import Board
from saucer.studio.catalogue.find.columns import forget_notes
from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.common.clock import database_now, look_at_clock, why_not_trusted
from saucer.studio.common.locking import BACKUP, held
from saucer.studio.common.models import Blob
from saucer.studio.common.store import discard, names_below
from saucer.studio.jobs.models import Job, State
from saucer.studio.looks.models import LookDraft, Presence
from saucer.studio.luts.models import Lut, LutFile, Pack
from saucer.studio.people.deleting import KEPT_FOR
from saucer.studio.people.rules import record
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import PASSING_FOR
from saucer.studio.preview.kept import PREVIEWS
from saucer.studio.projects.models import Project
from saucer.studio.uploads.rules import end_old


@dataclass
class Swept:
    """What went, or would go."""

    entries: int = 0
    pictures: int = 0
    jobs: int = 0
    files: int = 0
    previews: int = 0
    uploads: int = 0
    bytes: int = 0

    @property
    def words(self) -> str:
        parts = [
            f"{getattr(self, name)} {name}"
            for name in ("entries", "pictures", "jobs", "files", "previews", "uploads")
            if getattr(self, name)
        ]
        return f"{', '.join(parts) or 'nothing'}; {self.bytes / 1e6:.1f} MB"


class ClockMoved(Exception):
    """Nothing is taken away by a clock that may be wrong."""


def sweep(dry_run: bool = False, now: datetime | None = None) -> Swept:
    """Everything past its time, by the database's clock or `now`. dry_run: tell only, change nothing.

    Raises: ClockMoved; Busy while a backup is made, which copies what is in the store
    """
    with nullcontext() if dry_run else held(BACKUP, wait=False):
        return _sweep(dry_run, now)


def _sweep(dry_run: bool, now: datetime | None) -> Swept:
    if now is None:
        look_at_clock()
        now = database_now()
        words = why_not_trusted(now)
        if words and not dry_run:
            raise ClockMoved(words)
    before = now - KEPT_FOR
    swept = Swept()
    try:
        with transaction.atomic():
            swept.entries = _purge_entries(Q(deleted__lt=before) | _never_begun(now))
            gone = Q(deleted__lt=before) | Q(passing=True, deleted__lt=now) | Q(passing=True, created__lt=now - PASSING_FOR)
            Board.objects.filter(deleted__lt=before).delete()
            Project.objects.filter(deleted__lt=before).delete()
            swept.pictures = _purge_pictures(gone)
            swept.jobs = _purge_jobs(before)
            loose = list(_loose_files(before))
            swept.files, swept.bytes = len(loose), sum(blob.bytes for blob in loose)
            if dry_run:
                raise _Undone
            if swept.entries or swept.pictures or swept.jobs:
                record(
                    None, "sweep", "what was deleted 30 days ago", entries=swept.entries, pictures=swept.pictures, jobs=swept.jobs
                )
    except _Undone:
        loose = []
    for blob in loose:
        discard(blob)
    for name, size in _old_previews(before):
        swept.previews += 1
        swept.bytes += size
        if not dry_run:
            default_storage.delete(name)
    if not dry_run:
        swept.uploads = sweep_uploads() + end_old(now)
        forget_notes(now - NOTES_KEPT_FOR)
    return swept


NOTES_KEPT_FOR = timedelta(days=1)
"""Of which entries were changed, for processes that keep in memory what entries are found by."""

LEFT_AFTER = timedelta(hours=1)
"""Since when nothing was written to an upload that nobody sends any more."""


def sweep_uploads() -> int:
    """Files of uploads whose process was killed: at start, and every night. Returns: how many

    By this machine's clock, not the database's: it is the one that dates the files."""
    before, count = timezone.now() - LEFT_AFTER, 0
    for path in Path(settings.FILE_UPLOAD_TEMP_DIR).glob("*"):
        with suppress(FileNotFoundError):  # it ended just now
            if path.is_file() and path.stat().st_mtime < before.timestamp():
                path.unlink()
                count += 1
    return count


class _Undone(Exception):
    """The transaction was only to see what would go."""


UNTOUCHED_FOR = timedelta(days=1)
"""After that a look in which nothing was ever done goes."""


def _never_begun(now: datetime) -> Q:
    """Looks without a step and without a version that nobody has touched for a day, nor has open."""
    opened = Presence.objects.filter(seen__gt=now - UNTOUCHED_FOR).values("look")
    return Q(begun=False, latest=None, look_draft__edited__lt=now - UNTOUCHED_FOR) & ~Q(pk__in=opened)


def _purge_entries(which: Q) -> int:
    """Entries, with their versions and LUTs; those that something still uses stay, LUTs that a look names too."""
    gone = 0
    for entry in Entry.objects.filter(which):
        if any(_is_named(sha256) for sha256 in LutFile.objects.filter(lut__version__entry=entry).values_list("blob", flat=True)):
            continue
        try:
            with transaction.atomic():
                entry.latest = entry.published = None
                entry.save(update_fields=["latest", "published"])
                Lut.objects.filter(version__entry=entry).delete()
                Version.objects.filter(entry=entry).delete()
                entry.delete()
            gone += 1
        except ProtectedError:
            continue
    return gone


def _purge_pictures(gone: Q) -> int:
    """Those that no shot of a project needs."""
    needless = Picture.objects.filter(gone, shots=None)
    return needless.delete()[1].get("pictures.Picture", 0)


def _is_named(sha256: str) -> bool:
    """Does a look or a preset that is not deleted use this LUT? They name it by its content, inside theirs."""
    told = {"text__contains": sha256, "entry__deleted": None}
    return any(
        model._default_manager.annotate(text=Cast("content", models.TextField())).filter(**told).exists()
        for model in (LookDraft, Version)
    )


def _purge_jobs(before: datetime) -> int:
    """Jobs that ended before then, with the packs they read."""
    ended = Job.objects.filter(finished__lt=before, state__in=[State.DONE, State.FAILED, State.CANCELLED])
    Pack.objects.filter(job__in=ended).delete()
    return ended.delete()[1].get("jobs.Job", 0)


def _loose_files(before: datetime) -> Iterator[Blob]:
    """Files older than that to which no column refers."""
    loose = Blob.objects.filter(made__lt=before)
    for relation in Blob._meta.get_fields(include_hidden=True):
        if isinstance(relation, models.ManyToOneRel):
            column = relation.field
            loose = loose.exclude(Exists(column.model._default_manager.filter(**{column.name: OuterRef("pk")})))
    return iter(loose)


def _old_previews(before: datetime) -> Iterator[tuple[str, int]]:
    for name in names_below(PREVIEWS):
        path = f"{PREVIEWS}/{name}"
        if default_storage.get_modified_time(path) < before:
            yield path, default_storage.size(path)
