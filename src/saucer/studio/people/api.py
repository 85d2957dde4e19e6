from __future__ import annotations

from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status
from ninja.utils import check_csrf

from saucer.studio.people import rules
from saucer.studio.people.models import Person, Role
from saucer.studio.refusals import NotAllowed

router = Router(tags=["people"])


class PersonOut(Schema):
    username: str
    name: str
    role: Role


class SessionOut(Schema):
    person: PersonOut | None


class SignIn(Schema):
    username: str
    password: str


def _out(person: Person) -> PersonOut:
    return PersonOut(username=person.username, name=person.shown_name, role=Role(person.role))


@router.get("/session", response=SessionOut, auth=None)
def read_session(request: HttpRequest) -> SessionOut:
    get_token(request)  # so that the page has a token before its first change
    user = request.user
    return SessionOut(person=_out(user) if isinstance(user, Person) else None)


@router.post("/session", response=SessionOut, auth=None)
def sign_in(request: HttpRequest, given: SignIn) -> SessionOut:
    if check_csrf(request):
        raise NotAllowed("The page is out of date. Reload it and sign in again.")
    return SessionOut(person=_out(rules.sign_in(request, given.username, given.password)))


@router.delete("/session", response={204: None})
def sign_out(request: HttpRequest) -> Status[None]:
    rules.sign_out(request)
    return Status(204, None)
