"""Changes of shots that are taken back: what was before stands in the activity, and comes back wherever nobody has changed it since."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import Q

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Activity, Person
from saucer.studio.people.rules import record
from saucer.studio.projects import rules
from saucer.studio.projects.models import Project, Shot

UNDONE = "undo change of shots"
LONGEST_HISTORY = 50


@dataclass(frozen=True)
class Done:
    """undo: the number by which it is taken back; left: codes of shots that somebody has changed since"""

    count: int
    undo: int | None
    left: tuple[str, ...] = ()


TakingBack = Callable[[Person, Project, dict[str, Any]], Done]
"""What the activity holds of a change -> how much of it was taken back."""
WAYS: dict[str, TakingBack] = {}
"""By action; each module of changes puts its own in."""
FOLLOWS: list[Callable[[Person, Project], object]] = []
"""What has to happen once shots look different, or would; each module puts its own in."""


def look_different(person: Person, project: Project) -> None:
    """Shots of the project do, by this person's change. In the transaction of the change."""
    for follow in FOLLOWS:
        follow(person, project)


def done(person: Person, project: Project, action: str, count: int, **data: Any) -> Done:
    """The change in the activity, and how it is taken back. In the transaction of the change."""
    return Done(count, record(person, action, project, **data).pk)


def history_of(shot: Shot) -> list[Activity]:
    """What was done to a shot, whatever it was called then, the newest first."""
    named = Q(data__ids__contains=[shot.pk]) | Q(data__after__has_key=str(shot.pk))
    about = Activity.objects.filter(named, about_kind="project", about_id=shot.scene.project_id)
    return list(about.select_related("person")[:LONGEST_HISTORY])


def undo(person: Person, pk: int, number: int) -> Done:
    """What was before a change of one's own, wherever nobody has changed it since. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = rules.work_in(person, pk, "change shots")
        change = Activity.objects.filter(pk=number, person=person, action__in=WAYS, about_kind="project", about_id=pk).first()
        if change is None:
            raise NotFound("There is no such change of yours.")
        if Activity.objects.filter(action=UNDONE, about_id=pk, data__of=number).exists():
            raise NotPossible("This change was taken back already.")
        found = WAYS[change.action](person, project, change.data)
        ids = change.data["ids"] if "ids" in change.data else [int(one) for one in change.data.get("after", {})]
        record(person, UNDONE, project, of=number, shots=change.data.get("shots", []), ids=ids)
        look_different(person, project)
    return found
