"""What may happen to presets, and what is remembered by itself."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from saucer.core.look import Group, look_from, steps_hash
from saucer.core.spatial import spatial_kinds
from saucer.core.steps import step_kinds
from saucer.core.steps.parameters import StepParameters
from saucer.studio.deleting import bring_back, put_away
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.presets.models import Preset, RecentSetting
from saucer.studio.refusals import NotFound, NotPossible

MOST_RECENT = 10


def stored(steps: Sequence[StepParameters]) -> list[dict[str, Any]]:
    return [step.model_dump(mode="json") for step in steps]


def steps_of(content: list[dict[str, Any]], place: str = "preset") -> tuple[StepParameters, ...]:
    return look_from({"steps": content}, place).steps


def listed() -> list[Preset]:
    return list(Preset.objects.filter(deleted=None).select_related("owner"))


def favourites(person: Person) -> set[int]:
    return set(Preset.objects.filter(favourite_of=person).values_list("pk", flat=True))


def find(pk: int) -> Preset:
    """Raises: NotFound, for deleted ones too."""
    preset = Preset.objects.filter(pk=pk, deleted=None).select_related("owner").first()
    if preset is None:
        raise NotFound("There is no such preset, or it was deleted.")
    return preset


def keep(person: Person, name: str, steps: Sequence[StepParameters], category: str = "", note: str = "") -> Preset:
    """Raises: NotPossible without a name or without steps."""
    require(person, Role.DESIGNER, "keep presets")
    if not name.strip():
        raise NotPossible("A preset needs a name.")
    if not steps:
        raise NotPossible("Choose the steps to keep first.")
    with transaction.atomic():
        preset = Preset.objects.create(
            name=name.strip(),
            category=category.strip(),
            note=note.strip(),
            steps=stored(steps),
            steps_hash=steps_hash(steps),
            owner=person,
        )
        record(person, "keep preset", preset)
    return preset


def change(person: Person, pk: int, name: str | None, category: str | None, note: str | None) -> Preset:
    preset = find(pk)
    require_own(person, preset.owner, "change this preset")
    if name is not None and not name.strip():
        raise NotPossible("A preset needs a name.")
    for field, value in (("name", name), ("category", category), ("note", note)):
        if value is not None:
            setattr(preset, field, value.strip())
    with transaction.atomic():
        preset.save()
        record(person, "change preset", preset, name=preset.name, category=preset.category)
    return preset


def mark(person: Person, pk: int, favourite: bool) -> Preset:
    """One's own favourite, or no more."""
    preset = find(pk)
    (preset.favourite_of.add if favourite else preset.favourite_of.remove)(person)
    return preset


def delete(person: Person, pk: int) -> None:
    """It can be brought back for 30 days."""
    put_away(person, find(pk), "preset")


def restore(person: Person, pk: int) -> Preset:
    return bring_back(person, Preset, pk, "preset")


def recents(person: Person) -> list[RecentSetting]:
    """Latest first, at most ten of a kind."""
    return list(RecentSetting.objects.filter(person=person))


def remember(person: Person, steps: Sequence[StepParameters]) -> None:
    """Settings a person has left a step with. Neutral ones and groups are not worth it; only the last ten of a kind stay."""
    kinds = step_kinds() | spatial_kinds()
    for step in steps:
        if isinstance(step, Group) or kinds[step.kind].neutral(step):
            continue
        plain = step.model_copy(update={"id": "", "name": "", "enabled": True})
        with transaction.atomic():
            RecentSetting.objects.update_or_create(
                person=person, kind=step.kind, steps_hash=steps_hash([plain]), defaults={"step": stored([plain])[0]}
            )
            old = RecentSetting.objects.filter(person=person, kind=step.kind).values_list("pk", flat=True)[MOST_RECENT:]
            RecentSetting.objects.filter(pk__in=list(old)).delete()
