"""The way in for the first admin, told where the server was started; nothing where there is an admin."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from saucer.studio.people import links


class Command(BaseCommand):
    help = "Print the link by which the first admin comes in."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("root", help="where the server listens, http://127.0.0.1:8400")

    def handle(self, *args: Any, root: str, **options: Any) -> None:
        code = links.make_first()
        if code:
            self.stdout.write(
                "Nobody is here yet. Once Saucer is up, this makes the first account, an admin's; it works once, within a day:\n"
                f"  {_reached_at(root)}{links.address_of(code)}"
            )


def _reached_at(root: str) -> str:
    """By a name that the studio answers to, and by HTTPS where everybody is sent there."""
    if settings.HTTPS:
        return f"https://{settings.ALLOWED_HOSTS[0]}"
    host = urlsplit(root).hostname or ""
    return root if host in settings.ALLOWED_HOSTS else root.replace(host, settings.ALLOWED_HOSTS[0], 1)
