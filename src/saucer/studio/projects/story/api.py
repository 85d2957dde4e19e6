"""Shots and scenes of a project: brought in, named by a pattern, put in order, noted, seen."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.db.models import prefetch_related_objects
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field, model_validator

from saucer.studio.people.access import designer, intake, personal
from saucer.studio.people.rules import name_of
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import rules
from saucer.studio.projects.answers import DoneOut, tell_done
from saucer.studio.projects.changes import history_of
from saucer.studio.projects.grade.chain import OWN_TRIMS, TRIMS_AFTER, chain_of, rank_of, shared_on, with_content
from saucer.studio.projects.grade.stacking import Contents, encoding_before, junctions_of
from saucer.studio.projects.models import ShotNote
from saucer.studio.projects.story import details, notes, ordering, shots
from saucer.studio.projects.story.answers import ProjectOut, ShotOut, tell_project, tell_shot

router = Router(tags=["projects"])
Ids = Annotated[list[int], Field(min_length=1, max_length=rules.MOST_AT_ONCE)]
Number = Annotated[int, Field(ge=0, le=2**31 - 1)]
SceneName = Annotated[str, Field(max_length=80)]
Pattern = Annotated[str, Field(max_length=120)]


class NewShotIn(Schema):
    picture: int
    scene: SceneName
    code: Annotated[str, Field(max_length=80)] = ""


class ShotsIn(Schema):
    shots: Annotated[list[NewShotIn], Field(min_length=1, max_length=rules.MOST_AT_ONCE)]


class PatternIn(Schema):
    pictures: Ids
    pattern: Pattern


class NamedOut(Schema):
    picture: int
    name: str
    scene: str
    code: str
    fits: bool


class ShotsChange(Schema):
    """What is not sent stays. encoding: empty, as its picture; roll: the camera, roll or folder; reference: null takes it away"""

    shots: Ids
    note: Annotated[str | None, Field(max_length=1000)] = None
    approved: bool | None = None
    encoding: Annotated[str | None, Field(max_length=40)] = None
    roll: Annotated[str | None, Field(max_length=80)] = None
    reference: int | None = None


class ShotChange(Schema):
    """Either a name or frames."""

    code: Annotated[str | None, Field(max_length=80)] = None
    first: Number | None = None
    last: Number | None = None
    poster: Number | None = None

    @model_validator(mode="after")
    def _one_of_both(self) -> ShotChange:
        if (self.code is None) == all(one is None for one in (self.first, self.last, self.poster)):
            raise ValueError("give a name or frames")
        return self


class ShotsMove(Schema):
    """before: a shot of that scene; without it, they go to its end"""

    shots: Ids
    scene: SceneName
    before: int | None = None


class ShotsNamed(Schema):
    shots: Ids


class SceneChange(Schema):
    name: SceneName


class ScenesIn(Schema):
    scenes: Annotated[list[int], Field(min_length=1, max_length=2000)]


class ShotNoteIn(Schema):
    words: Annotated[str, Field(max_length=1000)]
    frame: Number | None = None


class ShotNoteOut(Schema):
    """x, y: a place in the picture, 0..1 from the left and the top"""

    id: int
    frame: int | None
    x: float | None
    y: float | None
    words: str
    by: str
    at: datetime
    may_remove: bool


class JunctionOut(Schema):
    encoding: str
    what: str


class ShotDetail(Schema):
    """line: the encodings it goes through, from what it is in to what it is delivered in

    trimmed_in, trimmed_after_in: what its own trims work in, before its look and after it
    """

    shot: ShotOut
    line: list[JunctionOut]
    trimmed_in: str
    trimmed_after_in: str
    notes: list[ShotNoteOut]


class ShotActivityOut(Schema):
    at: datetime
    by: str
    action: str
    data: dict[str, Any]


@router.post("/{pk}/pattern", response=list[NamedOut], auth=intake("bring shots in"))
def name_by_pattern(request: HttpRequest, pk: int, given: PatternIn) -> list[NamedOut]:
    """What a pattern would make of these pictures' names; nothing is changed."""
    person = person_of(request)
    rules.find(person, pk)
    return [NamedOut(**vars(one)) for one in shots.name_by_pattern(person, given.pictures, given.pattern)]


@router.post("/{pk}/shots", response=ProjectOut, auth=intake("bring shots in"))
def add_shots(request: HttpRequest, pk: int, given: ShotsIn) -> ProjectOut:
    """Pictures as shots at the end of their scenes, which are made where they are new."""
    person = person_of(request)
    shots.add_shots(person, pk, [shots.NewShot(one.picture, one.scene, one.code) for one in given.shots])
    return tell_project(rules.find(person, pk), person)


@router.patch("/{pk}/shots", response=DoneOut, auth=designer("change shots"))
def change_shots(request: HttpRequest, pk: int, given: ShotsChange) -> DoneOut:
    """Approval, note, encoding, roll or reference of many shots at once."""
    fields = given.model_dump(exclude_unset=True, exclude={"shots"})
    fields = {name: value for name, value in fields.items() if value is not None or name == "reference"}
    return tell_done(details.change_shots(person_of(request), pk, given.shots, fields))


