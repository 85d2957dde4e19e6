"""Links by mail: sent where mail is set up (SAUCER_MAIL), each by a worker, so that nobody waits for a mail server."""

from __future__ import annotations

from datetime import timedelta

from django.conf import settings
from django.core.mail import send_mail
from django.db import transaction
from django.db.models import Q
from django.utils import timezone
from procrastinate.contrib.django import app

from saucer.studio.common.refusals import TooMany
from saucer.studio.people import links
from saucer.studio.people.models import Activity, Link, Person
from saucer.studio.people.rules import record
from saucer.studio.people.telling import MAIL_TEXT, subject

MAIL_LINK = "saucer.mail_link"
ASKED, WITHIN, MOST = "ask for a new password", timedelta(minutes=15), 10
"""How often somebody at one address may ask within that time."""


def send_link(link: Link, code: str, root: str, words: str, to: str) -> bool:
    """root: the studio's own address, with a / at its end. Was it sent? In the transaction of what it is for"""
    if not (to and settings.MAIL):
        return False
    text = f"{words}\n\n{root.rstrip('/')}{links.address_of(code)}\n\nIt works once, until {link.until:%d %B %Y %H:%M} UTC."
    app.configure_task(MAIL_TEXT, queue="work").defer(to=to, subject=subject(words), text=text)
    return True


def send_text(to: str, subject: str, text: str) -> None:
    send_mail(subject, text, None, [to])


def ask_for_link(name: str, root: str, address: str) -> None:
    """For who has forgotten the password. Whether there is such an account is looked for by a worker: neither answer nor time tells it.

    name: of an account, or its mail address. Raises: TooMany
    """
    asked = Activity.objects.filter(action=ASKED, data__address=address, at__gt=timezone.now() - WITHIN)
    if asked.count() >= MOST:
        raise TooMany("Too many links were asked for from here. Wait a quarter of an hour.")
    with transaction.atomic():
        record(None, ASKED, name[:150], address=address)
        if settings.MAIL:
            app.configure_task(MAIL_LINK, queue="work").defer(name=name, root=root)


def mail_link(name: str, root: str) -> None:
    """To everybody of that name or address, who is in and has an address."""
    known = Person.objects.filter(Q(username=name) | Q(email__iexact=name), is_active=True, is_service=False).exclude(email="")
    for person in known[:5]:
        with transaction.atomic():
            link, code = links.let_choose_password(None, person)
            send_link(link, code, root, f"A new password. By this link you choose one for {person.username}.", person.email)
