"""The job of finding where looks break."""

from __future__ import annotations

from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind
from saucer.studio.people.models import Role
from saucer.studio.stress import rules
from saucer.studio.stress.rules import KIND, PROPOSED, StressWork


@job_kind(KIND, Role.DESIGNER, StressWork, JobResult)
def find_where_it_breaks(job: Job, given: StressWork, report: Progress) -> JobResult:
    """Where a version of a look breaks, over pictures, ramps of 10 bits and LUT sizes."""
    return rules.work(job, given, report)


@job_kind(PROPOSED, Role.DESIGNER, StressWork, JobResult, gives_way=True)
def test_what_is_proposed(job: Job, given: StressWork, report: Progress) -> JobResult:
    """The same of looks that were proposed: whatever somebody waits for goes first."""
    return rules.work(job, given, report)
