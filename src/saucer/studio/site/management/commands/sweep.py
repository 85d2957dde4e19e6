"""Take away what is past its time, or tell what would go."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from saucer.studio.common.clock import believe_clock
from saucer.studio.common.locking import Busy
from saucer.studio.site.sweeping import ClockMoved, sweep


class Command(BaseCommand):
    help = "Take away for good what was deleted 30 days ago, files nothing refers to, and old previews."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--dry-run", action="store_true", help="tell what would go, change nothing")
        parser.add_argument(
            "--clock-is-right", action="store_true", help="the time is right, although it went on by more than a day"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        if options["clock_is_right"]:
            believe_clock()
        try:
            swept = sweep(options["dry_run"])
        except ClockMoved as moved:
            raise CommandError(str(moved)) from None
        except Busy:
            raise CommandError("A backup is being made, which copies what is in the store. Sweep afterwards.") from None
        self.stdout.write(f"{'Would free' if options['dry_run'] else 'Freed'}: {swept.words}.")
