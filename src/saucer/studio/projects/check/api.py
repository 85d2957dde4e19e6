"""Misfits with their figures and remedies; matching one shot to another."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from saucer.studio.common.lanes import HEAVY
from saucer.studio.common.reading import tell_each
from saucer.studio.jobs.api import JobOut, job_out
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of
from saucer.studio.presets.rules import content_of
from saucer.studio.projects import rules
from saucer.studio.projects.check import misfits
from saucer.studio.projects.check.advice import advise_shot
from saucer.studio.projects.check.match import propose_match
from saucer.studio.projects.check.misfits import TolerancesIn
from saucer.studio.projects.models import LayerRole, Reach, ShotFigures

router = Router(tags=["projects"])


class ShotMisfits(Schema):
    """misfits: in words, the worst first; what: the tolerances they are beyond; figures: as they were measured"""

    shot: int
    misfits: list[str]
    what: list[str]
    figures: dict[str, float]
    problem: str


class MisfitsOut(Schema):
    """measured: how many shots were; tolerances: of this project"""

    tolerances: TolerancesIn
    measured: int
    shots: list[ShotMisfits]


class ShotRemedyOut(Schema):
    """kind: "exposure" with the steps to be added before the look, or "strength" of the look; left: what would still be wrong"""

    kind: str
    value: float
    steps: list[dict[str, Any]]
    left: list[str]


class ShotRemediesOut(Schema):
    misfits: list[str]
    remedies: list[ShotRemedyOut]


class MatchIn(Schema):
    """Either another shot of the project, or a picture."""

    shot: Annotated[int | None, Field(ge=0)] = None
    picture: Annotated[int | None, Field(ge=0)] = None


class MatchOut(Schema):
    """steps: what would be put before the look in place of the shot's trims; the confidences from 0 to 1"""

    exposure: float
    warm: float
    tint: float
    exposure_confidence: float
    white_confidence: float
    words: str
    steps: list[dict[str, Any]]


class ChainAdviceOut(Schema):
    """layer: by its number in the database, of its own or for many"""

    layer: int
    reach: Reach
    role: LayerRole
    words: str


def _told(pk: int, request: HttpRequest) -> MisfitsOut:
    project = rules.find(person_of(request), pk)
    found = ShotFigures.objects.filter(shot__scene__project=project, shot__deleted=None)
    rows = tell_each(
        found,
        lambda one: ShotMisfits(
            shot=one.pk, misfits=one.figures.get("misfits", []), what=one.figures.get("what", []), figures=one.figures.get("figures", {}),
            problem=one.figures.get("problem", ""),
        ),
    )  # fmt: skip
    return MisfitsOut(tolerances=TolerancesIn.model_validate(project.tolerances), measured=len(rows), shots=rows)


@router.get("/{pk}/misfits", response=MisfitsOut)
def list_misfits(request: HttpRequest, pk: int) -> MisfitsOut:
    """Shots beyond the tolerances, as they were last measured."""
    return _told(pk, request)


@router.post("/{pk}/misfits", response=JobOut, auth=designer("check shots"))
def check(request: HttpRequest, pk: int) -> JobOut:
    """Measure every shot through its look; once done, what changes is measured again by itself."""
    return job_out(misfits.check(person_of(request), pk))


@router.put("/{pk}/tolerances", response=MisfitsOut, auth=designer("change tolerances"))
def set_tolerances(request: HttpRequest, pk: int, given: TolerancesIn) -> MisfitsOut:
    """Beyond which a shot is told of as a misfit."""
    misfits.set_tolerances(person_of(request), pk, given)
    return _told(pk, request)


@router.get("/{pk}/shots/{shot}/remedies", response=ShotRemediesOut)
@HEAVY
def find_remedies(request: HttpRequest, pk: int, shot: int) -> ShotRemediesOut:
    """What takes the worst of it back, each tried on the shot."""
    found, remedies = misfits.remedies_for(person_of(request), pk, shot)
    return ShotRemediesOut(
        misfits=[one.words for one in found],
        remedies=[
            ShotRemedyOut(
                kind=one.kind, value=one.value, left=list(one.left),
                steps=content_of(misfits.exposure_of(one.value)) if one.kind == "exposure" else [],
            )
            for one in remedies
        ],
    )  # fmt: skip


@router.get("/{pk}/shots/{shot}/advice", response=list[ChainAdviceOut])
@HEAVY
def advise(request: HttpRequest, pk: int, shot: int) -> list[ChainAdviceOut]:
    """What to know of its layers: corrections after something that lost detail of it, looks that state another view."""
    found = advise_shot(person_of(request), pk, shot)
    return [ChainAdviceOut(layer=layer.pk, reach=layer.reach, role=LayerRole(layer.role), words=words) for layer, words in found]


@router.post("/{pk}/shots/{shot}/match", response=MatchOut)
@HEAVY
def match(request: HttpRequest, pk: int, shot: int, given: MatchIn) -> MatchOut:
    """What would bring it to another shot or to a picture; nothing is changed."""
    proposal, steps = propose_match(person_of(request), pk, shot, given.shot, given.picture)
    return MatchOut(**vars(proposal), steps=steps)
