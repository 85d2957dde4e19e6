"""The family of a look on the Bench: begun, worked at by drags, and there again after a reload."""

from __future__ import annotations

import numpy as np
from playwright.sync_api import expect

from saucer.studio.catalogue.models import Entry
from saucer.studio.looks import rules as looks
from tests.browser.pages import Bench, eventually
from tests.browser.test_paths import Counted


def family() -> list[dict]:
    return looks.draft_of(Entry.objects.get(name="Salt").pk).content["family"]


def apart(seen: np.ndarray, other: np.ndarray) -> np.ndarray:
    assert np.abs(seen.astype(int) - other).mean() > 1
    return seen


def same(seen: np.ndarray, other: np.ndarray) -> None:
    assert (seen == other).all()


def test_a_family_is_begun_and_each_of_it_worked_at(bench: Bench):
    page, do = bench.add_step("Tone").page, Counted(bench.page)
    recipe = bench.pixels()
    do.press(page.get_by_role("button", name="One more of the family"))
    do.type("Night")
    do.key("Enter")
    do.done("One more of a look's family")
    expect(page.get_by_role("radio", name="Night")).to_be_checked()

    thumb = page.get_by_role("slider", name="Exposure").locator("..")
    box = thumb.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    for far in (10, 20, 30):
        page.mouse.move(box["x"] - far, box["y"] + box["height"] / 2)
    page.mouse.up()
    expect(page.get_by_text("1 of its own")).to_be_visible()
    bench.wait_saved()
    (night,) = family()
    assert night["name"] == "Night"
    ((step, settings),) = night["settings"].items()
    assert settings["exposure"] < -0.5
    assert step == looks.draft_of(Entry.objects.get(name="Salt").pk).content["steps"][1]["id"]
    thinner = eventually(page, lambda: apart(bench.pixels(), recipe))
    page.get_by_role("radio", name="Recipe").click()
    eventually(page, lambda: same(bench.pixels(), recipe))
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Redo Tone: Exposure")).to_be_visible()
    page.keyboard.press("Control+Shift+z")

    page.get_by_role("radio", name="Night").click()
    bench.wait_saved()
    page.reload()
    expect(page.get_by_role("radio", name="Night")).to_be_checked()
    eventually(page, lambda: same(bench.pixels(), thinner))
