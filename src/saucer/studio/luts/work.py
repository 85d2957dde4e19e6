"""The kinds of job about LUTs. Each gives the same result when it is done twice."""

from __future__ import annotations

from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind
from saucer.studio.luts import charts, packs
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
