"""Entries of the Shelf on pictures: what each does, ready to be laid on, and the pictures of the wall."""

from __future__ import annotations

from contextlib import nullcontext

import numpy as np

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.look.family import as_member
from saucer.core.lut.apply import to_codes
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.catalogue.rules import version_of
from saucer.studio.common.images import encoded
from saucer.studio.common.refusals import NotFound
from saucer.studio.encodings import rules as encodings
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.models import Lut
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.presets import rules as presets
from saucer.studio.preview.kept import Turn, kept_preview

CARD_WIDTH = 480
FINE = 95
"""JPEG quality at which no block shows when it is zoomed into."""


def find_shown(person: Person, pk: int) -> Entry:
    """Only what a preview needs of an entry. Raises: NotFound"""
    entry = Entry.objects.visible_to(person).filter(pk=pk).order_by().only("kind", "shown_hash").first()
    if entry is None:
        raise NotFound("There is no such entry, or it was deleted.")
    return entry


def grade_of(entry: Entry, strength: float = 1.0, number: int | None = None, member: str = "") -> Grade:
    """What an entry does, ready to be laid on a picture. number: of one of its versions, in place of what the wall shows of it

    member: which of a look's family; nothing else has one. Raises: LookError where there is no such member
    """
    if number is not None:
        return grade_of_version(version_of(entry, number), strength, member)
    if entry.kind == Kind.LUT:
        return _of_lut(luts.lut_of(entry), strength)
    look = as_member(looks.look_shown(entry.pk), member) if entry.kind == Kind.LOOK else presets.look_of(entry)
    return Grade.of_look(look, strength, luts.at_hand)


def grade_of_version(version: Version, strength: float = 1.0, member: str = "") -> Grade:
    """What a version does, of an entry that was deleted too: where it is pinned it stays. member: as `grade_of`"""
    entry = version.entry
    if entry.kind == Kind.LUT:
        return _of_lut(luts.find_in_version(version), strength)
    look = looks.look_of(version, member) if entry.kind == Kind.LOOK else presets.look_of(entry, version)
    return Grade.of_look(look, strength, luts.at_hand)


def _of_lut(lut: Lut, strength: float) -> Grade:
    return Grade.of_lut(luts.table_of(lut), *luts.encodings_of(lut), strength, encodings.studio_view())


def frame(grade: Grade, picture: Picture, step: int = 1) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: every `step`-th proxy pixel through the entry."""
    values = np.ascontiguousarray(proxy_in(picture)[::step, ::step])
    return to_codes(grade(values, encodings.find(picture.encoding), ENCODINGS["srgb"]), np.uint8)


def small_frame(grade: Grade, picture: Picture) -> np.ndarray:
    """(h, w, 3) uint8 sRGB, CARD_WIDTH wide: the picture, averaged down once for all entries, through this one."""
    values = proxy_in(picture, None, CARD_WIDTH)
    return to_codes(grade(values, encodings.find(picture.encoding), ENCODINGS["srgb"]), np.uint8)


def state_of(entry: Entry, picture: Picture, number: int | None = None, large: bool = False, member: str = "") -> str:
    """Changes whenever the entry, or the picture, would look different. number, member: as `grade_of`; a version never changes"""
    shown = f"version-{number}" if number is not None else entry.shown_hash[:16]
    if member and entry.kind == Kind.LOOK:
        # The hash of a look is its recipe's, which stays when a member changes: this one's own.
        look = looks.look_of(version_of(entry, number)) if number is not None else looks.look_shown(entry.pk)
        shown = as_member(look, member).content_hash[:32]
    size = "-large" if large else ""
    seen = "" if entry.kind == Kind.LOOK else f"-{encodings.studio_view()}"
    return f"{entry.kind}-{entry.pk}-{shown}-{picture.proxy_id[:16]}-{picture.encoding}{seen}{size}"


def preview_file(
    entry: Entry, picture: Picture, number: int | None = None, large: bool = False, turn: Turn = nullcontext, member: str = ""
) -> bytes:
    """The card's picture as JPEG, made once per state of entry and picture and kept. number, member: as `grade_of`

    turn: what is waited for where it is not there yet and has to be made

    large: all of the proxy, at the quality of a picture that is looked into, in place of CARD_WIDTH
    """

    def make() -> bytes:
        with turn():
            grade = grade_of(entry, 1.0, number, member)
            return encoded(frame(grade, picture), "jpeg", FINE) if large else encoded(small_frame(grade, picture), "jpeg")

    return kept_preview(state_of(entry, picture, number, large, member), make)
