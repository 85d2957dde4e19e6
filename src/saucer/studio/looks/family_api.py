"""The family of a look: in what each differs, and what lies between two of them."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from saucer.core.look.family import between, describe_member
from saucer.core.look.member import LONGEST_NAME, FamilyMember, MemberName
from saucer.core.look.model import Look
from saucer.studio.looks import rules
from saucer.studio.people.signed_in import person_of

router = Router(tags=["looks"])
MemberOf = Annotated[str, Field(max_length=LONGEST_NAME, description="empty for the recipe")]


class FamilyTold(Schema):
    name: str
    changes: Annotated[list[str], Field(description="in what it differs from the recipe, in words; one line a change")]


class FamilyIn(Schema):
    """beside: another of the family that they are told beside; empty for the recipe."""

    look: Look
    beside: MemberOf = ""


class BetweenIn(Schema):
    """first, second: of the family; at: 0 as the first .. 1 as the second; name: what the new one is called."""

    look: Look
    first: MemberOf = ""
    second: MemberOf = ""
    at: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
    name: MemberName


def tell_family(look: Look, beside: str = "") -> list[FamilyTold]:
    return [FamilyTold(name=one.name, changes=describe_member(look, one.name, beside)) for one in look.family]


@router.post("/family", response=list[FamilyTold])
def told_family(request: HttpRequest, given: FamilyIn) -> list[FamilyTold]:
    """In what each of a look's family differs, in words."""
    return tell_family(given.look, given.beside)


@router.post("/family/between", response=FamilyMember)
def between_two(request: HttpRequest, given: BetweenIn) -> FamilyMember:
    """What lies between two of a look's family, as one more of it."""
    return between(given.look, given.first, given.second, given.at, given.name)


@router.get("/{pk}/family", response=list[FamilyTold])
def read_family(request: HttpRequest, pk: int, version: int | None = None) -> list[FamilyTold]:
    """The family of a look's version; without a number, of the one that is put on shots: none where there is no version yet."""
    look = rules.look_offered(person_of(request), pk, version)
    return tell_family(look) if look is not None else []
