"""Proposing, publishing, sending back; remarks; what waits for whom."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.catalogue.models import Kind, Pin, Version, VersionState
from saucer.studio.catalogue.review import rules as review
from saucer.studio.catalogue.rules import find
from saucer.studio.common.reading import tell_each
from saucer.studio.people.access import curator, designer, personal
from saucer.studio.people.models import NoticeAbout, Person
from saucer.studio.people.rules import may_change
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures

router = Router(tags=["review"])


class MoveIn(Schema):
    to: VersionState
    words: Annotated[str, Field(max_length=2000)] = ""


class PublishIn(Schema):
    """versions: their own numbers, as the queue has them"""

    versions: Annotated[list[int], Field(min_length=1, max_length=200)]
    words: Annotated[str, Field(max_length=2000)] = ""


class WaitingOut(Schema):
    """A version that waits to be looked at. next: where the person who asks may move it

    holds: of a look, where it is its latest version and was tested: "holds" or "breaks"
    """

    id: int
    kind: Kind
    entry: int
    name: str
    number: int
    made_by: str
    words: str
    since: datetime
    holds: str
    next: list[VersionState]


class MovedOut(Schema):
    id: int
    number: int
    state: VersionState
    note: str
    by: str
    made: datetime
    next: list[VersionState]


class ReviewOut(Schema):
    number: int
    was: VersionState
    became: VersionState
    by: str
    words: str
    at: datetime


class PinOut(Schema):
    """x, y: 0..1 from the left and the top of the picture, null for a remark on the whole"""

    id: int
    number: int
    answers: int | None
    by: str
    picture: int | None
    x: float | None
    y: float | None
    words: str
    at: datetime
    settled_by: str
    may_settle: bool


class ReviewsOut(Schema):
    versions: list[MovedOut]
    reviews: list[ReviewOut]
    pins: list[PinOut]
    may_remark: bool


class PinIn(Schema):
    words: Annotated[str, Field(min_length=1, max_length=2000)]
    picture: int | None = None
    x: Annotated[float | None, Field(ge=0, le=1)] = None
    y: Annotated[float | None, Field(ge=0, le=1)] = None
    answers: int | None = None


class SettleIn(Schema):
    settled: bool = True


class NoticeOut(Schema):
    id: int
    kind: Kind
    entry: int
    about: NoticeAbout
    words: str
    at: datetime
    is_new: bool


class SeenIn(Schema):
    up_to: int


class ClearIn(Schema):
    """about: null for all of them"""

    about: NoticeAbout | None = None
    up_to: int


def _moved(version: Version, person: Person) -> MovedOut:
    return MovedOut(
        id=version.pk, number=version.number, state=VersionState(version.state), note=version.note, made=version.made,
        by=version.made_by.shown_name if version.made_by else "", next=review.next_states(person, version),
    )  # fmt: skip


def _pin(pin: Pin, person: Person, owner: int | None) -> PinOut:
    return PinOut(
        id=pin.pk, number=pin.version.number, answers=pin.answers_id, by=pin.by,
        picture=pin.picture_id, x=pin.x, y=pin.y, words=pin.words, at=pin.at,
        settled_by=pin.settled_by.shown_name if pin.settled_by else "",
        may_settle=pin.answers_id is None and (pin.person_id == person.pk or may_change(person, owner)),
    )  # fmt: skip


@router.get("/review/queue", response=list[WaitingOut])
def list_queue(request: HttpRequest) -> list[WaitingOut]:
    """What is proposed, the oldest first: everything for a curator, one's own for others."""
    person = person_of(request)

    def tell(version: Version) -> WaitingOut:
        last = next((one for one in version.reviews.all() if one.became == VersionState.PROPOSED), None)
        return (
            WaitingOut(
                id=version.pk, kind=Kind(version.entry.kind), entry=version.entry_id, name=version.entry.name, number=version.number,
                made_by=version.made_by.shown_name if version.made_by else "", words=last.words if last else "",
                since=last.at if last else version.made, next=review.next_states(person, version),
                holds=version.entry.holds if version.entry.latest_id == version.pk else "",
            )
        )  # fmt: skip

    return tell_each(review.list_queue(person), tell)


