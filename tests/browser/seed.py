"""The database as the tests in the browser find it: filled once, and put back after each."""

from __future__ import annotations

from django.db import connection, transaction

from tests.database import FIXED

KEPT = "seed"


class Seed:
    """A copy of every row that is in the database now."""

    def __init__(self) -> None:
        name = connection.settings_dict["NAME"]
        assert name.startswith("test_"), f"{name} is no database for tests"
        with connection.cursor() as cursor:
            cursor.execute(f"DROP SCHEMA IF EXISTS {KEPT} CASCADE; CREATE SCHEMA {KEPT}")
            cursor.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY tablename")
            self._tables = [name for (name,) in cursor.fetchall() if name not in FIXED]
            self._filled = [name for name in self._tables if _has_rows(cursor, name)]
            for name in self._filled:
                cursor.execute(f"CREATE TABLE {KEPT}.{name} AS TABLE public.{name}")

    def restore(self) -> None:
        """Empty what a test has written into, and fill in what was there. Numbers go on: no test sees another's."""
        with transaction.atomic(), connection.cursor() as cursor:
            # Rows come back in any order; that they fit was checked when they were written first.
            cursor.execute("SET LOCAL session_replication_role = replica")
            for name in filter(lambda name: self._is_changed(cursor, name), self._tables):
                # For a handful of rows much faster than TRUNCATE, which makes new files.
                cursor.execute(f"DELETE FROM public.{name}")
                if name in self._filled:
                    cursor.execute(f"INSERT INTO public.{name} SELECT * FROM {KEPT}.{name}")

    def remove(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute(f"TRUNCATE {', '.join(self._tables)} CASCADE; DROP SCHEMA {KEPT} CASCADE")

    def _is_changed(self, cursor, name: str) -> bool:
        if name not in self._filled:
            return _has_rows(cursor, name)
        cursor.execute(
            f"SELECT EXISTS ((TABLE public.{name} EXCEPT TABLE {KEPT}.{name}) UNION ALL (TABLE {KEPT}.{name} EXCEPT TABLE public.{name}))"
        )
        return cursor.fetchone()[0]


def _has_rows(cursor, name: str) -> bool:
    cursor.execute(f"SELECT EXISTS (SELECT FROM public.{name})")
    return cursor.fetchone()[0]
