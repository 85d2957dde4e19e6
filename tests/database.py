"""One database with all tables, made once for the code as it is; each process of tests works on a copy of it, which takes a tenth of the time.

By itself, as `python -m tests.database`, it makes that one only, so that no process of tests waits for another to make it.
"""

from __future__ import annotations

import fcntl
import hashlib
import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import django
import procrastinate
import psycopg
from django.conf import settings
from django.db import connection
from django.test import TransactionTestCase

NAME = "saucer_tables_"
# What migrations have filled; no test changes it.
FIXED = ("django_migrations", "django_content_type", "auth_permission", "auth_group", "auth_group_permissions")
LARGE = 1024 * 1024
"""Bytes of a table."""
ROOT = Path(__file__).parents[1]


def _state() -> str:
    """Of everything that decides what tables there are."""
    found = hashlib.sha256(f"{django.__version__} {procrastinate.__version__}".encode())
    for path in sorted((ROOT / "src" / "saucer" / "studio").glob("*/migrations/*.py")):
        found.update(path.read_bytes())
    return found.hexdigest()[:12]


@contextmanager
def _alone() -> Iterator[None]:
    with (Path(os.environ["SAUCER_VAR"]) / "tables.lock").open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        yield


def use_copies() -> str:
    """From now on, test databases of this process are copies of the one with all tables, which is made here if it is not there.

    Returns: its name
    """
    name, own = NAME + _state(), settings.DATABASES["default"]
    where = {"host": own["HOST"], "port": own["PORT"], "user": own["USER"], "password": own["PASSWORD"]}
    with _alone(), psycopg.connect(dbname="postgres", autocommit=True, **where) as server:
        there = {row[0] for row in server.execute("select datname from pg_database where datname like %s", [NAME + "%"]).fetchall()}
        if name not in there:
            for old in there:
                server.execute(f'drop database if exists "{old}" with (force)')
            making = f"{name}_new"
            server.execute(f'drop database if exists "{making}" with (force)')
            server.execute(f'create database "{making}"')
            environment = os.environ | {"SAUCER_DATABASE": making, "PYTHONPATH": str(ROOT / "src")}
            subprocess.run([sys.executable, "-m", "saucer.studio", "migrate", "--verbosity", "0"], env=environment, check=True)
            server.execute(f'alter database "{making}" rename to "{name}"')
    own["TEST"] = own.get("TEST", {}) | {"TEMPLATE": name, "MIGRATE": False}
    return name


def _empty_what_was_filled(self: TransactionTestCase) -> None:
    """In the place of Django's, which after each test makes every table anew and fills in what the migrations had.

    Rows are deleted with triggers and foreign keys asleep: to empty a table as a whole makes all its files and those of its indexes
    anew, which takes longer than a few rows do. Large ones are emptied so, as what was deleted stays in their files.
    """
    tables = [
        name for name in connection.introspection.django_table_names(only_existing=True, include_views=False) if name not in FIXED
    ]
    asked = " UNION ALL ".join(
        f"SELECT '{name}', pg_relation_size('\"{name}\"') WHERE EXISTS (SELECT FROM \"{name}\")" for name in tables
    )
    with connection.cursor() as cursor:
        cursor.execute(asked)
        filled = cursor.fetchall()
        if large := [f'"{name}"' for name, size in filled if size > LARGE]:
            cursor.execute(f"TRUNCATE {', '.join(large)} CASCADE")
        if small := [f'DELETE FROM "{name}"' for name, size in filled if size <= LARGE]:
            cursor.execute("; ".join(["SET session_replication_role = replica", *small, "SET session_replication_role = origin"]))


TransactionTestCase._fixture_teardown = _empty_what_was_filled

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer.studio.site.settings")
    use_copies()
