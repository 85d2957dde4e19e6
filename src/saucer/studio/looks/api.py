from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Schema, Status, UploadedFile
from pydantic import Field

from saucer.core import fingerprint
from saucer.core.junctions import mended
from saucer.core.look import Look, look_text
from saucer.core.spatial import spatial_kinds
from saucer.core.steps import step_kinds
from saucer.studio.images import encoded, respond
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.looks import bringing, preview, rules
from saucer.studio.looks.models import LookEntry, Version
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Role
from saucer.studio.people.rules import require
from saucer.studio.pictures import rules as pictures
from saucer.studio.signed_in import person_of

router = Router(tags=["looks"])
Unit = Annotated[float, Field(ge=0, le=1)]


class VersionOut(Schema):
    number: int
    note: str
    content_hash: str
    made: datetime
    made_by: str


class LookOut(Schema):
    id: int
    name: str
    revision: int
    edited: datetime
    edited_by: str
    own: bool
    draft_hash: str
    draft: Look
    versions: list[VersionOut]
    changed_since_version: bool


class LookLine(Schema):
    id: int
    name: str
    edited: datetime
    edited_by: str
    draft_hash: str
    versions: int


class DraftIn(Schema):
    look: Look
    revision: int


class NoteIn(Schema):
    note: Annotated[str, Field(max_length=1000)] = ""


class BakeIn(Schema):
    version: int
    size: Annotated[int, Field(ge=2, le=129)] = 33
    title: Annotated[str, Field(max_length=120)] = ""
    author: Annotated[str, Field(max_length=120)] = ""


class FrameIn(Schema):
    look: Look
    picture: int
    quality: preview.Quality = "rest"
    steps: Annotated[int | None, Field(ge=0, description="only the first so many steps")] = None
    width: Annotated[int | None, Field(ge=1, description="pixels across that are seen; fewer are computed for fewer")] = None
    edited: Annotated[int | None, Field(ge=0, description="top-level index of the step being edited; those before it are kept")] = (
        None
    )


class DiscsIn(Schema):
    look: Look
    pictures: Annotated[list[int], Field(min_length=1, max_length=24)]


class ScopesIn(Schema):
    look: Look
    picture: int
    before_step: Annotated[int, Field(ge=0)] = 0


class ScopesOut(Schema):
    source: list[list[int]]
    step: list[list[int]]
    result: list[list[int]]
    clipped_low: float
    clipped_high: float


class TraceIn(Schema):
    look: Look
    picture: int
    kind: preview.Trace
    steps: Annotated[int | None, Field(ge=0, description="only the first so many steps")] = None


class OnPictureIn(Schema):
    look: Look
    picture: int


class LossOut(Schema):
    path: str
    encoding: str
    clipped: float
    clipped_here: float
    merged: float


class NeutralIn(Schema):
    look: Look
    picture: int
    x: Unit
    y: Unit
    before_step: Annotated[int, Field(ge=0)] = 0
    cones: Literal["cat16", "bradford"] = "cat16"


class NeutralOut(Schema):
    warm: float
    tint: float


class MendIn(Schema):
    look: Look
    by: Literal["declare", "convert"]


class PixelIn(Schema):
    look: Look
    picture: int
    x: Unit
    y: Unit
    before_step: Annotated[int, Field(ge=0)] = 0


class PixelOut(Schema):
    x: int
    y: int
    source: tuple[float, float, float]
    step: tuple[float, float, float]
    result: tuple[float, float, float]
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


def version_out(version: Version) -> VersionOut:
    made_by = version.made_by.shown_name if version.made_by else ""
    return VersionOut(
        number=version.number, note=version.note, content_hash=version.content_hash, made=version.made, made_by=made_by
    )


