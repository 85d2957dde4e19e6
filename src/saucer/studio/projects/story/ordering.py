"""The order of the story: shots moved between scenes and within them, scenes named and put in order."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from django.db import transaction
from django.db.models import Case, Value, When

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person
from saucer.studio.projects.changes import WAYS, Done, done
from saucer.studio.projects.models import Project, Scene, Shot
from saucer.studio.projects.rules import lock_shots, work_in
from saucer.studio.projects.story.places import scene_in, scene_name

MOVED, SCENE_RENAMED, SCENES_ORDERED = "move shots", "rename scene", "order scenes"


def move_shots(person: Person, pk: int, ids: Sequence[int], name: str, before: int | None = None) -> Done:
    """In this order into a scene, in front of one of its shots or at its end. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        held = {shot.pk: shot for shot in lock_shots(project, ids)}
        scene = scene_in(project, name)
        concerned = {scene.pk, *(shot.scene_id for shot in held.values())}
        was = _orders(project, concerned)
        there = [
            shot for shot in Shot.objects.select_for_update().filter(scene=scene, deleted=None).order_by("position", "pk")
            if shot.pk not in held
        ]  # fmt: skip
        at = next((index for index, shot in enumerate(there) if shot.pk == before), len(there))
        taken = {shot.code.lower() for shot in there}
        moved = [held[one] for one in dict.fromkeys(ids)]
        for shot in moved:
            if shot.code.lower() in taken:
                raise NotPossible(f"{scene.name} has a shot called {shot.code} already; rename one of them first.")
            taken.add(shot.code.lower())
        order = [shot.pk for shot in (*there[:at], *moved, *there[at:])]
        _place_in_order(project, {scene: order})
        becomes = [
            one | {"shots": order if one["scene"] == scene.name else [pk for pk in one["shots"] if pk not in held]} for one in was
        ]
        _drop_empty(project)
        if was == becomes:
            return Done(0, None)
        told = {"shots": [shot.code for shot in moved], "ids": [shot.pk for shot in moved]}
        return done(person, project, MOVED, len(moved), scene=scene.name, **told, was=was, becomes=becomes)


def _orders(project: Project, scenes: set[int]) -> list[dict[str, Any]]:
    """What stands in these scenes, in its order, as it is kept in the activity."""
    found = Scene.objects.filter(project=project, pk__in=scenes).order_by("position", "pk")
    shots = _shots_in(scenes)
    return [{"scene": scene.name, "position": scene.position, "shots": shots[scene.pk]} for scene in found]


def _shots_in(scenes: Iterable[int]) -> dict[int, list[int]]:
    """The shots of each of these scenes, in their order."""
    found: dict[int, list[int]] = {one: [] for one in scenes}
    for scene, shot in Shot.objects.filter(scene__in=found, deleted=None).order_by("position", "pk").values_list("scene", "pk"):
        found[scene].append(shot)
    return found


def _place_in_order(project: Project, orders: Mapping[Scene, Sequence[int]]) -> None:
    """Shots of the project into these scenes, in this order; one query."""
    places = {pk: (scene.pk, position) for scene, shots in orders.items() for position, pk in enumerate(shots, 1)}
    Shot.objects.filter(pk__in=places, scene__project=project).update(
        scene_id=Case(*(When(pk=pk, then=Value(scene)) for pk, (scene, _) in places.items())),
        position=Case(*(When(pk=pk, then=Value(position)) for pk, (_, position) in places.items())),
    )


def _take_back(person: Person, project: Project, data: dict[str, Any]) -> Done:
    """All of it or nothing: half an order is none."""
    names = [one["scene"] for one in data["becomes"]]
    held = list(Scene.objects.select_for_update().filter(project=project, name__in=names))
    shots = _shots_in(scene.pk for scene in held)
    now = {scene.name: shots[scene.pk] for scene in held}
    if any(now.get(one["scene"], []) != one["shots"] for one in data["becomes"]):
        return Done(0, None, tuple(data["shots"]))
    there = {scene.name: scene for scene in Scene.objects.filter(project=project, name__in=[one["scene"] for one in data["was"]])}
    gone = [one for one in data["was"] if one["scene"] not in there]
    made = Scene.objects.bulk_create(Scene(project=project, name=one["scene"], position=one["position"]) for one in gone)
    there |= {scene.name: scene for scene in made}
    _place_in_order(project, {there[one["scene"]]: one["shots"] for one in data["was"]})
    _drop_empty(project)
    return Done(len(data["shots"]), None)


WAYS[MOVED] = _take_back


def _drop_empty(project: Project) -> None:
    """Scenes that never held a shot any more, not even one that can be brought back."""
    Scene.objects.filter(project=project, shots=None, shared_layers=None).delete()


def rename_scene(person: Person, pk: int, scene_pk: int, name: str) -> Done:
    """Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change scenes")
        scene = Scene.objects.select_for_update().filter(pk=scene_pk, project=project).first()
        if scene is None:
            raise NotFound("There is no such scene any more.")
        was, name = scene.name, scene_name(name)
        if was == name:
            return Done(0, None)
        _name_scene(scene, name)
        return done(person, project, SCENE_RENAMED, 1, scene=scene.pk, was=was, becomes=name)


def _name_scene(scene: Scene, name: str) -> None:
    if Scene.objects.filter(project=scene.project_id, name__iexact=name).exclude(pk=scene.pk).exists():
        raise NotPossible(f"There is a scene called {name} already; move the shots there.")
    scene.name = name
    scene.save(update_fields=["name"])


def _take_name_back(person: Person, project: Project, data: dict[str, Any]) -> Done:
    scene = Scene.objects.select_for_update().filter(pk=data["scene"], project=project).first()
    if scene is None or scene.name != data["becomes"]:
        return Done(0, None, (data["becomes"],))
    _name_scene(scene, data["was"])
    return Done(1, None)


def order_scenes(person: Person, pk: int, ids: Sequence[int]) -> Done:
    """Scenes in the order of the story; those not named stay behind them. Raises: NotFound, NotAllowed"""
    with transaction.atomic():
        project = work_in(person, pk, "change scenes")
        was = _scenes_in_order(project)
        if set(ids) - set(was):
            raise NotFound("Some of these scenes are gone. Look again.")
        becomes = _put_scenes(was, ids)
        if was == becomes:
            return Done(0, None)
        return done(person, project, SCENES_ORDERED, len(was), was=was, becomes=becomes)


def _scenes_in_order(project: Project) -> list[int]:
    """Locked."""
    return [scene.pk for scene in Scene.objects.select_for_update().filter(project=project).order_by("position", "pk")]


def _put_scenes(there: Sequence[int], ids: Sequence[int]) -> list[int]:
    """Positions of those that are there: these first, the rest in the order in which they are."""
    order = [one for one in dict.fromkeys([*ids, *there]) if one in set(there)]
    Scene.objects.filter(pk__in=order).update(
        position=Case(*(When(pk=one, then=Value(position)) for position, one in enumerate(order, 1)))
    )
    return order


def _take_order_back(person: Person, project: Project, data: dict[str, Any]) -> Done:
    """Scenes that came since stay behind. Where somebody has ordered them anew, that stays."""
    now = _scenes_in_order(project)
    there = set(now)
    if [one for one in data["becomes"] if one in there] != [one for one in now if one in set(data["becomes"])]:
        return Done(0, None, ("the order of the scenes",))
    _put_scenes(now, [one for one in data["was"] if one in there])
    return Done(len(now), None)


WAYS[SCENE_RENAMED], WAYS[SCENES_ORDERED] = _take_name_back, _take_order_back
