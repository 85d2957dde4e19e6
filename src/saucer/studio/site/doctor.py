"""What `./saucer doctor` looks at: Django's own checks for what is deployed, and ours, each with an id, what is wrong, and what to do."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from dataclasses import dataclass

from django.conf import settings
from django.core import checks
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import DatabaseError, connection
from django.utils import timezone

from saucer import options
from saucer.studio.common.local import kept_in
from saucer.studio.common.refusals import Refusal
from saucer.studio.people.links import has_admin
from saucer.studio.site import migrating
from saucer.studio.site.backup import place as places
from saucer.studio.site.backup import programs
from saucer.studio.site.certificates import held_until

POSTGRES_AT_LEAST = 14
ROOM = 5 * 10**9
"""Bytes that should be free where files are kept."""
STALE = 2
"""Days after which the newest backup is an old one, where one is made every night."""
SOON = 14
"""Days before its end from which on a certificate is told of: what renews it by itself does so earlier."""
HERE_ONLY = {"127.0.0.1", "localhost", "::1"}
SAID_OTHERWISE = ("security.W004", "security.W005", "security.W008", "security.W012", "security.W016", "security.W021")
"""Of Django's: HTTPS is one setting here, and told by S05; being on a public list of HTTPS hosts is nothing that a studio has to be,
and what else lies below its name is not for us to say."""


@dataclass(frozen=True)
class Finding:
    id: str
    wrong: str
    do: str

    @property
    def words(self) -> str:
        return f"{self.id}  {self.wrong}\n     {self.do}"


def examine() -> list[Finding]:
    """Everything that is wrong, or soon will be. Nothing is changed."""
    found = [Finding("S01", words, "Say it otherwise, or leave it away.") for words in options.check_all()]
    database = list(_look_at_database())
    found += database
    if not database:
        for look in (_look_at_people, _look_at_backups):
            found += look()
    return [*found, *_look_at_store(), *_look_at_network(), *_ask_django()]


def _look_at_database() -> Iterator[Finding]:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SHOW server_version_num")
            version = int(cursor.fetchone()[0]) // 10000
            cursor.execute("SELECT pg_encoding_to_char(encoding) FROM pg_database WHERE datname = current_database()")
            encoding = cursor.fetchone()[0]
            cursor.execute("SELECT name FROM pg_available_extensions WHERE name = 'pg_trgm'")
            has_letters = cursor.fetchone() is not None
    except DatabaseError as error:
        words = str(error).strip().splitlines()[0]
        yield Finding("S02", f"The database cannot be used: {words}", "Look whether it runs, and at SAUCER_DATABASE_URL.")
        return
    if version < POSTGRES_AT_LEAST:
        yield Finding("S03", f"PostgreSQL is {version}.", f"Use {POSTGRES_AT_LEAST} or newer.")
    if encoding != "UTF8":
        yield Finding("S03", f"The database is in {encoding}.", "Make one in UTF8: createdb --encoding=UTF8 --template=template0.")
    if not has_letters:
        yield Finding("S03", "PostgreSQL has no pg_trgm.", "Install its contrib modules (Debian: in the package postgresql).")
    try:
        migrating.refuse_newer()
    except Refusal as refusal:
        yield Finding("S04", str(refusal), "Start the Saucer that made it.")
        return
    if migrating.pending():
        yield Finding("S04", "The database is of an earlier Saucer.", "Run ./saucer migrate (--plan says what it does).")


def _look_at_people() -> Iterator[Finding]:
    if not has_admin():
        yield Finding(
            "S06", "Nobody is an admin.", "Start ./saucer serve, which prints a link, or: ./saucer people add NAME --role admin"
        )


def _look_at_backups() -> Iterator[Finding]:
    serves_others = bool(set(settings.ALLOWED_HOSTS) - HERE_ONLY)
    if not settings.BACKUP:
        if serves_others:
            yield Finding("S07", "No backup is made.", "Say where with SAUCER_BACKUP, best on another disk.")
        return
    for name in ("pg_dump", "pg_restore"):
        try:
            programs.find_program(name)
        except Refusal as refusal:
            yield Finding("S07", str(refusal), "Without it no backup can be made.")
    place = places.Place(settings.BACKUP)
    try:
        there = places.list_backups(place)
    except OSError as error:
        yield Finding(
            "S07", f"{settings.BACKUP} cannot be looked into: {error.strerror or error}.", "Look at what SAUCER_BACKUP says."
        )
        return
    if not there:
        yield Finding("S07", f"There is no backup in {settings.BACKUP} yet.", "Make the first one: ./saucer backup FOLDER")
    else:
        days = (timezone.now() - places.read_manifest(place, there[-1]).made).days
        if days >= STALE:
            yield Finding(
                "S07", f"The newest backup is {days} days old.", "Look into var/log/worker.log: a worker makes it at 02:30."
            )


def _look_at_store() -> Iterator[Finding]:
    try:
        name = default_storage.save("doctor", ContentFile(b"doctor"))
        default_storage.delete(name)
    except OSError as error:
        yield Finding(
            "S08", f"Nothing can be kept: {error.strerror or error}.", f"Look at {settings.STORE or kept_in() / 'files'}."
        )
        return
    free = shutil.disk_usage(kept_in()).free
    if free < ROOM:
        yield Finding(
            "S08", f"{free / 1e9:.1f} GB are free where files are kept.", "Make room, or move SAUCER_VAR to another disk."
        )


def _look_at_network() -> Iterator[Finding]:
    others = sorted(set(settings.ALLOWED_HOSTS) - HERE_ONLY)
    if others and not settings.HTTPS:
        yield Finding(
            "S05", f"{others[0]} is served without HTTPS.", "Put a proxy with a certificate in front and say SAUCER_HTTPS=1."
        )
    if settings.HTTPS and not settings.PROXY:
        yield Finding(
            "S05",
            "HTTPS is said, and no proxy that ends it.",
            "Name it with SAUCER_PROXY, or every request is sent round in circles.",
        )
    for host in others if settings.HTTPS else []:
        until = held_until(host)
        left = until - timezone.now() if until else None
        if until and left and left.days < SOON:
            ends = "ended" if left.days < 0 else "ends"
            told = f"The certificate of {host} {ends} on {until:%Y-%m-%d}."
            yield Finding("S09", told, "Renew it, and let the proxy read it anew (nginx -s reload).")


def _ask_django() -> Iterator[Finding]:
    for one in checks.run_checks(include_deployment_checks=True):
        if one.id not in SAID_OTHERWISE and one.level >= checks.WARNING:
            yield Finding(str(one.id), str(one.msg), str(one.hint or "See Django's documentation of this check."))
