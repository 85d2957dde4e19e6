"""Arranging a look: adding, moving, grouping, copying, switching off, by mouse and by keys, with the picture's pixels against the core."""

from __future__ import annotations

from contextlib import suppress

import numpy as np
import pytest
from playwright.sync_api import Error, Page, Route, expect

from saucer.core.bake.bake import bake
from saucer.core.look.model import look_from
from saucer.core.lut.table import Lut
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from tests.browser.pages import Bench, eventually, option
from tests.browser.test_bench import close, draft, expected
from tests.browser.test_editors import as_graded
from tests.find import draft_named, look_named
from tests.make import a_look, a_lut

STEPS = [
    {"kind": "tone", "id": "tone", "exposure": 0.4},
    {"kind": "saturation", "id": "saturation", "factor": 1.4},
    {"kind": "wash", "id": "wash", "mode": "soft-light", "colour": [0.9, 0.5, 0.3]},
    {"kind": "vignette", "id": "vignette", "amount": 0.5},
]


@pytest.fixture
def several(bench: Bench, studio) -> Bench:
    """A look of four steps, the last of them one that no LUT can hold."""
    entry = look_named("Salt")
    looks.save_draft(studio, entry.pk, look_from({"name": "Salt", "steps": STEPS}), entry.revision)
    with bench.page.expect_response("**/api/looks/advice"):  # what is said about the steps comes last, and makes lines longer
        bench.open(entry.pk)
    return bench


def kinds() -> list:
    """The saved recipe: kinds, groups as lists."""
    return [[inner.kind for inner in step.steps] if step.kind == "group" else step.kind for step in draft().steps]


def drag_line(bench: Bench, name: str, onto: str, edge: float) -> None:
    """Drag a line by its number to the upper (0.1) or lower (0.9) part of another."""
    lines = bench.page.locator("[data-step]")
    start, end = None, None
    while True:
        # What is said about a step makes its line longer, and may come while they are measured.
        last = start, end
        start = lines.filter(has=bench.line(name)).first.bounding_box()
        end = lines.filter(has=bench.line(onto)).first.bounding_box()
        if start and (start, end) == last:
            break
        bench.page.wait_for_timeout(200)
    assert start
    assert end
    bench.page.mouse.move(start["x"] + 14, start["y"] + 14)
    bench.page.mouse.down()
    bench.page.mouse.move(end["x"] + 40, end["y"] + end["height"] * edge, steps=6)
    # Where a line has grown since, its place now is what counts.
    now = lines.filter(has=bench.line(onto)).first.bounding_box() or end
    bench.page.mouse.move(now["x"] + 40, now["y"] + now["height"] * edge)
    bench.page.mouse.up()


def test_steps_move_by_drag_and_by_keys_and_the_picture_follows(several: Bench):
    assert several.order() == ["Tone", "Saturation", "Wash", "Vignette"]
    drag_line(several, "Tone", "Wash", 0.9)
    assert several.order() == ["Saturation", "Wash", "Tone", "Vignette"]
    after = several.pixels()
    several.wait_saved()
    assert kinds() == ["saturation", "wash", "tone", "vignette"]
    close(after, as_graded(draft()))
    several.choose("Tone").page.keyboard.press("Alt+ArrowUp")
    assert several.order() == ["Saturation", "Tone", "Wash", "Vignette"]
    several.undo()
    several.undo()
    assert several.order() == ["Tone", "Saturation", "Wash", "Vignette"]


def test_escape_puts_a_dragged_line_back(several: Bench):
    start, end = (several.line(name).bounding_box() for name in ("Tone", "Wash"))
    several.page.mouse.move(start["x"] - 60, start["y"] + 8)
    several.page.mouse.down()
    several.page.mouse.move(end["x"], end["y"] + end["height"], steps=5)
    several.page.keyboard.press("Escape")
    several.page.mouse.up()
    assert several.order() == ["Tone", "Saturation", "Wash", "Vignette"]


def test_the_finish_stands_under_its_own_rule(several: Bench):
    recipe = several.page.get_by_test_id("recipe").inner_text()
    assert recipe.index("Wash") < recipe.index("out") < recipe.index("stays out of the LUT") < recipe.index("Vignette")
    several.add_step("Curves")
    assert several.order()[-1] == "Vignette", "what is added goes before the finish"


def test_group_strength_blend_and_ungroup_by_keys(several: Bench):
    several.choose("Saturation").choose("Wash", "Shift").page.keyboard.press("g")
    expect(several.page.get_by_test_id("group")).to_have_count(1)
    several.wait_saved()
    assert kinds() == ["tone", ["saturation", "wash"], "vignette"]
    box = several.page.get_by_label("Strength of the step, percent")
    box.fill("40")
    box.press("Enter")
    several.page.get_by_role("button", name="Laid over what came in").click()
    option(several.page, "Soft light").click()
    after = several.pixels()
    several.wait_saved()
    group = draft().steps[1]
    assert (group.strength, group.blend) == (0.4, "soft-light")
    close(after, as_graded(draft()))
    several.page.get_by_test_id("group").click()
    several.page.keyboard.press("Shift+G")
    expect(several.page.get_by_test_id("group")).to_have_count(0)
    several.wait_saved()
    assert kinds() == ["tone", "saturation", "wash", "vignette"]


