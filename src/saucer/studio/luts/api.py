"""LUTs: brought in, read, drawn, their files taken."""

from __future__ import annotations

from typing import Annotated

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from ninja import File, Form, Router, Schema, UploadedFile
from pydantic import Field

from saucer.core.reports.fingerprint import draw_lut
from saucer.studio.catalogue.api import Described, describe
from saucer.studio.catalogue.models import Kind, SeenBy, there_for
from saucer.studio.catalogue.rules import list_there
from saucer.studio.common.downloads import download
from saucer.studio.common.images import encoded, respond
from saucer.studio.common.lanes import FRAMES, HEAVY
from saucer.studio.common.store import open_kept
from saucer.studio.common.uploads import read_upload
from saucer.studio.encodings.rules import studio_view
from saucer.studio.luts import rules
from saucer.studio.luts.facts import FileFacts, LutFacts, SpreadFacts
from saucer.studio.luts.models import Lut
from saucer.studio.people.access import designer, file_of, intake
from saucer.studio.people.models import Person
from saucer.studio.people.signed_in import person_of

router = Router(tags=["luts"])


class LutFileOut(Schema):
    id: int
    format: str
    file_name: str
    size: int
    bytes: int
    sha256: str
    lost: list[str]
    fidelity: SpreadFacts | None


class MadeFrom(Schema):
    """The version of an entry that something was made, baked or branched from."""

    kind: Kind
    id: int
    name: str
    version: int


class LutTable(Schema):
    """A LUT with its files, the one it is read from first. lut: its own number, also for a look's bakes."""

    lut: int
    holds: Annotated[str, Field(description="1D, 3D, 1D + 3D or the names of its formulas")]
    size: int
    expects: str
    gives: str
    known: str
    health: str
    health_words: str
    made_by: str
    words: str
    left_out: list[str]
    part: str
    files: list[LutFileOut]


class LutOut(Described, LutTable):
    """A LUT as an entry, in its latest version."""

    version: int
    made_from: MadeFrom | None
    offspring: Annotated[list[MadeFrom], Field(description="entries that were made from this one")]


class EndsIn(Schema):
    expects: str | None = None
    gives: str | None = None


def table_out(lut: Lut) -> LutTable:
    facts = LutFacts.model_validate(lut.facts)
    files = []
    for one in lut.files.all():
        told = FileFacts.model_validate(one.facts)
        files.append(
            LutFileOut(
                id=one.pk, format=one.format, file_name=one.file_name, size=one.size, bytes=one.blob.bytes, sha256=one.blob_id,
                lost=told.lost, fidelity=told.fidelity,
            )
        )  # fmt: skip
    names = ("size", "expects", "gives", "known", "health", "health_words", "made_by")
    return LutTable(
        lut=lut.pk,
        holds=lut.kind,
        **{name: getattr(lut, name) for name in names},
        words=facts.words,
        left_out=facts.left_out,
        part=facts.part,
        files=files,
    )


def lut_out(pk: int, person: Person) -> LutOut:
    lut = rules.find(person, pk)
    version, source = lut.version, lut.version.from_version
    made_from = None
    if source is not None and source.entry_id != pk and list_there(person, [source.entry_id]):
        made_from = MadeFrom(kind=Kind(source.entry.kind), id=source.entry_id, name=source.entry.name, version=source.number)
    offspring = (
        version.offspring.filter(there_for(person, "entry__"), number=1).exclude(entry=version.entry).select_related("entry")
    )
    return LutOut(
        **describe(version.entry, person).model_dump(), **table_out(lut).model_dump(),
        version=version.number, made_from=made_from,
        offspring=[MadeFrom(kind=Kind(one.entry.kind), id=one.entry_id, name=one.entry.name, version=one.number) for one in offspring],
    )  # fmt: skip


@router.post("", response=LutOut, auth=intake("bring in LUTs", file_of(settings.LUT_UPLOAD_LIMIT)))
@HEAVY
def bring_in(
    request: HttpRequest, file: File[UploadedFile], name: Form[str] = "", expects: Form[str] = "", gives: Form[str] = "",
    private: Form[bool] = False,
) -> LutOut:  # fmt: skip
    """private: only who brings it in sees it, until they say otherwise; as the studio says of what is new where that is not asked for."""
    person = person_of(request)
    data, place = read_upload(file, settings.LUT_UPLOAD_LIMIT, "LUT")
    seen = {"seen_by": SeenBy.OWNER} if private else {}
    return lut_out(rules.bring_in(person, data, place, name, expects, gives, **seen).pk, person)


@router.get("/{pk}", response=LutOut)
def read(request: HttpRequest, pk: int) -> LutOut:
    """A LUT with its files and what it expects and gives."""
    return lut_out(pk, person_of(request))


@router.patch("/{pk}", response=LutOut, auth=designer("change LUTs"))
def correct(request: HttpRequest, pk: int, given: EndsIn) -> LutOut:
    """Say what it expects and gives."""
    person = person_of(request)
    rules.correct_ends(person, pk, given.expects, given.gives)
    return lut_out(pk, person)


@router.get("/{pk}/fingerprint.png")
@FRAMES
def lut_fingerprint(request: HttpRequest, pk: int, size: int = 112) -> HttpResponse:
    """The disc that stands for it."""
    lut, size = rules.find(person_of(request), pk), max(16, min(size, 512))
    view = studio_view()
    state = f"{rules.first_file(lut).blob_id}-{lut.expects}-{lut.gives}-{view}-{size}"
    return respond(
        request, state, lambda: encoded(draw_lut(rules.table_of(lut), *rules.encodings_of(lut), size, view), "png"), "image/png"
    )


files_router = Router(tags=["luts"])


@files_router.get("/lut-files/{pk}", auth=designer("download LUTs"))
def file(request: HttpRequest, pk: int) -> HttpResponseBase:
    """One file of a LUT, of a look's bakes too."""
    one = rules.take_file(person_of(request), pk)
    return download(open_kept(one.blob_id), one.file_name)
