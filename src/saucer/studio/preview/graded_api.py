"""Pictures through a look as it stands, as files: asked for here, taken where jobs are."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Status

from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of
from saucer.studio.preview import graded
from saucer.studio.preview.graded import GradedWork

router = Router(tags=["preview"])


@router.post("/graded", response={202: JobOut}, auth=designer("grade pictures"))
def grade_pictures(request: HttpRequest, given: GradedWork) -> Status[JobOut]:
    """A job that puts pictures through a look, saved or not, at full size."""
    person = person_of(request)
    graded.check(person, given)
    return Status(202, job_out(jobs.start(person, "graded", given)))