def _out(entry: LookEntry, request: HttpRequest) -> LookOut:
    versions = list(entry.versions.select_related("made_by"))
    return LookOut(
        id=entry.pk, name=entry.name, revision=entry.revision, edited=entry.edited, draft_hash=entry.draft_hash,
        edited_by=entry.edited_by.shown_name if entry.edited_by else "", own=entry.owner_id == request.user.pk,
        draft=rules.draft_of(entry), versions=[version_out(version) for version in versions],
        changed_since_version=not versions or versions[0].content != entry.draft,
    )  # fmt: skip


@router.get("", response=list[LookLine])
def list_looks(request: HttpRequest) -> list[LookLine]:
    entries = LookEntry.objects.filter(deleted=None).select_related("edited_by").prefetch_related("versions")
    return [
        LookLine(
            id=e.pk, name=e.name, edited=e.edited, edited_by=e.edited_by.shown_name if e.edited_by else "",
            draft_hash=e.draft_hash, versions=len(e.versions.all()),
        )
        for e in entries
    ]  # fmt: skip


@router.post("", response=LookOut)
def create(request: HttpRequest, look: Look) -> LookOut:
    return _out(rules.create(person_of(request), look), request)


@router.post("/frame", response={200: None})
def frame(request: HttpRequest, given: FrameIn) -> HttpResponse:
    """JPEG while dragging, PNG at rest."""
    codes = preview.frame(given.look, pictures.find(given.picture), given.quality, given.steps, given.width, given.edited)
    form = "jpeg" if given.quality == "drag" else "png"
    return HttpResponse(encoded(codes, form), content_type=f"image/{form}")  # type: ignore[arg-type]


@router.post("/discs", response={200: None})
def discs(request: HttpRequest, given: DiscsIn) -> HttpResponse:
    """The pictures' discs through the look, in one JPEG, one below the other."""
    found = [pictures.find(pk) for pk in given.pictures]
    return HttpResponse(encoded(preview.discs(given.look, found), "jpeg"), content_type="image/jpeg")


@router.post("/fingerprint", response={200: None})
def draft_fingerprint(request: HttpRequest, look: Look, size: int = 112) -> HttpResponse:
    return HttpResponse(encoded(fingerprint.of_look(look, max(16, min(size, 512)), at_hand), "png"), content_type="image/png")


@router.post("/scopes", response=ScopesOut)
def scopes(request: HttpRequest, given: ScopesIn) -> ScopesOut:
    found = preview.scopes(given.look, pictures.find(given.picture), given.before_step)
    return ScopesOut(
        source=found.source.tolist(), step=found.step.tolist(), result=found.result.tolist(),
        clipped_low=found.clipped_low, clipped_high=found.clipped_high,
    )  # fmt: skip


@router.post("/pixel", response=PixelOut)
def pixel(request: HttpRequest, given: PixelIn) -> PixelOut:
    return PixelOut(**vars(preview.pixel(given.look, pictures.find(given.picture), given.x, given.y, given.before_step)))


@router.post("/sketch", response=SketchOut)
def sketch(request: HttpRequest, look: Look) -> SketchOut:
    """What the recipe and the graphs draw: every step in words and lines, as the engine computes it."""
    found = preview.sketch(look)
    steps = [StepSketchOut(**vars(step)) for step in found.steps]
    return SketchOut(content_hash=look.content_hash, steps=steps, end=found.ends.end, problem=found.ends.problem)


@router.post("/mended", response=Look)
def mend_end(request: HttpRequest, given: MendIn) -> Look:
    """The look with its output declared as what the steps end in, or with a Convert step to the declared output added."""
    return mended(given.look, given.by, at_hand)


@router.post("/trace", response={200: None})
def trace(request: HttpRequest, given: TraceIn) -> HttpResponse:
    """Counts of a waveform, parade or vectorscope as little-endian uint32, with their shape in the header Saucer-Shape."""
    counts = preview.trace(given.look, pictures.find(given.picture), given.kind, given.steps)
    response = HttpResponse(counts.astype("<u4").tobytes(), content_type="application/octet-stream")
    response["Saucer-Shape"] = ",".join(str(size) for size in counts.shape)
    return response


