"""Shots brought into a project, named by a pattern, taken out and back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import PurePosixPath
from typing import Any

from django.db import transaction
from django.utils import timezone

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record
from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.pictures.rules import find_to_share
from saucer.studio.projects.models import Shot
from saucer.studio.projects.rules import MOST_AT_ONCE, lock_shots, work_in
from saucer.studio.projects.story.patterns import read_pattern
from saucer.studio.projects.story.places import Place, frames_in, place_in

MOST_SHOTS = 2000
FIELDS = frozenset(("scene", "shot"))


@dataclass(frozen=True)
class NewShot:
    """A picture to become a shot. code: empty for the picture's name; first, last: frames of what moves, from 0; none for all of them"""

    picture: int
    scene: str
    code: str = ""
    first: int | None = None
    last: int | None = None
    facts: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class Named:
    """What a pattern makes of a picture's name. fits: does it match?"""

    picture: int
    name: str
    scene: str
    code: str
    fits: bool


def name_by_pattern(person: Person, pictures: Sequence[int], pattern: str) -> list[Named]:
    """Scene and shot of each picture out of its name, as in {scene}_{shot}; * stands for anything. What does not fit is told as such.

    Raises: NotPossible for a pattern without {scene}, or with a part twice
    """
    wanted = read_pattern(pattern, FIELDS)
    if wanted.fields.count("scene") != 1 or wanted.fields.count("shot") > 1:
        raise NotPossible("A pattern has {scene} in it once, and {shot} at most once, as in {scene}_{shot}.")
    names = dict(Picture.objects.visible_to(person).filter(pk__in=pictures).values_list("pk", "name"))
    found = []
    for pk in pictures:
        if pk not in names:
            continue
        parts = wanted.match(names[pk]) or {}
        scene, code = parts.get("scene", "").strip(), parts.get("shot", names[pk]).strip()
        found.append(Named(pk, names[pk], scene, code or names[pk], bool(scene)))
    return found


def _next_shot(place: Place, wanted: NewShot, picture: Picture) -> Shot:
    place.last += 1
    code = place.free(wanted.code or picture.name)
    moving: Footage | None = getattr(picture, "footage", None)
    roll = _roll_of(wanted, moving)
    shot = Shot(scene=place.scene, code=code, position=place.last, picture=picture, facts=wanted.facts, roll=roll)
    if moving is not None:
        shot.first, shot.last = frames_in(moving, wanted.first, wanted.last)
        shot.poster = (shot.first + shot.last) // 2
    return shot


def _roll_of(wanted: NewShot, moving: Footage | None) -> str:
    """The reel that a timeline gave, else the folder that the footage lies in; empty where neither is known."""
    folder = PurePosixPath(moving.path).name if moving is not None else ""
    return str(wanted.facts.get("reel", "") or folder)[:80]


def add_shots(person: Person, pk: int, wanted: Sequence[NewShot]) -> list[Shot]:
    """Pictures as shots at the end of their scenes, which are made where they are new. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "bring shots in")
        if not 1 <= len(wanted) <= MOST_AT_ONCE:
            raise NotPossible(f"Choose 1 to {MOST_AT_ONCE} pictures.")
        if Shot.objects.filter(scene__project=project, deleted=None).count() + len(wanted) > MOST_SHOTS:
            raise NotPossible(f"A project holds {MOST_SHOTS} shots at most; begin another one.")
        found = {one.pk: one for one in find_to_share([one.picture for one in wanted], person)}
        scenes: dict[str, Place] = {}
        made = []
        for one in wanted:
            key = " ".join(one.scene.split()).lower()
            if key not in scenes:
                scenes[key] = place_in(project, one.scene)
            made.append(_next_shot(scenes[key], one, found[one.picture]))
        Shot.objects.bulk_create(made)
        record(
            person,
            "bring in shots",
            project,
            scene=wanted[0].scene,
            shots=[shot.code for shot in made],
            ids=[shot.pk for shot in made],
        )
    return made


def take_out(person: Person, pk: int, ids: Sequence[int]) -> None:
    """They can be brought back. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "take shots out")
        shots = lock_shots(project, ids)
        Shot.objects.filter(pk__in=[shot.pk for shot in shots]).update(deleted=timezone.now())
        record(person, "take out shots", project, shots=[shot.code for shot in shots], ids=[shot.pk for shot in shots])


def bring_back(person: Person, pk: int, ids: Sequence[int]) -> None:
    """Shots that were taken out, under codes that are free. Raises: NotFound, NotAllowed"""
    with transaction.atomic():
        project = work_in(person, pk, "bring shots back")
        shots = list(
            Shot.objects.select_for_update(of=("self",))
            .select_related("scene")
            .filter(pk__in=ids, scene__project=project, deleted__isnull=False)
            .order_by("position")
        )
        if not shots:
            raise NotFound("There is nothing to be brought back.")
        places: dict[int, Place] = {}
        for shot in shots:
            if shot.scene_id not in places:
                places[shot.scene_id] = place_in(project, shot.scene.name)
            shot.code = places[shot.scene_id].free(shot.code)
            shot.deleted = None
        Shot.objects.bulk_update(shots, ["code", "deleted"])
        record(person, "bring back shots", project, shots=[shot.code for shot in shots], ids=[shot.pk for shot in shots])
