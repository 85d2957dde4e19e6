"""Write everything that is made from code."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from saucer.studio.common.local import ROOT
from saucer.studio.site.generate import GENERATED


class Command(BaseCommand):
    help = "Write the generated files."
    requires_system_checks: list[str] = []

    def handle(self, *args: Any, **options: Any) -> None:
        for path, make in GENERATED.items():
            text, file = make(), ROOT / path
            if not file.is_file() or file.read_text() != text:
                file.write_text(text)
                self.stdout.write(f"Written: {path}")
