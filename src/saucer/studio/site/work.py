"""What the queue does by itself: every night, and every minute for it."""

from __future__ import annotations

import logging

from django.conf import settings
from procrastinate.contrib.django import app

from saucer.studio.catalogue.review.mailing import mail_notices
from saucer.studio.common.clock import look_at_clock
from saucer.studio.common.locking import Busy
from saucer.studio.jobs.rules import QUEUE
from saucer.studio.site.backup import making
from saucer.studio.site.backup.place import Place
from saucer.studio.site.sweeping import ClockMoved, sweep

log = logging.getLogger("saucer.sweep")


@app.periodic(cron="17 3 * * *")
@app.task(queue=QUEUE, queueing_lock="sweep", pass_context=False)
def sweep_nightly(timestamp: int) -> None:
    del timestamp
    try:
        log.warning("swept: %s", sweep().words)
    except ClockMoved as moved:
        log.error("not swept: %s", moved)
    except Busy:
        log.error("not swept: a backup is being made")


@app.periodic(cron="30 2 * * *")
@app.task(queue=QUEUE, queueing_lock="backup", pass_context=False)
def back_up_nightly(timestamp: int) -> None:
    """Where a place for backups is said."""
    del timestamp
    if settings.BACKUP:
        log.warning("backed up: %s", making.make(Place(settings.BACKUP), settings.BACKUP_KEEP).words)


@app.periodic(cron="0 7 * * *")
@app.task(queue=QUEUE, queueing_lock="mail_notices", pass_context=False)
def mail_notices_daily(timestamp: int) -> None:
    """At seven in the morning, by the server's clock (UTC)."""
    del timestamp
    mail_notices()


@app.periodic(cron="* * * * *")
@app.task(queue=QUEUE, queueing_lock="clock", pass_context=False)
def watch_clock(timestamp: int) -> None:
    """So that a step of it is known before anything goes by it."""
    del timestamp
    look_at_clock()
