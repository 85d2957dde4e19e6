"""Making a backup while everything runs: what one moment of the database says, and the files that it names."""

from __future__ import annotations

import hashlib
import os
import shutil
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import psycopg
from django.conf import settings
from django.core.files.storage import default_storage
from django.db import connection
from django.utils import timezone

from saucer import __version__
from saucer.studio.common.locking import BACKUP, ONE_BACKUP, held
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import BLOCK, name_of
from saucer.studio.people.rules import record
from saucer.studio.site import migrating
from saucer.studio.site.backup import place as places
from saucer.studio.site.backup import programs
from saucer.studio.site.backup.place import DUMP, FILES, MANIFEST, SECRET, UNDER_WAY, Manifest, file_in

Say = Callable[[str], object]


@dataclass(frozen=True)
class Made:
    """A backup that was made. copied: files that no backup there had yet; missing: files that the store did not have whole"""

    name: str
    files: int
    copied: int
    bytes: int
    missing: list[str]

    @property
    def words(self) -> str:
        return f"{self.name}: {self.files} files, {self.copied} of them new; {self.bytes / 1e6:.1f} MB in all"


def make(place: Path, keep: int | None = None, say: Say = lambda _: None) -> Made:
    """One at a time. keep: how many there are afterwards at most. Raises: NotPossible; OSError where the place cannot be written to"""
    with held(ONE_BACKUP):
        return _make(place, keep, say)


def _make(place: Path, keep: int | None, say: Say) -> Made:
    place.mkdir(parents=True, exist_ok=True, mode=0o700)
    begun = timezone.now()
    folder = place / f"{begun:%Y%m%dT%H%M%SZ}{UNDER_WAY}"
    for left in place.glob(f"*{UNDER_WAY}"):
        shutil.rmtree(left)
    folder.mkdir(mode=0o700)
    # Nothing is taken out of the store meanwhile: what the moment's rows name is there until the end.
    with held(BACKUP, shared=True):
        say("Copying the database ...")
        migrations, rows, files = _copy_database(folder)
        say(f"Copying {len(files)} files ...")
        copied, missing = 0, []
        for sha256, size in files.items():
            if not _is_there(place, sha256, size):
                copied += 1
                if not _copy(place, sha256):
                    missing.append(sha256)
    manifest = Manifest(saucer=__version__, made=begun, migrations=migrations, rows=rows, files=files, missing=missing)
    _write_secret(folder / SECRET)
    (folder / MANIFEST).write_text(manifest.model_dump_json(indent=1))
    whole = folder.with_suffix("")
    folder.rename(whole)
    made = Made(whole.name, len(files), copied, manifest.bytes, missing)
    if not migrating.pending():  # the tables of an earlier Saucer, copied before they are changed, have no place for it yet
        record(None, "back up", whole.name, files=made.files, copied=copied, bytes=made.bytes, missing=len(missing))
    if keep is not None:
        prune(place, keep)
    return made


def _copy_database(folder: Path) -> tuple[dict[str, str], dict[str, int], dict[str, int]]:
    """The database of one moment, and what that moment has: the last migration of each app, rows of each table, files with their bytes."""
    with psycopg.connect(**connection.get_connection_params()) as own:
        own.isolation_level = psycopg.IsolationLevel.REPEATABLE_READ
        row = own.execute("SELECT pg_export_snapshot()").fetchone()
        assert row is not None
        options = ["--format=custom", "--no-owner", "--no-privileges", f"--snapshot={row[0]}", f"--file={folder / DUMP}"]
        programs.run("pg_dump", *options)
        migrations = dict(own.execute("SELECT app, max(name) FROM django_migrations GROUP BY app").fetchall())
        return migrations, count_rows(own), dict(own.execute("SELECT sha256, bytes FROM common_blob ORDER BY sha256").fetchall())


def count_rows(own: psycopg.Connection) -> dict[str, int]:
    """Of every table."""
    tables = own.execute(
        "SELECT relname FROM pg_class WHERE relkind = 'r' AND relnamespace = current_schema()::regnamespace ORDER BY 1"
    )
    counts = {}
    for (table,) in tables.fetchall():
        row = own.execute(psycopg.sql.SQL("SELECT count(*) FROM {}").format(psycopg.sql.Identifier(table))).fetchone()
        counts[table] = row[0] if row else 0
    return counts


def _is_there(place: Path, sha256: str, size: int) -> bool:
    """From a backup before; `verify` reads them through."""
    path = file_in(place, sha256)
    return path.is_file() and path.stat().st_size == size


def _copy(place: Path, sha256: str) -> bool:
    """A file of the store, whole or not at all. Was it what its name says?"""
    path, digest = file_in(place, sha256), hashlib.sha256()
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=path.parent, prefix=".new-")
    try:
        with os.fdopen(handle, "wb") as out, default_storage.open(name_of(sha256), "rb") as file:
            while block := file.read(BLOCK):
                digest.update(block)
                out.write(block)
            out.flush()
            os.fsync(out.fileno())
        if digest.hexdigest() != sha256:
            return False
        os.replace(temporary, path)
        return True
    except FileNotFoundError:
        return False
    finally:
        Path(temporary).unlink(missing_ok=True)


def _write_secret(path: Path) -> None:
    """By which second factors are encrypted in the database: without it they are of no use elsewhere."""
    path.touch(mode=0o600)
    path.write_text(settings.SECRET_KEY)


def prune(place: Path, keep: int) -> int:
    """The newest stay, and the files that they name. How many backups went. Raises: NotPossible for fewer than one"""
    if keep < 1:
        raise NotPossible("At least one backup is kept.")
    there = places.list_backups(place)
    gone, stay = there[:-keep], there[-keep:]
    if not gone:
        return 0
    wanted = {sha256 for backup in stay for sha256 in places.read_manifest(backup).files}
    for backup in gone:
        shutil.rmtree(backup)
    for path in (place / FILES).glob("*/*"):
        if path.name not in wanted:
            path.unlink()
    return len(gone)
