"""What a link shows: entries at their latest version on pictures, or shots through all that lies on them; nothing else."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

from django.utils import timezone

from saucer.studio.boards.models import BoardEntry, BoardPicture
from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.common.images import encoded
from saucer.studio.common.lanes import FRAMES
from saucer.studio.common.refusals import NotFound
from saucer.studio.guests.models import GalleryEntry, GalleryPicture, Guest, GuestLink, Shows
from saucer.studio.guests.stamping import stamp_on
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.preview import entries as previews
from saucer.studio.projects import rules as projects
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.grade.chain import chain_of, chains_of
from saucer.studio.projects.models import Shot

NOT_SHOWN = "This is not shown here any more."
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


@dataclass(frozen=True)
class ShownEntry:
    """name: a letter where names are hidden"""

    entry: Entry
    name: str


@dataclass(frozen=True)
class ShownShot:
    """shows: changes whenever it looks different"""

    shot: Shot
    scene: str
    shows: str


@dataclass(frozen=True)
class Frame:
    """A picture as a guest sees it. state: changes whenever it would look different"""

    state: str
    make: Any


def maker_of(link: GuestLink) -> Person:
    """Whose eyes guests see with."""
    assert link.made_by is not None  # a link without a maker is not open (links.may_still_show)
    return link.made_by


def _entry_rows(link: GuestLink) -> Any:
    """Which entries stand there: of a board, or of a gallery; none of a wall."""
    if link.shows == Shows.WALL:
        return GalleryEntry.objects.none()
    return BoardEntry.objects.filter(board=link.board) if link.board else GalleryEntry.objects.filter(link=link)


def _entries_there(link: GuestLink) -> Any:
    """Entries that its maker sees and that have a version, with the latest."""
    there = Entry.objects.visible_to(maker_of(link)).filter(latest__isnull=False).order_by()
    return there.select_related("latest").defer("latest__content", "document")


def list_entries(link: GuestLink) -> list[ShownEntry]:
    """In the order they are shown in; drafts without a version, and what its maker does not see, are left out. None for a wall"""
    order = list(_entry_rows(link).values_list("entry", flat=True))
    shuffle = link.board.shuffle if link.board else 0
    if shuffle:
        random.Random(shuffle).shuffle(order)  # noqa: S311
    found = _entries_there(link).in_bulk(order)
    shown = [found[pk] for pk in order if pk in found]
    return [ShownEntry(entry, LETTERS[at] if shuffle else entry.name) for at, entry in enumerate(shown)]


def _picture_rows(link: GuestLink) -> Any:
    """Which pictures entries are seen on; none of a wall."""
    if link.shows == Shows.WALL:
        return GalleryPicture.objects.none()
    return BoardPicture.objects.filter(board=link.board) if link.board else GalleryPicture.objects.filter(link=link)


def list_pictures(link: GuestLink) -> list[Picture]:
    """That entries are seen on, in their order."""
    order = list(_picture_rows(link).values_list("picture", flat=True))
    found = Picture.objects.visible_to(maker_of(link)).in_bulk(order)
    return [found[pk] for pk in order if pk in found]


def list_shots(link: GuestLink) -> list[ShownShot]:
    """In story order; none but for a wall."""
    if link.project is None:
        return []
    shots = Shot.objects.filter(scene__project=link.project, deleted=None).select_related("scene__project", "picture__footage")
    found = list(shots)
    shows = shows_of(found)
    return [ShownShot(one, one.scene.name, shows[one.pk]) for one in found]


def find_entry(link: GuestLink, pk: int) -> Entry:
    """With its latest version. Raises: NotFound for what the link does not show"""
    shown: Entry | None = _entries_there(link).filter(pk__in=_entry_rows(link).filter(entry=pk).values("entry")).first()
    if shown is None:
        raise NotFound(NOT_SHOWN)
    return shown


def version_shown(entry: Entry) -> Version:
    """Of an entry that is shown."""
    assert entry.latest is not None
    entry.latest.entry = entry
    return entry.latest


def find_picture(link: GuestLink, pk: int) -> Picture:
    """Raises: NotFound for one that the link does not show"""
    rows = _picture_rows(link).filter(picture=pk).values("picture")
    shown: Picture | None = Picture.objects.visible_to(maker_of(link)).filter(pk__in=rows).first()
    if shown is None:
        raise NotFound(NOT_SHOWN)
    return shown


def find_shot(link: GuestLink, pk: int) -> Shot:
    """Raises: NotFound for what the link does not show"""
    if link.project is None:
        raise NotFound(NOT_SHOWN)
    return projects.find_shot_to_show(maker_of(link), link.project.pk, pk)


def shows_of(shots: Sequence[Shot]) -> dict[int, str]:
    """What each looks like now, by its number; the same few queries for many. shots: with their projects and pictures"""
    lying = chains_of(shots)
    return {one.pk: seeing.shows(one, lying[one.pk]) for one in shots}


def sides_of(picture: Picture) -> float:
    """Width over height."""
    return round(picture.width / max(1, picture.height), 4)


def frame_of_entry(guest: Guest, pk: int, picture: int, large: bool) -> Frame:
    """Raises: NotFound"""
    link = guest.link
    entry, shown = find_entry(link, pk), find_picture(link, picture)
    number, turn = version_shown(entry).number, partial(FRAMES.turn, ("guests", link.pk))
    state = previews.state_of(entry, shown, number, large)
    return _stamped(guest, state, partial(previews.preview_file, entry, shown, number, large, turn))


def frame_of_shot(guest: Guest, pk: int, large: bool, number: int | None = None) -> Frame:
    """number: of a frame of what moves; one that is scrubbed over is not kept. Without, it is the wall's. Raises: NotFound"""
    shot, turn = find_shot(guest.link, pk), partial(FRAMES.turn, ("guests", guest.link_id))
    layers, held = chain_of(shot), seeing.frame_of(shot, number)
    state = seeing.state_of(shot, layers, large, held)
    if held is None or held == shot.poster:
        return _stamped(guest, state, partial(seeing.preview_file, shot, layers, large, None, turn))

    def make() -> bytes:
        with turn():
            return encoded(seeing.pixels(shot, layers, None if large else previews.CARD_WIDTH, held, seeing.NODES_PLAYED), "jpeg")

    return _stamped(guest, state, make)


def _stamped(guest: Guest, state: str, make: Any) -> Frame:
    if not guest.link.stamp:
        return Frame(state, make)
    words = f"{guest.name}, {timezone.localdate()}"
    return Frame(f"{state}-{guest.pk}-{timezone.localdate()}", lambda: stamp_on(make(), words, f"guest {guest.pk}"))
