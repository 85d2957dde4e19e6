"""gunicorn's settings. Each worker compiles or loads the kernels before it takes its first request."""

from __future__ import annotations

from typing import Any

from saucer.core.engine.warm import warm

worker_class = "gthread"
timeout = 120
graceful_timeout = 8
max_requests = 0
accesslog = None


def post_worker_init(worker: Any) -> None:
    warm()
