"""The catalogue as pipelines read it: what fits a filter, with its files, as JSON at an address that stays."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from django.db.models import F, Q, QuerySet
from pydantic import BaseModel, Field

from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.common.reading import tell_each
from saucer.studio.luts.models import LutFile
from saucer.studio.luts.rights import Thing, contents_of

MOST = 5000


class ListedFile(BaseModel):
    """address: below the studio's own; sha256: of what it gives"""

    address: str
    file_name: str
    format: str
    size: Annotated[int, Field(description="nodes a side, or samples")]
    sha256: str
    bytes: int
    expects: str
    gives: str
    version: int


class ListedEntry(BaseModel):
    """version: the published one; without one the latest. files: of all its versions, the latest first"""

    id: int
    kind: Kind
    name: str
    author: str
    note: str
    category: str
    tags: list[str]
    state: str
    version: int | None
    content_hash: str
    expects: str
    gives: str
    character: list[str]
    source: str
    licence: str
    may_pass_on: str
    pass_on_until: str
    held: Annotated[list[str], Field(description="why it may not leave, with all that is in it; none where it may")]
    files: list[ListedFile]


class Listed(BaseModel):
    """total: how many fit; more: there are others behind these"""

    format: str = "saucer-catalogue"
    version: int = 1
    total: int
    more: bool
    entries: list[ListedEntry]


def list_all(found: QuerySet[Entry], start: int = 0, most: int = MOST) -> Listed:
    """In the order of their numbers. So many queries, however many there are."""
    total = found.count()
    rows = found.order_by("pk").select_related("category", "published", "latest", "character").prefetch_related("tags")
    entries = list(rows.defer("document", "character__seen", "published__content", "latest__content")[start : start + most])
    files = _files_of([entry.pk for entry in entries])
    held = _held([entry.pk for entry in entries])
    told = tell_each(entries, lambda entry: _listed(entry, files.get(entry.pk, []), held.get(entry.pk, [])))
    return Listed(total=total, more=start + len(entries) < total, entries=told)


def _files_of(ids: Sequence[int]) -> dict[int, list[ListedFile]]:
    found: dict[int, list[ListedFile]] = {}
    rows = LutFile.objects.filter(lut__version__entry__in=ids).select_related("lut__version", "blob").defer("lut__version__content")
    for one in rows.order_by("lut__version__entry", "-lut__version__number", "lut", "position"):
        lut, version = one.lut, one.lut.version
        found.setdefault(version.entry_id, []).append(
            ListedFile(
                address=f"/api/lut-files/{one.pk}", file_name=one.file_name, format=one.format, size=one.size, sha256=one.blob_id,
                bytes=one.blob.bytes, expects=lut.expects, gives=lut.gives, version=version.number,
            )
        )  # fmt: skip
    return found


def _held(ids: Sequence[int]) -> dict[int, list[str]]:
    """By entry, of the version that is offered."""
    offered = Q(pk=F("entry__published")) | Q(entry__published=None, pk=F("entry__latest"))
    versions = list(Version.objects.filter(offered, entry__in=ids).select_related("entry"))
    found = contents_of([Thing.of(version) for version in versions])
    return {version.entry_id: one.reasons for version, one in zip(versions, found, strict=True)}


def _listed(entry: Entry, files: list[ListedFile], held: list[str]) -> ListedEntry:
    shown = entry.offered
    character = getattr(entry, "character", None)
    return ListedEntry(
        id=entry.pk, kind=Kind(entry.kind), name=entry.name, author=entry.author, note=entry.note, category=entry.category_path,
        tags=sorted(tag.name for tag in entry.tags.all()), state=shown.state if shown else entry.state,
        version=shown.number if shown else None, content_hash=shown.content_hash if shown else "", expects=entry.expects,
        gives=entry.gives, character=list(character.words) if character else [], source=entry.source, licence=entry.licence,
        may_pass_on=entry.may_pass_on, pass_on_until=str(entry.pass_on_until or ""), held=held, files=files,
    )  # fmt: skip
