"""Accounts, as whoever runs the server and admins manage them. by: who does it, none for the server's own command."""

from __future__ import annotations

import ipaddress

from allauth.mfa.models import Authenticator
from django.contrib.auth.password_validation import password_validators_help_texts, validate_password
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import IntegrityError, transaction

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people import sessions, telling, tries
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require


def list_people() -> list[Person]:
    return list(Person.objects.order_by("username"))


def find(name: str, lock: bool = False) -> Person:
    """Raises: NotFound"""
    known = Person.objects.select_for_update() if lock else Person.objects.all()
    person = known.filter(username=name).first()
    if person is None:
        raise NotFound(f'There is nobody called "{name}".')
    return person


def find_service(name: str) -> Person:
    """Raises: NotFound; NotPossible for somebody who signs in, and makes tokens of their own"""
    person = find(name)
    if not person.is_service:
        raise NotPossible(f"{person.shown_name} makes tokens on their own page.")
    return person


def password_rules() -> list[str]:
    """What a password has to be, in sentences."""
    return [str(text) for text in password_validators_help_texts()]


def check_password(password: str, person: Person) -> None:
    """Raises: NotPossible"""
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise NotPossible(" ".join(error.messages)) from None


def check_email(email: str) -> None:
    """Raises: NotPossible"""
    try:
        validate_email(email)
    except ValidationError:
        raise NotPossible(f'"{email}" is no mail address.') from None


def _new(name: str, role: Role, full_name: str, email: str, is_service: bool = False) -> Person:
    person = Person(username=name, role=role, full_name=full_name, email=email, is_service=is_service, is_new=not is_service)
    try:
        person.clean_fields(exclude=["password"])
    except ValidationError as error:
        raise NotPossible(" ".join(error.messages)) from None
    if Person.objects.filter(username__iexact=name).exists():
        raise NotPossible(f'There is a "{name}" already.')
    return person


def _save_new(person: Person, by: Person | None) -> None:
    try:
        with transaction.atomic():
            person.save()
            record(by, "add person", person, role=person.role)
    except IntegrityError:
        raise NotPossible(f'There is a "{person.username}" already.') from None


def add(name: str, role: Role, password: str, full_name: str = "", email: str = "", by: Person | None = None) -> Person:
    """Raises: NotPossible for a name that is taken or no name, or a password that is too easy"""
    person = _new(name, role, full_name, email)
    check_password(password, person)
    person.set_password(password)
    _save_new(person, by)
    return person


def add_from_elsewhere(name: str, role: Role, full_name: str = "") -> Person:
    """Somebody who comes by an account elsewhere and has no password here. Raises: NotPossible for no name"""
    person = _new(name, role, full_name, "")
    person.set_unusable_password()
    _save_new(person, None)
    return person


def add_service(by: Person, name: str, role: Role, full_name: str = "") -> Person:
    """An account for a program: it has tokens and never signs in. Raises: NotAllowed; NotPossible"""
    require(by, Role.ADMIN, "add services")
    if role == Role.ADMIN:
        raise NotPossible("A service is no admin: a token reaches curator at most.")
    service = _new(name, role, full_name, "", is_service=True)
    service.set_unusable_password()
    _save_new(service, by)
    return service


def give_role(name: str, role: Role, by: Person | None = None) -> Person:
    """Raises: NotAllowed; NotFound; NotPossible for the last admin"""
    if by is not None:
        require(by, Role.ADMIN, "give roles")
    with transaction.atomic():
        person = find(name, lock=True)
        if person.role != role:
            if person.is_service and role == Role.ADMIN:
                raise NotPossible("A service is no admin: a token reaches curator at most.")
            _keep_an_admin(person, role == Role.ADMIN)
            before, person.role = person.role, role
            person.save(update_fields=["role"])
            record(by, "give role", person, role=role, before=before)
    return person


def _keep_an_admin(person: Person, stays: bool) -> None:
    """Raises: NotPossible where nobody would be left who can put it right. Within the transaction of the change"""
    admins = list(
        Person.objects.select_for_update().filter(role=Role.ADMIN, is_active=True).order_by("pk").values_list("pk", flat=True)
    )
    if not stays and admins == [person.pk]:
        raise NotPossible(f"{person.shown_name} is the only admin. Make somebody else one first.")


def give_password(name: str, password: str, by: Person | None = None) -> Person:
    """What they are signed in with ends by it. Raises: NotFound, NotPossible"""
    with transaction.atomic():
        person = find(name, lock=True)
        if person.is_service:
            raise NotPossible(f"{person.shown_name} is a service: it has tokens and no password.")
        check_password(password, person)
        person.set_password(password)
        person.save(update_fields=["password"])
        record(by, "give password", person)
        telling.tell(person, "Your password was changed.")
        tries.unlock(person.username, by)
    return person


def describe(name: str, full_name: str | None = None, email: str | None = None, by: Person | None = None) -> Person:
    """What is none stays. Raises: NotAllowed; NotFound; NotPossible for what is no mail address"""
    if by is not None and by.username != name:
        require(by, Role.ADMIN, "change what others are called")
    if email:
        check_email(email)
    with transaction.atomic():
        person = find(name, lock=True)
        changed = {
            field: value
            for field, value in (("full_name", full_name), ("email", email))
            if value is not None and getattr(person, field) != value
        }
        if changed:
            if "email" in changed and person.email:
                telling.tell(person, "The mail address of your account was changed.", to=person.email)
            for field, value in changed.items():
                setattr(person, field, value)
            person.save(update_fields=list(changed))
            record(by, "describe person", person, **changed)
    return person


def change(by: Person, name: str, role: Role | None, is_active: bool | None, full_name: str | None, email: str | None) -> None:
    """All of it or nothing; what is none stays. Raises: NotAllowed; NotFound; NotPossible"""
    with transaction.atomic():
        if role is not None:
            give_role(name, role, by)
        if is_active is not None:
            switch(name, is_active, by)
        if full_name is not None or email is not None:
            describe(name, full_name, email, by)


def unlock(name: str, by: Person | None = None) -> None:
    """Of a person, or an address. Raises: NotAllowed; NotFound for what is neither"""
    if by is not None:
        require(by, Role.ADMIN, "unlock people")
    try:
        ipaddress.ip_address(name)
    except ValueError:
        find(name)
    with transaction.atomic():
        tries.unlock(name, by)


def switch(name: str, on: bool, by: Person | None = None) -> Person:
    """Let somebody in or not; off ends what they are signed in with, and what stands open for them. Their name stays on what they made.

    Raises: NotAllowed; NotFound; NotPossible for the last admin
    """
    if by is not None:
        require(by, Role.ADMIN, "switch people off and on")
    with transaction.atomic():
        person = find(name, lock=True)
        if person.is_active != on:
            _keep_an_admin(person, on)
            person.is_active = on
            person.save(update_fields=["is_active"])
            record(by, "switch on" if on else "switch off", person)
        if not on:
            sessions.end_all(by, person)
            person.links.filter(used=None).delete()
    return person


def forget_second_factor(name: str, by: Person | None = None) -> Person:
    """For who has lost it: codes, keys and recovery codes are gone; a new one is set up after signing in.

    Raises: NotAllowed; NotFound; NotPossible where there is none
    """
    if by is not None:
        require(by, Role.ADMIN, "take away second factors")
    with transaction.atomic():
        person = find(name, lock=True)
        gone, _ = Authenticator.objects.filter(user=person).delete()
        if not gone:
            raise NotPossible(f"{person.shown_name} has no second factor.")
        record(by, "forget second factor", person)
    return person
