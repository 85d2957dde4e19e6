"""Round trips and pairs: a recoloured chart, or an original and its copy, read in the background and then kept as a LUT."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.files.formats.cube import write as write_cube
from saucer.core.files.registry import formats, read_lut
from saucer.core.lut.health import examine
from saucer.core.lut.table import Lut
from saucer.core.making.pair import fit_files
from saucer.core.making.roundtrip.chart import new_chart
from saucer.core.making.roundtrip.reading import Expected, ReadBack, read_chart
from saucer.core.making.roundtrip.standin import Editor, edit
from saucer.studio.catalogue.models import Entry
from saucer.studio.common.store import keep_bytes, local_file, read_kept
from saucer.studio.encodings.rules import find as find_encoding
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, result_of
from saucer.studio.luts.facts import LutFacts
from saucer.studio.luts.rules import Ends, put_on_shelf
from saucer.studio.people.models import Person

Which = Literal["smooth", "raw", "fit"]


class ChartChoice(BaseModel):
    """A neutral chart. encoding: what its codes are; it changes no pixel, only what the LUT will say it expects and gives."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    kind: Literal["twin", "plain"] = "twin"
    size: Annotated[int, Field(ge=4, le=121)] = 17
    depth: Annotated[int, Field(description="8 or 16 bits")] = 16
    patch: Annotated[int, Field(ge=4, le=16)] = 8
    layout: Literal["hald", "tiles", "strip"] = "hald"
    suffix: Literal[".png", ".tif"] = ".png"
    encoding: str = "srgb"

    def picture(self) -> bytes:
        """Raises: LutError"""
        return new_chart(self.kind, self.size, self.depth, self.patch, self.suffix, self.layout)

    @property
    def file_name(self) -> str:
        return f"{self.kind}-chart-{self.size}-{self.depth}bit-{self.encoding}{self.suffix}"


class EditorChoice(BaseModel):
    """What the stand-in editor is to do to the chart beside recolouring it."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    grain: Annotated[float, Field(ge=0, le=1)] = 0.0
    vignette: Annotated[float, Field(ge=0, le=1)] = 0.0
    sharpen: Annotated[float, Field(ge=0, le=4)] = 0.0
    jpeg: Annotated[int, Field(ge=0, le=100)] = 0
    resize: Annotated[float, Field(ge=0.1, le=1)] = 1.0


class EffectOut(BaseModel):
    id: str
    title: str
    codes: float
    sentence: str


class Reading(JobResult):
    """What a recoloured chart says. measured: of a twin chart, in codes of 255; smooth and raw: the two LUTs that can be kept."""

    kind: str
    size: int
    depth: str
    encoding: str
    verdict: str
    clean: bool
    found: list[EffectOut]
    measured: dict[str, float]
    health: str
    smooth: str
    raw: str


class PairReport(JobResult):
    """What a pair gave. coverage: share of nodes with evidence; map: that share by red (down) and green (across); residual: CIEDE2000."""

    size: int
    encoding: str
    coverage: float
    map: list[list[float]]
    mean: float
    p95: float
    largest: float
    moved: float
    health: str
    fit: str


def _keep_cube(job: Job, lut: Lut) -> str:
    blob = keep_bytes(write_cube(lut))
    job.blobs.add(blob)
    return blob.pk


def read_recoloured(job: Job, picture: str, name: str, chart: ChartChoice, known: bool, report: Callable[[float], None]) -> Reading:
    """picture: SHA-256 of the sent file; known: was it made by these choices? Raises: LutError, PictureError"""
    report(0.1)
    expected = Expected(chart.kind, chart.size, chart.patch, chart.layout) if known else None
    with local_file(picture, Path(name).suffix.lower()) as path:
        back = read_chart(path, name, expected)
    report(0.8)
    return _reading(job, back, chart.encoding)


def read_standin(job: Job, chart: ChartChoice, editor: EditorChoice, report: Callable[[float], None]) -> Reading:
    """The whole trip with the stand-in editor. Raises: LutError"""
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / f"chart{chart.suffix}"
        target = Path(folder) / ("recoloured.jpg" if editor.jpeg else "recoloured.png")
        source.write_bytes(chart.picture())
        report(0.2)
        edit(Editor(True, editor.grain, editor.vignette, editor.sharpen, editor.jpeg, editor.resize), source, target)
        report(0.5)
        back = read_chart(target, target.name, Expected(chart.kind, chart.size, chart.patch, chart.layout))
    report(0.9)
    return _reading(job, back, chart.encoding)


def _reading(job: Job, back: ReadBack, encoding_id: str) -> Reading:
    seen = back.measured
    names = ("grain", "vignette", "edge", "ripple", "twins")
    return Reading(
        kind=back.kind, size=back.size, depth=back.depth, encoding=encoding_id, verdict=back.verdict, clean=not back.found,
        found=[EffectOut(**vars(one)) for one in back.found],
        measured={name: round(float(getattr(seen, name)), 3) for name in names} if seen else {},
        health=examine(back.smooth).summary, smooth=_keep_cube(job, back.smooth), raw=_keep_cube(job, back.lut),
    )  # fmt: skip


def fit(
    job: Job, original: str, recoloured: str, names: tuple[str, str], encoding_id: str, size: int, report: Callable[[float], None]
) -> PairReport:
    """original, recoloured: SHA-256 of the sent files. Raises: PictureError, LutError"""
    with local_file(original, Path(names[0]).suffix.lower()) as one, local_file(recoloured, Path(names[1]).suffix.lower()) as other:
        found = fit_files(one, other, find_encoding(encoding_id), size, names, report)
    spoken = (found.evidence >= 0.5).mean(axis=2)
    return PairReport(
        size=size, encoding=encoding_id, coverage=found.coverage, map=np.round(spoken, 3).tolist(), mean=found.residual.mean,
        p95=found.residual.p95, largest=found.residual.largest, moved=found.moved,
        health=examine(found.lut).summary, fit=_keep_cube(job, found.lut),
    )  # fmt: skip


class ChartWork(BaseModel):
    """A recoloured chart to be read (SHA-256 and name of the picture), or the whole trip with the stand-in editor."""

    chart: ChartChoice = ChartChoice()
    picture: str = ""
    name: str = ""
    known: bool = False
    editor: EditorChoice | None = None


class PairWork(BaseModel):
    """original, recoloured: SHA-256 of the sent files"""

    original: str
    recoloured: str
    names: tuple[str, str]
    encoding: str
    size: int


def keep(person: Person, job_id: int, which: Which, name: str, licence: str = "") -> Entry:
    """Put the LUT of a chart or a pair onto the Shelf. Raises: NotFound, NotPossible"""
    pair = which == "fit"
    result = result_of(person, job_id, "pair" if pair else "chart")
    if isinstance(result, PairReport):
        sha256, told = result.fit, f"Fitted to a pair: residual CIEDE2000 {result.mean:.2f} mean"
    else:
        assert isinstance(result, Reading)
        sha256 = result.smooth if which == "smooth" else result.raw
        told = f"Read back from a {result.kind} chart. {result.verdict}"
    table, _ = read_lut(read_kept(sha256), name)
    said = (f"Rights: {licence}",) if licence else ()
    titled = table.titled(name, (f"Expects {result.encoding}, gives {result.encoding}", f"Note: {told}", *said))
    return put_on_shelf(
        person, titled, formats()["cube"], name, "pair" if pair else "round trip", Ends(result.encoding, result.encoding, "said"),
        facts=LutFacts(words=told), licence=licence, note=told[:2000], author=person.shown_name,
    )  # fmt: skip
