"""Read every stored file through and tell what is damaged, missing or left over."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from saucer.studio.site.checking import check_store


class Command(BaseCommand):
    help = "Read every stored file through; tell what is damaged, missing or left over, which rows break a rule, and what can be mended."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument(
            "--mend", action="store_true", help="make proxies and previews again, and put right rows that break a rule"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        checked = check_store(options["mend"])
        for line in checked.lines():
            self.stdout.write(line)
        if not checked.is_sound:
            raise CommandError("the store is not sound")
