"""What a worker does for hooks: it sends what is due, at once and again each minute."""

from __future__ import annotations

from procrastinate.contrib.django import app

from saucer.studio.hooks import rules


@app.periodic(cron="* * * * *")
@app.task(name=rules.SEND, queue="work", pass_context=False)
def call_hooks(timestamp: int | None = None) -> None:
    rules.send_due()
