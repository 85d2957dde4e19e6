"""Who is asking."""

from __future__ import annotations

from django.http import HttpRequest

from saucer.studio.people.models import Person


def person_of(request: HttpRequest) -> Person:
    """The person behind an authenticated request."""
    assert isinstance(request.user, Person)
    return request.user
