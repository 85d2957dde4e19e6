from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.core.look import AnyStep, Look
from saucer.core.spatial import spatial_kinds
from saucer.core.steps import step_kinds
from saucer.studio.people.models import Person
from saucer.studio.presets import rules
from saucer.studio.presets.models import Preset
from saucer.studio.signed_in import person_of

router = Router(tags=["presets"])
Name = Annotated[str, Field(max_length=120)]
Category = Annotated[str, Field(max_length=60)]
Note = Annotated[str, Field(max_length=1000)]


class PresetOut(Schema):
    id: int
    name: str
    category: str
    note: str
    by: str
    own: bool
    favourite: bool
    steps: tuple[AnyStep, ...]


class PresetIn(Schema):
    name: Name
    category: Category = ""
    note: Note = ""
    steps: tuple[AnyStep, ...]


class PresetChange(Schema):
    name: Name | None = None
    category: Category | None = None
    note: Note | None = None


class FavouriteIn(Schema):
    favourite: bool


class RecentOut(Schema):
    id: int
    kind: str
    summary: str
    step: AnyStep


class RecentIn(Schema):
    steps: Annotated[tuple[AnyStep, ...], Field(max_length=40)]


def _out(preset: Preset, person: Person, favourites: set[int]) -> PresetOut:
    return PresetOut(
        id=preset.pk, name=preset.name, category=preset.category, note=preset.note, by=preset.owner.shown_name if preset.owner else "",
        own=preset.owner_id == person.pk, favourite=preset.pk in favourites, steps=rules.steps_of(preset.steps),
    )  # fmt: skip


def _one(preset: Preset, request: HttpRequest) -> PresetOut:
    person = person_of(request)
    return _out(preset, person, rules.favourites(person))


@router.get("", response=list[PresetOut])
def list_presets(request: HttpRequest) -> list[PresetOut]:
    person = person_of(request)
    favourites = rules.favourites(person)
    return [_out(preset, person, favourites) for preset in rules.listed()]


@router.post("", response=PresetOut)
def keep(request: HttpRequest, given: PresetIn) -> PresetOut:
    return _one(rules.keep(person_of(request), given.name, _checked(given.steps), given.category, given.note), request)


@router.get("/recent", response=list[RecentOut])
def list_recent(request: HttpRequest) -> list[RecentOut]:
    """The last settings of each kind of step, this person's."""
    found = []
    for recent in rules.recents(person_of(request)):
        (step,) = rules.steps_of([recent.step], "recent setting")
        summary = (step_kinds() | spatial_kinds())[recent.kind].summary(step)
        found.append(RecentOut(id=recent.pk, kind=recent.kind, summary=summary, step=step))
    return found


@router.post("/recent", response={204: None})
def remember(request: HttpRequest, given: RecentIn) -> Status[None]:
    rules.remember(person_of(request), _checked(given.steps))
    return Status(204, None)


@router.patch("/{pk}", response=PresetOut)
def change(request: HttpRequest, pk: int, given: PresetChange) -> PresetOut:
    return _one(rules.change(person_of(request), pk, given.name, given.category, given.note), request)


@router.put("/{pk}/favourite", response=PresetOut)
def mark(request: HttpRequest, pk: int, given: FavouriteIn) -> PresetOut:
    return _one(rules.mark(person_of(request), pk, given.favourite), request)


@router.delete("/{pk}", response={204: None})
def delete(request: HttpRequest, pk: int) -> Status[None]:
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=PresetOut)
def restore(request: HttpRequest, pk: int) -> PresetOut:
    return _one(rules.restore(person_of(request), pk), request)


def _checked(steps: tuple[Any, ...]) -> tuple[Any, ...]:
    """Within the limits of a look. Raises: as a look does"""
    return Look(steps=steps).steps
