"""What may happen to looks: drafts, versions, bakes."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import Max

from saucer.core.differences import differences
from saucer.core.look import Look, look_from
from saucer.studio.deleting import bring_back, put_away
from saucer.studio.looks.models import LookEntry, Version
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require
from saucer.studio.refusals import Conflict, NotFound, NotPossible


def content_of(look: Look) -> dict[str, Any]:
    """The look as it is stored."""
    return look.model_dump(mode="json")


def create(person: Person, look: Look) -> LookEntry:
    require(person, Role.DESIGNER, "make looks")
    name = look.name.strip() or "Untitled look"
    with transaction.atomic():
        entry = LookEntry.objects.create(
            name=name,
            draft=content_of(look.model_copy(update={"name": name})),
            draft_hash=look.content_hash,
            owner=person,
            edited_by=person,
        )
        record(person, "make look", entry)
    return entry


def find(pk: int) -> LookEntry:
    """Raises: NotFound, for deleted ones too."""
    entry = LookEntry.objects.filter(pk=pk, deleted=None).first()
    if entry is None:
        raise NotFound("There is no such look, or it was deleted.")
    return entry


def draft_of(entry: LookEntry) -> Look:
    return look_from(entry.draft, f"look {entry.pk}")


def save_draft(person: Person, pk: int, look: Look, revision: int) -> LookEntry:
    """Save over the draft that the person began from. Raises: Conflict when somebody saved another one since."""
    require(person, Role.DESIGNER, "edit looks")
    with transaction.atomic():
        entry = LookEntry.objects.select_for_update().filter(pk=pk, deleted=None).first()
        if entry is None:
            raise NotFound("There is no such look, or it was deleted.")
        content = content_of(look)
        if entry.draft == content:
            return entry
        if entry.revision != revision:
            who = entry.edited_by.shown_name if entry.edited_by else "somebody"
            raise Conflict(f"{who} has changed this look since you opened it.", revision=entry.revision, by=who)
        entry.draft, entry.draft_hash, entry.revision = content, look.content_hash, entry.revision + 1
        entry.name, entry.edited_by = look.name.strip() or entry.name, person
        entry.save()
    return entry


def save_version(person: Person, pk: int, note: str = "") -> Version:
    """The draft as the next version. Raises: NotPossible when nothing changed since the last one."""
    require(person, Role.DESIGNER, "save versions")
    with transaction.atomic():
        entry = LookEntry.objects.select_for_update().filter(pk=pk, deleted=None).first()
        if entry is None:
            raise NotFound("There is no such look, or it was deleted.")
        last = entry.versions.first()
        if last is not None and last.content == entry.draft:
            raise NotPossible(f"Nothing has changed since version {last.number}.")
        number = (entry.versions.aggregate(Max("number"))["number__max"] or 0) + 1
        version = Version.objects.create(
            look=entry, number=number, note=note, content=entry.draft, content_hash=entry.draft_hash, made_by=person
        )
        record(person, "save version", version, hash=version.content_hash)
    return version


def branch(person: Person, pk: int, number: int) -> LookEntry:
    """A new look that begins as this version."""
    require(person, Role.DESIGNER, "make looks")
    version = version_of(pk, number)
    look = look_of(version)
    name = f"{version.look.name[:90]}, from version {number}"
    with transaction.atomic():
        entry = create(person, look.model_copy(update={"name": name}))
        entry.branched_from = version
        entry.save(update_fields=["branched_from"])
    return entry


def history(pk: int) -> list[tuple[Version, list[str]]]:
    """Every version, the latest first, with how it differs from the one before."""
    versions = list(find(pk).versions.select_related("made_by"))
    looks = [look_of(version) for version in versions]
    before = [*looks[1:], Look(name=looks[-1].name, input=looks[-1].input, output=looks[-1].output)] if looks else []
    return [(version, differences(*pair)) for version, pair in zip(versions, zip(before, looks, strict=True), strict=True)]


def version_of(pk: int, number: int) -> Version:
    version = Version.objects.filter(look_id=pk, look__deleted=None, number=number).select_related("look").first()
    if version is None:
        raise NotFound(f"Look {pk} has no version {number}.")
    return version


def look_of(version: Version) -> Look:
    return look_from(version.content, f"look {version.look_id} version {version.number}")


def delete(person: Person, pk: int) -> None:
    """It can be brought back for 30 days."""
    put_away(person, find(pk), "look")


def restore(person: Person, pk: int) -> LookEntry:
    return bring_back(person, LookEntry, pk, "look")
