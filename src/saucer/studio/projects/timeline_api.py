"""Timelines of other programs as shots of a project."""

from __future__ import annotations

import re
from fractions import Fraction

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, UploadedFile

from saucer.studio.common.lanes import HEAVY
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.uploads import read_upload
from saucer.studio.people.access import designer, file_of
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import conforming, rules
from saucer.studio.projects.timelines import LARGEST, Event, TimelineError, read_timeline

router = Router(tags=["projects"])
_RATE = re.compile(r"[1-9]\d{0,4}(/[1-9]\d{0,4})?")


class EventOut(Schema):
    """picture: what was found for it, null for nothing; words: what is wrong, or to be known

    in_folder: it lies in a media folder, and is brought in from there
    """

    name: str
    media: str
    picture: int | None
    first: int | None
    last: int | None
    cdl: bool
    words: str
    in_folder: bool


class TimelineOut(Schema):
    events: list[EventOut]


class TimelineTaken(Schema):
    shots: list[int]
    left_out: list[str]


def _events(file: UploadedFile, rate: str) -> list[Event]:
    if not _RATE.fullmatch(rate):
        raise NotPossible(f'"{rate[:20]}" is no count of frames a second; write 24, or 24000/1001.')
    data, place = read_upload(file, LARGEST, "timeline", TimelineError)
    return read_timeline(data, place, Fraction(rate))


@router.post("/{pk}/timeline/look", response=TimelineOut, auth=designer("bring shots in", file_of(LARGEST)))
@HEAVY
def look_at_timeline(request: HttpRequest, pk: int, file: File[UploadedFile], rate: Form[str] = "24") -> TimelineOut:
    """What a timeline holds and what of it is found here; nothing is changed. rate: of an edit list, which does not say it"""
    rules.find(person_of(request), pk)
    return TimelineOut(
        events=[
            EventOut(
                name=one.event.name, media=one.event.media, picture=one.picture.pk if one.picture else None, first=one.first, last=one.last,
                cdl=one.event.cdl is not None, words=one.words, in_folder=one.place is not None,
            )
            for one in conforming.conform(person_of(request), _events(file, rate))
        ]
    )  # fmt: skip


@router.post("/{pk}/timeline", response=TimelineTaken, auth=designer("bring shots in", file_of(LARGEST)))
@HEAVY
def take_timeline(
    request: HttpRequest,
    pk: int,
    file: File[UploadedFile],
    scene: Form[str],
    rate: Form[str] = "24",
) -> TimelineTaken:
    """The shots of it that are found here, in their order, with their ASC CDLs as trims."""
    made, left = conforming.take_in(person_of(request), pk, _events(file, rate), scene)
    return TimelineTaken(shots=[shot.pk for shot in made], left_out=left)
