"""Accounts, as whoever runs the server manages them."""

from __future__ import annotations

import ipaddress

from django.contrib.auth.password_validation import validate_password
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.db import transaction

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people import tries
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record


def list_people() -> list[Person]:
    return list(Person.objects.order_by("username"))


def find(name: str) -> Person:
    """Raises: NotFound"""
    person = Person.objects.filter(username=name).first()
    if person is None:
        raise NotFound(f'There is nobody called "{name}"; see `people list`.')
    return person


def _check_password(password: str, person: Person) -> None:
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise NotPossible(" ".join(error.messages)) from None


def add(name: str, role: Role, password: str, full_name: str = "") -> Person:
    """Raises: NotPossible for a name that is taken or no name, or a password that is too easy"""
    person = Person(username=name, role=role, full_name=full_name)
    try:
        person.clean_fields(exclude=["password"])
    except ValidationError as error:
        raise NotPossible(" ".join(error.messages)) from None
    if Person.objects.filter(username__iexact=name).exists():
        raise NotPossible(f'There is a "{name}" already.')
    _check_password(password, person)
    person.set_password(password)
    with transaction.atomic():
        person.save()
        record(None, "add person", person, role=role)
    return person


def give_role(name: str, role: Role) -> Person:
    """Raises: NotFound"""
    with transaction.atomic():
        person = find(name)
        person.role = role
        person.save(update_fields=["role"])
        record(None, "give role", person, role=role)
    return person


def give_password(name: str, password: str) -> Person:
    """Raises: NotFound, NotPossible"""
    person = find(name)
    _check_password(password, person)
    person.set_password(password)
    with transaction.atomic():
        person.save(update_fields=["password"])
        record(None, "give password", person)
    return person


def unlock(name: str) -> None:
    """Of a person, or an address. Raises: NotFound for what is neither"""
    try:
        ipaddress.ip_address(name)
    except ValueError:
        find(name)
    with transaction.atomic():
        tries.unlock(name)


def switch(name: str, on: bool) -> Person:
    """Let somebody sign in or not; off ends what they are signed in with. Raises: NotFound"""
    with transaction.atomic():
        person = find(name)
        person.is_active = on
        person.save(update_fields=["is_active"])
        record(None, "switch on" if on else "switch off", person)
        if not on:
            for session in Session.objects.all():
                if session.get_decoded().get("_auth_user_id") == str(person.pk):
                    session.delete()
    return person
