"""The pages as a person uses them. Selectors live here and nowhere else."""

from __future__ import annotations

import base64
import time
from collections.abc import Callable
from pathlib import Path
from typing import Literal, TypeVar
from urllib.parse import urljoin

import numpy as np
from django.conf import settings
from django.test import Client
from playwright.sync_api import Download, Error, Locator, Page, expect

from saucer.studio.people.models import Person

Result = TypeVar("Result")
Channel = Literal["Master", "Red", "Green", "Blue"]
_PIXELS = """(canvas) => {
  const { data } = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height);
  let text = "";
  for (let i = 0; i < data.length; i += 32768) text += String.fromCharCode(...data.subarray(i, i + 32768));
  return [canvas.width, canvas.height, btoa(text)];
}"""


# Twice the same, a while apart: compared on the page, which is much faster than fetching the pixels each time.
_AT_REST = """async () => {
  const sum = () => {
    const canvas = document.querySelector("[data-testid=after]");
    const { data } = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height);
    const words = new Uint32Array(data.buffer);
    let hash = canvas.width;
    for (let i = 0; i < words.length; i += 1) hash = (Math.imul(hash, 16777619) ^ words[i]) >>> 0;
    return hash;
  };
  let before = null;
  for (let i = 0; i < 400; i += 1) {
    await new Promise((done) => setTimeout(done, 40));
    const shown = new URLSearchParams(location.search).get("show");
    const settled = document.querySelector("[data-testid=settled]")?.dataset.settled === "true";
    const now = settled || shown ? sum() : null;
    if (now !== null && now === before && i > 1) return true;
    before = now;
  }
  return false;
}"""


def leave(page: Page) -> None:
    """Signed out: whatever was open is closed. Where the tab is not in the application, or does not answer, it goes to a picture of the same origin."""
    page.mouse.move(0, 0)
    try:
        # Not to "/": whoever is taken for signed in again too soon would be on the way to a look from there, and get there late.
        page.evaluate("() => { history.replaceState(null, '', '/left'); window.dispatchEvent(new Event('saucer:signed-out')); }")
        page.get_by_label("Password").wait_for(timeout=3000)
        page.evaluate("() => { window.leftByTest = true; }")
    except Error:
        page.goto(urljoin(page.url, "/mark.svg"))


def arrive(page: Page, url: str) -> None:
    """At an address, as whoever is signed in by now: from the door if the application stands there, else by loading it."""
    if page.url.startswith("http") and url.startswith(urljoin(page.url, "/")) and page.evaluate("() => window.leftByTest === true"):
        page.evaluate(
            "(url) => { window.leftByTest = false; history.replaceState(null, '', url); window.dispatchEvent(new Event('saucer:signed-out')); }",
            url,
        )
        page.get_by_role("navigation").first.wait_for()
        # Whoever was taken for signed in before that is inside at the address that was left; a question of the last test came back late.
        if page.get_by_text("There is nothing at this address.").count():
            page.goto(url)
    else:
        page.goto(url)


def sign_in(page: Page, url: str, username: str, password: str) -> None:
    page.goto(url)
    page.get_by_label("Name").fill(username)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("link", name="Bench")).to_be_visible()


def signed_in(page: Page, url: str, person: Person) -> None:
    """As after signing in, by the cookie; the form is walked through where it is the matter."""
    client = Client()
    client.force_login(person, "django.contrib.auth.backends.ModelBackend")
    cookie = client.cookies[settings.SESSION_COOKIE_NAME]
    page.context.add_cookies([{"name": cookie.key, "value": cookie.value, "url": url}])


def canvas_pixels(page: Page, which: Literal["after", "before"] = "after") -> np.ndarray:
    """(h, w, 3) uint8: what stands on the canvas."""
    width, height, data = page.get_by_test_id(which).evaluate(_PIXELS)
    return np.frombuffer(base64.b64decode(data), np.uint8).reshape(height, width, 4)[..., :3]


def eventually(page: Page, check: Callable[[], Result], seconds: float = 20) -> Result:
    """What `check` gives once it raises no AssertionError any more; after the seconds, what it raises."""
    end = time.monotonic() + seconds
    while True:
        try:
            return check()
        except AssertionError:
            if time.monotonic() > end:
                raise
        page.wait_for_timeout(100)


# Two frames, so that what was pressed is drawn; then nothing that ends by itself is moving or fading any more.
_SETTLED = """async () => {
  const frame = () => new Promise((drawn) => requestAnimationFrame(drawn));
  await frame();
  await frame();
  const ends = (one) => one.effect.getComputedTiming().endTime !== Infinity;
  await Promise.allSettled(document.getAnimations().filter(ends).map((one) => one.finished));
  await frame();
}"""


def settle(page: Page) -> None:
    """Until what was pressed has been drawn, and nothing fades in or out any more."""
    page.evaluate(_SETTLED)


