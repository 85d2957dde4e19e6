"""What a person may not do is not offered to them: a viewer looks, compares and tries, and nothing is ever refused."""

from __future__ import annotations

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from saucer.core.look.model import look_from
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from tests.browser.conftest import PASSWORD
from tests.browser.pages import Bench, Shelf, canvas_pixels, signed_in
from tests.browser.test_access import violations
from tests.browser.test_bench import close, expected
from tests.find import draft_named, look_named
from tests.studio.conftest import propose_all

STEPS = [{"kind": "tone", "id": "tone", "exposure": 0.6}, {"kind": "saturation", "id": "sat", "factor": 0.3}]
EDITING = (
    "Save version", "Bake…", "Add a step", "Keep as a preset", "Delete: Tone", "Duplicate: Tone", "Bring in a picture", "New look",
    "Bring in LUTs", "Make a LUT", "Delete from the Shelf", "Download the look file",
)  # fmt: skip


@pytest.fixture
def refused(page: Page) -> list[str]:
    """Every answer of the server that refuses something."""
    found: list[str] = []
    page.on("response", lambda response: found.append(response.url) if response.status in (401, 403) else None)
    return found


@pytest.fixture
def viewers(page: Page, server, studio: Person) -> Bench:
    """A designer's look, seen by a viewer."""
    draft = looks.create(studio, look_from({"name": "Salt", "steps": STEPS}))
    looks.save_version(studio, draft.pk, "First")
    propose_all()
    viewer = Person.objects.create_user("vera", password=PASSWORD, role="viewer", full_name="Vera Quay")
    signed_in(page, server.url, viewer)
    return Bench(page, server.url).open(draft.pk)


def offered(page: Page) -> list[str]:
    return [name for name in EDITING if page.get_by_role("button", name=name).or_(page.get_by_role("link", name=name)).count() > 0]


def test_a_viewers_bench_is_a_place_to_look(viewers: Bench, refused):
    page, revision = viewers.page, look_named("Salt").revision
    expect(page.get_by_test_id("save-state")).to_have_text("To look at: what is tried here is not saved")
    assert offered(page) == []
    viewers.choose("Saturation")
    panel = page.get_by_role("region", name="Step: Saturation")
    expect(panel.get_by_label("Settings")).to_contain_text("factor")
    expect(panel).to_contain_text("Designers can change this step.")
    expect(panel.get_by_role("slider")).to_have_count(0)
    close(viewers.pixels(), expected(draft_named("Salt")))
    assert violations(page) == []
    # Keys that edit do nothing; those for looking work.
    for key in ("a", "g", "p", "Delete", "Alt+ArrowDown"):
        page.keyboard.press(key)
    expect(page.get_by_test_id("add-panel")).to_have_count(0)
    expect(page.get_by_role("dialog")).to_have_count(0)
    assert viewers.order() == ["Tone", "Saturation"]
    page.keyboard.press("[")
    expect(page.get_by_test_id("stage-words")).to_have_text("after Tone")
    page.keyboard.press("]")
    page.keyboard.press("w")
    viewers.tray("Chart")
    page.keyboard.press("w")
    # A strength can be tried, and is gone with the page.
    viewers.tray("Quay, dusk").choose("Tone").type_setting("Strength of the step, percent", "0")
    tried = look_from({"name": "Salt", "steps": [STEPS[0] | {"strength": 0}, STEPS[1]]})
    close(viewers.pixels(), expected(tried))
    page.keyboard.press("h")
    versions = page.get_by_role("article", name="Version 1")
    expect(versions.get_by_role("button", name="Compare")).to_be_visible()
    expect(versions.get_by_role("button", name="Go back to it")).to_have_count(0)
    expect(versions.get_by_role("button", name="Branch a look from it")).to_have_count(0)
    page.reload()
    viewers.wait_at_rest()
    close(viewers.pixels(), expected(draft_named("Salt")))
    assert look_named("Salt").revision == revision
    assert refused == []


def test_a_viewers_shelf_and_pictures_offer_nothing_that_is_refused(viewers: Bench, refused):
    page = viewers.page
    shelf = Shelf(page).open()
    expect(page.get_by_role("img", name="through Salt")).to_be_visible()
    assert offered(page) == []
    shelf.enter("Salt").strength(30)
    expect(page.get_by_role("region", name="About it")).to_be_visible()
    assert offered(page) == []
    expect(page.get_by_role("region", name="Graded picture")).to_have_count(0)
    expect(page.get_by_label("Category")).to_have_count(0)
    assert violations(page) == []
    page.get_by_role("button", name="Look at it on the Bench").click()
    expect(page.get_by_test_id("save-state")).to_have_text("To look at: what is tried here is not saved")
    page.get_by_role("link", name="Pictures", exact=True).click()
    expect(page.get_by_role("img", name="Quay, dusk")).to_be_visible()
    assert offered(page) == []
    expect(page.get_by_role("button", name="Delete Quay, dusk")).to_have_count(0)
    expect(page.get_by_role("button", name="Encoding of Quay, dusk")).to_have_count(0)
    assert refused == []


