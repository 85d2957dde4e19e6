"""The whole order of work in one go, mouse and keyboard: from an untouched log picture to a saved version, with the pixels against the core."""

from __future__ import annotations

import numpy as np
from playwright.sync_api import expect

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.files.formats import cube
from saucer.core.look.model import Group, Look, look_from
from saucer.core.lut.table import Lut
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import write_picture
from saucer.studio.looks.rules import look_of
from saucer.studio.luts import rules as luts
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from tests.browser.pages import Bench
from tests.browser.test_bench import close
from tests.find import draft_named, look_named
from tests.make import a_lut, render

PRINT = a_lut(17, seed=4, title="Harbour print")


def a_log_picture(path) -> None:
    """The demo's display picture as a film scanner would have written it: film log code values."""
    light = proxy_in(Picture.objects.get(name="Quay, dusk"), ENCODINGS["linear-709"])
    write_picture(Pixels(convert(light, ENCODINGS["linear-709"], ENCODINGS["film-log"]).astype(np.float32), "u16"), path)


def as_core(look: Look, name: str) -> np.ndarray:
    values = proxy_in(Picture.objects.get(name=name), ENCODINGS[look.input], view=look.view)
    done = render(look, values, luts=lambda _: PRINT_LUT)
    return np.round(np.clip(convert(done, ENCODINGS[look.output], ENCODINGS["srgb"], look.view), 0, 1) * 255)


PRINT_LUT: Lut = cube.read(cube.write(PRINT))


def drag_strength(bench: Bench, percent: str) -> None:
    box = bench.page.get_by_label("Strength of the step, percent")
    box.fill(percent)
    box.press("Enter")


def test_from_an_untouched_log_picture_to_a_saved_version(bench: Bench, studio, tmp_path):
    page = bench.page
    luts.bring_in(studio, cube.write(PRINT), "harbour.cube", "Harbour print", "rec709", "rec709")
    a_log_picture(tmp_path / "reel.tif")
    # A new look; say what the picture is.
    page.get_by_role("button", name="Other looks").click()
    page.get_by_role("button", name="New look").click()
    expect(page.get_by_role("heading", name="What are your pictures?")).to_be_visible()
    name = page.get_by_label("Name of the look")
    name.fill("Low water")
    name.press("Enter")
    bench.bring_in(tmp_path / "reel.tif", "Film log")
    expect(page.get_by_text("This picture is Film log; it is converted on the way in.")).to_be_visible()
    page.get_by_role("button", name="Make the look expect and give Film log").click()
    bench.wait_at_rest()
    # Correct the base, by keys and by a pick.
    bench.add_step("White balance")
    page.get_by_role("button", name="Pick a neutral").click()
    bench.click_picture(0.35, 0.82)
    expect(page.get_by_role("button", name="Undo White balance: picked neutral")).to_be_visible()
    page.keyboard.press("Escape")
    bench.add_step("Tone")
    bench.type_setting("Exposure, EV", "0.3")
    bench.type_setting("Contrast", "1.25")
    bench.choose("White balance").choose("Tone", "Shift")
    page.keyboard.press("g")
    bench.page.get_by_label("Name of the step").fill("Base")
    page.keyboard.press("Enter")
    # Shape it, channel by channel and all three.
    bench.leave()
    page.keyboard.press("a")
    page.keyboard.type("curves")
    expect(page.get_by_role("option", name="Colour curves")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("curve-graph")).to_be_visible()
    bench.drag_point((0.35, 0.35), (0.35, 0.3))
    bench.channel("Blue").drag_point((0, 0), (0, 0.06))
    # Push hues, and watch skin.
    bench.add_step("Hue bands")
    bench.type_setting("Saturation, x", "1.2")
    # Tint shadows and highlights.
    bench.add_step("Split tone")
    bench.type_setting("Hue, °", "240")
    bench.type_setting("Amount, C", "0.03")
    bench.choose("Hue bands").choose("Split tone", "Shift")
    page.keyboard.press("g")
    drag_strength(bench, "70")
    # A LUT at part strength, made for display pictures: converted to and from by itself.
    bench.search("harbour")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("add-panel")).to_be_hidden()
    drag_strength(bench, "40")
    expect(page.get_by_label("What happens, in order")).to_contain_text("Film log is converted to Rec.709 display.")
    # The finish, outside the LUT.
    bench.add_step("Vignette")
    bench.type_setting("Amount", "0.4")
    after = bench.pixels()
    bench.wait_saved()
    look = draft_named("Low water")
    assert (look.input, look.output) == ("film-log", "film-log")
    assert [step.kind for step in look.steps] == ["group", "curves", "group", "lut", "vignette"]
    assert isinstance(look.steps[0], Group)
    assert [step.kind for step in look.steps[0].steps] == ["white-balance", "tone"]
    assert (look.steps[2].strength, look.steps[3].strength) == (0.7, 0.4)
    close(after, as_core(look, "reel"))
    # Compare, across stages and pictures.
    bench.leave()
    page.keyboard.press("[")
    expect(page.get_by_test_id("stage-words")).to_have_text("after LUT")
    close(bench.pixels(), as_core(look_from(look.model_dump() | {"steps": [step.model_dump() for step in look.steps[:4]]}), "reel"))
    page.keyboard.press("]")
    bench.tray("Chart")
    close(bench.pixels(), as_core(look, "Chart"))
    # Version it.
    page.get_by_role("button", name="Save version").click()
    page.get_by_role("dialog").get_by_label("Note").fill("For the quay scenes")
    page.get_by_role("dialog").get_by_role("button", name="Save version").click()
    expect(page.get_by_role("dialog")).to_be_hidden()
    version = look_named("Low water").entry.versions.get()
    assert version.note == "For the quay scenes"
    assert look_of(version).content_hash == look.content_hash
