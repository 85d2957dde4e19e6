"""How long changes of the database would take here, reckoned from samples of its own rows."""

from __future__ import annotations

import time
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from django.db import connection, transaction
from django.db.migrations import AddConstraint, AddField, AddIndex, AlterField, RunPython, RunSQL
from django.db.migrations.operations.base import Operation
from django.db.models import UniqueConstraint
from psycopg.sql import SQL, Identifier

SAMPLE = 20_000
"""Rows at most that it is tried on."""
Way = Literal["look", "index", "write"]


@dataclass(frozen=True)
class Pace:
    """Seconds that a row takes to be looked at, put into an index, written anew."""

    look: float
    index: float
    write: float


def way_of(operation: Operation) -> Way | None:
    """What it does to each row that is there; none where it does nothing to them, as for a new column, whose default is only noted."""
    if isinstance(operation, (RunPython, RunSQL, AlterField)):
        return "write"
    if isinstance(operation, AddIndex) or (
        isinstance(operation, AddConstraint) and isinstance(operation.constraint, UniqueConstraint)
    ):
        return "index"
    if isinstance(operation, AddField) and (getattr(operation.field, "db_index", False) or operation.field.unique):
        return "index"
    return "look" if isinstance(operation, AddConstraint) else None


def tables_of(app: str, operation: Operation, rows: Mapping[str, int]) -> list[str]:
    """Those that it touches. A step in Python or SQL does not say, and may touch all of its app's."""
    if isinstance(operation, (RunPython, RunSQL)):
        return [table for table in rows if table.startswith(f"{app}_")]
    named = f"{app}_{str(getattr(operation, 'model_name', '')).lower()}"
    return [named] if named in rows else []


def measure_pace(table: str) -> Pace:
    """Tried on a copy of some rows, which is gone afterwards; nobody who works meanwhile waits for it."""
    with transaction.atomic(), connection.cursor() as cursor:
        copied = SQL("CREATE TEMP TABLE sample ON COMMIT DROP AS SELECT * FROM {} LIMIT {}").format(Identifier(table), SAMPLE)
        cursor.execute(copied)
        count = max(1, cursor.rowcount)
        cursor.execute("SELECT attname FROM pg_attribute WHERE attrelid = 'pg_temp.sample'::regclass AND attnum = 1")
        first = Identifier(cursor.fetchone()[0])

        def seconds(statement: str) -> float:
            """Of a row. statement: with {} for its first column"""
            began = time.perf_counter()
            cursor.execute(SQL(statement).format(first))
            return (time.perf_counter() - began) / count

        pace = Pace(
            look=seconds("SELECT count(sample.*), count({}) FROM sample"),
            index=seconds("CREATE INDEX ON sample ({})"),
            write=seconds("UPDATE sample SET {0} = {0}"),
        )
        transaction.set_rollback(True)
    return pace


class Forecast:
    """rows: of each table, as far as it is known"""

    def __init__(self, rows: Mapping[str, int]) -> None:
        self.rows = rows
        self.seconds, self.is_least = 0.0, False
        self._paces: dict[str, Pace] = {}

    def add(self, app: str, operation: Operation) -> float:
        """Returns: how long this one would take"""
        way = way_of(operation)
        if way is None:
            return 0.0
        self.is_least |= isinstance(operation, (RunPython, RunSQL))
        found = sum(self.rows[table] * getattr(self._pace(table), way) for table in tables_of(app, operation, self.rows))
        self.seconds += found
        return found

    def _pace(self, table: str) -> Pace:
        if table not in self._paces:
            self._paces[table] = measure_pace(table)
        return self._paces[table]
