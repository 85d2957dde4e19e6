"""Guests: let in by a link and its password, known again by what their browser keeps, held to so many calls."""

from __future__ import annotations

import secrets
from datetime import timedelta

from django.contrib.auth.hashers import check_password
from django.db import connection, transaction
from django.utils import timezone

from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible, TooMany
from saucer.studio.guests.links import GONE, find_open, hash_of, is_open, may_still_show
from saucer.studio.guests.models import Guest, GuestLink
from saucer.studio.people import whence
from saucer.studio.people.models import Activity
from saucer.studio.people.rules import record
from saucer.studio.people.tries import hold_others

WITHIN = timedelta(minutes=15)
MOST_FAILED_HERE, MOST_FAILED = 10, 100
"""Wrong passwords of one link within WITHIN, from one address and from everywhere."""
MOST_FROM_ADDRESS = 30
"""Guests of one link who come from one address within WITHIN."""
MOST_GUESTS = 500
MOST_IN_A_MINUTE = 900
"""Calls of one guest: a wall of hundreds of pictures, scrolled through."""
FAILED = "fail to open guest link"


def come_in(code: str, name: str, password: str) -> tuple[Guest, str]:
    """The guest, and the secret that their browser keeps. Raises: NotFound; NotAllowed for a wrong password; NotPossible, TooMany"""
    name = " ".join(name.split())[:80]
    if not name:
        raise NotPossible("Say your name, so that they know who says what.")
    link, address = find_open(code), whence.address.get()
    with transaction.atomic():
        hold_others(f"guest link {link.pk}")
        _check_tries(link, address)
        is_right = not link.password or check_password(password, link.password)
        if is_right:
            secret = secrets.token_urlsafe(32)
            guest = Guest.objects.create(link=link, name=name, key_hash=hash_of(secret), address=address)
            record(None, "come by guest link", link, guest=name)
        else:
            record(None, FAILED, link, guest=name)
    if not is_right:
        raise NotAllowed("This is not the password of this link.")
    return guest, secret


def _check_tries(link: GuestLink, address: str | None) -> None:
    """Raises: TooMany"""
    since = timezone.now() - WITHIN
    failed = Activity.objects.filter(about_kind="guestlink", about_id=link.pk, action=FAILED, at__gt=since)
    if failed.filter(address=address).count() >= MOST_FAILED_HERE or failed.count() >= MOST_FAILED:
        raise TooMany("Too many wrong passwords. Try again in a quarter of an hour.")
    if Guest.objects.filter(link=link, address=address, came__gt=since).count() >= MOST_FROM_ADDRESS:
        raise TooMany("Too many came from here within a quarter of an hour. Try again later.")
    if Guest.objects.filter(link=link).count() >= MOST_GUESTS:
        raise TooMany(f"{MOST_GUESTS} people came by this link; ask whoever sent it for another.")


_COME = """
UPDATE guests_guest SET minute = date_trunc('minute', now()),
    in_minute = CASE WHEN minute = date_trunc('minute', now()) THEN in_minute + 1 ELSE 1 END
WHERE key_hash = %(hash)s RETURNING id, in_minute
"""


def believe(code: str, secret: str) -> Guest | None:
    """Who comes back; none who has not come in by this link. Asked anew at every call, so that what is revoked shows nothing at once.

    Raises: NotFound for a link that is not open; TooMany
    """
    if not secret:
        find_open(code)
        return None
    with connection.cursor() as cursor:
        cursor.execute(_COME, {"hash": hash_of(secret)})
        row = cursor.fetchone()
    if row is not None and row[1] > MOST_IN_A_MINUTE:
        raise TooMany("Too many calls within a minute. Wait for the next one.")
    known = Guest.objects.select_related("link__made_by", "link__board", "link__project")
    guest = known.filter(pk=row[0], link__code_hash=hash_of(code)).first() if row is not None else None
    if guest is None:
        find_open(code)
        return None
    link = guest.link
    if not is_open(link) or not may_still_show(link):
        raise NotFound(GONE)
    return guest
