"""Links that let somebody in once. Whoever has one needs nothing else, and nothing is told of those that let nobody in."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema, Status
from ninja.utils import check_csrf
from pydantic import Field

from saucer.studio.common.refusals import NotAllowed
from saucer.studio.people import accounts, links, mailing, signing_in
from saucer.studio.people.access import Anyone
from saucer.studio.people.api import SessionOut, session_of
from saucer.studio.people.models import Purpose, Role
from saucer.studio.people.studio import set_up, the_studio

router = Router(tags=["people"])


class LinkOut(Schema):
    """What a link is for. username: whose password it sets; none where it makes an account"""

    purpose: Purpose
    role: Role
    username: str | None
    full_name: str
    studio: str
    password_rules: list[str]


class LinkIn(Schema):
    """studio: its name, with the first account only"""

    password: Annotated[str, Field(max_length=200)]
    username: Annotated[str, Field(max_length=150)] = ""
    full_name: Annotated[str, Field(max_length=120)] = ""
    studio: Annotated[str, Field(max_length=80)] = ""


class Forgotten(Schema):
    name: Annotated[str, Field(max_length=254, description="of the account, or its mail address")]


@router.post("/forgotten", response={204: None}, auth=Anyone())
def forgot_password(request: HttpRequest, given: Forgotten) -> Status[None]:
    """The answer and its time are the same whether there is such an account or not: a worker looks for it, and mails a link."""
    if check_csrf(request):
        raise NotAllowed("The page is out of date. Reload it and try again.")
    mailing.ask_for_link(given.name, request.build_absolute_uri("/"), request.META.get("REMOTE_ADDR", ""))
    return Status(204, None)


@router.get("/links/{code}", response=LinkOut, auth=Anyone())
def read_link(request: HttpRequest, code: str) -> LinkOut:
    """What a link that lets somebody in once is for."""
    link = links.find(code)
    username = link.person.username if link.person else None
    return LinkOut(
        purpose=Purpose(link.purpose), role=Role(link.role), username=username, full_name=link.full_name, studio=the_studio().name,
        password_rules=accounts.password_rules(),
    )  # fmt: skip


@router.post("/links/{code}", response=SessionOut, auth=Anyone())
def use_link(request: HttpRequest, code: str, given: LinkIn) -> SessionOut:
    """Who comes by it is signed in, after their second factor where they have one."""
    if check_csrf(request):
        raise NotAllowed("The page is out of date. Reload it and try again.")
    is_first = links.find(code).purpose == Purpose.FIRST
    person = links.use(code, given.password, given.username, given.full_name)
    if is_first and given.studio:
        set_up(person, name=given.studio)
    signing_in.let_in(request, person)
    return session_of(request)
