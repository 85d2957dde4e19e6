"""What the Bench asks for again and again: pictures, counts and words for a look that need not be saved."""

from __future__ import annotations

import json
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.vision import Vision
from saucer.core.engine.plan import settle_end
from saucer.core.look.differences import describe_differences
from saucer.core.look.model import Look
from saucer.core.pictures.profile import profile_of
from saucer.core.reports.advice import AdviceKind, RemedyKind
from saucer.core.reports.fingerprint import draw_look
from saucer.core.steps.kinds import kinds
from saucer.core.steps.registry import SpatialKind
from saucer.studio.common.images import encoded
from saucer.studio.common.lanes import FRAMES
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.access import MB, Access
from saucer.studio.people.signed_in import person_of
from saucer.studio.preview import bench, overlays
from saucer.studio.preview.seen import PictureIn, ReadAs, Unit, find_many_seen, find_seen

router = Router(tags=["preview"])
StepId = Annotated[
    str, Field(description="id of the step that this is about: what reaches it counts; empty, what comes into the look")
]


ScreenId = Annotated[bench.Screen, Field(description="what the picture is shown on; it comes with the profile of a wide one")]


class FrameIn(PictureIn):
    look: Look
    quality: bench.Quality = "rest"
    at: Annotated[int | None, Field(ge=0, le=2**31 - 1, description="frame of a picture that moves, from 0")] = None
    steps: Annotated[int | None, Field(ge=0, description="only the first so many steps")] = None
    width: Annotated[int | None, Field(ge=1, description="pixels across that are seen; fewer are computed for fewer")] = None
    screen: ScreenId = "srgb"


class DiscsIn(Schema):
    look: Look
    pictures: Annotated[list[int], Field(min_length=1, max_length=24)]
    read_as: ReadAs = {}


class ScopesIn(PictureIn):
    look: Look
    before: StepId = ""


class ScopesOut(Schema):
    source: list[list[int]]
    step: list[list[int]]
    result: list[list[int]]
    clipped_low: float
    clipped_high: float


class TraceIn(PictureIn):
    look: Look
    kind: bench.Trace
    steps: Annotated[int | None, Field(ge=0, description="only the first so many steps")] = None


class OnPictureIn(PictureIn):
    look: Look


class LossOut(Schema):
    path: str
    encoding: str
    clipped: float
    clipped_here: float
    fallen: float
    fallen_here: float
    merged: float


class NeutralIn(PictureIn):
    look: Look
    x: Unit
    y: Unit
    before: StepId = ""
    cones: Literal["cat16", "bradford"] = "cat16"


class NeutralOut(Schema):
    warm: float
    tint: float


class EndIn(Schema):
    look: Look
    by: Literal["declare", "convert"]


class PixelIn(PictureIn):
    look: Look
    x: Unit
    y: Unit
    before: StepId = ""


class PixelOut(Schema):
    x: int
    y: int
    source: tuple[float, float, float]
    step: tuple[float, float, float]
    result: tuple[float, float, float]
    luma: float
    lightness: Annotated[float, Field(description="OKLab L, as hue and chroma before the step")]
    hue: float
    chroma: float
    difference: float


class StepSketchOut(Schema):
    id: str
    path: str
    title: str
    summary: str
    neutral: bool
    spatial: bool
    before: Annotated[str, Field(description="encoding at the junction before it")]
    after: str
    lines: dict[str, list[float]]
    ramp: Annotated[list[tuple[int, int, int]], Field(description="a grey ramp after this step alone, as 8-bit sRGB")]


class SketchOut(Schema):
    content_hash: str
    steps: list[StepSketchOut]
    end: Annotated[str, Field(description="the encoding the steps end in")]
    problem: Annotated[str, Field(description="what is wrong with the end; empty when it is the declared output")]


class StepKindOut(Schema):
    kind: str
    title: str
    spatial: bool


