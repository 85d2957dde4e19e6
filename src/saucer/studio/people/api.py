"""Signing in and out, and oneself."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, cast

from django.conf import settings
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status
from ninja.utils import check_csrf
from pydantic import Field

from saucer.core.colour.rendering import View
from saucer.studio.common.reading import count_unreadable, list_unreadable
from saucer.studio.common.refusals import NotAllowed
from saucer.studio.people import elsewhere, rules
from saucer.studio.people.access import Anyone, admin, designer
from saucer.studio.people.models import Person, Role
from saucer.studio.people.signing_in import LACKS_SECOND, Factor, pending_factors
from saucer.studio.people.signing_in import sign_in as sign_in_person
from saucer.studio.people.signing_in import sign_out as sign_out_person
from saucer.studio.people.studio import the_studio

router = Router(tags=["people"])


class PersonOut(Schema):
    username: str
    name: str
    role: Role


class SessionOut(Schema):
    person: PersonOut | None
    waits_for: Annotated[list[Factor], Field(description="with which of these the one who is signing in goes on")] = []
    lacks_second: Annotated[
        bool, Field(description="the studio asks for a second factor that is not set up: nothing else may be done before")
    ] = False
    mail: Annotated[bool, Field(description="are links for new passwords mailed?")] = False
    may: Annotated[list[rules.Ability], Field(description="what the person may do anywhere")] = []
    is_new: Annotated[bool, Field(description="has yet to be shown around")] = False
    unreadable: Annotated[int, Field(description="for admins: how many rows lists have left out lately")] = 0
    elsewhere: Annotated[str, Field(description="what the studio's accounts elsewhere are called, where one comes in by them")] = ""
    view: Annotated[View, Field(description="by which pictures are seen in this studio where nothing says another")] = "soft"
    delivery: Annotated[str, Field(description="the encoding that pictures of new projects leave in")] = "rec709"


class UnreadableOut(Schema):
    """A row that lists leave out because it cannot be read. kind, key: what it is in the database"""

    kind: str
    key: str
    name: str
    problem: str
    at: datetime


class SignIn(Schema):
    username: str
    password: str


def session_of(request: HttpRequest) -> SessionOut:
    person = request.user
    if not isinstance(person, Person):
        return SessionOut(person=None, waits_for=pending_factors(request), mail=settings.MAIL, elsewhere=settings.OIDC_NAME)
    shown = PersonOut(username=person.username, name=person.shown_name, role=Role(person.role))
    may = rules.abilities(person)
    return SessionOut(
        person=shown, may=may, is_new=person.is_new, unreadable=count_unreadable() if "administer" in may else 0,
        view=cast(View, settings.VIEW), delivery=the_studio().delivery, lacks_second=bool(request.session.get(LACKS_SECOND)),
    )  # fmt: skip


@router.get("/people", response=list[PersonOut], auth=designer("see who works here"))
def list_people(request: HttpRequest) -> list[PersonOut]:
    """Those who can sign in, to choose members of a project from."""
    found = Person.objects.filter(is_active=True, is_service=False).order_by("full_name", "username")
    return [PersonOut(username=one.username, name=one.shown_name, role=Role(one.role)) for one in found]


@router.get("/unreadable", response=list[UnreadableOut], auth=admin("see what cannot be read"))
def list_left_out(request: HttpRequest) -> list[UnreadableOut]:
    """What lists have left out within the last hour, for whoever runs the studio."""
    return [UnreadableOut(**{name: getattr(one, name) for name in UnreadableOut.model_fields}) for one in list_unreadable()]


@router.get("/session", response=SessionOut, auth=None)
def read_session(request: HttpRequest) -> SessionOut:
    """Who is signed in here, and what they may do."""
    get_token(request)  # so that the page has a token before its first change
    return session_of(request)


class ElsewhereOut(Schema):
    """url: where one goes on"""

    url: str


@router.post("/session/elsewhere", response=ElsewhereOut, auth=Anyone())
def go_elsewhere(request: HttpRequest) -> ElsewhereOut:
    """To come in by the studio's accounts elsewhere (OpenID Connect); from there one comes back to the page, signed in or told why not."""
    if check_csrf(request):
        raise NotAllowed("The page is out of date. Reload it and sign in again.")
    return ElsewhereOut(url=elsewhere.begin(request))


@router.post("/session", response=SessionOut, auth=Anyone())
def sign_in(request: HttpRequest, given: SignIn) -> SessionOut:
    """Where a second factor is set up the answer has no person yet, and says what is waited for: it goes on at /api/auth."""
    if check_csrf(request):
        raise NotAllowed("The page is out of date. Reload it and sign in again.")
    sign_in_person(request, given.username, given.password)
    return session_of(request)


@router.delete("/session", response={204: None}, auth=Anyone())
def sign_out(request: HttpRequest) -> Status[None]:
    """Also who is between password and second factor: it begins anew."""
    if check_csrf(request):
        raise NotAllowed("The page is out of date. Reload it.")
    sign_out_person(request)
    return Status(204, None)
