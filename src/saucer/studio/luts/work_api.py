"""Packs, charts, pairs, health and tools of LUTs."""

from __future__ import annotations

from typing import Annotated, Any

import numpy as np
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from ninja import File, Form, Query, Router, Schema, Status, UploadedFile
from pydantic import Field, TypeAdapter

from saucer.core.errors import PictureError
from saucer.core.look.extent import check_text
from saucer.core.lut.health import Graphs
from saucer.core.making.tools import TOOLS
from saucer.studio.common.downloads import download
from saucer.studio.common.images import encoded
from saucer.studio.common.lanes import HEAVY
from saucer.studio.common.refusals import NotPossible
from saucer.studio.common.store import keep_upload
from saucer.studio.common.uploads import check_size, place_of
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.luts import apart, charts, health, packs, tools
from saucer.studio.luts.apart import ApartResult, ApartWork
from saucer.studio.luts.api import LutOut, lut_out
from saucer.studio.luts.charts import ChartChoice, EditorChoice, PairReport, Reading
from saucer.studio.luts.packs import Correction, Row
from saucer.studio.luts.rules import check_upload, find, find_by_id
from saucer.studio.luts.tools import ToolChoice
from saucer.studio.luts.work import PackedFiles, ToolWork
from saucer.studio.people.access import designer, file_of, intake
from saucer.studio.people.signed_in import person_of
from saucer.studio.pictures import rules as pictures

router = Router(tags=["LUT work"])
LARGEST_TWIN = 33
"""Colours a side of a chart that is made while somebody waits: one of 65 has 35 megapixels."""
PATHS = TypeAdapter(Annotated[list[str], Field(max_length=settings.DATA_UPLOAD_MAX_NUMBER_FILES)])


class FindingOut(Schema):
    id: str
    title: str
    level: str
    number: float
    sentence: str
    advice: str
    repair: str | None


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


class ToolOut(Schema):
    """A tool on LUTs: how many it takes, which settings it heeds."""

    id: str
    title: str
    inputs: int
    fields: list[str]


class KeepIn(Schema):
    rows: Annotated[list[int], Field(min_length=1, max_length=5000)]


class StandinIn(Schema):
    chart: ChartChoice = ChartChoice()
    editor: EditorChoice = EditorChoice()


class KeepResultIn(Schema):
    which: charts.Which
    name: Annotated[str, Field(min_length=1, max_length=120)]
    licence: Annotated[str, Field(max_length=200)] = ""


