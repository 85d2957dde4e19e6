"""What else the Bench shows: picture sets, parts at full size, tries, patterns over the picture, advice."""

from __future__ import annotations

import json

import numpy as np
import pytest
from PIL import Image

from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.vision import edges_lost, see_as
from saucer.core.engine.rendering import Sampling
from saucer.core.look.model import look_from
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.rules import proxy_in
from tests.make import CHANGED, CHANGED_SPATIAL, WARM, a_picture, random_pixels, render
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
SRGB = ENCODINGS["srgb"]


def codes(values):
    return np.round(np.clip(values, 0, 1) * 255).astype(int)


def test_sets_of_pictures(api, picture, viewer):
    made = api.expect(200, "POST", "/pictures/sets", {"name": " Night ", "pictures": [picture.pk]})
    assert (made["name"], made["pictures"], made["may_change"]) == ("Night", [picture.pk], True)
    again = api.expect(200, "POST", "/pictures/sets", {"name": "Night", "pictures": [picture.pk, picture.pk]})
    assert again["id"] == made["id"]
    assert [one["may_change"] for one in api_for(viewer).get("/pictures/sets")] == [False]
    assert api_for(viewer).call("POST", "/pictures/sets", {"name": "x", "pictures": [picture.pk]}).status_code == 403
    assert (
        api_for(person("designer", "ada")).call("POST", "/pictures/sets", {"name": "Night", "pictures": [picture.pk]}).status_code
        == 403
    )
    assert "deleted meanwhile" in api.expect(404, "POST", "/pictures/sets", {"name": "x", "pictures": [999]})["detail"]
    assert api.expect(422, "POST", "/pictures/sets", {"name": " ", "pictures": [picture.pk]})["detail"] == "A set needs a name."
    api.expect(204, "DELETE", f"/pictures/{picture.pk}")
    assert api.get("/pictures/sets")[0]["pictures"] == [], "a picture that was deleted is not in any set"
    api.expect(204, "DELETE", f"/pictures/sets/{made['id']}")
    api.expect(404, "DELETE", f"/pictures/sets/{made['id']}")


@pytest.mark.parametrize("steps", [[WARM], [WARM, CHANGED_SPATIAL["vignette"]], [CHANGED["tone"], CHANGED_SPATIAL["soft-focus"]]])
def test_a_part_at_full_size_is_the_same_as_that_part_of_the_whole(api, designer, tmp_path, steps):
    large = pictures.bring_in(designer, a_picture(tmp_path / "large.png", height=700, width=1300), "large.png", "Large")
    look = {"steps": steps}
    whole = codes(render(look_from(look), random_pixels(700, 1300), sampling=Sampling(33)))
    part = api.image("/looks/region", {"look": look, "picture": large.pk, "left": 900, "top": 500, "width": 300, "height": 250})
    assert part.shape == (200, 300, 3), "no further than the picture goes"
    assert np.abs(part.astype(int) - whole[500:700, 900:1200]).max() <= 1
    outside = api.expect(
        422, "POST", "/looks/region", {"look": look, "picture": large.pk, "left": 1300, "top": 0, "width": 10, "height": 10}
    )
    assert outside["detail"] == "That part lies outside the picture."


def test_a_part_of_a_turned_picture_is_upright(api, designer, tmp_path):
    pixels = np.zeros((40, 60, 3), np.uint8)
    pixels[:, :20] = 200
    exif = Image.Exif()
    exif[0x0112] = 6  # turned a quarter, as cameras write it (Exif 2.3, 4.6.4)
    Image.fromarray(pixels).save(tmp_path / "t.jpg", quality=100, subsampling=0, exif=exif)
    turned = pictures.bring_in(designer, tmp_path / "t.jpg", "t.jpg", "Turned")
    part = api.image("/looks/region", {"look": {"steps": []}, "picture": turned.pk, "left": 0, "top": 0, "width": 40, "height": 60})
    assert part.shape == (60, 40, 3)
    assert part[:15].min() > 190
    assert part[25:].max() < 10