def shows(page: Page, wanted: np.ndarray, which: Literal["after", "before"] = "after", most: float = 1) -> None:
    """Until the canvas shows it to within `most` codes."""

    def check() -> None:
        shown = canvas_pixels(page, which).astype(float)
        assert shown.shape == wanted.shape
        assert np.abs(shown - wanted).max() <= most

    eventually(page, check)


def option(page: Page, name: str) -> Locator:
    """One of a list that is open, by the name that stands in it before any note."""
    return page.get_by_role("option").filter(has=page.get_by_text(name, exact=True)).first


class Bench:
    """look: opened when the page is asked for first, unless something else was opened before"""

    def __init__(self, page: Page, url: str, look: int | None = None) -> None:
        self._page, self.url, self._look = page, url, look

    @property
    def page(self) -> Page:
        if self._look is not None:
            self.open(self._look)
        return self._page

    def enter_as(self, person: Person) -> Bench:
        """Signed in as somebody else, before anything is opened."""
        self._look = None
        self._page.context.clear_cookies()
        signed_in(self._page, self.url, person)
        return self

    def arrive(self, path: str) -> Page:
        """At another page of the application, with no way over the Bench."""
        self._look = None
        arrive(self._page, self.url + path)
        return self._page

    def open(self, look: int, picture: int | None = None) -> Bench:
        self._look = None
        arrive(self.page, f"{self.url}/bench/{look}" + (f"?picture={picture}" if picture else ""))
        expect(self.page.get_by_test_id("step").first).to_be_visible()
        # On opening no step is in hand; most of what is tried here is done to the first.
        self.page.locator("[data-line]").first.click()
        self.page.evaluate("() => document.activeElement?.blur()")
        self.page.mouse.move(0, 0)
        self.wait_at_rest()
        return self

    def wait_at_rest(self) -> None:
        """Until nothing changes on the canvas any more."""
        self.page.wait_for_function("() => document.querySelector('[data-testid=after]')?.width > 300")
        assert self.page.evaluate(_AT_REST), "the picture never came to rest"

    def wait_saved(self) -> None:
        expect(self.page.get_by_test_id("save-state")).to_have_text("All changes saved")

    def pixels(self) -> np.ndarray:
        self.wait_at_rest()
        return canvas_pixels(self.page)

    def original(self) -> np.ndarray:
        return canvas_pixels(self.page, "before")

    def channel(self, name: Channel) -> Bench:
        self.page.get_by_role("radio", name=name).click()
        return self

    def _graph(self, x: float, y: float) -> tuple[float, float]:
        box = self.page.get_by_test_id("curve-graph").bounding_box()
        assert box
        scale = box["width"] / 328  # the graph is 312 wide with 8 around it
        return box["x"] + (8 + x * 312) * scale, box["y"] + (8 + (1 - y) * 312) * scale

    def drag_point(self, start: tuple[float, float], end: tuple[float, float], steps: int = 8, release: bool = True) -> Bench:
        """Drag in the graph; where no point stands yet, one is added."""
        self.page.mouse.move(*self._graph(*start))
        self.page.mouse.down()
        self.page.mouse.move(*self._graph(*end), steps=steps)
        if release:
            self.page.mouse.up()
        return self

    def type_point(self, number: int, which: Literal["in", "out"], text: str) -> Bench:
        box = self.page.get_by_label(f"Point {number} {which}", exact=True)
        box.click()
        box.fill(text)
        box.press("Enter")
        return self

    def points(self) -> list[tuple[float, float]]:
        """As the table shows them."""
        values = [
            float(box.input_value()) for box in self.page.get_by_role("group", name="Points of the").get_by_role("textbox").all()
        ]
        return list(zip(values[::2], values[1::2], strict=True))

    def add_step(self, title: str) -> Bench:
        self.search(title)
        option(self.page, title).click()
        expect(self.page.get_by_test_id("add-panel")).to_be_hidden()
        self.wait_at_rest()
        return self

    def search(self, words: str) -> Bench:
        """Open the search over what can be added, and type."""
        self.page.get_by_role("button", name="Add a step").click()
        self.page.get_by_role("combobox").or_(self.page.get_by_placeholder("Find a step, preset or LUT")).first.fill(words)
        return self

    def choose(self, name: str, *modifiers: Literal["Shift", "Control"]) -> Bench:
        """A line of the recipe, by its name."""
        self.line(name).click(modifiers=list(modifiers))
        return self

    def line(self, name: str) -> Locator:
        return self.page.locator("[data-line]").filter(has=self.page.get_by_text(name, exact=True)).first

    def order(self) -> list[str]:
        """The names in the recipe from top to bottom."""
        return [line.locator("b").inner_text() for line in self.page.locator("[data-line]").all()]

    def picture_at(self, x: float, y: float) -> tuple[float, float]:
        """Where on screen the place 0..1 across and down the picture is."""
        box = self.page.get_by_test_id("compare").first.bounding_box()
        assert box
        return box["x"] + x * box["width"], box["y"] + y * box["height"]

    def click_picture(self, x: float, y: float) -> Bench:
        self.page.mouse.click(*self.picture_at(x, y))
        return self

    def type_setting(self, label: str, text: str) -> Bench:
        """Type a number beside a setting's bar."""
        box = self.page.get_by_label(label, exact=True).last
        box.fill(text)
        box.press("Enter")
        self.wait_at_rest()
        return self

    def leave(self) -> Bench:
        """Leave whatever field has the focus: a press beside the picture."""
        self.page.mouse.click(700, 104)
        return self

    def undo(self) -> Bench:
        self.page.keyboard.press("Control+z")
        return self

    def redo(self) -> Bench:
        self.page.keyboard.press("Control+Shift+z")
        return self

    def tray(self, name: str) -> Bench:
        self.page.get_by_role("navigation", name="Test pictures").get_by_role("button", name=name).click()
        self.wait_at_rest()
        return self

    def bring_in(self, path: Path, encoding: str | None = None) -> None:
        self.page.get_by_role("button", name="Bring in a picture").click()
        sheet = self.page.get_by_role("dialog")
        with self.page.expect_file_chooser() as chooser:
            sheet.get_by_role("button", name="Drop a picture here").click()
        chooser.value.set_files(path)
        if encoding:
            sheet.get_by_role("button", name="Its encoding").click()
            option(self.page, encoding).click()
        sheet.get_by_role("button", name="Bring in", exact=True).click()

    def bake(self, size: int, title: str, author: str, own_entry: bool = False) -> None:
        self.page.get_by_role("button", name="Bake…").click()
        sheet = self.page.get_by_role("dialog")
        sheet.get_by_label("Title").fill(title)
        sheet.get_by_label("Author").fill(author)
        box = sheet.get_by_label("Grid points a side")
        box.fill(str(size))
        box.press("Enter")
        if own_entry:
            tick(sheet, "entry of its own")
        sheet.get_by_role("button", name="Bake", exact=True).click()
        expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()


