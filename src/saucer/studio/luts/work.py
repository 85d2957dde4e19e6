"""The kinds of job about LUTs. Each gives the same result when it is done twice."""

from __future__ import annotations

from django.db import transaction
from pydantic import BaseModel

from saucer.studio.common.names import file_stem
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind, settle
from saucer.studio.luts import apart, charts, packs, rules, tools
from saucer.studio.people.models import Role


@job_kind("intake", Role.DESIGNER, packs.Uploads, JobResult)
def read_pack(job: Job, given: packs.Uploads, report: Progress) -> JobResult:
    """Files or zip packs as the rows of a table; nothing goes onto the Shelf yet."""
    packs.read_pack(job, given.uploads, report)
    return JobResult(page=f"/shelf?pack={job.pk}")


@job_kind("chart", Role.DESIGNER, charts.ChartWork, charts.Reading)
def read_chart(job: Job, given: charts.ChartWork, report: Progress) -> charts.Reading:
    """A recoloured chart read back; or the whole trip with the stand-in editor."""
    if given.editor is not None:
        return charts.read_standin(job, given.chart, given.editor, report)
    return charts.read_recoloured(job, given.picture, given.name, given.chart, given.known, report)


@job_kind("pair", Role.DESIGNER, charts.PairWork, charts.PairReport)
def fit_pair(job: Job, given: charts.PairWork, report: Progress) -> charts.PairReport:
    """A LUT fitted to an original and its recoloured copy."""
    return charts.fit(job, given.original, given.recoloured, given.names, given.encoding, given.size, report)


class ToolWork(BaseModel):
    """lut: the entry it is used on; name: of the new one, empty for one that says what was done"""

    lut: int
    choice: tools.ToolChoice
    name: str = ""


@job_kind("tool", Role.DESIGNER, ToolWork, JobResult)
def use_tool(job: Job, given: ToolWork, report: Progress) -> JobResult:
    """What a tool makes of a LUT, as a new entry."""
    report(0.1)
    made = tools.work_out(job.person, given.lut, given.choice)
    report(0.8)
    with transaction.atomic():
        entry = tools.keep(job.person, given.lut, given.choice, made, given.name)
        return settle(job, JobResult(page=f"/shelf/lut/{entry.pk}", entry=entry.pk))


@job_kind("apart", Role.DESIGNER, apart.ApartWork, apart.ApartResult)
def take_apart(job: Job, given: apart.ApartWork, report: Progress) -> apart.ApartResult:
    """A LUT as steps that can be edited, and a LUT of what they do not explain."""
    return apart.work(job, given, report)


class PackedFiles(BaseModel):
    """lut: its own number, of a look's bakes too"""

    lut: int


@job_kind("files", Role.DESIGNER, PackedFiles, JobResult)
def pack_files(job: Job, given: PackedFiles, report: Progress) -> JobResult:
    """A LUT in all its formats as one zip file."""
    found = rules.find_by_id(job.person, given.lut)
    report(0.1)
    blob = rules.zip_files(found)
    job.blobs.add(blob)
    return JobResult(file=blob.pk, file_name=f"{file_stem(found.version.entry.name)}.zip")
