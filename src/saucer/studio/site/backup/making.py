"""Making a backup while everything runs: what one moment of the database says, and the files that it names."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import psycopg
from django.conf import settings
from django.db import connection
from django.utils import timezone

from saucer import __version__
from saucer.studio.common.locking import BACKUP, ONE_BACKUP, held
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import BLOCK, name_of, open_stored
from saucer.studio.people.rules import record
from saucer.studio.site import migrating
from saucer.studio.site.backup import place as places
from saucer.studio.site.backup import programs
from saucer.studio.site.backup.place import DUMP, FILES, MANIFEST, SECRET, Manifest, Place, file_named

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


class _NotWhole(Exception):
    """The store has not what the name of a file says."""


def make(place: Place, keep: int | None = None, say: Say = lambda _: None) -> Made:
    """One at a time. keep: how many there are afterwards at most. Raises: NotPossible; OSError where the place cannot be written to"""
    with held(ONE_BACKUP):
        return _make(place, keep, say)


def _make(place: Place, keep: int | None, say: Say) -> Made:
    place.prepare()
    for left in places.list_cut_off(place):
        place.remove(left)
    begun = timezone.now()
    name = f"{begun:%Y%m%dT%H%M%SZ}"
    # Nothing is taken out of the store meanwhile: what the moment's rows name is there until the end.
    with held(BACKUP, shared=True):
        say("Copying the database ...")
        with place.writing(f"{name}/{DUMP}") as file:
            migrations, rows, files = _copy_database(Path(file.name))
        say(f"Copying {len(files)} files ...")
        copied, missing = 0, []
        for sha256, size in files.items():
            if place.size_of(file_named(sha256)) != size:  # of a backup before; `verify` reads them through
                copied += 1
                if not _copy(place, sha256):
                    missing.append(sha256)
    manifest = Manifest(saucer=__version__, made=begun, migrations=migrations, rows=rows, files=files, missing=missing)
    # By which second factors are encrypted in the database: without it they are of no use elsewhere.
    place.put(f"{name}/{SECRET}", settings.SECRET_KEY.encode())
    place.put(f"{name}/{MANIFEST}", manifest.model_dump_json(indent=1).encode())
    made = Made(name, len(files), copied, manifest.bytes, missing)
    if not migrating.pending():  # the tables of an earlier Saucer, copied before they are changed, have no place for it yet
        record(None, "back up", name, files=made.files, copied=copied, bytes=made.bytes, missing=len(missing))
    if keep is not None:
        prune(place, keep)
    return made


def _copy_database(path: Path) -> tuple[dict[str, str], dict[str, int], dict[str, int]]:
    """The database of one moment, and what that moment has: the last migration of each app, rows of each table, files with their bytes."""
    with psycopg.connect(**connection.get_connection_params()) as own:
        own.isolation_level = psycopg.IsolationLevel.REPEATABLE_READ
        row = own.execute("SELECT pg_export_snapshot()").fetchone()
        assert row is not None
        options = ["--format=custom", "--no-owner", "--no-privileges", f"--snapshot={row[0]}", f"--file={path}"]
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


def _copy(place: Place, sha256: str) -> bool:
    """A file of the store, whole or not at all. Was it what its name says?"""
    digest = hashlib.sha256()
    try:
        with open_stored(name_of(sha256)) as file, place.writing(file_named(sha256)) as out:
            while block := file.read(BLOCK):
                digest.update(block)
                out.write(block)
            if digest.hexdigest() != sha256:
                raise _NotWhole
        return True
    except (FileNotFoundError, _NotWhole):
        return False


def prune(place: Place, keep: int) -> int:
    """The newest stay, and the files that they name. How many backups went. Raises: NotPossible for fewer than one"""
    if keep < 1:
        raise NotPossible("At least one backup is kept.")
    there = places.list_backups(place)
    gone, stay = there[:-keep], there[-keep:]
    if not gone:
        return 0
    wanted = {sha256 for name in stay for sha256 in places.read_manifest(place, name).files}
    for name in gone:
        place.remove(name)
    for folder in place.below(FILES)[0]:
        for file in place.below(f"{FILES}/{folder}")[1]:
            if file not in wanted:
                place.storage.delete(f"{FILES}/{folder}/{file}")
    return len(gone)
