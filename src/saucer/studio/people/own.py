"""What people change of themselves."""

from __future__ import annotations

from collections.abc import Sequence

from allauth.mfa.totp.internal.auth import SECRET_SESSION_KEY
from allauth.usersessions.models import UserSession
from django.contrib.auth import update_session_auth_hash
from django.db import transaction
from django.http import HttpRequest

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people import accounts, sessions
from saucer.studio.people.adapters import Accounts, SecondFactors
from saucer.studio.people.models import NoticeAbout, Person
from saucer.studio.people.signed_in import person_of


def change_password(request: HttpRequest, current: str, new: str) -> Person:
    """This session stays, all others end. A wrong one counts as a failed try to sign in.

    Raises: NotPossible for a wrong one, or a new one that is too easy; TooMany
    """
    person = person_of(request)
    if Accounts(request).authenticate(request, username=person.username, password=current) != person:
        raise NotPossible("The password of now is wrong.")
    with transaction.atomic():
        changed = accounts.give_password(person.username, new, by=person)
        update_session_auth_hash(request, changed)
        sessions.end_all(person, person, but=request.session.session_key)
        UserSession.objects.create_from_request(request)
    return changed


def draw_secret(request: HttpRequest) -> str:
    """The address of a code app that is being set up (otpauth:), as a QR code in SVG. Raises: NotFound where none is"""
    secret = request.session.get(SECRET_SESSION_KEY)
    if not secret:
        raise NotFound("No code app is being set up.")
    adapter = SecondFactors(request)
    return str(adapter.build_totp_svg(adapter.build_totp_url(person_of(request), secret)))


def end_walk(person: Person) -> None:
    """They have been shown around, or do not want to be."""
    Person.objects.filter(pk=person.pk).update(is_new=False)


def choose_notices(person: Person, told_of: Sequence[NoticeAbout] | None, is_mailed: bool | None) -> Person:
    """What they are told of, and whether by mail too. What is none stays"""
    with transaction.atomic():
        held = Person.objects.select_for_update().get(pk=person.pk)
        held.told_of = held.told_of if told_of is None else sorted({str(one) for one in told_of})
        held.is_mailed = held.is_mailed if is_mailed is None else is_mailed
        held.save(update_fields=["told_of", "is_mailed"])
    return held
