"""Hooks, for admins."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.hooks import rules
from saucer.studio.hooks.models import Call, CallState, Event, Hook
from saucer.studio.people.access import admin
from saucer.studio.people.signed_in import person_of

router = Router(tags=["hooks"])
Url = Annotated[str, Field(max_length=500)]
Called = Annotated[str, Field(max_length=80)]


class HookOut(Schema):
    id: int
    name: str
    url: str
    events: list[Event]
    is_on: bool
    by: str
    made: datetime


class HookMade(HookOut):
    """secret: by which calls are signed, told this once"""

    secret: str


class HookIn(Schema):
    name: Called
    url: Url
    events: Annotated[list[Event], Field(max_length=len(Event))]


class HookChange(Schema):
    name: Called | None = None
    url: Url | None = None
    events: Annotated[list[Event] | None, Field(max_length=len(Event))] = None
    is_on: bool | None = None


class CallOut(Schema):
    """due: when it is sent again, none where it is not; status: of the last answer, none for none"""

    id: int
    event: str
    state: CallState
    attempts: int
    status: int | None
    problem: str
    at: datetime
    due: datetime | None


def _out(hook: Hook) -> dict[str, Any]:
    by = hook.made_by.shown_name if hook.made_by else ""
    return {
        "id": hook.pk, "name": hook.name, "url": hook.url, "events": [Event(one) for one in hook.events], "is_on": hook.is_on,
        "by": by, "made": hook.made,
    }  # fmt: skip


def _call(call: Call) -> CallOut:
    waits = call.state == CallState.WAITING
    return CallOut(
        id=call.pk, event=call.event, state=CallState(call.state), attempts=call.attempts, status=call.status, problem=call.problem,
        at=call.at, due=call.due if waits else None,
    )  # fmt: skip


@router.get("", response=list[HookOut], auth=admin("see hooks"))
def list_hooks(request: HttpRequest) -> list[HookOut]:
    """Addresses that are told of what happens."""
    return [HookOut(**_out(hook)) for hook in rules.list_hooks(person_of(request))]


@router.post("", response=HookMade, auth=admin("add hooks"))
def add(request: HttpRequest, given: HookIn) -> HookMade:
    """An address that is told. Its secret is in this answer and in no other."""
    hook = rules.add(person_of(request), given.name, given.url, given.events)
    return HookMade(**_out(hook), secret=hook.secret)


@router.patch("/{pk}", response=HookOut, auth=admin("change hooks"))
def change(request: HttpRequest, pk: int, given: HookChange) -> HookOut:
    """Its name, address, what it is told of, and whether it is."""
    return HookOut(**_out(rules.change(person_of(request), pk, given.name, given.url, given.events, given.is_on)))


@router.delete("/{pk}", response={204: None}, auth=admin("remove hooks"))
def remove(request: HttpRequest, pk: int) -> Status[None]:
    """It is told of nothing more."""
    rules.remove(person_of(request), pk)
    return Status(204, None)


@router.get("/{pk}/calls", response=list[CallOut], auth=admin("see hooks"))
def list_calls(request: HttpRequest, pk: int) -> list[CallOut]:
    """The last fifty."""
    return [_call(one) for one in rules.list_calls(person_of(request), pk)]


@router.post("/{pk}/try", response=CallOut, auth=admin("try hooks"))
def try_out(request: HttpRequest, pk: int) -> CallOut:
    """It is called, of nothing: to see whether somebody is there."""
    return _call(rules.try_out(person_of(request), pk))
