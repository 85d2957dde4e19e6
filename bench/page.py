"""The real page in the real browser, on a server of its own, for measuring."""

from __future__ import annotations

import contextlib
import socket
from collections.abc import Iterator

from django.utils import timezone
from playwright.sync_api import Page, sync_playwright
from tests.browser.conftest import ARGUMENTS
from tests.browser.pages import Bench, sign_in

from saucer.core.look.model import look_from
from saucer.demo.seed import PASSWORD, PEOPLE
from saucer.launch.processes import Group, server_arguments, wait_until_up
from saucer.studio.catalogue.models import Entry
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture

# For every move of the pointer: how long until pixels stand on the canvas that were asked for after it. The last question is kept.
WATCH = """() => {
  const moves = [], waits = [];
  let asked = null;
  addEventListener("pointermove", (event) => { if (event.buttons) moves.push(event.timeStamp); }, true);
  const send = window.fetch;
  window.fetch = (path, options) => {
    if (String(path).endsWith("/looks/frame")) {
      window.saucerFlying = (window.saucerFlying ?? 0) + 1;
      window.saucerMost = Math.max(window.saucerMost ?? 0, window.saucerFlying);
      asked = performance.now();
      window.saucerAsked = options.body;
      return send(path, options).finally(() => { window.saucerFlying -= 1; });
    }
    return send(path, options);
  };
  const draw = CanvasRenderingContext2D.prototype.drawImage;
  CanvasRenderingContext2D.prototype.drawImage = function (...given) {
    draw.apply(this, given);
    if (this.canvas.dataset?.testid !== "after" || asked === null) return;
    const now = performance.now();
    while (moves.length && moves[0] <= asked) waits.push(now - moves.shift());
  };
  window.saucerWaits = waits;
}"""


@contextlib.contextmanager
def served() -> Iterator[tuple[str, Group]]:
    """A server as the launcher starts it, on a free port."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    group = Group()
    try:
        group.start("bench-server", server_arguments(port))
        wait_until_up(group, port)
        yield f"http://127.0.0.1:{port}", group
    finally:
        group.end()


@contextlib.contextmanager
def opened(url: str, steps: list[dict[str, object]]) -> Iterator[Bench]:
    """A look of these steps, the last of them Curves, on the Bench; gone again afterwards."""
    person = Person.objects.get(username=PEOPLE[0][0])
    entry = looks.create(person, look_from({"name": "Measured", "steps": steps}))
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
            page: Page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
            sign_in(page, url, PEOPLE[0][0], PASSWORD)
            bench = Bench(page, url)
            bench.open(entry.pk, Picture.objects.get(name="Quay, dusk").pk)
            page.locator("[data-line]").last.click()
            bench.wait_at_rest()
            page.evaluate(WATCH)
            yield bench
            browser.close()
    finally:
        Entry.objects.filter(pk=entry.pk).update(deleted=timezone.now())
