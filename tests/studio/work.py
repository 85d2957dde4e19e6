"""A worker for tests: does what is queued, then stops."""

from __future__ import annotations

from procrastinate.contrib.django import app


def run_worker() -> None:
    """Do every queued job in this process, on a connector of its own as a real worker has."""
    with app.replace_connector(app.connector.get_worker_connector()) as own:
        own.run_worker(wait=False, install_signal_handlers=False, listen_notify=False)
