"""Packs coming in: many files or a zip are read into a table first; what is then kept goes onto the Shelf, folders becoming categories."""

from __future__ import annotations

import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path, PurePosixPath
from typing import Any, Literal

from django.db import transaction
from pydantic import BaseModel, ConfigDict

from saucer.core.bundle import ZIP
from saucer.core.errors import LutError, SaucerError
from saucer.core.files import PLAIN, formats, read_lut
from saucer.core.files.corrections import corrections
from saucer.core.guessing import guess
from saucer.core.health import examine
from saucer.core.lut.table import Lut
from saucer.core.lut.tools import likeness
from saucer.core.packs import members
from saucer.studio.encodings.rules import find as encoding
from saucer.studio.encodings.rules import own
from saucer.studio.jobs.models import Job, State
from saucer.studio.jobs.rules import find as find_job
from saucer.studio.luts.models import LutEntry
from saucer.studio.luts.rules import as_category, said_in
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require
from saucer.studio.refusals import NotPossible
from saucer.studio.store import keep_bytes, open_kept, read_kept


class Row(BaseModel):
    """One line of the table. problem: why it could not be read, with the line; then the rest is empty."""

    model_config = ConfigDict(extra="forbid")

    index: int
    path: str
    name: str = ""
    category: str = ""
    format: str = ""
    kind: str = ""
    size: int = 0
    bytes: int = 0
    sha256: str = ""
    likeness: str = ""
    expects: str = ""
    gives: str = ""
    how: Literal["", "declared", "guessed", "asked"] = ""
    reason: str = ""
    health: str = ""
    health_words: str = ""
    author: str = ""
    rights: str = ""
    note: str = ""
    same_as: str = ""
    problem: str = ""


class Upload(BaseModel):
    """A file that was sent: where it is kept, and the path that it had."""

    sha256: str
    path: str


def _files(uploads: list[Upload]) -> Iterator[tuple[str, bytes | LutError]]:
    for upload in uploads:
        with open_kept(upload.sha256) as file:
            zipped = file.read(4) == ZIP
            if zipped and not upload.path.lower().endswith(".json"):
                file.seek(0)
                try:
                    yield from members(file, upload.path)
                except LutError as error:
                    yield upload.path, LutError("", error.problem)
                continue
        yield upload.path, read_kept(upload.sha256)


def _parts(path: str, data: bytes) -> Iterator[tuple[str, bytes]]:
    """A collection of corrections as one file each; anything else as it is."""
    if any(formats()[one].sniff(data) for one in ("cdl", "ccc")):
        found = corrections(data)
        if len(found) > 1:
            for one in found:
                lut = one.as_lut()
                yield f"{path}#{one.id}", formats()["cc"].write(lut, PLAIN)
            return
    yield path, data


def read_pack(uploads: list[Upload], report: Callable[[float], None]) -> list[Row]:
    """Every file as a row; one that cannot be read says why and stops nothing.

    report: is told the share done; what it raises ends the work
    """
    rows: list[Row] = []
    seen: dict[str, Row] = {}
    mine = tuple(own().values())
    total = max(1, sum(_count(upload) for upload in uploads))
    for number, (path, content) in enumerate(_files(uploads)):
        if number % 4 == 0:
            report(min(0.99, number / total))
        if isinstance(content, LutError):
            rows.append(Row(index=len(rows), path=path, problem=content.problem))
            continue
        try:
            for inner, data in _parts(path, content):
                row = _row(len(rows), inner, data, mine)
                twin = seen.setdefault(row.likeness, row)
                if twin is not row:
                    row.same_as = f"{'the same as' if twin.sha256 == row.sha256 else 'does the same as'} {twin.path}"
                rows.append(row)
        except SaucerError as error:
            rows.append(Row(index=len(rows), path=path, bytes=len(content), problem=str(error)))
    _find_same(rows)
    return rows


def _count(upload: Upload) -> int:
    if not upload.path.lower().endswith(".zip"):
        return 1
    try:
        with open_kept(upload.sha256) as file, zipfile.ZipFile(file) as archive:
            return len(archive.namelist())
    except (zipfile.BadZipFile, OSError, ValueError):
        return 1


