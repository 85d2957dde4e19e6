"""Who may call a path and how much they may send, told before anything of the request's body is read."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja.errors import HttpError
from ninja.security import SessionAuth

from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import require

MB = 2**20
SMALL = MB
"""Of a body that holds no file: the largest look is a fifth of it."""


def check_length(request: HttpRequest, most: int) -> None:
    """Raises: HttpError 413 for a body that says it is longer; one that does not say is taken to be empty"""
    length = int(request.META.get("CONTENT_LENGTH") or 0)
    if length > most:
        raise HttpError(413, f"What was sent is {length / MB:.1f} MB; {most / MB:.0f} MB is the most here.")


class Access(SessionAuth):
    """Somebody who is signed in, has the role, and sends no more than `most` bytes.

    what: completes "You cannot ..."
    """

    def __init__(self, role: Role = Role.VIEWER, what: str = "", most: int = SMALL) -> None:
        super().__init__()
        self.role, self.what, self.most = role, what, most

    def __call__(self, request: HttpRequest) -> Any:
        person = request.user
        if not isinstance(person, Person):
            return None
        if self.what:
            require(person, self.role, self.what)
        check_length(request, self.most)
        # Only now: where the token is not in the header, looking for it reads the body.
        return super().__call__(request)


def designer(what: str, most: int = SMALL) -> Access:
    """Access for designers. what: completes "You cannot ..." """
    return Access(Role.DESIGNER, what, most)


def curator(what: str, most: int = SMALL) -> Access:
    """Access for curators. what: completes "You cannot ..." """
    return Access(Role.CURATOR, what, most)


def admin(what: str, most: int = SMALL) -> Access:
    """Access for admins. what: completes "You cannot ..." """
    return Access(Role.ADMIN, what, most)


def file_of(most: int) -> int:
    """The longest body that brings files of so many bytes, with the names and fields around them."""
    return most + MB


class Anyone:
    """Also who is not signed in, with a body of a few letters."""

    def __init__(self, most: int = 4096) -> None:
        self.most = most

    def __call__(self, request: HttpRequest) -> bool:
        check_length(request, self.most)
        return True