def _graphs(graphs: Graphs, shown: np.ndarray) -> GraphsOut:
    def rounded(values: np.ndarray, places: int) -> list[Any]:
        """In float64: rounding multiplies, and a LUT may give what float32 just holds."""
        found: list[Any] = np.round(values.astype(np.float64), places).tolist()
        return found

    return GraphsOut(
        ramp=rounded(graphs.ramp[:: len(graphs.ramp) // 128], 5), rough=rounded(graphs.rough, 3), edge=rounded(graphs.edge, 4),
        edge_shown=rounded(shown, 3), edge_size=round(len(graphs.edge) ** (1 / 3)),
    )  # fmt: skip


@router.get("/luts/{pk}/health", response=HealthOut)
@HEAVY
def lut_health(request: HttpRequest, pk: int) -> HealthOut:
    """What is wrong with it: clipping, reversals, bands, holes."""
    found, shown = health.report(find(person_of(request), pk))
    return HealthOut(
        level=found.level, summary=found.summary, findings=[FindingOut(**vars(one)) for one in found.findings],
        graphs=_graphs(found.graphs, shown),
    )  # fmt: skip


@router.get("/tools", response=list[ToolOut])
def list_tools(request: HttpRequest) -> list[ToolOut]:
    """What can be done to a LUT: resize, invert, blend and the like, with settings."""
    return [ToolOut(id=one.id, title=one.title, inputs=one.inputs, fields=list(one.fields)) for one in TOOLS.values()]


@router.post("/luts/{pk}/tool/frame", response={200: None})
@HEAVY
def tool_frame(request: HttpRequest, pk: int, given: ToolFrameIn) -> HttpResponse:
    """The picture through what the tool would make; nothing is kept."""
    person = person_of(request)
    codes = tools.frame(person, find(person, pk), given.choice, pictures.find(given.picture, person), given.width)
    return HttpResponse(encoded(codes, "png"), content_type="image/png")


@router.post("/luts/{pk}/tool", response={202: JobOut}, auth=designer("put LUTs on the Shelf"))
def use_tool(request: HttpRequest, pk: int, given: ToolIn) -> Status[JobOut]:
    """What the tool makes as a new entry: the job names it once it is done."""
    person = person_of(request)
    tools.check_choice(person, pk, given.choice)
    return Status(202, job_out(jobs.start(person, "tool", ToolWork(lut=pk, choice=given.choice, name=given.name))))


@router.post("/lut-files/of/{lut}/zip", response={202: JobOut}, auth=designer("download LUTs"))
def pack_files(request: HttpRequest, lut: int) -> Status[JobOut]:
    """A LUT in all its formats: the job has the zip file."""
    person = person_of(request)
    return Status(202, job_out(jobs.start(person, "files", PackedFiles(lut=find_by_id(person, lut).pk))))


@router.post("/packs", response={202: JobOut}, auth=intake("bring in LUTs", file_of(settings.PACK_UPLOAD_LIMIT)))
def send_pack(request: HttpRequest, files: File[list[UploadedFile]], paths: Form[str] = "[]") -> Status[JobOut]:
    """Files or zips to be read into a table. paths: a JSON list of the paths that the files had in their folders."""
    person = person_of(request)
    check_upload(person, sum(file.size or 0 for file in files))
    names = PATHS.validate_json(paths)
    for name in names:
        check_text(name, "paths")
    names = names if len(names) == len(files) else [file.name or "LUT" for file in files]
    blobs = [keep_upload(file) for file in files]
    uploads = [packs.Upload(sha256=blob.pk, path=name[:400]) for blob, name in zip(blobs, names, strict=True)]
    return Status(202, job_out(jobs.start(person, "intake", packs.Uploads(uploads=uploads), blobs)))


@router.get("/packs/{job}", response=list[Row])
def list_rows(request: HttpRequest, job: int) -> list[Row]:
    """What was read in a pack, LUT by LUT."""
    return packs.list_rows(packs.find_pack(person_of(request), job))


@router.patch("/packs/{job}/rows/{index}", response=Row, auth=intake("bring in LUTs"))
def correct_row(request: HttpRequest, job: int, index: int, given: Correction) -> Row:
    """How one LUT of it is to be brought in, or that it is not."""
    return packs.correct(person_of(request), job, index, given)


@router.post("/packs/{job}/keep", response=list[int], auth=intake("bring in LUTs"))
def keep_rows(request: HttpRequest, job: int, given: KeepIn) -> list[int]:
    """The entries that the rows are on the Shelf now; sent twice, the same ones."""
    return [entry.pk for entry in packs.keep(person_of(request), job, given.rows)]


@router.get("/charts/new")
@HEAVY
def chart_file(request: HttpRequest, choice: Query[ChartChoice]) -> HttpResponseBase:
    """The picture of a chart to be recoloured elsewhere and read back as a LUT."""
    if choice.kind == "twin" and choice.size > LARGEST_TWIN:
        raise NotPossible(
            f"A twin chart of {choice.size} colours a side takes too long to be made here; the most is {LARGEST_TWIN}. "
            f"On the command line: ./saucer chart new --size {choice.size} -o chart{choice.suffix}"
        )
    return download(choice.picture(), choice.file_name)


@router.post("/charts/read", response={202: JobOut}, auth=intake("read charts", file_of(settings.PICTURE_UPLOAD_LIMIT)))
def send_chart(
    request: HttpRequest, file: File[UploadedFile], chart: Form[str] = "{}", known: Form[bool] = False
) -> Status[JobOut]:
    """A recoloured chart. chart: the choices it was made by, as JSON; known: is it surely that chart?"""
    person, place = person_of(request), place_of(file.name, "chart")
    check_size(file.size or 0, settings.PICTURE_UPLOAD_LIMIT, place, PictureError)
    choice, blob = ChartChoice.model_validate_json(chart), keep_upload(file)
    work = charts.ChartWork(chart=choice, picture=blob.pk, name=place, known=known)
    return Status(202, job_out(jobs.start(person, "chart", work, [blob])))


@router.post("/charts/standin", response={202: JobOut}, auth=intake("read charts"))
def standin(request: HttpRequest, given: StandinIn) -> Status[JobOut]:
    """The whole trip with the stand-in editor."""
    return Status(202, job_out(jobs.start(person_of(request), "chart", charts.ChartWork(chart=given.chart, editor=given.editor))))


@router.get("/charts/{job}", response=Reading)
def chart_reading(request: HttpRequest, job: int) -> Reading:
    """What was read off a chart that came back."""
    found = jobs.result_of(person_of(request), job, "chart")
    assert isinstance(found, Reading)
    return found


@router.post("/pairs", response={202: JobOut}, auth=intake("fit LUTs", file_of(2 * settings.PICTURE_UPLOAD_LIMIT)))
def send_pair(
    request: HttpRequest, original: File[UploadedFile], recoloured: File[UploadedFile], encoding: Form[str] = "srgb", size: Form[int] = 33,
) -> Status[JobOut]:  # fmt: skip
    """A job that finds the LUT between two pictures."""
    person = person_of(request)
    check_size(max(original.size or 0, recoloured.size or 0), settings.PICTURE_UPLOAD_LIMIT, "pair", PictureError)
    blobs = [keep_upload(file) for file in (original, recoloured)]
    names = place_of(original.name, "picture"), place_of(recoloured.name, "picture")
    work = charts.PairWork(original=blobs[0].pk, recoloured=blobs[1].pk, names=names, encoding=encoding, size=size)
    return Status(202, job_out(jobs.start(person, "pair", work, blobs)))


class TakeApartIn(Schema):
    expects: Annotated[str, Field(max_length=40, description="in place of what the LUT is known for; empty for that")] = ""
    gives: Annotated[str, Field(max_length=40)] = ""
    simple: Annotated[float, Field(ge=0, le=1, description="0 as close as it can be .. 1 only what matters most")] = 0.3


@router.post("/luts/{pk}/apart", response={202: JobOut}, auth=designer("take LUTs apart"))
def take_apart(request: HttpRequest, pk: int, given: TakeApartIn) -> Status[JobOut]:
    """A job that finds steps that do what a LUT does, and makes a LUT of what they do not explain."""
    person, wanted = person_of(request), ApartWork(lut=pk, **given.model_dump())
    apart.check(person, wanted)
    return Status(202, job_out(jobs.start(person, "apart", wanted)))


@router.get("/apart/{job}", response=ApartResult)
def taken_apart(request: HttpRequest, job: int) -> ApartResult:
    """The steps that a LUT was taken apart into, and how close they come."""
    found = jobs.result_of(person_of(request), job, "apart")
    assert isinstance(found, ApartResult)
    return found


@router.get("/pairs/{job}", response=PairReport)
def pair_fit(request: HttpRequest, job: int) -> PairReport:
    """The LUT that was found between two pictures, and how well it fits."""
    found = jobs.result_of(person_of(request), job, "pair")
    assert isinstance(found, PairReport)
    return found


@router.post("/results/{job}/keep", response=LutOut, auth=designer("put LUTs on the Shelf"))
def keep_result(request: HttpRequest, job: int, given: KeepResultIn) -> LutOut:
    """Put the LUT of a chart or a pair onto the Shelf."""
    person = person_of(request)
    return lut_out(charts.keep(person, job, given.which, given.name, given.licence).pk, person)
