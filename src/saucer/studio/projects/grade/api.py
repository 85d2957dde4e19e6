"""What lies on shots: looks, trims, strength, newest versions, and taking back."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field, model_validator

from saucer.core.look.member import LONGEST_NAME
from saucer.studio.people.access import designer
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of
from saucer.studio.presets.rules import content_of
from saucer.studio.projects import changes, rules
from saucer.studio.projects.answers import DoneOut, tell_done
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import LayerRole

router = Router(tags=["projects"])
Ids = Annotated[list[int], Field(min_length=1, max_length=rules.MOST_AT_ONCE)]
Strength = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
MemberOf = Annotated[str, Field(max_length=LONGEST_NAME)]
Steps = Annotated[list[dict[str, Any]], Field(max_length=grading.MOST_TRIMS)]


class LayerIn(Schema):
    """Either a version of an entry, or steps. member: which of a look's family, by its name; empty for the recipe"""

    role: LayerRole = LayerRole.LOOK
    entry: int | None = None
    version: int | None = None
    member: MemberOf = ""
    steps: Steps | None = None
    strength: Strength = 1.0
    enabled: bool = True

    @model_validator(mode="after")
    def _one_of_both(self) -> LayerIn:
        if (self.entry is None) == (self.steps is None):
            raise ValueError("a layer has either an entry or steps")
        if self.member and self.entry is None:
            raise ValueError("steps have no family: leave the member out")
        return self


StackIn = Annotated[list[LayerIn], Field(max_length=3 * grading.MOST_LAYERS)]


class LookIn(Schema):
    """version: without it the published one, else the latest; stack: on top of what lies there, not in its place

    member: which of the look's family, by its name; empty for the recipe
    """

    shots: Ids
    entry: int
    version: int | None = None
    strength: Strength = 1.0
    stack: bool = False
    member: MemberOf = ""


class ChosenIn(Schema):
    shots: Ids


class StrengthIn(ChosenIn):
    strength: Strength


class TrimsIn(ChosenIn):
    """steps: before the look; none takes the trims off. add: after those that are there, in their place otherwise"""

    steps: Steps
    add: bool = False


class CopyIn(ChosenIn):
    """source: the shot whose trims are copied; add: on top of those that are there"""

    source: int
    add: bool = False


class StackOnIn(ChosenIn):
    layers: StackIn


def layers_given(person: Person, pk: int, layers: list[LayerIn]) -> grading.Stack:
    """pk: of the project, where what is pinned stays. As they are kept. Raises: NotFound, NotPossible, LookError"""
    found = []
    for one in layers:
        if one.entry is not None:
            version = grading.version_of(person, one.entry, one.version, pinned_in=pk)
            member = grading.member_in(version, one.member)
            found.append(grading.item(one.role, version.pk, strength=one.strength, enabled=one.enabled, member=member))
        else:
            steps = content_of(grading.trims_from(one.steps or []))
            found.append(grading.item(one.role, steps=steps, strength=one.strength, enabled=one.enabled))
    return found


@router.post("/{pk}/looks", response=DoneOut, auth=designer("change shots"))
def put_look(request: HttpRequest, pk: int, given: LookIn) -> DoneOut:
    """One look on all of these shots; a preset becomes a trim before it."""
    person, on = person_of(request), given.shots
    return tell_done(grading.put_look(person, pk, on, given.entry, given.version, given.strength, given.stack, given.member))


@router.post("/{pk}/looks/off", response=DoneOut, auth=designer("change shots"))
def take_off(request: HttpRequest, pk: int, given: ChosenIn) -> DoneOut:
    """Takes looks off shots."""
    return tell_done(grading.take_off(person_of(request), pk, given.shots))


@router.post("/{pk}/looks/strength", response=DoneOut, auth=designer("change shots"))
def set_strength(request: HttpRequest, pk: int, given: StrengthIn) -> DoneOut:
    """Of the topmost look of each."""
    return tell_done(grading.set_strength(person_of(request), pk, given.shots, given.strength))


@router.post("/{pk}/looks/newest", response=DoneOut, auth=designer("change shots"))
def take_newest(request: HttpRequest, pk: int, given: ChosenIn) -> DoneOut:
    """The newest version of what lies on these shots."""
    return tell_done(grading.take_newest(person_of(request), pk, given.shots))


@router.post("/{pk}/trims", response=DoneOut, auth=designer("change shots"))
def set_trims(request: HttpRequest, pk: int, given: TrimsIn) -> DoneOut:
    """Corrections of many shots, before or after their look."""
    return tell_done(grading.set_trims(person_of(request), pk, given.shots, grading.trims_from(given.steps), given.add))


@router.post("/{pk}/trims/copy", response=DoneOut, auth=designer("change shots"))
def copy_trims(request: HttpRequest, pk: int, given: CopyIn) -> DoneOut:
    """The corrections of one shot on others."""
    return tell_done(grading.copy_trims(person_of(request), pk, given.source, given.shots, given.add))


@router.put("/{pk}/layers", response=DoneOut, auth=designer("change shots"))
def set_layers(request: HttpRequest, pk: int, given: StackOnIn) -> DoneOut:
    """Everything that lies on these shots."""
    person = person_of(request)
    return tell_done(grading.set_stack(person, pk, given.shots, layers_given(person, pk, given.layers)))


@router.post("/{pk}/undo/{number}", response=DoneOut, auth=designer("change shots"))
def undo(request: HttpRequest, pk: int, number: int) -> DoneOut:
    """A change of one's own is taken back, wherever nobody has changed the shots since."""
    return tell_done(changes.undo(person_of(request), pk, number))
