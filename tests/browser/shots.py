"""Takes the pictures in docs/screenshots again, from the demo data: `./saucer shots`. Not collected by the test run."""

from __future__ import annotations

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from saucer.demo.seed import PASSWORD, load_demo
from saucer.studio.looks.models import LookEntry
from tests.browser.pages import Bench, Shelf, option, sign_in

FOLDER = Path(__file__).parents[2] / "docs" / "screenshots"


# Where there is a tray, its discs show the look.
_DISCS = """() => {
  const disc = document.querySelector("nav[aria-label='Test pictures'] button[aria-current] span");
  return !disc || getComputedStyle(disc).backgroundImage.includes("blob:");
}"""


def take(page: Page, name: str) -> None:
    page.wait_for_function("() => [...document.images].every((image) => image.complete)")
    page.wait_for_function(_DISCS)
    page.wait_for_timeout(600)
    FOLDER.mkdir(parents=True, exist_ok=True)
    page.screenshot(path=FOLDER / f"{name}.png")


@pytest.mark.django_db(transaction=True)
def test_take_every_picture(page: Page, live_server, transactional_db, do_jobs):
    load_demo(lambda text: None)
    page.goto(live_server.url)
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    take(page, "sign-in")
    sign_in(page, live_server.url, "ilse", PASSWORD)
    bench = Bench(page, live_server.url)
    bench.wait_at_rest()
    page.get_by_role("button", name="Step 2: Sea-green to gold").click()
    bench.channel("Blue")
    page.get_by_test_id("compare").hover(position={"x": 420, "y": 230})
    take(page, "bench")
    bench.open(LookEntry.objects.get(name="Ferry lantern").pk)
    page.get_by_role("button", name="Step 3: Hue bands").click()
    take(page, "bench-hue-bands")
    bench.search("")
    option(page, "Halation").hover()
    bench.wait_at_rest()
    take(page, "bench-add")
    page.keyboard.press("Escape")
    bench.tray("Six busts")
    page.get_by_role("button", name="Marks over the picture").click()
    page.get_by_role("radio", name="Skin", exact=True).click()
    page.keyboard.press("Escape")
    for number in (1, 3, 4):
        page.keyboard.press(f"Shift+Digit{number}")
    page.get_by_role("radio", name="Vectorscope").click()
    expect(page.get_by_test_id("marks-legend")).to_be_visible()
    page.wait_for_timeout(2500)
    take(page, "bench-several")
    page.get_by_role("radio", name="Histogram").click()
    bench.open(LookEntry.objects.get(name="Low tide gold").pk)
    bench.leave()
    page.keyboard.press("w")
    bench.tray("Six busts")
    page.get_by_role("radio", name="Dark surround").click()
    take(page, "bench-wipe")
    page.get_by_role("radio", name="Mid grey surround").click()
    bench.bake(33, "Low tide gold", "Ilse Harrow")
    do_jobs()
    expect(page.get_by_role("dialog")).to_contain_text("is on the Shelf")
    take(page, "bake")
    page.keyboard.press("Escape")
    shelf = Shelf(page).open()
    page.get_by_role("radio", name="Light surround").click()
    expect(page.get_by_role("img", name="through Chalk").first).to_be_visible()
    take(page, "shelf")
    page.get_by_role("radio", name="Mid grey surround").click()
    shelf.enter("Lamp blue 33").choose_picture("Table by a window")
    take(page, "shelf-entry")
    page.get_by_role("link", name="Pictures").click()
    take(page, "pictures")