@router.post("/{pk}/shots/move", response=DoneOut, auth=designer("change shots"))
def move_shots(request: HttpRequest, pk: int, given: ShotsMove) -> DoneOut:
    """Shots to another place or scene."""
    return tell_done(ordering.move_shots(person_of(request), pk, given.shots, given.scene, given.before))


@router.post("/{pk}/shots/out", response={204: None}, auth=designer("take shots out"))
def take_out(request: HttpRequest, pk: int, given: ShotsNamed) -> Status[None]:
    """Takes shots out; they can be brought back."""
    shots.take_out(person_of(request), pk, given.shots)
    return Status(204, None)


@router.post("/{pk}/shots/back", response={204: None}, auth=designer("bring shots back"))
def bring_back(request: HttpRequest, pk: int, given: ShotsNamed) -> Status[None]:
    """Shots that were taken out come back."""
    shots.bring_back(person_of(request), pk, given.shots)
    return Status(204, None)


@router.patch("/{pk}/scenes/{scene}", response=DoneOut, auth=designer("change scenes"))
def rename_scene(request: HttpRequest, pk: int, scene: int, given: SceneChange) -> DoneOut:
    """The name of a scene."""
    return tell_done(ordering.rename_scene(person_of(request), pk, scene, given.name))


@router.put("/{pk}/scenes", response=DoneOut, auth=designer("change scenes"))
def order_scenes(request: HttpRequest, pk: int, given: ScenesIn) -> DoneOut:
    """The order of its scenes."""
    return tell_done(ordering.order_scenes(person_of(request), pk, given.scenes))


@router.get("/{pk}/shots/{shot}", response=ShotDetail)
def read_shot(request: HttpRequest, pk: int, shot: int) -> ShotDetail:
    """A shot with everything that reaches the eye."""
    person = person_of(request)
    project = rules.find(person, pk)
    found = rules.find_shot(project, shot)
    layers, contents = chain_of(found, with_content()), Contents()
    leads = rules.may_lead(person, project)
    told = [
        ShotNoteOut(id=one.pk, frame=one.frame, x=one.x, y=one.y, words=one.words, by=one.by, at=one.at,
                may_remove=notes.may_remove(person, one, leads))
        for one in ShotNote.objects.filter(shot=found).select_related("person")
    ]  # fmt: skip
    prefetch_related_objects([found], rules.own_layers())
    line = [JunctionOut(encoding=one.encoding, what=one.what) for one in junctions_of(found, layers, project.delivery, contents)]
    return ShotDetail(
        shot=tell_shot(found, person, shared_on([found]), len(told)), line=line, notes=told,
        trimmed_in=encoding_before(found, [one for one in layers if rank_of(one) < OWN_TRIMS], contents),
        trimmed_after_in=encoding_before(found, [one for one in layers if rank_of(one) < TRIMS_AFTER], contents),
    )  # fmt: skip


@router.patch("/{pk}/shots/{shot}", response=DoneOut, auth=designer("change shots"))
def change_shot(request: HttpRequest, pk: int, shot: int, given: ShotChange) -> DoneOut:
    """Its name, or its frames."""
    person = person_of(request)
    if given.code is not None:
        return tell_done(details.rename_shot(person, pk, shot, given.code))
    frames = {name: value for name, value in given.model_dump(exclude_none=True).items() if name != "code"}
    return tell_done(details.set_frames(person, pk, shot, frames))


UNTOLD = ("guest", "before", "after", "was", "becomes", "ids")


@router.get("/{pk}/shots/{shot}/activity", response=list[ShotActivityOut])
def list_activity(request: HttpRequest, pk: int, shot: int) -> list[ShotActivityOut]:
    """What was done to this shot, the newest first."""
    project = rules.find(person_of(request), pk)
    found = rules.find_shot(project, shot)
    return [
        ShotActivityOut(at=one.at, by=name_of(one.person, str(one.data.get("guest", ""))), action=one.action,
                data={name: value for name, value in one.data.items() if name not in UNTOLD})
        for one in history_of(found)
    ]  # fmt: skip


@router.post("/{pk}/shots/{shot}/notes", response=ShotNoteOut, auth=personal())
def add_note(request: HttpRequest, pk: int, shot: int, given: ShotNoteIn) -> ShotNoteOut:
    """Words on a shot, or on a frame and a place of it."""
    person = person_of(request)
    note = notes.add_note(person, pk, shot, given.words, given.frame)
    return ShotNoteOut(id=note.pk, frame=note.frame, x=None, y=None, words=note.words, by=note.by, at=note.at, may_remove=True)


@router.delete("/{pk}/notes/{note}", response={204: None}, auth=personal())
def remove_note(request: HttpRequest, pk: int, note: int) -> Status[None]:
    """One's own, or a guest's in a project that one leads."""
    notes.remove_note(person_of(request), pk, note)
    return Status(204, None)
