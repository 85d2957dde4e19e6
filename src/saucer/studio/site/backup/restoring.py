"""Reading a backup through, and putting one into a studio that is empty."""

from __future__ import annotations

import hashlib
import json
import os
from collections.abc import Callable, Iterator
from pathlib import Path

import psycopg
from django.db import connection, connections
from psycopg import sql

from saucer import options
from saucer.studio.common.local import local, var
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import name_of, put
from saucer.studio.people.rules import record
from saucer.studio.site import migrating
from saucer.studio.site.backup import place as places
from saucer.studio.site.backup import programs
from saucer.studio.site.backup.making import count_rows
from saucer.studio.site.backup.place import DUMP, SECRET, Manifest, Place, file_named

Say = Callable[[str], object]
HOLDS_THE_STUDIO = ("people_person", "catalogue_entry", "pictures_picture", "common_blob")


def verify(place: Place, name: str = "") -> list[str]:
    """Every file is read through. What is wrong, a line each; empty where it can be restored. Raises: NotFound; NotPossible"""
    backup = places.find(place, name)
    manifest = places.read_manifest(place, backup)
    never = [f"missing: {sha256}: the store did not have it whole when the backup was made" for sha256 in manifest.missing]
    return never + list(_faults(place, backup, manifest))


def _faults(place: Place, backup: str, manifest: Manifest) -> Iterator[str]:
    """What became of it since it was made."""
    for sha256 in manifest.files:
        if sha256 in manifest.missing:
            continue
        try:
            is_whole = _hash_of(place, file_named(sha256)) == sha256
        except FileNotFoundError:
            yield f"missing: {file_named(sha256)}"
        else:
            if not is_whole:
                yield f"damaged: {file_named(sha256)}"
    try:
        with place.reading(f"{backup}/{DUMP}") as path:
            listed = programs.run("pg_restore", "--list", str(path))
    except (NotPossible, FileNotFoundError) as refusal:
        yield f"damaged: {backup}/{DUMP}: {refusal}"
        return
    absent = [table for table in manifest.rows if f" TABLE DATA public {table} " not in listed]
    if absent:
        yield f"damaged: {backup}/{DUMP}: it lacks {', '.join(absent[:5])}"
    if place.size_of(f"{backup}/{SECRET}") is None:
        yield f"missing: {backup}/{SECRET}"


def _hash_of(place: Place, name: str) -> str:
    with place.storage.open(name) as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def restore(place: Place, name: str = "", say: Say = lambda _: None) -> Manifest:
    """Into an empty studio; one that holds anything is left alone. Raises: NotFound; NotPossible, as a rule before anything is changed"""
    backup = places.find(place, name)
    manifest = places.read_manifest(place, backup)
    _require_empty()
    say(f"Reading {backup} through ...")
    # What the store did not have then is no reason to keep the rest back: `./saucer check` names it afterwards.
    faults = list(_faults(place, backup, manifest))
    if faults:
        raise NotPossible(f"{place.said}/{backup} cannot be restored as it is: {'; '.join(faults[:3])}")
    say(f"Bringing {len(manifest.files) - len(manifest.missing)} files back ...")
    for sha256 in manifest.files:
        if sha256 not in manifest.missing:
            with place.storage.open(file_named(sha256)) as file:
                put(name_of(sha256), file)
    say("Bringing the database back ...")
    with place.reading(f"{backup}/{DUMP}") as path:
        _put_database(path)
    _require_counts(manifest)
    _put_secret(place.read(f"{backup}/{SECRET}").decode())
    if not migrating.pending():  # one of an earlier Saucer has no place for it yet
        record(None, "restore", backup, files=len(manifest.files))
    return manifest


def _require_empty() -> None:
    """Raises: NotPossible"""
    there = set(connection.introspection.table_names())
    with connection.cursor() as cursor:
        for table in HOLDS_THE_STUDIO:
            if table not in there:
                continue
            cursor.execute(sql.SQL("SELECT EXISTS (SELECT 1 FROM {})").format(sql.Identifier(table)))
            if cursor.fetchone()[0]:
                raise NotPossible("This studio is not empty; a backup is restored into a new one (another SAUCER_VAR or database).")


def _put_database(dump: Path) -> None:
    with connection.cursor() as cursor:
        cursor.execute("DROP SCHEMA public CASCADE")
        cursor.execute("CREATE SCHEMA public")
    connections.close_all()
    programs.run(
        "pg_restore",
        "--exit-on-error",
        "--no-owner",
        "--no-privileges",
        f"--dbname={connection.settings_dict['NAME']}",
        str(dump),
    )


def _require_counts(manifest: Manifest) -> None:
    """Raises: NotPossible where a table has not as many rows as it had"""
    with psycopg.connect(**connection.get_connection_params()) as own:
        counts = count_rows(own)
    wrong = [f"{table}: {counts.get(table, 0)} of {count}" for table, count in manifest.rows.items() if counts.get(table) != count]
    if wrong:
        raise NotPossible(f"Not every row came back: {'; '.join(wrong[:5])}")


def _put_secret(secret: str) -> None:
    """Into this installation, where none is said from outside: signed cookies and second factors go on as they were."""
    if options.value("SECRET_KEY"):
        return
    path = var() / "local.json"
    told = json.loads(path.read_text()) | {"secret_key": secret}
    temporary = path.with_suffix(".new")
    temporary.touch(mode=0o600)
    temporary.write_text(json.dumps(told, indent=2))
    os.replace(temporary, path)
    local.cache_clear()
