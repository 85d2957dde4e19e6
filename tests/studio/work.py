"""A worker for tests: does what is queued, then stops. And several people at the same moment."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from threading import Thread

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


def at_once(*rules: Callable[[], object]) -> list[object]:
    """All at once, each in a thread with a connection of its own: what each came to, or what it raised."""
    found: list[object] = [None] * len(rules)

    def run(index: int) -> None:
        try:
            found[index] = rules[index]()
        except Exception as error:
            found[index] = error
        finally:
            connections.close_all()

    threads = [Thread(target=run, args=[index]) for index in range(len(rules))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    assert not any(thread.is_alive() for thread in threads)
    return found
