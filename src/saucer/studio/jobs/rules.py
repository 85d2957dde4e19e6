"""Starting, doing, cancelling and rescuing background work. What the kinds of work are, each app says in its `work.py`."""

from __future__ import annotations

import errno
import logging
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import timedelta
from typing import Any, TypeVar

from django.db import transaction
from django.db.models import Avg, F
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob
from pydantic import BaseModel, ConfigDict

from saucer.core.errors import SaucerError
from saucer.studio.common.models import Blob
from saucer.studio.common.refusals import NotFound, NotPossible, Refusal
from saucer.studio.common.store import StoreAway
from saucer.studio.common.tracing import request_number
from saucer.studio.jobs.models import Job, State
from saucer.studio.people import whence
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import require

log = logging.getLogger("saucer.jobs")

QUEUE, TASK = "work", "saucer.run_job"
KEPT_IN_LIST = 20
MOST_ATTEMPTS = 3
GOING = (State.WAITING, State.RUNNING)
WENT_WRONG = "Something went wrong on the server. It was written to its log; trying again may help."
FULL = "The server's disk is full, so nothing was kept. Tell who runs it, and try again once there is room."
STORE_AWAY = "The server could not reach where files are kept. Try again once it can."
MEMORY = "It needs more memory than a job may have on this server; a smaller file or size takes less."
ENDS_WORKERS = "It may need more memory than the server has; a smaller file or size may help."


class JobResult(BaseModel):
    """What every kind of result can tell of itself; each kind adds what else it has.

    page: address in the web application where the outcome is; file, file_name: SHA-256 and name of a file to download
    entry: of the catalogue, picture: a picture, where the outcome is one; left_out: what the outcome could not hold, in words
    """

    model_config = ConfigDict(extra="forbid")

    page: str = ""
    entry: int | None = None
    picture: int | None = None
    file: str = ""
    file_name: str = ""
    left_out: list[str] = []


Given = TypeVar("Given", bound=BaseModel)
Progress = Callable[[float], None]
"""Called with the fraction done; raises Cancelled when the person has cancelled."""
Work = Callable[[Job, Any, Progress], JobResult]


@dataclass(frozen=True)
class JobKind:
    """gives_way: it is begun only when nothing else waits; alone: one of its kind at a time, so that it never takes every place

    restarted: it is offered to be begun again, as what it needs is still there after it failed
    """

    role: Role
    parameters: type[BaseModel]
    result: type[JobResult]
    work: Work
    gives_way: bool = False
    alone: bool = False
    restarted: bool = False


_KINDS: dict[str, JobKind] = {}
LATER = -10
"""The queue's priority of what gives way; that of everything else is 0."""


class Cancelled(Exception):
    """The person cancelled the job; raised at the next report of progress."""


def job_kind(
    name: str, role: Role, parameters: type[Given], result: type[JobResult], *,
    gives_way: bool = False, alone: bool = False, restarted: bool = False,
) -> Callable[[Work], Work]:  # fmt: skip
    """Register a function as the work of a kind of job: from its parameters to its result; further as `JobKind` has it.

    Raises: RuntimeError naming both owners when the name is taken.
    """

    def register(work: Work) -> Work:
        other = _KINDS.get(name)
        if other is not None and other.work.__module__ != work.__module__:
            raise RuntimeError(f'job kind "{name}" of {work.__module__} is already that of {other.work.__module__}')
        _KINDS[name] = JobKind(role, parameters, result, work, gives_way, alone, restarted)
        return work

    return register


def start(person: Person, kind: str, parameters: BaseModel, blobs: Sequence[Blob] = ()) -> Job:
    """Queue a job; the worker takes it once the transaction is through. blobs: the files that its parameters name"""
    require(person, _KINDS[kind].role, f"start a {kind} job")
    with transaction.atomic():
        job = Job.objects.create(kind=kind, parameters=parameters.model_dump(mode="json"), person=person)
        job.blobs.set(blobs)
        _queue(job.pk, kind)
    return job


