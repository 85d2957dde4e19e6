"""The Shelf: looks and LUTs found, previewed and tried as one kind of thing."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

import numpy as np
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.grade import Grade
from saucer.core.lut.apply import to_codes
from saucer.studio.encodings import rules as encodings
from saucer.studio.images import encoded
from saucer.studio.looks import rules as looks
from saucer.studio.looks.models import LookEntry
from saucer.studio.looks.preview import thumbnail
from saucer.studio.luts import rules as luts
from saucer.studio.luts.models import LutEntry
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in

Kind = Literal["lut", "look"]


@dataclass(frozen=True)
class Entry:
    """One card. `state` changes whenever the entry would look different."""

    kind: Kind
    id: int
    name: str
    detail: str
    state: str
    by: str
    at: datetime
    size: int
    category: str = ""


def entries(search: str = "", kind: str = "") -> list[Entry]:
    """Newest first, those whose name, author, detail or category holds every word of `search`."""
    found: list[Entry] = []
    if kind in ("", "look"):
        for look in LookEntry.objects.filter(deleted=None).select_related("owner").prefetch_related("versions"):
            count = len(look.versions.all())
            detail = f"Look, version {count}" if count else "Look, draft"
            found.append(
                Entry(
                    "look",
                    look.pk,
                    look.name,
                    detail,
                    look.draft_hash[:16],
                    look.owner.shown_name if look.owner else "",
                    look.edited,
                    0,
                )
            )
    if kind in ("", "lut"):
        names = {one.id: one.name for one in (*ENCODINGS.values(), *encodings.own().values())}
        for lut in LutEntry.objects.filter(deleted=None).select_related("owner"):
            detail = f"LUT, {lut.kind}, {lut.size}, {names.get(lut.expects, lut.expects)}"
            by = lut.author or (lut.owner.shown_name if lut.owner else "")
            found.append(Entry("lut", lut.pk, lut.name, detail, _lut_state(lut), by, lut.created, lut.size, lut.category))
    words = search.lower().split()
    chosen = [
        entry
        for entry in found
        if all(word in f"{entry.name} {entry.by} {entry.detail} {entry.category}".lower() for word in words)
    ]
    return sorted(chosen, key=lambda entry: entry.at, reverse=True)


def _lut_state(entry: LutEntry) -> str:
    return f"{entry.sha256[:16]}-{entry.expects}-{entry.gives}"


def state_of(kind: Kind, pk: int) -> str:
    return looks.find(pk).draft_hash[:16] if kind == "look" else _lut_state(luts.find(pk))


def grade_of(kind: Kind, pk: int, strength: float = 1.0) -> Grade:
    """What an entry does, ready to be laid on a picture. Raises: NotFound"""
    if kind == "look":
        return Grade.of_look(looks.draft_of(looks.find(pk)), strength, luts.at_hand)
    entry = luts.find(pk)
    return Grade.of_lut(luts.table_of(entry), *luts.ends_of(entry), strength)


def file_stem(kind: Kind, pk: int) -> str:
    name = looks.find(pk).name if kind == "look" else luts.find(pk).name
    return "-".join("".join(letter if letter.isalnum() else " " for letter in name).lower().split()) or kind


def frame(grade: Grade, picture: Picture, step: int = 1) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: every `step`-th proxy pixel through the entry."""
    values = np.ascontiguousarray(proxy_in(picture)[::step, ::step])
    return to_codes(grade(values, encodings.find(picture.encoding), ENCODINGS["srgb"]), np.uint8)


def preview_file(kind: Kind, pk: int, picture: Picture) -> bytes:
    """The card's picture as JPEG, made once per state of entry and picture and kept."""
    name = f"previews/{kind}-{state_of(kind, pk)}-{picture.proxy_sha256[:16]}-{picture.encoding}.jpg"
    if default_storage.exists(name):
        with default_storage.open(name, "rb") as file:
            kept: bytes = file.read()
            return kept
    data = encoded(thumbnail(frame(grade_of(kind, pk), picture, 2)), "jpeg")
    default_storage.save(name, ContentFile(data))
    return data
