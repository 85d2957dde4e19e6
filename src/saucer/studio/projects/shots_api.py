"""Shots and scenes of a project: brought in, named by a pattern, put in order, noted, seen."""

from __future__ import annotations

from contextlib import suppress
from datetime import datetime
from functools import cache, partial
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field, model_validator

from saucer.core.errors import SaucerError
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import FRAMES
from saucer.studio.common.refusals import Refusal
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import changing, grading, noting, ordering, rules, shots, showing
from saucer.studio.projects.grading_api import StackIn, layers_given
from saucer.studio.projects.models import Layer, Shot, ShotNote
from saucer.studio.projects.stacking import junctions_of, look_of
from saucer.studio.projects.told import DoneOut, ProjectOut, ShotOut, tell_done, tell_project, tell_shot
from saucer.studio.projects.undoing import history_of

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
    """What is not sent stays. encoding: empty, as its picture; reference: null takes it away"""

    shots: Ids
    note: Annotated[str | None, Field(max_length=1000)] = None
    approved: bool | None = None
    encoding: Annotated[str | None, Field(max_length=40)] = None
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
    id: int
    frame: int | None
    words: str
    by: str
    at: datetime
    mine: bool


class JunctionOut(Schema):
    encoding: str
    what: str


class ShotDetail(Schema):
    """line: the encodings it goes through, from what it is in to what it is delivered in"""

    shot: ShotOut
    line: list[JunctionOut]
    notes: list[ShotNoteOut]


class ShotActivityOut(Schema):
    at: datetime
    by: str
    action: str
    data: dict[str, Any]


class ShotFrameIn(Schema):
    """layers: what lies on it in place of what is stored; frame: of what moves, from 0"""

    layers: StackIn | None = None
    frame: Number | None = None


class ShotFramesIn(ShotFrameIn):
    """more: so many frames after it too; width: not more than this; playing: they are seen for a moment only"""

    more: Annotated[int, Field(ge=0, le=7)] = 0
    width: Annotated[int, Field(ge=16, le=960)] = 960
    dragging: bool = False
    playing: bool = False


class PreviewsIn(Schema):
    """newest: through the versions that are offered in place of those that are pinned

    trying: with this entry put on them, in place of their looks unless it is to be stacked
    """

    shots: Annotated[list[int], Field(min_length=1, max_length=24)]
    newest: bool = False
    trying: int | None = None
    stack: bool = False


@router.post("/{pk}/pattern", response=list[NamedOut], auth=designer("bring shots in"))
def name_by_pattern(request: HttpRequest, pk: int, given: PatternIn) -> list[NamedOut]:
    """What a pattern would make of these pictures' names; nothing is changed."""
    person = person_of(request)
    rules.find(person, pk)
    return [NamedOut(**vars(one)) for one in shots.name_by_pattern(person, given.pictures, given.pattern)]


@router.post("/{pk}/shots", response=ProjectOut, auth=designer("bring shots in"))
def add_shots(request: HttpRequest, pk: int, given: ShotsIn) -> ProjectOut:
    """Pictures as shots at the end of their scenes, which are made where they are new."""
    person = person_of(request)
    shots.add_shots(person, pk, [shots.NewShot(one.picture, one.scene, one.code) for one in given.shots])
    return tell_project(rules.find(person, pk), person)


@router.patch("/{pk}/shots", response=DoneOut, auth=designer("change shots"))
def change_shots(request: HttpRequest, pk: int, given: ShotsChange) -> DoneOut:
    fields = given.model_dump(exclude_unset=True, exclude={"shots"})
    fields = {name: value for name, value in fields.items() if value is not None or name == "reference"}
    return tell_done(changing.change_shots(person_of(request), pk, given.shots, fields))


@router.post("/{pk}/shots/move", response=DoneOut, auth=designer("change shots"))
def move_shots(request: HttpRequest, pk: int, given: ShotsMove) -> DoneOut:
    return tell_done(ordering.move_shots(person_of(request), pk, given.shots, given.scene, given.before))