def start_parts(
    person: Person, kind: str, parameters: BaseModel, part_kind: str, parts: Sequence[BaseModel], blobs: Sequence[Blob] = ()
) -> Job:
    """A job whose parts any number of workers take from the queue; its own work comes once all of them are done.

    It fails when a part of it does, once the others have ended; `restart` then goes on with what is not done.
    """
    require(person, _KINDS[kind].role, f"start a {kind} job")
    with transaction.atomic():
        job = Job.objects.create(kind=kind, parameters=parameters.model_dump(mode="json"), person=person)
        job.blobs.set(blobs)
        made = Job.objects.bulk_create(
            Job(kind=part_kind, parameters=part.model_dump(mode="json"), person=person, parent=job) for part in parts
        )
        for one in made or [job]:
            _queue(one.pk, one.kind)
    return job


def may_restart(job: Job) -> bool:
    return State(job.state) in (State.FAILED, State.CANCELLED) and _KINDS[job.kind].restarted


def _queue(pk: int, kind: str) -> None:
    how = _KINDS[kind]
    lock = {"lock": f"{kind} alone"} if how.alone else {}
    app.configure_task(TASK, queue=QUEUE, priority=LATER if how.gives_way else 0, allow_unknown=True, **lock).defer(
        job=pk, request=request_number.get(), address=whence.address.get(), token=whence.token.get()
    )


def restart(person: Person, pk: int) -> Job:
    """A job that failed or was cancelled, once more; parts of it that are done stay done. Raises: NotFound, NotPossible"""
    with transaction.atomic():
        job = Job.objects.visible_to(person).select_for_update().filter(pk=pk, parent=None).first()
        if job is None:
            raise NotFound("There is no such job of yours.")
        if job.state not in (State.FAILED, State.CANCELLED):
            raise NotPossible(f"The job is {State(job.state).label.lower()}; only what failed or was cancelled is begun again.")
        again = list(job.parts.exclude(state=State.DONE).values_list("pk", "kind"))
        fresh = {"state": State.WAITING, "problem": "", "attempts": 0, "finished": None, "progress": 0}
        Job.objects.filter(pk__in=[job.pk, *(one for one, _ in again)]).update(**fresh)
        for one, kind in again or [(job.pk, job.kind)]:
            _queue(one, kind)
    _follow(job.pk)
    job.refresh_from_db()
    return job


def find(person: Person, pk: int) -> Job:
    """One of the person's own jobs. Raises: NotFound."""
    job: Job | None = Job.objects.visible_to(person).filter(pk=pk).first()
    if job is None:
        raise NotFound("There is no such job of yours.")
    return job


def result_of(person: Person, pk: int, kind: str) -> JobResult:
    """What a job of this kind came to. Raises: NotFound; NotPossible for another kind, and before it is done"""
    job = find(person, pk)
    found = read_result(job)
    if job.kind != kind or found is None:
        raise NotPossible("This job has no such result yet.")
    return found


def read_result(job: Job) -> JobResult | None:
    if job.state != State.DONE or job.result is None:
        return None
    return _KINDS[job.kind].result.model_validate(job.result)


def list_recent(person: Person) -> list[Job]:
    return list(Job.objects.visible_to(person).filter(parent=None).defer("parameters")[:KEPT_IN_LIST])


def cancel(person: Person, pk: int) -> Job:
    """With its parts; where it is a part itself, the whole is what its parts make it. Raises: NotFound, NotPossible"""
    job = find(person, pk)
    going = Job.objects.filter(state__in=GOING)
    with transaction.atomic():
        if not going.filter(pk=pk).update(state=State.CANCELLED, finished=timezone.now()):
            raise NotPossible(f"The job is {State(job.state).label.lower()} already.")
        going.filter(parent=job).update(state=State.CANCELLED, finished=timezone.now())
        if job.parent_id is not None:
            _part_ended(job.parent_id)
    job.refresh_from_db()
    return job


def put_right() -> int:
    """Jobs that nothing would ever end: a whole whose parts have ended without it, and what has no place in the queue any more.

    Returns: how many. Done every minute; what is put right was left by something that was cut off between two steps.
    """
    count = 0
    # What was made just now may not be in the queue yet: both are of one transaction.
    begun = Job.objects.filter(state__in=GOING, created__lt=timezone.now() - timedelta(minutes=1))
    queued = ProcrastinateJob.objects.filter(task_name=TASK, status__in=["todo", "doing"])
    known = {int(pk) for pk in queued.values_list("args__job", flat=True)}
    for pk in begun.exclude(parts__state__in=GOING).distinct().values_list("pk", flat=True):
        if pk not in known:
            log.warning("job %s was left behind; it is put right", pk)
            _part_ended(pk)
            count += 1
    return count


