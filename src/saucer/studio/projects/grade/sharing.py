"""What lies on more than one shot at once: on a roll, a scene, or all of a project, for the shots that come later too."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from django.db import transaction
from django.db.models import QuerySet

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person
from saucer.studio.projects import rules
from saucer.studio.projects.changes import WAYS, Done, done, look_different
from saucer.studio.projects.grade.grading import MOST_LAYERS, Stack
from saucer.studio.projects.models import Layer, LayerRole, Project, Reach, Scene, Shot

ACTION = "grade many shots"
MOST_SHARED = 200
"""Layers for many of one project: every chain is made with all of them at hand."""

FIELDS = ("version", "member", "steps", "strength", "enabled", "off_on", "placed_by")


@dataclass(frozen=True)
class Spot:
    """Where layers for many lie. scene: its number, for a scene; roll: its name, for a roll; role: before all else, or after it"""

    reach: Reach
    role: LayerRole = LayerRole.BEFORE
    scene: int | None = None
    roll: str = ""

    @property
    def key(self) -> dict[str, Any]:
        """As fields of its layers."""
        return {"roll": self.roll, "role": str(self.role)}


def spot_of(layer: Layer) -> Spot:
    return Spot(layer.reach, LayerRole(layer.role), layer.scene_id, layer.roll)


def list_shared(project: Project, layers: QuerySet[Layer]) -> dict[Spot, list[Layer]]:
    """All of a project, by where they lie. layers: with what is to be read of each"""
    found: dict[Spot, list[Layer]] = {}
    for layer in (layers.filter(project=project) | layers.filter(scene__project=project)).order_by("position", "pk"):
        found.setdefault(spot_of(layer), []).append(layer)
    return found


def set_shared(person: Person, pk: int, spot: Spot, layers: Stack) -> Done:
    """Everything that lies there, in place of what did. layers: as `grading.item` makes them, with `off_on`

    Raises: NotFound, NotAllowed, NotPossible
    """
    with transaction.atomic():
        project = rules.work_in(person, pk, "change shots")
        spot = _checked(project, spot)
        if len(layers) > MOST_LAYERS:
            raise NotPossible(f"{MOST_LAYERS} layers are the most in one place.")
        others = Layer.objects.filter(project=project).count() + Layer.objects.filter(scene__project=project).count()
        if layers and others + len(layers) > MOST_SHARED:
            raise NotPossible(f"A project holds {MOST_SHARED} layers for more than one shot; take some off first.")
        here = set(Shot.objects.filter(scene__project=project).values_list("pk", flat=True))
        kept = [one | {"role": str(spot.role), "off_on": sorted(set(one.get("off_on", [])) & here)} for one in layers]
        return _change(person, project, spot, _items(_lying(project, spot)), kept)


def switch_for(person: Person, pk: int, layer_id: int, ids: Sequence[int], enabled: bool) -> Done:
    """A layer for many acts on these shots, or does not. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = rules.work_in(person, pk, "change shots")
        shots = rules.lock_shots(project, ids)
        layer = Layer.objects.filter(pk=layer_id, shot=None).select_related("scene").first()
        if layer is None or project.pk not in (layer.project_id, layer.scene and layer.scene.project_id):
            raise NotFound("What lay there was changed meanwhile. Look again, and choose once more.")
        spot, chosen = spot_of(layer), {shot.pk for shot in shots}
        lying = list(_lying(project, spot))
        before = _items(lying)
        after = [
            one | {"off_on": sorted(set(one["off_on"]) - chosen if enabled else set(one["off_on"]) | chosen)}
            if kept.pk == layer.pk
            else one
            for kept, one in zip(lying, before, strict=True)
        ]
        return _change(person, project, spot, before, after, among=chosen, off=not enabled)


