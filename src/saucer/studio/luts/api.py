from __future__ import annotations

from typing import Annotated

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema, Status, UploadedFile
from pydantic import Field

from saucer.core import fingerprint
from saucer.studio.images import encoded, respond
from saucer.studio.luts import rules
from saucer.studio.luts.models import LutEntry
from saucer.studio.people.models import Role
from saucer.studio.people.rules import require
from saucer.studio.signed_in import person_of
from saucer.studio.store import open_kept

router = Router(tags=["luts"])


class LutOut(Schema):
    id: int
    name: str
    author: str
    file_name: str
    format: str
    kind: str
    size: int
    bytes: int
    sha256: str
    expects: str
    gives: str
    look: int | None
    version: int | None
    own: bool


class LutChange(Schema):
    name: Annotated[str | None, Field(max_length=120)] = None
    expects: str | None = None
    gives: str | None = None


def lut_out(entry: LutEntry, request: HttpRequest) -> LutOut:
    fields = {
        name: getattr(entry, name)
        for name in ("id", "name", "author", "file_name", "format", "kind", "size", "bytes", "sha256", "expects", "gives")
    }
    version = entry.version
    return LutOut(
        **fields,
        look=version.look_id if version else None,
        version=version.number if version else None,
        own=entry.owner_id == request.user.pk,
    )


@router.post("", response=LutOut)
def bring_in(
    request: HttpRequest, file: File[UploadedFile], name: Form[str] = "", expects: Form[str] = "srgb", gives: Form[str] = ""
) -> LutOut:
    return lut_out(rules.bring_in(person_of(request), file.read(), file.name or "LUT", name, expects, gives), request)


@router.get("", response=list[LutOut])
def list_luts(request: HttpRequest) -> list[LutOut]:
    return [lut_out(entry, request) for entry in rules.listed()]


@router.get("/{pk}", response=LutOut)
def read(request: HttpRequest, pk: int) -> LutOut:
    return lut_out(rules.find(pk), request)


@router.patch("/{pk}", response=LutOut)
def change(request: HttpRequest, pk: int, given: LutChange) -> LutOut:
    return lut_out(rules.change(person_of(request), pk, given.name, given.expects, given.gives), request)


@router.delete("/{pk}", response={204: None})
def delete(request: HttpRequest, pk: int) -> Status[None]:
    rules.delete(person_of(request), pk)
    return Status(204, None)


@router.post("/{pk}/restore", response=LutOut)
def restore(request: HttpRequest, pk: int) -> LutOut:
    return lut_out(rules.restore(person_of(request), pk), request)


@router.get("/{pk}/file")
def file(request: HttpRequest, pk: int) -> FileResponse:
    require(person_of(request), Role.DESIGNER, "download LUTs")
    entry = rules.find(pk)
    return FileResponse(open_kept(entry.sha256), as_attachment=True, filename=entry.file_name)


@router.get("/{pk}/fingerprint.png")
def lut_fingerprint(request: HttpRequest, pk: int, size: int = 112) -> HttpResponse:
    entry, size = rules.find(pk), max(16, min(size, 512))
    state = f"{entry.sha256}-{entry.expects}-{entry.gives}-{size}"
    return respond(
        request,
        state,
        lambda: encoded(fingerprint.of_lut(rules.table_of(entry), *rules.ends_of(entry), size), "png"),
        "image/png",
    )
