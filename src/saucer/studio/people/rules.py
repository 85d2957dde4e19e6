"""Roles, and the activity."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, Literal

from django.db import models

from saucer.studio.common.refusals import NotAllowed
from saucer.studio.people import whence
from saucer.studio.people.models import Activity, Person, Role

RANK = {Role.VIEWER: 0, Role.DESIGNER: 1, Role.CURATOR: 2, Role.ADMIN: 3}


Ability = Literal["design", "curate", "administer"]
ABILITIES: dict[Ability, Role] = {"design": Role.DESIGNER, "curate": Role.CURATOR, "administer": Role.ADMIN}


def may(person: Person, role: Role) -> bool:
    return person.is_active and RANK[Role(person.role)] >= RANK[role]


def require(person: Person, role: Role, what: str) -> None:
    """Raises: NotAllowed, naming the role it takes."""
    if not may(person, role):
        raise NotAllowed(f"You cannot {what}: it takes the role {role.label.lower()}, yours is {Role(person.role).label.lower()}.")


def require_own(person: Person, owner: Person | None, what: str) -> None:
    """The owner as a designer, or a curator. Raises: NotAllowed."""
    require(person, Role.DESIGNER, what)
    if owner != person and not may(person, Role.CURATOR):
        raise NotAllowed(f"You cannot {what}: it belongs to {owner.shown_name if owner else 'somebody else'}. A curator can.")


def may_change(person: Person, owner_id: int | None) -> bool:
    """Is this for the person to change: their own as a designer, anybody's as a curator?"""
    return may(person, Role.CURATOR) or (owner_id == person.pk and may(person, Role.DESIGNER))


def name_of(person: Person | None, guest: str = "") -> str:
    """As others see who did or said something. guest: the name of somebody without an account; neither: nobody any more"""
    return person.shown_name if person is not None else f"{guest} (guest)" if guest else ""


def abilities(person: Person) -> list[Ability]:
    """What the person may do anywhere, in words that the page asks for."""
    return [name for name, role in ABILITIES.items() if may(person, role)]


def record(person: Person | None, action: str, about: models.Model | str, **data: Any) -> Activity:
    """One line of the activity; in the transaction of the change that it tells of."""
    line = line_of(person, action, about, **data)
    line.save()
    _tell([line])
    return line


def record_many(lines: Sequence[Activity]) -> None:
    """Lines for many things at once, as `line_of` makes them; in the transaction of the change that they tell of."""
    _tell(Activity.objects.bulk_create(lines))


LISTENERS: list[Callable[[Sequence[Activity]], None]] = []
"""What the apps above put in: each is told of lines as they are written, in the same transaction."""


def _tell(lines: Sequence[Activity]) -> None:
    for listen in LISTENERS:
        listen(lines)


def line_of(person: Person | None, action: str, about: models.Model | str, **data: Any) -> Activity:
    """A line of the activity that is not kept yet: for many at once."""
    kind, pk = ("", None) if isinstance(about, str) else (about._meta.model_name or "", about.pk)
    about_id = pk if isinstance(pk, int) else None
    return Activity(
        person=person, action=action, about_kind=kind[:20], about_id=about_id, about=str(about)[:200], data=data,
        address=whence.address.get(), token=whence.token.get(),
    )  # fmt: skip
