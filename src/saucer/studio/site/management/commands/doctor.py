"""Whether all is well, without changing anything."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from saucer.studio.site.doctor import examine


class Command(BaseCommand):
    help = "Say what is wrong and what to do; ends with 1 where anything is."
    requires_system_checks: list[str] = []
    requires_migrations_checks = False

    def handle(self, *args: Any, **options: Any) -> None:
        found = examine()
        for one in found:
            self.stdout.write(one.words)
        if found:
            raise CommandError(f"{len(found)} things to look at.")
        self.stdout.write("All is well.")
