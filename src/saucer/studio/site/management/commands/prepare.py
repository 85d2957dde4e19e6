"""Bring the database up to date, and clear away what killed processes have left."""

from __future__ import annotations

import argparse
from typing import Any

from django.conf import settings
from django.core.management import call_command, execute_from_command_line
from django.core.management.base import BaseCommand, CommandError, CommandParser

from saucer.studio.common.locking import MIGRATION, held
from saucer.studio.common.refusals import Refusal
from saucer.studio.site import migrating
from saucer.studio.site.backup import making
from saucer.studio.site.backup.place import Place
from saucer.studio.site.measuring import measure_missing
from saucer.studio.site.sweeping import sweep_uploads
from saucer.studio.site.tables import making as making_tables


class Command(BaseCommand):
    help = "Migrate where there is anything to migrate."
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--plan", action="store_true", help="only say what would be done")
        parser.add_argument("--check", action="store_true", help="fail where there is anything to be done")
        # In one process: most of the time that a command takes goes into loading the studio.
        parser.add_argument("--then", nargs=argparse.REMAINDER, default=[], help="a command that is run afterwards, with its words")

    def handle(self, *args: Any, then: list[str], plan: bool = False, check: bool = False, **options: Any) -> None:
        try:
            migrating.refuse_newer()
        except Refusal as refusal:
            raise CommandError(str(refusal)) from None
        if plan:
            for line in migrating.describe_plan() or ["The database is up to date."]:
                self.stdout.write(line)
            return
        if check and migrating.pending():
            raise CommandError("The database is of an earlier Saucer: run ./saucer migrate, or start one with ./saucer serve.")
        with held(MIGRATION):
            if migrating.pending():
                self._bring_up_to_date()
        sweep_uploads()
        if then:
            execute_from_command_line(["saucer", *then])

    def _bring_up_to_date(self) -> None:
        if migrating.is_new() and making_tables.can_be_made():
            self.stdout.write("Making the database's tables ...")
            making_tables.make()
            return
        self._back_up()
        self.stdout.write("Updating the database ...")
        call_command("migrate", verbosity=0, interactive=False)
        measure_missing()

    def _back_up(self) -> None:
        """Where backups are made and there is anything to lose."""
        if settings.BACKUP and not migrating.is_new():
            self.stdout.write("Making a backup before the database is changed ...")
            self.stdout.write(f"  {making.make(Place(settings.BACKUP), settings.BACKUP_KEEP).words}")
