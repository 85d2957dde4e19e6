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


class Spread(Schema):
    mean: float
    p95: float
    p99: float
    largest: float


class LutLine(Schema):
    id: int
    name: str


class LutFileOut(Schema):
    id: int
    format: str
    file_name: str
    size: int
    bytes: int
    lost: list[str]
    fidelity: Spread | None


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
    rights: str
    note: str
    category: str
    known: str
    health: str
    health_words: str
    made_by: str
    parent: int | None
    parent_name: str
    children: list[LutLine]
    files: list[LutFileOut]
    left_out: list[str]
    lost: list[str]
    fidelity: Spread | None
    look: int | None
    look_name: str
    version: int | None
    own: bool


class LutChange(Schema):
    name: Annotated[str | None, Field(max_length=120)] = None
    expects: str | None = None
    gives: str | None = None
    rights: Annotated[str | None, Field(max_length=200)] = None
    note: Annotated[str | None, Field(max_length=2000)] = None
    category: Annotated[str | None, Field(max_length=200)] = None


_FIELDS = (
    "id", "name", "author", "file_name", "format", "kind", "size", "bytes", "sha256", "expects", "gives", "rights", "note", "category",
    "known", "health", "health_words", "made_by",
)  # fmt: skip


def lut_out(entry: LutEntry, request: HttpRequest) -> LutOut:
    version, parent = entry.version, entry.parent
    return LutOut(
        **{name: getattr(entry, name) for name in _FIELDS},
        look=version.look_id if version else None,
        look_name=version.look.name if version else "",
        version=version.number if version else None,
        parent=parent.pk if parent and parent.deleted is None else None,
        parent_name=parent.name if parent else "",
        children=[LutLine(id=one.pk, name=one.name) for one in entry.children.all() if one.deleted is None],
        files=[
            LutFileOut(
                id=one.pk, format=one.format, file_name=one.file_name, size=one.size, bytes=one.bytes, lost=one.made.get("lost", []),
                fidelity=one.made.get("fidelity"),
            )
            for one in entry.files.all()
        ],
        left_out=entry.made.get("left_out", []),
        lost=entry.made.get("lost", []),
        fidelity=entry.made.get("fidelity"),
        own=entry.owner_id == request.user.pk,
    )  # fmt: skip


@router.post("", response=LutOut)
def bring_in(
    request: HttpRequest, file: File[UploadedFile], name: Form[str] = "", expects: Form[str] = "", gives: Form[str] = ""
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
    return lut_out(rules.change(person_of(request), pk, **given.model_dump()), request)


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


@router.get("/{pk}/files/{file}")
def other_file(request: HttpRequest, pk: int, file: int) -> FileResponse:
    """The same LUT in another format."""
    require(person_of(request), Role.DESIGNER, "download LUTs")
    one = rules.file_of(rules.find(pk), file)
    return FileResponse(open_kept(one.sha256), as_attachment=True, filename=one.file_name)


@router.get("/{pk}/files.zip")
def all_files(request: HttpRequest, pk: int) -> HttpResponse:
    """The LUT in all its formats."""
    require(person_of(request), Role.DESIGNER, "download LUTs")
    entry = rules.find(pk)
    response = HttpResponse(rules.zip_of(entry), content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="{rules.file_stem(entry.name)}.zip"'
    return response


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
