"""A backup, made while everything runs."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from saucer.studio.common.refusals import Refusal
from saucer.studio.site.backup import making
from saucer.studio.site.backup.place import Place


class Command(BaseCommand):
    help = "Copy the database and the store of this moment into a folder; files that it has already are not copied again."
    requires_migrations_checks = False

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("place", help="a folder, best on another disk, or s3://bucket/below")
        parser.add_argument("--keep", type=int, default=None, help="how many backups stay there, the newest ones")

    def handle(self, *args: Any, place: str, keep: int | None, **options: Any) -> None:
        try:
            made = making.make(Place(place), keep, self.stdout.write)
        except (Refusal, OSError, ValueError) as error:
            raise CommandError(f"No backup was made: {error}") from None
        self.stdout.write(made.words)
        if made.missing:
            raise CommandError(f"{len(made.missing)} files are not whole in the store itself; ./saucer check names them.")
