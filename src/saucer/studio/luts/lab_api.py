"""Packs, charts, pairs, health and tools of LUTs."""

from __future__ import annotations

import json
from typing import Annotated

import numpy as np
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status, UploadedFile
from pydantic import Field

from saucer.core.errors import PictureError
from saucer.core.health import Graphs
from saucer.studio.images import encoded
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.luts import health, intake, roundtrip, tools
from saucer.studio.luts.api import LutOut, lut_out
from saucer.studio.luts.intake import Kept, Row
from saucer.studio.luts.roundtrip import ChartChoice, EditorChoice, Fitted, Reading
from saucer.studio.luts.rules import check_upload, find
from saucer.studio.luts.tools import ToolChoice
from saucer.studio.pictures import rules as pictures
from saucer.studio.signed_in import person_of
from saucer.studio.store import keep_upload

router = Router(tags=["LUT work"])


class FindingOut(Schema):
    id: str
    title: str
    level: str
    number: float
    sentence: str
    advice: str
    mend: str | None


class GraphsOut(Schema):
    """ramp: what grey becomes, rows of red, green, blue; rough: by red (down) and green (across), in codes of 1023; edge: a lattice of side
    `edge_size`, blue fastest, as code values and as shown in sRGB"""

    ramp: list[list[float]]
    rough: list[list[float]]
    edge: list[list[float]]
    edge_shown: list[list[float]]
    edge_size: int


class HealthOut(Schema):
    level: str
    summary: str
    findings: list[FindingOut]
    graphs: GraphsOut


class ToolFrameIn(Schema):
    choice: ToolChoice
    picture: int
    width: Annotated[int | None, Field(ge=1)] = None


class ToolIn(Schema):
    choice: ToolChoice
    name: Annotated[str, Field(max_length=120)] = ""


class KeepIn(Schema):
    rows: Annotated[list[Kept], Field(min_length=1, max_length=5000)]


class StandinIn(Schema):
    chart: ChartChoice = ChartChoice()
    editor: EditorChoice = EditorChoice()


class KeepResultIn(Schema):
    which: roundtrip.Which
    name: Annotated[str, Field(min_length=1, max_length=120)]
    rights: Annotated[str, Field(max_length=200)] = ""


