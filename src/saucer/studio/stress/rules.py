"""Where versions of looks break: made by a job, kept by version, told to whoever sees the look."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Annotated

from django.db import transaction
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.engine.plan import prepare
from saucer.core.errors import SaucerError
from saucer.core.look.model import Look
from saucer.core.look.tree import path_of
from saucer.core.reports.stress.limits import LIMITS, check_limit
from saucer.core.reports.stress.pictures import PICTURE_WORDS, Place
from saucer.core.reports.stress.remedies import RemedyKind
from saucer.core.reports.stress.stress import SMALL, Break, Stress, Subject, find_breaks
from saucer.studio.catalogue.models import Entry, Kind, Version, there_for
from saucer.studio.catalogue.rules import find
from saucer.studio.common.refusals import NotPossible
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress
from saucer.studio.looks.rules import look_of
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Activity, Person, Role
from saucer.studio.people.rules import LISTENERS, may, record, require
from saucer.studio.people.studio import set_up, the_studio
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures import sets
from saucer.studio.pictures.models import Picture
from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import Shot
from saucer.studio.stress.models import StressReport

SKIN = "skin"
KIND, PROPOSED = "stress", "proposed"
"""What somebody asked for and looks at, and what is made of looks that are proposed."""
MOST = 200
"""Pictures that a look is tested over at most; of a longer project an even choice is taken."""
MOST_VERSIONS = 500


class StressWork(BaseModel):
    """versions: by their number in the database; pictures: none for those agreed for reviews, or the shots of `project`"""

    model_config = ConfigDict(extra="forbid")

    versions: Annotated[list[int], Field(min_length=1, max_length=MOST_VERSIONS)]
    pictures: Annotated[list[int], Field(max_length=MOST)] = []
    project: int | None = None


class RemedyContent(BaseModel):
    kind: RemedyKind
    path: str
    value: float
    words: str


class BreakContent(BaseModel):
    """picture: the worst one, none for a ramp or a LUT, whose name is in `on`; otherwise as `core.reports.stress` has it"""

    what: str
    figure: float
    times: float
    words: str
    on: str
    picture: int | None
    place: Place | None
    failing: int
    path: str
    id: str
    title: str
    remedy: RemedyContent | None


class StressContent(BaseModel):
    """figures: the worst of every measure; limits: what each may be; sizes: of LUTs, to the 99th percentile of CIEDE2000"""

    breaks: list[BreakContent]
    figures: dict[str, float]
    limits: dict[str, float]
    sizes: dict[int, float]


def studio_limits() -> dict[str, float]:
    """What each measure may be at most here, by which every look is tested from now on."""
    studio = the_studio()
    return {**LIMITS, **studio.stress_limits, SKIN: float(studio.skin)}


def set_limits(person: Person, limits: Mapping[str, float]) -> None:
    """In the place of all that were set; what is not among them is the usual one.

    Raises: NotAllowed; SaucerError for one that there is not or that is no use; NotPossible for skin, which is set for projects too
    """
    if SKIN in limits:
        raise NotPossible("How far skin may turn is a setting of its own, for projects too.")
    for what, most in limits.items():
        check_limit(what, most)
    set_up(person, stress_limits={what: most for what, most in limits.items() if most != LIMITS[what]})


def ask(person: Person, pk: int, given: Sequence[int], project: int | None) -> Job:
    """The latest version of a look, over these pictures, a project's shots, or those agreed for reviews.

    Raises: NotAllowed; NotFound; NotPossible for a look without a version, or no picture to test it on
    """
    require(person, Role.DESIGNER, "test a look")
    entry = find(person, Kind.LOOK, pk)
    if entry.latest_id is None:
        raise NotPossible("Versions are tested. Keep one first.")
    work = StressWork(versions=[entry.latest_id], pictures=list(given), project=project)
    if not _pictures(person, work):
        raise NotPossible("There is no picture here to test it on.")
    return jobs.start(person, KIND, work)


def find_report(person: Person, pk: int) -> StressReport | None:
    """Of the latest version that was tested. Raises: NotFound"""
    entry = find(person, Kind.LOOK, pk)
    tested = StressReport.objects.filter(version__entry=entry).select_related("version__entry", "made_by")
    return tested.defer("version__content").order_by("-version__number").first()


def is_latest(report: StressReport) -> bool:
    """Has its look no version after the one that was tested?"""
    return report.version_id == report.version.entry.latest_id


def seen_pictures(person: Person, content: StressContent) -> dict[int, Picture]:
    """Those of a report that the person may know of: of others no name is told."""
    return Picture.objects.visible_to(person).in_bulk({one.picture for one in content.breaks if one.picture is not None})


def work(job: Job, given: StressWork, report: Progress) -> JobResult:
    """Version by version, each kept as it is done. One that cannot be tested is told and does not stop the others."""
    versions = list(
        Version.objects.filter(there_for(job.person, "entry__"), pk__in=given.versions, entry__kind=Kind.LOOK).select_related(
            "entry"
        )
    )
    chosen, left_out = _pictures(job.person, given), []
    limits = studio_limits()
    for index, version in enumerate(versions):
        begun = index / len(versions)

        def told(share: float, begun: float = begun) -> None:
            report(begun + share / len(versions))

        try:
            look = look_of(version)
            found = find_breaks(look, _subjects(chosen, look), at_hand, limits, told, len(chosen))
            _keep(job.person, version, found, limits)
        except SaucerError as error:
            if len(versions) == 1:
                raise
            left_out.append(f"{version.entry.name}: {error}")
    page = f"/shelf/look/{versions[0].entry_id}?page=stress" if len(versions) == 1 else ""
    return JobResult(page=page, entry=versions[0].entry_id if len(versions) == 1 else None, left_out=left_out)


def _pictures(person: Person, given: StressWork) -> list[Picture]:
    if given.project is not None:
        project = projects.find(person, given.project)
        shots = Shot.objects.filter(scene__project=project, deleted=None).order_by("scene__position", "position", "pk")
        found = list(dict.fromkeys(shots.values_list("picture", flat=True)))
        return pictures.find_many(found[:: max(1, -(-len(found) // MOST))], person)
    return pictures.find_many(given.pictures, person) if given.pictures else sets.agreed_for_reviews(person)


def _subjects(chosen: Sequence[Picture], look: Look) -> Iterator[Subject]:
    plan = prepare(look, at_hand)
    for one in chosen:
        yield Subject(str(one.pk), pictures.proxy_in(one, plan.source, SMALL[0], plan.view))


def _keep(person: Person, version: Version, found: Stress, limits: dict[str, float]) -> None:
    """The report of the version, and on the Shelf whether it holds, where the version is still the latest."""
    content = StressContent(
        breaks=[_content_of(one) for one in found.breaks], figures=found.figures, limits=limits, sizes=found.sizes
    )
    with transaction.atomic():
        entry = Entry.objects.select_for_update().get(pk=version.entry_id)
        fields = {
            "holds": not found.breaks, "content": content.model_dump(mode="json"), "pictures": found.pictures, "made_by": person,
            "made": timezone.now(),
        }  # fmt: skip
        StressReport.objects.update_or_create(version=version, defaults=fields)
        if entry.latest_id == version.pk:
            entry.holds = "breaks" if found.breaks else "holds"
            entry.save(update_fields=["holds"])
        record(person, "test", version, holds=not found.breaks, pictures=found.pictures)


def _content_of(one: Break) -> BreakContent:
    of_picture = one.what in PICTURE_WORDS
    remedy = one.remedy and RemedyContent(
        kind=one.remedy.kind, path=path_of(one.remedy.place), value=one.remedy.value, words=one.remedy.words
    )
    return BreakContent(
        what=one.what, figure=_finite(one.figure), times=_finite(one.times), words=one.words, on="" if of_picture else one.on,
        picture=int(one.on) if of_picture else None, place=one.place, failing=one.failing, path=one.path, id=one.id, title=one.title,
        remedy=remedy,
    )  # fmt: skip


def _finite(value: float) -> float:
    """JSON has no infinity; what is no number beyond a ramp's end counts as very far off."""
    return min(value, 1e6)


def note(lines: Sequence[Activity]) -> None:
    """What is proposed is tested, so that whoever reviews it knows: one job, however many, once they are kept."""
    by: dict[Person, list[int]] = {}
    for line in lines:
        if line.action == "propose" and line.about_kind == "version" and line.person is not None and line.about_id is not None:
            by.setdefault(line.person, []).append(line.about_id)
    if by:
        transaction.on_commit(lambda: _test_looks(by))


def _test_looks(by: Mapping[Person, Sequence[int]]) -> None:
    for person, ids in by.items():
        looks = list(Version.objects.filter(pk__in=ids, entry__kind=Kind.LOOK).values_list("pk", flat=True)[:MOST_VERSIONS])
        if looks and may(person, Role.DESIGNER):
            jobs.start(person, PROPOSED, StressWork(versions=looks))


LISTENERS.append(note)
