"""Round trips and pairs: a recoloured chart, or an original and its copy, read in the background and then kept as a LUT."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.bake import Words
from saucer.core.files import formats, read_lut
from saucer.core.files.cube import write as write_cube
from saucer.core.health import examine
from saucer.core.lut.table import Lut
from saucer.core.pairfit import fit_files
from saucer.core.roundtrip.chart import new_chart
from saucer.core.roundtrip.reading import Expected, ReadBack, read_chart
from saucer.core.roundtrip.standin import Editor, edit
from saucer.studio.encodings.rules import find as encoding
from saucer.studio.jobs.models import Job, State
from saucer.studio.jobs.rules import find as find_job
from saucer.studio.luts.models import LutEntry
from saucer.studio.luts.rules import put_on_shelf
from saucer.studio.people.models import Person
from saucer.studio.refusals import NotPossible
from saucer.studio.store import keep_bytes, local_file, read_kept

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


class Reading(BaseModel):
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


class Fitted(BaseModel):
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


def _kept(lut: Lut) -> str:
    return keep_bytes(write_cube(lut))


def read_recoloured(picture: str, name: str, chart: ChartChoice, known: bool, report: Callable[[float], None]) -> Reading:
    """picture: SHA-256 of the sent file; known: was it made by these choices? Raises: LutError, PictureError"""
    report(0.1)
    expected = Expected(chart.kind, chart.size, chart.patch, chart.layout) if known else None
    with local_file(picture, Path(name).suffix.lower()) as path:
        back = read_chart(path, name, expected)
    report(0.8)
    return _reading(back, chart.encoding)


def read_standin(chart: ChartChoice, editor: EditorChoice, report: Callable[[float], None]) -> Reading:
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
    return _reading(back, chart.encoding)


def _reading(back: ReadBack, encoding_id: str) -> Reading:
    seen = back.measured
    names = ("grain", "vignette", "edge", "ripple", "twins")
    return Reading(
        kind=back.kind, size=back.size, depth=back.depth, encoding=encoding_id, verdict=back.verdict, clean=not back.found,
        found=[EffectOut(**vars(one)) for one in back.found],
        measured={name: round(float(getattr(seen, name)), 3) for name in names} if seen else {},
        health=examine(back.smooth).summary, smooth=_kept(back.smooth), raw=_kept(back.lut),
    )  # fmt: skip


def fit(
    original: str, recoloured: str, names: tuple[str, str], encoding_id: str, size: int, report: Callable[[float], None]
) -> Fitted:
    """original, recoloured: SHA-256 of the sent files. Raises: PictureError, LutError"""
    with local_file(original, Path(names[0]).suffix.lower()) as one, local_file(recoloured, Path(names[1]).suffix.lower()) as other:
        found = fit_files(one, other, encoding(encoding_id), size, names, report)
    spoken = (found.evidence >= 0.5).mean(axis=2)
    return Fitted(
        size=size, encoding=encoding_id, coverage=found.coverage, map=np.round(spoken, 3).tolist(), mean=found.residual.mean,
        p95=found.residual.p95, largest=found.residual.largest, moved=found.moved, health=examine(found.lut).summary, fit=_kept(found.lut),
    )  # fmt: skip


def result_of(person: Person, job_id: int, kind: str) -> dict[str, Any]:
    """Raises: NotFound, NotPossible"""
    job: Job = find_job(person, job_id)
    if job.kind != kind or job.state != State.DONE or not job.result:
        raise NotPossible("This job has no such result yet.")
    return dict(job.result)


def keep(person: Person, job_id: int, which: Which, name: str, rights: str = "") -> LutEntry:
    """Put the LUT of a chart or a pair onto the Shelf. Raises: NotFound, NotPossible"""
    pair = which == "fit"
    result = result_of(person, job_id, "pair" if pair else "chart")
    lut, _ = read_lut(read_kept(result[which]), name)
    told = (
        f"Read back from a {result['kind']} chart. {result['verdict']}"
        if not pair
        else f"Fitted to a pair: residual CIEDE2000 {result['mean']:.2f} mean"
    )
    words = Words(name, person.shown_name, rights, told)
    comments = (
        f"Expects {result['encoding']}, gives {result['encoding']}",
        f"Note: {words.note}",
        *((f"Rights: {rights}",) if rights else ()),
    )
    return put_on_shelf(
        person, lut.titled(name, comments), formats()["cube"], name, "pair" if pair else "round trip", None, expects=result["encoding"],
        gives=result["encoding"], known="said", rights=rights, note=told[:2000], author=person.shown_name,
        made={key: result[key] for key in (("mean", "p95", "largest", "coverage") if pair else ("kind", "verdict", "measured"))},
    )  # fmt: skip
