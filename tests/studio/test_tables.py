"""A new studio's tables, made at once, against those of a database that went through every migration."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from urllib.parse import urlsplit

import psycopg
import pytest
from django.conf import settings
from django.db import connection

from saucer.studio.site.backup.making import count_rows
from saucer.studio.site.tables import making
from tests.database import FIXED, ROOT, use_copies
from tests.launch.installation import own_database

KEYS = {
    "django_migrations": "app, name", "django_content_type": "app_label, model", "auth_permission": "codename, name",
    "auth_group": "name", "auth_group_permissions": "group_id, permission_id",
}  # fmt: skip


def rows_of(address: str) -> tuple[dict[str, int], dict[str, list[tuple]]]:
    with psycopg.connect(address) as own:
        return count_rows(own), {table: sorted(own.execute(f"SELECT {KEYS[table]} FROM {table}").fetchall()) for table in FIXED}


def describe(address: str, monkeypatch) -> str:
    with monkeypatch.context() as patch:
        patch.setitem(connection.settings_dict, "NAME", urlsplit(address).path[1:])
        return making.describe()


def without_casts(told: str) -> list[str]:
    """PostgreSQL tells `text IN (...)` with its casts at other places once it was read from what it told."""
    return [
        re.sub(r"::character varying|::text(\[\])?|[()]", "", line) if "= ANY (" in line else line for line in told.splitlines()
    ]


def prepare(address: str) -> str:
    environment = os.environ | {"SAUCER_DATABASE": urlsplit(address).path[1:], "PYTHONPATH": str(ROOT / "src")}
    return subprocess.run(
        [sys.executable, "-m", "saucer.studio", "prepare"], env=environment, check=True, capture_output=True, text=True
    ).stdout


def test_they_are_those_of_the_migrations(monkeypatch):
    with own_database() as new, own_database(use_copies()) as migrated:
        assert prepare(new) == "Making the database's tables ...\n"
        assert prepare(new) == "", "nothing is left to do"
        told = describe(migrated, monkeypatch)
        assert making.TABLES.read_text().partition("\n")[2] == told, "run: ./saucer generate"
        assert without_casts(describe(new, monkeypatch)) == without_casts(told)
        assert rows_of(new) == rows_of(migrated)


def test_other_migrations_than_they_belong_to_are_gone_through(monkeypatch, tmp_path):
    assert making.are_current()
    text = making.TABLES.read_text()
    monkeypatch.setattr(making, "TABLES", tmp_path / "tables.sql")
    assert not making.are_current()
    making.TABLES.write_text(text.replace(text.partition("\n")[0], "-- of the migrations 0123456789abcdef"))
    assert not making.are_current()


@pytest.mark.django_db
def test_they_are_not_put_into_a_schema_of_another_name():
    assert making.can_be_made()
    with connection.cursor() as cursor:
        cursor.execute("CREATE SCHEMA elsewhere; SET LOCAL search_path TO elsewhere, public")
    assert not making.can_be_made()
    assert settings.DATABASES["default"]["TEST"]["MIGRATE"] is False, (
        "the tests' own tables come from the migrations, not from these"
    )
