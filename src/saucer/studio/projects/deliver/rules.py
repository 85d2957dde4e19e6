"""Asking for a delivery, looking at what was delivered, taking it."""

from __future__ import annotations

import hashlib
import json
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO, cast

from django.db import transaction
from django.db.models import Max, Q
from pydantic import BaseModel

from saucer.core.files.zips import pack_into
from saucer.studio.common.images import encoded
from saucer.studio.common.models import Blob
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import read_kept
from saucer.studio.jobs import rules as jobs
from saucer.studio.people import quota
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record
from saucer.studio.preview.kept import Turn, kept_preview
from saucer.studio.projects import rules
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.deliver.frozen import document_of
from saucer.studio.projects.deliver.lists import picture_of
from saucer.studio.projects.deliver.pace import measured_pace
from saucer.studio.projects.deliver.planning import Plan, plan
from saucer.studio.projects.models import Delivery, DeliveryItem, Project

BLOBS_A_TIME = 500


class DeliverWork(BaseModel):
    """delivery: its number in the database"""

    delivery: int


class PartWork(BaseModel):
    delivery: int
    part: int


@dataclass(frozen=True)
class Estimate:
    """seconds: of one worker, by what was measured here lately; room: what is wrong with the room for it, or soon will be, in words"""

    planned: Plan
    seconds: float
    room: str


def estimate(person: Person, pk: int, choice: DeliveryChoice) -> Estimate:
    """What it would be; nothing is made. Raises: NotFound, NotPossible"""
    project = rules.find(person, pk)
    planned = plan(project, choice, _next_number(project), person.shown_name)
    room = quota.words_of("project", quota.room_of("project", project.pk), planned.bytes)
    return Estimate(planned, planned.seconds * measured_pace(), room)


def _next_number(project: Project) -> int:
    last = Delivery.objects.filter(project=project).aggregate(last=Max("number"))["last"]
    return int(last or 0) + 1


def deliver(person: Person, pk: int, choice: DeliveryChoice) -> Delivery:
    """All of it is fixed now, in one document; all workers there are make the files. Raises: NotFound, NotAllowed, NotPossible"""
    with transaction.atomic():
        project = rules.work_in(person, pk, "deliver")
        number = _next_number(project)
        planned = plan(project, choice, number, person.shown_name)
        quota.require_room("project", project.pk, planned.bytes)
        document = planned.document
        delivery = Delivery.objects.create(
            project=project, number=number, choice=choice.model_dump(mode="json") | {"left_out": planned.left_out},
            frozen=document.model_dump(mode="json"), made_by=person,
            forecast=planned.seconds,
        )  # fmt: skip
        DeliveryItem.objects.bulk_create(
            [
                DeliveryItem(
                    delivery=delivery, part=one.part, kind=one.kind, frame=one.frame, file_name=one.file_name, place=one.place,
                    shot_id=document.shots[one.place].id, told=document.shots[one.place].code,
                )
                for one in planned.files
            ],
            batch_size=BLOBS_A_TIME,
        )  # fmt: skip
        parts = [PartWork(delivery=delivery.pk, part=part) for part in range(planned.parts)]
        needed = {sha256 for shot in document.shots for sha256 in (shot.picture.sha256, shot.picture.proxy)}
        blobs = list(Blob.objects.filter(pk__in=needed))  # whatever becomes of the pictures: they stay as long as the job does
        delivery.job = jobs.start_parts(person, "deliver", DeliverWork(delivery=delivery.pk), "deliver-part", parts, blobs)
        delivery.save(update_fields=["job"])
        record(
            person,
            "deliver",
            project,
            number=number,
            files=len(planned.files),
            choice=choice.model_dump(mode="json", exclude_defaults=True),
        )
    return delivery


def list_deliveries(person: Person, pk: int) -> list[Delivery]:
    """The newest first."""
    return list(Delivery.objects.filter(project=rules.find(person, pk)).select_related("job", "made_by"))


