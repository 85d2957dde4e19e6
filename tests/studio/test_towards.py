"""A look brought towards a picture: what is proposed is the look with a group more, which does what is said of it."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture, write_picture
from saucer.studio.pictures import rules as pictures
from tests.core.test_reports_along import a_scene
from tests.core.test_towards import WARM_AND_SOFT
from tests.make import a_look, render
from tests.studio.conftest import api_for
from tests.studio.story import project

__all__ = ["project"]

pytestmark = pytest.mark.django_db
GRAIN = {"kind": "grain", "amount": 0.1, "id": "grain"}


@pytest.fixture
def scene(designer, tmp_path):
    """(plain, graded), as the studio holds them"""
    graded = np.clip(render(a_look(*WARM_AND_SOFT, input="srgb", output="srgb"), a_scene()), 0, 1)
    for name, pixels in (("plain.png", a_scene()), ("graded.png", graded)):
        write_picture(Picture(pixels.astype(np.float32), "u8"), tmp_path / name)
    return [pictures.bring_in(designer, tmp_path / name, name, name, "srgb", passing=False) for name in ("plain.png", "graded.png")]


@pytest.mark.parametrize("ends", ["srgb", "acescct"])
def test_a_group_is_put_before_what_no_lut_holds(api, scene, ends):
    """In a look that ends in light of a scene too: the steps stand between the way to a display and the way back."""
    look = {"name": "Salt", "input": ends, "output": ends, "steps": [{"kind": "saturation", "factor": 1.0, "id": "a"}, GRAIN]}
    found = api.expect(200, "POST", "/looks/towards", {"look": look, "pictures": [scene[0].pk], "reference": scene[1].pk})
    assert [one["what"] for one in found] == ["all", "tone", "colour"]
    whole = found[0]
    assert whole["gone"] > 0.7
    assert [step["kind"] for step in whole["look"]["steps"]] == ["saturation", "group", "grain"]
    assert whole["look"]["steps"][1]["name"] == "Tone and colour of graded.png"
    assert any("lifts blacks" in line for line in whole["words"])
    ask = {"look": whole["look"] | {"steps": whole["look"]["steps"][:2]}, "picture": scene[0].pk, "quality": "rest"}
    made = api.image("/looks/frame", ask).astype(float)
    wanted, began = (api.image("/looks/frame", {"look": {"steps": []}, "picture": one.pk, "quality": "rest"}).astype(float)
                     for one in (scene[1], scene[0]))  # fmt: skip
    assert np.abs(made - wanted).mean() < 0.5 * np.abs(began - wanted).mean()
    look_from(whole["look"])


def test_who_may_ask_and_for_what(api, viewer, scene):
    ask = {"look": {"steps": []}, "pictures": [scene[0].pk], "reference": scene[0].pk}
    assert api.expect(200, "POST", "/looks/towards", ask) == []
    assert api_for(viewer).expect(403, "POST", "/looks/towards", ask)
    api.expect(404, "POST", "/looks/towards", ask | {"reference": 10**6})
    api.expect(422, "POST", "/looks/towards", ask | {"pictures": []})
    wrong = {"look": {"steps": [{"kind": "convert", "to": "rec2020"}]}}
    assert "the steps end in" in api.expect(422, "POST", "/looks/towards", ask | wrong)["detail"]


def test_the_pictures_of_a_scenes_shots_are_asked_for_like_others(api, project, scene):
    """Who sees them is asked as of any picture (`seeing.PICTURES`)."""
    shots = [one["picture"] for one in project["shots"]]
    ask = {"look": {"steps": []}, "pictures": shots, "reference": scene[1].pk, "read_as": {shots[0]: "rec709"}}
    found = api.expect(200, "POST", "/looks/towards", ask)
    assert found
    assert all(one["gone"] > 0.1 for one in found)
