"""Presets and recent settings: kept, listed, drawn."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.core.look.model import AnyStep, Look
from saucer.core.reports.fingerprint import draw_look
from saucer.core.steps.kinds import kinds
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.api import Described, describe
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import FRAMES
from saucer.studio.common.reading import tell_each
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.access import designer
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of
from saucer.studio.presets import rules

router = Router(tags=["presets"])


class PresetOut(Described):
    version: int
    steps: tuple[AnyStep, ...]


class PresetIn(Schema):
    name: Annotated[str, Field(max_length=120)]
    category: Annotated[str, Field(max_length=200)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""
    steps: tuple[AnyStep, ...]


class PresetVersionIn(Schema):
    steps: tuple[AnyStep, ...]
    note: Annotated[str, Field(max_length=1000)] = ""


class RecentOut(Schema):
    id: int
    kind: str
    summary: str
    step: AnyStep


class RecentIn(Schema):
    steps: Annotated[tuple[AnyStep, ...], Field(max_length=40)]


def _out(entry: Entry, person: Person, favourites: set[int]) -> PresetOut:
    assert entry.latest is not None
    steps = rules.steps_of_version(entry.latest)
    return PresetOut(**describe(entry, person, entry.pk in favourites).model_dump(), version=entry.latest.number, steps=steps)


@router.get("", response=list[PresetOut])
def list_presets(request: HttpRequest) -> list[PresetOut]:
    """Presets that the person may see."""
    person = person_of(request)
    favourites = catalogue.list_favourites(person, Kind.PRESET)
    return tell_each(rules.list_presets(person), lambda preset: _out(preset, person, favourites))


@router.post("", response=PresetOut, auth=designer("keep presets"))
def keep(request: HttpRequest, given: PresetIn) -> PresetOut:
    """Steps kept as a preset."""
    person = person_of(request)
    return _out(rules.keep(person, given.name, _check(given.steps), given.category, given.note), person, set())


@router.get("/recent", response=list[RecentOut])
def list_recent(request: HttpRequest) -> list[RecentOut]:
    """The last settings of each kind of step, this person's."""
    found = []
    for recent in rules.list_recents(person_of(request)):
        (step,) = rules.steps_of([recent.step], "recent setting")
        found.append(RecentOut(id=recent.pk, kind=recent.kind, summary=kinds()[recent.kind].summary(step), step=step))
    return found


@router.post("/recent", response={204: None}, auth=designer("keep settings"))
def remember(request: HttpRequest, given: RecentIn) -> Status[None]:
    """Settings used just now, to be offered again."""
    rules.remember(person_of(request), _check(given.steps))
    return Status(204, None)


@router.post("/{pk}/versions", response=PresetOut, auth=designer("keep presets"))
def save_version(request: HttpRequest, pk: int, given: PresetVersionIn) -> PresetOut:
    """Other steps as its next version."""
    person = person_of(request)
    rules.save_version(person, pk, _check(given.steps), given.note)
    return _out(catalogue.find(person, Kind.PRESET, pk), person, catalogue.list_favourites(person, Kind.PRESET))


@router.get("/{pk}", response=PresetOut)
def read(request: HttpRequest, pk: int) -> PresetOut:
    """A preset with its steps."""
    person = person_of(request)
    return _out(catalogue.find(person, Kind.PRESET, pk), person, catalogue.list_favourites(person, Kind.PRESET))


@router.get("/{pk}/fingerprint.png")
@FRAMES
def preset_fingerprint(request: HttpRequest, pk: int, size: int = 112) -> HttpResponse:
    """The disc that stands for it."""
    entry, size = catalogue.find(person_of(request), Kind.PRESET, pk), max(16, min(size, 512))
    return respond(
        request, f"{entry.shown_hash}-{size}", lambda: encoded(draw_look(rules.look_of(entry), size, at_hand), "png"), "image/png"
    )


def _check(steps: tuple[Any, ...]) -> tuple[Any, ...]:
    """Within the limits of a look. Raises: as a look does"""
    return Look(steps=steps).steps
