"""Looks: drafts, versions, branches, and who else is at one."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any
from urllib.parse import quote

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from ninja import File, Router, Schema, UploadedFile
from pydantic import Field

from saucer.core.errors import LookError
from saucer.core.look.model import Look, look_text
from saucer.core.reports.fingerprint import draw_look
from saucer.studio.catalogue.api import Described, describe
from saucer.studio.catalogue.models import Kind, Version
from saucer.studio.catalogue.rules import find_version, record_download
from saucer.studio.common.downloads import download
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import FRAMES, HEAVY
from saucer.studio.common.names import file_stem
from saucer.studio.common.uploads import read_upload
from saucer.studio.encodings.rules import studio_view
from saucer.studio.looks import bringing, presence, rules
from saucer.studio.looks.models import LookDraft
from saucer.studio.luts.rights import Thing, contents_of
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.access import designer, file_of, intake, personal
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of

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


class DraftState(Schema):
    """How the draft stands after a save."""

    revision: int
    edited: datetime
    edited_by: str
    draft_hash: str
    changed_since_version: bool


class LookOut(DraftState, Described):
    draft: Look
    versions: Annotated[list[VersionOut], Field(description="the latest first")]
    branched_from: str


class DraftIn(Schema):
    look: Look
    revision: int


class VersionIn(Schema):
    """revision: of the draft that is meant, as the page shows it."""

    note: Annotated[str, Field(max_length=1000)] = ""
    revision: int


def version_out(version: Version) -> VersionOut:
    made_by = version.made_by.shown_name if version.made_by else ""
    return VersionOut(
        number=version.number, note=version.note, content_hash=version.content_hash, made=version.made, made_by=made_by
    )


def _state(draft: LookDraft) -> dict[str, Any]:
    return {
        "revision": draft.revision, "edited": draft.edited, "edited_by": draft.edited_by.shown_name if draft.edited_by else "",
        "draft_hash": draft.hash, "changed_since_version": rules.has_changed(draft.pk),
    }  # fmt: skip


def _out(draft: LookDraft, person: Person) -> LookOut:
    branched = rules.branched_from(person, draft.pk)
    return LookOut(
        **_state(draft), **describe(draft.entry, person).model_dump(),
        draft=rules.look_of_draft(draft), versions=[version_out(version) for version in rules.list_versions(draft.pk)],
        branched_from=f"{branched.entry.name}, version {branched.number}" if branched else "",
    )  # fmt: skip


@router.post("", response=LookOut, auth=designer("make looks"))
def create(request: HttpRequest, look: Look) -> LookOut:
    """A new look of one's own."""
    if "view" not in look.model_fields_set:
        look = look.model_copy(update={"view": studio_view()})
    person = person_of(request)
    return _out(rules.create(person, look), person)


@router.post("/file", response=LookOut, auth=intake("bring in looks", file_of(settings.LUT_UPLOAD_LIMIT)))
@HEAVY
def bring_in(request: HttpRequest, file: File[UploadedFile]) -> LookOut:
    """A look file, or a bundle of one and its LUTs, as a new look."""
    person = person_of(request)
    data, place = read_upload(file, settings.LUT_UPLOAD_LIMIT, "look", LookError)
    return _out(bringing.bring_in(person, data, place), person)


@router.get("/{pk}", response=LookOut)
def read(request: HttpRequest, pk: int) -> LookOut:
    """A look with its draft and versions."""
    person = person_of(request)
    return _out(rules.find(person, pk), person)


@router.put("/{pk}/draft", response=DraftState, auth=designer("edit looks"))
def save_draft(request: HttpRequest, pk: int, given: DraftIn) -> DraftState:
    """The draft as it is now; refused where somebody else has changed it since `revision`."""
    return DraftState(**_state(rules.save_draft(person_of(request), pk, given.look, given.revision)))


@router.post("/{pk}/versions", response=VersionOut, auth=designer("save versions"))
def save_version(request: HttpRequest, pk: int, given: VersionIn) -> VersionOut:
    """The draft becomes a version that never changes."""
    return version_out(rules.save_version(person_of(request), pk, given.note, given.revision))


@router.get("/{pk}/history", response=list[HistoryOut])
def read_history(request: HttpRequest, pk: int) -> list[HistoryOut]:
    """Its versions, with what was said of each."""
    return [
        HistoryOut(**version_out(version).model_dump(), changes=changes)
        for version, changes in rules.history(person_of(request), pk)
    ]


@router.post("/{pk}/versions/{number}/branch", response=LookOut, auth=designer("make looks"))
def branch(request: HttpRequest, pk: int, number: int) -> LookOut:
    """A new look that begins as this version."""
    person = person_of(request)
    return _out(rules.branch(person, pk, number), person)


@router.post("/{pk}/presence", response=PresenceOut, auth=personal())
def tell_presence(request: HttpRequest, pk: int, given: PresenceIn) -> PresenceOut:
    """That a page has the look open; answers who else has."""
    person = person_of(request)
    others = presence.tell(person, pk, given.page, given.edited, given.leaving)
    return PresenceOut(others=[OtherOut(**vars(other)) for other in others], revision=rules.find(person, pk).revision)


@router.get("/{pk}/versions/{number}", response=Look)
def read_version(request: HttpRequest, pk: int, number: int) -> Look:
    """A version of it, step by step."""
    return rules.look_of(find_version(person_of(request), Kind.LOOK, pk, number))


@router.get("/{pk}/look.json")
def look_file(request: HttpRequest, pk: int) -> HttpResponseBase:
    """The draft as a look file, to take away."""
    person = person_of(request)
    draft = rules.find(person, pk)
    record_download(person, draft.entry, "look.json")
    return download(look_text(rules.look_of_draft(draft)), f"{file_stem(draft.entry.name)}.json")


@router.get("/{pk}/bundle.zip", auth=designer("download LUTs"))
@HEAVY
def bundle(request: HttpRequest, pk: int) -> HttpResponseBase:
    """The draft and the LUTs it uses, to take away. Why these may not be passed on stands in the header Saucer-Rights, as in an address."""
    person = person_of(request)
    draft = rules.find(person, pk)
    record_download(person, draft.entry, "bundle.zip")
    response = download(bringing.bundle_of(draft), f"{file_stem(draft.entry.name)}.zip")
    (found,) = contents_of([Thing(draft.entry, draft.content)])
    if found.reasons:
        response["Saucer-Rights"] = quote("; ".join(found.reasons)[:1000], safe=" :;,\"'()")
    return response


@router.get("/{pk}/fingerprint.png")
@FRAMES
def look_fingerprint(request: HttpRequest, pk: int, size: int = 112) -> HttpResponse:
    """The disc that stands for it."""
    draft, size = rules.find(person_of(request), pk), max(16, min(size, 512))
    return respond(
        request, f"{draft.hash}-{size}", lambda: encoded(draw_look(rules.look_of_draft(draft), size, at_hand), "png"), "image/png"
    )
