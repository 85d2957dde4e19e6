"""What may happen to shots and scenes: brought in, named by a pattern, put in order, noted, approved, taken out and back."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.encodings import rules as encodings
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record
from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.projects.models import Project, Scene, Shot, ShotNote
from saucer.studio.projects.rules import MOST_AT_ONCE, find, find_shot, lock_shots, work_in

MOST_SHOTS = 2000
_PARTS = re.compile(r"\{(scene|shot)\}|(\*)")


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


def name_by_pattern(pictures: Sequence[int], pattern: str) -> list[Named]:
    """Scene and shot of each picture out of its name, as in {scene}_{shot}; * stands for anything. What does not fit is told as such.

    Raises: NotPossible for a pattern without {scene}, or with a part twice
    """
    expression = _expression(pattern)
    names = dict(Picture.objects.filter(pk__in=pictures, deleted=None).values_list("pk", "name"))
    found = []
    for pk in pictures:
        if pk not in names:
            continue
        match = expression.fullmatch(names[pk])
        parts = match.groupdict() if match else {}
        scene, code = (parts.get("scene") or "").strip(), (parts.get("shot") or names[pk]).strip()
        found.append(Named(pk, names[pk], scene, code, bool(scene)))
    return found


def _expression(pattern: str) -> re.Pattern[str]:
    parts = [match[1] for match in _PARTS.finditer(pattern) if match[1]]
    if "scene" not in parts or len(parts) != len(set(parts)):
        raise NotPossible("A pattern has {scene} in it once, and {shot} at most once, as in {scene}_{shot}.")
    text, at = "", 0
    for match in _PARTS.finditer(pattern):
        text += re.escape(pattern[at : match.start()])
        text += ".*?" if match[2] else f"(?P<{match[1]}>.+?)"
        at = match.end()
    return re.compile(text + re.escape(pattern[at:]))


def add_shots(person: Person, pk: int, wanted: Sequence[NewShot]) -> list[Shot]:
    """Pictures as shots at the end of their scenes, which are made where they are new. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "bring shots in")
        if not 1 <= len(wanted) <= MOST_AT_ONCE:
            raise NotPossible(f"Choose 1 to {MOST_AT_ONCE} pictures.")
        if Shot.objects.filter(scene__project=project, deleted=None).count() + len(wanted) > MOST_SHOTS:
            raise NotPossible(f"A project holds {MOST_SHOTS} shots at most; begin another one.")
        ids = {one.picture for one in wanted}
        found = {one.pk: one for one in Picture.objects.filter(pk__in=ids, deleted=None, passing=False).select_related("footage")}
        if len(found) < len(ids):
            raise NotFound("Some of these pictures were deleted meanwhile. Choose again.")
        scenes: dict[str, _Place] = {}
        made = []
        for one in wanted:
            key = " ".join(one.scene.split()).lower()
            if key not in scenes:
                scenes[key] = _place_in(project, one.scene)
            made.append(scenes[key].next(one, found[one.picture]))
        Shot.objects.bulk_create(made)
        record(person, "bring in shots", project, scene=wanted[0].scene, shots=[shot.code for shot in made])
    return made


@dataclass
class _Place:
    """Where the next shot of a scene goes. taken: codes, in small letters"""

    scene: Scene
    last: int
    taken: set[str]

    def next(self, wanted: NewShot, picture: Picture) -> Shot:
        self.last += 1
        shot = Shot(
            scene=self.scene, code=self._free(wanted.code or picture.name), position=self.last, picture=picture, facts=wanted.facts
        )
        moving: Footage | None = getattr(picture, "footage", None)
        if moving is not None:
            shot.first, shot.last = _frames_in(moving, wanted.first, wanted.last)
            shot.poster = (shot.first + shot.last) // 2
        return shot

    def _free(self, name: str) -> str:
        code, number = name.strip()[:70] or "Shot", 2
        wanted = code
        while wanted.lower() in self.taken:
            wanted, number = f"{code} {number}", number + 1
        self.taken.add(wanted.lower())
        return wanted


