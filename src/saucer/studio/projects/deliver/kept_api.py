"""Kept choices of what deliveries hold."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.common.reading import tell_each
from saucer.studio.people.access import designer
from saucer.studio.people.models import Person
from saucer.studio.people.rules import may_change
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects.deliver import kept
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.models import KeptChoice

router = Router(tags=["projects"])


class KeptChoiceIn(Schema):
    name: Annotated[str, Field(min_length=1, max_length=80)]
    choice: DeliveryChoice


class KeptChoiceOut(Schema):
    id: int
    name: str
    choice: DeliveryChoice
    may_change: bool


def _out(one: KeptChoice, person: Person) -> KeptChoiceOut:
    choice = DeliveryChoice.model_validate(one.choice)
    return KeptChoiceOut(id=one.pk, name=one.name, choice=choice, may_change=may_change(person, one.owner_id))


@router.get("", response=list[KeptChoiceOut], auth=designer("deliver"))
def list_kept(request: HttpRequest) -> list[KeptChoiceOut]:
    """One's own choices for deliveries that were kept by a name."""
    return tell_each(kept.list_kept(), lambda one: _out(one, person_of(request)))


@router.post("", response=KeptChoiceOut, auth=designer("keep what deliveries hold"))
def keep(request: HttpRequest, given: KeptChoiceIn) -> KeptChoiceOut:
    """By a name; what stood there by that name is replaced."""
    return _out(kept.keep(person_of(request), given.name, given.choice), person_of(request))


@router.delete("/{pk}", response={204: None}, auth=designer("forget what deliveries hold"))
def forget(request: HttpRequest, pk: int) -> Status[None]:
    """A kept choice goes."""
    kept.forget(person_of(request), pk)
    return Status(204, None)
