"""Who else has a look open."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta

from django.utils import timezone

from saucer.studio.looks.models import Presence
from saucer.studio.looks.rules import find
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may

HERE = timedelta(seconds=20)
"""After this long without a word a page is taken to be closed."""
EDITING = timedelta(seconds=60)


@dataclass(frozen=True)
class Other:
    """editing: changed something within the last minute."""

    name: str
    editing: bool
    same_person: bool


def tell(person: Person, pk: int, page: str, edited: bool, leaving: bool = False) -> list[Other]:
    """That this page has the look open, or leaves it; returns the other pages that do. Raises: NotFound"""
    entry, now = find(person, pk).entry, timezone.now()
    mine = entry.presences.filter(page=page, person=person)
    if leaving:
        mine.delete()
        return []
    fields = {"seen": now} | ({"edited": now} if edited and may(person, Role.DESIGNER) else {})
    Presence.objects.update_or_create(look=entry, person=person, page=page, defaults=fields)
    Presence.objects.filter(look=entry, seen__lt=now - 10 * HERE).delete()
    others = entry.presences.filter(seen__gte=now - HERE).exclude(page=page, person=person).select_related("person")
    return [
        Other(one.person.shown_name, one.edited is not None and one.edited >= now - EDITING, one.person_id == person.pk)
        for one in others
    ]
