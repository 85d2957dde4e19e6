"""Shots out of a timeline: which event is which picture, which frames of it, and its ASC CDL as trims."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import PurePath

from django.db import transaction
from pydantic import BaseModel, TypeAdapter

from saucer.core.errors import SaucerError
from saucer.studio.common.models import Blob
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import keep_bytes, read_kept
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.rules import JobResult
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record
from saucer.studio.pictures import footage, media
from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.projects import rules
from saucer.studio.projects.conform.timelines import Event
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import Shot, ShotNote
from saucer.studio.projects.story import shots

MOST_BROUGHT = 60
"""Each takes up to half a second: its index is read and its first frame decoded."""


JOB = "timeline"


class TimelineWork(BaseModel):
    """A large timeline to be read. sha256: of what was sent; rate: of an edit list, which does not say it"""

    sha256: str
    file_name: str
    rate: str


class TimelineRead(JobResult):
    """events: SHA-256 of the file that they are kept in: thousands of them would come along whenever jobs are listed"""

    events: str = ""


_EVENTS = TypeAdapter(list[Event])


def keep_events(events: list[Event]) -> Blob:
    return keep_bytes(_EVENTS.dump_json(events))


def events_of(person: Person, job: int) -> list[Event]:
    """What a job of theirs has read. Raises: NotFound; NotPossible before it is done"""
    read = jobs.result_of(person, job, JOB)
    assert isinstance(read, TimelineRead)
    return _EVENTS.validate_json(read_kept(read.events))


@dataclass(frozen=True)
class Conformed:
    """An event with what was found for it. picture: none where nothing here has its name; words: what is wrong, or to be known

    first, last: frames of what moves, from 0; place: in a media folder (its name, a path), for what is not brought in yet
    """

    event: Event
    picture: Picture | None
    first: int | None
    last: int | None
    words: str
    place: tuple[str, str] | None = None

    @property
    def usable(self) -> bool:
        return self.picture is not None and (self.first is None) == (self.last is None)


def conform(person: Person, events: Sequence[Event]) -> list[Conformed]:
    """Media by name, without its ending and whatever the case: of a picture here, of its file, of what lies in a media folder."""
    here = _by_name(person)
    conformed = [_conform_one(event, here) for event in events]
    wanted = {_stem(name) for one in conformed if one.picture is None for name in _names(one.event)}
    there = media.find_by_stem(wanted) if wanted else {}
    return [_in_folder(one, there) if one.picture is None else one for one in conformed]


def _in_folder(one: Conformed, there: Mapping[str, tuple[str, str]]) -> Conformed:
    place = next((there[_stem(name)] for name in _names(one.event) if _stem(name) in there), None)
    return replace(one, place=place, words=f'is brought in from the media folder "{place[0]}": {place[1]}') if place else one


def _names(event: Event) -> list[str]:
    return [name for name in (event.media, event.name, event.facts.get("reel", "")) if name]


def _by_name(person: Person) -> dict[str, Picture]:
    found = Picture.objects.shared_with(person).select_related("footage").order_by("pk")
    by_name: dict[str, Picture] = {}
    for picture in found:
        for name in (picture.file_name, picture.name):
            by_name[_stem(name)] = picture
    return by_name


def _stem(name: str) -> str:
    return PurePath(name).stem.strip().lower()


def _conform_one(event: Event, by_name: dict[str, Picture]) -> Conformed:
    """With what the timeline's own line says of it."""
    if problem := event.facts.get("problem", ""):
        return Conformed(event, None, None, None, problem)
    found = _matched(event, by_name)
    words = "; ".join(part for part in (found.words, event.facts.get("words", "")) if part)
    return replace(found, words=words)