def test_tries_show_each_look_and_a_look_that_fails_shows_the_plain_picture(api, picture):
    looks = [{"steps": []}, {"steps": [CHANGED["tone"]]}, {"steps": [{"kind": "convert", "to": "film-log"}]}]
    tiles = api.image("/looks/tries", {"looks": looks, "picture": picture.pk}).astype(int)
    assert tiles.shape == (3 * 128, 128, 3)
    plain, toned, failing = np.split(tiles, 3)
    assert np.abs(plain - toned).mean() > 4
    assert np.abs(plain - failing).max() <= 2
    assert api.call("POST", "/looks/tries", {"looks": [], "picture": picture.pk}).status_code == 422


def overlay(api, look, picture, kind, **fields):
    response = api.call("POST", "/looks/overlay", {"look": look, "picture": picture.pk, "kind": kind} | fields)
    assert response.status_code == 200, response.content
    import io

    return np.asarray(Image.open(io.BytesIO(response.content))), json.loads(response["Saucer-Figures"])


def test_clipping_over_the_picture(api, picture):
    look = {"steps": [{"kind": "levels", "master": {"input_black": 0.3, "input_white": 0.7}}]}
    marks, figures = overlay(api, look, picture, "clipping")
    source = proxy_in(picture, SRGB)
    low, high = (source < 0.3).any(axis=-1), (source > 0.7).any(axis=-1)
    assert np.mean((marks == 2) != high) < 0.01
    assert np.mean((marks == 1) != (low & ~high)) < 0.01
    assert figures["low"] == pytest.approx(low.mean(), abs=0.01)
    assert figures["high"] == pytest.approx(high.mean(), abs=0.01)


def test_a_frame_for_a_wide_screen_has_its_colours_and_its_profile(api, picture):
    import io

    from PIL import ImageCms

    look = {"steps": [{"kind": "saturation", "factor": 1.8}]}
    given = {"look": look, "picture": picture.pk, "quality": "rest", "screen": "display-p3"}
    image = Image.open(io.BytesIO(api.call("POST", "/looks/frame", given).content))
    profile = ImageCms.ImageCmsProfile(io.BytesIO(image.info["icc_profile"]))
    assert ImageCms.getProfileDescription(profile).strip() == "Display P3"
    wanted = convert(render(look_from(look), proxy_in(picture, SRGB)), SRGB, ENCODINGS["display-p3"])
    np.testing.assert_allclose(np.asarray(image), np.clip(wanted, 0, 1) * 255, atol=0.6)
    region = {"look": look, "picture": picture.pk, "left": 0, "top": 0, "width": 8, "height": 8, "screen": "display-p3"}
    assert "icc_profile" in Image.open(io.BytesIO(api.call("POST", "/looks/region", region).content)).info
    assert "icc_profile" not in Image.open(io.BytesIO(api.call("POST", "/looks/frame", given | {"screen": "srgb"}).content)).info


def test_colours_outside_a_gamut_over_the_picture(api, picture):
    look = {"steps": [{"kind": "saturation", "factor": 1.8}]}
    values = render(look_from(look), proxy_in(picture, SRGB), sampling=Sampling(33))
    for gamut in ("srgb", "display-p3", "rec2020"):
        marks, figures = overlay(api, look, picture, "gamut", gamut=gamut)
        light = ENCODINGS[gamut].transfer.decode(convert(values, SRGB, ENCODINGS[gamut]).astype(np.float64))
        outside = (light < -1e-3).any(axis=-1)
        assert np.mean((marks == 1) != outside) < 0.002
        assert figures["outside"] == pytest.approx(outside.mean(), abs=0.002)
        assert figures["above"] == pytest.approx(np.mean((light > 1.001).any(axis=-1) & ~outside), abs=0.002)


def test_the_error_of_baking_over_the_picture(api, picture):
    look = {"steps": [CHANGED["hue-bands"], CHANGED["curves"]]}
    marks, figures = overlay(api, look, picture, "bake")
    source, through = proxy_in(picture, SRGB), look_from(look)
    ends = [render(through, source, sampling=Sampling(size)).astype(np.float64) for size in (33, None)]
    error = ciede2000(*(linear_709_to_lab(to_linear_709(end, SRGB)) for end in ends))
    assert np.array_equal(marks, np.where(error > 2, 2, np.where(error > 1, 1, 0)))
    assert figures["worst"] == pytest.approx(error.max(), rel=1e-6)
    assert figures["p95"] < figures["worst"]
    assert overlay(api, {"steps": []}, picture, "bake")[1]["worst"] < 0.05