class RegionIn(PictureIn):
    look: Look
    left: Annotated[int, Field(ge=0)]
    top: Annotated[int, Field(ge=0)]
    width: Annotated[int, Field(ge=1, le=bench.LARGEST_REGION)]
    height: Annotated[int, Field(ge=1, le=bench.LARGEST_REGION)]
    steps: Annotated[int | None, Field(ge=0, description="only the first so many steps")] = None
    screen: ScreenId = "srgb"


class TriesIn(PictureIn):
    looks: Annotated[list[Look], Field(min_length=1, max_length=24)]


class OverlayIn(PictureIn):
    look: Look
    kind: overlays.OverlayKind
    tolerance: Annotated[float, Field(ge=0.5, le=60, description="degrees that skin may turn")] = 6.0
    gamut: Annotated[overlays.Gamut, Field(description="for gamut: what colours are to lie in")] = "srgb"
    vision: Annotated[Vision, Field(description="for vision: which cones see otherwise")] = "deutan"
    severity: Annotated[float, Field(ge=0, le=1, description="for vision: 0 as most people see .. 1 without these cones")] = 1.0


class AdviceIn(PictureIn):
    look: Look
    tolerance: Annotated[float, Field(ge=0.5, le=60, description="degrees that skin may turn")] = 6.0


class RemedyOut(Schema):
    kind: RemedyKind
    words: str
    target: str
    into: str | None
    gives: str


class AdviceOut(Schema):
    id: str
    path: str
    kind: AdviceKind
    words: str
    remedy: RemedyOut | None


class DifferencesIn(Schema):
    before: Look
    after: Look


@router.post("/frame", response={200: None})
def frame(request: HttpRequest, given: FrameIn) -> HttpResponse:
    """JPEG while dragging, PNG at rest."""
    person = person_of(request)
    picture = find_seen(given, person)  # before one's turn: nobody else waits for the database
    form: Literal["jpeg", "png"] = "jpeg" if given.quality == "drag" else "png"
    with FRAMES.turn(person.pk):
        codes = bench.frame(given.look, picture, given.quality, given.steps, given.width, given.at, given.screen)
        data = encoded(codes, form, profile=_profile_of(given.screen))
    return HttpResponse(data, content_type=f"image/{form}")


def _profile_of(screen: bench.Screen) -> bytes | None:
    return None if screen == "srgb" else profile_of(ENCODINGS[screen])


@router.post("/discs", response={200: None})
@FRAMES
def discs(request: HttpRequest, given: DiscsIn) -> HttpResponse:
    """The pictures' discs through the look, in one JPEG, one below the other."""
    found = find_many_seen(given.pictures, given.read_as, person_of(request))
    return HttpResponse(encoded(bench.discs(given.look, found), "jpeg"), content_type="image/jpeg")


@router.post("/fingerprint", response={200: None})
@FRAMES
def draft_fingerprint(request: HttpRequest, look: Look, size: int = 112) -> HttpResponse:
    """The disc that stands for a look as it is sent."""
    return HttpResponse(encoded(draw_look(look, max(16, min(size, 512)), at_hand), "png"), content_type="image/png")


@router.post("/scopes", response=ScopesOut)
@FRAMES
def scopes(request: HttpRequest, given: ScopesIn) -> ScopesOut:
    """Waveform, parade or vectorscope of a picture through the look."""
    found = bench.scopes(given.look, find_seen(given, person_of(request)), given.before)
    return ScopesOut(
        source=found.source.tolist(), step=found.step.tolist(), result=found.result.tolist(),
        clipped_low=found.clipped_low, clipped_high=found.clipped_high,
    )  # fmt: skip


@router.post("/pixel", response=PixelOut)
def pixel(request: HttpRequest, given: PixelIn) -> PixelOut:
    """What the look makes of one place of a picture."""
    return PixelOut(**vars(bench.pixel(given.look, find_seen(given, person_of(request)), given.x, given.y, given.before)))


@router.post("/sketch", response=SketchOut)
@FRAMES
def sketch(request: HttpRequest, look: Look) -> SketchOut:
    """What the recipe and the graphs draw: every step in words and lines, as the engine computes it."""
    found = bench.sketch(look)
    steps = [StepSketchOut(**vars(step)) for step in found.steps]
    return SketchOut(content_hash=look.content_hash, steps=steps, end=found.end, problem=found.problem)


