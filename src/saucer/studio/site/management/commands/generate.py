"""Write everything that is made from code."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from saucer.studio.common.local import ROOT
from saucer.studio.site.generate import GENERATED
from saucer.studio.site.tables import making


class Command(BaseCommand):
    help = "Write the generated files; for the tables of a new studio the database has to be empty."
    requires_system_checks: list[str] = []

    def handle(self, *args: Any, **options: Any) -> None:
        for path, make in GENERATED.items():
            text, file = make(), ROOT / path
            if not file.is_file() or file.read_text() != text:
                file.write_text(text)
                self.stdout.write(f"Written: {path}")
        if not making.are_current():
            call_command("migrate", verbosity=0, interactive=False)
            making.TABLES.write_text(making.tables_text())
            self.stdout.write(f"Written: {making.TABLES.relative_to(ROOT)}")
