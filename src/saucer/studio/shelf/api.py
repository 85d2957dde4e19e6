from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from saucer.studio.images import encoded, respond
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.looks.preview import Quality
from saucer.studio.pictures import rules as pictures
from saucer.studio.shelf import rules
from saucer.studio.shelf.rules import Kind
from saucer.studio.signed_in import person_of

router = Router(tags=["shelf"])


class EntryOut(Schema):
    kind: Kind
    id: int
    name: str
    detail: str
    state: str
    by: str
    at: datetime
    size: int
    category: str


class TryIn(Schema):
    kind: Kind
    id: int
    picture: int
    strength: Annotated[float, Field(ge=0, le=1)] = 1.0
    quality: Quality = "rest"


class GradeIn(Schema):
    kind: Kind
    id: int
    picture: int
    strength: Annotated[float, Field(ge=0, le=1)] = 1.0
    format: Annotated[str, Field(pattern="^(png|jpeg|tiff|openexr|dpx)?$", description="empty: the format the picture came in")] = (
        ""
    )
    encoding: Annotated[str, Field(description="empty: what the look or LUT gives")] = ""


@router.get("", response=list[EntryOut])
def list_entries(request: HttpRequest, q: str = "", kind: str = "") -> list[EntryOut]:
    return [EntryOut(**vars(entry)) for entry in rules.entries(q, kind)]


@router.get("/{kind}/{pk}/preview.jpg")
def preview(request: HttpRequest, kind: Kind, pk: int, picture: int) -> HttpResponse:
    shown = pictures.find(picture)
    state = f"{rules.state_of(kind, pk)}-{shown.proxy_sha256[:16]}-{shown.encoding}"
    return respond(request, state, lambda: rules.preview_file(kind, pk, shown), "image/jpeg")


@router.post("/frame", response={200: None})
def frame(request: HttpRequest, given: TryIn) -> HttpResponse:
    """The picture's proxy through the entry at a strength; every second pixel and JPEG while dragging."""
    dragging = given.quality == "drag"
    codes = rules.frame(rules.grade_of(given.kind, given.id, given.strength), pictures.find(given.picture), 2 if dragging else 1)
    return HttpResponse(encoded(codes, "jpeg" if dragging else "png"), content_type="image/jpeg" if dragging else "image/png")


@router.post("/grade", response={202: JobOut})
def grade(request: HttpRequest, given: GradeIn) -> Status[JobOut]:
    pictures.find(given.picture)
    rules.grade_of(given.kind, given.id)
    return Status(202, job_out(jobs.start(person_of(request), "grade", **given.model_dump())))
