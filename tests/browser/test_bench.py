"""A look designer at work: the real page, the real server, compared with the core's own result."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import expect

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.model import Look
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from tests.browser.pages import Bench, canvas_pixels, eventually
from tests.find import draft_named, look_named
from tests.make import a_picture, evaluate


def draft() -> Look:
    return draft_named("Salt")


def expected(look: Look, picture: str = "Quay, dusk") -> np.ndarray:
    """The exact look on the picture's proxy, as 8-bit sRGB."""
    values = proxy_in(Picture.objects.get(name=picture), ENCODINGS[look.input])
    shown = convert(evaluate(look, values), ENCODINGS[look.output], ENCODINGS["srgb"])
    return np.round(np.clip(shown, 0, 1) * 255)


def close(shown: np.ndarray, wanted: np.ndarray) -> None:
    assert shown.shape == wanted.shape
    difference = np.abs(shown.astype(float) - wanted)
    assert difference.mean() < 0.4
    assert np.percentile(difference, 99.9) <= 2


def test_dragging_a_point_moves_the_pictures_pixels_to_what_the_core_computes(bench: Bench):
    before = bench.pixels()
    close(before, expected(draft()))
    bench.channel("Blue").drag_point((0, 0), (0, 0.3), release=False)

    def follows() -> None:
        # Frames of a moving step are as wide as they are seen, so only their means can be compared.
        moved = canvas_pixels(bench.page)[..., 2].mean() - before[..., 2].mean()
        assert moved > 10, "the picture follows while the button is held"

    eventually(bench.page, follows)
    bench.page.mouse.up()
    after = bench.pixels()
    bench.wait_saved()
    look = draft()
    assert look.steps[0].blue[0] == pytest.approx((0, 0.3), abs=0.01)
    close(after, expected(look))
    assert np.abs(after.astype(int) - before)[..., 2].mean() > 10


def test_add_type_nudge_and_delete_points(bench: Bench):
    bench.drag_point((0.5, 0.62), (0.52, 0.66))
    assert len(bench.points()) == 3
    bench.type_point(2, "in", "100").type_point(2, "out", "140,5")
    assert bench.points()[1] == (100, 140.5)
    bench.wait_saved()
    assert draft().steps[0].master[1] == pytest.approx((100 / 255, 140.5 / 255))
    handle = bench.page.get_by_role("slider", name="Point 2 of 3")
    handle.focus()
    bench.page.keyboard.press("ArrowUp")
    bench.page.keyboard.press("Shift+ArrowRight")
    assert bench.points()[1] == (110, 141.5)
    bench.page.keyboard.press("Delete")
    assert bench.points() == [(0, 0), (255, 255)]


def test_a_number_out_of_range_is_not_taken(bench: Bench):
    bench.type_point(1, "out", "300")
    assert bench.points()[0] == (0, 0)
    bench.type_point(1, "out", "black")
    assert bench.points()[0] == (0, 0)


def test_units_are_one_setting_everywhere(bench: Bench):
    bench.type_point(2, "out", "204")
    bench.page.get_by_role("button", name="Units: 8-bit").click()
    assert bench.points()[1] == (1023, 818)
    bench.page.get_by_role("button", name="Units: 10-bit").click()
    assert bench.points()[1] == (100, 80)
    bench.type_point(2, "out", "90")
    bench.wait_saved()
    assert draft().steps[0].master[1] == (1, 0.9)


def test_undo_and_redo_by_name_and_over_a_reload(bench: Bench):
    start = bench.pixels()
    bench.drag_point((0, 0), (0, 0.2))
    moved = bench.pixels()
    expect(bench.page.get_by_role("button", name="Undo Curves: move master point")).to_be_visible()
    bench.leave()
    bench.undo()
    assert np.array_equal(bench.pixels(), start)
    bench.redo()
    assert np.array_equal(bench.pixels(), moved)
    bench.wait_saved()
    bench.page.reload()
    bench.wait_at_rest()
    assert np.array_equal(bench.pixels(), moved), "the draft survives a reload"
    bench.undo()
    assert np.array_equal(bench.pixels(), start), "and so does its history"


def test_on_off_and_strength_of_step_and_look(bench: Bench):
    bench.drag_point((1, 1), (1, 0.5))
    full = bench.pixels()
    step = bench.page.get_by_test_id("step")
    step.locator("label").click()
    close(bench.pixels(), bench.original())
    step.locator("label").click()
    box = bench.page.get_by_label("Strength of the step, percent")
    box.fill("50")
    box.press("Enter")
    half = bench.pixels().astype(int)
    assert np.abs(half - (full.astype(int) + bench.original()) / 2).max() <= 1
    bench.page.get_by_role("slider", name="Strength of the look").focus()
    bench.page.keyboard.press("Home")
    close(bench.pixels(), bench.original())


def test_hold_for_the_original_and_the_wipe(bench: Bench):
    bench.drag_point((1, 1), (1, 0.4))
    before = bench.page.get_by_test_id("before")
    expect(before).to_be_hidden()
    bench.leave()
    bench.page.keyboard.down("o")
    expect(before).to_be_visible()
    bench.page.keyboard.up("o")
    expect(before).to_be_hidden()
    bench.page.keyboard.press("w")
    grip = bench.page.get_by_role("slider", name="Wipe")
    assert grip.get_attribute("aria-valuenow") == "50"
    box, frame = grip.bounding_box(), bench.page.get_by_test_id("compare").bounding_box()
    bench.page.mouse.move(box["x"] + 9, box["y"] + 9)
    bench.page.mouse.down()
    bench.page.mouse.move(frame["x"] + frame["width"] * 0.25, frame["y"] + frame["height"] / 2, steps=5)
    bench.page.mouse.up()
    assert grip.get_attribute("aria-valuenow") == "25"
    assert "polygon" in before.evaluate("(canvas) => canvas.style.clipPath")


