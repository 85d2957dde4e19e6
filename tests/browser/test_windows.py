"""The picture alone, a second window on another screen, and several windows of one person at one look."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from tests.browser.pages import Bench, eventually, shows
from tests.browser.test_bench import draft
from tests.browser.test_compare import graded_pixels

CONTRAST = {"kind": "tone", "contrast": 1.4}


def second_of(bench: Bench) -> Page:
    bench.leave()
    with bench.page.expect_popup() as opened:
        bench.page.keyboard.press("Shift+V")
    return opened.value


def test_the_picture_alone_keeps_the_keys_and_ends_by_escape(bench: Bench):
    page = bench.leave().page
    tray = page.get_by_role("navigation", name="Test pictures").get_by_role("button").nth(4)
    other = tray.inner_text()
    expect(tray).to_be_visible()
    page.keyboard.press("v")
    box = page.get_by_role("region", name="Picture").bounding_box()
    assert box == {"x": 0, "y": 0, "width": 1280, "height": 800}
    expect(page.get_by_role("toolbar", name="Compare and zoom")).to_be_hidden()
    page.keyboard.press("2")
    expect(page.get_by_label(f"{other}, through the look", exact=True)).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("toolbar", name="Compare and zoom")).to_be_visible()
    page.get_by_role("button", name="The picture alone").click()
    page.get_by_role("button", name="Back from the picture alone").click()
    expect(tray).to_be_visible()


def test_a_second_window_shows_what_the_first_one_shows(bench: Bench):
    second = second_of(bench)
    bench.add_step("Tone").type_setting("Contrast", "1.4")
    bench.wait_saved()
    steps = [step.model_dump() for step in draft().steps]
    shows(second, graded_pixels(steps))
    assert second.get_by_role("button").count() == 0
    # What is looked at is followed too: another picture, and both sides of it.
    bench.tray("Chart")
    expect(second.get_by_label("Chart, through the look", exact=True)).to_be_visible()
    shows(second, graded_pixels(steps, "Chart"))
    bench.leave().page.keyboard.press("d")
    expect(second.get_by_label("original")).to_be_visible()
    second.close()
    bench.leave().page.keyboard.press("d")


def test_one_person_at_one_look_in_two_windows_sees_the_same_in_both(bench: Bench):
    page = bench.page
    other = page.context.new_page()
    other.goto(page.url)
    expect(other.get_by_role("region", name="Picture")).to_be_visible()
    bench.add_step("Saturation")
    bench.wait_saved()
    other.locator("[data-line]").filter(has_text="Saturation").click()
    other.keyboard.press("e")

    def is_off() -> None:
        assert not draft().steps[-1].enabled

    eventually(other, is_off)
    expect(page.get_by_role("switch", name="Saturation on")).not_to_be_checked()
    expect(page.get_by_role("alert")).to_be_hidden()
    other.close()
