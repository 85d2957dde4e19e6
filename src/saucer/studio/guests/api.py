"""What people without an account see and say, by a link. Nothing else is reached by one."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Literal

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from ninja.utils import check_csrf
from pydantic import Field, model_validator

from saucer.studio.boards.models import Choice
from saucer.studio.catalogue.models import Pin
from saucer.studio.common.images import respond
from saucer.studio.common.refusals import NotAllowed
from saucer.studio.guests import coming, links, saying, showing
from saucer.studio.guests.models import Guest, GuestLink, Shows
from saucer.studio.people.access import Anyone
from saucer.studio.people.studio import the_studio
from saucer.studio.projects.models import ShotNote

COOKIE = "saucer_guest"


def _require_own_page(request: HttpRequest) -> None:
    """Raises: NotAllowed for what a page of others sends."""
    if check_csrf(request):
        raise NotAllowed("The page is out of date. Reload it and try again.")


class ByLink(Anyone):
    """Somebody who has come in by the link that the path names; told before anything of the body is read."""

    def __call__(self, request: HttpRequest) -> Guest:
        super().__call__(request)
        assert request.resolver_match is not None
        guest = coming.believe(request.resolver_match.kwargs["code"], request.COOKIES.get(COOKIE, ""))
        if guest is None:
            raise NotAllowed("Come in first: say your name.")
        if request.method not in ("GET", "HEAD"):
            _require_own_page(request)
        return guest


router = Router(tags=["guests"], auth=ByLink())
Kind = Literal["entry", "shot"]
Share = Annotated[float, Field(ge=0, le=1)]


class DoorOut(Schema):
    """What a link says before anybody has come in by it. name: of who has, at this browser; until: the last day it is open"""

    studio: str
    by: str
    shows: Shows
    asks_password: bool
    name: str | None
    until: date


class ComeIn(Schema):
    name: Annotated[str, Field(max_length=80)]
    password: Annotated[str, Field(max_length=100)] = ""


class GuestPicture(Schema):
    """sides: width over height"""

    id: int
    name: str
    sides: float


class ShownOut(Schema):
    """One thing that is looked at. group: the scene of a shot; shows: changes whenever it looks different

    first, last, poster: frames of a shot that moves, from 0; poster is the one on the wall
    """

    kind: Kind
    id: int
    name: str
    group: str
    shows: str
    sides: float
    choice: Choice
    first: int | None = None
    last: int | None = None
    poster: int | None = None


class RemarkOut(Schema):
    """picture: that an entry is seen on; frame: of a shot that moves, from 0"""

    id: int
    kind: Kind
    of: int
    words: str
    picture: int | None
    frame: int | None
    x: float | None
    y: float | None
    at: datetime


class ShownPage(Schema):
    """things: entries, each seen on all pictures; or shots, which are pictures themselves"""

    title: str
    words: str
    stamped: bool
    things: list[ShownOut]
    pictures: list[GuestPicture]
    remarks: list[RemarkOut]


class GuestVerdictIn(Schema):
    choice: Choice


class RemarkIn(Schema):
    """picture, x, y: a place in one of the pictures; of a shot, which has one, without its number; frame: of a shot that moves"""

    words: Annotated[str, Field(max_length=1000)]
    picture: int | None = None
    frame: Annotated[int | None, Field(ge=0, le=2**31 - 1)] = None
    x: Share | None = None
    y: Share | None = None

    @model_validator(mode="after")
    def _place_is_whole(self) -> RemarkIn:
        if (self.x is None) != (self.y is None):
            raise ValueError("a place has both x and y")
        return self

    @property
    def place(self) -> saying.Place | None:
        return (self.x, self.y) if self.x is not None and self.y is not None else None


def _door(link: GuestLink, name: str | None) -> DoorOut:
    return DoorOut(
        studio=the_studio().name, by=showing.maker_of(link).shown_name, shows=Shows(link.shows), asks_password=link.password != "",
        name=name, until=links.last_day_of(link),
    )  # fmt: skip


def _guest(request: HttpRequest) -> Guest:
    """Who `ByLink` has let in."""
    guest = getattr(request, "auth", None)
    assert isinstance(guest, Guest)
    return guest


def _remark(said: saying.Said) -> RemarkOut:
    words = said.words
    is_pin = isinstance(words, Pin)
    return RemarkOut(
        id=said.remark.pk, kind="entry" if is_pin else "shot", of=said.about, words=words.words,
        picture=words.picture_id if isinstance(words, Pin) else None, x=words.x, y=words.y, at=words.at,
        frame=words.frame if isinstance(words, ShotNote) else None,
    )  # fmt: skip


@router.get("/{code}", response=DoorOut, auth=Anyone())
def read_door(request: HttpRequest, code: str) -> DoorOut:
    """Whose link it is and until when; nothing of what it shows."""
    guest = coming.believe(code, request.COOKIES.get(COOKIE, ""))
    return _door(guest.link if guest else links.find_open(code), guest.name if guest else None)


@router.post("/{code}", response=DoorOut, auth=Anyone())
def come_in(request: HttpRequest, code: str, given: ComeIn, response: HttpResponse) -> DoorOut:
    """By name, and a password where one is asked for. The browser keeps who it is for as long as the link is open."""
    _require_own_page(request)
    guest, secret = coming.come_in(code, given.name, given.password)
    response.set_cookie(
        COOKIE, secret, expires=guest.link.until, path=f"/api/guest/{code}", httponly=True, samesite="Strict",
        secure=settings.SESSION_COOKIE_SECURE,
    )  # fmt: skip
    return _door(guest.link, guest.name)


@router.get("/{code}/shown", response=ShownPage)
def read_shown(request: HttpRequest, code: str) -> ShownPage:
    """All that the link shows, with what the guest has said of it."""
    guest = _guest(request)
    link, (verdicts, remarks) = guest.link, saying.list_own(guest)
    said = {("entry", one.entry_id) if one.entry_id else ("shot", one.shot_id): Choice(one.choice) for one in verdicts}
    things = [
        ShownOut(
            kind="entry", id=one.entry.pk, name=one.name, group="", shows=str(showing.version_shown(one.entry).number), sides=0,
            choice=said.get(("entry", one.entry.pk), Choice.NONE),
        )
        for one in showing.list_entries(link)
    ]  # fmt: skip
    things += [
        ShownOut(
            kind="shot", id=one.shot.pk, name=one.shot.code, group=one.scene, shows=one.shows,
            sides=showing.sides_of(one.shot.picture), choice=said.get(("shot", one.shot.pk), Choice.NONE), first=one.shot.first,
            last=one.shot.last, poster=one.shot.poster,
        )
        for one in showing.list_shots(link)
    ]  # fmt: skip
    pictures = [GuestPicture(id=one.pk, name=one.name, sides=showing.sides_of(one)) for one in showing.list_pictures(link)]
    return ShownPage(
        title=link.title, words=link.words, stamped=link.stamp, things=things, pictures=pictures,
        remarks=[_remark(one) for one in remarks],
    )  # fmt: skip


@router.get("/{code}/entry/{pk}/preview.jpg")
def preview_entry(request: HttpRequest, code: str, pk: int, picture: int, large: bool = False) -> HttpResponse:
    """A picture through an entry. large: the whole proxy, in place of a card's size"""
    frame = showing.frame_of_entry(_guest(request), pk, picture, large)
    return respond(request, frame.state, frame.make, "image/jpeg")


