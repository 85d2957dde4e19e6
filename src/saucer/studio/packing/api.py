"""Packs: planned, made, brought back; one entry as a file; whether it may leave."""

from __future__ import annotations

import hashlib
from dataclasses import replace
from typing import Annotated

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseNotModified
from ninja import File, Query, Router, Schema, Status, UploadedFile
from pydantic import Field

from saucer.studio.catalogue.find.found import understand
from saucer.studio.catalogue.find.wanted import filter_entries
from saucer.studio.catalogue.models import Kind
from saucer.studio.catalogue.rules import find, find_any, stamp
from saucer.studio.common.store import keep_upload
from saucer.studio.common.uploads import check_size, place_of
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.luts.rights import held_back
from saucer.studio.packing import rules
from saucer.studio.packing.listed import Listed, list_all
from saucer.studio.packing.rules import PackChoice
from saucer.studio.packing.work import FileWork, ReturnedPack
from saucer.studio.people.access import designer, file_of, intake
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures
from saucer.studio.preview.entries_api import WantedIn

router = Router(tags=["packing"])


class HeldBackOut(Schema):
    name: str
    why: str


class InsideOut(Schema):
    """A LUT that leaves because something holds it. rights: why it would be held back, empty where it may leave"""

    name: str
    used_by: str
    rights: str


class PackPlan(Schema):
    """count: entries that will leave; inside: LUTs that go with them"""

    count: int
    left_out: list[HeldBackOut]
    inside: list[InsideOut]


class RightsOut(Schema):
    """held: why it may not leave, in words, none where it may; inside: LUTs in it and what it came from, by name"""

    held: list[str]
    inside: list[str]


@router.get("/manifest.json", response={200: Listed, 304: None})
def list_manifest(
    request: HttpRequest, given: Query[WantedIn], start: Annotated[int, Field(ge=0, le=10_000_000)] = 0
) -> HttpResponse:
    """The catalogue for pipelines: what fits the same filters as the wall's, published things where no state is asked for.

    The address stays, and so does the ETag until something is changed.
    """
    person = person_of(request)
    wanted = given.wanted(person)
    if not wanted.states:
        wanted = replace(wanted, states=("published",))
    tag = f'"{stamp()}-{hashlib.sha256(repr((person.pk, wanted, start)).encode()).hexdigest()[:16]}"'
    if request.headers.get("If-None-Match") == tag:
        return HttpResponseNotModified()
    listed = list_all(filter_entries(person, understand(person, wanted)), start)
    response = HttpResponse(listed.model_dump_json(indent=1), content_type="application/json")
    response["ETag"], response["Cache-Control"] = tag, "private, no-cache"
    return response


@router.post("/plan", response=PackPlan, auth=designer("pack entries"))
def plan(request: HttpRequest, given: PackChoice) -> PackPlan:
    """What would leave and what its rights hold back."""
    leaving, held = rules.choose(person_of(request), given)
    inside = [
        InsideOut(name=entry.name, used_by=one.entry.name, rights=held_back(entry))
        for one in leaving
        for entry in one.contents.luts.values()
    ]
    return PackPlan(count=len(leaving), left_out=[HeldBackOut(name=one.name, why=one.why) for one in held], inside=inside)


@router.get("/rights/{kind}/{pk}", response=RightsOut)
def read_rights(request: HttpRequest, kind: Kind, pk: int, version: Annotated[int | None, Field(ge=1)] = None) -> RightsOut:
    """Whether it may leave, with all that is in it: told wherever it is taken. version: of a look, in place of its draft"""
    found = rules.inside_of(find(person_of(request), kind, pk), version)
    return RightsOut(held=found.reasons, inside=list(dict.fromkeys(one.entry.name for one in found.inside)))


@router.post("/back", response={202: JobOut}, auth=intake("bring in packs", file_of(settings.PACK_UPLOAD_LIMIT)))
def bring_back(request: HttpRequest, file: File[UploadedFile]) -> Status[JobOut]:
    """A pack that Saucer made, here or elsewhere, with everything it knew."""
    person, place = person_of(request), place_of(file.name, "pack")
    check_size(file.size or 0, settings.PACK_UPLOAD_LIMIT, place)
    blob = keep_upload(file)
    return Status(202, job_out(jobs.start(person, "return", ReturnedPack(sha256=blob.pk, file_name=place), [blob])))


@router.post("/file", response={202: JobOut}, auth=designer("take files"))
def make_file(request: HttpRequest, given: FileWork) -> Status[JobOut]:
    """One entry as one file of any format and size."""
    person = person_of(request)
    find_any(person, given.entry)
    given.format.form()
    return Status(202, job_out(jobs.start(person, "file", given)))


@router.post("", response={202: JobOut}, auth=designer("pack entries"))
def pack(request: HttpRequest, given: PackChoice) -> Status[JobOut]:
    """A job that packs entries, with previews and notes, into one file."""
    person = person_of(request)
    rules.choose(person, given)
    pictures.find_many(given.pictures, person)
    return Status(202, job_out(jobs.start(person, "pack", given)))
