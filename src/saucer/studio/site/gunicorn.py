"""gunicorn's settings. Each worker compiles or loads the kernels before it takes its first request."""

from __future__ import annotations

import os
from contextlib import suppress
from threading import Event, Thread
from typing import Any

from prometheus_client.multiprocess import mark_process_dead

from saucer.core.engine.warm import warm
from saucer.core.reading.processes import warm_up
from saucer.studio.site.alive import SIGN_EVERY

worker_class = "saucer.studio.site.patience.PatientWorker"
preload_app = True
# A process that holds its own interpreter for so long gives no sign to the one that started it, and is replaced.
timeout = 30
# Seconds that a browser's connection is kept for its next request; while it waits it holds no thread.
keepalive = 65
graceful_timeout = 8
max_requests = 0
accesslog = None
# Who may say that a request came by HTTPS, and from where: the proxies that are named, and nobody else.
forwarded_allow_ips = os.environ.get("SAUCER_PROXY", "").replace(" ", "")


def post_worker_init(worker: Any) -> None:
    # Loading may take longer than that on a busy machine: meanwhile signs are given for it.
    done = Event()

    def give_signs() -> None:
        while not done.wait(SIGN_EVERY):
            worker.notify()

    Thread(target=give_signs, daemon=True).start()
    try:
        warm_up()
        warm()
        _read_columns()
    finally:
        done.set()


def _read_columns() -> None:
    """What entries are found by, seconds for a hundred thousand. Where the database is away, whoever asks first reads it."""
    # Known to Django only once it is set up, which this module is read before.
    from django.db import DatabaseError, connections

    from saucer.studio.catalogue.find.columns import read_columns

    with suppress(DatabaseError):
        read_columns()
    connections.close_all()


def child_exit(server: Any, worker: Any) -> None:
    """What it had under way counts no more; what it counted does."""
    mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]
