"""Links for people without an account, as the team gives them; and what guests said."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field, model_validator

from saucer.studio.boards.models import Board, Choice
from saucer.studio.boards.rules import find as find_board
from saucer.studio.common.reading import tell_each
from saucer.studio.guests import links, saying
from saucer.studio.guests.models import GuestVerdict, Shows
from saucer.studio.guests.showing import shows_of
from saucer.studio.people.access import designer, designer_in_person
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import Project

router = Router(tags=["guests"])


class GalleryIn(Schema):
    name: Annotated[str, Field(max_length=120)]
    entries: Annotated[list[int], Field(min_length=1, max_length=links.MOST_ENTRIES)]
    pictures: Annotated[list[int], Field(min_length=1, max_length=links.MOST_PICTURES)]


class GuestLinkIn(Schema):
    """One of board, project and gallery is what it shows. until: the last day; password: none is asked for where it is empty

    stamp: the guest's name is written into every picture; words: said to whoever comes
    """

    board: int | None = None
    project: int | None = None
    gallery: GalleryIn | None = None
    until: date
    password: Annotated[str, Field(max_length=100)] = ""
    stamp: bool = False
    words: Annotated[str, Field(max_length=500)] = ""

    @model_validator(mode="after")
    def _show_one(self) -> GuestLinkIn:
        if sum(one is not None for one in (self.board, self.project, self.gallery)) != 1:
            raise ValueError("say one of board, project and gallery")
        return self


class GuestLinkOut(Schema):
    """until: the last day; is_open: neither revoked nor ended; came: how many have come by it"""

    id: int
    shows: Shows
    title: str
    until: date
    has_password: bool
    stamp: bool
    by: str
    made: datetime
    is_open: bool
    came: int
    may_revoke: bool


class GuestLinkMade(Schema):
    """address: within the studio. It is told this once, and kept nowhere"""

    link: GuestLinkOut
    address: str


class GuestVerdictOut(Schema):
    """of, page: the name of what it is said of, and its address; earlier: said when it looked otherwise than now"""

    entry: int | None
    shot: int | None
    of: str
    page: str
    by: str
    link: str
    choice: Choice
    at: datetime
    earlier: bool


def _out(listed: links.Listed) -> GuestLinkOut:
    link = listed.link
    return GuestLinkOut(
        id=link.pk, shows=Shows(link.shows), title=link.title, until=links.last_day_of(link), has_password=link.password != "",
        stamp=link.stamp, by=link.made_by.shown_name if link.made_by else "", made=link.made, is_open=links.is_open(link),
        came=listed.came, may_revoke=listed.may_revoke,
    )  # fmt: skip


@router.get("/links", response=list[GuestLinkOut], auth=designer("see links for guests"))
def list_links(request: HttpRequest, board: int | None = None, project: int | None = None) -> list[GuestLinkOut]:
    """Of a board or a project; else one's own, and for curators everybody's. The newest first."""
    return [_out(one) for one in links.list_links(person_of(request), board, project)]


@router.post("/links", response=GuestLinkMade, auth=designer_in_person("let people without an account see something"))
def make_link(request: HttpRequest, given: GuestLinkIn) -> GuestLinkMade:
    """By which people without an account see one thing until a day. No token makes one."""
    person = person_of(request)
    shown: Board | Project | links.Gallery
    if given.board is not None:
        shown = find_board(given.board)
    elif given.project is not None:
        shown = projects.find(person, given.project)
    else:
        assert given.gallery is not None  # held by the model
        shown = links.Gallery(given.gallery.name, tuple(given.gallery.entries), tuple(given.gallery.pictures))
    link, code = links.make(person, shown, links.Terms(given.until, given.password, given.stamp, given.words))
    return GuestLinkMade(link=_out(links.Listed(link, 0, may_revoke=True)), address=f"/guest/{code}")


@router.delete("/links/{pk}", response={204: None}, auth=designer("revoke links for guests"))
def revoke_link(request: HttpRequest, pk: int) -> Status[None]:
    """It shows nothing from now on; what guests have said stays."""
    links.revoke(person_of(request), pk)
    return Status(204, None)


@router.get("/verdicts", response=list[GuestVerdictOut])
def list_verdicts(
    request: HttpRequest, entry: int | None = None, shot: int | None = None, board: int | None = None, project: int | None = None
) -> list[GuestVerdictOut]:
    """What guests say of an entry, a shot, what is on a board, or the shots of a project: the newest first."""
    found = saying.list_verdicts(person_of(request), saying.On(entry, shot, board, project))
    now = shows_of([one.shot for one in found if one.shot is not None])
    return tell_each(found, lambda one: _verdict(one, now))


def _verdict(one: GuestVerdict, now: Mapping[int, str]) -> GuestVerdictOut:
    """now: what each shot looks like, by its number"""
    entry, shot = one.entry, one.shot
    if shot is not None:
        of, state, page = shot.code, now[shot.pk], f"/projects/{shot.scene.project_id}/shots/{shot.pk}"
    else:
        assert entry is not None  # held by the database
        of, state, page = entry.name, saying.state_of_entry(entry), f"/shelf/{entry.kind}/{entry.pk}"
    return GuestVerdictOut(
        entry=one.entry_id, shot=one.shot_id, of=of, page=page, by=one.guest.name, link=one.guest.link.title, choice=Choice(one.choice),
        at=one.at, earlier=one.said_of != state,
    )  # fmt: skip