def _frames_in(moving: Footage, first: int | None, last: int | None) -> tuple[int, int]:
    low, high = first or 0, moving.count - 1 if last is None else last
    if not 0 <= low <= high < moving.count:
        raise NotPossible(f"{moving.picture.name} has frames 0 to {moving.count - 1}; {low} to {high} are not in it.")
    return low, high


def _place_in(project: Project, name: str) -> _Place:
    name = " ".join(name.split())[:80]
    if not name:
        raise NotPossible("A scene needs a name.")
    scene = Scene.objects.filter(project=project, name__iexact=name).first()
    if scene is None:
        last = Scene.objects.filter(project=project).aggregate(Max("position"))["position__max"]
        scene = Scene.objects.create(project=project, name=name, position=(last or 0) + 1)
    there = Shot.objects.filter(scene=scene, deleted=None)
    taken = {code.lower() for code in there.values_list("code", flat=True)}
    return _Place(scene, there.aggregate(Max("position"))["position__max"] or 0, taken)


def change_shots(person: Person, pk: int, ids: Sequence[int], given: dict[str, Any]) -> None:
    """Only what is given is written to all of these. given: note, approved, encoding (empty: as its picture), reference

    Raises: NotFound, NotAllowed, NotPossible, EncodingError
    """
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        shots = lock_shots(project, ids)
        fields = dict(given)
        if fields.get("note") is not None:
            fields["note"] = fields["note"].strip()[:1000]
        if fields.get("encoding"):
            encodings.find(fields["encoding"])
        if fields.get("reference") is not None:
            picture = Picture.objects.filter(pk=fields["reference"], deleted=None).first()
            if picture is None:
                raise NotFound("There is no such picture, or it was deleted.")
            fields["reference"] = picture
        Shot.objects.filter(pk__in=[shot.pk for shot in shots]).update(**fields)
        what = "approve shots" if given.get("approved") else "change shots"
        record(person, what, project, shots=[shot.code for shot in shots], **given)


def set_frames(person: Person, pk: int, shot_pk: int, given: dict[str, int]) -> None:
    """given: first, last, poster, from 0; a poster outside is brought inside. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        (shot,) = lock_shots(project, [shot_pk])
        moving: Footage | None = getattr(Picture.objects.select_related("footage").get(pk=shot.picture_id), "footage", None)
        if moving is None or shot.first is None or shot.last is None or shot.poster is None:
            raise NotPossible(f"{shot.code} is a still: it has no frames.")
        shot.first, shot.last = _frames_in(moving, given.get("first", shot.first), given.get("last", shot.last))
        poster = given.get("poster", shot.poster)
        shot.poster = min(max(poster, shot.first), shot.last)
        shot.save(update_fields=["first", "last", "poster"])
        record(person, "change shots", project, shots=[shot.code], **given)


def rename_shot(person: Person, pk: int, shot_pk: int, code: str) -> None:
    """Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        (shot,) = lock_shots(project, [shot_pk])
        code = " ".join(code.split())[:80]
        if not code:
            raise NotPossible("A shot needs a name.")
        if Shot.objects.filter(scene=shot.scene_id, code__iexact=code, deleted=None).exclude(pk=shot.pk).exists():
            raise NotPossible(f"There is a shot called {code} in this scene already.")
        record(person, "rename shot", project, before=shot.code, after=code)
        shot.code = code
        shot.save(update_fields=["code"])


