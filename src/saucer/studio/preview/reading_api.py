"""What is read off a look on pictures, as the Bench asks for it."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from saucer.core.look.model import Look
from saucer.core.reports.misfits import Tolerances
from saucer.studio.common.lanes import FRAMES
from saucer.studio.people.signed_in import person_of
from saucer.studio.preview import reading
from saucer.studio.preview.seen import PictureIn, ReadAs, Unit, find_many_seen, find_seen

router = Router(tags=["preview"])
MOST_AT_ONCE = 8
"""Pictures on which it is measured at once whether a look holds: a second of work at most."""


class WhyIn(PictureIn):
    look: Look
    left: Unit
    top: Unit
    right: Unit
    bottom: Unit
    at: Annotated[int | None, Field(ge=0, le=2**31 - 1, description="frame of a picture that moves, from 0")] = None


class ReachedOut(Schema):
    id: Annotated[str, Field(description="of the step; empty for what comes in, and for the look's own strength")]
    path: str
    title: str
    encoding: str
    codes: Annotated[tuple[float, float, float], Field(description="mean code values")]
    spread: Annotated[tuple[float, float, float], Field(description="their standard deviation")]
    lightness: Annotated[float, Field(description="of the mean in OKLab, as chroma and hue")]
    chroma: float
    hue: float
    moved: Annotated[float, Field(description="mean CIEDE2000 from what reached the step")]


class WhyOut(Schema):
    """most: index of what moved the colours most; width, height: proxy pixels asked about"""

    reached: list[ReachedOut]
    most: int | None
    width: int
    height: int


class ToldIn(PictureIn):
    look: Look


class ToldOut(Schema):
    id: str
    path: str
    words: str


class HoldingIn(Schema):
    look: Look
    pictures: Annotated[list[int], Field(min_length=1, max_length=MOST_AT_ONCE)]
    tolerance: Annotated[float, Field(ge=0.5, le=60, description="degrees that skin may turn")] = 6.0
    read_as: ReadAs = {}


class FailingOut(Schema):
    what: str
    words: str
    times: Annotated[float, Field(description="how many times what is allowed")]
    id: Annotated[str, Field(description="of the step that did most of it")]
    title: str


class HeldOut(Schema):
    picture: int
    failings: Annotated[list[FailingOut], Field(description="the worst first; none where the look holds")]


@router.post("/why", response=WhyOut)
@FRAMES
def why(request: HttpRequest, given: WhyIn) -> WhyOut:
    """What becomes of a colour, or of the colours of a part of a picture, step by step."""
    picture = find_seen(given, person_of(request))
    found = reading.explain_colour(given.look, picture, given.left, given.top, given.right, given.bottom, given.at)
    return WhyOut.model_validate(found, from_attributes=True)


@router.post("/told", response=list[ToldOut])
@FRAMES
def told(request: HttpRequest, given: ToldIn) -> list[ToldOut]:
    """What each step does to the picture, in words that are measured on it."""
    return [ToldOut(**vars(one)) for one in reading.tell(given.look, find_seen(given, person_of(request)))]


@router.post("/holding", response=list[HeldOut])
@FRAMES
def holding(request: HttpRequest, given: HoldingIn) -> list[HeldOut]:
    """On which of these pictures the look clips, crushes, merges tones or turns skin too far, and by which step."""
    found = find_many_seen(given.pictures, given.read_as, person_of(request))
    return [
        HeldOut(
            picture=one.picture,
            failings=[
                FailingOut(what=each.misfit.what, words=each.misfit.words, times=each.times, id=each.id, title=each.title)
                for each in one.failings
            ],
        )
        for one in reading.find_held(given.look, found, Tolerances(skin=given.tolerance))
    ]
