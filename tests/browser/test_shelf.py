"""From a version to a LUT on the Shelf, on another picture, and away again as files."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import expect

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.files.formats import cube
from saucer.core.lut.apply import apply_lut
from saucer.core.pictures.io import read_picture
from saucer.demo.catalogue import FOLDER
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Kind, Version
from saucer.studio.looks.models import LookDraft
from saucer.studio.looks.rules import look_of
from saucer.studio.luts.models import Lut as LutRow
from tests.browser.conftest import PASSWORD
from tests.browser.pages import Bench, Shelf, canvas_pixels, eventually, option, settle, shows, sign_in
from tests.find import look_named
from tests.make import a_lut, evaluate


def test_bake_apply_and_download(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.page
    bench.channel("Blue").drag_point((0, 0), (0, 0.2))
    bench.channel("Red").drag_point((0.5, 0.5), (0.5, 0.6))
    bench.wait_saved()
    bench.bake(33, "Ferry dusk", "Ilse Harrow", own_entry=True)
    do_jobs()
    expect(page.get_by_role("dialog")).to_contain_text("ferry-dusk-33.cube is with the look")
    look, own = LutRow.objects.order_by("pk")
    assert (look.version.entry.name, look.version.number, look.size) == ("Salt", 1, 33)
    assert (own.version.entry.name, own.version.entry.author, own.size) == ("Ferry dusk", "Ilse Harrow", 33)
    page.get_by_role("dialog").press("Escape")  # the button that had the keys has just given way to another

    shelf = Shelf(page).open()
    expect(page.get_by_role("img", name="through Ferry dusk")).to_be_visible()
    shelf.enter("Ferry dusk")
    download = shelf.download_lut()
    assert download.suggested_filename == "ferry-dusk-33.cube"
    lut = cube.read(Path(download.path()).read_bytes())
    look = look_of(Version.objects.get(entry__kind=Kind.LOOK))
    x = np.random.default_rng(1).random((5000, 3), dtype=np.float32)
    assert np.abs(apply_lut(lut, x) - evaluate(look, x)).max() < 0.01

    shelf.choose_picture("Chart").strength(40)
    chart = read_picture(FOLDER / "chart.png")
    wanted = np.clip(chart.pixels + np.float32(0.4) * (apply_lut(lut, chart.pixels) - chart.pixels), 0, 1)

    def agree() -> None:
        """The proxy on screen is the picture averaged down; away from the edges of patches they agree."""
        middle = np.round(wanted[1::2, 1::2] * 255)
        assert np.percentile(np.abs(canvas_pixels(page) - middle), 80) <= 1.5

    eventually(page, agree)
    page.get_by_role("button", name="Grade 1920 × 1080").click()
    expect(page.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    with page.expect_download() as taken:
        page.get_by_role("link", name="chart-ferry-dusk.png").click()
    taken.value.save_as(tmp_path / "graded.png")
    graded = read_picture(tmp_path / "graded.png")
    assert (graded.width, graded.height, graded.depth) == (1920, 1080, "u16")
    assert np.abs(graded.pixels - wanted).max() <= 0.51 / 65535


def test_bringing_in_a_lut_and_a_broken_one(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.arrive("/shelf")
    good = cube.write(a_lut(9, title="Orchard print"))
    (tmp_path / "print.cube").write_bytes(good)
    (tmp_path / "cut.cube").write_bytes(good[: len(good) // 2])
    shelf = Shelf(page).open()
    sheet = shelf.read_pack(do_jobs, tmp_path / "cut.cube")
    expect(sheet).to_contain_text("cut.cube")
    expect(sheet).to_contain_text("expected three numbers, got")
    expect(sheet.get_by_role("button", name="Put on the Shelf")).to_be_disabled()
    assert LutRow.objects.count() == 0
    page.keyboard.press("Escape")
    shelf.bring_in(tmp_path / "print.cube", do_jobs)
    expect(page.get_by_role("heading", name="Orchard print")).to_be_visible()
    shelf.choose_picture("Quay, dusk")
    source = read_picture(FOLDER / "quay-dusk.png").pixels
    from saucer.core.pictures.scale import make_proxy

    small, _ = make_proxy(FOLDER / "quay-dusk.png", ENCODINGS["srgb"], 960, 540)
    assert source.shape == (1080, 1920, 3)
    wanted = np.round(np.clip(apply_lut(a_lut(9), small), 0, 1) * 255)
    shows(page, wanted)


def test_saying_what_a_lut_expects_changes_the_picture(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.arrive("/shelf")
    (tmp_path / "log.cube").write_bytes(cube.write(a_lut(17, title="For log")))
    Shelf(page).open().bring_in(tmp_path / "log.cube", do_jobs)
    expect(page.get_by_role("heading", name="For log")).to_be_visible()
    page.get_by_role("region", name="LUT", exact=True).get_by_role("button", name="Expects").click()
    option(page, "Film log").click()
    page.get_by_role("region", name="LUT", exact=True).get_by_role("button", name="Gives").click()
    option(page, "Film log").click()

    def said() -> None:
        lut = LutRow.objects.latest("pk")
        assert (lut.version.number, lut.expects, lut.gives) == (3, "film-log", "film-log")

    eventually(page, said)
    page.reload()
    from saucer.core.pictures.scale import make_proxy

    small, _ = make_proxy(FOLDER / "quay-dusk.png", ENCODINGS["srgb"], 960, 540)
    log, srgb = ENCODINGS["film-log"], ENCODINGS["srgb"]
    wanted = np.round(np.clip(convert(apply_lut(a_lut(17), convert(small, srgb, log, "soft")), log, srgb, "soft"), 0, 1) * 255)
    shows(page, wanted)


def test_finding_and_deleting_and_bringing_back(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.arrive("/shelf")
    for seed, title in enumerate(("Pale orchard", "Deep harbour")):
        (tmp_path / "x.cube").write_bytes(cube.write(a_lut(5, seed=seed, title=title)))
        Shelf(page).open().bring_in(tmp_path / "x.cube", do_jobs)
        expect(page.get_by_role("heading", name=title)).to_be_visible()
    shelf = Shelf(page).open()
    page.get_by_label("Find").fill("harb")
    expect(shelf.card("Pale orchard")).to_have_count(0)
    shelf.enter("Deep harbour")
    page.get_by_role("button", name="Delete from the Shelf").click()
    expect(page.get_by_text("Deep harbour was deleted")).to_be_visible()
    expect(shelf.card("Deep harbour")).to_have_count(0)
    page.get_by_role("button", name="Bring it back").click()
    expect(shelf.card("Deep harbour")).to_be_visible()


def test_saving_a_version_with_a_note(bench: Bench):
    page = bench.page
    bench.type_point(2, "out", "230")
    page.get_by_role("button", name="Save version").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Note").fill("For the ferry")
    sheet.get_by_role("button", name="Save version").click()
    expect(page.get_by_text("Version 1", exact=True)).to_be_visible()
    assert Version.objects.get().note == "For the ferry"
    page.get_by_role("button", name="Save version").click()
    page.get_by_role("dialog").get_by_role("button", name="Save version").click()
    expect(page.get_by_role("dialog").get_by_role("alert")).to_have_text("Nothing has changed since version 1.")


@pytest.mark.parametrize("width", [1180, 1920])
def test_nothing_is_cut_off_at_other_widths(bench: Bench, width):
    bench.page.set_viewport_size({"width": width, "height": 800})
    settle(bench.page)
    assert bench.page.evaluate("() => document.documentElement.scrollWidth") == width
    for name in ("Bake…", "Save version"):
        box = bench.page.get_by_role("button", name=name).bounding_box()
        assert box["x"] + box["width"] <= width
    assert LookDraft.objects.count() == 1


def test_a_look_without_steps_still_fills_the_page(bench: Bench):
    page = bench.page
    page.get_by_role("button", name="Delete: Curves").click()
    page.get_by_role("heading", name="What are your pictures?").wait_for()
    tray = page.get_by_role("navigation", name="Test pictures").bounding_box()
    assert tray["y"] + tray["height"] == 800
    assert page.get_by_test_id("compare").bounding_box()["width"] > 500


def test_signing_in_with_a_wrong_password_and_the_right_one(page, server, studio):
    page.goto(server.url)
    page.get_by_label("Name").fill("ilse")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_have_text("The name or the password is wrong.")
    sign_in(page, server.url, "ilse", PASSWORD)


def test_words_that_somebody_else_wrote_meanwhile_are_shown_to_choose_from(bench: Bench, studio):
    entry = look_named("Salt").entry
    page = bench.page
    page.goto(f"{bench.url}/shelf/look/{entry.pk}")
    note = page.get_by_label("Note", exact=True)
    note.fill("For the ferry")
    catalogue.change(studio, "look", entry.pk, {"note": "For the quay, at night"})
    page.get_by_label("Author", exact=True).focus()
    told = page.get_by_role("alert")
    expect(told).to_contain_text("Ilse Harrow has changed the note meanwhile. It now says “For the quay, at night”.")
    told.get_by_role("button", name="Keep mine").click()
    expect(told).to_be_hidden()
    expect(note).to_have_value("For the ferry")
    entry.refresh_from_db()
    assert entry.note == "For the ferry"
