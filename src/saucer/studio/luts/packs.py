"""Packs coming in: many files or a zip are read into a table first; what is then kept goes onto the Shelf, folders becoming categories."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import Any, Literal

import numpy as np
from django.db import transaction
from pydantic import BaseModel, ConfigDict

from saucer.core.errors import LutError, SaucerError
from saucer.core.files.corrections import corrections
from saucer.core.files.format import PLAIN
from saucer.core.files.guessing import guess
from saucer.core.files.registry import formats, read_lut
from saucer.core.files.zips import ZIP, count_members, read_members
from saucer.core.lut.health import examine
from saucer.core.lut.likeness import bucket_of, do_the_same, near_buckets, take_sample
from saucer.core.lut.table import Lut as Table
from saucer.studio.catalogue.models import Entry, there_for
from saucer.studio.catalogue.rules import as_category
from saucer.studio.common.reading import tell_each
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import keep_bytes, local_file, open_kept, read_kept
from saucer.studio.encodings.rules import find as find_encoding
from saucer.studio.encodings.rules import own
from saucer.studio.jobs.models import Job, State
from saucer.studio.jobs.rules import find as find_job
from saucer.studio.luts.models import Lut, Pack, PackRow
from saucer.studio.luts.rules import TOLD, Ends, NewFile, add_entry, said_in
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require


class Upload(BaseModel):
    """A file that was sent: where it is kept, and the path that it had."""

    sha256: str
    path: str


class Uploads(BaseModel):
    uploads: list[Upload]


class Found(BaseModel):
    """What was read of a row. problem: why it could not be read, with the line; then the rest is empty."""

    model_config = ConfigDict(extra="forbid")

    path: str
    name: str = ""
    category: str = ""
    format: str = ""
    kind: str = ""
    size: int = 0
    bytes: int = 0
    expects: str = ""
    gives: str = ""
    how: Literal["", "declared", "guessed", "asked"] = ""
    reason: str = ""
    health: str = ""
    health_words: str = ""
    author: str = ""
    licence: str = ""
    note: str = ""
    same_as: str = ""
    problem: str = ""


class Correction(BaseModel):
    """What a person changed of a row; kept with it, so that they can go away and come back. keep: is it to go onto the Shelf?"""

    model_config = ConfigDict(extra="forbid")

    name: str | None = None
    category: str | None = None
    expects: str | None = None
    gives: str | None = None
    keep: bool | None = None


class Row(Found):
    """A row as it stands, corrections included. entry: what it was kept as"""

    index: int
    keep: bool | None = None
    corrected: bool = False
    entry: int | None = None


def _files(uploads: Sequence[Upload]) -> Iterator[tuple[str, bytes | LutError]]:
    for upload in uploads:
        with open_kept(upload.sha256) as file:
            zipped = file.read(4) == ZIP
        if not zipped or upload.path.lower().endswith(".json"):
            yield upload.path, read_kept(upload.sha256)
            continue
        try:
            with local_file(upload.sha256) as path:
                yield from read_members(path, upload.path)
        except LutError as error:
            yield upload.path, LutError("", error.problem)


def _parts(path: str, data: bytes) -> Iterator[tuple[str, bytes]]:
    """A collection of corrections as one file each; anything else as it is."""
    if any(formats()[one].sniff(data) for one in ("cdl", "ccc")):
        found = corrections(data)
        if len(found) > 1:
            for one in found:
                yield f"{path}#{one.id}", formats()["cc"].write(one.as_lut(), PLAIN)
            return
    yield path, data


def _count(upload: Upload) -> int:
    if not upload.path.lower().endswith(".zip"):
        return 1
    with local_file(upload.sha256) as path:
        return count_members(path)


def read_pack(job: Job, uploads: Sequence[Upload], report: Callable[[float], None]) -> Pack:
    """Every file as a row; one that cannot be read says why and stops nothing. A job that is done again reads the pack again.

    report: called with the fraction done; raise from it to cancel
    """
    with transaction.atomic():
        Pack.objects.filter(job=job).delete()
        pack = Pack.objects.create(job=job, person=job.person)
    mine = tuple(own().values())
    total = max(1, sum(_count(upload) for upload in uploads))
    rows: list[PackRow] = []
    for number, (path, content, parts) in enumerate(_looked_into(_files(uploads), mine)):
        if number % 4 == 0:
            report(min(0.99, number / total))
        try:
            for one in parts.result():
                rows.append(_store_row(pack, len(rows), one))
        except SaucerError as error:
            problem, size = (content.problem, 0) if isinstance(content, LutError) else (str(error), len(content))
            found = Found(path=path[:400], bytes=size, problem=problem)
            rows.append(PackRow(pack=pack, index=len(rows), found=found.model_dump()))
    _name_doubles(job.person, rows)
    PackRow.objects.bulk_create(rows, batch_size=500)
    return pack


@dataclass(frozen=True, eq=False)
class _Part:
    """What was read of a file, or of one correction in it, before any of it is kept."""

    found: Found
    data: bytes
    sample: np.ndarray


AHEAD = 4
"""Files that are read while the one before is being kept."""


def _looked_into(
    files: Iterable[tuple[str, bytes | LutError]], mine: tuple[Any, ...]
) -> Iterator[tuple[str, bytes | LutError, Future[list[_Part]]]]:
    """Files in their order, read on other threads: what is computed lets the unpacking and the writing go on beside it."""
    with ThreadPoolExecutor(2, thread_name_prefix="pack") as pool:
        waiting: deque[tuple[str, bytes | LutError, Future[list[_Part]]]] = deque()
        for path, content in files:
            waiting.append((path, content, pool.submit(_look_into, path, content, mine)))
            if len(waiting) > AHEAD:
                yield waiting.popleft()
        yield from waiting


def _look_into(path: str, content: bytes | LutError, mine: tuple[Any, ...]) -> list[_Part]:
    if isinstance(content, LutError):
        raise content
    return [_read_part(inner, data, mine) for inner, data in _parts(path, content)]


def _read_part(path: str, data: bytes, mine: tuple[Any, ...]) -> _Part:
    inside = PurePosixPath(path)
    table, form = read_lut(data, "")
    stem = inside.name.split("#")[-1] if "#" in inside.name else Path(inside.name).stem
    guessed = guess(table, stem, mine)
    health = examine(table, is_told=guessed.how in TOLD)
    folders = [part for part in inside.parent.parts if part.strip(".")]
    found = Found(
        path=path[:400], name=_name(table, stem), category="/".join(folders)[:200], format=form.id,
        kind=table.kind[:60], size=table.size, bytes=len(data), expects=guessed.expects, gives=guessed.gives, how=guessed.how,
        reason=guessed.reason, health=health.level, health_words=health.summary[:300], author=said_in(table, "Author"),
        licence=said_in(table, "Rights"), note=said_in(table, "Note"),
    )  # fmt: skip
    return _Part(found, data, take_sample(table))


def _store_row(pack: Pack, index: int, part: _Part) -> PackRow:
    blob = keep_bytes(part.data)
    return PackRow(
        pack=pack,
        index=index,
        blob=blob,
        found=part.found.model_dump(),
        sample=part.sample.tobytes(),
        bucket=bucket_of(part.sample),
    )


def _name(table: Table, stem: str) -> str:
    """The file's title, unless it is one that programs put into every file; then its name."""
    dull = {"", "untitled", "lut", "generated by", "none"}
    return (table.title if table.title.lower() not in dull else stem.replace("_", " ").strip() or stem)[:120]


