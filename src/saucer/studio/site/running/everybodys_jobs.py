"""Everybody's jobs, for admins: what goes on, what waits, what came of the last ones; and ending one that holds up the others."""

from __future__ import annotations

from django.db import transaction
from django.db.models import Case, IntegerField, Value, When

from saucer.studio.common.refusals import NotFound
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job, State
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require

MOST = 200
_ORDER = Case(
    When(state=State.RUNNING, then=Value(0)),
    When(state=State.WAITING, then=Value(1)),
    default=Value(2),
    output_field=IntegerField(),
)


def list_jobs(person: Person) -> list[Job]:
    """What is under way first, then what waits, then the newest. What a job is about is its person's, and not told. Raises: NotAllowed"""
    require(person, Role.ADMIN, "see everybody's jobs")
    found = Job.objects.filter(parent=None).select_related("person").only(
        "kind", "state", "progress", "attempts", "problem", "created", "finished", "person__username", "person__full_name"
    )  # fmt: skip
    return list(found.annotate(rank=_ORDER).order_by("rank", "-pk")[:MOST])


def cancel(person: Person, pk: int) -> None:
    """Raises: NotAllowed; NotFound; NotPossible for one that has ended"""
    require(person, Role.ADMIN, "cancel jobs of others")
    job = Job.objects.filter(pk=pk, parent=None).select_related("person").first()
    if job is None:
        raise NotFound("There is no such job.")
    with transaction.atomic():
        jobs.cancel(job.person, pk)
        record(person, "cancel job", job.person, job=pk, kind=job.kind)
