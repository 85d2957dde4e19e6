"""All tables of a new database at once, as the migrations would leave them, which for a new one is most of its first start.

tables.sql beside this module is what PostgreSQL says of a database that went through every migration. It is made by `./saucer generate`,
and belongs to certain migrations: with others (another version of a package, one being written) the migrations are gone through instead.
"""

from __future__ import annotations

import hashlib
import inspect
import re
from pathlib import Path

from django.core.management.sql import emit_post_migrate_signal
from django.db import connection, transaction
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.loader import MigrationLoader

from saucer.studio.site.backup import programs

TABLES = Path(__file__).with_name("tables.sql")
_BELONGS = "-- of the migrations {}\n"
_LEFT_OUT = re.compile(
    r"""^(--.*|\\.*|SET\ .*;|SELECT\ pg_catalog\.set_config.*;|COMMENT\ ON\ EXTENSION.*;|CREATE\ SCHEMA\ public;)$\n?""",
    re.MULTILINE | re.VERBOSE,
)
"""What pg_dump says of the server and of itself, by lines."""


def _fingerprint_migrations() -> str:
    """Of the names of all migrations, and of what stands in those of ours."""
    found = hashlib.sha256()
    for (app, name), migration in sorted(MigrationLoader(None).disk_migrations.items()):
        found.update(f"{app} {name}\n".encode())
        if type(migration).__module__.startswith("saucer."):
            found.update(Path(inspect.getfile(type(migration))).read_bytes())
    return found.hexdigest()[:16]


def are_current() -> bool:
    """Are the kept tables those of the migrations that are here? Asks no database."""
    return TABLES.is_file() and TABLES.read_text().startswith(_BELONGS.format(_fingerprint_migrations()))


def can_be_made() -> bool:
    """Are they current, and has the database the place for them that they name?"""
    with connection.cursor() as cursor:
        cursor.execute("SELECT current_schema()")
        return cursor.fetchone() == ("public",) and are_current()


def make() -> None:
    """In a database that nothing was ever made in, where they can be. Whole or not at all."""
    executor = MigrationExecutor(connection)
    with transaction.atomic():
        with connection.cursor() as cursor:
            # Functions name tables that come after them.
            cursor.execute("SET LOCAL check_function_bodies = off")
            cursor.execute(TABLES.read_text())
        executor.recorder.ensure_schema()
        for migration, _ in executor.migration_plan(executor.loader.graph.leaf_nodes()):
            for app, name in [(migration.app_label, migration.name), *migration.replaces]:
                executor.recorder.record_applied(app, name)
    emit_post_migrate_signal(verbosity=0, interactive=False, db="default")


def describe() -> str:
    """The tables of the database at hand, in SQL, as pg_dump tells them. Raises: NotPossible without it"""
    told = programs.run("pg_dump", "--schema-only", "--no-owner", "--no-privileges")
    return re.sub(r"\n{3,}", "\n\n", _LEFT_OUT.sub("", told)).strip() + "\n"


def tables_text() -> str:
    """What stands in tables.sql. The database at hand has to have gone through all migrations."""
    return _BELONGS.format(_fingerprint_migrations()) + describe()