def _sample(data: Any) -> np.ndarray:
    return np.frombuffer(bytes(data), np.float32).reshape(-1, 3)


def _name_doubles(person: Person, rows: Sequence[PackRow]) -> None:
    """Say which do what another row, or a LUT on the Shelf, does already."""
    read = [row for row in rows if row.sample is not None]
    wanted = {bucket for row in read for bucket in near_buckets(_sample(row.sample))}
    known: dict[int, list[tuple[np.ndarray, str]]] = {}
    on_shelf = Lut.objects.filter(there_for(person, "version__entry__"), bucket__in=wanted).order_by("pk")
    for bucket, data, name in on_shelf.values_list("bucket", "sample", "version__entry__name"):
        known.setdefault(bucket, []).append((_sample(data), f"on the Shelf as {name}"))
    seen: dict[int, list[tuple[np.ndarray, PackRow]]] = {}
    for row in read:
        sample = _sample(row.sample)
        near = near_buckets(sample)
        words = next((words for one in near for other, words in known.get(one, ()) if do_the_same(sample, other)), "")
        twin = next((other for one in near for its, other in seen.get(one, ()) if do_the_same(sample, its)), None)
        if not words and twin is not None:
            words = f"{'the same as' if twin.blob_id == row.blob_id else 'does the same as'} {twin.found['path']}"
        row.found["same_as"] = words
        if twin is None:
            assert row.bucket is not None
            seen.setdefault(row.bucket, []).append((sample, row))


