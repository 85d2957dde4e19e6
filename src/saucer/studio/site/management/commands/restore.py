"""A backup put into an empty studio."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from saucer.studio.common.refusals import Refusal
from saucer.studio.site.backup import restoring
from saucer.studio.site.backup.place import Place


class Command(BaseCommand):
    help = "Put a backup into an empty studio, the newest or the one that is named."
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("place", help="a folder, or s3://bucket/below")
        parser.add_argument("name", nargs="?", default="")

    def handle(self, *args: Any, place: str, name: str, **options: Any) -> None:
        try:
            manifest = restoring.restore(Place(place), name, self.stdout.write)
        except (Refusal, OSError, ValueError) as error:
            raise CommandError(str(error)) from None
        rows = sum(manifest.rows.values())
        self.stdout.write(
            f"Restored: {rows} rows in {len(manifest.rows)} tables, {len(manifest.files)} files. Start it: ./saucer serve"
        )
