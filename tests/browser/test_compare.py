"""Comparing: sides, stages, zoom, several pictures, marks, scopes; each against the core's own result."""

from __future__ import annotations

import numpy as np
import pytest
from playwright.sync_api import expect

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.rendering import EXACTLY, Sampling
from saucer.core.look.model import look_from
from saucer.core.pictures.io import read_picture
from saucer.studio.common.store import local_file
from saucer.studio.looks import rules as looks
from saucer.studio.pictures.models import Picture, PictureSet
from saucer.studio.pictures.rules import proxy_in
from tests.browser.pages import Bench, canvas_pixels, eventually, option
from tests.browser.test_bench import close, draft
from tests.browser.test_editors import as_graded
from tests.find import look_named
from tests.make import render

TONE, HUES = {"kind": "tone", "id": "tone", "exposure": 0.5}, {"kind": "saturation", "id": "sat", "factor": 0.2}


@pytest.fixture
def graded(bench: Bench, studio) -> Bench:
    """Two steps over two versions: Tone alone, then Saturation after it; a draft with both at half strength."""
    entry = look_named("Salt")
    for steps in ([TONE], [TONE, HUES]):
        entry = look_named("Salt")
        looks.save_draft(studio, entry.pk, look_from({"name": "Salt", "steps": steps}), entry.revision)
        looks.save_version(studio, entry.pk, "")
    entry = look_named("Salt")
    looks.save_draft(studio, entry.pk, look_from({"name": "Salt", "steps": [TONE, HUES], "strength": 0.5}), entry.revision)
    return bench.open(entry.pk)


def side(bench: Bench, label: str, name: str) -> None:
    bench.page.get_by_role("button", name="Sides:").click()
    bench.page.get_by_role("button", name=label).click()
    option(bench.page, name).click()
    bench.page.keyboard.press("Escape")


def graded_pixels(steps: list, picture: str = "Quay, dusk", sampling: Sampling = EXACTLY, **fields) -> np.ndarray:
    values = proxy_in(Picture.objects.get(name=picture), ENCODINGS["srgb"])
    return np.round(np.clip(render(look_from({"steps": steps} | fields), values, sampling=sampling), 0, 1) * 255)


def wait_for(bench: Bench, which: str, wanted: np.ndarray, index: int = 0) -> None:
    """Until a canvas shows it."""

    def check() -> None:
        close(_pixels(bench, which, index), wanted)

    eventually(bench.page, check)


def _pixels(bench: Bench, which: str, index: int) -> np.ndarray:
    import base64

    from tests.browser.pages import _PIXELS

    width, height, data = bench.page.get_by_test_id(which).nth(index).evaluate(_PIXELS)
    return np.frombuffer(base64.b64decode(data), np.uint8).reshape(height, width, 4)[..., :3].astype(float)


def test_two_versions_are_compared_and_the_address_shares_it(graded: Bench):
    graded.page.keyboard.press("w")
    side(graded, "Compared with", "version 1")
    side(graded, "Shown", "version 2")
    wait_for(graded, "before", graded_pixels([TONE]))
    wait_for(graded, "after", graded_pixels([TONE, HUES]))
    address = graded.page.url
    assert "compare=wipe" in address
    assert "against=version-1" in address
    assert "show=version-2" in address
    graded.page.goto(address)
    wait_for(graded, "before", graded_pixels([TONE]))
    wait_for(graded, "after", graded_pixels([TONE, HUES]))
    assert draft().strength == 0.5, "comparing changes nothing"


def test_another_look_on_the_other_side(graded: Bench, studio):
    looks.create(studio, look_from({"name": "Pepper", "steps": [{"kind": "levels", "master": {"gamma": 2}}]}))
    graded.open(look_named("Salt").pk)
    graded.page.keyboard.press("d")
    side(graded, "Compared with", "Pepper")
    wait_for(graded, "before", graded_pixels([{"kind": "levels", "master": {"gamma": 2}}]))
    wait_for(graded, "after", graded_pixels([TONE, HUES], strength=0.5), index=1)


