"""A pack that Saucer made comes back with everything it knew: categories, tags, notes, rights, versions; for a curator their states too."""

from __future__ import annotations

import hashlib
import logging
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from django.db import DataError, IntegrityError, transaction
from pydantic import ValidationError

from saucer.core.errors import LutError, SaucerError
from saucer.core.look.extent import decode_json
from saucer.core.look.model import look_from
from saucer.core.look.problems import describe
from saucer.studio.catalogue.models import Entry, Kind, Version, VersionState
from saucer.studio.catalogue.order import many
from saucer.studio.catalogue.review import rules as review
from saucer.studio.common.refusals import Refusal
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.luts.rights import luts_in
from saucer.studio.packing.manifest import MANIFEST, MOST_ENTRIES, ManifestHead, PackedEntry
from saucer.studio.packing.members import Members
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, record, require
from saucer.studio.presets import rules as presets

log = logging.getLogger("saucer.packing")
LARGEST_MANIFEST = 32 * 2**20
"""Bytes: read as a whole it takes ten times as many."""


@dataclass
class Returned:
    """entries: that are on the Shelf now; there: names of what was there already; failed: what could not be brought back, and why"""

    entries: list[Entry] = field(default_factory=list)
    there: list[str] = field(default_factory=list)
    failed: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class ReadPack:
    """failed: entries that cannot be read, and why; members: files by their paths"""

    head: ManifestHead
    entries: list[PackedEntry]
    failed: list[str]
    members: Members


def read_pack(path: Path, place: str, folder: Path) -> ReadPack:
    """What a pack says, each entry by itself; its files lie in the folder, which stays as long as they are wanted.

    Raises: LutError for what is no pack of Saucer, or a newer one
    """
    members = Members(path, place, folder)
    if MANIFEST not in members:
        raise LutError(place, f"holds no {MANIFEST}, so it is no pack that Saucer made; bring its LUTs in as files")
    place = f"{place}, {MANIFEST}"
    if members.size(MANIFEST) > LARGEST_MANIFEST:
        raise LutError(place, f"larger than {LARGEST_MANIFEST // 2**20} MB")
    told = decode_json(members[MANIFEST], place)
    if not isinstance(told, dict) or not isinstance(told.get("entries"), list):
        raise LutError(place, "holds no list of entries")
    if len(told["entries"]) > MOST_ENTRIES:
        raise LutError(place, f"holds {len(told['entries'])} entries; {MOST_ENTRIES} is the most")
    try:
        head = ManifestHead.model_validate({name: value for name, value in told.items() if name != "entries"})
    except ValidationError as error:
        raise LutError(place, describe(error)[0]) from None
    entries, failed = [], []
    for number, one in enumerate(told["entries"], 1):
        try:
            entries.append(PackedEntry.model_validate(one))
        except ValidationError as error:
            name = one.get("name") if isinstance(one, dict) else None
            failed.append(f"{str(name)[:120] if name else f'Entry {number}'}: {'; '.join(describe(error)[:2])}"[:300])
    return ReadPack(head, entries, failed, members)


def bring_back(person: Person, path: Path, place: str, report: Callable[[float], None]) -> Returned:
    """In the transaction of the caller. What one entry cannot be brought back for is told and stops no other.

    Raises: NotAllowed; LutError for what is no pack
    """
    require(person, Role.DESIGNER, "bring in packs")
    with TemporaryDirectory() as folder:
        return _bring(person, read_pack(path, place, Path(folder)), place, report)


def _bring(person: Person, pack: ReadPack, place: str, report: Callable[[float], None]) -> Returned:
    found = Returned(failed=list(pack.failed))
    for number, packed in enumerate(pack.entries):
        report(number / len(pack.entries))
        try:
            with transaction.atomic():
                _bring_uses(person, packed, pack.head.luts, pack.members)
                if _is_there(person, packed, pack.members):
                    found.there.append(packed.name)
                    continue
                entry = _BY_KIND[packed.kind](person, packed, pack.members)
                many.change_one(person, packed.kind, entry.pk, {}, {}, packed.tags, ())
                found.entries.append(entry)
        except (SaucerError, Refusal) as error:
            found.failed.append(f"{packed.name}: {error}"[:300])
        except (DataError, IntegrityError):
            # What the database refuses, although it could be read: it is left out too, and stops no other.
            log.exception("%s of %s was refused by the database", packed.name, place)
            found.failed.append(f"{packed.name}: something in it cannot be kept; it was written to the server's log"[:300])
    record(person, "bring back pack", place, entries=[entry.pk for entry in found.entries], made_by=pack.head.made_by)
    return found