def test_reading_a_pixel_in_and_out(bench: Bench):
    bench.type_point(2, "out", "127.5")
    bench.pixels()
    frame = bench.page.get_by_test_id("compare").bounding_box()
    bench.page.mouse.move(frame["x"] + frame["width"] * 0.3, frame["y"] + frame["height"] * 0.2)
    read = bench.page.get_by_test_id("readout")
    expect(read).to_contain_text("ΔE")
    words = read.inner_text().split()
    shown_in, shown_out = ([float(w) for w in words[words.index(name) + 1 : words.index(name) + 4]] for name in ("in", "out"))
    values = proxy_in(Picture.objects.get(name="Quay, dusk"), ENCODINGS["srgb"])
    codes = np.round(values[int(0.2 * values.shape[0]) - 1 : int(0.2 * values.shape[0]) + 2, int(0.3 * values.shape[1])] * 255)
    assert any(shown_in == row.tolist() for row in codes)
    assert shown_out == pytest.approx([v / 2 for v in shown_in], abs=0.51)


def test_switching_pictures_in_the_tray(bench: Bench):
    bench.type_point(2, "out", "200")
    bench.tray("Chart")
    bench.wait_saved()
    close(bench.pixels(), expected(draft(), "Chart"))
    bench.leave()
    bench.page.keyboard.press("1")
    close(bench.pixels(), expected(draft()))
    background = (
        bench.page.get_by_role("navigation", name="Test pictures").get_by_role("button", name="Chart").locator("span span").first
    )
    assert "blob:" in background.evaluate("(disc) => getComputedStyle(disc).backgroundImage")


def test_bringing_in_an_own_picture_in_film_log(bench: Bench, tmp_path: Path):
    a_picture(tmp_path / "scan.tif", "u16", 54, 96)
    bench.bring_in(tmp_path / "scan.tif", "Film log")
    expect(bench.page.get_by_role("button", name="scan", exact=True)).to_be_visible()
    picture = Picture.objects.get(name="scan")
    assert (picture.encoding, picture.depth, picture.width) == ("film-log", "u16", 96)
    bench.page.wait_for_function(
        "() => document.querySelector('[data-testid=after]')?.width === 96 || document.querySelector('[data-testid=before]')?.width === 96"
    )
    eventually(bench.page, lambda: close(canvas_pixels(bench.page), expected(draft(), "scan")))


def test_a_picture_that_is_brought_in_on_its_page_stands_on_the_bench(bench: Bench, tmp_path: Path):
    a_picture(tmp_path / "scan.tif", "u16", 54, 96)
    bench.page.goto(f"{bench.url}/pictures")
    bench.bring_in(tmp_path / "scan.tif", "Film log")
    expect(bench.page.get_by_role("button", name="scan", exact=True)).to_have_attribute("aria-current", "true")
    assert bench.page.url.endswith(f"?picture={Picture.objects.get(name='scan').pk}")


def test_a_bad_picture_is_refused_in_the_sheet(bench: Bench, tmp_path: Path):
    (tmp_path / "notes.png").write_text("these are notes")
    bench.bring_in(tmp_path / "notes.png")
    expect(bench.page.get_by_role("dialog").get_by_role("alert")).to_contain_text("notes.png: not a picture that Saucer reads")
    assert Picture.objects.count() == 3


def test_a_lost_connection_while_dragging_loses_nothing(bench: Bench):
    context = bench.page.context
    bench.drag_point((1, 1), (1, 0.8))
    bench.wait_saved()
    context.set_offline(True)
    bench.drag_point((1, 0.8), (1, 0.3))
    expect(bench.page.get_by_text("The server cannot be reached.")).to_be_visible()
    expect(bench.page.get_by_test_id("save-state")).to_have_text("Not connected. Kept in this browser until it is.")
    assert draft().steps[0].master[1][1] == pytest.approx(0.8, abs=0.01)
    context.set_offline(False)
    bench.wait_saved()
    assert draft().steps[0].master[1][1] == pytest.approx(0.3, abs=0.01)
    expect(bench.page.get_by_text("The server cannot be reached.")).to_be_hidden()
    close(bench.pixels(), expected(draft()))


def test_two_people_on_one_look(bench: Bench, studio):
    from saucer.studio.looks import rules

    bench.type_point(2, "out", "200")
    bench.wait_saved()
    entry = look_named("Salt")
    rules.save_draft(studio, entry.pk, draft().model_copy(update={"strength": 0.5}), entry.revision)
    bench.type_point(2, "out", "100")
    expect(bench.page.get_by_text("has changed this look since you opened it")).to_be_visible()
    assert draft().strength == 0.5
    bench.page.get_by_role("button", name="Keep mine").click()
    bench.wait_saved()
    assert draft().steps[0].master[1] == pytest.approx((1, 100 / 255))


def test_adding_and_deleting_a_step(bench: Bench):
    bench.add_step("Curves")
    expect(bench.page.get_by_test_id("step")).to_have_count(2)
    bench.type_point(1, "out", "80")
    bench.wait_saved()
    assert [step.master[0][1] for step in draft().steps] == pytest.approx([0, 80 / 255])
    bench.page.get_by_role("button", name="Delete: Curves").click()
    expect(bench.page.get_by_test_id("step")).to_have_count(1)
    bench.wait_saved()
    assert len(draft().steps) == 1
