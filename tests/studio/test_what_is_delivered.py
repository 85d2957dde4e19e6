"""What a delivery is asked to hold: names, shots that are gone, the time it is said to take, files that are none; which steps are a shot's CDL."""

from __future__ import annotations

from types import SimpleNamespace

import pytest
from django.utils import timezone

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import keep_bytes
from saucer.studio.projects.deliver import planning, rules
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.deliver.frozen import correction_in
from saucer.studio.projects.deliver.naming import name_from
from saucer.studio.projects.models import LayerRole, Reach, Shot
from tests.studio.delivery import project

pytestmark = pytest.mark.django_db
__all__ = ["project"]
FIELDS = {"scene": "Quay", "shot": "1 A", "look": "", "code": "TSF"}


@pytest.mark.parametrize("template", ["{nope}", "{scene", "scene}", "{scene}_{}"])
def test_a_template_with_a_field_that_is_none_is_refused(template):
    with pytest.raises(NotPossible):
        name_from(template, FIELDS)


@pytest.mark.parametrize("template", ["{look}", "   ", "...", "/"])
def test_a_name_of_nothing_is_refused(template):
    with pytest.raises(NotPossible):
        name_from(template, FIELDS)


def test_shots_that_were_taken_out_meanwhile_are_not_left_out_silently(project):
    every = list(Shot.objects.order_by("pk"))
    Shot.objects.filter(pk=every[0].pk).update(deleted=timezone.now())
    choice = DeliveryChoice(stills="png", shots=[one.pk for one in every])
    with pytest.raises(NotPossible, match="taken out meanwhile"):
        planning.shots_of(project, choice)
    left = planning.shots_of(project, DeliveryChoice(stills="png", shots=[one.pk for one in every[1:]]))
    assert {one.pk for one in left} == {one.pk for one in every[1:]}


def test_a_look_that_takes_longer_is_said_to_take_longer(project, monkeypatch):
    def told(pace: float) -> float:
        monkeypatch.setattr(planning._Pace, "of", lambda self, look: pace)
        return planning.plan(project, DeliveryChoice(stills="png"), 1, "ilse").seconds

    quick, slow = told(0.0), told(1e-6)
    pixels = sum(one.picture.width * one.picture.height for one in Shot.objects.select_related("picture"))
    assert slow - quick == pytest.approx(pixels * 1e-6)


def test_a_file_that_is_none_of_the_delivery_or_not_made_yet_is_not_there(project, designer):
    made = rules.deliver(designer, project.pk, DeliveryChoice(stills="png"))
    item = made.items.earliest("pk")
    for number in (item.pk, item.pk + 1000):
        with pytest.raises(NotFound, match="not made yet"):
            rules.find_file(made, number)
    item.blob = keep_bytes(b"a still")
    item.save(update_fields=["blob"])
    assert rules.find_file(made, item.pk) == item


def layer(steps: bool, reach: Reach = Reach.SHOT, role: str = LayerRole.BEFORE, enabled: bool = True, strength: float = 1.0):
    return SimpleNamespace(steps=[{"kind": "tone"}] if steps else None, reach=reach, role=role, enabled=enabled, strength=strength)


PINNED = layer(False)


@pytest.mark.parametrize(
    ("layers", "wanted"),
    [
        ([], None),
        ([PINNED], None),
        ([layer(True)], (0, 1)),
        ([layer(True, Reach.ROLL), layer(True), layer(True, Reach.SCENE)], (0, 3)),
        ([layer(True, Reach.PROJECT), PINNED, layer(True)], (2, 3)),
        ([layer(True, Reach.PROJECT), PINNED, layer(True, Reach.SCENE)], (0, 1)),
        ([layer(True, enabled=False), layer(True, Reach.SCENE)], (1, 2)),
        ([layer(True, strength=0.0), layer(True, Reach.SCENE)], (1, 2)),
        ([layer(True, Reach.ROLL), layer(False, enabled=False), layer(True)], (0, 3)),
        ([layer(True, role=LayerRole.AFTER)], None),
        ([PINNED, layer(True, Reach.PROJECT, LayerRole.AFTER)], None),
    ],
)
def test_the_cdl_of_a_shot_is_of_the_steps_that_stand_with_its_own_before_its_look(layers, wanted):
    assert correction_in(layers) == wanted
