"""LUT work as people do it: baking a part in several formats, packs, health and mends, tools, round trips and pairs."""

from __future__ import annotations

import base64
import zipfile
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from saucer.core.bake.part import Part, take_part
from saucer.core.engine.plan import prepare
from saucer.core.files.format import Options
from saucer.core.files.registry import formats, read_lut
from saucer.core.look.model import look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.combine import fade_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.health import examine
from saucer.core.lut.table import Lattice, Lut
from saucer.core.making.roundtrip.standin import Editor, edit
from saucer.core.pictures.io import read_picture
from saucer.core.pictures.scale import make_proxy
from saucer.demo.catalogue import FOLDER
from saucer.studio.looks import rules as looks
from saucer.studio.luts.models import Lut as LutRow
from saucer.studio.luts.rules import table_of
from tests.browser.pages import Bench, Shelf, canvas_pixels, option, shows, tick
from tests.browser.test_access import violations
from tests.find import look_named, the_lut
from tests.make import CHANGED, WARM, a_look, a_lut, evaluate, random_pixels

STEPS = [CHANGED["cdl"], {"kind": "group", "name": "Film", "steps": [WARM]}, {"kind": "grain", "amount": 0.3}]


def with_steps(bench: Bench, studio, steps: list) -> Bench:
    entry = look_named("Salt")
    looks.save_draft(studio, entry.pk, look_from({"name": "Salt", "steps": steps}), entry.revision)
    return bench.open(entry.pk)


def rough() -> Lut:
    rng = np.random.default_rng(3)
    table = grid(17).reshape(17, 17, 17, 3) ** np.float32(1.2) * 0.9 + rng.normal(scale=0.006, size=(17, 17, 17, 3)) + 0.04
    return Lut(lattice=Lattice(table.astype(np.float32)), title="Old print")


def test_baking_one_group_for_another_encoding_in_two_formats(bench: Bench, studio, do_jobs, tmp_path: Path):
    page = with_steps(bench, studio, STEPS).page
    page.get_by_role("button", name="Bake…").click()
    sheet = page.get_by_role("dialog")
    check = sheet.get_by_role("table")
    expect(check.get_by_role("row", name="Colours everywhere")).to_be_visible()
    expect(sheet.get_by_text("Grain (step 3)")).to_be_visible()
    sheet.get_by_role("radio", name="One step or group").click()
    sheet.get_by_role("button", name="Step or group").click()
    option(page, "Film").click()
    expect(sheet.get_by_text("Grain (step 3)")).to_be_hidden()
    sheet.get_by_role("button", name="It expects").click()
    option(page, "ACEScct").click()
    tick(sheet, "3DL")
    sheet.get_by_role("button", name="Bits of 3DL").click()
    option(page, "10 bits").click()
    expect(sheet.get_by_text("rounded to 10 bits")).to_be_visible()
    sheet.get_by_label("Rights").fill("Team only")
    sheet.get_by_role("radio", name="25, error").click()
    assert violations(page) == []
    sheet.get_by_role("button", name="Bake", exact=True).click()
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    with page.expect_download() as download:
        sheet.get_by_role("link", name="Download all formats").click()
    download.value.save_as(tmp_path / "all.zip")
    names = zipfile.ZipFile(tmp_path / "all.zip").namelist()
    assert names == ["salt-25.cube", "salt-25.3dl"]
    entry = the_lut()
    assert (entry.expects, entry.gives, entry.facts["part"]) == ("acescct", "srgb", "only step 2")
    assert entry.version.entry.name == "Salt", "a bake belongs to its look"
    lut = read_lut(zipfile.ZipFile(tmp_path / "all.zip").read("salt-25.cube"), "x")[0]
    assert "Only step 2" in lut.comments
    from saucer.core.colour.conversion import convert
    from saucer.core.colour.encodings import ENCODINGS

    x = random_pixels() * np.float32(0.4) + np.float32(0.1)
    alone = take_part(a_look(*STEPS), Part(path="steps[1]"))
    wanted = evaluate(alone, np.asarray(convert(x, ENCODINGS["acescct"], ENCODINGS["srgb"]), np.float32))
    assert np.percentile(np.abs(apply_lut(lut, x) - wanted), 95) < 0.02
    page.keyboard.press("Escape")
    page.reload()
    page.get_by_role("button", name="Bake…").click()
    expect(page.get_by_role("dialog").get_by_role("checkbox", name="3DL")).to_be_checked()
    expect(page.get_by_role("dialog").get_by_label("Grid points a side")).to_have_value("25")


