"""What the queue does by itself every night."""

from __future__ import annotations

import logging

from procrastinate.contrib.django import app

from saucer.studio.jobs.rules import QUEUE
from saucer.studio.site.sweeping import sweep

log = logging.getLogger("saucer.sweep")


@app.periodic(cron="17 3 * * *")
@app.task(queue=QUEUE, queueing_lock="sweep", pass_context=False)
def sweep_nightly(timestamp: int) -> None:
    del timestamp
    log.warning("swept: %s", sweep().words)
