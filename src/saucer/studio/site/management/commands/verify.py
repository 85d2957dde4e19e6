"""A backup read through."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from saucer.studio.common.refusals import Refusal
from saucer.studio.site.backup import restoring
from saucer.studio.site.backup.place import Place


class Command(BaseCommand):
    help = "Read a backup through, the newest or the one that is named; ends with 1 where it could not be restored whole."
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("place", help="a folder, or s3://bucket/below")
        parser.add_argument("name", nargs="?", default="")

    def handle(self, *args: Any, place: str, name: str, **options: Any) -> None:
        try:
            faults = restoring.verify(Place(place), name)
        except (Refusal, OSError, ValueError) as error:
            raise CommandError(str(error)) from None
        for fault in faults:
            self.stdout.write(fault)
        if faults:
            raise CommandError(f"{len(faults)} faults.")
        self.stdout.write("The backup is sound.")
