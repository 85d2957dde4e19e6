"""A worker for tests: does what is queued, then stops."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

from django.db import connections
from procrastinate.contrib.django import app


def run_worker() -> None:
    """Do every queued job, on a connector of its own as a real worker has, in a thread: a browser's event loop may run in this one."""
    pool = ThreadPoolExecutor(1)
    try:
        pool.submit(_work).result(timeout=120)
    finally:
        pool.shutdown(wait=False)  # one that never ends fails its test, and does not hold up the others


def _work() -> None:
    try:
        with app.replace_connector(app.connector.get_worker_connector()) as own:
            own.run_worker(wait=False, install_signal_handlers=False, listen_notify=False)
    finally:
        connections.close_all()
