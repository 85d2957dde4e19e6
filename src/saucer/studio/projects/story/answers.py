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
from saucer.studio.projects.grade.chain import in_order, joined, shared_on
from saucer.studio.projects.grade.sharing import list_shared
from saucer.studio.projects.grade.stacking import TRIMS
from saucer.studio.projects.models import Layer, LayerRole, MemberRole, Project, Reach, Scene, Shot


class LayerOut(Schema):
    """kind, entry, name, version: of what is pinned; steps: of trims, which pin nothing

    newer: the number of the version that is offered in its place, null where it is the newest
    lost: the number of such a one that has no member of that name in its family: it is not taken
    """

    id: int
    role: LayerRole
    kind: Kind | None
    entry: int | None
    name: str
    version: int | None
    member: Annotated[str, Field(description="which of the look's family; empty for the recipe")]
    steps: list[dict[str, Any]] | None
    strength: float
    enabled: bool
    newer: int | None
    lost: int | None
    by: str
    placed: datetime


class SharedLayerOut(LayerOut):
    """off_on: shots that it reaches and does not act on"""

    off_on: list[int]


class SharedOut(Schema):
    """Layers for more than one shot that lie in one place: before all else or after it, for the project, a scene, or a roll."""

    reach: Reach
    role: LayerRole
    scene: int | None
    roll: str
    layers: list[SharedLayerOut]


class ShotOut(Schema):
    """encoding: what it is in; encoding_said: was that said of the shot, and not of its picture? layers: its own

    roll: the camera, roll or folder that it comes from

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
    roll: str
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
    shared: list[SharedOut]
    shots: list[ShotOut]


def tell_layer(layer: Layer) -> LayerOut:
    """layer: of `rules.layers_at_hand`"""
    return LayerOut(**_told_of(layer))


def _told_of(layer: Layer) -> dict[str, Any]:
    told: dict[str, Any] = {
        "id": layer.pk,
        "role": LayerRole(layer.role),
        "strength": layer.strength,
        "enabled": layer.enabled,
        "placed": layer.placed,
    }
    told["by"] = layer.placed_by.shown_name if layer.placed_by else ""
    if layer.version is None:
        return told | {
            "kind": None,
            "entry": None,
            "name": TRIMS,
            "version": None,
            "member": "",
            "steps": layer.steps,
            "newer": None,
            "lost": None,
        }
    entry = layer.version.entry
    newest = entry.offered
    newer = newest.number if newest and newest.number > layer.version.number and entry.deleted is None else None
    told |= {"kind": Kind(entry.kind), "entry": entry.pk, "name": entry.name, "version": layer.version.number}
    with_family: Any = layer
    there = not layer.member or any(one["name"] == layer.member for one in with_family.offered_family or ())
    return told | {"member": layer.member, "steps": None, "newer": newer if there else None, "lost": None if there else newer}


def tell_shared(project: Project) -> list[SharedOut]:
    return [
        SharedOut(
            reach=spot.reach, role=spot.role, scene=spot.scene, roll=spot.roll,
            layers=[SharedLayerOut(**_told_of(one), off_on=one.off_on) for one in layers],
        )
        for spot, layers in list_shared(project, rules.layers_at_hand()).items()
    ]  # fmt: skip


def tell_shot(shot: Shot, person: Person, shared: Sequence[Layer], notes: int = 0, shown: Container[int] | None = None) -> ShotOut:
    """shared: layers for many of its project; shown: pictures that are there for the person, where that is known of all of them"""
    if shown is None:
        shown = pictures_shown([shot], person)
    own = in_order(shot.layers.all())
    shows = seeing.shows(shot, joined(shot, own, shared))
    beside = shot.reference_id if shot.reference_id in shown else None
    figures = getattr(shot, "figures", None)
    return ShotOut(
        id=shot.pk, scene=shot.scene_id, code=shot.code, picture=shot.picture_id, picture_name=shot.picture.name, width=shot.picture.width,
        height=shot.picture.height, encoding=shot.source_encoding, encoding_said=bool(shot.encoding), roll=shot.roll,
        moving=moving_of(shot.picture),
        first=shot.first, last=shot.last, poster=shot.poster, reference=beside, note=shot.note, approved=shot.approved,
        notes=notes, layers=[tell_layer(layer) for layer in own], shows=shows,
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
    shared = shared_on(shots)
    return ProjectOut(
        **{name: getattr(project, name) for name in ("id", "name", "code", "note", "delivery", "view", "closed")},
        by=project.owner.shown_name if project.owner else "",
        members=tell_each(
            project.memberships.select_related("person"),
            lambda one: MemberOut(name=one.person.username, shown=one.person.shown_name, role=MemberRole(one.role)),
        ),
        may_work=rules.may_work_in(person, project), may_lead=rules.may_lead(person, project),
        shared=tell_shared(project),
        scenes=[SceneOut(id=one.pk, name=one.name) for one in scenes.values()],
        shots=tell_each(shots, lambda shot: tell_shot(shot, person, shared, notes.get(shot.pk, 0), shown)),
    )  # fmt: skip
