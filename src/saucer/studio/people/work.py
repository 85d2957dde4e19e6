"""What a worker does for people: it sends mail."""

from __future__ import annotations

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from saucer.studio.people import mailing, telling

AGAIN = RetryStrategy(max_attempts=6, exponential_wait=4)
"""A mail server that is away for a while is asked again, for over an hour."""


@app.task(name=telling.MAIL_TEXT, queue="work", retry=AGAIN)
def mail_text(to: str, subject: str, text: str) -> None:
    mailing.send_text(to, subject, text)


@app.task(name=mailing.MAIL_LINK, queue="work", retry=AGAIN)
def mail_link(name: str, root: str) -> None:
    mailing.mail_link(name, root)