def find_pack(person: Person, job_id: int) -> Pack:
    """Raises: NotFound; NotPossible for a job that is none, or not done"""
    job = find_job(person, job_id)
    pack = Pack.objects.filter(job=job).first()
    if job.kind != "intake" or pack is None or job.state != State.DONE:
        raise NotPossible("This pack has not been read yet." if job.kind == "intake" else "This job did not read a pack.")
    return pack


def find_row(pack: Pack, index: int) -> tuple[str, Callable[[], Table]]:
    """SHA-256 of a row's file, and what reads it, whether it is kept or not. Raises: NotFound for one that could not be read"""
    row = pack.rows.filter(index=index).first()
    if row is None or row.blob_id is None:
        raise NotFound(f"Row {index + 1} of this pack could not be read.")
    sha256, path = row.blob_id, row.found["path"]
    return sha256, lambda: read_lut(read_kept(sha256), path)[0]


def list_rows(pack: Pack) -> list[Row]:
    return tell_each(pack.rows.all(), row_of)


def row_of(row: PackRow) -> Row:
    """As it stands, corrections included."""
    given = {name: value for name, value in Correction.model_validate(row.corrected).model_dump().items() if value is not None}
    return Row(**row.found | given, index=row.index, corrected=bool(given.keys() - {"keep"}), entry=row.kept_id)


def correct(person: Person, job_id: int, index: int, given: Correction) -> Row:
    """Change what is said of a row; what is not given stays as it is. Raises: NotPossible, EncodingError"""
    require(person, Role.DESIGNER, "bring in LUTs")
    with transaction.atomic():
        row = find_pack(person, job_id).rows.select_for_update().filter(index=index).first()
        if row is None:
            raise NotPossible(f"This pack has no row {index + 1}.")
        for name in ("expects", "gives"):
            if value := getattr(given, name):
                find_encoding(value, f"row {index + 1}, {name}")
        row.corrected = row.corrected | given.model_dump(exclude_none=True)
        row.save(update_fields=["corrected"])
    return row_of(row)


def keep(person: Person, job_id: int, indices: Sequence[int]) -> list[Entry]:
    """Put rows of a pack onto the Shelf, all of them or, when one cannot be, none; those that are there already stay one entry.

    Raises: NotPossible, EncodingError
    """
    require(person, Role.DESIGNER, "bring in LUTs")
    with transaction.atomic():
        pack = Pack.objects.select_for_update().get(pk=find_pack(person, job_id).pk)
        rows = {row.index: row for row in pack.rows.filter(index__in=indices).select_related("blob", "kept")}
        kept, fresh = [], []
        for index in dict.fromkeys(indices):
            row = rows.get(index)
            if row is None or row.blob is None:
                raise NotPossible(f"Row {index + 1} could not be read, so it cannot be kept.")
            if row.kept is None or row.kept.deleted is not None:
                row.kept = _keep_row(person, row)
                fresh.append(row)
            kept.append(row.kept)
        PackRow.objects.bulk_update(fresh, ["kept"])
        if fresh:
            record(person, "bring in pack", pack, luts=[row.kept_id for row in fresh])
    return kept


def _keep_row(person: Person, row: PackRow) -> Entry:
    at, assured = row_of(row), row.blob
    assert assured is not None
    expects = find_encoding(at.expects, f"row {row.index + 1}, expects").id
    gives = find_encoding(at.gives, f"row {row.index + 1}, gives").id
    known = "said" if (expects, gives) != (row.found["expects"], row.found["gives"]) else at.how or "asked"
    table = read_lut(read_kept(assured.pk), at.path)[0]
    name = PurePosixPath(at.path).name
    file = NewFile(at.format, f"{name.split('#')[-1]}.cc" if "#" in name else name, at.size, assured)
    return add_entry(
        person, at.name.strip() or row.found["name"], table, Ends(expects, gives, known), [file],
        category=as_category(at.category), author=at.author, licence=at.licence, note=at.note,
    )  # fmt: skip
