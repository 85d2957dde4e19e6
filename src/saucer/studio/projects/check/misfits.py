"""Misfits of a project: each shot measured through its look, held against its tolerances; what takes them back."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from copy import copy
from typing import Any

import numpy as np
from django.db import transaction
from pydantic import BaseModel, ConfigDict, Field

from saucer.core.errors import SaucerError
from saucer.core.look.model import look_from
from saucer.core.pictures.scale import unheard
from saucer.core.reports.misfits import (
    Common,
    Figures,
    Misfit,
    Remedy,
    Tolerances,
    as_numbers,
    common_to,
    find_misfits,
    find_remedies,
    measure,
)
from saucer.core.steps.parameters import StepParameters
from saucer.studio.common.refusals import Refusal
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job, State
from saucer.studio.people.models import Person
from saucer.studio.presets.rules import content_of
from saucer.studio.projects import rules
from saucer.studio.projects.changes import FOLLOWS
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.grade.chain import chain_of, chains_of, with_content
from saucer.studio.projects.models import Layer, LayerRole, Project, Reach, Shot, ShotFigures

WIDTH = 480
JOB = "misfits"


class MisfitsWork(BaseModel):
    project: int


class TolerancesIn(BaseModel):
    """What is not given is what everybody has."""

    model_config = ConfigDict(extra="forbid")

    clipped: float = Field(Tolerances.clipped, ge=0, le=1)
    crushed: float = Field(Tolerances.crushed, ge=0, le=1)
    merged: float = Field(Tolerances.merged, ge=0, le=1)
    lightness: float = Field(Tolerances.lightness, ge=0.001, le=1)
    cast: float = Field(Tolerances.cast, ge=0.001, le=1)
    skin: float = Field(Tolerances.skin, ge=0.1, le=180)


def tolerances_of(project: Project) -> Tolerances:
    return Tolerances(**TolerancesIn.model_validate(project.tolerances).model_dump())


def set_tolerances(person: Person, pk: int, given: TolerancesIn) -> Project:
    """Raises: NotFound, NotAllowed"""
    told = given.model_dump(exclude_defaults=True)
    with transaction.atomic():
        project = rules.change(person, pk, {"tolerances": told})
        judge(project)
    return project


def check(person: Person, pk: int) -> Job:
    """Measure every shot that has changed since it was measured. Raises: NotFound, NotAllowed"""
    rules.require_work_in(person, pk, "check shots")
    return _going(pk) or jobs.start(person, JOB, MisfitsWork(project=pk))


def _going(pk: int) -> Job | None:
    """A check that will see what was changed just now."""
    return Job.objects.filter(kind=JOB, state=State.WAITING, parameters__project=pk).first()


def keep_current(person: Person, project: Project) -> None:
    """Once a project was checked, it stays so: what changes is measured again."""
    if ShotFigures.objects.filter(shot__scene__project=project).exists() and _going(project.pk) is None:
        jobs.start(person, JOB, MisfitsWork(project=project.pk))


FOLLOWS.append(keep_current)


def measure_shots(project: Project, report: Callable[[float], None] = unheard) -> int:
    """Figures of the shots that show something else than they were measured in; how many there were."""
    shots = rules.list_shots(project)
    chains = chains_of(shots)
    known = dict(ShotFigures.objects.filter(shot__in=shots).values_list("shot", "shows"))
    stale = [(shot, shows) for shot in shots if known.get(shot.pk) != (shows := seeing.shows(shot, chains[shot.pk]))]
    for done, (shot, shows) in enumerate(stale, 1):
        try:
            told: dict[str, Any] = {"figures": as_numbers(figures_of(shot, chains[shot.pk]))}
        except (SaucerError, Refusal) as error:
            told = {"problem": str(error)}
        ShotFigures.objects.update_or_create(shot=shot, defaults={"shows": shows, "figures": told})
        report(done / len(stale))
    with transaction.atomic():
        judge(project)
    return len(stale)


def figures_of(shot: Shot, layers: Sequence[Layer]) -> Figures:
    """Small; of what moves on its first frame, its poster and its last one together."""
    frames = _frames_of(shot)
    return measure(_through(shot, [], frames), _through(shot, layers, frames))


_Frames = list[tuple[int, np.ndarray]]


def _frames_of(shot: Shot) -> _Frames:
    """The frames that stand for a shot, each with its number."""
    numbers = sorted({one for one in (shot.first, shot.poster, shot.last) if one is not None})
    return [(one, seeing.source_of(shot, WIDTH, one)) for one in numbers] or [(0, seeing.source_of(shot, WIDTH))]


def _through(shot: Shot, layers: Sequence[Layer], frames: _Frames, nodes: int | None = None) -> np.ndarray:
    """All of them through the layers, one below the other."""
    plan = seeing.plan_of(shot, layers)
    return np.concatenate([seeing.values_through(plan, values, number, nodes) for number, values in frames])


def _looks_of(chain: Sequence[Layer]) -> tuple[int, ...]:
    """Entries, whatever their version: shots under one look are held against each other."""
    return tuple(
        one.version.entry_id
        for one in chain
        if (one.role == LayerRole.LOOK or one.reach != Reach.SHOT) and one.enabled and one.version is not None
    )


def judge(project: Project) -> None:
    """Figures against the tolerances and the other shots under the same look."""
    tolerances = tolerances_of(project)
    shots = [shot for shot in rules.list_shots(project) if hasattr(shot, "figures") and "figures" in shot.figures.figures]
    groups: dict[tuple[int, ...], list[Shot]] = defaultdict(list)
    chains = chains_of(shots, with_content())
    for shot in shots:
        groups[_looks_of(chains[shot.pk])].append(shot)
    for under, members in groups.items():
        common = common_to([Figures(**one.figures.figures["figures"]) for one in members]) if under else None
        for shot in members:
            told = shot.figures.figures
            found = find_misfits(Figures(**told["figures"]), common, tolerances) if chains[shot.pk] else []
            fresh = {"figures": told["figures"], "misfits": [one.words for one in found], "what": [one.what for one in found]}
            if fresh != told:
                ShotFigures.objects.filter(pk=shot.pk).update(figures=fresh)


def remedies_for(person: Person, pk: int, shot_pk: int) -> tuple[list[Misfit], list[Remedy]]:
    """What is wrong with a shot, and what takes the worst of it back, tried. Raises: NotFound, NotPossible"""
    project = rules.find(person, pk)
    shot = rules.find_shot(project, shot_pk)
    layers = chain_of(shot, with_content())
    common, tolerances = _common_for(project, shot), tolerances_of(project)
    misfits = find_misfits(figures_of(shot, layers), common, tolerances)
    if not misfits:
        return [], []
    looks = [one for one in layers if one.role == LayerRole.LOOK and one.enabled]
    frames = _frames_of(shot)
    before = _through(shot, [], frames)

    def show(stops: float, strength: float) -> Figures:
        tried = with_exposure(shot, layers, stops, strength)
        return measure(before, _through(shot, tried, frames, seeing.NODES_DRAGGED))

    strength = looks[-1].strength if looks else 0.0
    return misfits, find_remedies(show, strength, common, tolerances, misfits)


def _common_for(project: Project, shot: Shot) -> Common | None:
    shots = rules.list_shots(project)
    chains = chains_of(shots, with_content())
    under = _looks_of(chains[shot.pk])
    told = [
        Figures(**one.figures.figures["figures"]) for one in shots
        if _looks_of(chains[one.pk]) == under and hasattr(one, "figures") and "figures" in one.figures.figures
    ]  # fmt: skip
    return common_to(told) if under else None


def with_exposure(shot: Shot, layers: Sequence[Layer], stops: float, strength: float) -> list[Layer]:
    """The layers with an exposure before the look, and the topmost look at another strength; nothing is stored."""
    found = [copy(one) for one in layers]
    looks = [one for one in found if one.role == LayerRole.LOOK and one.enabled]
    if looks:
        looks[-1].strength = strength
    if stops:
        steps = content_of(exposure_of(stops))
        found.append(Layer(shot=shot, position=99, role=LayerRole.BEFORE, steps=steps, strength=1.0, enabled=True))
    return found


def exposure_of(stops: float) -> tuple[StepParameters, ...]:
    return look_from({"steps": [{"kind": "tone", "exposure": stops}]}).steps
