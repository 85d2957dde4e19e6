"""What guests say of what they are shown: verdicts, and words that come back to the entry or the shot."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import Exists, OuterRef, Q

from saucer.studio.boards.models import BoardEntry, Choice, Verdict
from saucer.studio.catalogue.models import Entry, Pin, there_for
from saucer.studio.catalogue.review.rules import remark_as_guest
from saucer.studio.common.refusals import NotFound, TooMany
from saucer.studio.guests.models import Guest, GuestRemark, GuestVerdict
from saucer.studio.guests.showing import find_entry, find_picture, find_shot, shows_of, version_shown
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record
from saucer.studio.projects.models import Project, ShotNote
from saucer.studio.projects.story.notes import note_as_guest

MOST_REMARKS = 300
"""Of one guest."""
MOST_TOLD = 500
Place = tuple[float, float]


@dataclass(frozen=True)
class Said:
    """What a guest wrote: of an entry, on a picture or not, or of a shot."""

    remark: GuestRemark

    @property
    def words(self) -> Pin | ShotNote:
        found = self.remark.pin or self.remark.note
        assert found is not None
        return found

    @property
    def about(self) -> int:
        """Number of the entry or the shot."""
        words = self.words
        return words.version.entry_id if isinstance(words, Pin) else words.shot_id


def judge_entry(guest: Guest, pk: int, choice: Choice) -> None:
    """In place of what they said before. Raises: NotFound"""
    entry = find_entry(guest.link, pk)
    _judge(guest, entry, {"entry": entry}, choice, state_of_entry(entry))


def judge_shot(guest: Guest, pk: int, choice: Choice) -> None:
    """In place of what they said before. Raises: NotFound"""
    shot = find_shot(guest.link, pk)
    _judge(guest, shot.scene.project, {"shot": shot}, choice, shows_of([shot])[shot.pk])


def _judge(guest: Guest, about: Entry | Project, on: dict[str, Any], choice: Choice, state: str) -> None:
    with transaction.atomic():
        Guest.objects.select_for_update().get(pk=guest.pk)
        GuestVerdict.objects.update_or_create(guest=guest, **on, defaults={"choice": choice, "said_of": state})
        shot = on.get("shot")
        more = {"shot": shot.code, "ids": [shot.pk]} if shot is not None else {}
        record(None, "judge as guest", about, guest=guest.name, choice=str(choice), **more)


def remark_on_entry(guest: Guest, pk: int, words: str, picture: int | None, place: Place | None) -> GuestRemark:
    """On the version that is shown. Raises: NotFound, NotPossible, TooMany"""
    entry = find_entry(guest.link, pk)
    on = find_picture(guest.link, picture) if picture is not None else None
    with transaction.atomic():
        _hold(guest)
        return GuestRemark.objects.create(guest=guest, pin=remark_as_guest(version_shown(entry), guest.name, words, on, place))


def remark_on_shot(guest: Guest, pk: int, words: str, place: Place | None, frame: int | None = None) -> GuestRemark:
    """Raises: NotFound, NotPossible, TooMany"""
    shot = find_shot(guest.link, pk)
    with transaction.atomic():
        _hold(guest)
        return GuestRemark.objects.create(guest=guest, note=note_as_guest(shot, guest.name, words, place, frame))


def _hold(guest: Guest) -> None:
    """One remark after the other. Raises: TooMany"""
    Guest.objects.select_for_update().get(pk=guest.pk)
    if GuestRemark.objects.filter(guest=guest).count() >= MOST_REMARKS:
        raise TooMany(f"You have said {MOST_REMARKS} things; that is the most by one link.")


def take_back(guest: Guest, pk: int) -> None:
    """One's own; what was answered, or settled, stays. Raises: NotFound"""
    with transaction.atomic():
        found = GuestRemark.objects.select_for_update(of=("self",)).select_related(
            "pin__version__entry", "note__shot__scene__project"
        )
        remark = found.filter(guest=guest, pk=pk).exclude(pin__settled__isnull=False).exclude(pin__answered__isnull=False).first()
        if remark is None:
            raise NotFound("This was taken back, settled or answered meanwhile.")
        if remark.pin is not None:
            record(None, "take back remark", remark.pin.version, guest=guest.name, words=remark.pin.words[:200])
            remark.pin.delete()
        elif remark.note is not None:
            shot = remark.note.shot
            record(
                None, "take back note", shot.scene.project, guest=guest.name, shot=shot.code, ids=[shot.pk], words=remark.note.words
            )
            remark.note.delete()


def list_own(guest: Guest) -> tuple[list[GuestVerdict], list[Said]]:
    """What a guest has said so far, the oldest first."""
    remarks = GuestRemark.objects.filter(guest=guest).select_related("pin__version", "note").defer("pin__version__content")
    return list(GuestVerdict.objects.filter(guest=guest).exclude(choice="")), [Said(one) for one in remarks.order_by("pk")]


@dataclass(frozen=True)
class On:
    """Of what verdicts are asked for; none: of anything. board: of the entries on it, by its links; project: of its shots"""

    entry: int | None = None
    shot: int | None = None
    board: int | None = None
    project: int | None = None


def list_verdicts(person: Person, on: On) -> list[GuestVerdict]:
    """Those of all guests on what the person may see, the newest first.

    Where a board hides its names, only of what the person has said something of, as with the team's own: so that nobody follows.
    """
    seen = Q(there_for(person, "entry__"), entry__isnull=False) | Q(
        shot__deleted=None, shot__scene__project__in=Project.objects.visible_to(person).values("pk")
    )
    own = Verdict.objects.filter(board=OuterRef("guest__link__board"), entry=OuterRef("entry"), person=person).exclude(choice="")
    told_of = ~Q(guest__link__board__shuffle__gt=0) | Exists(own)
    found = GuestVerdict.objects.filter(seen, told_of).exclude(choice="")
    if on.board is not None:
        found = found.filter(entry__in=BoardEntry.objects.filter(board=on.board).values("entry"), guest__link__board=on.board)
    for name, value in (("entry", on.entry), ("shot", on.shot), ("shot__scene__project", on.project)):
        if value is not None:
            found = found.filter(**{name: value})
    told = found.select_related(
        "guest__link__board", "guest__link__project", "entry__latest", "shot__scene__project", "shot__picture__footage"
    )
    return list(told.defer("entry__latest__content", "entry__document").order_by("-at", "-pk")[:MOST_TOLD])


def state_of_entry(entry: Entry) -> str:
    """What `said_of` is of an entry that was judged as it is now."""
    return str(entry.latest.number) if entry.latest is not None else ""