def _graphs(graphs: Graphs, shown: np.ndarray) -> GraphsOut:
    return GraphsOut(
        ramp=np.round(graphs.ramp[:: len(graphs.ramp) // 128], 5).tolist(), rough=np.round(graphs.rough, 3).tolist(),
        edge=np.round(graphs.edge, 4).tolist(), edge_shown=np.round(shown, 3).tolist(), edge_size=round(len(graphs.edge) ** (1 / 3)),
    )  # fmt: skip


@router.get("/luts/{pk}/health", response=HealthOut)
def lut_health(request: HttpRequest, pk: int) -> HealthOut:
    entry = find(pk)
    found, shown = health.of(entry)
    return HealthOut(
        level=found.level, summary=found.summary, findings=[FindingOut(**vars(one)) for one in found.findings],
        graphs=_graphs(found.graphs, shown),
    )  # fmt: skip


@router.post("/luts/{pk}/tool/frame", response={200: None})
def tool_frame(request: HttpRequest, pk: int, given: ToolFrameIn) -> HttpResponse:
    """The picture through what the tool would make; nothing is kept."""
    codes = tools.frame(find(pk), given.choice, pictures.find(given.picture), given.width)
    return HttpResponse(encoded(codes, "png"), content_type="image/png")


@router.post("/luts/{pk}/tool", response=LutOut)
def use_tool(request: HttpRequest, pk: int, given: ToolIn) -> LutOut:
    return lut_out(tools.keep(person_of(request), pk, given.choice, given.name), request)


@router.post("/packs", response={202: JobOut})
def send_pack(request: HttpRequest, files: File[list[UploadedFile]], paths: Form[str] = "[]") -> Status[JobOut]:
    """Files or zips to be read into a table. paths: a JSON list of the paths that the files had in their folders."""
    person = person_of(request)
    check_upload(person, sum(file.size or 0 for file in files))
    try:
        names = [str(name) for name in json.loads(paths)]
    except (ValueError, TypeError):
        names = []
    names = names if len(names) == len(files) else [file.name or "LUT" for file in files]
    uploads = [{"sha256": keep_upload(file), "path": name[:400]} for file, name in zip(files, names, strict=True)]
    return Status(202, job_out(jobs.start(person, "intake", uploads=uploads)))


@router.get("/packs/{job}", response=list[Row])
def pack_rows(request: HttpRequest, job: int) -> list[Row]:
    return intake.rows_of(jobs.find(person_of(request), job))


@router.post("/packs/{job}/keep", response=list[LutOut])
def keep_rows(request: HttpRequest, job: int, given: KeepIn) -> list[LutOut]:
    return [lut_out(entry, request) for entry in intake.keep(person_of(request), job, given.rows)]


@router.get("/charts/new")
def chart_file(request: HttpRequest, choice: Query[ChartChoice]) -> HttpResponse:
    response = HttpResponse(choice.picture(), content_type="image/png" if choice.suffix == ".png" else "image/tiff")
    response["Content-Disposition"] = f'attachment; filename="{choice.file_name}"'
    return response


@router.post("/charts/read", response={202: JobOut})
def send_chart(
    request: HttpRequest, file: File[UploadedFile], chart: Form[str] = "{}", known: Form[bool] = False
) -> Status[JobOut]:
    """A recoloured chart. chart: the choices it was made by, as JSON; known: is it surely that chart?"""
    if (file.size or 0) > settings.PICTURE_UPLOAD_LIMIT:
        raise PictureError(file.name or "chart", f"larger than {settings.PICTURE_UPLOAD_LIMIT // 2**20} MB")
    choice = ChartChoice.model_validate_json(chart)
    given = {"picture": keep_upload(file), "name": (file.name or "chart")[:200], "chart": choice.model_dump(), "known": known}
    return Status(202, job_out(jobs.start(person_of(request), "chart", **given)))


@router.post("/charts/standin", response={202: JobOut})
def standin(request: HttpRequest, given: StandinIn) -> Status[JobOut]:
    """The whole trip with the stand-in editor."""
    job = jobs.start(person_of(request), "chart", chart=given.chart.model_dump(), editor=given.editor.model_dump())
    return Status(202, job_out(job))


@router.get("/charts/{job}", response=Reading)
def chart_reading(request: HttpRequest, job: int) -> Reading:
    return Reading.model_validate(roundtrip.result_of(person_of(request), job, "chart"))


@router.post("/pairs", response={202: JobOut})
def send_pair(
    request: HttpRequest,
    original: File[UploadedFile],
    recoloured: File[UploadedFile],
    encoding: Form[str] = "srgb",
    size: Form[int] = 33,
) -> Status[JobOut]:
    if max(original.size or 0, recoloured.size or 0) > settings.PICTURE_UPLOAD_LIMIT:
        raise PictureError("pair", f"larger than {settings.PICTURE_UPLOAD_LIMIT // 2**20} MB")
    names = [(file.name or "picture")[:200] for file in (original, recoloured)]
    kept = [keep_upload(file) for file in (original, recoloured)]
    job = jobs.start(person_of(request), "pair", original=kept[0], recoloured=kept[1], names=names, encoding=encoding, size=size)
    return Status(202, job_out(job))


@router.get("/pairs/{job}", response=Fitted)
def pair_fit(request: HttpRequest, job: int) -> Fitted:
    return Fitted.model_validate(roundtrip.result_of(person_of(request), job, "pair"))


@router.post("/results/{job}/keep", response=LutOut)
def keep_result(request: HttpRequest, job: int, given: KeepResultIn) -> LutOut:
    """Put the LUT of a chart or a pair onto the Shelf."""
    return lut_out(roundtrip.keep(person_of(request), job, given.which, given.name, given.rights), request)
