"""What lies on shots: looks put on many at once, replaced rather than piled, their strength, and every such change taken back."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.catalogue.uses import FINDERS, Use
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Activity, Person
from saucer.studio.people.rules import record
from saucer.studio.projects import rules
from saucer.studio.projects.models import Layer, Project, Shot

ACTION = "grade shots"
UNDONE = "undo grade of shots"
MOST_LAYERS = 4

Stack = list[dict[str, Any]]


@dataclass(frozen=True)
class Graded:
    """undo: the number by which it is taken back; left: codes of shots that somebody has changed since"""

    count: int
    undo: int | None
    left: tuple[str, ...] = ()


def put_look(
    person: Person, pk: int, ids: Sequence[int], entry_id: int, number: int | None, strength: float, stack: bool
) -> Graded:
    """One look on all of these shots, in place of what lies there unless it is to be stacked.

    number: of the version that is pinned; without it the published one, else the latest. Raises: NotFound, NotAllowed, NotPossible
    """
    with transaction.atomic():
        rules.work_in(person, pk, "change shots")
        version = _version_of(entry_id, number)

        def put(shot: Shot, before: Stack) -> Stack:
            mine = {"version": version.pk, "strength": strength}
            if stack and len(before) >= MOST_LAYERS:
                raise NotPossible(f"{shot.code} has {MOST_LAYERS} looks on it, which is the most.")
            return [*before, mine] if stack else [mine]

        return _change(person, pk, ids, put, look=version.entry.name, version=version.number, strength=strength)


def take_off(person: Person, pk: int, ids: Sequence[int]) -> Graded:
    """Nothing lies on these shots any more."""
    return _change(person, pk, ids, lambda shot, before: [], look="")


def set_strength(person: Person, pk: int, ids: Sequence[int], strength: float) -> Graded:
    """Of the topmost look of each shot; shots without one stay so."""
    return _change(
        person,
        pk,
        ids,
        lambda shot, before: [*before[:-1], before[-1] | {"strength": strength}] if before else [],
        strength=strength,
    )


def take_newest(person: Person, pk: int, ids: Sequence[int]) -> Graded:
    """The published version, else the latest, of every look on these shots."""
    newest: dict[int, int] = {}

    def renew(shot: Shot, before: Stack) -> Stack:
        for layer in before:
            if layer["version"] not in newest:
                entry = Entry.objects.select_related("published", "latest").get(versions=layer["version"])
                found = entry.offered
                newest[layer["version"]] = found.pk if found else layer["version"]
        return [layer | {"version": newest[layer["version"]]} for layer in before]

    return _change(person, pk, ids, renew, newest=True)


def undo(person: Person, pk: int, number: int) -> Graded:
    """What lay on the shots before a change of one's own, wherever nobody has changed them since. Raises: NotFound, NotPossible"""
    with transaction.atomic():
        project = rules.work_in(person, pk, "change shots")
        done = Activity.objects.filter(pk=number, person=person, action=ACTION, about_kind="project", about_id=pk).first()
        if done is None:
            raise NotFound("There is no such change of yours.")
        if Activity.objects.filter(action=UNDONE, about_id=pk, data__of=number).exists():
            raise NotPossible("This change was taken back already.")
        before, after = done.data["before"], done.data["after"]
        shots = Shot.objects.select_for_update().filter(pk__in=[int(one) for one in before], scene__project=project, deleted=None)
        left, count = [], 0
        for shot in shots.order_by("pk"):
            if _stack_of(shot) != after[str(shot.pk)]:
                left.append(shot.code)
                continue
            _write(person, shot, before[str(shot.pk)])
            count += 1
        record(person, UNDONE, project, of=number)
    return Graded(count, None, tuple(left))


def _version_of(entry_id: int, number: int | None) -> Version:
    entry = Entry.objects.filter(pk=entry_id, deleted=None).select_related("published", "latest").first()
    if entry is None:
        raise NotFound("There is no such entry, or it was deleted.")
    version = Version.objects.filter(entry=entry, number=number).first() if number is not None else entry.offered
    if version is None:
        raise NotPossible(f"{entry.name} has no {f'version {number}' if number else 'version yet: save one on the Bench'}.")
    version.entry = entry
    return version


def _change(person: Person, pk: int, ids: Sequence[int], change: Callable[[Shot, Stack], Stack], **told: Any) -> Graded:
    with transaction.atomic():
        project = rules.work_in(person, pk, "change shots")
        before: dict[str, Stack] = {}
        after: dict[str, Stack] = {}
        for shot in rules.lock_shots(project, ids):
            was = _stack_of(shot)
            becomes = change(shot, was)
            if becomes != was:
                before[str(shot.pk)], after[str(shot.pk)] = was, becomes
                _write(person, shot, becomes)
        if not before:
            return Graded(0, None)
        record(person, ACTION, project, **told, before=before, after=after)
        number = Activity.objects.filter(person=person, action=ACTION, about_id=pk).latest("pk").pk
    return Graded(len(before), number)


def _stack_of(shot: Shot) -> Stack:
    return [{"version": one.version_id, "strength": one.strength} for one in Layer.objects.filter(shot=shot)]


def _write(person: Person, shot: Shot, stack: Stack) -> None:
    Layer.objects.filter(shot=shot).delete()
    Layer.objects.bulk_create(
        Layer(shot=shot, position=position, version_id=one["version"], strength=one["strength"], placed_by=person)
        for position, one in enumerate(stack)
    )


def _find_uses(entry: Entry) -> list[Use]:
    """Projects with a shot that a version of it lies on."""
    on = Project.objects.filter(scenes__shots__layers__version__entry=entry, scenes__shots__deleted=None, deleted=None)
    open_ones = on.filter(closed=False).distinct().order_by("name").values_list("name", "pk")
    return [Use(name, "on shots of this project", f"/projects/{pk}") for name, pk in open_ones]


FINDERS.append(_find_uses)
