"""What may happen to hooks, and what they are told of: noted as it happens, sent by a worker, and again where that fails."""

from __future__ import annotations

import http.client
import secrets
from collections.abc import Sequence
from datetime import timedelta
from time import monotonic
from typing import Any

from django.conf import settings
from django.db import IntegrityError, transaction
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

from saucer.studio.catalogue.models import Version
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.hooks import sending
from saucer.studio.hooks.models import TRIED, Call, CallState, Event, Hook
from saucer.studio.people.models import Activity, Person, Role
from saucer.studio.people.rules import LISTENERS, name_of, record, require
from saucer.studio.people.studio import the_studio
from saucer.studio.projects.models import Project

EVENT_OF = {"propose": Event.PROPOSED, "publish": Event.PUBLISHED, "retire": Event.RETIRED, "delivered": Event.DELIVERED}
"""What is told of, by the action as the activity has it."""
SEND = "saucer.call_hooks"
PAUSES = tuple(timedelta(seconds=one) for one in (10, 60, 300, 1800, 7200, 21600, 43200))
"""Between one try and the next, growing to half a day; then it is given up."""
KEPT = 50
"""Calls of a hook that are shown, and kept once they are done."""
MOST = 20
RUNS_FOR = 45.0
"""Seconds after which a worker that sends calls lets other work have its turn; what is due then is sent in the next minute."""


def list_hooks(person: Person) -> list[Hook]:
    require(person, Role.ADMIN, "see hooks")
    return list(Hook.objects.select_related("made_by"))


def find(person: Person, pk: int, lock: bool = False) -> Hook:
    """lock: held until the end of the transaction. Raises: NotAllowed, NotFound"""
    require(person, Role.ADMIN, "see hooks")
    known = Hook.objects.select_for_update() if lock else Hook.objects.all()
    found = known.filter(pk=pk).first()
    if found is None:
        raise NotFound("There is no such hook.")
    return found


def add(person: Person, name: str, url: str, events: Sequence[Event]) -> Hook:
    """Its secret is told this once. Raises: NotAllowed, NotPossible"""
    require(person, Role.ADMIN, "add hooks")
    with transaction.atomic():
        if Hook.objects.count() >= MOST:
            raise NotPossible(f"{MOST} hooks are the most. Take one away first.")
        hook = Hook(name=_name(name), url=_url(url), events=_events(events), secret=secrets.token_hex(32), made_by=person)
        _save(hook)
        record(person, "add hook", hook, url=hook.url, events=hook.events)
    return hook


def change(person: Person, pk: int, name: str | None, url: str | None, events: Sequence[Event] | None, is_on: bool | None) -> Hook:
    """What is none stays. Raises: NotAllowed, NotFound, NotPossible"""
    with transaction.atomic():
        hook = find(person, pk, lock=True)
        hook.name = hook.name if name is None else _name(name)
        hook.url = hook.url if url is None else _url(url)
        hook.events = hook.events if events is None else _events(events)
        hook.is_on = hook.is_on if is_on is None else is_on
        _save(hook)
        record(person, "change hook", hook, url=hook.url, events=hook.events, is_on=hook.is_on)
    return hook


def remove(person: Person, pk: int) -> None:
    """With the calls that wait. Raises: NotAllowed, NotFound"""
    with transaction.atomic():
        hook = find(person, pk, lock=True)
        record(person, "remove hook", hook, url=hook.url)
        hook.delete()


def try_out(person: Person, pk: int) -> Call:
    """A call that tells of nothing, to see whether somebody is there. Raises: NotAllowed, NotFound"""
    hook = find(person, pk)
    with transaction.atomic():
        body = {"event": TRIED, "at": timezone.now().isoformat(), "by": person.shown_name, "studio": the_studio().name}
        call = Call.objects.create(hook=hook, event=TRIED, body=body, due=timezone.now())
        _wake()
    return call


def list_calls(person: Person, pk: int) -> list[Call]:
    """The last ones. Raises: NotAllowed, NotFound"""
    return list(Call.objects.filter(hook=find(person, pk))[:KEPT])


def _name(text: str) -> str:
    if not text.strip():
        raise NotPossible("A hook needs a name.")
    return text.strip()[:80]


def _url(text: str) -> str:
    sending.check_url(text.strip())
    return text.strip()


def _events(events: Sequence[Event]) -> list[str]:
    if not events:
        raise NotPossible("Choose what it is told of.")
    return sorted({str(one) for one in events})


