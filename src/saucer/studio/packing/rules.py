"""What goes into a pack: which entries may leave, as which files, under which names."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated

from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.bake.bake import Words, bake_file
from saucer.core.errors import LutError, SaucerError
from saucer.core.files.fitting import write_lut
from saucer.core.look.bundle import lut_hashes
from saucer.core.look.model import Look, look_text
from saucer.studio.baking.choices import FormatChoice
from saucer.studio.catalogue.models import Entry, Kind, PassOn, Version, standing
from saucer.studio.catalogue.rules import find_version
from saucer.studio.common.downloads import safe_name
from saucer.studio.common.names import file_stem
from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible, Refusal
from saucer.studio.common.store import read_kept
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.packing.manifest import LeftOut, PackedEntry, PackedFile, PackedVersion
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, require
from saucer.studio.presets import rules as presets

MOST_ENTRIES, MOST_PICTURES, MOST_FORMATS = 500, 4, 6


class PackChoice(BaseModel):
    """What is to leave. size: nodes a side of what is baked or made anew, null for each LUT's own and 33 for looks

    reason: why a curator lets out what its rights hold back; pictures: that the page shows everything on
    """

    model_config = ConfigDict(extra="forbid")

    entries: Annotated[list[int], Field(min_length=1, max_length=MOST_ENTRIES)]
    formats: Annotated[list[FormatChoice], Field(min_length=1, max_length=MOST_FORMATS)] = [FormatChoice(format="cube")]
    size: Annotated[int | None, Field(ge=2, le=129)] = None
    pictures: Annotated[list[int], Field(max_length=MOST_PICTURES)] = []
    title: Annotated[str, Field(max_length=120)] = "Looks"
    pipelines: Annotated[
        bool, Field(description="with an OpenColorIO configuration of what is published, and ACES look transforms")
    ] = False
    reason: Annotated[str, Field(max_length=300)] = ""


def held_back(entry: Entry) -> str:
    """Why its rights do not let it leave, in words; empty where they do."""
    if entry.pass_on_until is not None and entry.pass_on_until < timezone.localdate():
        return f"may be passed on until {entry.pass_on_until} only"
    if entry.may_pass_on == PassOn.NO:
        return "may not be passed on"
    return "" if entry.may_pass_on == PassOn.YES else "nobody has said that it may be passed on"


def choose(person: Person, choice: PackChoice) -> tuple[list[Entry], list[LeftOut]]:
    """What leaves and what its rights hold back. A curator who gives a reason lets everything out.

    Raises: NotFound where something was deleted; NotAllowed for a reason of somebody who is no curator; LutError for a format there is not
    """
    require(person, Role.DESIGNER, "pack entries")
    for one in choice.formats:
        one.form()
    found = Entry.objects.filter(pk__in=choice.entries, deleted=None)
    found = found.select_related("owner", "category", "latest", "published", "character")
    entries = sorted(found.prefetch_related("tags"), key=lambda entry: (entry.category_path.lower(), entry.name.lower(), entry.pk))
    if len(entries) < len(set(choice.entries)):
        raise NotFound("Some of these were deleted meanwhile. Choose again.")
    if choice.reason.strip():
        if not may(person, Role.CURATOR):
            raise NotAllowed("You cannot let out what its rights hold back: it takes the role curator.")
        return entries, []
    why = {entry.pk: held_back(entry) for entry in entries}
    return [entry for entry in entries if not why[entry.pk]], [
        LeftOut(name=entry.name, why=why[entry.pk]) for entry in entries if why[entry.pk]
    ]


@dataclass
class Packed:
    """The members of a pack as they are made: path to content. used: LUTs that looks and presets need, SHA-256 to path

    shown: the entries themselves, in the order of what is said of them
    pinned: the version that leaves, by entry, in place of the published or latest one
    """

    choice: PackChoice
    entries: list[PackedEntry] = field(default_factory=list)
    shown: list[Entry] = field(default_factory=list)
    left_out: list[LeftOut] = field(default_factory=list)
    used: dict[str, str] = field(default_factory=dict)
    taken: set[str] = field(default_factory=set)
    pinned: Mapping[int, Version] = field(default_factory=dict)

    def version_of(self, entry: Entry) -> Version:
        """That leaves. Raises: NotPossible for an entry of which no version was saved"""
        return self.pinned.get(entry.pk) or _offered(entry)

    def path(self, entry: Entry, name: str) -> str:
        """In the folder of its category; a number is put behind a name that is taken."""
        folder = "/".join(safe_name(part, "folder") for part in entry.category_path.split("/") if part)
        stem, dot, suffix = safe_name(name, "entry").rpartition(".")
        wanted, number = f"{folder}/{stem}{dot}{suffix}".lstrip("/"), 2
        while wanted.lower() in self.taken:
            wanted, number = f"{folder}/{stem}-{number}{dot}{suffix}".lstrip("/"), number + 1
        self.taken.add(wanted.lower())
        return wanted


Member = tuple[str, bytes]


def members_of(packed: Packed, entries: Sequence[Entry], report: Callable[[float], None]) -> Iterator[Member]:
    """The files of every entry in turn. What cannot be made is left out and says why; nothing else is stopped by it."""
    for number, entry in enumerate(entries):
        report(number / len(entries))
        made: list[Member] = []
        files: list[PackedFile] = []
        try:
            for path, data, about in _files_of(packed, entry):
                made.append((path, data))
                files.append(about)
        except (SaucerError, Refusal) as error:
            packed.left_out.append(LeftOut(name=entry.name, why=str(error)[:300]))
            continue
        except FileNotFoundError:
            packed.left_out.append(LeftOut(name=entry.name, why="its file is gone: ./saucer check tells which"))
            continue
        packed.entries.append(_describe(entry, packed.version_of(entry), files))
        packed.shown.append(entry)
        yield from made
    for sha256, path in sorted(packed.used.items()):
        yield path, read_kept(sha256)


def _files_of(packed: Packed, entry: Entry) -> Iterator[tuple[str, bytes, PackedFile]]:
    if entry.kind == Kind.LUT:
        yield from _lut_files(packed, entry)
        return
    look = look_in(entry, packed.version_of(entry))
    for sha256 in sorted(lut_hashes(look)):
        if sha256 not in packed.used:
            _check_used(packed, sha256)
            name, _ = luts.content_of(sha256)
            packed.used[sha256] = f"luts/{sha256[:8]}-{safe_name(name)}"
    text = look_text(look).encode()
    path = packed.path(entry, f"{file_stem(entry.name)}.{entry.kind}.json")
    yield path, text, PackedFile(path=path, format=entry.kind, sha256=hashlib.sha256(text).hexdigest(), bytes=len(text))
    words = Words(entry.name, entry.author, entry.licence, entry.note[:200])
    for one in packed.choice.formats:
        form = one.form()
        try:
            made = bake_file(look, form, packed.choice.size or 33, words, one.options, luts.at_hand)
        except LutError as error:
            packed.left_out.append(LeftOut(name=f"{entry.name} as {form.name}", why=error.problem))
            continue
        yield _written(packed, entry, one, made.data, made.lut.size, look.input, look.output, list(made.lost))


def _check_used(packed: Packed, sha256: str) -> None:
    """A LUT that a look uses leaves with it, so its own rights count too. Raises: NotPossible, where a curator gave no reason"""
    found = Entry.objects.filter(standing(), kind=Kind.LUT, versions__luts__files__blob=sha256).select_related("merged_into")
    owners = [one if one.deleted is None else one.merged_into or one for one in found.order_by("pk").distinct()]
    if owners and not packed.choice.reason.strip() and all(held_back(owner) for owner in owners):
        raise NotPossible(f'it uses the LUT "{owners[0].name}": {held_back(owners[0])}')


def _lut_files(packed: Packed, entry: Entry) -> Iterator[tuple[str, bytes, PackedFile]]:
    lut = luts.find_in_version(packed.version_of(entry))
    table = luts.table_of(lut)
    for one in packed.choice.formats:
        form = one.form()
        same = next((file for file in lut.files.all() if file.format == form.id), None)
        if same is not None and not one.depth and packed.choice.size in (None, same.size):
            yield _written(packed, entry, one, read_kept(same.blob_id), same.size, lut.expects, lut.gives, [])
            continue
        try:
            made = write_lut(table, form, one.options, packed.choice.size)
        except LutError as error:
            packed.left_out.append(LeftOut(name=f"{entry.name} as {form.name}", why=error.problem))
            continue
        yield _written(packed, entry, one, made.data, made.lut.size, lut.expects, lut.gives, list(made.lost))


def make_file(entry: Entry, one: FormatChoice, size: int | None, number: int | None = None) -> tuple[str, bytes, list[str]]:
    """One file of an entry, in any format and size. number: of one of its versions, in place of the one that leaves in packs

    Returns: name, content, what the format could not hold. Raises: LutError, NotFound, NotPossible
    """
    form = one.form()
    version = find_version(entry.kind, entry.pk, number) if number is not None else None
    if entry.kind == Kind.LUT:
        lut = luts.find_in_version(version) if version else luts.find(entry.pk)
        made = write_lut(luts.table_of(lut), form, one.options, size)
    else:
        look = look_in(entry, version) if version else shown_look(entry)
        words = Words(entry.name, entry.author, entry.licence, entry.note[:200])
        made = bake_file(look, form, size or 33, words, one.options, luts.at_hand)
    return f"{file_stem(entry.name)}{one.suffix or form.suffix}", made.data, list(made.lost)


def _written(
    packed: Packed, entry: Entry, one: FormatChoice, data: bytes, size: int, expects: str, gives: str, lost: list[str]
) -> tuple[str, bytes, PackedFile]:
    form = one.form()
    path = packed.path(entry, f"{file_stem(entry.name)}{one.suffix or form.suffix}")
    about = PackedFile(
        path=path,
        format=form.id,
        size=size,
        sha256=hashlib.sha256(data).hexdigest(),
        bytes=len(data),
        expects=expects,
        gives=gives,
        lost=lost,
    )
    return path, data, about


def shown_look(entry: Entry) -> Look:
    """Raises: NotPossible for a look of which no version was saved"""
    return look_in(entry, _offered(entry))


def _offered(entry: Entry) -> Version:
    if entry.offered is None:
        raise NotPossible(f"{entry.name} has no version yet: save one on the Bench.")
    return entry.offered


def look_in(entry: Entry, version: Version) -> Look:
    """A version of a look or of a preset as a look."""
    return presets.look_of(entry, version) if entry.kind == Kind.PRESET else looks.look_of(version)


def _describe(entry: Entry, last: Version, files: list[PackedFile]) -> PackedEntry:
    character = getattr(entry, "character", None)
    versions = Version.objects.filter(entry=entry, number__lte=last.number).select_related("made_by").order_by("number")
    return PackedEntry(
        kind=Kind(entry.kind).value, name=entry.name, author=entry.author, note=entry.note, category=entry.category_path,
        tags=sorted(tag.name for tag in entry.tags.all()), source=entry.source, licence=entry.licence, may_pass_on=entry.may_pass_on,
        pass_on_until=entry.pass_on_until, character=list(character.words) if character else [], files=files,
        versions=[
            PackedVersion(
                number=one.number, state=one.state, note=one.note, made=one.made, content=one.content,
                made_by=one.made_by.shown_name if one.made_by else "",
            )
            for one in versions
        ],
    )  # fmt: skip