def find(person: Person, pk: int, number: int) -> Delivery:
    """Raises: NotFound"""
    found = (
        Delivery.objects.filter(project=rules.find(person, pk), number=number).select_related("job", "made_by", "project").first()
    )
    if found is None:
        raise NotFound("There is no such delivery.")
    return found


def files_of(delivery: Delivery) -> list[DeliveryItem]:
    return list(delivery.items.select_related("blob").order_by("file_name"))


def find_file(delivery: Delivery, item: int) -> DeliveryItem:
    """Raises: NotFound, also for one that is not made yet"""
    found = delivery.items.filter(pk=item, blob__isnull=False).select_related("blob").first()
    if found is None:
        raise NotFound("There is no such file, or it is not made yet.")
    return found


def places_pictured(delivery: Delivery) -> set[int]:
    """Of shots of which there is a picture; what was asked for by an earlier Saucer may have none."""
    shots = document_of(delivery).shots if delivery.frozen is not None else []
    return {place for place, shot in enumerate(shots) if shot.seen}


def preview_of(delivery: Delivery, place: int) -> tuple[str, Callable[[Turn], bytes]]:
    """What a shot's picture as it was delivered is kept by, and what makes it where it is not kept: a JPEG. A turn is waited for only then.

    Raises: NotFound, NotPossible; making it SaucerError
    """
    document = document_of(delivery)
    if not 0 <= place < len(document.shots) or not document.shots[place].seen:
        raise NotFound("There is no picture of such a shot in this delivery.")
    shot = document.shots[place]
    told = (document.looks[shot.seen], shot.picture.proxy, shot.picture.footage and shot.picture.footage.proxy, shot.poster)
    state = f"delivered-{hashlib.sha256(json.dumps(told, sort_keys=True).encode()).hexdigest()[:32]}"

    def make(turn: Turn) -> bytes:
        def drawn() -> bytes:
            with turn():
                try:
                    return encoded(picture_of(document, shot), "jpeg")
                except FileNotFoundError:
                    raise NotFound(f"The picture that {shot.code} was made of is not kept any more.") from None

        return kept_preview(state, drawn)

    return state, make


def pack_delivery(person: Person, delivery: Delivery) -> IO[bytes]:
    """Everything that is made of it, as a zip. Raises: NotPossible where nothing is"""
    made = list(delivery.items.filter(~Q(blob=None)).order_by("file_name").values_list("file_name", "blob"))
    if not made:
        raise NotPossible("Nothing of this delivery is made yet.")

    def members() -> Iterator[tuple[str, bytes]]:
        for name, sha256 in made:
            yield name, read_kept(sha256)

    file = tempfile.TemporaryFile()  # noqa: SIM115  it is closed once it is sent
    pack_into(cast(IO[bytes], file), members(), level=0)
    file.seek(0)
    record(person, "download", delivery.project, delivery=delivery.number, files=len(made))
    return cast(IO[bytes], file)


def export(delivery: Delivery, folder: Path, overwrite: bool) -> list[Path]:
    """Everything of it into a folder. Raises: NotPossible where a file is there already, before anything is written"""
    made = list(delivery.items.filter(~Q(blob=None)).order_by("file_name").values_list("file_name", "blob"))
    targets = [folder / name for name, _ in made]
    there = [path for path in targets if path.exists()]
    if there and not overwrite:
        raise NotPossible(f"{there[0]} is there already; give --overwrite to replace what is there.")
    for path, (_, sha256) in zip(targets, made, strict=True):
        path.parent.mkdir(parents=True, exist_ok=True)
        temporary = path.with_name(f".new-{path.name}")
        try:
            temporary.write_bytes(read_kept(sha256))
            temporary.replace(path)
        finally:
            temporary.unlink(missing_ok=True)
    return targets


def total_bytes(items: list[DeliveryItem]) -> int:
    return sum(item.blob.bytes for item in items if item.blob is not None)


def keep(item: DeliveryItem, blob: Blob, facts: dict[str, object], seconds: float) -> None:
    """A file is done: whole, under its name, and not made again."""
    DeliveryItem.objects.filter(pk=item.pk).update(blob=blob, facts=facts, seconds=seconds)
