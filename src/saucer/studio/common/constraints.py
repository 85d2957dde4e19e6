"""What the database itself holds of choices, lengths and ranges: whatever writes a row, what lists read can be told."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django.db import connection
from django.db.models import CheckConstraint, F, Q
from django.db.models.functions import Length
from django.db.models.lookups import LessThanOrEqual


def one_of(name: str, field: str, choices: Iterable[Any]) -> CheckConstraint:
    """choices: values, or the members of an enumeration"""
    return CheckConstraint(name=name, condition=Q(**{f"{field}__in": sorted(str(getattr(one, "value", one)) for one in choices)}))


def within(name: str, field: str, low: Any, high: Any) -> CheckConstraint:
    """Both ends included. Nothing is said of none."""
    return CheckConstraint(name=name, condition=Q(**{f"{field}__gte": low, f"{field}__lte": high}))


def at_most(name: str, field: str, letters: int) -> CheckConstraint:
    """Of a text without a length of its own."""
    return CheckConstraint(name=name, condition=Q(LessThanOrEqual(Length(F(field)), letters)))


@dataclass(frozen=True)
class Loose:
    """A constraint that was added when rows were there, and is not known to hold for all of them. check: its expression in SQL"""

    table: str
    name: str
    check: str

    @property
    def _broken(self) -> str:
        # All three are the database's own words, of its catalogue.
        return f'FROM "{self.table}" WHERE NOT ({self.check})'

    def count(self) -> int:
        """Rows that break it."""
        with connection.cursor() as cursor:
            cursor.execute(f"SELECT count(*) {self._broken}")
            return int(cursor.fetchone()[0])

    def list_rows(self, most: int = 1000) -> list[int | str]:
        """Keys of rows that break it."""
        with connection.cursor() as cursor:
            key = connection.introspection.get_primary_key_column(cursor, self.table)
            cursor.execute(f'SELECT "{key}" {self._broken} ORDER BY 1 LIMIT {most}')
            return [row[0] for row in cursor.fetchall()]

    def validate(self) -> None:
        """It holds for all rows from now on. Raises: IntegrityError where one breaks it"""
        with connection.cursor() as cursor:
            cursor.execute(f'ALTER TABLE "{self.table}" VALIDATE CONSTRAINT "{self.name}"')


def list_loose() -> list[Loose]:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT conrelid::regclass::text, conname, pg_get_expr(conbin, conrelid) FROM pg_constraint"
            " WHERE contype = 'c' AND NOT convalidated AND connamespace = current_schema()::regnamespace ORDER BY 1, 2"
        )
        return [Loose(table.strip('"'), name, check) for table, name, check in cursor.fetchall()]


def validate_sound(apps: Any, schema_editor: Any) -> None:
    """For migrations, after constraints were added that hold for new rows only: those that no row breaks hold for all from now on.

    What a row does break stays as it is, is told by `./saucer check` and put right by its `--mend`.
    """
    del apps
    for loose in list_loose():
        if loose.count() == 0:
            loose.validate()
