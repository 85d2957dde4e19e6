"""Layers for more than one shot: put on a roll, a scene or a project, and switched off where they are not wanted."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from saucer.studio.people.access import designer
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects.answers import DoneOut, tell_done
from saucer.studio.projects.grade import grading, sharing
from saucer.studio.projects.grade.api import ChosenIn, LayerIn, layers_given
from saucer.studio.projects.models import LayerRole, Reach

router = Router(tags=["projects"])
ShotId = Annotated[int, Field(ge=1, le=2**63 - 1)]


class SharedLayerIn(LayerIn):
    """off_on: shots that it reaches and does not act on"""

    off_on: Annotated[list[ShotId], Field(max_length=2000)] = []


class SharedIn(Schema):
    """All that lies in one place. reach: a roll by its name, a scene by its number, or the project, before all else or after it"""

    reach: Reach
    role: LayerRole = LayerRole.BEFORE
    scene: Annotated[int | None, Field(ge=1, le=2**63 - 1)] = None
    roll: Annotated[str, Field(max_length=80)] = ""
    layers: Annotated[list[SharedLayerIn], Field(max_length=grading.MOST_LAYERS)]

    @property
    def spot(self) -> sharing.Spot:
        return sharing.Spot(self.reach, self.role, self.scene, self.roll)


class SwitchIn(ChosenIn):
    """layer: by its number, as the project tells it"""

    layer: Annotated[int, Field(ge=1, le=2**63 - 1)]
    enabled: bool


def shared_given(person: Person, pk: int, layers: list[SharedLayerIn]) -> grading.Stack:
    """As they are kept. pk: of the project. Raises: NotFound, NotPossible, LookError"""
    kept = layers_given(person, pk, list(layers))
    return [one | {"off_on": given.off_on} for one, given in zip(kept, layers, strict=True)]


@router.put("/{pk}/shared", response=DoneOut, auth=designer("change shots"))
def set_shared(request: HttpRequest, pk: int, given: SharedIn) -> DoneOut:
    """In place of all that lies there; for the shots that come later too."""
    person = person_of(request)
    return tell_done(sharing.set_shared(person, pk, given.spot, shared_given(person, pk, given.layers)))


@router.post("/{pk}/shared/switch", response=DoneOut, auth=designer("change shots"))
def switch(request: HttpRequest, pk: int, given: SwitchIn) -> DoneOut:
    """Off for these shots, or on again."""
    return tell_done(sharing.switch_for(person_of(request), pk, given.layer, given.shots, given.enabled))
