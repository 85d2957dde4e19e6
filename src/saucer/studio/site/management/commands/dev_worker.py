"""A worker that starts anew whenever code changes; for `./saucer dev`."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand
from django.utils import autoreload
from procrastinate.contrib.django import app


class Command(BaseCommand):
    help = "A worker for development."

    def handle(self, *args: Any, **options: Any) -> None:
        autoreload.run_with_reloader(_work)


def _work() -> None:
    """Signals go to the thread that watches the code, which ends the process."""
    with app.replace_connector(app.connector.get_worker_connector()) as own:  # type: ignore[attr-defined]
        own.run_worker(concurrency=2, install_signal_handlers=False, delete_jobs="successful")
