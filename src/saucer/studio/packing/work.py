"""The job of packing."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated

from django.db import transaction
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.errors import SaucerError
from saucer.core.files.zips import pack_into
from saucer.studio.baking.choices import FormatChoice
from saucer.studio.catalogue.models import Entry
from saucer.studio.catalogue.rules import find_any, record_download
from saucer.studio.common.names import file_stem
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import keep_bytes, keep_file, local_file
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind, settle
from saucer.studio.packing import papers, pipelines
from saucer.studio.packing.manifest import MANIFEST, LeftOut, Manifest, manifest_text
from saucer.studio.packing.page import NAME, make_page
from saucer.studio.packing.returning import bring_back
from saucer.studio.packing.rules import Member, PackChoice, Packed, choose, make_file, members_of
from saucer.studio.people.models import Role
from saucer.studio.people.rules import record
from saucer.studio.pictures import rules as pictures


@job_kind("pack", Role.DESIGNER, PackChoice, JobResult)
def pack(job: Job, given: PackChoice, report: Progress) -> JobResult:
    """Chosen entries as one zip: files in folders of their categories, manifest, licences, read-me, sums, and a page to look at."""
    entries, held = choose(job.person, given)
    if not entries:
        raise NotPossible("Their rights hold all of these back, so there is nothing to pack.")
    packed = Packed(given, left_out=list(held))
    with tempfile.NamedTemporaryFile(suffix=".zip") as file:
        pack_into(Path(file.name), _members(job, packed, entries, report), level=6)
        blob = keep_file(Path(file.name))
    job.blobs.add(blob)
    ids, count = [entry.pk for entry in packed.shown], f"{len(packed.entries)} entries"
    record(job.person, "pack", count, entries=ids, sha256=blob.pk, reason=given.reason.strip())
    return JobResult(
        file=blob.pk, file_name=f"{file_stem(given.title)}.zip", left_out=[f"{one.name}: {one.why}" for one in packed.left_out]
    )


class FileWork(BaseModel):
    """size: nodes a side or samples, null for the LUT's own, or 33; version: null for the one that leaves in packs"""

    model_config = ConfigDict(extra="forbid")

    entry: int
    format: FormatChoice
    size: Annotated[int | None, Field(ge=2, le=65536)] = None
    version: int | None = None


@job_kind("file", Role.DESIGNER, FileWork, JobResult)
def make_one_file(job: Job, given: FileWork, report: Progress) -> JobResult:
    """One entry as one file of a format, to be taken away."""
    entry = find_any(given.entry)
    report(0.1)
    name, data, lost = make_file(entry, given.format, given.size, given.version)
    blob = keep_bytes(data)
    job.blobs.add(blob)
    record_download(job.person, entry, name, blob.pk)
    return JobResult(file=blob.pk, file_name=name, left_out=lost)


class ReturnedPack(BaseModel):
    """sha256, file_name: of the pack that was sent"""

    sha256: str
    file_name: str


@job_kind("return", Role.DESIGNER, ReturnedPack, JobResult)
def bring_back_pack(job: Job, given: ReturnedPack, report: Progress) -> JobResult:
    """All of a pack in one transaction: a worker that ends in the middle of it leaves nothing behind."""
    with local_file(given.sha256) as path, transaction.atomic():
        found = bring_back(job.person, path, given.file_name, lambda done: None)
        told = [*found.failed, *(f"{name}: is on the Shelf already" for name in found.there)]
        return settle(job, JobResult(page="/shelf", entry=found.entries[0].pk if len(found.entries) == 1 else None, left_out=told))


def _members(job: Job, packed: Packed, entries: list[Entry], report: Progress) -> Iterator[Member]:
    """Every member once, the papers last, since they tell of the others."""
    listed: list[tuple[str, str]] = []

    def noted(path: str, data: bytes) -> Member:
        listed.append((path, papers.sha256(data)))
        return path, data

    choice, now = packed.choice, timezone.localtime()
    for path, data in members_of(packed, entries, lambda done: report(0.6 * done)):
        yield noted(path, data)
    page = ""
    if choice.pictures and packed.entries:
        shown = list(zip(packed.shown, packed.entries, strict=True))
        on = [pictures.find(pk) for pk in choice.pictures]
        try:
            yield noted(NAME, make_page(choice.title, shown, on, lambda done: report(0.6 + 0.35 * done)))
            page = NAME
        except SaucerError as error:
            packed.left_out.append(LeftOut(name=NAME, why=str(error)[:300]))
    config = ""
    if choice.pipelines:
        for path, data in pipelines.members_for(packed, packed.shown):
            config = path if path == pipelines.CONFIG else config
            yield noted(path, data)
        report(0.98)
    manifest = Manifest(
        made=now, made_by=job.person.shown_name, entries=packed.entries, left_out=packed.left_out, page=page, pipelines=config,
        luts=dict(sorted(packed.used.items())),
    )  # fmt: skip
    yield noted(MANIFEST, manifest_text(manifest).encode())
    yield noted("LICENCES.txt", papers.licences(packed.entries).encode())
    read_me = papers.read_me(choice.title, job.person.shown_name, str(now.date()), packed.entries, packed.left_out, page, config)
    yield noted("READ ME.txt", read_me.encode())
    yield "SHA256SUMS", papers.sums(listed).encode()
