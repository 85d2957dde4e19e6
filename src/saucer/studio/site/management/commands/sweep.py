"""Take away what is past its time, or tell what would go."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from saucer.studio.site.sweeping import sweep


class Command(BaseCommand):
    help = "Take away for good what was deleted 30 days ago, files nothing refers to, and old previews."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--dry-run", action="store_true", help="tell what would go, change nothing")

    def handle(self, *args: Any, **options: Any) -> None:
        swept = sweep(options["dry_run"])
        self.stdout.write(f"{'Would free' if options['dry_run'] else 'Freed'}: {swept.words}.")
