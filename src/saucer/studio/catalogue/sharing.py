"""Whose draft is seen by whom, until a version of it is proposed: one's own, some people's and projects', all who design."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.apps import apps
from django.db import transaction

from saucer.studio.catalogue.models import Entry, SeenBy, Share
from saucer.studio.catalogue.rules import find as find_entry
from saucer.studio.catalogue.rules import lock, noun_of
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record, require_own

MOST = 50


@dataclass(frozen=True)
class Sharing:
    """projects: number and name of those that the person who asks may know of"""

    entry: Entry
    people: list[Person]
    projects: list[tuple[int, str]]


def _projects_there(person: Person) -> Any:
    """The projects that a person may know of. They stand above the catalogue, which only names them."""
    return apps.get_model("projects", "Project").objects.visible_to(person)


def find(person: Person, kind: str, pk: int) -> Sharing:
    """Raises: NotFound"""
    return _sharing_of(person, find_entry(person, kind, pk))


def _sharing_of(person: Person, entry: Entry) -> Sharing:
    people = Person.objects.filter(pk__in=Share.objects.filter(entry=entry).values("person")).order_by("username")
    known = _projects_there(person).filter(pk__in=Share.objects.filter(entry=entry).values("project"))
    return Sharing(entry, list(people), list(known.order_by("name").values_list("pk", "name")))


def share(person: Person, kind: str, pk: int, seen_by: SeenBy, people: Sequence[str] = (), projects: Sequence[int] = ()) -> Sharing:
    """Who sees a draft from now on; in place of what was said before. Projects that the person may not know of stay as they are.

    people: names they sign in with. Raises: NotFound, NotAllowed; NotPossible for what was proposed, or where nobody is chosen
    """
    chosen = seen_by == SeenBy.CHOSEN
    with transaction.atomic():
        entry = lock(person, kind, pk)
        require_own(person, entry.owner, f"say who sees this {noun_of(kind)}")
        if entry.proposed:
            raise NotPossible(f"{entry.name} was proposed, so everybody sees it.")
        known = _projects_there(person)
        found = list(Person.objects.filter(username__in=people, is_active=True)) if chosen else []
        there = list(known.filter(pk__in=projects)) if chosen else []
        if chosen and len(found) < len(set(people)):
            missing = sorted(set(people) - {one.username for one in found})
            raise NotFound(f"There is nobody called {missing[0]} who may sign in.")
        if chosen and len(there) < len(set(projects)):
            raise NotFound("One of these projects is gone. Choose again.")
        hidden = Share.objects.filter(entry=entry, project__isnull=False).exclude(project__in=known)
        if chosen and not (found or there or hidden.exists()):
            raise NotPossible("Choose with whom it is shared.")
        before = Share.objects.filter(entry=entry)
        (before.exclude(pk__in=hidden.values("pk")) if chosen else before).delete()
        Share.objects.bulk_create([
            *(Share(entry=entry, person=one) for one in found), *(Share(entry=entry, project=one) for one in there),
        ])  # fmt: skip
        entry.seen_by = seen_by
        entry.save(update_fields=["seen_by"])
        record(
            person, "share", entry, seen_by=str(seen_by), people=[one.username for one in found], projects=[one.pk for one in there]
        )
    return _sharing_of(person, entry)
