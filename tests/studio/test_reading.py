"""What is read off a look on pictures through the API, pictures read as another encoding, and pictures graded as they are asked for."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path

import numpy as np
import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.look.model import look_from
from saucer.core.pictures.io import read_picture
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from tests.heic import write_heic
from tests.make import CHANGED, WARM, a_picture, evaluate, random_pixels
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

LOOK = {"name": "Salt", "steps": [WARM | {"id": "warm"}, CHANGED["tone"] | {"id": "tone"}]}
LIT = {"steps": [{"kind": "tone", "exposure": 2, "id": "lit"}]}


@pytest.mark.django_db
def test_why_a_colour_is_so(viewer, picture):
    api = api_for(viewer)
    place = {"left": 0.5, "top": 0.5, "right": 0.5, "bottom": 0.5}
    why = api.expect(200, "POST", "/looks/why", {"look": LOOK, "picture": picture.pk} | place)
    assert [one["id"] for one in why["reached"]] == ["", "warm", "tone"]
    assert (why["width"], why["height"]) == (1, 1)
    pixel = random_pixels()[12, 20]
    np.testing.assert_allclose(why["reached"][0]["codes"], pixel, atol=1e-4)
    np.testing.assert_allclose(why["reached"][2]["codes"], evaluate(look_from(LOOK), pixel[None])[0], atol=5e-4)
    moved = [one["moved"] for one in why["reached"]]
    assert why["most"] == moved.index(max(moved))
    whole = api.expect(
        200, "POST", "/looks/why", {"look": LOOK, "picture": picture.pk, "left": 0, "top": 0, "right": 1, "bottom": 1}
    )
    assert (whole["width"], whole["height"]) == (40, 24)
    assert min(whole["reached"][0]["spread"]) > 0.2
    api.expect(422, "POST", "/looks/why", {"look": LOOK, "picture": picture.pk} | place | {"left": 1.2})


@pytest.mark.django_db
def test_what_each_step_does_and_on_which_pictures_a_look_holds(viewer, designer, picture, tmp_path):
    api = api_for(viewer)
    words = api.expect(200, "POST", "/looks/told", {"look": LOOK, "picture": picture.pk})
    assert [one["id"] for one in words] == ["warm", "tone"]
    assert "shadows" in words[0]["words"] or "blacks" in words[0]["words"]
    dark = pictures.bring_in(designer, a_picture(tmp_path / "x.png", seed=8), "x.png", "Dark")
    api.expect(422, "POST", "/looks/holding", {"look": LIT, "pictures": [picture.pk] * 9})
    held = api.expect(200, "POST", "/looks/holding", {"look": LIT, "pictures": [dark.pk, picture.pk]})
    assert [one["picture"] for one in held] == [dark.pk, picture.pk]
    assert {one["id"] for one in held[1]["failings"]} == {"lit"}
    assert "% clipped" in held[1]["failings"][0]["words"]
    plain = api.expect(200, "POST", "/looks/holding", {"look": {"steps": []}, "pictures": [picture.pk]})
    assert plain == [{"picture": picture.pk, "failings": []}]


@pytest.mark.django_db
def test_codes_read_as_another_encoding_for_this_look_only(api, picture):
    look = {"input": "film-log", "output": "film-log", "steps": []}
    body = {"look": look, "picture": picture.pk, "left": 0.2, "top": 0.2, "right": 0.2, "bottom": 0.2}
    as_said, as_log = (
        api.expect(200, "POST", "/looks/why", body | more)["reached"][0]["codes"] for more in ({}, {"read_as": "film-log"})
    )
    pixel = random_pixels()[4, 8]
    np.testing.assert_allclose(as_log, pixel, atol=1e-4)
    assert np.abs(np.array(as_said) - pixel).max() > 0.05
    frames = [
        api.image("/looks/frame", {"look": look, "picture": picture.pk, "quality": "rest"} | more)
        for more in ({}, {"read_as": "film-log"})
    ]
    assert np.abs(frames[0].astype(int) - frames[1]).mean() > 5
    discs = [
        api.image("/looks/discs", {"look": look, "pictures": [picture.pk]} | more)
        for more in ({}, {"read_as": {picture.pk: "film-log"}})
    ]
    assert np.abs(discs[0].astype(int) - discs[1]).mean() > 5
    assert Picture.objects.get(pk=picture.pk).encoding == "srgb", "the picture is what it was"
    refused = api.expect(422, "POST", "/looks/frame", {"look": look, "picture": picture.pk, "read_as": "film-lug"})
    assert "film-lug" in refused["detail"]


def taken(api, job: int) -> bytes:
    return b"".join(api.client.get(f"/api/jobs/{job}/file").streaming_content)


@pytest.mark.django_db(transaction=True)
def test_a_picture_through_a_look_that_nobody_saved(api, picture, tmp_path: Path):
    job = api.expect(202, "POST", "/looks/graded", {"look": LOOK, "pictures": [picture.pk], "format": "tiff", "depth": "f32"})
    run_worker()
    job = api.get(f"/jobs/{job['id']}")
    assert (job["state"], job["file_name"]) == ("done", "quay-salt.tif")
    (tmp_path / "graded.tif").write_bytes(taken(api, job["id"]))
    graded = read_picture(tmp_path / "graded.tif")
    x = read_picture(tmp_path / "quay.png").pixels
    np.testing.assert_array_equal(graded.pixels, Grade.of_look(look_from(LOOK))(x, ENCODINGS["srgb"], ENCODINGS["srgb"]))


@pytest.mark.django_db(transaction=True)
def test_all_pictures_of_a_set_in_one_zip_each_under_a_name_of_its_own(api, designer, picture, tmp_path: Path):
    other = pictures.bring_in(designer, a_picture(tmp_path / "b.png", seed=9), "QUAY.png", "Quay again")
    job = api.expect(202, "POST", "/looks/graded", {"look": LOOK, "pictures": [picture.pk, other.pk], "format": "jpeg"})
    run_worker()
    job = api.get(f"/jobs/{job['id']}")
    assert (job["state"], job["file_name"]) == ("done", "salt-2 pictures.zip")
    with zipfile.ZipFile(io.BytesIO(taken(api, job["id"]))) as archive:
        assert archive.namelist() == ["quay-salt.jpg", "QUAY-salt-2.jpg"]
        assert archive.read("quay-salt.jpg").startswith(b"\xff\xd8")
        assert archive.read("quay-salt.jpg") != archive.read("QUAY-salt-2.jpg")


@pytest.mark.django_db
def test_what_cannot_be_graded_is_told_before_it_waits(api, viewer, picture):
    open_end = {"steps": [{"kind": "convert", "to": "film-log"}]}
    assert "declares" in api.expect(422, "POST", "/looks/graded", {"look": open_end, "pictures": [picture.pk]})["detail"]
    api.expect(404, "POST", "/looks/graded", {"look": LOOK, "pictures": [9999]})
    assert (
        "nowhere"
        in api.expect(422, "POST", "/looks/graded", {"look": LOOK, "pictures": [picture.pk], "encoding": "nowhere"})["detail"]
    )
    api_for(viewer).expect(403, "POST", "/looks/graded", {"look": LOOK, "pictures": [picture.pk]})
    assert api.get("/jobs") == []


@pytest.mark.django_db(transaction=True)
def test_what_is_only_read_is_taken_as_what_holds_as_much(api, designer, tmp_path: Path):
    """As it came, a HEIC of ten bits: a TIFF, through a draft and through an entry of the Shelf."""
    codes = (random_pixels(32, 48) * 65535).astype(np.uint16)
    heic = pictures.bring_in(designer, write_heic(tmp_path / "phone.heic", codes), "phone.heic", "Phone")
    look = api.expect(200, "POST", "/looks", LOOK)
    asked = [
        api.expect(202, "POST", "/looks/graded", {"look": LOOK, "pictures": [heic.pk]}),
        api.expect(202, "POST", "/shelf/grade", {"entry": look["id"], "picture": heic.pk}),
    ]
    run_worker()
    for job in asked:
        done = api.get(f"/jobs/{job['id']}")
        assert (done["state"], done["file_name"]) == ("done", "phone-salt.tif"), done["problem"]
        (tmp_path / "graded.tif").write_bytes(taken(api, job["id"]))
        assert read_picture(tmp_path / "graded.tif").depth == "u16"
