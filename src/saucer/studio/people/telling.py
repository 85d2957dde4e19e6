"""Who is told something by mail, as of what was changed of their account, so that another's doing is noticed (SAUCER_MAIL)."""

from __future__ import annotations

from django.conf import settings
from procrastinate.contrib.django import app

from saucer.studio.people.models import Person
from saucer.studio.people.studio import the_studio

MAIL_TEXT = "saucer.mail_text"


def tell(person: Person, what: str, to: str = "") -> None:
    """In the transaction of the change. what: a sentence that says it; to: another address than the person's of now"""
    where = the_studio().name or "the studio"
    send(person, what, f"\nIf that was not you, tell whoever runs {where} at once: they can end your sessions.", to)


def send(person: Person, what: str, more: str, to: str = "") -> None:
    """A worker sends it. what: its first sentence, which is its subject too; more: what stands below it"""
    address = to or person.email
    if settings.MAIL and address:
        app.configure_task(MAIL_TEXT, queue="work").defer(to=address, subject=subject(what), text=f"{what}\n{more}")


def subject(words: str) -> str:
    return f"{the_studio().name or 'Saucer'}: {words.split('.')[0].lower()}"
