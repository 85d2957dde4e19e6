"""The studio's own row: its name, and what it asks of everybody."""

from __future__ import annotations

from collections.abc import Mapping

from django.db import transaction

from saucer.studio.people.models import DraftsOf, Person, Role, SecondFactor, Studio
from saucer.studio.people.rules import record, require


def the_studio() -> Studio:
    return Studio.objects.get_or_create(pk=1)[0]


def asks_for_second_factor(person: Person) -> bool:
    """Does the studio want this person to sign in with a second factor?"""
    asked = Studio.objects.filter(pk=1).values_list("second_factor", flat=True).first()
    if asked == SecondFactor.LEADERS:
        return person.role in (Role.CURATOR, Role.ADMIN)
    return asked == SecondFactor.EVERYBODY


def set_up(
    person: Person | None, name: str | None = None, second_factor: SecondFactor | None = None, drafts: DraftsOf | None = None,
    delivery: str | None = None, skin: int | None = None, person_gb: int | None = None, project_gb: int | None = None,
    stress_limits: Mapping[str, float] | None = None,
) -> Studio:  # fmt: skip
    """What is none stays. person: none for the server itself; delivery: an encoding that there is; stress_limits: checked by the core

    Raises: NotAllowed
    """
    told = {
        "name": name, "second_factor": second_factor, "drafts": drafts, "delivery": delivery, "skin": skin,
        "person_gb": person_gb, "project_gb": project_gb, "stress_limits": stress_limits,
    }  # fmt: skip
    if person is not None:
        require(person, Role.ADMIN, "change what holds for the studio")
    the_studio()
    with transaction.atomic():
        studio = Studio.objects.select_for_update().get(pk=1)
        changed = {field: value for field, value in told.items() if value is not None and getattr(studio, field) != value}
        if changed:
            for field, value in changed.items():
                setattr(studio, field, value)
            studio.save(update_fields=list(changed))
            record(person, "set up studio", studio, **changed)
    return studio


def mark_begun(person: Person | None) -> None:
    """An admin has said what the studio begins with, and is not asked again."""
    the_studio()
    if Studio.objects.filter(pk=1, begun=False).update(begun=True):
        record(person, "begin studio", the_studio())
