from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Schema, Status, UploadedFile
from pydantic import Field

from saucer.core import fingerprint
from saucer.core.look import Look, look_text
from saucer.studio.images import encoded, respond
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.looks import bringing, presence, rules
from saucer.studio.looks.models import LookEntry, Version
from saucer.studio.luts.baking import BakeChoice
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Role
from saucer.studio.people.rules import require
from saucer.studio.signed_in import person_of

router = Router(tags=["looks"])


class VersionOut(Schema):
    number: int
    note: str
    content_hash: str
    made: datetime
    made_by: str


class HistoryOut(VersionOut):
    changes: Annotated[list[str], Field(description="how it differs from the version before, in words")]


class PresenceIn(Schema):
    page: Annotated[str, Field(min_length=1, max_length=40)]
    edited: bool = False
    leaving: bool = False


class OtherOut(Schema):
    name: str
    editing: bool
    same_person: bool


class PresenceOut(Schema):
    others: list[OtherOut]
    revision: int


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
    branched_from: str


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
    choice: BakeChoice = BakeChoice()


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
        branched_from=f"{entry.branched_from.look.name}, version {entry.branched_from.number}" if entry.branched_from else "",
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


@router.post("/file", response=LookOut)
def bring_in(request: HttpRequest, file: File[UploadedFile]) -> LookOut:
    """A look file, or a bundle of one and its LUTs, as a new look."""
    return _out(bringing.bring_in(person_of(request), file.read(), file.name or "look"), request)


@router.get("/{pk}", response=LookOut)
def read(request: HttpRequest, pk: int) -> LookOut:
    return _out(rules.find(pk), request)


@router.put("/{pk}/draft", response=LookOut)
def save_draft(request: HttpRequest, pk: int, given: DraftIn) -> LookOut:
    return _out(rules.save_draft(person_of(request), pk, given.look, given.revision), request)


@router.post("/{pk}/versions", response=VersionOut)
def save_version(request: HttpRequest, pk: int, given: NoteIn) -> VersionOut:
    return version_out(rules.save_version(person_of(request), pk, given.note))


@router.get("/{pk}/history", response=list[HistoryOut])
def read_history(request: HttpRequest, pk: int) -> list[HistoryOut]:
    return [HistoryOut(**version_out(version).model_dump(), changes=changes) for version, changes in rules.history(pk)]


@router.post("/{pk}/versions/{number}/branch", response=LookOut)
def branch(request: HttpRequest, pk: int, number: int) -> LookOut:
    """A new look that begins as this version."""
    return _out(rules.branch(person_of(request), pk, number), request)


@router.post("/{pk}/presence", response=PresenceOut)
def tell_presence(request: HttpRequest, pk: int, given: PresenceIn) -> PresenceOut:
    """That a page has the look open; answers who else has."""
    others = presence.tell(person_of(request), pk, given.page, given.edited, given.leaving)
    return PresenceOut(others=[OtherOut(**vars(other)) for other in others], revision=rules.find(pk).revision)


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
    job = jobs.start(person_of(request), "bake", look=pk, **given.model_dump(mode="json"))
    return Status(202, job_out(job))


@router.delete("/{pk}", response={204: None})
def delete(request: HttpRequest, pk: int) -> Status[None]:
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=LookOut)
def restore(request: HttpRequest, pk: int) -> LookOut:
    return _out(rules.restore(person_of(request), pk), request)