def _content(path: str, sha256: str, members: Mapping[str, bytes]) -> bytes:
    """Raises: LutError for a file that is not in the pack, or is not what was packed"""
    data = members.get(path)
    if data is None:
        raise LutError(path, "is not in the pack")
    if hashlib.sha256(data).hexdigest() != sha256:
        raise LutError(path, "was changed since it was packed")
    return data


def _bring_uses(person: Person, packed: PackedEntry, used: Mapping[str, str], members: Mapping[str, bytes]) -> None:
    """LUTs that its versions name and that are not on the Shelf."""
    named = luts_in([version.content for version in packed.versions])
    for sha256, path in used.items():
        if sha256 in named and not luts.is_on_shelf(person, sha256):
            luts.bring_in(person, _content(path, sha256, members), Path(path).name)


def _is_there(person: Person, packed: PackedEntry, members: Mapping[str, bytes]) -> bool:
    """Is an entry of this kind and name, whose last version is the same, on the Shelf already, for this person?"""
    latest = Entry.objects.visible_to(person).values("latest")
    found = Version.objects.filter(entry__kind=packed.kind, entry__name=packed.name, pk__in=latest)
    if packed.kind == Kind.LUT:
        if not packed.files:
            return False
        first = packed.files[0]
        return found.filter(luts__files__blob=first.sha256, luts__expects=first.expects, luts__gives=first.gives).exists()
    return bool(packed.versions) and found.filter(content=packed.versions[-1].content).exists()


def _fields(packed: PackedEntry) -> dict[str, Any]:
    return {
        name: getattr(packed, name) for name in ("author", "note", "category", "source", "licence", "may_pass_on", "pass_on_until")
    }


def _bring_lut(person: Person, packed: PackedEntry, members: Mapping[str, bytes]) -> Entry:
    if not packed.files:
        raise LutError(packed.name, "came without a file")
    first = packed.files[0]
    data = _content(first.path, first.sha256, members)
    entry = luts.bring_in(person, data, Path(first.path).name, packed.name, first.expects, first.gives, **_fields(packed))
    if packed.versions:
        _keep_state(person, entry, entry.versions.get(), packed.versions[-1].state)
    return entry


def _bring_look(person: Person, packed: PackedEntry, members: Mapping[str, bytes]) -> Entry:
    draft = None
    for version in packed.versions:
        look = look_from(version.content or {}, f"{packed.name}, version {version.number}").model_copy(update={"name": packed.name})
        draft = looks.save_draft(person, draft.pk, look, draft.revision) if draft else looks.create(person, look, **_fields(packed))
        _keep_state(person, draft.entry, looks.save_version(person, draft.pk, version.note), version.state)
    if draft is None:
        raise LutError(packed.name, "came without a version")
    return draft.entry


def _bring_preset(person: Person, packed: PackedEntry, members: Mapping[str, bytes]) -> Entry:
    entry = None
    for version in packed.versions:
        place = f"{packed.name}, version {version.number}"
        steps = presets.steps_of((version.content or {}).get("steps", []), place)
        if entry is None:
            fields = _fields(packed)
            entry = presets.keep(person, packed.name, steps, fields.pop("category"), fields.pop("note"), **fields)
            made = entry.versions.get()
        else:
            made = presets.save_version(person, entry.pk, steps, version.note)
            entry = made.entry
        _keep_state(person, entry, made, version.state)
    if entry is None:
        raise LutError(packed.name, "came without a version")
    return entry


_BY_KIND: dict[Kind, Callable[[Person, PackedEntry, Mapping[str, bytes]], Entry]] = {
    Kind.LUT: _bring_lut, Kind.LOOK: _bring_look, Kind.PRESET: _bring_preset,
}  # fmt: skip


def _keep_state(person: Person, entry: Entry, version: Version, state: VersionState) -> None:
    """What was published elsewhere is published here where the person may publish; else it begins as a draft."""
    if may(person, Role.CURATOR) and state != VersionState.DRAFT:
        review.restore_state(entry, version, state)


assert set(_BY_KIND) == set(Kind)
