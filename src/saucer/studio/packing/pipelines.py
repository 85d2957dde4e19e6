"""What a pack holds for pipelines: an OpenColorIO configuration with the published looks and LUTs, and ACES look transforms."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import PurePosixPath

from saucer.core.bake import aces, ocio
from saucer.core.bake.bake import Words, bake_file
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import View
from saucer.core.errors import SaucerError
from saucer.core.files.fitting import write_lut
from saucer.core.files.registry import formats
from saucer.core.look.family import named
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.common.downloads import safe_name
from saucer.studio.common.names import file_stem
from saucer.studio.common.refusals import Refusal
from saucer.studio.encodings import rules as encodings
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.packing.manifest import LeftOut
from saucer.studio.packing.rules import Member, Packed

FOLDER = "pipelines"
CONFIG = f"{FOLDER}/{ocio.CONFIG}"
SIZE = 65
"""Nodes a side of what no formula says: the pipelines' own files are the best that are made."""


def members_for(packed: Packed, entries: Sequence[Entry]) -> Iterator[Member]:
    """The configuration and its files, the look transforms; nothing where none of these is published. What is left out says why."""
    offered: list[ocio.ConfigLook] = []
    published = [entry for entry in entries if entry.kind != Kind.PRESET and entry.published is not None]
    for entry in entries:
        if entry.kind != Kind.PRESET and entry.published is None:
            packed.left_out.append(LeftOut(name=f"{entry.name} for pipelines", why="it is not published"))
    each = [(entry, member) for entry in published for member in ("", *_family_of(entry, packed))]
    for (entry, member), name in zip(each, ocio.names_for([named(entry.name, member) for entry, member in each]), strict=True):
        path = str(PurePosixPath("looks") / safe_name(f"{file_stem(name)}-{entry.pk}.clf"))
        try:
            data, expects, gives, view = _file_of(entry, member)
            offered.append(ocio.ConfigLook(name, path, expects, gives, _words(entry), view))
            yield f"{FOLDER}/{path}", data
            if entry.kind == Kind.LOOK and aces.is_aces(expects.id, gives.id) and entry.published is not None:
                look, number = looks.look_of(entry.published, member), entry.published.number
                yield f"{FOLDER}/aces/{file_stem(name)}-{entry.pk}.clf", aces.look_transform(look, number, SIZE, luts.at_hand)
        except (SaucerError, Refusal) as error:
            packed.left_out.append(LeftOut(name=f"{named(entry.name, member)} for pipelines"[:200], why=str(error)[:300]))
    if not offered:
        return
    own = list(encodings.own().values())
    spaces = ocio.needed_for(own, offered)
    for space in spaces:
        for path, data in ocio.space_files(space):
            yield f"{FOLDER}/{path}", data
    for path, data in ocio.view_files(spaces):
        yield f"{FOLDER}/{path}", data
    yield CONFIG, ocio.config_text(packed.choice.title, own, offered, encodings.studio_view()).encode()


def _family_of(entry: Entry, packed: Packed) -> list[str]:
    return looks.names_in_family(entry.published) if entry.published is not None and packed.choice.family else []


def _file_of(entry: Entry, member: str) -> tuple[bytes, Encoding, Encoding, View]:
    """The published version in the Common LUT Format, the encodings at its ends, and the view that it is seen by.

    member: which of a look's family
    """
    assert entry.published is not None
    form = formats()["clf"]
    if entry.kind == Kind.LUT:
        lut = luts.find_in_version(entry.published)
        data = write_lut(luts.table_of(lut), form).data
        return data, encodings.find(lut.expects), encodings.find(lut.gives), encodings.studio_view()
    look = looks.look_of(entry.published, member)
    made = bake_file(look, form, SIZE, Words(named(entry.name, member), entry.author, entry.licence), luts=luts.at_hand)
    return made.data, encodings.find(look.input), encodings.find(look.output), look.view


def _words(entry: Entry) -> str:
    character = getattr(entry, "character", None)
    return ". ".join(part for part in (entry.note, ", ".join(character.words) if character else "") if part)[:500]
