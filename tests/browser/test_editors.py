"""Editors of steps other than curves: by keys, by mouse and by typed numbers, with the picture's pixels against the core."""

from __future__ import annotations

import numpy as np
import pytest
from playwright.sync_api import expect

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.model import Look
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from tests.browser.pages import Bench
from tests.browser.test_bench import close, draft, expected
from tests.make import render


def as_graded(look: Look) -> np.ndarray:
    """The look through the lattice of a preview at rest, spatial steps and all, on the picture's proxy, as 8-bit sRGB."""
    values = proxy_in(Picture.objects.get(name="Quay, dusk"), ENCODINGS[look.input])
    return np.round(np.clip(render(look, values), 0, 1) * 255)


def test_tone_by_keys_and_by_typing(bench: Bench):
    bench.add_step("Tone")
    bench.page.get_by_role("slider", name="Exposure").focus()
    bench.page.keyboard.press("PageDown")
    bench.page.keyboard.press("ArrowLeft")
    bench.type_setting("Contrast", "1.4")
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert step.exposure < -0.05
    assert step.contrast == 1.4
    close(after, expected(draft()))
    box = bench.page.get_by_label("Contrast", exact=True).last
    box.dblclick()
    bench.wait_at_rest()
    bench.wait_saved()
    assert draft().steps[-1].contrast == 1


def test_white_balance_by_dragging_its_pad_and_by_keys(bench: Bench):
    bench.add_step("White balance")
    pad = bench.page.get_by_test_id("white-pad").bounding_box()
    assert pad
    bench.page.mouse.move(pad["x"] + pad["width"] / 2, pad["y"] + pad["height"] / 2)
    bench.page.mouse.down()
    bench.page.mouse.move(pad["x"] + pad["width"] * 0.7, pad["y"] + pad["height"] * 0.4, steps=6)
    bench.page.mouse.up()
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert step.warm == pytest.approx(60, abs=4)
    assert step.tint == pytest.approx(0.01, abs=0.002)
    close(after, expected(draft()))
    bench.page.get_by_role("slider", name="White", exact=True).focus()
    bench.page.keyboard.press("ArrowRight")
    bench.wait_at_rest()
    bench.wait_saved()
    assert draft().steps[-1].warm == pytest.approx(step.warm + 1, abs=0.11)
    bench.undo()
    bench.undo()
    bench.wait_saved()
    assert draft().steps[-1].warm == 0, "one drag is one edit"


def test_hue_bands_by_dragging_along_the_ribbon_and_by_typing(bench: Bench):
    bench.add_step("Hue bands")
    graph = bench.page.get_by_test_id("hue-graph").bounding_box()
    assert graph
    height = graph["height"] * 92 / 142  # the upper part, for saturation 0 to 3
    x, y = graph["x"] + graph["width"] * 29 / 360, graph["y"] + height * (1 - 1 / 3)
    bench.page.mouse.move(x, y)
    bench.page.mouse.down()
    bench.page.mouse.move(x + graph["width"] * 15 / 360, graph["y"] + height * (1 - 2 / 3), steps=6)
    bench.page.mouse.up()
    bench.type_setting("Hue, °", "-25")
    after = bench.pixels()
    bench.wait_saved()
    first, second = draft().steps[-1].bands[:2]
    assert (first.centre, first.saturation, first.hue) == pytest.approx((44, 2, -25), abs=1.5)
    assert (second.saturation, second.hue) == (1, 0)
    close(after, as_graded(draft()))
    # Past its neighbour it does not go.
    bench.page.get_by_role("slider", name="Band 1 of 8").focus()
    for _ in range(4):
        bench.page.keyboard.press("Shift+ArrowRight")
    bench.wait_at_rest()
    bench.wait_saved()
    assert draft().steps[-1].bands[0].centre == 61


def test_curves_over_a_range_beyond_white(bench: Bench):
    page = bench.add_step("Curves").page
    bench.type_setting("Ends at", "4")
    page.get_by_label("Point 2 out", exact=True).fill("510")  # 8-bit codes: twice white, half of the range
    page.get_by_label("Point 2 out", exact=True).press("Enter")
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert (step.high, step.master[-1]) == (4, (1, pytest.approx(0.5, abs=1e-3)))
    expect(page.get_by_test_id("zero-and-one")).to_be_visible()
    expect(page.get_by_text("Clip to the range after")).to_be_visible()
    close(after, as_graded(draft()))