def test_without_the_chosen_step_and_as_a_lut_holds_it(graded: Bench):
    graded.choose("Saturation")
    side(graded, "Compared with", "without Saturation")
    graded.page.keyboard.down("o")
    wait_for(graded, "before", graded_pixels([TONE, HUES | {"enabled": False}], strength=0.5))
    graded.page.keyboard.up("o")
    side(graded, "Compared with", "sampled")
    graded.page.keyboard.down("o")
    wait_for(graded, "before", graded_pixels([TONE, HUES], strength=0.5, sampling=Sampling(33)))
    graded.page.keyboard.up("o")
    # The step itself, left out while a key is held.
    graded.page.keyboard.down("b")
    wait_for(graded, "after", graded_pixels([TONE, HUES | {"enabled": False}], strength=0.5))
    graded.page.keyboard.up("b")
    wait_for(graded, "after", graded_pixels([TONE, HUES], strength=0.5))
    graded.wait_saved()
    assert draft().steps[1].enabled


def test_the_stage_slider_shows_the_picture_after_each_step(graded: Bench):
    words = graded.page.get_by_test_id("stage-words")
    expect(words).to_have_text("after all steps")
    graded.page.keyboard.press("[")
    expect(words).to_have_text("after Tone")
    wait_for(graded, "after", graded_pixels([TONE], strength=0.5))
    graded.page.keyboard.press("[")
    expect(words).to_have_text("before the first step")
    wait_for(graded, "after", graded_pixels([]))
    graded.page.get_by_role("slider", name="Stage").focus()
    graded.page.keyboard.press("End")
    expect(words).to_have_text("after all steps")
    wait_for(graded, "after", graded_pixels([TONE, HUES], strength=0.5))


def test_pixel_for_pixel_shows_the_picture_as_it_was_brought_in(graded: Bench):
    graded.page.keyboard.press("z")
    part = graded.page.get_by_test_id("part").first
    expect(part).to_be_visible()
    picture = Picture.objects.get(name="Quay, dusk")
    with local_file(picture.blob_id) as path:
        whole = read_picture(path).pixels[..., :3]
    result = np.round(np.clip(render(draft(), np.ascontiguousarray(whole)), 0, 1) * 255)

    def place() -> tuple[float, float]:
        return tuple(part.evaluate("(canvas) => [parseFloat(canvas.style.left), parseFloat(canvas.style.top)]"))

    def check() -> tuple[int, int]:
        left, top = (round(share / 100 * size) for share, size in zip(place(), (picture.width, picture.height), strict=True))
        shown = _pixels(graded, "part", 0)
        close(shown, result[top : top + shown.shape[0], left : left + shown.shape[1]])
        return left, top

    first = eventually(graded.page, check)
    x, y = graded.page.viewport_size["width"] / 2, 350
    graded.page.mouse.move(x, y)
    graded.page.mouse.down()
    graded.page.mouse.move(x - 150, y - 60, steps=5)
    graded.page.mouse.up()

    def moved() -> None:
        left, top = check()
        assert (left - first[0], top - first[1]) == pytest.approx((150, 60), abs=2)

    eventually(graded.page, moved)
    graded.page.keyboard.press("f")
    expect(part).to_be_hidden()


def test_up_to_four_pictures_are_live_side_by_side(graded: Bench):
    graded.leave()
    graded.page.keyboard.press("Shift+Digit2")
    graded.page.keyboard.press("Shift+Digit3")
    expect(graded.page.get_by_test_id("compare")).to_have_count(3)
    names = list(Picture.objects.order_by("position", "pk").values_list("name", flat=True))
    order = ["Quay, dusk", *[name for name in names if name != "Quay, dusk"]]
    for index, name in enumerate(order):
        wait_for(graded, "after", graded_pixels([TONE, HUES], name, strength=0.5), index)
    graded.page.get_by_role("slider", name="Strength of the look").focus()
    graded.page.keyboard.press("Home")
    for index, name in enumerate(order):
        wait_for(graded, "after", graded_pixels([], name), index)
    assert "watch=" in graded.page.url
    graded.page.get_by_text("Several").click()
    expect(graded.page.get_by_test_id("compare")).to_have_count(1)


