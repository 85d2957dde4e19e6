"""Pictures: brought in, listed, changed, shown."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path, PurePosixPath
from typing import Annotated

from django.conf import settings
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from ninja import File, Form, Router, Schema, Status, UploadedFile
from pydantic import Field

from saucer.studio.common.downloads import download
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import HEAVY
from saucer.studio.common.reading import tell_each
from saucer.studio.common.store import keep_file, open_kept
from saucer.studio.encodings.rules import studio_view
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.people.access import Access, designer, file_of, intake
from saucer.studio.people.rules import may_change
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules, sets
from saucer.studio.pictures.models import Footage, FootageFile, Picture, PictureSet
from saucer.studio.pictures.shown import disc_of, plain_frame
from saucer.studio.pictures.work import PictureWork, start_proxy

router = Router(tags=["pictures"])


class MovingOut(Schema):
    """first: number of the first frame; rate: frames a second; plays: is its small copy there"""

    kind: str
    first: int
    count: int
    rate: float
    timecode: str
    plays: bool


class PictureOut(Schema):
    """at: when it was brought in; folder: of a media folder, where it lies in one that is read in place"""

    id: int
    name: str
    at: datetime
    folder: str
    note: str
    encoding: str
    white: Annotated[int, Field(description="kelvin that a raw photograph is balanced to; 0: as its camera said")]
    file_name: str
    kind: str
    depth: str
    width: int
    height: int
    mended: int
    test: bool
    passing: bool
    of_shots: Annotated[bool, Field(description="it is a shot of a project; where a list of all is told")]
    may_change: bool
    state: str
    proxy_width: int
    proxy_height: int
    moving: MovingOut | None
    stated: Annotated[str, Field(description="what in the file says what it is in; empty for nothing")]
    stated_encoding: Annotated[str, Field(description="what that means; empty for nothing that is known")]


class PictureChange(Schema):
    name: Annotated[str | None, Field(max_length=120)] = None
    encoding: Annotated[str | None, Field(max_length=60)] = None
    white: Annotated[int | None, Field(ge=0, description="of a raw photograph: kelvin, 0 for its camera's")] = None


def moving_of(picture: Picture) -> MovingOut | None:
    """What there is to play, where it is a clip or a sequence."""
    found: Footage | None = getattr(picture, "footage", None)
    if found is None:
        return None
    return MovingOut(
        kind=found.kind, first=found.first, count=found.count, rate=found.rate_top / found.rate_bottom, timecode=found.timecode,
        plays=found.proxy_id is not None,
    )  # fmt: skip


def _folder_of(picture: Picture) -> str:
    found: Footage | None = getattr(picture, "footage", None)
    return str(PurePosixPath(found.folder) / found.path) if found is not None and found.folder else ""


def _out(picture: Picture, request: HttpRequest) -> PictureOut:
    scale = min(1.0, rules.PROXY[0] / picture.width, rules.PROXY[1] / picture.height)
    return PictureOut(
        at=picture.created, folder=_folder_of(picture),
        **{name: getattr(picture, name) for name in ("id", "name", "note", "encoding", "white", "file_name", "kind", "depth")},
        stated=picture.stated, stated_encoding=picture.stated_encoding, mended=picture.mended,
        test=picture.test, passing=picture.passing, of_shots=getattr(picture, "shot_count", 0) > 0,
        width=picture.width, height=picture.height, may_change=may_change(person_of(request), picture.owner_id),
        state=picture.proxy_id[:12],
        proxy_width=max(1, round(picture.width * scale)), proxy_height=max(1, round(picture.height * scale)), moving=moving_of(picture),
    )  # fmt: skip


@router.get("", response=list[PictureOut])
def list_pictures(request: HttpRequest) -> list[PictureOut]:
    """The team's pictures, and before them those that the person only looks at."""
    return tell_each(rules.list_for(person_of(request)), lambda picture: _out(picture, request))


@router.post("", response={200: PictureOut, 202: JobOut}, auth=intake("bring in pictures", file_of(settings.PICTURE_UPLOAD_LIMIT)))
@HEAVY
def bring_in(
    request: HttpRequest, file: File[UploadedFile], name: Form[str] = "", encoding: Form[str] = ""
) -> Status[PictureOut] | Status[JobOut]:
    """The picture, or the job that brings in a large one."""
    assert isinstance(file, TemporaryUploadedFile)
    person, path, file_name = person_of(request), Path(file.temporary_file_path()), file.name or "picture"
    new = rules.look_into(person, path, file_name, name, encoding)
    if not new.is_large:
        return Status(200, _out(rules.bring_in(person, path, file_name, name, encoding), request))
    blob = keep_file(path)
    work = PictureWork(encoding=encoding, sha256=blob.pk, file_name=file_name, name=new.name)
    return Status(202, job_out(jobs.start(person, "picture", work, [blob])))