def test_colour_curves_by_clicking_dragging_keys_and_typing(bench: Bench):
    page = bench.add_step("Colour curves").page
    box = page.get_by_test_id("colour-curve").bounding_box()
    assert box
    x, y = box["x"] + box["width"] * 60 / 360, box["y"] + box["height"] * 0.6
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, box["y"] + box["height"] * 0.2, steps=4)
    page.mouse.up()
    bench.wait_saved()
    points = draft().steps[-1].saturation
    assert [round(hue) for hue, _ in points] == pytest.approx([15, 60, 105], abs=2)
    assert [factor for _, factor in points] == pytest.approx([1, 2, 1], abs=0.03), "a first point moves its surroundings only"
    page.get_by_role("radio", name="Hue", exact=True).click()
    page.mouse.click(box["x"] + box["width"] * 200 / 360, box["y"] + box["height"] * 0.5)
    point = page.get_by_role("slider", name="Point 2 of 3")
    point.focus()
    page.keyboard.press("Shift+ArrowUp")
    bench.type_setting("Hue there, °", "25")
    bench.type_setting("At hue, degrees", "210")
    page.get_by_role("slider", name="Point 3 of 3").focus()
    page.keyboard.press("Delete")
    after = bench.pixels()
    bench.wait_saved()
    turn = draft().steps[-1].turn
    assert [value for _, value in turn] == [0, 25]
    assert turn[1][0] == 210
    close(after, as_graded(draft()))
    page.get_by_role("button", name="Straighten").click()
    bench.wait_saved()
    assert draft().steps[-1].turn == ()


def test_a_vignette_shows_but_stays_out_of_the_lut(bench: Bench):
    bench.add_step("Vignette")
    bench.type_setting("Amount", "0.9")
    after = bench.pixels()
    bench.wait_saved()
    look = draft()
    assert look.steps[-1].amount == 0.9
    close(after, as_graded(look))
    assert after[0, 0].mean() < 0.5 * bench.original()[0, 0].mean()


def test_cdl_by_numbers_and_by_dragging_a_bar(bench: Bench):
    bench.add_step("CDL")
    bench.type_setting("red, slope", "1.2")
    bench.type_setting("blue, offset", "-0.05")
    bar = bench.page.get_by_test_id("bar green, power").bounding_box()
    assert bar
    bench.page.mouse.move(bar["x"] + bar["width"] / 2, bar["y"] + 4)
    bench.page.mouse.down()
    bench.page.mouse.move(bar["x"] + bar["width"] * 0.75, bar["y"] + 4, steps=5)
    bench.page.mouse.up()
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert (step.slope, step.offset) == ((1.2, 1, 1), (0, 0, -0.05))
    assert step.power == pytest.approx((1, 1.5, 1), abs=0.02)
    close(after, expected(draft()))
    bench.page.get_by_test_id("bar green, power").dblclick()
    bench.wait_saved()
    assert draft().steps[-1].power == (1, 1, 1)


def test_levels_by_their_markers_and_gamma(bench: Bench):
    bench.add_step("Levels")
    graph = bench.page.get_by_test_id("levels-graph").bounding_box()
    marker = bench.page.get_by_role("slider", name="Black in").first.bounding_box()
    bench.page.mouse.move(marker["x"] + marker["width"] / 2, marker["y"] + marker["height"] / 2)
    bench.page.mouse.down()
    bench.page.mouse.move(graph["x"] + graph["width"] * 0.1, marker["y"] + 4, steps=5)
    bench.page.mouse.up()
    bench.type_setting("White out", "230")
    bench.page.get_by_role("slider", name="Gamma").first.focus()
    bench.page.keyboard.press("Shift+ArrowLeft")
    after = bench.pixels()
    bench.wait_saved()
    master = draft().steps[-1].master
    assert (master.input_black, master.output_white) == pytest.approx((0.1, 230 / 255), abs=0.005)
    assert master.gamma == pytest.approx(1.1)
    close(after, as_graded(draft()))
