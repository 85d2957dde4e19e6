"""Projects: listed, made, changed, told whole."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.db.models import Count, Q
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.core.colour.rendering import View
from saucer.studio.common.reading import tell_each
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import rules
from saucer.studio.projects.models import MemberRole
from saucer.studio.projects.story.answers import ProjectOut, tell_project

router = Router(tags=["projects"])


class ProjectLine(Schema):
    id: int
    name: str
    code: str
    by: str
    closed: bool
    created: datetime
    shots: int


class ProjectIn(Schema):
    name: Annotated[str, Field(max_length=120)]
    code: Annotated[str, Field(max_length=20)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""
    delivery: Annotated[str, Field(max_length=40)] = "rec709"
    view: View | None = Field(None, description="by which its pictures are seen; none: the studio's")
    closed: bool = False


class MemberIn(Schema):
    """name: they sign in with"""

    name: Annotated[str, Field(max_length=150)]
    role: MemberRole = MemberRole.GRADES


class ProjectChange(Schema):
    """What is not sent stays. members: all of them, each with their role"""

    name: Annotated[str | None, Field(max_length=120)] = None
    code: Annotated[str | None, Field(max_length=20)] = None
    note: Annotated[str | None, Field(max_length=2000)] = None
    delivery: Annotated[str | None, Field(max_length=40)] = None
    view: View | None = None
    closed: bool | None = None
    members: Annotated[list[MemberIn] | None, Field(max_length=200)] = None


@router.get("", response=list[ProjectLine])
def list_projects(request: HttpRequest) -> list[ProjectLine]:
    """Those that the person may see, the newest first."""
    found = rules.list_projects(person_of(request)).annotate(n=Count("scenes__shots", filter=Q(scenes__shots__deleted=None)))
    return tell_each(
        found,
        lambda one: ProjectLine(
            id=one.pk, name=one.name, code=one.code, by=one.owner.shown_name if one.owner else "", closed=one.closed, created=one.created,
            shots=one.n,
        ),
    )  # fmt: skip


@router.post("", response=ProjectOut, auth=designer("make projects"))
def create(request: HttpRequest, given: ProjectIn) -> ProjectOut:
    person = person_of(request)
    return tell_project(rules.create(person, **given.model_dump(exclude_none=True)), person)


@router.get("/{pk}", response=ProjectOut)
def read(request: HttpRequest, pk: int) -> ProjectOut:
    person = person_of(request)
    return tell_project(rules.find(person, pk), person)


@router.patch("/{pk}", response=ProjectOut, auth=designer("change projects"))
def change(request: HttpRequest, pk: int, given: ProjectChange) -> ProjectOut:
    person = person_of(request)
    fields = {name: value for name, value in given.model_dump(exclude_unset=True).items() if value is not None}
    if given.members is not None:
        fields["members"] = {one.name: one.role for one in given.members}
    return tell_project(rules.change(person, pk, fields), person)


@router.delete("/{pk}", response={204: None}, auth=designer("delete projects"))
def delete(request: HttpRequest, pk: int) -> Status[None]:
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=ProjectOut, auth=designer("bring projects back"))
def restore(request: HttpRequest, pk: int) -> ProjectOut:
    person = person_of(request)
    return tell_project(rules.restore(person, pk), person)
