"""A form may name files that were sent in parts before it; every path that takes a file takes them, and knows nothing of it."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from pydantic import Field, TypeAdapter

from saucer.studio.people.access import SENT_BEFORE
from saucer.studio.people.models import Person
from saucer.studio.uploads import rules
from saucer.studio.uploads.models import Upload

HEADER = "Saucer-Uploads"
"""A JSON list: for each file the field of the form that it belongs to, and the number of its upload."""
NAMED = TypeAdapter(Annotated[list[tuple[Annotated[str, Field(max_length=40)], UUID]], Field(max_length=rules.MOST_OPEN)])


def _said(request: HttpRequest) -> list[tuple[str, UUID]]:
    said = request.headers.get(HEADER)
    return NAMED.validate_json(said) if said else []


def _named(request: HttpRequest, person: Person) -> list[tuple[str, Upload]]:
    return [(field, rules.find(person, pk)) for field, pk in _said(request)]


class InPlace:
    def measure(self, request: HttpRequest, person: Person) -> int:
        return sum(upload.size for _, upload in _named(request, person))

    def put(self, request: HttpRequest, person: Person) -> None:
        for field, upload in _named(request, person):
            request.FILES.appendlist(field, rules.gather(upload))


SENT_BEFORE.append(InPlace())


class Taken:
    """What was sent in parts goes once something has taken it. Where it was refused it stays: the next try need not send it again."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        if HEADER in request.headers and response.status_code < 400 and isinstance(request.user, Person):
            # What cannot be taken away now goes when nobody has gone on with it for a day.
            with suppress(OSError):
                rules.end_all(request.user, [pk for _, pk in _said(request)])
        return response
