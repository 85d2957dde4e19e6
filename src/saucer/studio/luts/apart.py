"""LUTs of the Shelf taken apart into steps: a job, whose result is steps of a look and a LUT of what they do not explain."""

from __future__ import annotations

from typing import Annotated, Any

from django.db import transaction
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.bake.fidelity import Spread
from saucer.core.colour.encodings import Encoding
from saucer.core.files.registry import formats
from saucer.core.making.apart.apart import take_apart
from saucer.core.making.apart.whole import UNEXPLAINED, content_of
from saucer.core.steps.kinds import title_of
from saucer.studio.catalogue.models import SeenBy
from saucer.studio.encodings.rules import find as find_encoding
from saucer.studio.encodings.rules import studio_view
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, settle
from saucer.studio.luts.facts import LutFacts
from saucer.studio.luts.models import Lut
from saucer.studio.luts.rules import Ends, encodings_of, find, first_file, lut_of, put_on_shelf, table_of
from saucer.studio.people.models import Person

MADE_BY = "taken apart"


class ApartWork(BaseModel):
    """lut: the entry; expects, gives: in place of what it is known for, where a look takes it as something else"""

    model_config = ConfigDict(extra="forbid")

    lut: int
    expects: Annotated[str, Field(max_length=40)] = ""
    gives: Annotated[str, Field(max_length=40)] = ""
    simple: Annotated[float, Field(ge=0, le=1, description="0 as close as it can be .. 1 only what matters most")] = 0.3


class ApartError(BaseModel):
    """CIEDE2000 from the LUT"""

    mean: float
    p95: float
    largest: float


class StepShare(BaseModel):
    """share: by how much the mean error would rise without the step"""

    title: str
    share: float


class ApartResult(JobResult):
    """steps: as a look holds them, between `expects` and `gives`, the last one the LUT of the rest; name: of the LUT"""

    name: str
    expects: str
    gives: str
    steps: list[dict[str, Any]]
    shares: list[StepShare]
    untouched: ApartError
    explained: ApartError
    whole: ApartError


def work(job: Job, given: ApartWork, report: Progress) -> ApartResult:
    """Raises: LutError, NotFound"""
    lut = find(job.person, given.lut)
    expects, gives = _ends(lut, given)
    view = studio_view()
    made = take_apart(table_of(lut), expects, gives, given.simple, view, lambda share: report(0.95 * share))
    with transaction.atomic():
        sha256 = _keep_rest(job.person, lut, made.rest.titled(f"{lut.version.entry.name}: rest"[:120]), gives.id)
        result = ApartResult(
            page=f"/shelf/lut/{given.lut}", name=lut.version.entry.name, expects=expects.id, gives=gives.id,
            steps=content_of(made, expects, gives, view, {"sha256": sha256}),
            shares=[StepShare(title=title_of(step), share=share) for step, share in zip(made.steps, made.shares, strict=True)],
            untouched=_told(made.untouched), explained=_told(made.explained), whole=_told(made.whole),
        )  # fmt: skip
        settle(job, result)
    return result


def check(person: Person, given: ApartWork) -> None:
    """Raises: NotFound, EncodingError"""
    _ends(find(person, given.lut), given)


def _ends(lut: Lut, given: ApartWork) -> tuple[Encoding, Encoding]:
    expects, gives = encodings_of(lut)
    return (
        find_encoding(given.expects, "expects") if given.expects else expects,
        find_encoding(given.gives, "gives") if given.gives else gives,
    )


def _keep_rest(person: Person, lut: Lut, table: Any, gives: str) -> str:
    """On the Shelf, for whoever took it apart only, with the rights of what it was taken from. Returns: SHA-256 of its file"""
    entry = lut.version.entry
    made = put_on_shelf(
        person, table, formats()["cube"], table.title, MADE_BY, Ends(gives, gives, "baked"), lut.version,
        LutFacts(words=UNEXPLAINED), licence=entry.licence, category=entry.category_path, author=entry.author, source=entry.source,
        may_pass_on=entry.may_pass_on, pass_on_until=entry.pass_on_until, seen_by=SeenBy.OWNER,
    )  # fmt: skip
    return first_file(lut_of(made)).blob_id


def _told(spread: Spread) -> ApartError:
    return ApartError(mean=spread.mean, p95=spread.p95, largest=spread.largest)
