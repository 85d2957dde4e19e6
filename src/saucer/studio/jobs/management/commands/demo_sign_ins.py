"""Print who can sign in to the demo."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from saucer.demo.seed import PASSWORD, PEOPLE


class Command(BaseCommand):
    help = "Print the demo's sign-ins."

    def handle(self, *args: Any, **options: Any) -> None:
        self.stdout.write(f"Sign in with one of these, password {PASSWORD}")
        for username, name, role in PEOPLE:
            self.stdout.write(f"  {username:8} {name}, {role}")
