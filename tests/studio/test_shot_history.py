"""A shot's own history, and its own frame."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.studio.pictures import footage
from saucer.studio.projects import changes, rules
from saucer.studio.projects.grade import grading, scopes, seeing
from saucer.studio.projects.models import Layer, LayerRole, Shot
from saucer.studio.projects.story import details, notes, ordering, shots
from tests.clips import write

pytestmark = pytest.mark.django_db
GRAIN = {"kind": "grain", "amount": 1.0, "size": 0.005}


@pytest.fixture
def project(designer, picture):
    made = rules.create(designer, "Ferry")
    shots.add_shots(designer, made.pk, [shots.NewShot(picture.pk, "Quay", "A"), shots.NewShot(picture.pk, "Quay", "B")])
    return made


def actions(shot: Shot) -> list[str]:
    return [one.action for one in changes.history_of(shot)]


def test_it_goes_with_the_shot_and_not_with_its_name(designer, project):
    first, second = Shot.objects.filter(scene__project=project).order_by("code")
    notes.add_note(designer, project.pk, first.pk, "Too hot", None)
    details.rename_shot(designer, project.pk, first.pk, "C")
    details.rename_shot(designer, project.pk, second.pk, "A")
    found = ordering.move_shots(designer, project.pk, [first.pk], "Night")
    changes.undo(designer, project.pk, found.undo)
    assert actions(first) == ["undo change of shots", "move shots", "rename shot", "note on shot", "bring in shots"]
    assert actions(second) == ["rename shot", "bring in shots"]


def test_it_is_whole_however_much_was_done_to_others(designer, project):
    first, second = Shot.objects.filter(scene__project=project).order_by("code")
    for number in range(60):
        details.change_shots(designer, project.pk, [second.pk], {"note": f"{number}"})
    assert actions(first) == ["bring in shots"]
    assert len(actions(second)) == changes.LONGEST_HISTORY


def test_the_first_frame_shows_its_own_grain(designer, project, tmp_path):
    clip = footage.bring_in_clip(designer, footage.Source(write(tmp_path / "a.mp4", count=5), "a.mp4"))
    blob, encoding = footage.make_proxy(clip.footage)
    footage.keep_proxy(clip.pk, blob, encoding, clip.footage)
    (made,) = shots.add_shots(designer, project.pk, [shots.NewShot(clip.pk, "Quay", "M")])
    grading.set_stack(designer, project.pk, [made.pk], [grading.item(LayerRole.BEFORE, steps=[GRAIN])])
    shot, layers = rules.find_shot(project, made.pk), list(Layer.objects.filter(shot=made))
    plan = seeing.plan_of(shot, layers)
    values = seeing.source_of(shot, None, 0)
    assert shot.poster == 2
    np.testing.assert_array_equal(seeing.pixels(shot, layers, frame=0), seeing.through(plan, values, 0))
    assert np.abs(seeing.through(plan, values, 0).astype(int) - seeing.through(plan, values, 2)).max() > 4
    assert (scopes.histograms(shot, layers, "rec709", 0).result != scopes.histograms(shot, layers, "rec709", 2).result).any()
