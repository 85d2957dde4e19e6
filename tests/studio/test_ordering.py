"""The order of the story, held against plain lists: any run of moves leaves every shot once, where it was put, and is taken back whole."""

from __future__ import annotations

import random

import pytest

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Activity
from saucer.studio.projects import changes
from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import Scene, Shot
from saucer.studio.projects.story import ordering, shots
from saucer.studio.projects.story.ordering import SCENE_RENAMED, SCENES_ORDERED

Story = dict[str, list[int]]


@pytest.fixture
def story(designer, picture) -> tuple[int, Story]:
    """Three scenes of four, three and one shots, of one picture."""
    project = projects.create(designer, "Ferry").pk
    for scene, count in (("Quay", 4), ("Inside", 3), ("Deck", 1)):
        shots.add_shots(designer, project, [shots.NewShot(picture.pk, scene, code=f"{scene.lower()}{n}") for n in range(count)])
    return project, read(project)


def read(project: int) -> Story:
    found = Scene.objects.filter(project=project).order_by("position", "pk")
    return {
        scene.name: list(Shot.objects.filter(scene=scene, deleted=None).order_by("position", "pk").values_list("pk", flat=True))
        for scene in found
    }


def moved(story: Story, ids: list[int], scene: str, before: int | None) -> Story:
    """As a plain list does it; scenes that are left empty go."""
    rest = {name: [one for one in held if one not in ids] for name, held in story.items()}
    there = rest.setdefault(scene, [])
    at = there.index(before) if before in there else len(there)
    rest[scene] = [*there[:at], *ids, *there[at:]]
    return {name: held for name, held in rest.items() if held}


@pytest.mark.parametrize("seed", range(6))
def test_any_run_of_moves_is_as_on_a_list_and_comes_back_step_by_step(designer, story, seed):
    project, now = story
    rng = random.Random(seed)
    stood, done = [now], []
    for number in range(8):
        everything = [one for held in now.values() for one in held]
        ids = rng.sample(everything, rng.randint(1, 4))
        scene = rng.choice([*now, f"New {number}"])
        before = rng.choice([None, *now.get(scene, []), *everything])
        wanted = moved(now, ids, scene, before)
        told = ordering.move_shots(designer, project, ids, scene, before)
        now = read(project)
        assert now == wanted, (number, ids, scene, before)
        if told.undo is None:
            assert wanted == stood[-1], "told to be nothing only where nothing was changed"
        else:
            stood.append(now)
            done.append(told.undo)
    for undo, before_it in zip(reversed(done), reversed(stood[:-1]), strict=True):
        changes.undo(designer, project, undo)
        assert read(project) == before_it


def test_positions_are_counted_from_one_without_gaps(designer, story):
    project, now = story
    ordering.move_shots(designer, project, [now["Quay"][2], now["Inside"][0]], "Deck")
    held = Shot.objects.filter(scene__project=project, scene__name="Deck").order_by("position")
    assert [one.position for one in held] == [1, 2, 3]


def test_a_shot_called_like_one_that_is_there_stays_where_it_is_and_so_does_all_else(designer, story):
    project, now = story
    Shot.objects.filter(pk=now["Inside"][1]).update(code="QUAY1")
    with pytest.raises(NotPossible, match="Quay has a shot called QUAY1 already"):
        ordering.move_shots(designer, project, now["Inside"], "Quay")
    assert read(project) == now
    assert not Activity.objects.filter(action=ordering.MOVED).exists()


def test_what_was_moved_by_somebody_else_since_is_left_as_it_is(designer, story):
    project, now = story
    first = ordering.move_shots(designer, project, [now["Quay"][0]], "Deck")
    ordering.move_shots(designer, project, [now["Quay"][1]], "Deck")
    stands = read(project)
    back = changes.undo(designer, project, first.undo)
    assert back.count == 0
    assert back.left, "and is told"
    assert read(project) == stands


def test_scenes_that_were_left_empty_stand_in_their_place_again(designer, story):
    project, now = story
    done = ordering.move_shots(designer, project, now["Inside"], "Deck")
    assert list(read(project)) == ["Quay", "Deck"]
    changes.undo(designer, project, done.undo)
    assert read(project) == now


def test_an_order_that_is_there_already_is_no_change(designer, story):
    project, _ = story
    ids = list(Scene.objects.filter(project=project).order_by("position").values_list("pk", flat=True))
    assert ordering.order_scenes(designer, project, ids).count == 0
    assert not Activity.objects.filter(action=SCENES_ORDERED).exists()


def test_a_scene_needs_a_name(designer, story):
    project, before = story
    scene = Scene.objects.filter(project=project).first()
    with pytest.raises(NotPossible, match="A scene needs a name"):
        ordering.rename_scene(designer, project, scene.pk, " \n ")
    assert read(project) == before


def test_scenes_not_named_stay_behind_those_that_are(designer, story):
    project, now = story
    by_name = dict(Scene.objects.filter(project=project).values_list("name", "pk"))
    done = ordering.order_scenes(designer, project, [by_name["Deck"]])
    assert list(read(project)) == ["Deck", "Quay", "Inside"]
    assert ordering.order_scenes(designer, project, [by_name["Deck"]]).undo is None, "nothing is changed and nothing told"
    changes.undo(designer, project, done.undo)
    assert read(project) == now
    assert Activity.objects.filter(action=SCENES_ORDERED).count() == 1
    with pytest.raises(NotFound, match="Some of these scenes are gone"):
        ordering.order_scenes(designer, project, [by_name["Deck"], 10**9])


def test_scenes_that_came_since_stay_when_the_order_is_taken_back(designer, story, picture):
    project, now = story
    by_name = dict(Scene.objects.filter(project=project).values_list("name", "pk"))
    done = ordering.order_scenes(designer, project, [by_name["Deck"], by_name["Inside"]])
    shots.add_shots(designer, project, [shots.NewShot(picture.pk, "Late")])
    changes.undo(designer, project, done.undo)
    assert list(read(project)) == [*now, "Late"]


def test_a_name_is_one_scenes_whatever_its_case_and_its_own_may_be_written_anew(designer, story):
    project, _ = story
    quay = Scene.objects.get(project=project, name="Quay").pk
    with pytest.raises(NotPossible, match="There is a scene called inside already"):
        ordering.rename_scene(designer, project, quay, "inside")
    assert ordering.rename_scene(designer, project, quay, "Quay").undo is None
    done = ordering.rename_scene(designer, project, quay, "QUAY")
    assert Scene.objects.get(pk=quay).name == "QUAY"
    assert changes.undo(designer, project, done.undo).count == 1
    assert Scene.objects.get(pk=quay).name == "Quay"
    first = ordering.rename_scene(designer, project, quay, "Pier")
    ordering.rename_scene(designer, project, quay, "Mole")
    left = changes.undo(designer, project, first.undo)
    assert (left.count, left.left) == (0, ("Pier",))
    assert Scene.objects.get(pk=quay).name == "Mole"
    assert Activity.objects.filter(action=SCENE_RENAMED).count() == 3
    with pytest.raises(NotFound, match="no such scene"):
        ordering.rename_scene(designer, project, 10**9, "Elsewhere")