def test_the_check_shows_what_the_server_measured_and_refuses_what_cannot_be(bench: Bench, studio):
    page = with_steps(bench, studio, [CHANGED["hue-bands"]]).page
    page.get_by_role("button", name="Bake…").click()
    sheet = page.get_by_role("dialog")
    row = sheet.get_by_role("row", name="Colours everywhere")
    expect(row).to_be_visible()
    shown = [float(cell) for cell in row.get_by_role("cell").all_inner_texts()]
    from saucer.core.bake.bake import sample_for
    from saucer.core.bake.fidelity import Truth, measure

    wanted = a_look(CHANGED["hue-bands"])
    baked, _ = sample_for(prepare(wanted), formats()["cube"], 33)
    found = measure(Truth(prepare(wanted)), baked).colours.uniform
    np.testing.assert_allclose(shown, [found.mean, found.p95, found.p99, found.largest], atol=0.006)
    expect(sheet.get_by_text("No size in the chart keeps 99 % of the colours below 0.5.")).to_be_visible()
    expect(sheet.get_by_role("region", name="Worst colours").get_by_role("listitem")).to_have_count(6)
    tick(sheet, "SPI 1D")
    expect(sheet.get_by_role("alert")).to_contain_text("SPI 1D: holds curves only, and this look mixes channels")
    tick(sheet, "SPI 1D")
    tolerance = sheet.get_by_label("Tolerance, CIEDE2000")
    tolerance.fill("8")
    tolerance.press("Enter")
    expect(sheet.get_by_text("is the smallest that keeps 99 % of the colours below 8.")).to_be_visible()
    exact, baked = (canvas_pixels(page.get_by_role("dialog"), which) for which in ("before", "after"))
    assert np.abs(exact.astype(int) - baked).max() >= 1


