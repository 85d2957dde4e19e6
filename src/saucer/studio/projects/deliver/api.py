"""Deliveries: estimated, asked for, looked at, taken; timelines read."""

from __future__ import annotations

from datetime import datetime
from functools import partial
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from django.http.response import FileResponse, HttpResponseBase
from ninja import Router, Schema
from pydantic import Field

from saucer.studio.common.downloads import download
from saucer.studio.common.images import respond
from saucer.studio.common.lanes import FRAMES, HEAVY
from saucer.studio.common.names import file_stem
from saucer.studio.common.reading import tell_each
from saucer.studio.common.store import open_kept
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of
from saucer.studio.projects.deliver import rules
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.deliver.frozen import Frozen, document_of
from saucer.studio.projects.models import Delivery

router = Router(tags=["projects"])
NAMES_SHOWN = 12


class EstimateOut(Schema):
    """names: some of the files; seconds: about how long one worker takes; bytes: about how large it gets"""

    number: int
    files: int
    parts: int
    names: list[str]
    left_out: list[str]
    seconds: float
    bytes: float
    room: Annotated[str, Field(description="what is wrong with the room for it, or soon will be; empty for nothing")]


class DeliveredFile(Schema):
    """place: of its shot among those of the delivery, whose picture is there for it; none for lists"""

    id: int
    place: int | None
    file_name: str
    kind: str
    shot: str
    sha256: str
    bytes: int


class DeliveryOut(Schema):
    number: int
    by: str
    made: datetime
    choice: DeliveryChoice
    job: JobOut | None
    files: int
    done: int
    bytes: int
    left_out: list[str]


class DeliveryDetail(DeliveryOut):
    items: list[DeliveredFile]


def _facts(delivery: Delivery) -> dict[str, object]:
    items = rules.files_of(delivery)
    told = dict(delivery.choice)
    left = told.pop("left_out", [])
    job = job_out(delivery.job) if delivery.job else None
    return {
        "number": delivery.number, "by": delivery.made_by.shown_name if delivery.made_by else "", "made": delivery.made,
        "choice": DeliveryChoice.model_validate(told), "job": job, "files": len(items),
        "done": sum(item.blob_id is not None for item in items), "bytes": rules.total_bytes(items),
        "left_out": job.left_out if job and job.left_out else left,
    }  # fmt: skip


@router.post("/{pk}/deliveries/estimate", response=EstimateOut, auth=designer("deliver"))
def estimate(request: HttpRequest, pk: int, given: DeliveryChoice) -> EstimateOut:
    """What a delivery would hold, under which names, about how long it takes and how large it gets; nothing is made."""
    told = rules.estimate(person_of(request), pk, given)
    found = told.planned
    names = list(dict.fromkeys(one.file_name for one in found.files))
    return EstimateOut(
        number=found.document.number, files=len(found.files), parts=found.parts, names=names[:NAMES_SHOWN],
        left_out=found.left_out, seconds=told.seconds, bytes=found.bytes, room=told.room,
    )  # fmt: skip


@router.post("/{pk}/deliveries", response=DeliveryOut, auth=designer("deliver"))
def deliver(request: HttpRequest, pk: int, given: DeliveryChoice) -> DeliveryOut:
    """A job that makes pictures, clips, LUTs and lists of what is chosen."""
    return DeliveryOut.model_validate(_facts(rules.deliver(person_of(request), pk, given)))


@router.get("/{pk}/deliveries", response=list[DeliveryOut])
def list_deliveries(request: HttpRequest, pk: int) -> list[DeliveryOut]:
    """What has left it, the newest first."""
    return tell_each(rules.list_deliveries(person_of(request), pk), lambda one: DeliveryOut.model_validate(_facts(one)))


@router.get("/{pk}/deliveries/{number}", response=DeliveryDetail)
def read(request: HttpRequest, pk: int, number: int) -> DeliveryDetail:
    """A delivery, file by file, with the hash of each."""
    delivery = rules.find(person_of(request), pk, number)
    pictured = rules.places_pictured(delivery)
    items = [
        DeliveredFile(
            id=one.pk, file_name=one.file_name, kind=one.kind, shot=one.told, sha256=one.blob_id or "",
            bytes=one.blob.bytes if one.blob else 0, place=one.place if one.place in pictured else None,
        )
        for one in rules.files_of(delivery)
    ]  # fmt: skip
    return DeliveryDetail.model_validate(_facts(delivery) | {"items": items})


@router.get("/{pk}/deliveries/{number}/shots/{place}/preview.jpg")
def preview(request: HttpRequest, pk: int, number: int, place: int) -> HttpResponse:
    """A shot as it was delivered, small; from what was fixed when the delivery was asked for. It never changes."""
    person = person_of(request)
    delivery = rules.find(person, pk, number)
    state, make = rules.preview_of(delivery, place)
    return respond(request, state, lambda: make(partial(FRAMES.turn, person.pk)), "image/jpeg")


@router.get("/{pk}/deliveries/{number}/document.json", response=Frozen)
def read_document(request: HttpRequest, pk: int, number: int) -> HttpResponseBase:
    """What it was when it was asked for: names, order, trims, notes, ranges; everything of it is made from this. To take away."""
    delivery = rules.find(person_of(request), pk, number)
    return download(document_of(delivery).model_dump_json(indent=1), f"delivery-{number:03d}.json")


@router.get("/{pk}/deliveries/{number}/files/{item}", auth=designer("take what was delivered"))
def take_file(request: HttpRequest, pk: int, number: int, item: int) -> HttpResponseBase:
    """One file of it."""
    found = rules.find_file(rules.find(person_of(request), pk, number), item)
    assert found.blob_id is not None
    return download(open_kept(found.blob_id), found.file_name.rsplit("/", 1)[-1])


@router.get("/{pk}/deliveries/{number}/all.zip", auth=designer("take what was delivered"))
@HEAVY
def take_all(request: HttpRequest, pk: int, number: int) -> HttpResponseBase:
    """Everything that is made of it."""
    person = person_of(request)
    delivery = rules.find(person, pk, number)
    name = f"{file_stem(delivery.project.code or delivery.project.name)}-delivery-{number:03d}.zip"
    return FileResponse(rules.pack_delivery(person, delivery), as_attachment=True, filename=name, content_type="application/zip")
