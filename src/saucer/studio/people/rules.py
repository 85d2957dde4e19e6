"""Roles, the audit trail, sign-in."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest

from saucer.studio.people.models import AuditEntry, Person, Role
from saucer.studio.refusals import NotAllowed, NotPossible

_RANK = {Role.VIEWER: 0, Role.DESIGNER: 1, Role.CURATOR: 2, Role.ADMIN: 3}


def may(person: Person, role: Role) -> bool:
    return person.is_active and _RANK[Role(person.role)] >= _RANK[role]


def require(person: Person, role: Role, what: str) -> None:
    """Raises: NotAllowed, naming the role it takes."""
    if not may(person, role):
        raise NotAllowed(f"You cannot {what}: it takes the role {role.label.lower()}, yours is {Role(person.role).label.lower()}.")


def require_own(person: Person, owner: Person | None, what: str) -> None:
    """The owner as a designer, or a curator. Raises: NotAllowed."""
    require(person, Role.DESIGNER, what)
    if owner != person and not may(person, Role.CURATOR):
        raise NotAllowed(f"You cannot {what}: it belongs to {owner.shown_name if owner else 'somebody else'}. A curator can.")


def record(person: Person | None, action: str, subject: object, **detail: Any) -> None:
    AuditEntry.objects.create(person=person, action=action, subject=str(subject)[:200], detail=detail)


LOCKED = "Too many failed tries. Wait 15 minutes, or ask an admin."


def sign_in(request: HttpRequest, username: str, password: str) -> Person:
    """Raises: NotPossible for a wrong name or password, and while the name is locked after too many tries."""
    person = authenticate(request, username=username, password=password)
    if getattr(request, "axes_locked_out", False):
        raise NotPossible(LOCKED)
    if not isinstance(person, Person):
        raise NotPossible("The name or the password is wrong.")
    login(request, person)
    record(person, "sign in", person.username)
    return person


def sign_out(request: HttpRequest) -> None:
    logout(request)
