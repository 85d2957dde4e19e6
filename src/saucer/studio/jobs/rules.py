"""Starting, doing, cancelling and rescuing background work."""

from __future__ import annotations

import logging
from collections.abc import Callable
from typing import Any

from django.db import transaction
from django.utils import timezone

from saucer.core.errors import SaucerError
from saucer.studio.jobs.models import Job, State
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import require
from saucer.studio.refusals import NotFound, NotPossible, Refusal

log = logging.getLogger("saucer.jobs")

Progress = Callable[[float], None]
Work = Callable[[Job, Progress], dict[str, Any]]
_KINDS: dict[str, tuple[Role, Work]] = {}
KEPT_IN_LIST = 20


class Cancelled(Exception):
    """The person cancelled the job; raised at the next report of progress."""


def job_kind(name: str, role: Role) -> Callable[[Work], Work]:
    """Register a function as the work of a kind of job. Raises: RuntimeError when the name is taken."""

    def register(work: Work) -> Work:
        if name in _KINDS:
            raise RuntimeError(f'job kind "{name}" is registered twice')
        _KINDS[name] = (role, work)
        return work

    return register


def start(person: Person, kind: str, /, **parameters: Any) -> Job:
    """Queue a job; the worker takes it once the transaction is through."""
    from saucer.studio.jobs.tasks import run_job

    role, _ = _KINDS[kind]
    require(person, role, f"start a {kind} job")
    with transaction.atomic():
        job = Job.objects.create(kind=kind, parameters=parameters, person=person)
        run_job.defer(job=job.pk)
    return job


def find(person: Person, pk: int) -> Job:
    """One of the person's own jobs. Raises: NotFound."""
    job = Job.objects.filter(pk=pk, person=person).first()
    if job is None:
        raise NotFound("There is no such job of yours.")
    return job


def recent(person: Person) -> list[Job]:
    return list(Job.objects.filter(person=person)[:KEPT_IN_LIST])


def cancel(person: Person, pk: int) -> Job:
    job = find(person, pk)
    changed = Job.objects.filter(pk=pk, state__in=[State.WAITING, State.RUNNING]).update(
        state=State.CANCELLED, finished=timezone.now()
    )
    if not changed:
        raise NotPossible(f"The job is {State(job.state).label.lower()} already.")
    job.refresh_from_db()
    return job


def perform(pk: int) -> None:
    """Do a job in the worker. A job that ended before (cancelled, or done by a worker thought lost) is left as it is."""
    if not Job.objects.filter(pk=pk, state__in=[State.WAITING, State.RUNNING]).update(state=State.RUNNING, progress=0):
        return
    job = Job.objects.select_related("person").get(pk=pk)

    def report(share: float) -> None:
        if not Job.objects.filter(pk=pk, state=State.RUNNING).update(progress=share):
            raise Cancelled

    try:
        result = _KINDS[job.kind][1](job, report)
        _end(pk, State.DONE, result=result, progress=1.0)
    except Cancelled:
        return
    except (SaucerError, Refusal) as error:
        _end(pk, State.FAILED, problem=str(error)[:1000])
    except Exception:
        log.exception("job %s failed", pk)
        _end(pk, State.FAILED, problem="Something went wrong on the server. It was written to its log; trying again may help.")


def _end(pk: int, state: State, **fields: Any) -> None:
    Job.objects.filter(pk=pk, state=State.RUNNING).update(state=state, finished=timezone.now(), **fields)