@router.get("/{code}/shot/{pk}/preview.jpg")
def preview_shot(request: HttpRequest, code: str, pk: int, large: bool = False, frame: int | None = None) -> HttpResponse:
    """A shot through all that lies on it. large: as above; frame: of one that moves, from 0"""
    found = showing.frame_of_shot(_guest(request), pk, large, frame)
    return respond(request, found.state, found.make, "image/jpeg")


@router.put("/{code}/{kind}/{pk}/verdict", response={204: None})
def judge(request: HttpRequest, code: str, kind: Kind, pk: int, given: GuestVerdictIn) -> Status[None]:
    """Yes, maybe or no, in place of what was said before; empty takes it back."""
    guest = _guest(request)
    (saying.judge_entry if kind == "entry" else saying.judge_shot)(guest, pk, given.choice)
    return Status(204, None)


@router.post("/{code}/{kind}/{pk}/remarks", response=RemarkOut)
def remark(request: HttpRequest, code: str, kind: Kind, pk: int, given: RemarkIn) -> RemarkOut:
    """Words on it, or on a place in a picture."""
    guest = _guest(request)
    if kind == "entry":
        kept = saying.remark_on_entry(guest, pk, given.words, given.picture, given.place)
    else:
        kept = saying.remark_on_shot(guest, pk, given.words, given.place, given.frame)
    return _remark(saying.Said(kept))


@router.delete("/{code}/remarks/{pk}", response={204: None})
def take_back(request: HttpRequest, code: str, pk: int) -> Status[None]:
    """One's own, while nobody has answered or settled it."""
    saying.take_back(_guest(request), pk)
    return Status(204, None)
