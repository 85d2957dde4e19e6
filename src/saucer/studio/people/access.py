"""Who may call a path and how much they may send, told before anything of the request's body is read."""

from __future__ import annotations

from typing import Any, Protocol

from django.http import HttpRequest
from ninja.errors import HttpError
from ninja.security import SessionAuth

from saucer.studio.common.refusals import NotAllowed
from saucer.studio.people import quota, tokens, whence
from saucer.studio.people.models import Person, Role, Scope
from saucer.studio.people.rules import require
from saucer.studio.people.signing_in import LACKS_SECOND

MB = 2**20
SMALL = MB
"""Of a body that holds no file: the largest look is a fifth of it."""
BEARER = "Bearer "
REACHED_BY = {Role.VIEWER: Scope.READ, Role.DESIGNER: Scope.DESIGN, Role.CURATOR: Scope.PUBLISH, Role.ADMIN: None}
"""What a token has to reach for a path of this role; none: no token does."""


class SentBefore(Protocol):
    """Files that a request names in place of bringing them. Known by an app above, which says so here."""

    def measure(self, request: HttpRequest, person: Person) -> int:
        """How many bytes they have."""

    def put(self, request: HttpRequest, person: Person) -> None:
        """Where files of the request's form would be. What is in them has been measured."""


SENT_BEFORE: list[SentBefore] = []


def length_of(request: HttpRequest, person: Person) -> int:
    """Bytes of the body, as it says itself, and of files that were sent before it; one that does not say is taken to be empty."""
    return int(request.META.get("CONTENT_LENGTH") or 0) + sum(one.measure(request, person) for one in SENT_BEFORE)


def check_length(length: int, most: int) -> None:
    """Raises: HttpError 413 for more"""
    if length > most:
        raise HttpError(413, f"What was sent is {length / MB:.1f} MB; {most / MB:.0f} MB is the most here.")


class Access(SessionAuth):
    """Somebody who is signed in, or comes by a token that reaches it, has the role, and sends no more than `most` bytes.

    what: completes "You cannot ..."; scope: what a token has to reach to change something, by the role where none is said
    """

    def __init__(self, role: Role = Role.VIEWER, what: str = "", most: int = SMALL, scope: Scope | None = None) -> None:
        super().__init__()
        self.role, self.what, self.most = role, what, most
        self.scope = scope or REACHED_BY[role]

    def __call__(self, request: HttpRequest) -> Any:
        said = request.headers.get("Authorization", "")
        if said.startswith(BEARER):
            return self._by_token(request, said.removeprefix(BEARER).strip())
        person = request.user
        if not isinstance(person, Person):
            return None
        self._let_in(request)
        if self.what:
            require(person, self.role, self.what)
        check_length(length_of(request, person), self.most)
        # Only now: where the token is not in the header, looking for it reads the body.
        found = super().__call__(request)
        self._put(request, person)
        return found

    def _let_in(self, request: HttpRequest) -> None:
        """Raises: NotAllowed where the studio asks for more than a password, and there is no more yet."""
        if request.session.get(LACKS_SECOND):
            raise NotAllowed("This studio asks you for a second factor. Set one up on your own page, then go on.")

    def _by_token(self, request: HttpRequest, secret: str) -> Any:
        """No cookie is believed beside a token, and so it needs no protection against pages of others."""
        comes = tokens.believe(secret, request.META.get("REMOTE_ADDR") or None)
        if comes is None:
            return None
        if self.scope is None:
            raise NotAllowed(f"No token may do this: you cannot {self.what or 'do this'} but in person.")
        scope = Scope.READ if request.method in ("GET", "HEAD") else self.scope
        if scope not in comes.scopes:
            raise NotAllowed(f'The token "{comes.name}" does not reach this: it takes "{scope.value}".')
        if self.what:
            require(comes.person, self.role, self.what)
        check_length(length_of(request, comes.person), self.most)
        request.user = comes.person
        whence.token.set(comes.name)
        self._put(request, comes.person)
        return comes.person

    def _put(self, request: HttpRequest, person: Person) -> None:
        for one in SENT_BEFORE:
            one.put(request, person)


class InPerson(Access):
    """Somebody who is signed in, also one who has yet to set up the second factor that the studio asks for. No token reaches it."""

    def __init__(self, what: str = "", most: int = SMALL) -> None:
        super().__init__(Role.VIEWER, what, most)
        self.scope = None

    def _let_in(self, request: HttpRequest) -> None:
        """What is missing is set up here."""


class Intake(Access):
    """Somebody who brings something in, and has room for it."""

    def __init__(self, what: str, most: int) -> None:
        super().__init__(Role.DESIGNER, what, most, Scope.BRING_IN)

    def __call__(self, request: HttpRequest) -> Any:
        person = super().__call__(request)
        if isinstance(person, Person):
            quota.require_room("person", person.pk, length_of(request, person))
        return person


def personal() -> Access:
    """Access for everybody to what is their own (stars, views, verdicts, notes), which no token changes in their place."""
    access = Access()
    access.scope = None
    return access


def designer(what: str, most: int = SMALL, scope: Scope | None = None) -> Access:
    """Access for designers. what: completes "You cannot ..." """
    return Access(Role.DESIGNER, what, most, scope)


def designer_in_person(what: str) -> Access:
    """Access for designers who are signed in, to what no token does in their place. what: completes "You cannot ..." """
    access = designer(what)
    access.scope = None
    return access


def intake(what: str, most: int = SMALL) -> Access:
    """Access for designers who bring something in. what: completes "You cannot ..." """
    return Intake(what, most)


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

    def __call__(self, request: HttpRequest) -> Any:
        check_length(int(request.META.get("CONTENT_LENGTH") or 0), self.most)
        return True
