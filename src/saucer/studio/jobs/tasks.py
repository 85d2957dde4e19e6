"""What the queue knows: one task that does a job, one that takes over from workers that died."""

from __future__ import annotations

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from saucer.studio.common.tracing import numbered
from saucer.studio.jobs import rules
from saucer.studio.people import whence

SILENT_AFTER = 30.0
"""Seconds without a sign of life after which a worker counts as dead; workers give one every ten."""


@app.task(name=rules.TASK, queue=rules.QUEUE, retry=RetryStrategy(max_attempts=3, wait=2))
def run_job(job: int, request: str = "", address: str | None = None, token: str = "") -> None:
    """request: number of the one that asked for it, for the log; address, token: from where and by which it did, for the activity"""
    with numbered(request, job=job), whence.asked_from(address, token):
        rules.perform(job)


@app.periodic(cron="* * * * *")
@app.task(queue=rules.QUEUE, queueing_lock="put_right", pass_context=False)
def put_right(timestamp: int) -> None:
    """The state of a whole is what its parts make it, always."""
    del timestamp
    rules.put_right()


@app.periodic(cron="* * * * * */15")
@app.task(queue=rules.QUEUE, queueing_lock="rescue", pass_context=False)
async def rescue(timestamp: int) -> None:
    """Give the jobs of dead workers back to the queue."""
    del timestamp
    for stalled in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENT_AFTER):
        await app.job_manager.retry_job(stalled)
