"""What a list of projects shows of each: how far it is, a strip of its shots, who works there, what left it last."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.db.models import Count, F, Max, Q, QuerySet, Window
from django.db.models.functions import Coalesce, RowNumber

from saucer.studio.people.models import Person
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.grade.chain import chains_of
from saucer.studio.projects.models import Delivery, Layer, Membership, Project, Shot
from saucer.studio.projects.rules import layers_at_hand

STRIP = 6
"""Shots whose pictures stand for a project."""


@dataclass(frozen=True)
class StripShot:
    """shows: changes whenever it would look different"""

    shot: int
    code: str
    shows: str


@dataclass(frozen=True)
class LastDelivery:
    number: int
    files: int
    made: datetime


@dataclass
class Overview:
    """misfits: shots that were one when they were last measured; newer: entries on its shots of which a newer version is offered

    people: who leads it first, then its members; mine: what the person who asks does in it, in a word; worked: when it last changed
    """

    shots: int = 0
    scenes: int = 0
    approved: int = 0
    misfits: int = 0
    newer: int = 0
    strip: list[StripShot] = field(default_factory=list)
    last: LastDelivery | None = None
    people: list[str] = field(default_factory=list)
    mine: str = ""
    worked: datetime | None = None


def overview_of(projects: Sequence[Project], person: Person) -> dict[int, Overview]:
    """By the project's number; the same few queries however many projects and shots there are. projects: with their owners"""
    found = {pk: Overview(worked=at) for pk, at in last_worked(projects).items()}
    _count_shots(found)
    _count_newer(found)
    _find_last(found)
    for one in projects:
        if one.owner is not None:
            found[one.pk].people.append(one.owner.shown_name)
            found[one.pk].mine = "leads" if one.owner_id == person.pk else ""
    _list_members(projects, person, found)
    for project, strip in _strips(list(found)).items():
        found[project].strip = strip
    return found


def _count_shots(found: dict[int, Overview]) -> None:
    misfit = Q(figures__isnull=False) & ~Q(figures__figures__misfits=[]) & Q(figures__figures__has_key="misfits")
    there = Shot.objects.filter(scene__project__in=found, deleted=None).order_by().values("scene__project")
    counts = there.annotate(
        shots=Count("pk"), scenes=Count("scene", distinct=True), approved=Count("pk", filter=Q(approved=True)),
        misfits=Count("pk", filter=misfit),
    )  # fmt: skip
    for row in counts:
        one = found[row["scene__project"]]
        one.shots, one.scenes, one.approved, one.misfits = row["shots"], row["scenes"], row["approved"], row["misfits"]


_OF = Coalesce(F("shot__scene__project"), F("scene__project"), F("project"))
"""The project that a layer belongs to, on whatever it lies."""


def _lying_in(projects: Collection[int]) -> QuerySet[Any]:
    return Layer.objects.annotate(of=_OF).filter(Q(shot=None) | Q(shot__deleted=None), of__in=projects).order_by()


def last_worked(projects: Sequence[Project]) -> dict[int, datetime]:
    """When each was made, had a layer put somewhere or was delivered last, by its number."""
    worked = {one.pk: one.created for one in projects}
    placed = _lying_in(worked).values_list("of").annotate(at=Max("placed"))
    delivered = Delivery.objects.filter(project__in=worked).order_by().values_list("project").annotate(at=Max("made"))
    for pk, at in [*placed, *delivered]:
        worked[pk] = max(worked[pk], at)
    return worked


def _count_newer(found: dict[int, Overview]) -> None:
    offered = Coalesce(F("version__entry__published__number"), F("version__entry__latest__number"))
    behind = (
        _lying_in(found).filter(version__entry__deleted=None).annotate(offered=offered).filter(version__number__lt=F("offered"))
    )
    for pk, n in behind.values_list("of").annotate(n=Count("version__entry", distinct=True)):
        found[pk].newer = n


def _find_last(found: dict[int, Overview]) -> None:
    newest = Delivery.objects.filter(project__in=found).order_by("project_id", "-number").distinct("project_id")
    last = {one.pk: one for one in newest.defer("frozen", "choice")}
    files = dict(
        Delivery.objects.filter(pk__in=last).order_by().annotate(n=Count("items")).values_list("pk", "n"),
    )
    for one in last.values():
        found[one.project_id].last = LastDelivery(one.number, files[one.pk], one.made)


def _list_members(projects: Sequence[Project], person: Person, found: dict[int, Overview]) -> None:
    owners = {one.pk: one.owner_id for one in projects}
    for one in Membership.objects.filter(project__in=found).select_related("person").order_by("project_id", "person__username"):
        if one.person_id != owners[one.project_id]:
            found[one.project_id].people.append(one.person.shown_name)
            if one.person_id == person.pk:
                found[one.project_id].mine = str(one.role)


def _strips(projects: Sequence[int]) -> dict[int, list[StripShot]]:
    """The first shots of each in story order."""
    place = Window(RowNumber(), partition_by=F("scene__project"), order_by=["scene__position", "position", "pk"])
    first = Shot.objects.filter(scene__project__in=projects, deleted=None).annotate(place=place).filter(place__lte=STRIP)
    shots = list(first.select_related("scene__project", "picture__footage").order_by("scene__project_id", "place"))
    chains = chains_of(shots, layers_at_hand())
    strips: dict[int, list[StripShot]] = defaultdict(list)
    for shot in shots:
        strips[shot.scene.project_id].append(StripShot(shot.pk, shot.code, seeing.shows(shot, chains[shot.pk])))
    return strips
