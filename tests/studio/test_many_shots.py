"""Changes of many shots cost a fixed number of queries, however many they are for."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from saucer.core.look.model import look_from
from saucer.studio.looks import rules as looks
from saucer.studio.projects import changes, rules
from saucer.studio.projects.grade import grading, sharing
from saucer.studio.projects.models import Layer, LayerRole, Project, Reach, Shot
from saucer.studio.projects.story import details, ordering, shots
from tests.make import WARM

pytestmark = pytest.mark.django_db
MOST = 15
"""Queries of a change, without those of its transaction's savepoints."""


@pytest.fixture
def project(designer, picture) -> Project:
    made = projects_with(designer, picture, 100)
    return made


def projects_with(designer, picture, count: int) -> Project:
    made = rules.create(designer, "Ferry")
    shots.add_shots(
        designer, made.pk, [shots.NewShot(picture.pk, f"Scene {number % 4}", f"S{number:03}") for number in range(count)]
    )
    return made


@pytest.fixture
def warm(designer) -> int:
    draft = looks.create(designer, look_from({"name": "Warm", "steps": [WARM]}))
    looks.save_version(designer, draft.pk)
    return draft.pk


def ids_of(project: Project) -> list[int]:
    return list(Shot.objects.filter(scene__project=project).order_by("pk").values_list("pk", flat=True))


def counted(change: Callable[[], object]) -> int:
    with CaptureQueriesContext(connection) as seen:
        change()
    return sum("SAVEPOINT" not in one["sql"] for one in seen)


def test_looks_on_a_hundred_shots_and_back(designer, project, warm):
    every = ids_of(project)
    done = []
    asked = {
        "put a look": lambda: done.append(grading.put_look(designer, project.pk, every, warm, None, 1.0, False)),
        "strength": lambda: done.append(grading.set_strength(designer, project.pk, every, 0.5)),
        "undo": lambda: changes.undo(designer, project.pk, done[-1].undo),
        "stack": lambda: grading.set_stack(designer, project.pk, every, [grading.item(LayerRole.BEFORE, steps=[WARM])]),
        "take off": lambda: grading.take_off(designer, project.pk, every),
    }
    told = {name: counted(change) for name, change in asked.items()}
    assert max(told.values()) <= MOST, told
    assert Layer.objects.filter(shot__in=every, strength=1.0).count() == 100
    assert {done[0].count, done[1].count} == {100}


def test_the_newest_versions_on_a_hundred_shots(designer, project, warm):
    every = ids_of(project)
    grading.put_look(designer, project.pk, every, warm, None, 1.0, False)
    draft = looks.draft_of(warm)
    looks.save_draft(
        designer, warm, look_from({"name": "Warm", "steps": [WARM, {"kind": "saturation", "factor": 1.1}]}), draft.revision
    )
    looks.save_version(designer, warm)
    newest = looks.draft_of(warm).entry.latest_id
    assert counted(lambda: grading.take_newest(designer, project.pk, every)) <= MOST
    assert Layer.objects.filter(shot__in=every, version=newest).count() == 100


def test_what_is_said_of_a_hundred_shots_and_back(designer, project):
    every = ids_of(project)
    Shot.objects.filter(pk=every[0]).update(note="its own")
    found = []
    given = {"approved": True, "note": "Warmer"}
    assert counted(lambda: found.append(details.change_shots(designer, project.pk, every, given))) <= MOST
    assert Shot.objects.filter(approved=True, note="Warmer").count() == 100
    assert counted(lambda: changes.undo(designer, project.pk, found[0].undo)) <= MOST
    assert list(Shot.objects.filter(approved=False).order_by("pk").values_list("note", flat=True)) == ["its own", *[""] * 99]


def test_many_notes_come_back_each_to_its_shot(designer, project):
    every = ids_of(project)
    for number, pk in enumerate(every):
        Shot.objects.filter(pk=pk).update(note=f"note {number}")
    found = details.change_shots(designer, project.pk, every, {"note": "Warmer"})
    assert counted(lambda: changes.undo(designer, project.pk, found.undo)) <= MOST
    assert list(Shot.objects.order_by("pk").values_list("note", flat=True)) == [f"note {number}" for number in range(100)]


def test_order_of_a_hundred_shots_and_back(designer, project):
    every = ids_of(project)
    before = list(Shot.objects.order_by("pk").values_list("scene", "position"))
    found = []
    assert counted(lambda: found.append(ordering.move_shots(designer, project.pk, every[:1], "Scene 3", every[-1]))) <= MOST
    assert counted(lambda: changes.undo(designer, project.pk, found[-1].undo)) <= MOST
    assert list(Shot.objects.order_by("pk").values_list("scene", "position")) == before
    assert counted(lambda: found.append(ordering.move_shots(designer, project.pk, every[::-1], "Night"))) <= MOST
    assert list(Shot.objects.order_by("position").values_list("pk", flat=True)) == every[::-1]
    assert counted(lambda: changes.undo(designer, project.pk, found[-1].undo)) <= MOST
    assert [position for _, position in before] == list(Shot.objects.order_by("pk").values_list("position", flat=True))
    scenes = list(project.scenes.order_by("position").values_list("pk", flat=True))
    assert counted(lambda: ordering.order_scenes(designer, project.pk, scenes[::-1])) <= MOST
    assert list(project.scenes.order_by("position").values_list("pk", flat=True)) == scenes[::-1]


def test_a_hundred_shots_in_out_and_back(designer, picture, project):
    every = ids_of(project)
    new = [shots.NewShot(picture.pk, "Scene 1", f"T{number:03}") for number in range(100)]
    assert counted(lambda: shots.add_shots(designer, project.pk, new)) <= MOST
    assert counted(lambda: shots.take_out(designer, project.pk, every)) <= MOST
    assert counted(lambda: shots.bring_back(designer, project.pk, every)) <= MOST + 4, "two a scene"
    assert Shot.objects.filter(deleted=None).count() == 200


def test_a_layer_for_all_shots_and_off_for_a_hundred_and_back(designer, project, warm):
    version = looks.draft_of(warm).entry.latest_id
    spot, done = sharing.Spot(Reach.PROJECT), []
    layers = [grading.item(LayerRole.BEFORE, version=version), grading.item(LayerRole.BEFORE, steps=[WARM])]
    asked = {
        "put": lambda: done.append(sharing.set_shared(designer, project.pk, spot, layers)),
        "off": lambda: done.append(
            sharing.switch_for(designer, project.pk, Layer.objects.earliest("pk").pk, ids_of(project), False)
        ),
        "undo": lambda: changes.undo(designer, project.pk, done[-1].undo),
        "away": lambda: done.append(sharing.set_shared(designer, project.pk, spot, [])),
    }
    told = {name: counted(change) for name, change in asked.items()}
    assert max(told.values()) <= MOST, told
    assert [one.count for one in done] == [100, 100, 100]
