"""Where shots are: scenes, codes that are free in them, frames that footage has."""

from __future__ import annotations

from dataclasses import dataclass

from django.db.models import Max

from saucer.studio.common.refusals import NotPossible
from saucer.studio.pictures.models import Footage
from saucer.studio.projects.models import Project, Scene, Shot


@dataclass
class Place:
    """Where the next shot of a scene goes. last: position of the last one; taken: codes, in small letters"""

    scene: Scene
    last: int
    taken: set[str]

    def free(self, name: str) -> str:
        """The name, or with a number behind it where it is taken; taken from now on."""
        code, number = name.strip()[:70] or "Shot", 2
        wanted = code
        while wanted.lower() in self.taken:
            wanted, number = f"{code} {number}", number + 1
        self.taken.add(wanted.lower())
        return wanted


def scene_name(name: str) -> str:
    """Raises: NotPossible for an empty one"""
    name = " ".join(name.split())[:80]
    if not name:
        raise NotPossible("A scene needs a name.")
    return name


def scene_in(project: Project, name: str) -> Scene:
    """The scene of this name, made at the end of the story where it is new. Raises: NotPossible"""
    name = scene_name(name)
    scene = Scene.objects.filter(project=project, name__iexact=name).first()
    if scene is None:
        last = Scene.objects.filter(project=project).aggregate(Max("position"))["position__max"]
        scene = Scene.objects.create(project=project, name=name, position=(last or 0) + 1)
    return scene


def place_in(project: Project, name: str) -> Place:
    """The end of a scene, which is made where it is new. Raises: NotPossible"""
    scene = scene_in(project, name)
    there = list(Shot.objects.filter(scene=scene, deleted=None).values_list("code", "position"))
    return Place(scene, max((position for _, position in there), default=0), {code.lower() for code, _ in there})


def frames_in(moving: Footage, first: int | None, last: int | None) -> tuple[int, int]:
    """Raises: NotPossible where the footage does not have them"""
    low, high = first or 0, moving.count - 1 if last is None else last
    if not 0 <= low <= high < moving.count:
        raise NotPossible(f"{moving.picture.name} has frames 0 to {moving.count - 1}; {low} to {high} are not in it.")
    return low, high
