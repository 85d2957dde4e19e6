"""Timelines of other programs as shots of a project."""

from __future__ import annotations

import re
from collections.abc import Sequence
from fractions import Fraction

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, Status, UploadedFile

from saucer.studio.common.lanes import HEAVY
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import keep_upload
from saucer.studio.common.uploads import check_size, place_of
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.people.access import MB, file_of, intake
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import rules
from saucer.studio.projects.conform import conforming
from saucer.studio.projects.conform.conforming import JOB, TimelineWork
from saucer.studio.projects.conform.timelines import LARGEST, Event, TimelineError, read_timeline

router = Router(tags=["projects"])
AT_ONCE = MB
"""Bytes of a timeline that is read while somebody waits."""
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


def _rate_of(rate: str) -> Fraction:
    """Raises: NotPossible"""
    if not _RATE.fullmatch(rate):
        raise NotPossible(f'"{rate[:20]}" is no count of frames a second; write 24, or 24000/1001.')
    return Fraction(rate)


def _told(person: Person, events: Sequence[Event]) -> TimelineOut:
    return TimelineOut(
        events=[
            EventOut(
                name=one.event.name, media=one.event.media, picture=one.picture.pk if one.picture else None, first=one.first, last=one.last,
                cdl=one.event.cdl is not None, words=one.words, in_folder=one.place is not None,
            )
            for one in conforming.conform(person, events)
        ]
    )  # fmt: skip


@router.post("/{pk}/timeline/look", response={200: TimelineOut, 202: JobOut}, auth=intake("bring shots in", file_of(LARGEST)))
def look_at_timeline(
    request: HttpRequest, pk: int, file: File[UploadedFile], rate: Form[str] = "24"
) -> Status[TimelineOut] | Status[JobOut]:
    """What a timeline holds and what of it is found here; nothing is changed. rate: of an edit list, which does not say it

    A large one is read by a job, whose outcome is asked for by its number.
    """
    person, place, fraction = person_of(request), place_of(file.name, "timeline"), _rate_of(rate)
    rules.find(person, pk)
    check_size(file.size or 0, LARGEST, place, TimelineError)
    if (file.size or 0) > AT_ONCE:
        blob = keep_upload(file)
        return Status(202, job_out(jobs.start(person, JOB, TimelineWork(sha256=blob.pk, file_name=place, rate=rate), [blob])))
    with HEAVY.turn(person.pk):
        return Status(200, _told(person, read_timeline(file.read(), place, fraction)))


@router.get("/{pk}/timeline/read/{job}", response=TimelineOut)
def read_large_timeline(request: HttpRequest, pk: int, job: int) -> TimelineOut:
    """What a job has read, as `look_at_timeline` tells it."""
    person = person_of(request)
    rules.find(person, pk)
    return _told(person, conforming.events_of(person, job))


@router.post("/{pk}/timeline", response=TimelineTaken, auth=intake("bring shots in", file_of(LARGEST)))
@HEAVY
def take_timeline(
    request: HttpRequest,
    pk: int,
    scene: Form[str],
    file: File[UploadedFile | None] = None,
    job: Form[int | None] = None,
    rate: Form[str] = "24",
) -> TimelineTaken:
    """The shots of it that are found here, in their order, with their ASC CDLs as trims. job: that has read a large one, in place of it"""
    person, fraction = person_of(request), _rate_of(rate)
    if job is not None:
        events = conforming.events_of(person, job)
    elif file is None:
        raise NotPossible("Send a timeline, or the number of the job that has read it.")
    else:
        place = place_of(file.name, "timeline")
        check_size(file.size or 0, AT_ONCE, place, TimelineError)
        events = read_timeline(file.read(), place, fraction)
    made, left = conforming.take_in(person, pk, events, scene)
    return TimelineTaken(shots=[shot.pk for shot in made], left_out=left)
