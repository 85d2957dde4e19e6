"""What goes into a pack: which entries may leave, as which files, under which names."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from saucer.core.bake.bake import Words, bake_file
from saucer.core.errors import LutError, SaucerError
from saucer.core.files.fitting import write_lut
from saucer.core.look.bundle import lut_hashes
from saucer.core.look.family import as_member, named
from saucer.core.look.model import Look, look_text
from saucer.studio.baking.choices import FormatChoice
from saucer.studio.catalogue.models import Entry, Kind, PassOn, Version, VersionState
from saucer.studio.catalogue.rules import version_of
from saucer.studio.common.downloads import safe_name
from saucer.studio.common.names import file_stem
from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible, Refusal
from saucer.studio.common.store import read_kept
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.rights import Contents, Thing, contents_of
from saucer.studio.packing.manifest import Inside, LeftOut, PackedEntry, PackedFile, PackedVersion, Told
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, require
from saucer.studio.presets import rules as presets

MOST_ENTRIES, MOST_PICTURES, MOST_FORMATS = 500, 4, 6
NO_VERSION = "{} has no version yet: save one on the Bench."


class PackChoice(BaseModel):
    """What is to leave. size: nodes a side of what is baked or made anew, null for each LUT's own and 33 for looks

    reason: why a curator lets out what its rights hold back; pictures: that the page shows everything on
    tags: does the page say them? They are the team's own; the pack knows them either way, for whoever brings it back
    """

    model_config = ConfigDict(extra="forbid")

    entries: Annotated[list[int], Field(min_length=1, max_length=MOST_ENTRIES)]
    formats: Annotated[list[FormatChoice], Field(min_length=1, max_length=MOST_FORMATS)] = [FormatChoice(format="cube")]
    size: Annotated[int | None, Field(ge=2, le=129)] = None
    pictures: Annotated[list[int], Field(max_length=MOST_PICTURES)] = []
    tags: bool = False
    title: Annotated[str, Field(max_length=120)] = "Looks"
    family: Annotated[bool, Field(description="each of a look's family baked too, beside its recipe")] = True
    pipelines: Annotated[
        bool, Field(description="with an OpenColorIO configuration of what is published, and ACES look transforms")
    ] = False
    reason: Annotated[str, Field(max_length=300)] = ""


@dataclass(frozen=True)
class Leaving:
    """An entry that leaves, or stays: with the version that would, what is in it, and why it is held back, in words"""

    entry: Entry
    version: Version | None
    contents: Contents
    why: str


def choose(person: Person, choice: PackChoice) -> tuple[list[Leaving], list[LeftOut]]:
    """What leaves and what is held back: by its rights or those of what is in it, or for want of a version.

    A curator who gives a reason lets out what rights hold back. The same for the sheet and for the job.
    Raises: NotFound where something was deleted; NotAllowed for a reason of somebody who is no curator; LutError for a format there is not
    """
    require(person, Role.DESIGNER, "pack entries")
    for one in choice.formats:
        one.form()
    found = Entry.objects.visible_to(person).filter(pk__in=choice.entries)
    found = found.select_related("owner", "category", "latest", "published", "character")
    entries = sorted(found.prefetch_related("tags"), key=lambda entry: (entry.category_path.lower(), entry.name.lower(), entry.pk))
    if len(entries) < len(set(choice.entries)):
        raise NotFound("Some of these were deleted meanwhile. Choose again.")
    reason = choice.reason.strip()
    if reason and not may(person, Role.CURATOR):
        raise NotAllowed("You cannot let out what its rights hold back: it takes the role curator.")
    looked = look_into([(entry, entry.offered) for entry in entries], lets_out=bool(reason))
    return [one for one in looked if not one.why], [LeftOut(name=one.entry.name, why=one.why[:300]) for one in looked if one.why]


def look_into(given: Sequence[tuple[Entry, Version | None]], lets_out: bool = False) -> list[Leaving]:
    """lets_out: whatever rights say. Three queries a level of nesting, however many there are."""
    things = [Thing(entry, version.content, version.number) if version else Thing(entry) for entry, version in given]
    return [
        Leaving(entry, version, contents, _why(entry, version, contents, lets_out))
        for (entry, version), contents in zip(given, contents_of(things), strict=True)
    ]


def rights_of(entry: Entry, number: int | None = None) -> list[str]:
    """Why a version of an entry, or its draft, may not leave; none where it may. number: of the version"""
    return inside_of(entry, number).reasons


def inside_of(entry: Entry, number: int | None = None) -> Contents:
    """What a version of an entry contains; of a look without a number, its draft. Raises: NotFound"""
    if number is not None:
        thing = Thing.of(version_of(entry, number))
    elif entry.kind == Kind.LOOK:
        thing = Thing(entry, looks.draft_of(entry).content)
    else:
        thing = Thing.of(entry.offered) if entry.offered is not None else Thing(entry)
    return contents_of([thing])[0]


def _why(entry: Entry, version: Version | None, contents: Contents, lets_out: bool) -> str:
    if not lets_out and contents.reasons:
        return "; ".join(contents.reasons[:2])
    return "" if version is not None else NO_VERSION.format(entry.name)


@dataclass
class Packed:
    """The members of a pack as they are made: path to content. used: LUTs that looks and presets need, SHA-256 to path

    inside: what is told of these, by SHA-256

    shown: the entries themselves, in the order of what is said of them
    told: what is said of an entry, by its number, in place of what stands there now
    """

    choice: PackChoice
    entries: list[PackedEntry] = field(default_factory=list)
    shown: list[Entry] = field(default_factory=list)
    left_out: list[LeftOut] = field(default_factory=list)
    used: dict[str, str] = field(default_factory=dict)
    taken: set[str] = field(default_factory=set)
    inside: dict[str, Inside] = field(default_factory=dict)
    told: Mapping[int, Told] = field(default_factory=dict)

    def said_of(self, entry: Entry) -> Told:
        return self.told.get(entry.pk) or told_of(entry)

    def path(self, entry: Entry, name: str) -> str:
        """In the folder of its category; a number is put behind a name that is taken."""
        folder = "/".join(safe_name(part, "folder") for part in self.said_of(entry).category.split("/") if part)
        stem, dot, suffix = safe_name(name, "entry").rpartition(".")
        wanted, number = f"{folder}/{stem}{dot}{suffix}".lstrip("/"), 2
        while wanted.lower() in self.taken:
            wanted, number = f"{folder}/{stem}-{number}{dot}{suffix}".lstrip("/"), number + 1
        self.taken.add(wanted.lower())
        return wanted


Member = tuple[str, bytes]


def members_of(packed: Packed, leaving: Sequence[Leaving], report: Callable[[float], None]) -> Iterator[Member]:
    """The files of every entry in turn. What cannot be made is left out and says why; nothing else is stopped by it."""
    for number, one in enumerate(leaving):
        report(number / len(leaving))
        entry, version = one.entry, one.version
        assert version is not None
        made: list[Member] = []
        files: list[PackedFile] = []
        try:
            for path, data, about in _files_of(packed, one, version):
                made.append((path, data))
                files.append(about)
        except (SaucerError, Refusal) as error:
            packed.left_out.append(LeftOut(name=entry.name, why=str(error)[:300]))
            continue
        except FileNotFoundError:
            packed.left_out.append(LeftOut(name=entry.name, why="its file is gone: ./saucer check tells which"))
            continue
        packed.entries.append(_describe(packed.said_of(entry), entry, version, files))
        packed.shown.append(entry)
        yield from made
    for sha256, path in sorted(packed.used.items()):
        yield path, read_kept(sha256)


def _files_of(packed: Packed, leaving: Leaving, version: Version) -> Iterator[tuple[str, bytes, PackedFile]]:
    entry = leaving.entry
    if entry.kind == Kind.LUT:
        yield from _lut_files(packed, entry, version)
        return
    look, held = look_in(entry, version), leaving.contents.luts
    for sha256 in sorted(lut_hashes(look)):
        if sha256 not in packed.used:
            name, _ = luts.content_of(sha256)
            packed.used[sha256] = f"luts/{sha256[:8]}-{safe_name(name)}"
        if sha256 in held:
            packed.inside.setdefault(sha256, _tell_inside(held[sha256], sha256, packed.used[sha256])).used_by.append(entry.name)
    text = look_text(look).encode()
    path = packed.path(entry, f"{file_stem(packed.said_of(entry).name)}.{entry.kind}.json")
    yield path, text, PackedFile(path=path, format=entry.kind, sha256=hashlib.sha256(text).hexdigest(), bytes=len(text))
    for member in ("", *(one.name for one in look.family if packed.choice.family)):
        yield from _baked_files(packed, entry, as_member(look, member), member)


def _baked_files(packed: Packed, entry: Entry, look: Look, member: str) -> Iterator[tuple[str, bytes, PackedFile]]:
    """A look, or one of its family, in every format that was asked for."""
    said = packed.said_of(entry)
    words = Words(named(said.name, member), said.author, said.licence, said.note[:200])
    for one in packed.choice.formats:
        form = one.form()
        try:
            made = bake_file(look, form, packed.choice.size or 33, words, one.options, luts.at_hand)
        except LutError as error:
            packed.left_out.append(LeftOut(name=f"{named(entry.name, member)} as {form.name}"[:200], why=error.problem[:300]))
            continue
        yield _written(packed, entry, one, made.data, made.lut.size, look.input, look.output, list(made.lost), member)


def _tell_inside(entry: Entry, sha256: str, path: str) -> Inside:
    return Inside(
        name=entry.name, path=path, sha256=sha256, used_by=[], source=entry.source, licence=entry.licence,
        may_pass_on=PassOn(entry.may_pass_on), pass_on_until=entry.pass_on_until,
    )  # fmt: skip


def _lut_files(packed: Packed, entry: Entry, version: Version) -> Iterator[tuple[str, bytes, PackedFile]]:
    lut = luts.find_in_version(version)
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
            packed.left_out.append(LeftOut(name=f"{entry.name} as {form.name}", why=error.problem[:300]))
            continue
        yield _written(packed, entry, one, made.data, made.lut.size, lut.expects, lut.gives, list(made.lost))


def make_file(
    entry: Entry, one: FormatChoice, size: int | None, number: int | None = None, member: str = ""
) -> tuple[str, bytes, list[str]]:
    """One file of an entry, in any format and size. number: of one of its versions, in place of the one that leaves in packs

    member: which of a look's family; nothing else has one
    Returns: name, content, what the format could not hold. Raises: LutError, LookError, NotFound, NotPossible
    """
    form = one.form()
    version = version_of(entry, number) if number is not None else None
    if entry.kind == Kind.LUT:
        lut = luts.find_in_version(version) if version else luts.lut_of(entry)
        made = write_lut(luts.table_of(lut), form, one.options, size)
    else:
        look = as_member(look_in(entry, version) if version else shown_look(entry), member)
        words = Words(named(entry.name, member), entry.author, entry.licence, entry.note[:200])
        made = bake_file(look, form, size or 33, words, one.options, luts.at_hand)
    return f"{file_stem(named(entry.name, member))}{one.suffix or form.suffix}", made.data, list(made.lost)


def _written(
    packed: Packed,
    entry: Entry,
    one: FormatChoice,
    data: bytes,
    size: int,
    expects: str,
    gives: str,
    lost: list[str],
    member: str = "",
) -> tuple[str, bytes, PackedFile]:
    form = one.form()
    path = packed.path(entry, f"{file_stem(named(packed.said_of(entry).name, member))}{one.suffix or form.suffix}")
    about = PackedFile(
        path=path,
        format=form.id,
        size=size,
        sha256=hashlib.sha256(data).hexdigest(),
        bytes=len(data),
        expects=expects,
        gives=gives,
        lost=[words[:300] for words in lost[:100]],
        member=member,
    )
    return path, data, about


def shown_look(entry: Entry) -> Look:
    """Raises: NotPossible for a look of which no version was saved"""
    return look_in(entry, _offered(entry))


def _offered(entry: Entry) -> Version:
    if entry.offered is None:
        raise NotPossible(NO_VERSION.format(entry.name))
    return entry.offered


def look_in(entry: Entry, version: Version) -> Look:
    """A version of a look or of a preset as a look."""
    return presets.look_of(entry, version) if entry.kind == Kind.PRESET else looks.look_of(version)


def told_of(entry: Entry) -> Told:
    """What is said of it now."""
    return Told(
        name=entry.name, author=entry.author, note=entry.note, category=entry.category_path,
        tags=sorted(tag.name for tag in entry.tags.all()), source=entry.source, licence=entry.licence,
        may_pass_on=PassOn(entry.may_pass_on), pass_on_until=entry.pass_on_until,
    )  # fmt: skip


def _describe(said: Told, entry: Entry, last: Version, files: list[PackedFile]) -> PackedEntry:
    character = getattr(entry, "character", None)
    versions = Version.objects.filter(entry=entry, number__lte=last.number).select_related("made_by").order_by("number")
    return PackedEntry(
        **said.model_dump(), kind=Kind(entry.kind), character=list(character.words) if character else [], files=files,
        versions=[
            PackedVersion(
                number=one.number, state=VersionState(one.state), note=one.note, made=one.made, content=one.content,
                made_by=one.made_by.shown_name[:120] if one.made_by else "",
            )
            for one in versions
        ],
    )  # fmt: skip
