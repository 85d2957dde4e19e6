"""The page that one begins at, told in one answer."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Schema
from pydantic import Field

from saucer.studio.catalogue.find import listing
from saucer.studio.catalogue.models import Kind, VersionState
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.people.access import admin
from saucer.studio.people.signed_in import person_of
from saucer.studio.preview.entries_api import EntryOut, cards_of
from saucer.studio.projects.api import ProjectLine, tell_lines
from saucer.studio.start import beginning, rules, starter
from saucer.studio.start.search import search

router = Router(tags=["start"])
studio_router = Router(tags=["the studio"])


class BeginningOut(Schema):
    """waits: has no admin said yet what the studio begins with? pictures, looks, presets: how many there are to be had"""

    waits: bool
    pictures: int
    looks: int
    presets: int
    categories: int


class DeliveryIn(Schema):
    delivery: Annotated[str, Field(max_length=40)]


class DeliverySet(DeliveryIn):
    """The encoding that pictures of new projects leave in."""


@studio_router.get("/studio/beginning", response=BeginningOut, auth=admin("begin a studio"))
def read_beginning(request: HttpRequest) -> BeginningOut:
    """What a new studio is offered."""
    return BeginningOut(
        waits=beginning.is_waiting(person_of(request)), pictures=len(starter.PICTURES), looks=len(starter.LOOKS),
        presets=len(starter.PRESETS), categories=len(starter.CATEGORIES),
    )  # fmt: skip


@studio_router.post("/studio/beginning", response=JobOut | None, auth=admin("begin a studio"))
def begin(request: HttpRequest, given: beginning.BeginWork) -> JobOut | None:
    """Takes of what is offered what is said, or nothing; a worker brings it in."""
    job = beginning.begin(person_of(request), given)
    return None if job is None else job_out(job)


@studio_router.put("/studio/delivery", response=DeliverySet, auth=admin("change what holds for the studio"))
def set_delivery(request: HttpRequest, given: DeliveryIn) -> DeliverySet:
    """The encoding that pictures of new projects leave in."""
    return DeliverySet(delivery=beginning.set_delivery(person_of(request), given.delivery))


class OwnBoardOut(Schema):
    """said: verdicts of others since the person last said something on it; entry, picture: what stands first on it and may be shown"""

    id: int
    name: str
    changed: datetime
    said: int
    entry: EntryOut | None
    picture: int | None


class AwaitedOut(Schema):
    """A version that waits for the person, or that came back to them. remarks: that nobody has settled; card: as lists show it"""

    entry: int
    kind: Kind
    name: str
    number: int
    state: VersionState
    by: str
    words: str
    remarks: int
    at: datetime
    card: EntryOut | None


class NamedThingOut(Schema):
    id: int
    name: str


class FoundShotOut(Schema):
    """project: the name of the one it is in; picture: its number"""

    id: int
    code: str
    scene: str
    project: str
    project_id: int
    picture: int


class FoundOut(Schema):
    """Some of each kind at most, those one would mean first."""

    entries: list[EntryOut]
    boards: list[NamedThingOut]
    projects: list[NamedThingOut]
    shots: list[FoundShotOut]
    pictures: list[NamedThingOut]


class StartOut(Schema):
    """looks, boards, projects: the person's own, the one touched last first; all_projects: that they may see; news: of others"""

    looks: list[EntryOut]
    boards: list[OwnBoardOut]
    projects: list[ProjectLine]
    all_projects: int
    waits: list[AwaitedOut]
    news: list[EntryOut]


@router.get("/start", response=StartOut)
def read_start(request: HttpRequest) -> StartOut:
    """What the start page shows: one's own things, what waits, what is new."""
    person = person_of(request)
    looks, news = rules.list_own_looks(person), rules.list_news(person)
    boards, waits = rules.list_own_boards(person), rules.list_waiting(person)
    on_boards = [one.entry for one in boards if one.entry is not None]
    wanted = [*dict.fromkeys([*looks, *news, *on_boards, *(one.entry for one in waits)])]
    cards = {card.id: card for card in cards_of(listing.load_entries(wanted), person)}
    own, everything = rules.list_projects(person)
    return StartOut(
        looks=[cards[pk] for pk in looks if pk in cards], news=[cards[pk] for pk in news if pk in cards],
        boards=[OwnBoardOut(**asdict(one) | {"entry": cards.get(one.entry or 0)}) for one in boards],
        waits=[AwaitedOut(**asdict(one), card=cards.get(one.entry)) for one in waits],
        projects=tell_lines(own, person), all_projects=everything,
    )  # fmt: skip


@router.get("/search", response=FoundOut)
def search_everything(request: HttpRequest, words: Annotated[str, Query(min_length=1, max_length=200, pattern=r"\S")]) -> FoundOut:
    """Anything that the person may see, by words of its name."""
    person = person_of(request)
    found = search(words, person)
    return FoundOut(
        entries=cards_of(listing.load_entries(found.entries), person),
        boards=[NamedThingOut(id=one.pk, name=one.name) for one in found.boards],
        projects=[NamedThingOut(id=one.pk, name=one.name) for one in found.projects],
        shots=[
            FoundShotOut(
                id=one.pk, code=one.code, scene=one.scene.name, project=one.scene.project.name, project_id=one.scene.project_id,
                picture=one.picture_id,
            )
            for one in found.shots
        ],
        pictures=[NamedThingOut(id=one.pk, name=one.name) for one in found.pictures],
    )  # fmt: skip