def _save(hook: Hook) -> None:
    try:
        with transaction.atomic():
            hook.save()
    except IntegrityError:
        raise NotPossible(f'There is a hook "{hook.name}" already.') from None


def note(lines: Sequence[Activity]) -> None:
    """What of this hooks are told of; in the transaction of what happened. Three queries, however many lines, and none for most."""
    telling = [line for line in lines if line.action in EVENT_OF]
    if not telling:
        return
    wanted = {str(EVENT_OF[line.action]) for line in telling}
    hooks = list(Hook.objects.filter(is_on=True, events__overlap=sorted(wanted)))
    if not hooks:
        return
    told, now = _bodies(telling), timezone.now()
    Call.objects.bulk_create(
        [
            Call(hook=hook, event=body["event"], body=body, due=now)
            for hook in hooks
            for body in told
            if body["event"] in hook.events
        ],
        batch_size=500,
    )
    _wake()


def _bodies(lines: Sequence[Activity]) -> list[dict[str, Any]]:
    studio = the_studio().name
    versions = Version.objects.select_related("entry").defer("content").in_bulk(_abouts(lines, "version"))
    projects = Project.objects.in_bulk(_abouts(lines, "project"))
    found = []
    for line in lines:
        body = {
            "event": str(EVENT_OF[line.action]), "at": line.at.isoformat(),
            "by": name_of(line.person, str(line.data.get("guest", ""))), "studio": studio,
        }  # fmt: skip
        if version := versions.get(line.about_id or 0) if line.about_kind == "version" else None:
            entry = version.entry
            told = {"kind": entry.kind, "id": entry.pk, "name": entry.name, "version": version.number}
            found.append(body | {"entry": told, "page": f"/shelf/{entry.kind}/{entry.pk}"})
        elif project := projects.get(line.about_id or 0) if line.about_kind == "project" else None:
            told = {"id": project.pk, "name": project.name}
            number = line.data["number"]
            found.append(body | {"project": told, "delivery": number, "page": f"/projects/{project.pk}/deliveries/{number}"})
    return found


def _abouts(lines: Sequence[Activity], kind: str) -> list[int]:
    return [line.about_id for line in lines if line.about_kind == kind and line.about_id is not None]


LISTENERS.append(note)


def _wake() -> None:
    """A worker looks for calls that are due; one that was asked to and has not begun is enough."""
    try:
        with transaction.atomic():
            app.configure_task(SEND, queue="work", queueing_lock=SEND).defer()
    except AlreadyEnqueued:
        pass


def send_due() -> int:
    """Every call that is due, each by one worker only, for as long as one run goes on. Returns: how many were sent"""
    count, end = 0, monotonic() + RUNS_FOR
    while monotonic() < end and (call := _claim()) is not None:
        _send(call)
        count += 1
    return count


def _claim() -> Call | None:
    """The next one, which nobody else sends meanwhile: it is due again after its pause, should this worker end."""
    with transaction.atomic():
        waiting = Call.objects.filter(state=CallState.WAITING, due__lte=timezone.now(), hook__is_on=True)
        call = waiting.select_for_update(of=("self",), skip_locked=True).select_related("hook").order_by("due", "pk").first()
        if call is not None:
            call.due = timezone.now() + PAUSES[min(call.attempts, len(PAUSES) - 1)]
            call.attempts += 1
            call.save(update_fields=["due", "attempts"])
    return call


def _send(call: Call) -> None:
    hook = call.hook
    call.status, call.problem = None, ""
    try:
        time = int(timezone.now().timestamp())
        call.status = sending.send(hook.url, hook.secret, call.pk, call.event, time, call.body, settings.HOOKS_INSIDE)
        if not 200 <= call.status < 300:
            call.problem = f"answered {call.status}"
    except (OSError, http.client.HTTPException, NotPossible) as error:
        call.problem = (str(error) or type(error).__name__)[:300]
    if not call.problem:
        call.state = CallState.DONE
    elif call.attempts > len(PAUSES):
        call.state = CallState.GIVEN_UP
    call.save(update_fields=["status", "problem", "state"])
    if call.state != CallState.WAITING:
        kept = Call.objects.filter(hook=hook).exclude(state=CallState.WAITING).values_list("pk", flat=True)[:KEPT]
        Call.objects.filter(hook=hook).exclude(state=CallState.WAITING).exclude(pk__in=list(kept)).delete()
