"""Tokens, by which programs come in: made, listed, revoked, and believed."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from django.db import IntegrityError, connection, transaction
from django.utils import timezone

from saucer.studio.common.refusals import NotFound, NotPossible, TooMany
from saucer.studio.people.models import Person, Role, Scope, Token
from saucer.studio.people.rules import may, record

PREFIX = "saucer_"
"""So that who finds one in a file knows what it is."""
MOST_IN_A_MINUTE = 600
MOST_EACH = 20
LONGEST = timedelta(days=366)
NEEDS = {Scope.READ: Role.VIEWER, Scope.BRING_IN: Role.DESIGNER, Scope.DESIGN: Role.DESIGNER, Scope.PUBLISH: Role.CURATOR}


@dataclass(frozen=True)
class Comes:
    """Somebody who comes by a token."""

    person: Person
    name: str
    scopes: frozenset[Scope]


def scopes_of(person: Person) -> list[Scope]:
    """What a token of theirs may reach at most."""
    return [scope for scope, role in NEEDS.items() if may(person, role)]


def hash_of(secret: str) -> str:
    """A token is 256 random bits: one round says as little of it as many would."""
    return hashlib.sha256(secret.encode()).hexdigest()


def make(by: Person, person: Person, name: str, scopes: Sequence[Scope], until: date) -> tuple[Token, str]:
    """The token and its secret, which is told once. person: who it stands for, oneself or a service

    Raises: NotPossible for a name that is taken, a day that is none, or a scope that the person's role does not reach
    """
    beyond = [scope.value for scope in scopes if scope not in scopes_of(person)]
    if beyond:
        raise NotPossible(f'The role {person.role} does not reach "{beyond[0]}".')
    today = timezone.now().date()
    if not today < until <= today + LONGEST:
        raise NotPossible(f"A token ends on a day after today and within a year: until {today + LONGEST} at most.")
    secret = PREFIX + secrets.token_urlsafe(32)
    ends = datetime.combine(until, time.min, tzinfo=timezone.get_current_timezone())
    try:
        with transaction.atomic():
            Person.objects.select_for_update().get(pk=person.pk)
            if Token.objects.filter(person=person).count() >= MOST_EACH:
                raise NotPossible(f"{person.shown_name} has {MOST_EACH} tokens; revoke one first.")
            token = Token.objects.create(
                person=person, name=name, secret_hash=hash_of(secret), scopes=sorted(set(scopes)), until=ends
            )
            record(by, "make token", person, token=name, scopes=token.scopes, until=str(until))
    except IntegrityError:
        raise NotPossible(f'There is a token "{name}" already.') from None
    return token, secret


def list_of(person: Person) -> list[Token]:
    return list(Token.objects.filter(person=person))


def revoke(by: Person, person: Person, pk: int) -> None:
    """It lets nobody in from now on. Raises: NotFound"""
    with transaction.atomic():
        token = Token.objects.select_for_update().filter(pk=pk, person=person).first()
        if token is None:
            raise NotFound("This token was revoked already.")
        record(by, "revoke token", person, token=token.name)
        token.delete()


_USE = """
UPDATE people_token SET used = now(), used_from = %(address)s, minute = date_trunc('minute', now()),
    in_minute = CASE WHEN minute = date_trunc('minute', now()) THEN in_minute + 1 ELSE 1 END
WHERE secret_hash = %(hash)s AND until > now() RETURNING id, in_minute
"""


def believe(secret: str, address: str | None) -> Comes | None:
    """Who comes by this token; none where it lets nobody in. It is asked anew at every call, so that what is revoked is out at once.

    Raises: TooMany for more than 600 calls in a minute
    """
    with connection.cursor() as cursor:
        cursor.execute(_USE, {"hash": hash_of(secret), "address": address})
        row = cursor.fetchone()
    if row is None:
        return None
    if row[1] > MOST_IN_A_MINUTE:
        raise TooMany(f"This token made more than {MOST_IN_A_MINUTE} calls within a minute. Wait for the next one.")
    token = Token.objects.select_related("person").filter(pk=row[0], person__is_active=True).first()
    if token is None:
        return None
    return Comes(token.person, token.name, frozenset(Scope(scope) for scope in token.scopes))
