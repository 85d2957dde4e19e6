"""Shots out of a timeline: which event is which picture, which frames of it, and its ASC CDL as trims."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import PurePath

from django.db import transaction

from saucer.studio.common.refusals import NotPossible
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record
from saucer.studio.pictures import footage
from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.projects import grading, rules, shots
from saucer.studio.projects.models import Shot
from saucer.studio.projects.timelines import Event


@dataclass(frozen=True)
class Conformed:
    """An event with what was found for it. picture: none where nothing has its name; words: what is wrong, or to be known

    first, last: frames of what moves, from 0
    """

    event: Event
    picture: Picture | None
    first: int | None
    last: int | None
    words: str

    @property
    def usable(self) -> bool:
        return self.picture is not None and (self.first is None) == (self.last is None)


def conform(events: Sequence[Event]) -> list[Conformed]:
    """Media by name: the picture's name, or that of its file, without its ending and whatever the case."""
    found = Picture.objects.filter(deleted=None, passing=False).select_related("footage").order_by("pk")
    by_name: dict[str, Picture] = {}
    for picture in found:
        for name in (picture.file_name, picture.name):
            by_name[_stem(name)] = picture
    return [_conform_one(event, by_name) for event in events]


def _stem(name: str) -> str:
    return PurePath(name).stem.strip().lower()


def _conform_one(event: Event, by_name: dict[str, Picture]) -> Conformed:
    names = (event.media, event.name, event.facts.get("reel", ""))
    picture = next((by_name[_stem(name)] for name in names if name and _stem(name) in by_name), None)
    if picture is None:
        return Conformed(event, None, None, None, f'no picture here is called "{event.media or event.name}"; bring it in first')
    moving: Footage | None = getattr(picture, "footage", None)
    if moving is None:
        return Conformed(event, picture, None, None, "a still")
    first = footage.number_of(moving, event.start) if moving.timecode or moving.kind == "sequence" else event.start
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


def take_in(person: Person, pk: int, events: Sequence[Event], scene: str) -> tuple[list[Shot], list[str]]:
    """The events that were found as shots in their order; CDLs become trims; what was left out, in words.

    scene: its name. Raises: NotFound, NotAllowed, NotPossible where nothing was found
    """
    conformed = conform(events)
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
        record(person, "read timeline", rules.find(person, pk), shots=len(made), left_out=len(left))
    return made, left
