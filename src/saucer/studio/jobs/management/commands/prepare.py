"""Bring the database up to date, and with --demo fill it with the demo studio."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from django.db.migrations.executor import MigrationExecutor


class Command(BaseCommand):
    help = "Migrate, and load the demo where it is asked for and not there yet."
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--demo", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:
        executor = MigrationExecutor(connection)
        if executor.migration_plan(executor.loader.graph.leaf_nodes()):
            self.stdout.write("Updating the database ...")
            call_command("migrate", verbosity=0, interactive=False)
        if options["demo"]:
            from saucer.demo.seed import load_demo

            load_demo(lambda text: self.stdout.write(text))