def _matched(event: Event, by_name: dict[str, Picture]) -> Conformed:
    picture = next((by_name[_stem(name)] for name in _names(event) if _stem(name) in by_name), None)
    if picture is None:
        return Conformed(event, None, None, None, f'no picture here is called "{event.media or event.name}"; bring it in first')
    moving: Footage | None = getattr(picture, "footage", None)
    if moving is None:
        return Conformed(event, picture, None, None, "a still")
    first = _number_in(moving, event.start)
    last = first + event.count - 1
    if 0 <= first <= last < moving.count:
        words = (
            ""
            if abs(event.rate - float(footage.rate_of(moving))) < 0.01
            else f"the timeline runs at {event.rate:g} frames a second"
        )
        return Conformed(event, picture, first, last, words)
    held_first, held_last = min(max(first, 0), moving.count - 1), min(max(last, 0), moving.count - 1)
    if last < 0 or first >= moving.count:
        return Conformed(event, picture, 0, moving.count - 1, "its frames lie outside the clip; all of the clip is taken")
    return Conformed(
        event, picture, held_first, held_last, f"reaches beyond the clip; frames {held_first} to {held_last} are taken"
    )


def _number_in(moving: Footage, frame: int) -> int:
    """The frame of what moves, from 0, that a timeline counts as this one."""
    return footage.number_of(moving, frame) if moving.timecode or moving.kind == "sequence" else frame


def _with_media(person: Person, conformed: Sequence[Conformed]) -> list[Conformed]:
    """What lies in media folders brought in, each once."""
    places = list(dict.fromkeys(one.place for one in conformed if one.place is not None))
    if not places:
        return list(conformed)
    problems = dict.fromkeys(places, "the timeline names more media than are brought in at once; read it once more for these")
    for folder, path in places[:MOST_BROUGHT]:
        try:
            footage.bring_in_from(person, folder, path)
            problems.pop((folder, path))
        except (SaucerError, NotFound, NotPossible) as error:
            problems[folder, path] = str(error)
    here = _by_name(person)
    found = [_conform_one(one.event, here) if one.picture is None else one for one in conformed]
    return [
        replace(one, words=problems[before.place]) if one.picture is None and before.place in problems else one
        for one, before in zip(found, conformed, strict=True)
    ]


def _noted_at(one: Conformed, frame: int) -> int | None:
    """The frame of a note in the shot that its clip becomes; None for a still."""
    moving: Footage | None = getattr(one.picture, "footage", None)
    if moving is None or one.first is None or one.last is None:
        return None
    return min(max(_number_in(moving, frame), one.first), one.last)


def take_in(person: Person, pk: int, events: Sequence[Event], scene: str) -> tuple[list[Shot], list[str]]:
    """The events that were found as shots in their order; CDLs become trims, markers notes; what was left out, in words.

    What lies in a media folder is brought in first, read in place from then on. scene: its name
    Raises: NotFound, NotAllowed, NotPossible where nothing was found
    """
    rules.require_work_in(person, pk, "bring shots in")  # before anything is brought in from a media folder
    conformed = _with_media(person, conform(person, events))
    usable = [one for one in conformed if one.usable]
    left = [f"{one.event.name}: {one.words}" for one in conformed if not one.usable]
    if not usable:
        raise NotPossible(f"Nothing of this timeline was found here. {' ; '.join(left)[:600]}")
    with transaction.atomic():
        rules.work_in(person, pk, "bring shots in")
        made: list[Shot] = []
        for begin in range(0, len(usable), rules.MOST_AT_ONCE):
            wanted = [
                shots.NewShot(
                    one.picture.pk, scene, one.event.name, one.first, one.last,
                    {"reel": one.event.facts.get("reel", ""), "record": one.event.record, "rate": one.event.rate},
                )
                for one in usable[begin : begin + rules.MOST_AT_ONCE]
                if one.picture is not None
            ]  # fmt: skip
            made += shots.add_shots(person, pk, wanted)
        for shot, one in zip(made, usable, strict=True):
            if one.event.cdl is not None:
                grading.set_trims(person, pk, [shot.pk], [one.event.cdl])
        ShotNote.objects.bulk_create(
            ShotNote(shot=shot, frame=_noted_at(one, frame), words=words, person=person)
            for shot, one in zip(made, usable, strict=True)
            for frame, words in one.event.notes
        )
        record(person, "read timeline", rules.find(person, pk), shots=len(made), left_out=len(left))
    return made, left
