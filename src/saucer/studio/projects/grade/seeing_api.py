"""Shots as they are seen: one look of all that lies on them, cards, frames through what lies there or would."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from contextlib import suppress
from functools import partial
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from saucer.core.errors import SaucerError
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import FRAMES
from saucer.studio.common.refusals import Refusal
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import rules
from saucer.studio.projects.grade import grading, seeing, sharing
from saucer.studio.projects.grade.api import MemberOf, StackIn, layers_given
from saucer.studio.projects.grade.chain import chain_of, chains_of, joined, own_of, with_content
from saucer.studio.projects.grade.sharing_api import SharedIn, shared_given
from saucer.studio.projects.grade.stacking import look_of
from saucer.studio.projects.models import Layer, Reach, Shot

router = Router(tags=["projects"])
Number = Annotated[int, Field(ge=0, le=2**31 - 1)]


class ShotFrameIn(Schema):
    """layers: what lies on it in place of what is stored; shared: the same of what lies on many; frame: of what moves, from 0"""

    layers: StackIn | None = None
    shared: SharedIn | None = None
    frame: Number | None = None


class ShotFramesIn(ShotFrameIn):
    """more: so many frames after it too; width: not more than this; playing: they are seen for a moment only"""

    more: Annotated[int, Field(ge=0, le=7)] = 0
    width: Annotated[int, Field(ge=16, le=960)] = 960
    dragging: bool = False
    playing: bool = False


class PreviewsIn(Schema):
    """newest: through the versions that are offered in place of those that are pinned

    trying: with this entry put on them, in place of their looks unless it is to be stacked; member: which of its family
    """

    shots: Annotated[list[int], Field(min_length=1, max_length=24)]
    newest: bool = False
    trying: int | None = None
    member: MemberOf = ""
    stack: bool = False


@router.get("/{pk}/shots/{shot}/look", response=dict[str, Any])
def read_look(request: HttpRequest, pk: int, shot: int) -> dict[str, Any]:
    """Everything that lies on it as one look, from what the shot is in to what is delivered."""
    project = rules.find(person_of(request), pk)
    found = rules.find_shot(project, shot)
    return look_of(found, chain_of(found, with_content()), project.delivery).model_dump(mode="json")


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
    person = person_of(request)
    found = rules.find_shot_to_show(person, pk, shot)
    layers = [] if plain else chain_of(found)
    if newest:
        layers = grading.renewed(found, layers, newest_on(person, [layers]))
    number = seeing.frame_of(found, frame)
    state = seeing.state_of(found, layers, large, number)
    turn = partial(FRAMES.turn, person.pk)
    return respond(request, state, lambda: seeing.preview_file(found, layers, large, number, turn), "image/jpeg")


@router.post("/{pk}/previews", response={200: None})
def previews(request: HttpRequest, pk: int, given: PreviewsIn) -> HttpResponse:
    """Cards of several shots: JPEGs one after the other, their lengths in the header Saucer-Sizes, 0 for one that cannot be shown."""
    person = person_of(request)
    shots_shown = rules.find_shots_to_show(person, pk, given.shots)
    lying = chains_of(shots_shown)
    trying = grading.version_of(person, given.trying, None) if given.trying is not None else None
    member = grading.member_in(trying, given.member) if trying is not None else ""
    newest = newest_on(person, lying.values()) if given.newest else {}
    made: dict[int, bytes] = {}
    turn = partial(FRAMES.turn, person.pk)
    for one in shots_shown:
        layers = lying[one.pk]
        with suppress(SaucerError, Refusal):
            if given.newest:
                layers = grading.renewed(one, layers, newest)
            if trying is not None:
                layers = grading.tried(one, layers, trying, given.stack, member)
            made[one.pk] = seeing.preview_file(one, layers, large=False, turn=turn)
    files = [made.get(one, b"") for one in given.shots]
    response = HttpResponse(b"".join(files), content_type="application/octet-stream")
    response["Saucer-Sizes"] = ",".join(str(len(one)) for one in files)
    return response


def newest_on(person: Person, lying: Iterable[Sequence[Layer]]) -> dict[grading.Pinned, int]:
    pinned = {(one.version_id, one.member) for layers in lying for one in layers if one.version_id is not None}
    return grading.newest_of_all(person, pinned)


def layers_seen(person: Person, shot: Shot, given: ShotFrameIn) -> list[Layer]:
    """What lies on the shot and on all that it belongs to, or is only looked at. Raises: NotFound, NotPossible, LookError"""
    if given.layers is None and given.shared is None:
        return chain_of(shot)
    lying = chain_of(shot)
    own = (
        own_of(lying)
        if given.layers is None
        else grading.layers_from(shot, layers_given(person, shot.scene.project_id, given.layers))
    )
    shared = [one for one in lying if one.reach != Reach.SHOT]
    if given.shared is not None:
        spot = given.shared.spot
        tried = sharing.layers_at(shot.scene.project, spot, shared_given(person, shot.scene.project_id, given.shared.layers))
        shared = [*(one for one in shared if sharing.spot_of(one) != spot), *tried]
    return joined(shot, own, shared)


@router.post("/{pk}/shots/{shot}/frame")
@FRAMES
def frame(request: HttpRequest, pk: int, shot: int, given: ShotFramesIn) -> HttpResponse:
    """A frame through what lies on it, or would: for playing, and while something is being changed.

    With some after it: JPEGs one after the other, their lengths in the header Saucer-Sizes.
    """
    person = person_of(request)
    found = rules.find_shot_to_show(person, pk, shot)
    layers = layers_seen(person, found, given)
    nodes = seeing.NODES_DRAGGED if given.dragging else seeing.NODES_PLAYED if given.playing else None
    files = []
    for ahead in range(given.more + 1):
        number = seeing.frame_of(found, None if given.frame is None else given.frame + ahead)
        codes = seeing.pixels(found, layers, given.width, number, nodes)
        files.append(encoded(codes, "jpeg", 85, fine=False) if given.playing else encoded(codes, "jpeg"))
    response = HttpResponse(b"".join(files), content_type="image/jpeg")
    response["Saucer-Sizes"] = ",".join(str(len(one)) for one in files)
    return response