def test_a_colour_is_pasted_as_people_hold_it(bench: Bench):
    """#E8C9A0 is 232, 201, 160 of 255."""
    bench.add_step("Wash")
    box = bench.page.get_by_label("hexadecimal")
    box.fill("#E8C9A0")
    box.press("Enter")
    bench.wait_saved()
    np.testing.assert_allclose(draft_named("Salt").steps[-1].colour, np.array([232, 201, 160]) / 255, atol=1e-6)
    close(bench.pixels(), expected(draft_named("Salt")))
    box.fill("#12")
    expect(box).to_have_attribute("aria-invalid", "true")
    box.press("Escape")
    expect(box).to_have_value("#E8C9A0")
    bench.undo()
    expect(box).not_to_have_value("#E8C9A0")


def test_single_keys_are_the_pages_again_after_enter_in_a_number(bench: Bench):
    bench.type_point(2, "out", "230")
    bench.page.keyboard.press("a")
    expect(bench.page.get_by_test_id("add-panel")).to_be_visible()


def test_names_win_over_descriptions_when_something_is_added(bench: Bench):
    """The words that describe Curves hold "tone"."""
    bench.page.keyboard.press("a")
    bench.page.keyboard.type("tone")
    bench.page.keyboard.press("Enter")
    expect(bench.page.get_by_test_id("add-panel")).to_be_hidden()
    assert bench.order() == ["Curves", "Tone"]


def test_bring_in_stays_in_sight_however_many_pictures_there_are(bench: Bench, studio):
    from saucer.studio.pictures.models import Picture

    first = Picture.objects.earliest("pk")
    for number in range(14):
        first.pk, first.name = None, f"Picture {number}"
        first.save()
    for width in (1180, 1280):
        bench.page.set_viewport_size({"width": width, "height": 800})
        bench.page.reload()
        button = bench.page.get_by_role("button", name="Bring in a picture")
        expect(button).to_be_in_viewport(ratio=1)
        bench.wait_at_rest()
        button.click()
        expect(bench.page.get_by_role("dialog")).to_be_visible()
        bench.page.keyboard.press("Escape")


def test_what_changes_with_the_encoding_is_said(bench: Bench):
    bench.tray("Room and window")
    bench.page.get_by_role("button", name="Make the look expect and give Film log").click()
    expect(bench.page.get_by_role("status").filter(has_text="It now gives Film log too")).to_be_visible()
    bench.wait_saved()
    assert (draft_named("Salt").input, draft_named("Salt").output) == ("film-log", "film-log")
    bench.undo()
    expect(bench.page.get_by_text("It now gives Film log too")).to_have_count(0)
    bench.wait_saved()
    assert (draft_named("Salt").input, draft_named("Salt").output) == ("srgb", "srgb")


def test_a_deleted_lut_is_gone_from_what_can_be_added_at_once(bench: Bench, studio, do_jobs, tmp_path):
    from saucer.core.files.formats import cube
    from saucer.studio.luts.rules import bring_in
    from tests.make import a_lut

    bring_in(studio, cube.write(a_lut(5, title="Pale orchard")), "pale.cube")
    page, address = bench.page, bench.page.url
    bench.search("pale orch")
    expect(page.get_by_role("option").filter(has_text="Pale orchard")).to_be_visible()
    page.keyboard.press("Escape")
    shelf = Shelf(page).open()
    shelf.enter("Pale orchard")
    page.get_by_role("button", name="Delete from the Shelf").click()
    expect(page.get_by_text("Pale orchard was deleted")).to_be_visible()
    page.get_by_role("link", name="Bench", exact=True).click()
    page.wait_for_url(f"**{address[address.index('/bench') :].split('?')[0]}**")
    bench.search("pale orch")
    expect(page.get_by_role("option").filter(has_text="Pale orchard")).to_have_count(0)


def test_bitmaps_that_a_trial_replaces_give_their_memory_back(bench: Bench, studio):
    """A bitmap that is closed has no width any more."""
    from saucer.core.files.formats import cube
    from saucer.studio.luts.rules import bring_in
    from tests.make import a_lut

    entry = bring_in(studio, cube.write(a_lut(9, title="Pale")), "pale.cube")
    page = bench.page
    page.add_init_script(
        "const make = window.createImageBitmap; window.made = [];"
        "window.createImageBitmap = async (...given) => { const one = await make(...given); window.made.push(one); return one; };"
    )
    page.goto(page.url.split("/bench")[0] + f"/shelf/lut/{entry.pk}")
    Shelf(page).view("Tools")
    page.wait_for_function("() => window.made.length >= 4")
    for percent in ("30", "60", "90"):
        before = page.evaluate("() => window.made.length")
        box = page.get_by_label("Amount, percent")
        box.fill(percent)
        box.press("Enter")
        page.wait_for_function("(before) => window.made.length >= before + 2", arg=before)
    page.wait_for_function("() => window.made.filter((one) => one.width > 0).length <= 4")
    assert canvas_pixels(page).std() > 1