def tick(scope: Locator, name: str) -> None:
    """Check or uncheck a box by its name."""
    scope.locator("label", has=scope.page.get_by_role("checkbox", name=name)).click()


class Shelf:
    def __init__(self, page: Page) -> None:
        self.page = page

    @classmethod
    def arrive(cls, bench: Bench) -> Shelf:
        """From the door."""
        page = bench.arrive("/shelf")
        expect(page.get_by_label("Find")).to_be_visible()
        return cls(page)

    def open(self) -> Shelf:
        self.page.get_by_role("link", name="Shelf").first.click()
        expect(self.page.get_by_label("Find")).to_be_visible()
        return self

    def enter(self, name: str) -> Shelf:
        self.card(name).click()
        expect(self.page.get_by_role("heading", name=name)).to_be_visible()
        return self

    def card(self, name: str) -> Locator:
        return self.page.get_by_label("Entries").get_by_role("row", name=name, exact=True)

    def choose_picture(self, name: str) -> Shelf:
        self.page.get_by_role("navigation", name="Pictures").get_by_role("button", name=name).click()
        return self

    def strength(self, percent: int) -> Shelf:
        box = self.page.get_by_label("Strength, percent")
        box.fill(str(percent))
        box.press("Enter")
        return self

    def download_lut(self) -> Download:
        with self.page.expect_download() as download:
            self.page.get_by_role("region", name="Files").get_by_role("link").first.click()
        return download.value

    def read_pack(self, do_jobs: Callable[[], None], *paths: Path) -> Locator:
        """Files read into the table of the sheet that it returns."""
        self.page.get_by_role("button", name="Bring in LUTs").click()
        sheet = self.page.get_by_role("dialog")
        with self.page.expect_file_chooser() as chooser:
            sheet.get_by_role("button", name="Drop LUT files").click()
        chooser.value.set_files(list(paths))
        expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
        do_jobs()
        expect(sheet.get_by_role("table", name="Files in the pack")).to_be_visible()
        return sheet

    def bring_in(self, path: Path, do_jobs: Callable[[], None]) -> None:
        sheet = self.read_pack(do_jobs, path)
        sheet.get_by_role("button", name="Put 1 on the Shelf").click()
        expect(sheet).to_be_hidden()

    def make(self, what: str) -> Locator:
        """A sheet of the Make a LUT menu."""
        self.page.get_by_role("button", name="Make a LUT").click()
        self.page.get_by_role("menuitem", name=what).click()
        return self.page.get_by_role("dialog")

    def view(self, name: str) -> Shelf:
        self.page.get_by_role("tab", name=name, exact=True).click()
        return self
