"""Projects: listed, made, changed; their shots, what lies on them, and how they look."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.db.models import Count, Q
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.catalogue.models import Kind
from saucer.studio.common.images import respond
from saucer.studio.common.lanes import FRAMES
from saucer.studio.common.refusals import NotFound
from saucer.studio.people.access import designer
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import grading, rules, showing
from saucer.studio.projects.models import Layer, Project, Shot

router = Router(tags=["projects"])
Ids = Annotated[list[int], Field(min_length=1, max_length=rules.MOST_AT_ONCE)]
Strength = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class ProjectLine(Schema):
    id: int
    name: str
    code: str
    by: str
    closed: bool
    created: datetime
    shots: int


class LayerOut(Schema):
    """newer: the number of the version that is offered in its place, null where it is the newest"""

    kind: Kind
    entry: int
    name: str
    version: int
    strength: float
    newer: int | None
    by: str
    placed: datetime


class ShotOut(Schema):
    """shows changes whenever the shot would look different"""

    id: int
    scene: int
    code: str
    picture: int
    note: str
    approved: bool
    layers: list[LayerOut]
    shows: str


class SceneOut(Schema):
    id: int
    name: str


class ProjectOut(Schema):
    id: int
    name: str
    code: str
    note: str
    delivery: str
    closed: bool
    by: str
    members: list[str]
    may_work: Annotated[bool, Field(description="may the person who asks change its shots")]
    scenes: list[SceneOut]
    shots: list[ShotOut]


class ProjectIn(Schema):
    name: Annotated[str, Field(max_length=120)]
    code: Annotated[str, Field(max_length=20)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""
    delivery: Annotated[str, Field(max_length=40)] = "rec709"
    closed: bool = False


class ProjectChange(Schema):
    """What is not sent stays. members: names they sign in with"""

    name: Annotated[str | None, Field(max_length=120)] = None
    code: Annotated[str | None, Field(max_length=20)] = None
    note: Annotated[str | None, Field(max_length=2000)] = None
    delivery: Annotated[str | None, Field(max_length=40)] = None
    closed: bool | None = None
    members: Annotated[list[str] | None, Field(max_length=200)] = None


class ShotsIn(Schema):
    scene: Annotated[str, Field(max_length=80)]
    pictures: Ids


class ShotsChange(Schema):
    shots: Ids
    note: Annotated[str | None, Field(max_length=1000)] = None
    approved: bool | None = None


class LookIn(Schema):
    """version: without it the published one, else the latest; stack: on top of what lies there, not in its place"""

    shots: Ids
    entry: int
    version: int | None = None
    strength: Strength = 1.0
    stack: bool = False


class ChosenIn(Schema):
    shots: Ids


class StrengthIn(ChosenIn):
    strength: Strength


class GradedOut(Schema):
    """undo: by which it is taken back; left: codes of shots that somebody has changed since"""

    count: int
    undo: int | None
    left: list[str]


def _graded(found: grading.Graded) -> GradedOut:
    return GradedOut(count=found.count, undo=found.undo, left=list(found.left))


def _layer(layer: Layer) -> LayerOut:
    entry = layer.version.entry
    newest = entry.offered
    newer = newest.number if newest and newest.number > layer.version.number and entry.deleted is None else None
    return LayerOut(
        kind=Kind(entry.kind), entry=entry.pk, name=entry.name, version=layer.version.number, strength=layer.strength, newer=newer,
        by=layer.placed_by.shown_name if layer.placed_by else "", placed=layer.placed,
    )  # fmt: skip


def _shot(shot: Shot) -> ShotOut:
    layers = list(shot.layers.all())
    return ShotOut(
        id=shot.pk, scene=shot.scene_id, code=shot.code, picture=shot.picture_id, note=shot.note, approved=shot.approved,
        layers=[_layer(layer) for layer in layers], shows=showing.state_of(shot, layers, False)[5:21],
    )  # fmt: skip


def _out(project: Project, person: Person) -> ProjectOut:
    shots = rules.list_shots(project)
    scenes = {shot.scene_id: shot.scene for shot in shots}
    return ProjectOut(
        **{name: getattr(project, name) for name in ("id", "name", "code", "note", "delivery", "closed")},
        by=project.owner.shown_name if project.owner else "", members=[one.username for one in project.members.order_by("username")],
        may_work=rules.may_work_in(person, project), scenes=[SceneOut(id=one.pk, name=one.name) for one in scenes.values()],
        shots=[_shot(shot) for shot in shots],
    )  # fmt: skip


@router.get("", response=list[ProjectLine])
def list_projects(request: HttpRequest) -> list[ProjectLine]:
    """Those that the person may see, the newest first."""
    found = rules.list_projects(person_of(request)).annotate(n=Count("scenes__shots", filter=Q(scenes__shots__deleted=None)))
    return [
        ProjectLine(
            id=one.pk, name=one.name, code=one.code, by=one.owner.shown_name if one.owner else "", closed=one.closed, created=one.created,
            shots=one.n,
        )
        for one in found
    ]  # fmt: skip


@router.post("", response=ProjectOut, auth=designer("make projects"))
def create(request: HttpRequest, given: ProjectIn) -> ProjectOut:
    person = person_of(request)
    return _out(rules.create(person, **given.model_dump()), person)


@router.get("/{pk}", response=ProjectOut)
def read(request: HttpRequest, pk: int) -> ProjectOut:
    person = person_of(request)
    return _out(rules.find(person, pk), person)


@router.patch("/{pk}", response=ProjectOut, auth=designer("change projects"))
def change(request: HttpRequest, pk: int, given: ProjectChange) -> ProjectOut:
    person = person_of(request)
    fields = {name: value for name, value in given.model_dump(exclude_unset=True).items() if value is not None}
    return _out(rules.change(person, pk, fields), person)


@router.delete("/{pk}", response={204: None}, auth=designer("delete projects"))
def delete(request: HttpRequest, pk: int) -> Status[None]:
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=ProjectOut, auth=designer("bring projects back"))
def restore(request: HttpRequest, pk: int) -> ProjectOut:
    person = person_of(request)
    return _out(rules.restore(person, pk), person)


@router.post("/{pk}/shots", response=ProjectOut, auth=designer("bring shots in"))
def add_shots(request: HttpRequest, pk: int, given: ShotsIn) -> ProjectOut:
    """Pictures as shots at the end of a scene, which is made where it is new."""
    person = person_of(request)
    rules.add_shots(person, pk, given.scene, given.pictures)
    return _out(rules.find(person, pk), person)


@router.patch("/{pk}/shots", response={204: None}, auth=designer("change shots"))
def change_shots(request: HttpRequest, pk: int, given: ShotsChange) -> Status[None]:
    rules.change_shots(person_of(request), pk, given.shots, given.note, given.approved)
    return Status(204, None)


@router.post("/{pk}/looks", response=GradedOut, auth=designer("change shots"))
def put_look(request: HttpRequest, pk: int, given: LookIn) -> GradedOut:
    """One look on all of these shots."""
    found = grading.put_look(person_of(request), pk, given.shots, given.entry, given.version, given.strength, given.stack)
    return _graded(found)


@router.post("/{pk}/looks/off", response=GradedOut, auth=designer("change shots"))
def take_off(request: HttpRequest, pk: int, given: ChosenIn) -> GradedOut:
    return _graded(grading.take_off(person_of(request), pk, given.shots))


@router.post("/{pk}/looks/strength", response=GradedOut, auth=designer("change shots"))
def set_strength(request: HttpRequest, pk: int, given: StrengthIn) -> GradedOut:
    """Of the topmost look of each."""
    return _graded(grading.set_strength(person_of(request), pk, given.shots, given.strength))


@router.post("/{pk}/looks/newest", response=GradedOut, auth=designer("change shots"))
def take_newest(request: HttpRequest, pk: int, given: ChosenIn) -> GradedOut:
    """The newest version of what lies on these shots."""
    return _graded(grading.take_newest(person_of(request), pk, given.shots))


@router.post("/{pk}/looks/undo/{number}", response=GradedOut, auth=designer("change shots"))
def undo(request: HttpRequest, pk: int, number: int) -> GradedOut:
    return _graded(grading.undo(person_of(request), pk, number))


@router.get("/{pk}/shots/{shot}/preview.jpg")
@FRAMES
def preview(request: HttpRequest, pk: int, shot: int, large: bool = False) -> HttpResponse:
    """The shot through all that lies on it. large: finer, in place of a card's size"""
    project = rules.find(person_of(request), pk)
    found = Shot.objects.filter(pk=shot, scene__project=project, deleted=None).select_related("picture").first()
    if found is None:
        raise NotFound("There is no such shot, or it was taken out.")
    layers = list(Layer.objects.filter(shot=found).select_related("version__entry"))
    state = showing.state_of(found, layers, large)
    return respond(request, state, lambda: showing.preview_file(found, layers, large), "image/jpeg")