def test_a_pack_with_odd_and_broken_files(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.arrive("/shelf")
    good, write = a_lut(9, title="Harbour"), formats()["cube"].write
    with zipfile.ZipFile(tmp_path / "pack.zip", "w") as archive:
        archive.writestr("Films/Night/harbour.cube", write(good, Options()))
        archive.writestr("Films/again.clf", formats()["clf"].write(good, Options()))
        archive.writestr("Films/comma.cube", b"LUT_3D_SIZE 2\n0 0 0\n0 0,5 0\n")
        archive.writestr("V-Log to Rec709.csp", formats()["csp"].write(a_lut(5), Options()))
    sheet = Shelf(page).open().read_pack(do_jobs, tmp_path / "pack.zip")
    expect(sheet.get_by_role("radio", name="All 4")).to_be_checked()
    expect(sheet.get_by_text("line 3: expected three numbers with a point as the decimal sign")).to_be_visible()
    expect(sheet.get_by_text("does the same as Films/Night/harbour.cube")).to_be_visible()
    expect(sheet.get_by_role("checkbox", name="Keep Harbour").nth(1)).not_to_be_checked()
    expect(sheet.get_by_label("V-Log to Rec709, expects")).to_have_value("v-log")
    assert violations(page) == []
    sheet.get_by_label("Name of Films/Night/harbour.cube").fill("Harbour print")
    sheet.get_by_label("Harbour print, expects").select_option("film-log")
    sheet.get_by_role("button", name="Put 2 on the Shelf").click()
    expect(page.get_by_text("2 LUTs are on the Shelf.")).to_be_visible()
    kept = {row.version.entry.name: row for row in LutRow.objects.all()}
    assert (kept["Harbour print"].version.entry.category.path, kept["Harbour print"].expects, kept["Harbour print"].known) == (
        "Films/Night",
        "film-log",
        "said",
    )
    assert (kept["V-Log to Rec709"].gives, kept["V-Log to Rec709"].known) == ("rec709", "asked")
    page.keyboard.press("Escape")
    cards = page.get_by_label("Entries").get_by_role("row")
    expect(cards).to_have_count(3)
    page.get_by_role("button", name="Films 1").click()
    expect(cards).to_have_count(1)
    expect(cards).to_contain_text("Harbour print")
    cards.click()
    category = page.get_by_role("region", name="About it").get_by_label("Category")
    category.fill("Winter/Harbour")
    category.press("Tab")
    expect(category).to_have_value("Winter/Harbour")
    Shelf(page).open()
    page.get_by_role("button", name="Winter 1").click()
    expect(cards).to_have_count(1)
    # The counts follow the choice: no look is in it, so that looks are not offered any more. An address may ask for them.
    expect(page.get_by_role("button", name="Looks")).to_have_count(0)
    page.goto(f"{page.url}&kind=look")
    expect(page.get_by_text("Nothing under what is chosen at the left.")).to_be_visible()
    page.get_by_role("button", name="Show everything").click()
    expect(cards).to_have_count(3)


def test_files_are_dropped_on_the_page(bench: Bench, do_jobs):
    page = bench.arrive("/shelf")
    Shelf(page).open()
    data = base64.b64encode(formats()["cube"].write(a_lut(5, title="Dropped"), Options())).decode()
    page.evaluate(
        """(data) => {
          const bytes = Uint8Array.from(atob(data), (letter) => letter.charCodeAt(0));
          const transfer = new DataTransfer();
          transfer.items.add(new File([bytes], "dropped.cube"));
          const main = document.querySelector("main");
          for (const type of ["dragover", "drop"]) main.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: transfer }));
        }""",
        data,
    )
    expect(page.get_by_role("dialog").get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    page.get_by_role("dialog").get_by_role("button", name="Put 1 on the Shelf").click()
    expect(page.get_by_role("heading", name="Dropped")).to_be_visible()


def test_a_rough_lut_is_examined_and_mended(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.arrive("/shelf")
    (tmp_path / "old.cube").write_bytes(formats()["cube"].write(rough(), Options()))
    shelf = Shelf(page).open()
    shelf.bring_in(tmp_path / "old.cube", do_jobs)
    shelf.choose_picture("Quay, dusk").view("Health")
    expect(page.get_by_role("heading", name="Found: ")).to_contain_text("rough")
    findings = page.get_by_role("region", name="Findings")
    expect(findings.get_by_role("listitem").first).to_contain_text("a fault")
    assert violations(page) == []
    cube = page.get_by_role("img", name="The lattice in the cube")
    before = cube.evaluate("(canvas) => canvas.toDataURL()")
    cube.press("ArrowRight")
    assert cube.evaluate("(canvas) => canvas.toDataURL()") != before, "it can be turned"
    findings.get_by_role("button", name="Smooth it").first.click()
    expect(page.get_by_text("Smoothed", exact=True)).to_be_visible()
    small, _ = make_proxy(FOLDER / "quay-dusk.png", read_encoding(), 960, 540)
    wanted = np.round(np.clip(apply_lut(rough(), small), 0, 1) * 255)
    shows(page, wanted, "before")
    page.get_by_role("button", name="Keep as a new LUT").click()
    expect(page.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(page.get_by_role("heading", name="Old print, smoothed")).to_be_visible()
    expect(page.get_by_role("link", name="Old print", exact=True)).to_be_visible()
    made = the_lut(made_by="smooth")
    assert made.version.from_version.entry.name == "Old print"
    rough_now = next(one for one in examine(table_of(made)).findings if one.id == "rough")
    assert rough_now.level == "fine"


def read_encoding():
    from saucer.core.colour.encodings import ENCODINGS

    return ENCODINGS["srgb"]


def test_a_strength_baked_in(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.arrive("/shelf")
    (tmp_path / "one.cube").write_bytes(formats()["cube"].write(a_lut(9, title="One"), Options()))
    shelf = Shelf(page).open()
    shelf.bring_in(tmp_path / "one.cube", do_jobs)
    shelf.choose_picture("Quay, dusk").view("Tools")
    box = page.get_by_label("Amount, percent")
    box.fill("30")
    box.press("Enter")
    small, _ = make_proxy(FOLDER / "quay-dusk.png", read_encoding(), 960, 540)
    wanted = np.round(np.clip(apply_lut(fade_lut(a_lut(9), 0.3), small), 0, 1) * 255)
    shows(page, wanted)
    assert violations(page) == []
    page.get_by_role("button", name="Keep as a new LUT").click()
    expect(page.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(page.get_by_role("heading", name="One, at 30%")).to_be_visible()
    np.testing.assert_allclose(
        table_of(the_lut(made_by="strength")).lattice.table, fade_lut(a_lut(9), 0.3).lattice.table, atol=1e-6
    )


def test_a_chart_goes_through_another_program_and_comes_back(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.arrive("/shelf")
    sheet = Shelf(page).open().make("Round trip")
    sheet.get_by_role("button", name="Colours a side").click()
    option(page, "11").click()
    with page.expect_download() as download:
        sheet.get_by_role("link", name="Download the chart").click()
    assert download.value.suggested_filename == "twin-chart-11-16bit-srgb.png"
    download.value.save_as(tmp_path / "chart.png")
    edit(Editor(vignette=0.3), tmp_path / "chart.png", tmp_path / "evening.png")
    with page.expect_file_chooser() as chooser:
        sheet.get_by_role("button", name="Drop the recoloured chart here").click()
    chooser.value.set_files(tmp_path / "evening.png")
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    effects = sheet.get_by_role("list", name="What got in")
    expect(effects.get_by_role("listitem")).to_have_count(1)
    expect(effects).to_contain_text("Vignette")
    assert violations(page) == []
    sheet.get_by_role("button", name="Keep it smoothed").click()
    expect(page.get_by_role("heading", name="evening")).to_be_visible()
    entry = the_lut()
    wanted = np.clip(evaluate(Editor().look, grid(11)), 0, 1).reshape(11, 11, 11, 3)
    assert np.sqrt(np.mean((table_of(entry).lattice.table - wanted) ** 2)) < 0.02
    small = tmp_path / "small.png"
    Image.open(tmp_path / "evening.png").resize((400, 300)).save(small)
    sheet = Shelf(page).open().make("Round trip")
    with page.expect_file_chooser() as chooser:
        sheet.get_by_role("button", name="Drop the recoloured chart here").click()
    chooser.value.set_files(small)
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(sheet.get_by_role("alert")).to_contain_text("small.png: ")


def test_practising_with_the_stand_in_editor(bench: Bench, do_jobs):
    page = bench.arrive("/shelf")
    sheet = Shelf(page).open().make("Round trip")
    tick(sheet, "Grain")
    sheet.get_by_role("button", name="Recolour and read back").click()
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(sheet.get_by_role("list", name="What got in")).to_contain_text("Grain")
    tick(sheet, "Grain")
    sheet.get_by_role("button", name="Recolour and read back").click()
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(sheet.get_by_text("Clean: the colours alone decide what they become.")).to_be_visible()


def test_a_pair_of_pictures_becomes_a_lut(bench: Bench, do_jobs, tmp_path: Path):
    page = bench.arrive("/shelf")
    original = read_picture(FOLDER / "quay-dusk.png").pixels[::3, ::3]
    look = a_look(WARM)
    for name, pixels in (("before.png", original), ("warm.png", np.clip(evaluate(look, np.ascontiguousarray(original)), 0, 1))):
        Image.fromarray((pixels * 255 + 0.5).astype(np.uint8)).save(tmp_path / name)
    sheet = Shelf(page).open().make("From a pair of pictures")
    for prompt, name in (("Drop the original here", "before.png"), ("Drop its recoloured copy here", "warm.png")):
        with page.expect_file_chooser() as chooser:
            sheet.get_by_role("button", name=prompt).click()
        chooser.value.set_files(tmp_path / name)
    sheet.get_by_role("button", name="Fit a LUT").click()
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(sheet.get_by_role("img", name="Where the pair had evidence")).to_be_visible()
    assert violations(page) == []
    sheet.get_by_role("button", name="Keep the LUT").click()
    expect(page.get_by_role("heading", name="warm")).to_be_visible()
    entry = the_lut()
    assert "CIEDE2000" in entry.facts["words"]
    values = np.ascontiguousarray(original[::7, ::7].reshape(-1, 3))
    assert np.percentile(np.abs(apply_lut(table_of(entry), values) - evaluate(look, values)), 95) < 0.02
