"""Everybody, for admins: roles, invitations, sessions, links for passwords, services and their tokens."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.people import accounts, links, mailing, owning, sessions, team, tokens
from saucer.studio.people.access import admin
from saucer.studio.people.models import DraftsOf, Link, Role, SecondFactor
from saucer.studio.people.own_api import NewToken, SessionShown, TokenIn, TokenOut, made_token, sessions_shown, token_out
from saucer.studio.people.signed_in import person_of
from saucer.studio.people.signing_in import Factor
from saucer.studio.people.studio import set_up, the_studio

router = Router(tags=["the studio"])


class AccountOut(Schema):
    """held: by too many failed tries to sign in; owns: how much of each kind, in words that name it"""

    username: str
    name: str
    email: str
    role: Role
    is_active: bool
    is_service: bool
    since: datetime
    seen: datetime | None
    factors: list[Factor]
    tokens: int
    owns: dict[str, int]
    is_held: bool


class InviteOut(Schema):
    id: int
    full_name: str
    email: str
    role: Role
    made: datetime
    until: datetime
    by: str


class TeamOut(Schema):
    members: list[AccountOut]
    invites: list[InviteOut]
    mail: Annotated[bool, Field(description="can links be mailed?")]


class DoneLately(Schema):
    """Something that a person did."""

    at: datetime
    action: str
    about: str


class AccountMore(Schema):
    sessions: list[SessionShown]
    tokens: list[TokenOut]
    lately: list[DoneLately]


class AccountIn(Schema):
    """What is none stays as it is."""

    role: Role | None = None
    is_active: bool | None = None
    full_name: Annotated[str | None, Field(max_length=120)] = None
    email: Annotated[str | None, Field(max_length=254)] = None


class InviteIn(Schema):
    role: Role
    full_name: Annotated[str, Field(max_length=120)] = ""
    email: Annotated[str, Field(max_length=254)] = ""


class LinkMade(Schema):
    """path: of the link within the studio, told this once"""

    path: str
    until: datetime
    mailed_to: str


class ServiceIn(Schema):
    name: Annotated[str, Field(min_length=1, max_length=150)]
    full_name: Annotated[str, Field(max_length=120)] = ""
    role: Role = Role.VIEWER


class HandOver(Schema):
    to: Annotated[str, Field(max_length=150)]


class HandedOver(Schema):
    count: int


class StudioOut(Schema):
    name: str
    second_factor: SecondFactor
    drafts: Annotated[DraftsOf, Field(description="who sees what somebody makes, until they say otherwise")]
    delivery: Annotated[str, Field(description="the encoding that pictures of new projects leave in")]
    skin: Annotated[int, Field(description="degrees that skin may turn before a shot of a new project is a misfit")]
    person_gb: Annotated[int, Field(description="that the files of a person may take; 0 for as many as there are")]
    project_gb: Annotated[int, Field(description="and those of a project")]


class StudioIn(Schema):
    name: Annotated[str | None, Field(max_length=80)] = None
    second_factor: SecondFactor | None = None
    drafts: DraftsOf | None = None
    skin: Annotated[int | None, Field(ge=1, le=60)] = None
    person_gb: Annotated[int | None, Field(ge=0, le=1_000_000)] = None
    project_gb: Annotated[int | None, Field(ge=0, le=1_000_000)] = None


def _member(one: team.Member) -> AccountOut:
    person = one.person
    return AccountOut(
        username=person.username, name=person.shown_name, email=person.email, role=Role(person.role), is_active=person.is_active,
        is_service=person.is_service, since=person.date_joined, seen=one.seen, factors=one.factors,
        tokens=one.tokens, owns=one.owns, is_held=one.is_held,
    )  # fmt: skip


def _invite(link: Link) -> InviteOut:
    by = link.made_by.shown_name if link.made_by else ""
    return InviteOut(
        id=link.pk, full_name=link.full_name, email=link.email, role=Role(link.role), made=link.made, until=link.until, by=by
    )


def _made(request: HttpRequest, link: Link, code: str, email: str, words: str) -> LinkMade:
    """Mailed too, where mail is set up and an address is known."""
    mailed = mailing.send_link(link, code, request.build_absolute_uri("/"), words, email)
    return LinkMade(path=links.address_of(code), until=link.until, mailed_to=email if mailed else "")


@router.get("/team", response=TeamOut, auth=admin("see everybody's account"))
def list_team(request: HttpRequest) -> TeamOut:
    """All accounts, with what each owns and when it was there last."""
    invites = [_invite(one) for one in links.list_invites()]
    return TeamOut(members=[_member(one) for one in team.list_members()], invites=invites, mail=settings.MAIL)


@router.post("/team/invites", response=LinkMade, auth=admin("invite people"))
def invite(request: HttpRequest, given: InviteIn) -> LinkMade:
    """A link by which somebody comes to an account, once."""
    if given.email:
        accounts.check_email(given.email)
    link, code = links.invite(person_of(request), given.role, given.full_name, given.email)
    return _made(request, link, code, given.email, f"You are invited. {person_of(request).shown_name} asks you to join.")


@router.delete("/team/invites/{pk}", response={204: None}, auth=admin("take invitations back"))
def take_invite_back(request: HttpRequest, pk: int) -> Status[None]:
    """The link opens nothing any more."""
    links.take_back(person_of(request), pk)
    return Status(204, None)


@router.post("/team/services", response={204: None}, auth=admin("add services"))
def add_service(request: HttpRequest, given: ServiceIn) -> Status[None]:
    """An account for a program, which comes by tokens only."""
    accounts.add_service(person_of(request), given.name, given.role, given.full_name)
    return Status(204, None)


@router.get("/team/{username}", response=AccountMore, auth=admin("see everybody's account"))
def read_member(request: HttpRequest, username: str) -> AccountMore:
    """An account with its sessions and tokens."""
    person = accounts.find(username)
    lately = [DoneLately(at=one.at, action=one.action, about=one.about) for one in team.list_lately(person)]
    held = [token_out(one) for one in tokens.list_of(person)]
    return AccountMore(sessions=sessions_shown(person, request.session.session_key), tokens=held, lately=lately)


@router.patch("/team/{username}", response={204: None}, auth=admin("change accounts"))
def change_member(request: HttpRequest, username: str, given: AccountIn) -> Status[None]:
    """Its role, name, mail address, and whether it is switched on."""
    by = person_of(request)
    accounts.change(by, username, given.role, given.is_active, given.full_name, given.email)
    return Status(204, None)


@router.post("/team/{username}/unlock", response={204: None}, auth=admin("unlock people"))
def unlock_member(request: HttpRequest, username: str) -> Status[None]:
    """After too many wrong passwords they may try again at once."""
    accounts.unlock(accounts.find(username).username, person_of(request))
    return Status(204, None)


@router.post("/team/{username}/link", response=LinkMade, auth=admin("give links for new passwords"))
def give_password_link(request: HttpRequest, username: str) -> LinkMade:
    """A link by which the person sets a new password, once."""
    person = accounts.find(username)
    link, code = links.let_choose_password(person_of(request), person)
    return _made(request, link, code, person.email, "A new password. By this link you choose one for your account.")


@router.delete("/team/{username}/second-factor", response={204: None}, auth=admin("take away second factors"))
def forget_second_factor(request: HttpRequest, username: str) -> Status[None]:
    """Their second factor goes, so that they can set up another."""
    accounts.forget_second_factor(username, person_of(request))
    return Status(204, None)


@router.delete("/team/{username}/sessions", response={204: None}, auth=admin("end sessions"))
def end_member_sessions(request: HttpRequest, username: str) -> Status[None]:
    """Signs them out everywhere."""
    sessions.end_all(person_of(request), accounts.find(username), but=request.session.session_key)
    return Status(204, None)


@router.delete("/team/{username}/sessions/{pk}", response={204: None}, auth=admin("end sessions"))
def end_member_session(request: HttpRequest, username: str, pk: int) -> Status[None]:
    """Signs them out in one place."""
    sessions.end(person_of(request), accounts.find(username), pk)
    return Status(204, None)


@router.post("/team/{username}/hand-over", response=HandedOver, auth=admin("hand over what others own"))
def hand_over(request: HttpRequest, username: str, given: HandOver) -> HandedOver:
    """All that somebody owns becomes somebody else's."""
    count = owning.hand_over(person_of(request), accounts.find(username), accounts.find(given.to))
    return HandedOver(count=count)


