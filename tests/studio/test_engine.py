"""The whole engine through the API: every kind previewed, baked and applied; junctions, losses, traces, neutrals, bundles, encodings."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.files.formats import cube
from saucer.core.look.model import look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.pictures.scopes import parade, vectorscope, waveform
from saucer.core.steps.kinds import pixel_kinds, spatial_kinds
from saucer.studio.encodings.models import TeamEncoding
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.preview.kept import CACHE
from tests.core.test_schema_and_own import LOGC3
from tests.make import CHANGED, CHANGED_SPATIAL, WARM, a_lut, evaluate, render
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

pytestmark = pytest.mark.django_db
SRGB = ENCODINGS["srgb"]
CUBE = cube.write(a_lut(9, title="Print"))


def codes(values: np.ndarray) -> np.ndarray:
    return np.round(np.clip(values, 0, 1) * 255)


@pytest.fixture
def sha256(api) -> str:
    return api.upload("/luts", "print.cube", CUBE, expects="rec709", gives="rec709").json()["files"][0]["sha256"]


def settings_of(kind: str, sha256: str) -> dict:
    step = (CHANGED | CHANGED_SPATIAL)[kind]
    return step | {"sha256": sha256} if kind == "lut" else step


@pytest.mark.parametrize("kind", sorted(CHANGED | CHANGED_SPATIAL))
def test_every_kind_previews_as_the_core_computes_it(api, picture: Picture, sha256, kind):
    look = {"steps": [settings_of(kind, sha256)], "output": "acescct" if kind == "convert" else "srgb"}
    values = proxy_in(picture, SRGB)
    through = look_from(look)
    expected = convert(render(through, values, luts=lambda _: cube.read(CUBE)), ENCODINGS[through.output], SRGB)
    exact = api.image("/looks/frame", {"look": look, "picture": picture.pk, "quality": "rest"})
    assert np.abs(exact.astype(int) - codes(expected)).max() <= 1
    sampled = api.image("/looks/frame", {"look": look, "picture": picture.pk, "quality": "sampled"})
    assert np.abs(sampled.astype(int) - codes(expected)).mean() < 1.5
    sketch = api.expect(200, "POST", "/looks/sketch", look)
    assert sketch["steps"][0]["summary"] != "no change"
    assert sketch["steps"][0]["spatial"] == (kind in CHANGED_SPATIAL)
    assert sketch["problem"] == ""


def test_the_kinds_are_listed_with_what_can_be_in_a_lut(api):
    kinds = {one["kind"]: one["spatial"] for one in api.get("/looks/step-kinds")}
    assert kinds == dict.fromkeys(pixel_kinds(), False) | dict.fromkeys(spatial_kinds(), True)


def test_junctions_are_shown_and_a_wrong_end_comes_with_its_remedies(api, picture):
    look = {"steps": [WARM, {"kind": "convert", "to": "film-log"}, {"kind": "grain", "amount": 0.5}]}
    sketch = api.expect(200, "POST", "/looks/sketch", look)
    assert [(s["path"], s["before"], s["after"]) for s in sketch["steps"]] == [
        ("steps[0]", "srgb", "srgb"), ("steps[1]", "srgb", "film-log"), ("steps[2]", "film-log", "film-log"),
    ]  # fmt: skip
    assert sketch["end"] == "film-log"
    assert 'the steps end in "film-log" but the look declares "srgb"' in sketch["problem"]
    refused = api.expect(422, "POST", "/looks/frame", {"look": look, "picture": picture.pk})
    assert "add a Convert step" in refused["detail"]
    for by in ("declare", "convert"):
        whole = api.expect(200, "POST", "/looks/settled-end", {"look": look, "by": by})
        assert api.expect(200, "POST", "/looks/sketch", whole)["problem"] == ""
        assert api.image("/looks/frame", {"look": whole, "picture": picture.pk}).shape[2] == 3
    # The stage after the conversion is shown properly converted, so it is still the same picture.
    stage = api.image("/looks/frame", {"look": look, "picture": picture.pk, "steps": 2, "quality": "rest"})
    before = api.image("/looks/frame", {"look": look, "picture": picture.pk, "steps": 1, "quality": "rest"})
    assert np.abs(stage.astype(int) - before).max() <= 1


def test_what_is_kept_of_the_steps_before_changes_no_pixel(api, picture):
    look = {"steps": [WARM, CHANGED["tone"], CHANGED["saturation"], CHANGED_SPATIAL["vignette"]]}
    body = {"look": look, "picture": picture.pk}
    CACHE.__init__()
    plain = api.image("/looks/frame", body)
    for strength in (0.3, 0.6, 0.9):
        dragged = look | {"steps": [*look["steps"][:2], CHANGED["saturation"] | {"strength": strength}, *look["steps"][3:]]}
        api.image("/looks/frame", body | {"look": dragged, "quality": "drag"})
    assert CACHE.hits >= 1, "the steps before the one that is dragged, a vignette behind it"
    assert np.array_equal(api.image("/looks/frame", body), plain)


def test_losses_of_a_picture(api, picture):
    look = {"steps": [{"kind": "limit", "low": 0.3, "high": 0.7}, CHANGED["tone"]]}
    first, second = api.expect(200, "POST", "/looks/losses", {"look": look, "picture": picture.pk})
    values = proxy_in(picture, SRGB)
    assert first["clipped"] == pytest.approx(((values < 0.3) | (values > 0.7)).any(axis=-1).mean(), abs=0.02)
    assert (second["path"], second["clipped_here"]) == ("steps[1]", 0)


@pytest.mark.parametrize("kind", ["waveform", "parade", "vectorscope"])
def test_traces_are_the_cores_counts(api, picture, kind):
    look = {"steps": [WARM]}
    response = api.call("POST", "/looks/trace", {"look": look, "picture": picture.pk, "kind": kind, "steps": 0})
    shape = tuple(int(size) for size in response["Saucer-Shape"].split(","))
    counts = np.frombuffer(response.content, "<u4").reshape(shape)
    values = proxy_in(picture, SRGB)
    expected = {"waveform": waveform(values, SRGB)[None], "parade": parade(values), "vectorscope": vectorscope(values, SRGB)[None]}[
        kind
    ]
    assert np.array_equal(counts, expected)


def test_a_neutral_picked_from_the_picture_becomes_grey(api, picture):
    # Half way to grey first, so that the random picture's colours are within the step's reach.
    paler = {"kind": "saturation", "factor": 0.05}
    found = api.expect(
        200,
        "POST",
        "/looks/neutral",
        {
            "look": {"steps": [paler, {"kind": "white-balance", "id": "w"}]},
            "picture": picture.pk,
            "x": 0.5,
            "y": 0.5,
            "before": "w",
        },
    )
    balanced = look_from({"steps": [paler, {"kind": "white-balance", **found}]})
    values = proxy_in(picture, SRGB)
    y, x = values.shape[0] // 2, values.shape[1] // 2
    near = np.ascontiguousarray(values[y - 2 : y + 3, x - 2 : x + 3])
    before, after = (evaluate(balanced, near, steps).reshape(-1, 3).mean(axis=0) for steps in (1, None))
    assert np.ptp(after) < 0.1 * np.ptp(before) + 1e-4
    refused = api.expect(
        422,
        "POST",
        "/looks/neutral",
        {
            "look": {"steps": [{"kind": "limit", "high": 0.001}, {"kind": "white-balance", "id": "w"}]},
            "picture": picture.pk,
            "x": 0,
            "y": 0,
            "before": "w",
        },
    )
    assert "too dark" in refused["detail"]


def test_a_look_whose_lut_is_gone_says_so(api, picture):
    look = {"steps": [{"kind": "lut", "sha256": "ab" * 32}]}
    assert "abababababab is not at hand" in api.expect(422, "POST", "/looks/frame", {"look": look, "picture": picture.pk})["detail"]


@pytest.mark.django_db(transaction=True)
def test_a_bake_leaves_spatial_steps_out_and_says_which(api, sha256):
    steps = [settings_of(kind, sha256) for kind in ("tone", "lut", "vignette", "hue-bands", "grain")]
    made = api.expect(200, "POST", "/looks", {"name": "All", "steps": steps})
    api.save_version(made["id"])
    job = api.expect(202, "POST", f"/bake/looks/{made['id']}", {"version": 1, "choice": {"size": 33}})
    run_worker()
    done = api.get(f"/jobs/{job['id']}")
    assert done["left_out"] == ["Vignette (step 3)", "Grain (step 5)"]
    baked = cube.read(api.call("GET", f"/jobs/{done['id']}/file").getvalue())
    assert "Left out: Vignette (step 3)" in baked.comments
    x = np.random.default_rng(1).random((500, 3), dtype=np.float32)
    expected = evaluate(look_from({"steps": steps}), x, luts=lambda _: cube.read(CUBE))
    assert np.abs(apply_lut(baked, x) - expected).mean() < 0.01
    assert len(api.get(f"/looks/{made['id']}")["draft"]["steps"]) == 5, "the look itself is as it was"


def test_a_team_defines_an_encoding_and_uses_it(api, picture, viewer):
    assert api_for(viewer).call("POST", "/encodings", LOGC3).status_code == 403
    assert api.expect(200, "POST", "/encodings", LOGC3)["own"]["log"]["base"] == 10
    assert "There is an encoding" in api.expect(422, "POST", "/encodings", LOGC3)["detail"]
    assert "encodings" not in api.expect(422, "POST", "/encodings", LOGC3 | {"id": "srgb"})["detail"]
    assert [one["id"] for one in api.get("/encodings")][-1] == "house-log"
    api.expect(200, "PATCH", f"/pictures/{picture.pk}", {"encoding": "house-log"})
    api.expect(200, "PATCH", f"/pictures/{picture.pk}", {"encoding": "house-log"})
    same = api.image("/looks/frame", {"look": {"steps": []}, "picture": picture.pk})
    api.expect(200, "PATCH", f"/pictures/{picture.pk}", {"encoding": "logc3-ei800"})
    assert np.abs(api.image("/looks/frame", {"look": {"steps": []}, "picture": picture.pk}).astype(int) - same).max() <= 1
    look = {"encodings": [LOGC3], "input": "house-log", "output": "house-log", "steps": [WARM]}
    assert api.image("/looks/frame", {"look": look, "picture": picture.pk}).shape[2] == 3
    api.expect(200, "PATCH", f"/pictures/{picture.pk}", {"encoding": "house-log"})
    assert "is used by 1 pictures" in api.expect(422, "DELETE", "/encodings/house-log")["detail"]
    api.expect(200, "PATCH", f"/pictures/{picture.pk}", {"encoding": "srgb"})
    api.expect(204, "DELETE", "/encodings/house-log")
    assert not TeamEncoding.objects.exists()
