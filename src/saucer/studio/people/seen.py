"""Who is there, noted once a minute while a request of theirs is answered."""

from __future__ import annotations

import time
from collections.abc import Callable

from allauth.usersessions.models import UserSession
from django.conf import settings
from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from saucer.studio.people import whence
from saucer.studio.people.models import Person
from saucer.studio.people.signing_in import BEGAN, LACKS_SECOND, lacks_second_factor

EVERY = 60.0
"""Seconds between two notes of one session having been used."""
DAY = 86_400.0
SEEN_AT = "seen at"
BY_ITSELF = ("/api/jobs", "/api/notices", "/api/stamp", "/api/studio/jobs", "/api/studio/well")
"""What an open page asks for without anybody doing anything: it keeps no session alive."""


class Seen:
    """Notes who is there, from where, once a minute; which makes a session live its hours (SAUCER_SESSION_HOURS) anew.

    Whatever is done in it, it ends after its days (SAUCER_SESSION_DAYS)."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        with whence.asked_from(request.META.get("REMOTE_ADDR") or None):
            if request.path.startswith("/api/") and isinstance(request.user, Person):
                if time.time() - float(request.session.setdefault(BEGAN, time.time())) > settings.SESSION_DAYS * DAY:
                    logout(request)
                elif not is_by_itself(request):
                    self._note(request)
            return self.get_response(request)

    def _note(self, request: HttpRequest) -> None:
        person = request.user
        if not isinstance(person, Person) or time.time() - float(request.session.get(SEEN_AT, 0)) < EVERY:
            return
        UserSession.objects.create_from_request(request)
        Person.objects.filter(pk=person.pk).update(seen=timezone.now())
        request.session[SEEN_AT] = time.time()
        request.session[LACKS_SECOND] = lacks_second_factor(person)


def is_by_itself(request: HttpRequest) -> bool:
    if request.path.endswith("/presence"):
        return True
    return request.method == "GET" and (request.path in BY_ITSELF or request.path.startswith("/api/review/"))