def test_a_step_moves_into_and_out_of_a_group_by_keys(several: Bench):
    several.choose("Saturation").choose("Wash", "Shift").page.keyboard.press("g")
    several.choose("Tone").page.keyboard.press("Alt+ArrowDown")
    several.wait_saved()
    assert kinds() == [["tone", "saturation", "wash"], "vignette"]
    several.page.keyboard.press("Alt+ArrowUp")
    several.wait_saved()
    assert kinds() == ["tone", ["saturation", "wash"], "vignette"]


def test_several_are_switched_off_duplicated_and_deleted_together_and_come_back_by_undo(several: Bench):
    several.choose("Tone").choose("Wash", "Control").page.keyboard.press("e")
    close(several.pixels(), as_graded(look_from({"steps": [STEPS[1], STEPS[3]]})))
    several.page.keyboard.press("e")
    several.page.keyboard.press("Shift+D")
    assert several.order() == ["Tone", "Saturation", "Wash", "Tone", "Wash", "Vignette"]
    several.page.keyboard.press("Delete")
    assert several.order() == ["Tone", "Saturation", "Wash", "Vignette"]
    several.choose("Tone").choose("Wash", "Control").page.keyboard.press("Delete")
    assert several.order() == ["Saturation", "Vignette"]
    several.undo()
    assert several.order() == ["Tone", "Saturation", "Wash", "Vignette"]
    several.wait_saved()
    assert kinds() == ["tone", "saturation", "wash", "vignette"]


def test_steps_are_copied_as_text_and_pasted_into_another_look(several: Bench, studio, page: Page):
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    several.choose("Saturation").choose("Wash", "Shift").page.keyboard.press("Control+c")
    text = page.evaluate("navigator.clipboard.readText()")
    assert '"format": "saucer-steps"' in text
    other = looks.create(studio, look_from({"name": "Pepper", "steps": [{"kind": "tone"}]}))
    several.open(other.pk)
    page.keyboard.press("Control+v")
    expect(several.line("Wash")).to_be_visible()
    several.wait_saved()
    pasted = draft_named("Pepper").steps
    assert [step.kind for step in pasted] == ["tone", "saturation", "wash"]
    assert pasted[1].factor == 1.4
    assert {step.id for step in pasted}.isdisjoint({"saturation", "wash"}), "copies have ids of their own"
    page.evaluate("navigator.clipboard.writeText('a shopping list')")
    page.keyboard.press("Control+v")
    expect(page.get_by_text("There are no steps on the clipboard.")).to_be_visible()
    page.evaluate("""(text) => navigator.clipboard.writeText(text.replace('1.4', '14'))""", text)
    page.keyboard.press("Control+v")
    expect(page.get_by_text("Not pasted.")).to_contain_text("must be at most 3, got 14")
    several.wait_saved()
    assert len(draft_named("Pepper").steps) == 3


def test_a_step_is_renamed_and_the_name_stays(several: Bench):
    several.choose("Wash")
    box = several.page.get_by_label("Name of the step")
    box.fill("Amber haze")
    box.press("Enter")
    assert several.order() == ["Tone", "Saturation", "Amber haze", "Vignette"]
    several.wait_saved()
    assert draft().steps[2].name == "Amber haze"


def test_what_is_pointed_at_is_tried_and_escape_leaves_no_trace(several: Bench, studio):
    luts.bring_in(studio, _cube(a_lut(9)), "harbour.cube", "Harbour print", "srgb", "srgb")
    several.open(look_named("Salt").pk)
    before, saved, revision = several.pixels(), draft(), look_named("Salt").revision
    several.search("harbour")
    option(several.page, "Harbour print").hover()
    tried = several.pixels()
    assert np.abs(tried.astype(int) - before).mean() > 2
    expect(several.page.get_by_text("being tried")).to_be_visible()
    several.page.keyboard.press("Escape")
    expect(several.page.get_by_test_id("add-panel")).to_be_hidden()
    assert np.array_equal(several.pixels(), before)
    assert several.order() == ["Tone", "Saturation", "Wash", "Vignette"]
    assert several.page.get_by_role("button", name="Undo", exact=True).is_disabled()
    assert (draft(), look_named("Salt").revision) == (saved, revision)
    # The same by keys, and kept: at part strength, after the chosen step.
    several.page.keyboard.press("a")
    several.page.keyboard.type("harbour")
    several.page.keyboard.press("ArrowDown")
    several.page.keyboard.press("Enter")
    expect(several.page.get_by_test_id("add-panel")).to_be_hidden()
    expect(several.line("Harbour print").or_(several.line("LUT"))).to_be_visible()
    box = several.page.get_by_label("Strength of the step, percent")
    box.fill("35")
    box.press("Enter")
    several.wait_saved()
    added = draft().steps[1]
    assert (added.kind, added.strength, added.expects, added.title) == ("lut", 0.35, "srgb", "Harbour print")