def test_sets_of_test_pictures_are_saved_by_name(graded: Bench):
    page = graded.page
    page.get_by_role("button", name="Set of test pictures: All pictures").click()
    page.get_by_role("group", name="Pictures of the set").get_by_text("Chart").click()
    page.get_by_label("Save as a set").fill("Evening")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("button", name="Set of test pictures: Evening")).to_be_attached()
    page.keyboard.press("Escape")
    tray = page.get_by_role("navigation", name="Test pictures")
    expect(tray.get_by_role("button", name="Chart")).to_have_count(0)
    assert {one.name for one in PictureSet.objects.get(name="Evening").pictures.all()} == {"Quay, dusk", "Room and window"}
    page.reload()
    expect(tray.get_by_role("button", name="Quay, dusk")).to_be_visible()
    expect(tray.get_by_role("button", name="Chart")).to_have_count(0)


def test_marks_show_where_with_their_figures(graded: Bench, studio):
    entry = look_named("Salt")
    looks.save_draft(
        studio,
        entry.pk,
        look_from({"name": "Salt", "steps": [{"kind": "levels", "master": {"input_black": 0.3, "input_white": 0.7}}]}),
        entry.revision,
    )
    graded.open(entry.pk)
    graded.page.get_by_role("button", name="Marks over the picture").click()
    graded.page.get_by_role("radio", name="Clipping").click()
    legend = graded.page.get_by_test_id("marks-legend")
    values = proxy_in(Picture.objects.get(name="Quay, dusk"), ENCODINGS["srgb"])
    low, high = (values <= 0.3).any(axis=-1), (values >= 0.7).any(axis=-1)
    expect(legend).to_contain_text(f"at black {low.mean() * 100:.0f} %")
    expect(legend).to_contain_text(f"at full {high.mean() * 100:.0f} %")
    marked = _pixels(graded, "marks", 0)
    alpha = graded.page.get_by_test_id("marks").evaluate(
        "(canvas) => { const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height); let n = 0; for (let i = 3; i < data.length; i += 4) n += data[i] > 0; return n / (data.length / 4); }"
    )
    assert marked.shape[:2] == values.shape[:2]
    assert alpha == pytest.approx((low | high).mean() / 2, abs=0.02), "stripes cover half of what they mark"


@pytest.mark.parametrize("kind", ["Waveform", "Parade", "Vectorscope"])
def test_scopes_show_the_original_behind(graded: Bench, kind: str):
    graded.page.get_by_role("radio", name=kind).click()
    scope = graded.page.get_by_test_id(f"scope-{kind.lower()}")
    graded.page.wait_for_function(
        "(field) => field.querySelector('canvas')?.width > 300 || field.querySelector('canvas')?.width === 256",
        arg=scope.element_handle(),
    )
    count = """(field) => { const canvas = field.querySelector('canvas'); const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
      let dim = 0, bright = 0; for (let i = 0; i < data.length; i += 4) { const most = Math.max(data[i], data[i + 1], data[i + 2]); if (data[i + 3]) { if (most > 120) bright += 1; else dim += 1; } } return [dim, bright]; }"""
    dim, bright = scope.evaluate(count)
    assert dim > 100, "the original's grey stands behind"
    assert bright > 100


def test_the_surround_is_remembered(graded: Bench):
    graded.page.get_by_role("radio", name="Dark surround").click()
    graded.page.reload()
    expect(graded.page.get_by_role("radio", name="Dark surround")).to_be_checked()
    colour = graded.page.get_by_label("Picture", exact=True).evaluate("(section) => getComputedStyle(section).backgroundColor")
    assert colour == "rgb(38, 38, 38)"
    assert canvas_pixels(graded.page).size > 0


def test_everything_stays_in_reach_at_the_narrowest_and_a_wide_window(graded: Bench):
    for width, height in ((1180, 720), (1920, 1080)):
        graded.page.set_viewport_size({"width": width, "height": height})
        graded.wait_at_rest()
        assert graded.page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
        for name in ("Wipe", "Fit", "Bake…", "Add a step"):
            box = graded.page.get_by_role("button", name=name, exact=True).bounding_box()
            assert box
            assert box["x"] + box["width"] <= width
            assert box["y"] + box["height"] <= height
    close(graded.pixels(), as_graded(draft()))
