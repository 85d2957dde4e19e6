"""Signing in and out."""

from __future__ import annotations

from django.contrib.auth import authenticate, login, logout
from django.db import transaction
from django.http import HttpRequest

from saucer.studio.common.refusals import NotPossible
from saucer.studio.people import tries
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record


def sign_in(request: HttpRequest, username: str, password: str) -> Person:
    """Raises: NotPossible for a wrong name or password; TooMany after too many of these"""
    address = request.META.get("REMOTE_ADDR", "")
    with transaction.atomic():
        tries.hold_others(address)
        tries.check(username, address)
        person = authenticate(request, username=username, password=password)
        if isinstance(person, Person):
            login(request, person)
            record(person, tries.SIGNED_IN, person.username, address=address)
        else:
            tries.note_failed(username, address)
    if not isinstance(person, Person):
        raise NotPossible("The name or the password is wrong.")
    return person


def sign_out(request: HttpRequest) -> None:
    logout(request)
