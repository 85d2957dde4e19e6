"""Oneself: name, password, sessions, tokens."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.people import accounts, own, quota, sessions, tokens
from saucer.studio.people.access import InPerson
from saucer.studio.people.models import NoticeAbout, Person, Role, Scope, Token
from saucer.studio.people.signed_in import person_of

router = Router(tags=["oneself"])


class SessionShown(Schema):
    """Where somebody is signed in. address: of the network"""

    id: int
    browser: str
    address: str
    since: datetime
    seen: datetime
    is_this: bool


class TokenOut(Schema):
    id: int
    name: str
    scopes: list[Scope]
    made: datetime
    until: datetime
    used: datetime | None
    used_from: str | None


class NewToken(TokenOut):
    secret: Annotated[str, Field(description="told this once")]


class TokenIn(Schema):
    """until: the day on which it ends"""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    scopes: Annotated[list[Scope], Field(min_length=1, max_length=4)]
    until: date


class OwnOut(Schema):
    username: str
    full_name: str
    email: str
    role: Role
    password_rules: list[str]
    scopes: Annotated[list[Scope], Field(description="what a token may reach at most")]
    told_of: Annotated[list[NoticeAbout], Field(description="by notices")]
    is_mailed: Annotated[bool, Field(description="once a day, what notices they have not looked at")]
    mail: Annotated[bool, Field(description="is anything mailed from here?")]
    room: Annotated[int, Field(description="bytes that one's files take, where a most is set")]
    most: Annotated[int | None, Field(description="bytes that they may take")]


class OwnIn(Schema):
    full_name: Annotated[str | None, Field(max_length=120)] = None
    email: Annotated[str | None, Field(max_length=254)] = None
    told_of: Annotated[list[NoticeAbout] | None, Field(max_length=len(NoticeAbout))] = None
    is_mailed: bool | None = None
    is_new: Annotated[Literal[False] | None, Field(description="they have been shown around")] = None


class PasswordIn(Schema):
    current: Annotated[str, Field(max_length=200)]
    new: Annotated[str, Field(max_length=200)]


def token_out(token: Token) -> TokenOut:
    return TokenOut(**{name: getattr(token, name) for name in TokenOut.model_fields})


def made_token(token: Token, secret: str) -> NewToken:
    return NewToken(**token_out(token).model_dump(), secret=secret)


def sessions_shown(person: Person, this: str | None = None) -> list[SessionShown]:
    return [SessionShown(**vars(one)) for one in sessions.list_of(person, this)]


@router.get("/own", response=OwnOut, auth=InPerson())
def read_own(request: HttpRequest) -> OwnOut:
    """One's own account."""
    person = person_of(request)
    room = quota.room_of("person", person.pk)
    return OwnOut(
        username=person.username, full_name=person.full_name, email=person.email, role=Role(person.role),
        password_rules=accounts.password_rules(), scopes=tokens.scopes_of(person),
        told_of=[NoticeAbout(one) for one in person.told_of], is_mailed=person.is_mailed, mail=settings.MAIL,
        room=room.bytes, most=room.most,
    )  # fmt: skip


@router.patch("/own", response=OwnOut, auth=InPerson())
def describe_own(request: HttpRequest, given: OwnIn) -> OwnOut:
    """One's own name, mail address and what one is told of."""
    person = person_of(request)
    accounts.describe(person.username, given.full_name, given.email, by=person)
    if given.is_new is not None:
        own.end_walk(person)
    request.user = own.choose_notices(person, given.told_of, given.is_mailed)
    return read_own(request)


@router.post("/own/password", response={204: None}, auth=InPerson())
def change_password(request: HttpRequest, given: PasswordIn) -> Status[None]:
    """All other sessions end."""
    own.change_password(request, given.current, given.new)
    return Status(204, None)


@router.get("/own/sessions", response=list[SessionShown], auth=InPerson())
def list_sessions(request: HttpRequest) -> list[SessionShown]:
    """Where one is signed in."""
    return sessions_shown(person_of(request), request.session.session_key)


@router.delete("/own/sessions", response={204: None}, auth=InPerson())
def end_other_sessions(request: HttpRequest) -> Status[None]:
    """All but this one."""
    sessions.end_all(person_of(request), person_of(request), but=request.session.session_key)
    return Status(204, None)


@router.delete("/own/sessions/{pk}", response={204: None}, auth=InPerson())
def end_session(request: HttpRequest, pk: int) -> Status[None]:
    """Signs out there."""
    sessions.end(person_of(request), person_of(request), pk)
    return Status(204, None)


@router.get("/own/code.svg", auth=InPerson(), response={200: None})
def draw_code(request: HttpRequest) -> HttpResponse:
    """What a telephone takes the secret of a code app from that is being set up (/api/auth/factors/totp gives it in letters)."""
    return HttpResponse(own.draw_secret(request), content_type="image/svg+xml", headers={"Cache-Control": "no-store"})


@router.get("/own/tokens", response=list[TokenOut], auth=InPerson())
def list_tokens(request: HttpRequest) -> list[TokenOut]:
    """One's own tokens, without their secrets."""
    return [token_out(one) for one in tokens.list_of(person_of(request))]


@router.post("/own/tokens", response=NewToken, auth=InPerson())
def make_token(request: HttpRequest, given: TokenIn) -> NewToken:
    """A new token. Its secret is in this answer and in no other."""
    person = person_of(request)
    return made_token(*tokens.make(person, person, given.name, given.scopes, given.until))


@router.delete("/own/tokens/{pk}", response={204: None}, auth=InPerson())
def revoke_token(request: HttpRequest, pk: int) -> Status[None]:
    """It opens nothing from now on."""
    tokens.revoke(person_of(request), person_of(request), pk)
    return Status(204, None)
