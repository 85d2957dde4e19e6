"""What a designer asks of a look on the Bench: pictures out of it, a reference beside it, why a colour is so, where it fails, what a step was."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, expect

from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.pictures.io import read_picture
from saucer.demo.catalogue import FOLDER
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture, PictureSet
from tests.browser.pages import Bench, eventually
from tests.browser.test_paths import Counted, steps_of

WORDS = {"steps": [{"kind": "tone", "exposure": 2, "id": "lit", "name": "Too much light"}]}


def point_at(page: Page, across: float, down: float) -> None:
    box = page.get_by_test_id("compare").last.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + across * box["width"], box["y"] + down * box["height"])


def test_the_picture_in_view_graded_and_all_of_the_tray(bench: Bench, studio: Person, do_jobs: Callable[[], None], tmp_path: Path):
    look, picture = looks.create(studio, look_from(WORDS | {"name": "Bright"})), Picture.objects.get(name__startswith="Quay")
    bench.open(look.pk, picture.pk)
    page, do = bench.page, Counted(bench.page)
    do.key("t")
    expect(page.get_by_role("button", name="Take ", exact=False).last).to_be_focused()
    with page.expect_download() as taken:
        do.key("Enter")
        expect(page.get_by_text("Waiting for a worker…")).to_be_visible()
        do_jobs()
    do.done("The picture in view, graded, at full size")
    taken.value.save_as(tmp_path / taken.value.suggested_filename)
    assert taken.value.suggested_filename == f"{Path(picture.file_name).stem}-bright{Path(picture.file_name).suffix}"
    graded, given = read_picture(tmp_path / taken.value.suggested_filename).pixels, read_picture(FOLDER / picture.file_name).pixels
    wanted = np.clip(evaluate(prepare(look_from(WORDS)), np.ascontiguousarray(given)), 0, 1)
    assert graded.shape == given.shape
    assert np.abs(graded - wanted).max() <= 1 / 255
    page.keyboard.press("Escape")

    all_of_them = Counted(page)
    all_of_them.key("t")
    all_of_them.press(page.get_by_role("radio", name="of the tray"))
    with page.expect_download() as taken:
        all_of_them.press(page.get_by_role("button", name="Take all "))
        expect(page.get_by_text("Waiting for a worker…")).to_be_visible()
        do_jobs()
    all_of_them.done("All pictures of the tray, graded")
    data = Path(taken.value.path()).read_bytes()
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        assert len(archive.namelist()) == Picture.objects.count()


def test_a_reference_is_pinned_and_read(bench: Bench):
    page, do = bench.page, Counted(bench.page)
    do.key("r")
    expect(page.get_by_role("button", name="Pinned: ")).to_have_attribute("aria-pressed", "true")
    do.key("2")
    point_at(page, 0.5, 0.5)
    do.count += 1
    do.done("A reference pinned and read")
    expect(page.get_by_test_id("reference-pixel")).to_contain_text("pinned ")
    expect(page.get_by_text("grey: ", exact=False).last).to_contain_text("through Salt")
    expect(page.get_by_test_id("compare").first).to_have_attribute("aria-label", re.compile(r"^.+, through Salt$"))
    page.keyboard.press("Shift+R")
    expect(page.get_by_role("button", name="Pinned: ")).to_have_count(0)
    expect(page.get_by_test_id("compare")).to_have_count(1)


def test_on_which_pictures_it_fails_by_which_step_and_why_a_colour_is_so(bench: Bench, studio: Person):
    look = looks.create(studio, look_from(WORDS | {"name": "Bright"}))
    bench.open(look.pk)
    page, do = bench.page, Counted(bench.page)
    do.key("s")
    do.done("Which pictures a look fails on")
    tray = page.get_by_role("navigation", name="Test pictures")
    expect(tray.get_by_role("button", name="fails: ").first).to_be_visible()
    expect(page.get_by_test_id("fails")).to_contain_text("Fails on ")
    expect(page.get_by_test_id("told")).to_contain_text("lighter")

    def worst_come_first() -> None:
        marks = [int((one.get_attribute("data-times") or "").rstrip("×")) for one in tray.locator("[data-times]").all()]
        assert marks
        assert marks == sorted(marks, reverse=True)

    eventually(page, worst_come_first)

    why = Counted(page)
    why.key("y")
    point_at(page, 0.5, 0.4)
    why.count += 1
    page.mouse.down()
    page.mouse.up()
    panel = page.get_by_role("region", name="Why this colour is so")
    expect(panel.get_by_text("Too much light moves it most.", exact=False)).to_be_visible()
    why.press(panel.get_by_role("button", name="Too much light"))
    why.done("Why a colour is so, and to the step that made it so")
    expect(page.get_by_role("textbox", name="Name of the step")).to_have_value("Too much light")
    page.mouse.move(0, 0)
    point_at(page, 0.2, 0.2)
    page.mouse.down()
    point_at(page, 0.6, 0.7)
    page.mouse.up()
    expect(panel.get_by_text("Means and spread of ", exact=False)).to_be_visible()
    page.keyboard.press("Escape")
    expect(panel).to_have_count(0)


def test_a_step_as_it_was_set_before_is_seen_and_kept_as_a_variant(bench: Bench, studio: Person):
    look = looks.create(studio, look_from({"name": "Two ways", "steps": [{"kind": "tone", "exposure": 0.5, "id": "t"}]}))
    bench.open(look.pk)
    bench.choose("Tone")
    page = bench.page
    before = bench.pixels()
    box = page.get_by_label("Exposure, EV").last
    box.fill("-1.5")
    box.press("Enter")
    page.keyboard.press("Escape")
    bench.line("Tone").focus()
    after = bench.pixels()
    assert np.abs(before.astype(int) - after).mean() > 5
    page.keyboard.down("j")
    eventually(page, lambda: np.testing.assert_allclose(bench.pixels(), before, atol=1))
    page.keyboard.up("j")
    eventually(page, lambda: np.testing.assert_allclose(bench.pixels(), after, atol=1))
    do = Counted(page)
    do.key("k")
    do.done("A step kept as it was before too")
    bench.wait_saved()
    assert [(one["exposure"], one.get("enabled", True)) for one in steps_of("Two ways")] == [(-1.5, True), (0.5, False)]
    page.get_by_role("radio", name="Variant 2").click()
    eventually(page, lambda: np.testing.assert_allclose(bench.pixels(), before, atol=1))
    page.get_by_role("button", name="Keep only this").click()
    bench.wait_saved()
    eventually(page, lambda: _is_one(steps_of("Two ways")))


def _is_one(steps: list[dict]) -> None:
    assert [(one["exposure"], one.get("variant")) for one in steps] == [(0.5, "")]


def test_a_look_is_brought_towards_a_picture(bench: Bench, studio: Person):
    look = looks.create(studio, look_from({"name": "Plain", "steps": [{"kind": "tone", "exposure": 0.1, "id": "a"}]}))
    bench.open(look.pk, Picture.objects.get(name__startswith="Quay").pk)
    page, do = bench.page, Counted(bench.page)
    do.key("Shift+T")
    panel = page.get_by_role("region", name="Towards a picture")
    do.press(panel.get_by_role("button", name="Room"))
    found = panel.get_by_role("button", name="Tone and colour")
    found.hover()
    expect(page.get_by_text("being tried")).to_be_visible()
    do.press(found)
    do.done("A look towards the colours of another picture")
    expect(page.get_by_role("status").filter(has_text="with a strength of its own")).to_be_visible()

    def ends_in(kind: str) -> None:
        assert steps_of("Plain")[-1]["kind"] == kind

    eventually(page, lambda: ends_in("group"))
    page.keyboard.press("Control+z")
    eventually(page, lambda: ends_in("tone"))


def test_where_a_look_breaks_and_what_helps(bench: Bench, studio: Person, do_jobs: Callable[[], None]):
    lit = {"kind": "tone", "exposure": 0.5, "id": "lit", "name": "Too much light"}
    look = looks.create(studio, look_from({"name": "Bright", "steps": [lit]}))
    looks.save_version(studio, look.pk)
    PictureSet.objects.create(name="Review").pictures.set(Picture.objects.all())
    before = steps_of("Bright")
    page = bench.arrive(f"/shelf/look/{look.pk}")
    do = Counted(page)
    do.press(page.get_by_role("tab", name="Where it breaks"))
    do.press(page.get_by_role("button", name="Find where it breaks"))
    expect(page.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(page.get_by_text("Least without Too much light").first).to_be_visible()
    do.press(page.get_by_role("link", name="try it on the Bench").first)
    do.done("Where a look breaks, and the first thing that helps, tried")
    expect(page.get_by_role("status").filter(has_text="tried. Ctrl Z takes it back.")).to_be_visible()

    def has_changed() -> None:
        assert steps_of("Bright") != before

    eventually(page, has_changed)
