"""From the database of an earlier Saucer to that of this one: what would be done, by one at a time, after a backup."""

from __future__ import annotations

from django.db import connection
from django.db.migrations import Migration
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.recorder import MigrationRecorder

from saucer.studio.common.refusals import NotPossible
from saucer.studio.site.forecasting import Forecast, tables_of

NOTED = 0.5
"""Seconds from which on it is said how long a step takes."""


def _planned() -> list[Migration]:
    executor = MigrationExecutor(connection)
    return [migration for migration, _ in executor.migration_plan(executor.loader.graph.leaf_nodes())]


def pending() -> bool:
    return bool(_planned())


def is_new() -> bool:
    """Was nothing ever made in this database?"""
    return not MigrationRecorder(connection).applied_migrations()


def refuse_newer() -> None:
    """Raises: NotPossible for a database that a newer Saucer has changed, before anything in it is touched"""
    known = MigrationExecutor(connection).loader.disk_migrations
    ours = {app for app, _ in known}
    newer = sorted(name for name in MigrationRecorder(connection).applied_migrations() if name[0] in ours and name not in known)
    if newer:
        app, name = newer[0]
        raise NotPossible(
            f"This database was changed by a newer Saucer ({app} {name}), which this one does not know. "
            "Start the newer one, or restore a backup of before."
        )


def describe_plan() -> list[str]:
    """A line for each migration and for each thing that it does, to how many rows and for how long; then how long all of it would take."""
    rows = _count_rows()
    planned, lines, forecast = _planned(), [], Forecast(rows)
    for migration in planned:
        lines.append(f"{migration.app_label} {migration.name}")
        for operation in migration.operations:
            count = sum(rows[table] for table in tables_of(migration.app_label, operation, rows))
            seconds = forecast.add(migration.app_label, operation)
            told = [f"{count} rows"] * bool(count) + [f"about {_time(seconds)}"] * (seconds >= NOTED)
            brackets = f" ({', '.join(told)})" if told else ""
            lines.append(f"    {operation.describe()}{brackets}")
    if planned:
        least = "; what runs Python may take longer" if forecast.is_least else ""
        lines.append(f"In all about {_time(forecast.seconds)}, by samples of this database's own rows, beside the backup{least}.")
    return lines


def _time(seconds: float) -> str:
    if seconds < 1:
        return "a second"
    return f"{seconds:.0f} seconds" if seconds < 100 else f"{seconds / 60:.0f} minutes"


def _count_rows() -> dict[str, int]:
    """By table, as the database's own statistics have it."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT relname, n_live_tup FROM pg_stat_user_tables WHERE schemaname = current_schema()")
        return dict(cursor.fetchall())