@router.post("/review/publish", response={204: None}, auth=curator("publish"))
def publish_many(request: HttpRequest, given: PublishIn) -> Status[None]:
    """All of them or none."""
    review.publish_many(person_of(request), given.versions, given.words)
    return Status(204, None)


@router.post("/review/pins/{pk}/settle", response={204: None}, auth=designer("settle remarks"))
def settle(request: HttpRequest, pk: int, given: SettleIn) -> Status[None]:
    """A remark is settled, or open again."""
    review.settle_pin(person_of(request), pk, given.settled)
    return Status(204, None)


@router.get("/review/{kind}/{pk}", response=ReviewsOut)
def read(request: HttpRequest, kind: Kind, pk: int) -> ReviewsOut:
    """Where the versions of an entry stand, how they came there, and what was remarked."""
    person, entry = person_of(request), find(person_of(request), kind, pk)
    versions = list(Version.objects.filter(entry=entry).select_related("entry", "made_by").defer("content"))
    return ReviewsOut(
        versions=tell_each(versions, lambda version: _moved(version, person)),
        reviews=tell_each(
            review.list_reviews(pk),
            lambda one: ReviewOut(
                number=one.version.number, was=VersionState(one.was), became=VersionState(one.became),
                by=one.person.shown_name if one.person else "", words=one.words, at=one.at,
            ),
        ),
        pins=tell_each(review.list_pins(pk, person), lambda pin: _pin(pin, person, entry.owner_id)),
        may_remark=person.role != "viewer",
    )  # fmt: skip


@router.post("/review/{kind}/{pk}/{number}", response=MovedOut, auth=designer("propose versions"))
def move(request: HttpRequest, kind: Kind, pk: int, number: int, given: MoveIn) -> MovedOut:
    """Proposes, publishes, sends back, withdraws or retires a version."""
    person = person_of(request)
    return _moved(review.move(person, kind, pk, number, given.to, given.words), person)


@router.post("/review/{kind}/{pk}/{number}/pins", response=PinOut, auth=designer("remark on versions"))
def add_pin(request: HttpRequest, kind: Kind, pk: int, number: int, given: PinIn) -> PinOut:
    """A remark on a version, on a place of a picture or as a whole."""
    person = person_of(request)
    picture = pictures.find_to_share([given.picture], person_of(request))[0] if given.picture is not None else None
    place = (given.x, given.y) if given.x is not None and given.y is not None else None
    pin = review.add_pin(person, kind, pk, number, given.words, picture, place, given.answers)
    return _pin(pin, person, pin.version.entry.owner_id)


@router.get("/notices", response=list[NoticeOut])
def list_notices(request: HttpRequest) -> list[NoticeOut]:
    """What one was told of lately."""
    return tell_each(
        review.list_notices(person_of(request)),
        lambda one: NoticeOut(
            id=one.pk, kind=Kind(one.version.entry.kind), entry=one.version.entry_id, about=NoticeAbout(one.about), words=one.words,
            at=one.at, is_new=one.seen is None,
        ),
    )  # fmt: skip


@router.post("/notices/clear", response={204: None}, auth=personal())
def clear_notices(request: HttpRequest, given: ClearIn) -> Status[None]:
    """Takes these notices, or those of a kind, from the list."""
    review.clear_notices(person_of(request), given.about, given.up_to)
    return Status(204, None)


@router.post("/notices/seen", response={204: None}, auth=personal())
def mark_seen(request: HttpRequest, given: SeenIn) -> Status[None]:
    """Everything up to now has been looked at."""
    review.mark_seen(person_of(request), given.up_to)
    return Status(204, None)
