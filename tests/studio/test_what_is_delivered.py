"""What a delivery is asked to hold: names, shots that are gone, the time it is said to take, files that are none; which steps are a shot's CDL."""

from __future__ import annotations

import io
from types import SimpleNamespace

import numpy as np
import pytest
from django.utils import timezone
from PIL import Image

from saucer.core.look.model import look_from
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import keep_bytes
from saucer.studio.people.models import Activity
from saucer.studio.projects.deliver import planning, rules
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.deliver.frozen import correction_in
from saucer.studio.projects.deliver.naming import name_from
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import Delivery, LayerRole, Reach, Shot
from tests.studio.conftest import api_for, person
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


def test_a_delivery_shows_each_shot_as_it_was_whatever_lies_on_it_by_now(api, designer, viewer, project):
    made = rules.deliver(designer, project.pk, DeliveryChoice(stills="png"))
    place = f"/projects/{project.pk}/deliveries/{made.number}/shots/0/preview.jpg"
    before = api_for(viewer).call("GET", place)
    assert (before.status_code, before["Content-Type"]) == (200, "image/jpeg")
    shot = Shot.objects.filter(scene__project=project).first()
    card = f"/projects/{project.pk}/shots/{shot.pk}/preview.jpg"
    now = api.client.get(f"/api{card}").content
    grading.set_trims(designer, project.pk, [shot.pk], look_from({"steps": [{"kind": "tone", "exposure": 2.0}]}).steps)
    assert api.client.get(f"/api{card}").content != now
    assert api_for(viewer).call("GET", place).content == before.content
    # It shows what lay on the shot: as near to its card of then as two sizes of one picture are.
    seen, then = (np.asarray(Image.open(io.BytesIO(one)).resize((40, 22)), float) for one in (before.content, now))
    assert np.abs(seen - then).mean() < 3
    assert api.call("GET", place.replace("shots/0", "shots/99")).status_code == 404
    (still, *_) = api.get(f"/projects/{project.pk}/deliveries/{made.number}")["items"]
    assert still["place"] is not None
    Delivery.objects.filter(pk=made.pk).update(frozen=None)
    assert api.call("GET", place).status_code == 422, "it was asked for before there were documents"
    assert {one["place"] for one in api.get(f"/projects/{project.pk}/deliveries/{made.number}")["items"]} == {None}


def test_what_a_delivery_holds_is_kept_by_name_for_the_team(api, designer, curator):
    asked = {"clips": "h264", "lines": 720, "burn": True, "shots": [4], "template": "{shot}"}
    one = api.expect(200, "POST", "/delivery-choices", {"name": "  For the client ", "choice": asked})
    assert (one["name"], one["choice"]["clips"], one["choice"]["shots"]) == ("For the client", "h264", [])
    # The same name, however it is written, holds something else from now on; another designer's is not theirs to change.
    again = api.expect(200, "POST", "/delivery-choices", {"name": "for the CLIENT", "choice": {"stills": "png"}})
    assert again["id"] == one["id"]
    other = api_for(person("designer", "other"))
    assert "belongs to" in other.expect(403, "POST", "/delivery-choices", {"name": "For the client", "choice": {}})["detail"]
    assert [(kept["name"], kept["may_change"]) for kept in other.get("/delivery-choices")] == [("For the client", False)]
    assert api.call("POST", "/delivery-choices", {"name": " ", "choice": {}}).status_code == 422
    assert api.call("POST", "/delivery-choices", {"name": "A", "choice": {"clips": "betamax"}}).status_code == 422
    assert api_for(curator).call("DELETE", f"/delivery-choices/{one['id']}").status_code == 204
    assert api.get("/delivery-choices") == []
    assert api.call("DELETE", f"/delivery-choices/{one['id']}").status_code == 404
    told = Activity.objects.order_by("pk").values_list("action", flat=True)
    assert [one for one in told if "choice" in one] == ["keep delivery choice"] * 2 + ["forget delivery choice"]


def test_forecasts_follow_what_deliveries_took_here_lately(designer, project, monkeypatch):
    # Grading is measured for each estimate: here it always takes as long.
    monkeypatch.setattr(planning._Pace, "of", lambda self, look: 1e-7)

    def told() -> float:
        return rules.estimate(designer, project.pk, DeliveryChoice(stills="png")).seconds

    def delivered(took: float | None) -> Delivery:
        made = rules.deliver(designer, project.pk, DeliveryChoice(stills="png"))
        made.items.update(seconds=None if took is None else took / made.items.count())
        Delivery.objects.filter(pk=made.pk).update(forecast=10)
        return made

    def near(factor: float) -> None:
        assert told() == pytest.approx(plain * factor)

    plain = told()
    delivered(1.5)
    near(1)  # too little work to conclude anything from
    delivered(48.5)
    near(2.5)
    # One that is not done, or of which nothing was measured, says nothing; nor does what lies further back than the last ten.
    delivered(None)
    near(2.5)
    for _ in range(10):
        delivered(1000)
    near(20)
