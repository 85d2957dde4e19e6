"""Bring the database up to date, and clear away what killed processes have left."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from saucer.studio.site.measuring import measure_missing
from saucer.studio.site.sweeping import sweep_uploads


class Command(BaseCommand):
    help = "Migrate where there is anything to migrate."
    requires_migrations_checks = False

    def handle(self, *args: Any, **options: Any) -> None:
        executor = MigrationExecutor(connection)
        if executor.migration_plan(executor.loader.graph.leaf_nodes()):
            self.stdout.write("Updating the database ...")
            call_command("migrate", verbosity=0, interactive=False)
            measure_missing()
        sweep_uploads()
