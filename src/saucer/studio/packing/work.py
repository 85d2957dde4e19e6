"""The job of packing."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Annotated

from django.db import transaction
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.files.zips import pack_into
from saucer.core.look.member import LONGEST_NAME
from saucer.studio.baking.choices import FormatChoice
from saucer.studio.catalogue.rules import find_any, record_download
from saucer.studio.common.names import file_stem
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import keep_bytes, keep_file, local_file
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind, settle
from saucer.studio.packing.returning import bring_back
from saucer.studio.packing.rules import PackChoice, Packed, choose, make_file, rights_of
from saucer.studio.packing.whole import members_of_pack
from saucer.studio.people.models import Role
from saucer.studio.people.rules import record
from saucer.studio.pictures import rules as pictures


@job_kind("pack", Role.DESIGNER, PackChoice, JobResult)
def pack(job: Job, given: PackChoice, report: Progress) -> JobResult:
    """Chosen entries as one zip: files in folders of their categories, manifest, licences, read-me, sums, and a page to look at."""
    leaving, held = choose(job.person, given)
    if not leaving:
        raise NotPossible(f"All of these are held back, so there is nothing to pack. {held[0].name}: {held[0].why}")
    packed = Packed(given, left_out=list(held))
    on = pictures.find_many(given.pictures, job.person)
    with tempfile.NamedTemporaryFile(suffix=".zip") as file:
        pack_into(Path(file.name), members_of_pack(packed, leaving, job.person.shown_name, report, on), level=6)
        blob = keep_file(Path(file.name))
    job.blobs.add(blob)
    ids, count = [entry.pk for entry in packed.shown], f"{len(packed.entries)} entries"
    inside = [one.name for one in packed.inside.values()]
    record(job.person, "pack", count, entries=ids, inside=inside, sha256=blob.pk, reason=given.reason.strip())
    return JobResult(
        file=blob.pk, file_name=f"{file_stem(given.title)}.zip", left_out=[f"{one.name}: {one.why}" for one in packed.left_out]
    )


class FileWork(BaseModel):
    """size: nodes a side or samples, null for the LUT's own, or 33; version: null for the one that leaves in packs

    member: which of a look's family; empty for the recipe
    """

    model_config = ConfigDict(extra="forbid")

    entry: int
    format: FormatChoice
    size: Annotated[int | None, Field(ge=2, le=65536)] = None
    version: int | None = None
    member: Annotated[str, Field(max_length=LONGEST_NAME)] = ""


@job_kind("file", Role.DESIGNER, FileWork, JobResult)
def make_one_file(job: Job, given: FileWork, report: Progress) -> JobResult:
    """One entry as one file of a format, to be taken away."""
    entry = find_any(job.person, given.entry)
    report(0.1)
    name, data, lost = make_file(entry, given.format, given.size, given.version, given.member)
    number = given.version if given.version is not None else entry.offered.number if entry.offered else None
    held = rights_of(entry, number)
    blob = keep_bytes(data)
    job.blobs.add(blob)
    record_download(job.person, entry, name, blob.pk)
    return JobResult(file=blob.pk, file_name=name, left_out=[*lost, *(f"May it leave? {one}" for one in held)])


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
