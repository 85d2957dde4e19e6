"""How much the files of a person and of a project may take. What is counted is known by the apps above, which say so here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from saucer.studio.common.refusals import NotPossible
from saucer.studio.people.models import Studio

GB = 10**9
Of = Literal["person", "project"]
Count = Callable[[int], int]
COUNTS: dict[Of, Count] = {}
WORDS: dict[Of, str] = {"person": "Your files take", "project": "The files of this project take"}
NEARLY = 0.9
"""Share from which on it is told."""


@dataclass(frozen=True)
class Room:
    """bytes: that are taken; most: that may be, none where nothing was set"""

    bytes: int
    most: int | None

    def lacks(self, more: float) -> bool:
        return self.most is not None and self.bytes + more > self.most


def counts(of: Of) -> Callable[[Count], Count]:
    """A function that tells the bytes of a person or a project by its number: each stored file once, what was deleted until it is swept."""

    def register(count: Count) -> Count:
        COUNTS[of] = count
        return count

    return register


def room_of(of: Of, pk: int) -> Room:
    """Nothing is counted where nothing is set."""
    said = Studio.objects.filter(pk=1).values_list(f"{of}_gb", flat=True).first()
    return Room(COUNTS[of](pk), said * GB) if said else Room(0, None)


def words_of(of: Of, room: Room, more: float) -> str:
    """What is wrong, or soon will be, if so many bytes come to it; empty for nothing."""
    if room.most is None or room.bytes + more < NEARLY * room.most:
        return ""
    told = f"{WORDS[of]} {room.bytes / GB:.1f} GB of the {room.most / GB:g} GB there are"
    if not room.lacks(more):
        return f"{told}, with this {(room.bytes + more) / GB:.1f} GB." if more else f"{told}."
    needed = f", and this takes {more / GB:.1f} GB" if more else ""
    return f"{told}{needed}. What is deleted makes room after 30 days, or at once by who runs the studio, who can also allow more."


def require_room(of: Of, pk: int, more: float) -> None:
    """Raises: NotPossible where so many bytes more are too many"""
    room = room_of(of, pk)
    if room.lacks(more):
        raise NotPossible(words_of(of, room, more))