def perform(pk: int) -> None:
    """Do a job in the worker. A job that ended before (cancelled, or done by a worker thought lost) is left as it is."""
    begun = Job.objects.filter(pk=pk, state__in=[State.WAITING, State.RUNNING])
    if not begun.update(state=State.RUNNING, attempts=F("attempts") + 1):
        return
    job = Job.objects.select_related("person").get(pk=pk)
    if job.parent_id is not None:
        Job.objects.filter(pk=job.parent_id, state=State.WAITING).update(state=State.RUNNING)
    if job.attempts > MOST_ATTEMPTS:
        # It ended without a word each time: it kills the worker, and would again.
        _end(pk, State.FAILED, problem=f"Its worker ended {MOST_ATTEMPTS} times while doing it, so it was given up. {ENDS_WORKERS}")
        return
    if job.result is not None:
        _end(pk, State.DONE, progress=1.0)  # all of it was done when its worker ended
        return
    kind = _KINDS[job.kind]

    def report(fraction: float) -> None:
        if not Job.objects.filter(pk=pk, state=State.RUNNING).update(progress=fraction):
            raise Cancelled
        if job.parent_id is not None:
            _follow(job.parent_id)

    log.info("job begins", extra={"kind": job.kind, "person": job.person.username, "attempt": job.attempts})
    try:
        result = kind.work(job, kind.parameters.model_validate(job.parameters), report)
        _end(pk, State.DONE, result=result.model_dump(mode="json"), progress=1.0)
    except Cancelled:
        return
    except (SaucerError, Refusal) as error:
        _end(pk, State.FAILED, problem=str(error)[:1000])
    except MemoryError:
        log.exception("job %s wanted too much memory", pk)
        _end(pk, State.FAILED, problem=MEMORY)
    except StoreAway:
        log.exception("job %s had no store", pk)
        _end(pk, State.FAILED, problem=STORE_AWAY)
    except OSError as error:
        log.exception("job %s failed", pk)
        full = error.errno in (errno.ENOSPC, errno.EDQUOT)
        _end(pk, State.FAILED, problem=FULL if full else WENT_WRONG)
    except Exception:
        log.exception("job %s failed", pk)
        _end(pk, State.FAILED, problem=WENT_WRONG)


def settle(job: Job, result: JobResult) -> JobResult:
    """To be called in the transaction of what a job changes, last: the job is not done a second time then.

    Raises: Cancelled, and nothing is changed, when the person has cancelled meanwhile
    """
    if not Job.objects.filter(pk=job.pk, state=State.RUNNING).update(result=result.model_dump(mode="json")):
        raise Cancelled
    return result


def _end(pk: int, state: State, **fields: Any) -> None:
    Job.objects.filter(pk=pk, state=State.RUNNING).update(state=state, finished=timezone.now(), **fields)
    log.info("job ends", extra={"state": state.value, "problem": fields.get("problem", "")})
    parent = Job.objects.filter(pk=pk).values_list("parent", flat=True).first()
    if parent is not None:
        _part_ended(parent)


def _follow(pk: int) -> None:
    """The progress of a job of parts is that of its parts; a little is left for its own work."""
    mean = Job.objects.filter(parent=pk).aggregate(mean=Avg("progress"))["mean"] or 0.0
    Job.objects.filter(pk=pk, state__in=[State.WAITING, State.RUNNING]).update(progress=mean * 0.95)


def _part_ended(pk: int) -> None:
    """Once nothing of it goes on: its own work is queued, or it has failed as its first part did."""
    with transaction.atomic():
        job = Job.objects.select_for_update().get(pk=pk)
        states = Counter(Job.objects.filter(parent=pk).values_list("state", flat=True))
        if job.state not in GOING or any(states[one] for one in GOING):
            return
        failed, cancelled = states[State.FAILED], states[State.CANCELLED]
        if not failed and not cancelled:
            _queue(pk, job.kind)
            return
        first = Job.objects.filter(parent=pk).exclude(problem="").order_by("pk").values_list("problem", flat=True).first()
        told = [
            f"{count} of {states.total()} parts {words}"
            for count, words in ((failed, "failed"), (cancelled, "were cancelled"))
            if count
        ]
        words = f"{' and '.join(told)}; the others are kept. {first or ''}"
        state = State.FAILED if failed else State.CANCELLED
        Job.objects.filter(pk=pk).update(state=state, finished=timezone.now(), problem=words[:1000])