def move_shots(person: Person, pk: int, ids: Sequence[int], scene_name: str, before: int | None = None) -> None:
    """In this order into a scene, in front of one of its shots or at its end. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change shots")
        held = {shot.pk: shot for shot in lock_shots(project, ids)}
        place = _place_in(project, scene_name)
        there = [
            shot for shot in Shot.objects.select_for_update().filter(scene=place.scene, deleted=None).order_by("position", "pk")
            if shot.pk not in held
        ]  # fmt: skip
        at = next((index for index, shot in enumerate(there) if shot.pk == before), len(there))
        taken = {shot.code.lower() for shot in there}
        moved = [held[one] for one in dict.fromkeys(ids)]
        for shot in moved:
            if shot.code.lower() in taken:
                raise NotPossible(f"{place.scene.name} has a shot called {shot.code} already; rename one of them first.")
            taken.add(shot.code.lower())
        for position, shot in enumerate([*there[:at], *moved, *there[at:]], 1):
            Shot.objects.filter(pk=shot.pk).update(scene=place.scene, position=position)
        _drop_empty(project)
        record(person, "move shots", project, scene=place.scene.name, shots=[shot.code for shot in moved])


def _drop_empty(project: Project) -> None:
    """Scenes that never held a shot any more, not even one that can be brought back."""
    Scene.objects.filter(project=project, shots=None).delete()


def rename_scene(person: Person, pk: int, scene_pk: int, name: str) -> None:
    """Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = work_in(person, pk, "change scenes")
        scene = Scene.objects.select_for_update().filter(pk=scene_pk, project=project).first()
        name = " ".join(name.split())[:80]
        if scene is None:
            raise NotFound("There is no such scene any more.")
        if not name:
            raise NotPossible("A scene needs a name.")
        if Scene.objects.filter(project=project, name__iexact=name).exclude(pk=scene.pk).exists():
            raise NotPossible(f"There is a scene called {name} already; move the shots there.")
        record(person, "rename scene", project, before=scene.name, after=name)
        scene.name = name
        scene.save(update_fields=["name"])


def order_scenes(person: Person, pk: int, ids: Sequence[int]) -> None:
    """Scenes in the order of the story; those not named stay behind them. Raises: NotFound, NotAllowed"""
    with transaction.atomic():
        project = work_in(person, pk, "change scenes")
        scenes = {scene.pk: scene for scene in Scene.objects.select_for_update().filter(project=project)}
        if set(ids) - scenes.keys():
            raise NotFound("Some of these scenes are gone. Look again.")
        rest = [one for one in scenes if one not in set(ids)]
        for position, one in enumerate([*dict.fromkeys(ids), *rest], 1):
            Scene.objects.filter(pk=one).update(position=position)
        record(person, "order scenes", project, scenes=[scenes[one].name for one in ids])


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
            Shot.objects.select_for_update().filter(pk__in=ids, scene__project=project, deleted__isnull=False).order_by("position")
        )
        if not shots:
            raise NotFound("There is nothing to be brought back.")
        for shot in shots:
            shot.code = _place_in(project, shot.scene.name)._free(shot.code)
            shot.deleted = None
            shot.save(update_fields=["code", "deleted"])
        record(person, "bring back shots", project, shots=[shot.code for shot in shots])


def add_note(person: Person, pk: int, shot_pk: int, words: str, frame: int | None) -> ShotNote:
    """Anybody who sees the project may say something. Raises: NotFound, NotPossible"""
    shot = find_shot(find(person, pk), shot_pk)
    words = words.strip()
    if not words:
        raise NotPossible("Write something first.")
    if frame is not None and (shot.first is None or shot.last is None or not shot.first <= frame <= shot.last):
        raise NotPossible(f"{shot.code} has no frame {frame}.")
    with transaction.atomic():
        note = ShotNote.objects.create(shot=shot, frame=frame, words=words[:1000], person=person)
        record(person, "note on shot", shot.scene.project, shot=shot.code, frame=frame, words=note.words)
    return note


def remove_note(person: Person, pk: int, note_pk: int) -> None:
    """One's own. Raises: NotFound"""
    with transaction.atomic():
        project = find(person, pk)
        note = ShotNote.objects.filter(pk=note_pk, shot__scene__project=project, person=person).select_related("shot").first()
        if note is None:
            raise NotFound("There is no such note of yours.")
        record(person, "take back note", project, shot=note.shot.code, words=note.words)
        note.delete()