@router.post("/{pk}/shots/out", response={204: None}, auth=designer("take shots out"))
def take_out(request: HttpRequest, pk: int, given: ShotsNamed) -> Status[None]:
    shots.take_out(person_of(request), pk, given.shots)
    return Status(204, None)


@router.post("/{pk}/shots/back", response={204: None}, auth=designer("bring shots back"))
def bring_back(request: HttpRequest, pk: int, given: ShotsNamed) -> Status[None]:
    shots.bring_back(person_of(request), pk, given.shots)
    return Status(204, None)


@router.patch("/{pk}/scenes/{scene}", response=DoneOut, auth=designer("change scenes"))
def rename_scene(request: HttpRequest, pk: int, scene: int, given: SceneChange) -> DoneOut:
    return tell_done(ordering.rename_scene(person_of(request), pk, scene, given.name))


@router.put("/{pk}/scenes", response=DoneOut, auth=designer("change scenes"))
def order_scenes(request: HttpRequest, pk: int, given: ScenesIn) -> DoneOut:
    return tell_done(ordering.order_scenes(person_of(request), pk, given.scenes))


@router.get("/{pk}/shots/{shot}", response=ShotDetail)
def read_shot(request: HttpRequest, pk: int, shot: int) -> ShotDetail:
    person = person_of(request)
    project = rules.find(person, pk)
    found = rules.find_shot(project, shot)
    layers = list(Layer.objects.filter(shot=found).select_related("version__entry"))
    notes = [
        ShotNoteOut(id=one.pk, frame=one.frame, words=one.words, by=one.person.shown_name if one.person else "", at=one.at,
                mine=one.person_id == person.pk)
        for one in ShotNote.objects.filter(shot=found).select_related("person")
    ]  # fmt: skip
    line = [JunctionOut(encoding=one.encoding, what=one.what) for one in junctions_of(found, layers, project.delivery)]
    return ShotDetail(shot=tell_shot(found, person, len(notes)), line=line, notes=notes)


@router.patch("/{pk}/shots/{shot}", response=DoneOut, auth=designer("change shots"))
def change_shot(request: HttpRequest, pk: int, shot: int, given: ShotChange) -> DoneOut:
    """Its name, or its frames."""
    person = person_of(request)
    if given.code is not None:
        return tell_done(changing.rename_shot(person, pk, shot, given.code))
    frames = {name: value for name, value in given.model_dump(exclude_none=True).items() if name != "code"}
    return tell_done(changing.set_frames(person, pk, shot, frames))


UNTOLD = ("before", "after", "was", "becomes", "ids")


@router.get("/{pk}/shots/{shot}/activity", response=list[ShotActivityOut])
def list_activity(request: HttpRequest, pk: int, shot: int) -> list[ShotActivityOut]:
    """What was done to this shot, the newest first."""
    project = rules.find(person_of(request), pk)
    found = rules.find_shot(project, shot)
    return [
        ShotActivityOut(at=one.at, by=one.person.shown_name if one.person else "", action=one.action,
                data={name: value for name, value in one.data.items() if name not in UNTOLD})
        for one in history_of(found)
    ]  # fmt: skip


@router.get("/{pk}/shots/{shot}/look", response=dict[str, Any])
def read_look(request: HttpRequest, pk: int, shot: int) -> dict[str, Any]:
    """Everything that lies on it as one look, from what the shot is in to what is delivered."""
    project = rules.find(person_of(request), pk)
    found = rules.find_shot(project, shot)
    return look_of(found, list(Layer.objects.filter(shot=found).select_related("version__entry")), project.delivery).model_dump(
        mode="json"
    )


@router.get("/{pk}/shots/{shot}/preview.jpg")
def preview(
    request: HttpRequest,
    pk: int,
    shot: int,
    large: bool = False,
    newest: bool = False,
    plain: bool = False,
    frame: int | None = None,
) -> HttpResponse:
    """The shot through all that lies on it. large: finer, in place of a card's size

    newest: through the versions that are offered in place of those that are pinned; plain: through nothing but a rendering
    """
    found = rules.find_shot_to_show(person_of(request), pk, shot)
    layers = [] if plain else list(Layer.objects.filter(shot=found))
    if newest:
        layers = grading.renewed(found, layers)
    number = frame_of(found, frame)
    state = showing.state_of(found, layers, large, number)
    turn = partial(FRAMES.turn, person_of(request).pk)
    return respond(request, state, lambda: showing.preview_file(found, layers, large, number, turn), "image/jpeg")