def _row(index: int, path: str, data: bytes, mine: tuple[Any, ...]) -> Row:
    inside = PurePosixPath(path)
    lut, form = read_lut(data, "")
    stem = inside.name.split("#")[-1] if "#" in inside.name else Path(inside.name).stem
    found = guess(lut, stem, mine)
    health = examine(lut)
    return Row(
        index=index, path=path[:400], name=_name(lut, stem), category="/".join(inside.parent.parts)[:200].strip("."), format=form.id,
        kind=lut.kind[:60], size=lut.size, bytes=len(data), sha256=keep_bytes(data),
        likeness=likeness(lut), expects=found.expects, gives=found.gives,
        how=found.how, reason=found.reason, health=health.level, health_words=health.summary[:300], author=said_in(lut, "Author"),
        rights=said_in(lut, "Rights"), note=said_in(lut, "Note"),
    )  # fmt: skip


def _name(lut: Lut, stem: str) -> str:
    """The file's title, unless it is one that programs put into every file; then its name."""
    dull = {"", "untitled", "lut", "generated by", "none"}
    return (lut.title if lut.title.lower() not in dull else stem.replace("_", " ").strip() or stem)[:120]


def _find_same(rows: list[Row]) -> None:
    """Say which are on the Shelf already, by content."""
    wanted = [row.likeness for row in rows if row.likeness]
    known = dict(LutEntry.objects.filter(likeness__in=wanted, deleted=None).values_list("likeness", "name"))
    for row in rows:
        if row.likeness in known:
            row.same_as = f"on the Shelf as {known[row.likeness]}"


class Kept(BaseModel):
    """A row that is to go onto the Shelf, as the person corrected it."""

    model_config = ConfigDict(extra="forbid")

    index: int
    name: str = ""
    category: str | None = None
    expects: str = ""
    gives: str = ""


def rows_of(job: Job) -> list[Row]:
    """Raises: NotPossible for a job that is none, or not done"""
    if job.kind != "intake" or job.state != State.DONE:
        raise NotPossible("This pack has not been read yet." if job.kind == "intake" else "This job did not read a pack.")
    return [Row.model_validate(row) for row in (job.result or {}).get("rows", [])]


def keep(person: Person, job_id: int, kept: list[Kept]) -> list[LutEntry]:
    """Put rows of a pack onto the Shelf, all of them or, when one cannot be, none. Raises: NotPossible, EncodingError"""
    require(person, Role.DESIGNER, "bring in LUTs")
    rows = {row.index: row for row in rows_of(find_job(person, job_id))}
    entries = []
    with transaction.atomic():
        for chosen in kept:
            row = rows.get(chosen.index)
            if row is None or row.problem:
                raise NotPossible(f"Row {chosen.index + 1} could not be read, so it cannot be kept.")
            expects = encoding(chosen.expects or row.expects, f"row {chosen.index + 1}, expects").id
            gives = encoding(chosen.gives or row.gives, f"row {chosen.index + 1}, gives").id
            said = (expects, gives) != (row.expects, row.gives)
            entries.append(
                LutEntry.objects.create(
                    name=(chosen.name.strip() or row.name)[:120], file_name=_file_name(row), format=row.format,
                    kind=row.kind, size=row.size, sha256=row.sha256, likeness=row.likeness,
                    bytes=row.bytes, expects=expects, gives=gives, owner=person,
                    category=as_category(row.category if chosen.category is None else chosen.category),
                    author=row.author, rights=row.rights, note=row.note, known="said" if said else row.how or "asked",
                    health=row.health, health_words=row.health_words,
                )
            )  # fmt: skip
        record(person, "bring in pack", f"job {job_id}", luts=[entry.pk for entry in entries])
    return entries


def _file_name(row: Row) -> str:
    name = PurePosixPath(row.path).name
    return (f"{name.split('#')[-1]}.cc" if "#" in name else name)[:255]
