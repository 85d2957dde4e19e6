"""Projects: listed, made, changed, told whole."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.core.colour.rendering import View
from saucer.studio.common.reading import tell_each
from saucer.studio.people.access import designer
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import rules
from saucer.studio.projects.models import MemberRole, Project
from saucer.studio.projects.story.answers import ProjectOut, tell_project
from saucer.studio.projects.story.overview import overview_of

router = Router(tags=["projects"])


class StripShotOut(Schema):
    """shows: changes whenever the shot would look different"""

    shot: int
    code: str
    shows: str


class LastDeliveryOut(Schema):
    number: int
    files: int
    made: datetime


class ProjectLine(Schema):
    """people: who leads it first; mine: what the person who asks does in it, "" where they are no member

    misfits: shots that were one when they were last measured; newer: entries on its shots of which a newer version is offered
    strip: its first shots; worked: when something was last put on its shots, or left it
    """

    id: int
    name: str
    code: str
    by: str
    closed: bool
    created: datetime
    worked: datetime
    shots: int
    scenes: int
    approved: int
    misfits: int
    newer: int
    strip: list[StripShotOut]
    last: LastDeliveryOut | None
    people: list[str]
    mine: str


class ProjectIn(Schema):
    name: Annotated[str, Field(max_length=120)]
    code: Annotated[str, Field(max_length=20)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""
    delivery: Annotated[str | None, Field(max_length=40, description="the encoding its pictures leave in; none: the studio's")] = (
        None
    )
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
    """Those that the person may see, the one that was worked at last first."""
    person = person_of(request)
    return tell_lines(list(rules.list_projects(person)), person)


def tell_lines(projects: Sequence[Project], person: Person) -> list[ProjectLine]:
    """As lists of projects have them, the one that was worked at last first."""
    seen = overview_of(projects, person)
    lines = tell_each(
        projects,
        lambda one: ProjectLine(
            id=one.pk, name=one.name, code=one.code, by=one.owner.shown_name if one.owner else "", closed=one.closed, created=one.created,
            **asdict(seen[one.pk]),
        ),
    )  # fmt: skip
    return sorted(lines, key=lambda one: one.worked, reverse=True)


@router.post("", response=ProjectOut, auth=designer("make projects"))
def create(request: HttpRequest, given: ProjectIn) -> ProjectOut:
    """A new project, led by whoever makes it."""
    person = person_of(request)
    return tell_project(rules.create(person, **given.model_dump(exclude_none=True)), person)


@router.get("/{pk}", response=ProjectOut)
def read(request: HttpRequest, pk: int) -> ProjectOut:
    """A project with its scenes, shots and people."""
    person = person_of(request)
    return tell_project(rules.find(person, pk), person)


@router.patch("/{pk}", response=ProjectOut, auth=designer("change projects"))
def change(request: HttpRequest, pk: int, given: ProjectChange) -> ProjectOut:
    """Its name, code, note, encoding, view, members, and whether it is closed."""
    person = person_of(request)
    fields = {name: value for name, value in given.model_dump(exclude_unset=True).items() if value is not None}
    if given.members is not None:
        fields["members"] = {one.name: one.role for one in given.members}
    return tell_project(rules.change(person, pk, fields), person)


@router.delete("/{pk}", response={204: None}, auth=designer("delete projects"))
def delete(request: HttpRequest, pk: int) -> Status[None]:
    """Into the bin, from where it can be brought back for 30 days."""
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=ProjectOut, auth=designer("bring projects back"))
def restore(request: HttpRequest, pk: int) -> ProjectOut:
    """Back from the bin."""
    person = person_of(request)
    return tell_project(rules.restore(person, pk), person)