@router.post("/{pk}/previews", response={200: None})
def previews(request: HttpRequest, pk: int, given: PreviewsIn) -> HttpResponse:
    """Cards of several shots: JPEGs one after the other, their lengths in the header Saucer-Sizes, 0 for one that cannot be shown."""
    shots_shown = rules.find_shots_to_show(person_of(request), pk, given.shots)
    lying: dict[int, list[Layer]] = {}
    for layer in Layer.objects.filter(shot__in=shots_shown):
        lying.setdefault(layer.shot_id, []).append(layer)
    trying = grading.version_of(given.trying, None) if given.trying is not None else None
    newest = cache(grading.newest_of)
    made: dict[int, bytes] = {}
    turn = partial(FRAMES.turn, person_of(request).pk)
    for one in shots_shown:
        layers = lying.get(one.pk, [])
        with suppress(SaucerError, Refusal):
            if given.newest:
                layers = grading.renewed(one, layers, newest)
            if trying is not None:
                layers = grading.tried(one, layers, trying, given.stack)
            made[one.pk] = showing.preview_file(one, layers, large=False, turn=turn)
    files = [made.get(one, b"") for one in given.shots]
    response = HttpResponse(b"".join(files), content_type="application/octet-stream")
    response["Saucer-Sizes"] = ",".join(str(len(one)) for one in files)
    return response


def layers_seen(shot: Shot, given: ShotFrameIn) -> list[Layer]:
    """What lies on the shot, or is only looked at. Raises: NotFound, NotPossible, LookError"""
    if given.layers is None:
        return list(Layer.objects.filter(shot=shot))
    return grading.layers_from(shot, layers_given(given.layers))


def frame_of(shot: Shot, number: int | None) -> int | None:
    """Held to the frames of the shot; none for a still."""
    if number is None or shot.first is None or shot.last is None:
        return None
    return min(max(number, shot.first), shot.last)


@router.post("/{pk}/shots/{shot}/frame")
@FRAMES
def frame(request: HttpRequest, pk: int, shot: int, given: ShotFramesIn) -> HttpResponse:
    """A frame through what lies on it, or would: for playing, and while something is being changed.

    With some after it: JPEGs one after the other, their lengths in the header Saucer-Sizes.
    """
    found = rules.find_shot_to_show(person_of(request), pk, shot)
    layers = layers_seen(found, given)
    nodes = showing.NODES_DRAGGED if given.dragging else showing.NODES
    files = []
    for ahead in range(given.more + 1):
        number = frame_of(found, None if given.frame is None else given.frame + ahead)
        codes = showing.pixels(found, layers, given.width, number, nodes)
        files.append(encoded(codes, "jpeg", 85, fine=False) if given.playing else encoded(codes, "jpeg"))
    response = HttpResponse(b"".join(files), content_type="image/jpeg")
    response["Saucer-Sizes"] = ",".join(str(len(one)) for one in files)
    return response


@router.post("/{pk}/shots/{shot}/notes", response=ShotNoteOut)
def add_note(request: HttpRequest, pk: int, shot: int, given: ShotNoteIn) -> ShotNoteOut:
    person = person_of(request)
    note = noting.add_note(person, pk, shot, given.words, given.frame)
    return ShotNoteOut(id=note.pk, frame=note.frame, words=note.words, by=person.shown_name, at=note.at, mine=True)


@router.delete("/{pk}/notes/{note}", response={204: None})
def remove_note(request: HttpRequest, pk: int, note: int) -> Status[None]:
    """One's own."""
    noting.remove_note(person_of(request), pk, note)
    return Status(204, None)
