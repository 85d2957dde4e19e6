"""The job that brings in what a new studio begins with."""

from __future__ import annotations

from django.db import transaction

from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind, settle
from saucer.studio.people.models import Role
from saucer.studio.start import beginning


@job_kind(beginning.JOB, Role.ADMIN, beginning.BeginWork, JobResult, restarted=True)
def begin(job: Job, given: beginning.BeginWork, report: Progress) -> JobResult:
    beginning.bring_in(job.person, given, report)
    with transaction.atomic():
        return settle(job, JobResult(page="/shelf"))