def test_skin_over_the_picture_and_its_tolerance(api, picture):
    look = {"steps": [{"kind": "hue-bands", "bands": [{"centre": c, "hue": 12} for c in (29, 66, 110, 142, 195, 264, 300, 328)]}]}
    marks, figures = overlay(api, look, picture, "skin", tolerance=6)
    assert 0 < figures["share"] < 0.2
    assert figures["share"] == pytest.approx(np.mean(marks > 0), abs=1e-6)
    assert figures["beyond"] == pytest.approx(np.mean(marks == 2) / np.mean(marks > 0), abs=1e-6)
    assert figures["shift"] > 6
    assert overlay(api, look, picture, "skin", tolerance=30)[1]["beyond"] == 0


def test_advice_comes_with_its_remedies_and_takes_the_shelfs_word_for_luts(api, picture):
    from saucer.core.files.formats import cube
    from tests.make import a_lut

    sha = api.upload("/luts", "print.cube", cube.write(a_lut(9)), expects="film-log", gives="rec709").json()["files"][0]["sha256"]
    look = {"steps": [{"kind": "tone", "id": "t"}, {"kind": "lut", "id": "l", "sha256": sha}]}
    first, second = api.expect(200, "POST", "/looks/advice", {"look": look, "picture": picture.pk})
    assert (first["id"], first["kind"], first["remedy"]["kind"]) == ("t", "neutral", "delete")
    assert second["words"] == "Made for Film log, fed with sRGB."
    assert second["remedy"] == {
        "kind": "expects",
        "words": "Use what it declares",
        "target": "film-log",
        "into": None,
        "gives": "rec709",
    }
    assert [one["name"] for one in api.get("/shelf/entries?kind=lut")["entries"]] == ["print"]


def test_a_picture_as_other_eyes_see_it(api, picture):
    look = {"steps": [{"kind": "saturation", "factor": 1.4}]}
    shown = api.image("/looks/frame", {"look": look, "picture": picture.pk, "quality": "rest"})
    for vision, severity in (("protan", 1.0), ("tritan", 0.6)):
        seen, figures = overlay(api, look, picture, "vision", vision=vision, severity=severity)
        wanted = see_as(shown.astype(np.float32) / 255, vision, severity)
        assert np.percentile(np.abs(seen - wanted * 255), 99) <= 2, "but for what eight bits round near black"
        assert figures["lost"] == pytest.approx(edges_lost(shown / 255, wanted), abs=0.01)
    assert (
        api.call("POST", "/looks/overlay", {"look": look, "picture": picture.pk, "kind": "vision", "severity": 2}).status_code
        == 422
    )


@pytest.mark.parametrize(("asked", "size"), [(15, 16), (16, 16), (112, 112), (512, 512), (600, 512)])
def test_a_disc_is_as_large_as_was_asked_within_bounds(api, asked, size):
    found = api.image(f"/looks/fingerprint?size={asked}", {"name": "Quay", "steps": [WARM]})
    assert found.shape[:2] == (size, size)


def test_a_colour_is_read_up_to_the_last_row_and_column(api, picture):
    """The edge that a pointer reaches is the last pixel, and not one beyond it."""
    height, width = proxy_in(picture).shape[:2]
    asked = {"look": {"name": "Quay", "steps": []}, "picture": picture.pk}
    last = api.expect(200, "POST", "/looks/pixel", asked | {"x": 1, "y": 1})
    assert (last["x"], last["y"]) == (width - 1, height - 1)
    assert last["result"] == pytest.approx(proxy_in(picture)[-1, -1].tolist(), abs=1e-6)
    first = api.expect(200, "POST", "/looks/pixel", asked | {"x": 0, "y": 0})
    assert (first["x"], first["y"]) == (0, 0)