def _cube(lut: Lut) -> bytes:
    from saucer.core.files.formats import cube

    return cube.write(lut)


def _asked(held: list[Route]) -> None:
    assert any("q=harbour" in one.request.url for one in held)


def test_enter_pressed_before_the_results_have_come_takes_what_they_bring(several: Bench, studio):
    luts.bring_in(studio, _cube(a_lut(9)), "harbour.cube", "Harbour print", "srgb", "srgb")
    page = several.page
    held: list[Route] = []
    released: list[bool] = []
    page.route("**/shelf/entries?*", lambda route: route.continue_() if released else held.append(route))
    page.keyboard.press("a")
    page.keyboard.type("harbour")
    expect(page.get_by_text("Looking on the Shelf")).to_be_visible()
    page.keyboard.press("Enter")
    eventually(page, lambda: _asked(held))
    expect(page.get_by_test_id("add-panel")).to_be_visible()
    released.append(True)
    for one in held:
        with suppress(Error):  # what was asked for letters before is wanted no more
            one.continue_()
    expect(page.get_by_test_id("add-panel")).to_be_hidden()
    page.unroute("**/shelf/entries?*")
    assert several.order() == ["Tone", "LUT", "Saturation", "Wash", "Vignette"]


def test_a_lut_is_taken_apart_where_it_is_added(bench: Bench, studio, do_jobs):
    print_like = a_look({"kind": "curves", "red": [[0, 0.05], [0.5, 0.56], [1, 0.97]]}, {"kind": "saturation", "factor": 0.7})
    luts.bring_in(studio, _cube(bake(print_like, 17)), "harbour.cube", "Harbour print", "srgb", "srgb")
    bench.search("harbour")
    option(bench.page, "Harbour print").hover()
    tried = bench.pixels()
    bench.page.get_by_role("button", name="As steps").click()
    expect(bench.page.get_by_test_id("add-panel")).to_be_hidden()
    expect(bench.page.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(bench.page.get_by_role("button", name="LUT What the steps do not explain")).to_be_visible()
    bench.wait_saved()
    group = draft().steps[-1]
    assert (group.kind, group.name, [step.kind for step in group.steps]) == (
        "group",
        "Harbour print",
        ["curves", "saturation", "lut"],
    )
    assert np.abs(bench.pixels().astype(int) - tried).mean() < 0.5, "seen as the LUT was"


def test_every_candidate_has_a_disc_of_the_picture_in_view(several: Bench):
    several.search("")
    disc = option(several.page, "Split tone").locator("span").first
    several.page.wait_for_function("(disc) => getComputedStyle(disc).backgroundImage.includes('blob:')", arg=disc.element_handle())
    assert several.page.get_by_role("option").count() >= 20


def test_a_conversion_shows_at_its_junction_and_the_end_is_put_right_in_one_click(several: Bench):
    several.choose("Wash").add_step("Convert")
    several.page.get_by_role("button", name="Choose an encoding").click()
    option(several.page, "Film log").click()
    expect(several.page.get_by_test_id("junction")).to_have_text("now Film log")
    advice = several.page.get_by_role("alert").filter(has_text="The steps end in film-log.")
    expect(advice).to_be_visible()
    advice.get_by_role("button", name="Convert at the end").click()
    expect(advice).to_be_hidden()
    several.wait_saved()
    assert [step.kind for step in draft().steps] == ["tone", "saturation", "wash", "convert", "convert", "vignette"]
    close(several.pixels(), as_graded(draft()))


def test_a_correction_after_a_loss_is_moved_before_it_in_one_click(bench: Bench, studio):
    entry = look_named("Salt")
    cut = {"kind": "limit", "id": "cut", "low": 0.3, "high": 0.6}
    looks.save_draft(studio, entry.pk, look_from({"name": "Salt", "steps": [cut, STEPS[0]]}), entry.revision)
    bench.open(entry.pk)
    line = bench.page.get_by_test_id("step").filter(has=bench.line("Tone"))
    expect(line.get_by_test_id("advice")).to_contain_text("of this picture is already clipped here, by Limit.")
    line.get_by_role("button", name="Move before Limit").click()
    assert bench.order() == ["Tone", "Limit"]
    expect(bench.page.get_by_test_id("advice")).to_have_count(0)
    bench.wait_saved()
    close(bench.pixels(), expected(draft()))
    bench.undo()
    assert bench.order() == ["Limit", "Tone"]