@router.post("/losses", response=list[LossOut])
def losses(request: HttpRequest, given: OnPictureIn) -> list[LossOut]:
    """What each step destroys in the picture."""
    return [LossOut(**vars(loss)) for loss in preview.losses(given.look, pictures.find(given.picture))]


@router.post("/neutral", response=NeutralOut)
def neutral(request: HttpRequest, given: NeutralIn) -> NeutralOut:
    """The white balance that makes a place in the picture grey."""
    picture = pictures.find(given.picture)
    warm, tint = preview.neutral_at(given.look, picture, given.x, given.y, given.before_step, given.cones)
    return NeutralOut(warm=warm, tint=tint)


@router.post("/file", response=LookOut)
def bring_in(request: HttpRequest, file: File[UploadedFile]) -> LookOut:
    """A look file, or a bundle of one and its LUTs, as a new look."""
    return _out(bringing.bring_in(person_of(request), file.read(), file.name or "look"), request)


@router.get("/step-kinds", response=list[StepKindOut])
def list_step_kinds(request: HttpRequest) -> list[StepKindOut]:
    kinds = [StepKindOut(kind=kind, title=item.title, spatial=False) for kind, item in step_kinds().items()]
    return kinds + [StepKindOut(kind=kind, title=item.title, spatial=True) for kind, item in spatial_kinds().items()]


@router.get("/{pk}", response=LookOut)
def read(request: HttpRequest, pk: int) -> LookOut:
    return _out(rules.find(pk), request)


@router.put("/{pk}/draft", response=LookOut)
def save_draft(request: HttpRequest, pk: int, given: DraftIn) -> LookOut:
    return _out(rules.save_draft(person_of(request), pk, given.look, given.revision), request)


@router.post("/{pk}/versions", response=VersionOut)
def save_version(request: HttpRequest, pk: int, given: NoteIn) -> VersionOut:
    return version_out(rules.save_version(person_of(request), pk, given.note))


@router.get("/{pk}/versions/{number}", response=Look)
def read_version(request: HttpRequest, pk: int, number: int) -> Look:
    return rules.look_of(rules.version_of(pk, number))


@router.get("/{pk}/look.json")
def look_file(request: HttpRequest, pk: int) -> HttpResponse:
    """The draft as a look file, to take away."""
    entry = rules.find(pk)
    response = HttpResponse(look_text(rules.draft_of(entry)), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="look-{entry.pk}.json"'
    return response


@router.get("/{pk}/bundle.zip")
def bundle(request: HttpRequest, pk: int) -> HttpResponse:
    """The draft and the LUTs it uses, to take away."""
    require(person_of(request), Role.DESIGNER, "download LUTs")
    response = HttpResponse(bringing.bundle_of(rules.find(pk)), content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="look-{pk}.zip"'
    return response


@router.get("/{pk}/fingerprint.png")
def look_fingerprint(request: HttpRequest, pk: int, size: int = 112) -> HttpResponse:
    entry, size = rules.find(pk), max(16, min(size, 512))
    return respond(
        request,
        f"{entry.draft_hash}-{size}",
        lambda: encoded(fingerprint.of_look(rules.draft_of(entry), size, at_hand), "png"),
        "image/png",
    )


@router.post("/{pk}/bake", response={202: JobOut})
def bake(request: HttpRequest, pk: int, given: BakeIn) -> Status[JobOut]:
    job = jobs.start(person_of(request), "bake", look=pk, **given.model_dump())
    return Status(202, job_out(job))


@router.delete("/{pk}", response={204: None})
def delete(request: HttpRequest, pk: int) -> Status[None]:
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=LookOut)
def restore(request: HttpRequest, pk: int) -> LookOut:
    return _out(rules.restore(person_of(request), pk), request)
