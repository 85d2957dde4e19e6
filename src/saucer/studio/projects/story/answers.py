"""Projects and shots as they are told to the browser."""

from __future__ import annotations

from collections.abc import Container, Sequence
from datetime import datetime
from typing import Annotated, Any

from ninja import Schema
from pydantic import Field

from saucer.core.colour.rendering import View
from saucer.studio.catalogue.models import Kind
from saucer.studio.common.reading import tell_each
from saucer.studio.people.models import Person
from saucer.studio.pictures.api import MovingOut, moving_of
from saucer.studio.pictures.models import Picture
from saucer.studio.projects import rules
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.grade.stacking import in_order
from saucer.studio.projects.models import Layer, LayerRole, MemberRole, Project, Scene, Shot


class LayerOut(Schema):
    """kind, entry, name, version: of what is pinned; steps: of trims, which pin nothing

    newer: the number of the version that is offered in its place, null where it is the newest
    """

    role: LayerRole
    kind: Kind | None
    entry: int | None
    name: str
    version: int | None
    steps: list[dict[str, Any]] | None
    strength: float
    enabled: bool
    newer: int | None
    by: str
    placed: datetime


class ShotOut(Schema):
    """encoding: what it is in; encoding_said: was that said of the shot, and not of its picture?

    first, last, poster: frames of what moves, from 0; shows changes whenever the shot would look different
    misfits: in what it is one, as last measured; stale: has it changed since it was measured?
    """

    id: int
    scene: int
    code: str
    picture: int
    picture_name: str
    width: int
    height: int
    encoding: str
    encoding_said: bool
    moving: MovingOut | None
    first: int | None
    last: int | None
    poster: int | None
    reference: int | None
    note: str
    approved: bool
    notes: int
    layers: list[LayerOut]
    shows: str
    misfits: list[str]
    measured: bool


class SceneOut(Schema):
    id: int
    name: str


class MemberOut(Schema):
    """name: they sign in with; shown: as everybody sees them"""

    name: str
    shown: str
    role: MemberRole


class ProjectOut(Schema):
    id: int
    name: str
    code: str
    note: str
    delivery: str
    view: View
    closed: bool
    by: str
    members: list[MemberOut]
    may_work: Annotated[bool, Field(description="may the person who asks change its shots")]
    may_lead: Annotated[bool, Field(description="may they change the project itself, and who works on it")]
    scenes: list[SceneOut]
    shots: list[ShotOut]


def tell_layer(layer: Layer) -> LayerOut:
    told: dict[str, Any] = {
        "role": LayerRole(layer.role),
        "strength": layer.strength,
        "enabled": layer.enabled,
        "placed": layer.placed,
    }
    told["by"] = layer.placed_by.shown_name if layer.placed_by else ""
    if layer.version is None:
        return LayerOut(kind=None, entry=None, name="Trims", version=None, steps=layer.steps, newer=None, **told)
    entry = layer.version.entry
    newest = entry.offered
    newer = newest.number if newest and newest.number > layer.version.number and entry.deleted is None else None
    return LayerOut(
        kind=Kind(entry.kind), entry=entry.pk, name=entry.name, version=layer.version.number, steps=None, newer=newer, **told
    )  # fmt: skip


def tell_shot(shot: Shot, person: Person, notes: int = 0, shown: Container[int] | None = None) -> ShotOut:
    """shown: pictures that are there for the person, where that is known of all of them"""
    if shown is None:
        shown = pictures_shown([shot], person)
    layers = in_order(shot.layers.all())
    shows = seeing.shows(shot, layers)
    beside = shot.reference_id if shot.reference_id in shown else None
    figures = getattr(shot, "figures", None)
    return ShotOut(
        id=shot.pk, scene=shot.scene_id, code=shot.code, picture=shot.picture_id, picture_name=shot.picture.name, width=shot.picture.width,
        height=shot.picture.height, encoding=shot.source_encoding, encoding_said=bool(shot.encoding), moving=moving_of(shot.picture),
        first=shot.first, last=shot.last, poster=shot.poster, reference=beside, note=shot.note, approved=shot.approved,
        notes=notes, layers=[tell_layer(layer) for layer in layers], shows=shows,
        misfits=figures.figures.get("misfits", []) if figures is not None else [],
        measured=figures is not None and figures.shows == shows,
    )  # fmt: skip


def pictures_shown(shots: Sequence[Shot], person: Person) -> set[int]:
    """Which of the pictures that shots are held beside are there for the person."""
    wanted = {shot.reference_id for shot in shots if shot.reference_id is not None}
    return set(Picture.objects.visible_to(person).filter(pk__in=wanted).values_list("pk", flat=True)) if wanted else set()


def tell_project(project: Project, person: Person) -> ProjectOut:
    shots = rules.list_shots(project)
    shown = pictures_shown(shots, person)
    scenes: dict[int, Scene] = {shot.scene_id: shot.scene for shot in shots}
    notes = rules.count_notes(project)
    return ProjectOut(
        **{name: getattr(project, name) for name in ("id", "name", "code", "note", "delivery", "view", "closed")},
        by=project.owner.shown_name if project.owner else "",
        members=tell_each(
            project.memberships.select_related("person"),
            lambda one: MemberOut(name=one.person.username, shown=one.person.shown_name, role=MemberRole(one.role)),
        ),
        may_work=rules.may_work_in(person, project), may_lead=rules.may_lead(person, project),
        scenes=[SceneOut(id=one.pk, name=one.name) for one in scenes.values()],
        shots=tell_each(shots, lambda shot: tell_shot(shot, person, notes.get(shot.pk, 0), shown)),
    )  # fmt: skip