def _checked(project: Project, spot: Spot) -> Spot:
    """The place as it is kept. Raises: NotFound, NotPossible"""
    roll = " ".join(spot.roll.split())[:80] if spot.reach == Reach.ROLL else ""
    if spot.reach == Reach.SHOT or spot.role == LayerRole.LOOK:
        raise NotPossible("For more than one shot, something lies before the look, or after it.")
    if spot.reach != Reach.PROJECT and spot.role != LayerRole.BEFORE:
        raise NotPossible("What lies on a roll or a scene comes before the look.")
    if spot.reach == Reach.ROLL and not roll:
        raise NotPossible("Say which camera, roll or folder these shots come from first.")
    if spot.reach == Reach.SCENE and not Scene.objects.filter(pk=spot.scene or 0, project=project).exists():
        raise NotFound("There is no such scene, or it was taken out.")
    return Spot(spot.reach, spot.role, spot.scene if spot.reach == Reach.SCENE else None, roll)


def _lying(project: Project, spot: Spot) -> QuerySet[Layer]:
    there = Layer.objects.filter(scene=spot.scene, scene__project=project) if spot.scene else Layer.objects.filter(project=project)
    return there.filter(**spot.key).order_by("position", "pk")


def _items(layers: Sequence[Layer] | QuerySet[Layer]) -> Stack:
    return [
        {"role": str(one.role), "version": one.version_id, "steps": one.steps, "strength": one.strength, "enabled": one.enabled,
         "off_on": one.off_on} | ({"member": one.member} if one.member else {})
        for one in layers
    ]  # fmt: skip


def _change(
    person: Person, project: Project, spot: Spot, before: Stack, after: Stack, among: set[int] | None = None, **told: Any
) -> Done:
    """among: shots that it is told of; without, all that it reaches"""
    if before == after:
        return Done(0, None)
    _write(person, project, spot, after)
    reached = _reached(project, spot)
    ids = [pk for pk, _ in reached if among is None or pk in among]
    scene = Scene.objects.get(pk=spot.scene).name if spot.scene else ""
    told = {"reach": str(spot.reach), "scene": scene, "roll": spot.roll, "layers": len(after), **told}
    found = done(person, project, ACTION, len(ids), **told, ids=ids, spot=asdict(spot), before=before, after=after)
    look_different(person, project)
    return found


def _reached(project: Project, spot: Spot) -> list[tuple[int, str]]:
    """Numbers and codes of the shots."""
    shots = Shot.objects.filter(scene__project=project, deleted=None)
    if spot.scene:
        shots = shots.filter(scene=spot.scene)
    if spot.roll:
        shots = shots.filter(roll=spot.roll)
    return list(shots.values_list("pk", "code"))


def _write(person: Person, project: Project, spot: Spot, layers: Stack) -> None:
    """What is there already keeps its number, by which people who look at it switch it off."""
    lying = list(_lying(project, spot))
    wanted = layers_at(project, spot, layers, person)
    for there, one in zip(lying, wanted, strict=False):
        if (there.version_id, there.member, there.steps) == (one.version_id, one.member, one.steps):
            one.placed_by_id = there.placed_by_id
        one.pk = there.pk
    Layer.objects.bulk_update(wanted[: len(lying)], FIELDS)
    Layer.objects.bulk_create(wanted[len(lying) :])
    Layer.objects.filter(pk__in=[one.pk for one in lying[len(wanted) :]]).delete()


def layers_at(project: Project, spot: Spot, layers: Stack, person: Person | None = None) -> list[Layer]:
    """Layers as they would be stored there."""
    on: dict[str, Any] = {"scene_id": spot.scene} if spot.scene else {"project": project}
    return [
        Layer(
            **on, **spot.key, position=position, version_id=one["version"], steps=one["steps"], strength=one["strength"],
            enabled=one["enabled"], off_on=one["off_on"], member=one.get("member", ""), placed_by=person,
        )
        for position, one in enumerate(layers)
    ]  # fmt: skip


def _take_back(person: Person, project: Project, data: dict[str, Any]) -> Done:
    spot = Spot(Reach(data["spot"]["reach"]), LayerRole(data["spot"]["role"]), data["spot"]["scene"], data["spot"]["roll"])
    if spot.scene and not Scene.objects.filter(pk=spot.scene, project=project).exists():
        raise NotFound("The scene that this was done to is not there any more.")
    if _items(_lying(project, spot)) != data["after"]:
        raise NotPossible("Somebody has changed what lies there since; nothing was taken back.")
    _write(person, project, spot, data["before"])
    return Done(len(_reached(project, spot)), None)


WAYS[ACTION] = _take_back
