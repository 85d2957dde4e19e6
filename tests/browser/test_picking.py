"""Picking from the picture: what is under the pointer, read by the engine before the step, becomes the step's setting."""

from __future__ import annotations

import numpy as np
import pytest
from playwright.sync_api import expect

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.look.model import look_from
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from tests.browser.pages import Bench, settle
from tests.browser.test_bench import close, draft, expected
from tests.browser.test_editors import as_graded
from tests.make import evaluate


def reaching(x: float, y: float, steps: int = 0) -> np.ndarray:
    """The proxy's pixel at a place, after the first steps of the saved draft."""
    values = proxy_in(Picture.objects.get(name="Quay, dusk"), ENCODINGS["srgb"])
    pixel = values[int(y * values.shape[0]), int(x * values.shape[1])].reshape(1, 3)
    return evaluate(look_from({"steps": [one.model_dump() for one in draft().steps[:steps]]}), pixel)[0]


def test_a_point_is_dropped_at_a_tone_and_bent_by_dragging_in_the_picture(bench: Bench):
    bench.page.get_by_role("button", name="Pick a tone").click()
    x, y = 0.2, 0.2
    start = bench.picture_at(x, y)
    bench.page.mouse.move(*start)
    bench.page.mouse.down()
    expect(bench.page.get_by_role("slider", name="Point 3 of 3")).to_be_visible()
    bench.page.mouse.move(start[0], start[1] - 40, steps=5)
    bench.page.mouse.up()
    after = bench.pixels()
    bench.wait_saved()
    points = draft().steps[0].master
    assert len(points) == 3
    luma = float(reaching(x, y) @ np.array([0.2126, 0.7152, 0.0722]))
    height = bench.page.get_by_test_id("compare").bounding_box()["height"]
    assert points[1] == pytest.approx((luma, luma + 40 / height), abs=0.01)
    close(after, expected(draft()))
    # A place of nearly the same tone takes the point that is there.
    with bench.page.expect_response("**/looks/pixel"):
        bench.click_picture(x, y)
    settle(bench.page)
    assert len(bench.points()) == 3
    bench.page.keyboard.press("Escape")
    expect(bench.page.get_by_role("button", name="Pick a tone")).to_have_attribute("aria-pressed", "false")
    bench.click_picture(0.9, 0.9)
    settle(bench.page)
    assert len(bench.points()) == 3, "the picture is not picked from any more"


def test_a_neutral_is_picked_for_the_white_balance(bench: Bench):
    bench.add_step("White balance")
    bench.page.get_by_role("button", name="Pick a neutral").click()
    bench.click_picture(0.35, 0.82)
    expect(bench.page.get_by_role("button", name="Undo White balance: picked neutral")).to_be_visible()
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert abs(step.warm) > 5
    close(after, expected(draft()))
    h, w = after.shape[:2]
    y, x = int(0.82 * h), int(0.35 * w)
    near = after[y - 2 : y + 3, x - 2 : x + 3].astype(float).mean(axis=(0, 1))
    assert np.ptp(near) < 4, "what was picked is grey now"


def hue_at(x: float, y: float) -> float:
    _, a, b = linear_to_oklab(to_linear_709(reaching(x, y).astype(np.float64), ENCODINGS["srgb"]))
    return float(np.degrees(np.arctan2(b, a)) % 360)


def test_a_colour_in_the_picture_finds_its_band_and_dragging_there_changes_it(bench: Bench):
    bench.add_step("Hue bands")
    bench.page.get_by_role("button", name="Pick a colour").click()
    start = bench.picture_at(0.7, 0.1)
    bench.page.mouse.move(*start)
    bench.page.mouse.down()
    expect(bench.page.get_by_test_id("picked-hue")).to_have_count(1)
    bench.page.mouse.move(start[0], start[1] + 60, steps=5)
    bench.page.mouse.up()
    after = bench.pixels()
    bench.wait_saved()
    bands = draft().steps[-1].bands
    changed = [index for index, band in enumerate(bands) if band.saturation != 1]
    away = [abs((band.centre - hue_at(0.7, 0.1) + 180) % 360 - 180) for band in bands]
    assert changed == [int(np.argmin(away))]
    height = bench.page.get_by_test_id("compare").bounding_box()["height"]
    assert bands[changed[0]].saturation == pytest.approx(1 - 3 * 60 / height, abs=0.02)
    close(after, as_graded(draft()))


def test_the_centre_of_an_isolated_hue_is_picked(bench: Bench):
    bench.add_step("Isolate hue")
    bench.page.get_by_role("button", name="Pick the colour to keep").click()
    bench.click_picture(0.7, 0.1)
    expect(bench.page.get_by_role("button", name="Undo Isolate hue: picked hue")).to_be_visible()
    after = bench.pixels()
    bench.wait_saved()
    assert draft().steps[-1].centre == pytest.approx(hue_at(0.7, 0.1), abs=1)
    close(after, as_graded(draft()))


def test_the_places_of_a_graduated_wash_are_dragged_on_the_picture(bench: Bench):
    bench.add_step("Graduated wash")
    end = bench.page.get_by_role("slider", name="Where the wash ends")
    box = end.bounding_box()
    bench.page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    bench.page.mouse.down()
    bench.page.mouse.move(*bench.picture_at(0.8, 0.9), steps=6)
    bench.page.mouse.up()
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert step.end == pytest.approx((0.8, 0.9), abs=0.01)
    assert step.start == (0.5, 0)
    close(after, as_graded(draft()))
    bench.page.get_by_role("slider", name="Where the wash is full").focus()
    bench.page.keyboard.press("ArrowRight")
    bench.page.keyboard.press("Shift+ArrowDown")
    bench.wait_at_rest()
    bench.wait_saved()
    assert draft().steps[-1].start == pytest.approx((0.51, 0.1), abs=0.002)


def test_the_ring_of_a_vignette_is_dragged_on_the_picture(bench: Bench):
    bench.add_step("Vignette")
    handle = bench.page.get_by_role("slider", name="Where half of the vignette acts")
    handle.focus()
    for _ in range(5):
        bench.page.keyboard.press("ArrowLeft")
    bench.wait_at_rest()
    bench.wait_saved()
    assert draft().steps[-1].midpoint == pytest.approx(0.7)
    box = handle.bounding_box()
    bench.page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    bench.page.mouse.down()
    bench.page.mouse.move(*bench.picture_at(0.8, 0.5), steps=6)
    bench.page.mouse.up()
    after = bench.pixels()
    bench.wait_saved()
    assert draft().steps[-1].midpoint == pytest.approx(0.3 * np.sqrt(2), abs=0.03)
    close(after, as_graded(draft()))