@router.post("/frames", response={200: PictureOut, 202: JobOut}, auth=Access(most=file_of(settings.PICTURE_UPLOAD_LIMIT)))
@HEAVY
def look_at(request: HttpRequest, file: File[UploadedFile]) -> Status[PictureOut] | Status[JobOut]:
    """A frame of one's own only to look at things on: nobody else sees it in lists, and it goes with the session unless it is kept."""
    assert isinstance(file, TemporaryUploadedFile)
    person, path, file_name = person_of(request), Path(file.temporary_file_path()), file.name or "picture"
    new = rules.look_into(person, path, file_name, passing=True)
    if not new.is_large:
        return Status(200, _out(rules.bring_in(person, path, file_name, passing=True), request))
    blob = keep_file(path)
    work = PictureWork(encoding="", sha256=blob.pk, file_name=file_name, name=new.name, passing=True)
    return Status(202, job_out(jobs.start(person, "frame", work, [blob])))


@router.post("/{pk}/keep", response=PictureOut, auth=designer("keep pictures"))
def keep(request: HttpRequest, pk: int) -> PictureOut:
    """One's own that was only to be looked at becomes the team's."""
    return _out(rules.keep_passing(person_of(request), pk), request)


class PictureSetOut(Schema):
    id: int
    name: str
    pictures: list[int]
    may_change: bool


class PictureSetIn(Schema):
    name: Annotated[str, Field(max_length=60)]
    pictures: Annotated[list[int], Field(min_length=1, max_length=100)]


def _set_out(chosen: PictureSet, request: HttpRequest) -> PictureSetOut:
    ids = [picture.pk for picture in chosen.shown]  # type: ignore[attr-defined]
    return PictureSetOut(id=chosen.pk, name=chosen.name, pictures=ids, may_change=may_change(person_of(request), chosen.owner_id))


@router.get("/sets", response=list[PictureSetOut])
def list_sets(request: HttpRequest) -> list[PictureSetOut]:
    """Kept sets of pictures."""
    return tell_each(sets.listed(person_of(request)), lambda chosen: _set_out(chosen, request))


@router.post("/sets", response=PictureSetOut, auth=designer("save sets of pictures"))
def save_set(request: HttpRequest, given: PictureSetIn) -> PictureSetOut:
    """A set of pictures by a name."""
    return _set_out(sets.save(person_of(request), given.name, given.pictures), request)


@router.delete("/sets/{pk}", response={204: None}, auth=designer("delete sets of pictures"))
def delete_set(request: HttpRequest, pk: int) -> Status[None]:
    """The set goes; its pictures stay."""
    sets.delete(person_of(request), pk)
    return Status(204, None)


@router.patch("/{pk}", response={200: PictureOut, 202: JobOut})
@HEAVY
def change(request: HttpRequest, pk: int, given: PictureChange) -> Status[PictureOut] | Status[JobOut]:
    """The picture, or the job that reads a large one anew, in another encoding or to another white; it has its new name by then.

    A viewer says what a frame of their own is in, too.
    """
    person = person_of(request)
    wanted = rules.Reading(given.encoding, given.white)
    picture = rules.check_change(person, pk, wanted)
    if not wanted.changes(picture) or not rules.is_large(picture.width, picture.height):
        changed = rules.change(person, pk, given.name, wanted)
        if Footage.objects.filter(pk=pk, proxy=None).exists():
            start_proxy(person, pk)
        return Status(200, _out(changed, request))
    if given.name is not None:
        rules.change(person, pk, given.name, rules.Reading())
    work = PictureWork(encoding=given.encoding or "", white=given.white, picture=pk)
    return Status(202, job_out(jobs.start(person, "frame" if picture.passing else "picture", work)))


@router.delete("/{pk}", response={204: None}, auth=designer("delete pictures"))
def delete(request: HttpRequest, pk: int) -> Status[None]:
    """Into the bin, from where it can be brought back for 30 days."""
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=PictureOut, auth=designer("bring pictures back"))
def restore(request: HttpRequest, pk: int) -> PictureOut:
    """Back from the bin."""
    return _out(rules.restore(person_of(request), pk), request)


@router.get("/{pk}/frame.png")
def frame(request: HttpRequest, pk: int) -> HttpResponse:
    """The proxy as it is seen without a look, in sRGB, without loss."""
    picture = rules.find(pk, person_of(request))
    return respond(request, _state(picture), lambda: encoded(plain_frame(picture), "png"), "image/png")


def _state(picture: Picture) -> str:
    """Changes whenever it would look different."""
    return f"{picture.proxy_id}-{picture.encoding}-{studio_view()}"


@router.get("/{pk}/disc.jpg")
def disc(request: HttpRequest, pk: int) -> HttpResponse:
    """A small round part of it, for lists."""
    picture = rules.find(pk, person_of(request))
    return respond(request, _state(picture), lambda: encoded(disc_of(plain_frame(picture)), "jpeg"), "image/jpeg")


@router.get("/{pk}/file", auth=designer("download pictures"))
def file(request: HttpRequest, pk: int) -> HttpResponseBase:
    """The picture, or the clip, as it was brought in; of a sequence its first frame."""
    picture = rules.find(pk, person_of(request))
    clip = FootageFile.objects.filter(footage=pk, footage__kind="clip", blob__isnull=False).first()
    if clip is not None and clip.blob_id is not None:
        return download(open_kept(clip.blob_id), clip.file_name)
    return download(open_kept(picture.blob_id), rules.name_file(picture))
