"""Where people are signed in: listed, and ended."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from allauth.usersessions.models import UserSession
from django.db import transaction
from ua_parser import parse

from saucer.studio.common.refusals import NotFound
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record


@dataclass(frozen=True)
class SignedIn:
    """A session. browser: in words, as the browser says of itself"""

    id: int
    browser: str
    address: str
    since: datetime
    seen: datetime
    is_this: bool


def list_of(person: Person, this: str | None = None) -> list[SignedIn]:
    """this: key of the session that asks"""
    return [
        SignedIn(one.pk, describe_browser(one.user_agent), one.ip, one.created_at, one.last_seen_at, one.session_key == this)
        for one in sorted(UserSession.objects.purge_and_list(person), key=lambda one: one.last_seen_at, reverse=True)
    ]


def describe_browser(said: str) -> str:
    told = parse(said)
    parts = [told.user_agent.family if told.user_agent else "", told.os.family if told.os else ""]
    return " on ".join(part for part in parts if part) or "a program"


def end(by: Person, person: Person, pk: int) -> None:
    """Raises: NotFound"""
    with transaction.atomic():
        found = UserSession.objects.select_for_update().filter(pk=pk, user=person).first()
        if found is None:
            raise NotFound("This session has ended already.")
        record(by, "end session", person, address=found.ip)
        found.end()


def end_all(by: Person | None, person: Person, but: str | None = None) -> int:
    """but: key of the session that stays. by: none for the server. How many there were"""
    with transaction.atomic():
        found = list(UserSession.objects.select_for_update().filter(user=person).exclude(session_key=but or ""))
        for one in found:
            one.end()
        if found:
            record(by, "end session", person, count=len(found))
    return len(found)