@router.post("/settled-end", response=Look)
def settle_end_of(request: HttpRequest, given: EndIn) -> Look:
    """The look with its output declared as what the steps end in, or with a Convert step to the declared output added."""
    return settle_end(given.look, given.by, at_hand)


@router.post("/trace", response={200: None})
@FRAMES
def trace(request: HttpRequest, given: TraceIn) -> HttpResponse:
    """Counts of a waveform, parade or vectorscope as little-endian uint32, with their shape in the header Saucer-Shape."""
    counts = bench.trace(given.look, find_seen(given, person_of(request)), given.kind, given.steps)
    response = HttpResponse(counts.astype("<u4").tobytes(), content_type="application/octet-stream")
    response["Saucer-Shape"] = ",".join(str(size) for size in counts.shape)
    return response


@router.post("/losses", response=list[LossOut])
@FRAMES
def losses(request: HttpRequest, given: OnPictureIn) -> list[LossOut]:
    """What each step destroys in the picture."""
    return [LossOut(**vars(loss)) for loss in bench.losses(given.look, find_seen(given, person_of(request)))]


@router.post("/neutral", response=NeutralOut)
@FRAMES
def neutral(request: HttpRequest, given: NeutralIn) -> NeutralOut:
    """The white balance that makes a place in the picture grey."""
    picture = find_seen(given, person_of(request))
    warm, tint = bench.neutral_at(given.look, picture, given.x, given.y, given.before, given.cones)
    return NeutralOut(warm=warm, tint=tint)


@router.post("/region", response={200: None})
@FRAMES
def region(request: HttpRequest, given: RegionIn) -> HttpResponse:
    """A part of the picture as it was brought in, at its full size, through the look."""
    picture = find_seen(given, person_of(request))
    codes = bench.region(given.look, picture, given.left, given.top, given.width, given.height, given.steps, given.screen)
    return HttpResponse(encoded(codes, "png", profile=_profile_of(given.screen)), content_type="image/png")


@router.post("/tries", auth=Access(most=6 * MB), response={200: None})
@FRAMES
def tries(request: HttpRequest, given: TriesIn) -> HttpResponse:
    """The picture's disc through each of several looks, in one JPEG, one below the other."""
    return HttpResponse(encoded(bench.tries(given.looks, find_seen(given, person_of(request))), "jpeg"), content_type="image/jpeg")


@router.post("/overlay", response={200: None})
@FRAMES
def overlay(request: HttpRequest, given: OverlayIn) -> HttpResponse:
    """A grey PNG of codes: 0 nothing, 1 and 2 what is marked; figures as JSON in the header Saucer-Figures.

    For vision the picture itself, as such eyes see it
    """
    picture = find_seen(given, person_of(request))
    eyes = overlays.Eyes(given.vision, given.severity)
    found = overlays.draw_overlay(given.look, picture, given.kind, given.tolerance, given.gamut, eyes)
    response = HttpResponse(encoded(found.codes, "png"), content_type="image/png")
    response["Saucer-Figures"] = json.dumps(found.figures)
    return response


@router.post("/advice", response=list[AdviceOut])
@FRAMES
def advice(request: HttpRequest, given: AdviceIn) -> list[AdviceOut]:
    """What to know about the steps, each with what can be done about it."""
    found = bench.advise(given.look, find_seen(given, person_of(request)), given.tolerance)
    return [AdviceOut.model_validate(one, from_attributes=True) for one in found]


@router.post("/differences", response=list[str])
def told_differences(request: HttpRequest, given: DifferencesIn) -> list[str]:
    """How two looks differ, in words."""
    return describe_differences(given.before, given.after)


@router.get("/step-kinds", response=list[StepKindOut])
def list_step_kinds(request: HttpRequest) -> list[StepKindOut]:
    """All kinds of steps, with their settings and bounds."""
    return [StepKindOut(kind=name, title=kind.title, spatial=isinstance(kind, SpatialKind)) for name, kind in kinds().items()]
