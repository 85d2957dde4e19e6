from __future__ import annotations

import io

import numpy as np
import pytest
from django.db import IntegrityError, transaction
from PIL import Image

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.look.model import look_from
from saucer.core.look.tree import walk
from saucer.core.pictures.io import read_picture
from saucer.core.pictures.scopes import histogram
from saucer.demo.seed import LOOKS
from saucer.studio.catalogue.models import Version
from saucer.studio.common.refusals import NotFound
from saucer.studio.common.store import local_file
from saucer.studio.looks.rules import look_shown
from saucer.studio.people.models import Activity
from tests.make import BENT, WARM, a_look, evaluate, random_pixels
from tests.studio.conftest import api_for, person

pytestmark = pytest.mark.django_db
LOOK = {"name": "Salt", "steps": [WARM]}


def codes(values: np.ndarray) -> np.ndarray:
    return np.round(np.clip(values, 0, 1) * 255)


def test_draft_version_and_branching_of_time(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    assert (made["name"], made["revision"], made["versions"]) == ("Salt", 1, [])
    version = api.save_version(made["id"], "first")
    assert (version["number"], version["note"]) == (1, "first")
    assert "Nothing has changed since version 1" in api.save_version(made["id"], status=422)["detail"]
    changed = made["draft"] | {"strength": 0.5}
    saved = api.expect(200, "PUT", f"/looks/{made['id']}/draft", {"look": changed, "revision": 1})
    assert (saved["revision"], saved["changed_since_version"]) == (2, True)
    assert api.get(f"/looks/{made['id']}/versions/1")["strength"] == 1
    assert api.save_version(made["id"])["number"] == 2
    assert Activity.objects.filter(action="save version").count() == 2


def test_a_version_never_changes(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    api.save_version(made["id"])
    version = Version.objects.get()
    version.note = "other"
    with pytest.raises(RuntimeError, match="only the state may change"):
        version.save()
    version.state = "published"
    version.save(update_fields=["state"])
    with pytest.raises(IntegrityError, match="only the state may change"), transaction.atomic():
        Version.objects.update(note="behind our back")
    assert (Version.objects.get().state, Version.objects.get().note) == ("published", "")


def test_two_people_on_one_look_get_a_conflict_and_lose_nothing(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    other = api_for(person("curator", "otis"))
    path = f"/looks/{made['id']}/draft"
    other.expect(200, "PUT", path, {"look": made["draft"] | {"strength": 0.2}, "revision": 1})
    told = api.expect(409, "PUT", path, {"look": made["draft"] | {"strength": 0.9}, "revision": 1})
    assert told["detail"] == "Otis has changed this look since you opened it."
    assert (told["revision"], told["by"]) == (2, "Otis")
    assert api.get(f"/looks/{made['id']}")["draft"]["strength"] == 0.2
    assert api.expect(200, "PUT", path, {"look": made["draft"] | {"strength": 0.9}, "revision": 2})["revision"] == 3
    # The same save once more, as after a lost answer, is no conflict.
    assert api.expect(200, "PUT", path, {"look": made["draft"] | {"strength": 0.9}, "revision": 2})["revision"] == 3


def test_another_designer_writes_on_nobodys_draft(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    other, path = api_for(person("designer", "otis")), f"/looks/{made['id']}"
    assert "it belongs to" in other.expect(403, "PUT", f"{path}/draft", {"look": made["draft"], "revision": 1})["detail"]
    other.expect(403, "POST", f"{path}/versions", {"revision": 1})
    assert api.get(path)["revision"] == 1


@pytest.mark.parametrize(
    ("look", "words"),
    [
        (LOOK | {"stpes": []}, "stpes: unknown field; remove it or check its spelling"),
        ({"steps": [{"kind": "curves", "red": [[0, 0], [0.5, 2]]}]}, "steps[0].red[1][1]: must be at most 1, got 2"),
        ({"steps": [{"kind": "zap"}]}, 'steps[0]: unknown kind of step "zap"'),
        (
            {"steps": [{"kind": "curves", "red": [[0.5, 0], [0.4, 1]]}]},
            "steps[0].red[1]: in must be larger than the point before (0.5)",
        ),
    ],
)
def test_a_wrong_look_is_refused_in_words_and_nothing_is_saved(api, look, words):
    assert words in api.expect(422, "POST", "/looks", look)["detail"]
    made = api.expect(200, "POST", "/looks", LOOK)
    assert words in api.expect(422, "PUT", f"/looks/{made['id']}/draft", {"look": look, "revision": 1})["detail"]
    assert api.get(f"/looks/{made['id']}")["revision"] == 1


def test_the_frame_is_what_the_core_computes(api, picture):
    body = {"look": LOOK, "picture": picture.pk}
    expected = codes(evaluate(a_look(WARM), random_pixels_as_stored()))
    rest = api.image("/looks/frame", body | {"quality": "rest"})
    assert np.abs(rest - expected).max() <= 2, "a 33 lattice against the exact look"
    drag = api.image("/looks/frame", body | {"quality": "drag"})
    assert drag.shape == rest.shape
    plain = api.image("/looks/frame", body | {"steps": 0})
    assert np.abs(plain - codes(random_pixels_as_stored())).max() <= 1


def random_pixels_as_stored() -> np.ndarray:
    return (np.round(random_pixels() * 65535) / 65535).astype(np.float32)


def test_pictures_in_another_encoding_are_converted_to_that_of_the_look(api, picture):
    api.expect(200, "PATCH", f"/pictures/{picture.pk}", {"encoding": "film-log"})
    shown = api.image("/looks/frame", {"look": {"input": "film-log", "output": "film-log", "steps": []}, "picture": picture.pk})
    log, srgb = ENCODINGS["film-log"], ENCODINGS["srgb"]
    expected = codes(srgb.transfer.encode(log.transfer.decode(random_pixels_as_stored())))
    assert np.abs(shown - expected).max() <= 1


def test_scopes_and_pixel_are_of_the_floats(api, picture):
    look = {"steps": [{"kind": "curves", "master": BENT}, WARM | {"id": "warm"}]}
    scopes = api.expect(200, "POST", "/looks/scopes", {"look": look, "picture": picture.pk, "before": "warm"})
    source = random_pixels_as_stored()
    assert np.array_equal(scopes["source"], histogram(source, ENCODINGS["srgb"]))
    reaching = histogram(evaluate(a_look({"kind": "curves", "master": BENT}), source), ENCODINGS["srgb"])
    assert np.abs(np.cumsum(scopes["step"], 1) - np.cumsum(reaching, 1)).max() < 40
    pixel = api.expect(200, "POST", "/looks/pixel", {"look": look, "picture": picture.pk, "x": 0.51, "y": 0.26, "before": "warm"})
    assert (pixel["x"], pixel["y"]) == (20, 6)
    assert pixel["source"] == pytest.approx(source[6, 20].tolist(), abs=1e-6)
    assert pixel["result"] == pytest.approx(evaluate(a_look(*look["steps"]), source)[6, 20].tolist(), abs=1e-6)
    assert pixel["difference"] > 1
    reached = evaluate(a_look({"kind": "curves", "master": BENT}), source)[6, 20]
    assert pixel["step"] == pytest.approx(reached.tolist(), abs=1e-6)
    assert pixel["luma"] == pytest.approx(float(reached @ np.array([0.2126, 0.7152, 0.0722])), abs=1e-4), "IEC 61966-2-1 primaries"
    lightness, a, b = linear_to_oklab(to_linear_709(reached.astype(np.float64), ENCODINGS["srgb"]))
    assert (pixel["hue"], pixel["chroma"]) == pytest.approx((np.degrees(np.arctan2(b, a)) % 360, np.hypot(a, b)), abs=1e-4)
    assert pixel["lightness"] == pytest.approx(lightness, abs=1e-5)


def test_discs_in_one_picture(api, picture):
    tiles = api.image("/looks/discs", {"look": LOOK, "pictures": [picture.pk, picture.pk]})
    assert tiles.shape == (256, 128, 3)
    assert api.call("POST", "/looks/discs", {"look": LOOK, "pictures": []}).status_code == 422
    assert (
        api.expect(404, "POST", "/looks/discs", {"look": LOOK, "pictures": [99]})["detail"]
        == "There is no such picture, or it was deleted."
    )


def test_the_sketch_says_what_each_step_does(api):
    sketch = api.expect(
        200,
        "POST",
        "/looks/sketch",
        {"steps": [{"kind": "group", "steps": [WARM | {"id": "w"}]}, {"kind": "curves", "name": "Still"}]},
    )
    first, second = sketch["steps"]
    assert (first["id"], first["title"], first["neutral"]) == ("w", "Curves", False)
    assert set(first["lines"]) == {"red", "blue"}
    assert first["ramp"][0] == [0, 0, 26]
    assert (second["title"], second["summary"], second["lines"], second["neutral"]) == ("Still", "no change", {}, True)
    assert second["ramp"][16] == [128, 128, 128]


def test_fingerprints_are_kept_by_the_browser_until_the_look_changes(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    path = f"/api/looks/{made['id']}/fingerprint.png"
    first = api.client.get(path)
    assert Image.open(io.BytesIO(first.content)).size == (112, 112)
    assert api.client.get(path, headers={"If-None-Match": first["ETag"]}).status_code == 304
    api.expect(200, "PUT", f"/looks/{made['id']}/draft", {"look": made["draft"] | {"strength": 0.1}, "revision": 1})
    assert api.client.get(path, headers={"If-None-Match": first["ETag"]}).status_code == 200


def test_deleted_looks_can_be_brought_back(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    api.expect(204, "DELETE", f"/catalogue/look/{made['id']}")
    api.expect(404, "GET", f"/looks/{made['id']}")
    assert api.get("/shelf/entries")["entries"] == []
    assert api.expect(200, "POST", f"/catalogue/look/{made['id']}/restore")["name"] == "Salt"


def test_a_picture_upload_and_its_refusals(api, tmp_path):
    from tests.core.test_pictures import huge_png
    from tests.make import a_picture

    data = a_picture(tmp_path / "x.tif").read_bytes()
    made = api.upload("/pictures", "x.tif", data, encoding="acescct")
    assert made.status_code == 200, made.content
    assert (made.json()["encoding"], made.json()["depth"], made.json()["width"]) == ("acescct", "u16", 40)
    from saucer.studio.pictures.models import Picture

    with local_file(Picture.objects.get(pk=made.json()["id"]).blob_id) as path:
        assert path.read_bytes() == data
        assert read_picture(path, "x.tif").width == 40
    for name, content, words in (
        ("../../etc/big.png", huge_png(20_000, 10_000), "big.png: 20000 x 10000 (200 megapixels) is too large"),
        ("notes.png", b"not a picture", "notes.png: not a picture that Saucer reads"),
        ("cut.tif", data[: len(data) // 2], "cut.tif: "),
    ):
        refused = api.upload("/pictures", name, content)
        assert refused.status_code == 422
        assert refused.json()["detail"].startswith(words)
    assert api.upload("/pictures", "x.tif", data, encoding="zap").json()["detail"].startswith('encoding: unknown encoding "zap"')
    assert Picture.objects.count() == 1


def test_three_looks_of_the_demo_say_of_each_step_why_it_is_there():
    exercises = [one for one in LOOKS if any("note" in step for step in one["steps"])]
    assert [one["name"] for one in exercises] == ["Low tide gold", "Ferry lantern", "Orchard silver"]
    for one in exercises:
        silent = [step.kind for _, step in walk(look_from({"steps": one["steps"]}).steps) if len(step.note) < 40]
        assert silent == [], one["name"]


def test_a_draft_with_another_name_names_the_entry_and_one_without_leaves_it(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    for revision, (typed, name) in enumerate(((" Brine ", "Brine"), (" ", "Brine")), 1):
        api.expect(200, "PUT", f"/looks/{made['id']}/draft", {"look": made["draft"] | {"name": typed}, "revision": revision})
        assert api.get(f"/looks/{made['id']}")["name"] == name


def test_what_is_gone_is_neither_saved_nor_shown(api):
    made = api.expect(200, "POST", "/looks", LOOK)
    api.expect(204, "DELETE", f"/catalogue/look/{made['id']}")
    api.expect(404, "PUT", f"/looks/{made['id']}/draft", {"look": made["draft"] | {"strength": 0.5}, "revision": 1})
    with pytest.raises(NotFound):
        look_shown(made["id"])


@pytest.mark.parametrize(("said", "seen"), [({}, "plain"), ({"view": "soft"}, "soft")])
def test_a_new_look_is_seen_as_the_studio_sees_unless_it_says_otherwise(api, settings, said, seen):
    settings.VIEW = "plain"
    assert api.expect(200, "POST", "/looks", LOOK | said)["draft"]["view"] == seen


@pytest.mark.parametrize(("asked", "given"), [(1, 16), (17, 17), (5000, 512)])
def test_a_disc_is_drawn_between_16_and_512_pixels(api, asked, given):
    made = api.expect(200, "POST", "/looks", LOOK)
    drawn = api.call("GET", f"/looks/{made['id']}/fingerprint.png?size={asked}")
    assert Image.open(io.BytesIO(drawn.content)).size == (given, given)