@router.post("/team/{username}/tokens", response=NewToken, auth=admin("make tokens of services"))
def make_service_token(request: HttpRequest, username: str, given: TokenIn) -> NewToken:
    """A token of a service account. Its secret is in this answer and in no other."""
    service = accounts.find_service(username)
    return made_token(*tokens.make(person_of(request), service, given.name, given.scopes, given.until))


@router.delete("/team/{username}/tokens/{pk}", response={204: None}, auth=admin("revoke tokens"))
def revoke_member_token(request: HttpRequest, username: str, pk: int) -> Status[None]:
    """It opens nothing from now on."""
    tokens.revoke(person_of(request), accounts.find(username), pk)
    return Status(204, None)


@router.get("/studio", response=StudioOut, auth=admin("see what holds for the studio"))
def read_studio(request: HttpRequest) -> StudioOut:
    """What holds for the whole studio."""
    studio = the_studio()
    return StudioOut(
        name=studio.name,
        second_factor=SecondFactor(studio.second_factor),
        drafts=DraftsOf(studio.drafts),
        delivery=studio.delivery,
        skin=studio.skin,
        person_gb=studio.person_gb,
        project_gb=studio.project_gb,
    )


@router.patch("/studio", response=StudioOut, auth=admin("change what holds for the studio"))
def change_studio(request: HttpRequest, given: StudioIn) -> StudioOut:
    """Its name, second factors, who sees drafts, room, and how far skin may turn."""
    set_up(person_of(request), **vars(given))
    return read_studio(request)
