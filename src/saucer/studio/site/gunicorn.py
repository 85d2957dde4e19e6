"""gunicorn's settings. Each worker compiles or loads the kernels before it takes its first request."""

from __future__ import annotations

import os
from typing import Any

from saucer.core.engine.warm import warm
from saucer.core.reading.processes import warm_up

worker_class = "saucer.studio.site.patience.PatientWorker"
timeout = 120
# Seconds that a browser's connection is kept for its next request; while it waits it holds no thread.
keepalive = 65
graceful_timeout = 8
max_requests = 0
accesslog = None
# Who may say that a request came by HTTPS, and from where: the proxies that are named, and nobody else.
forwarded_allow_ips = os.environ.get("SAUCER_PROXY", "").replace(" ", "")


def post_worker_init(worker: Any) -> None:
    warm_up()
    warm()
