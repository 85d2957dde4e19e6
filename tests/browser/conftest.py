from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cache
from pathlib import Path
from urllib.parse import urljoin

import numpy as np
import pytest
from playwright.sync_api import Browser, BrowserContext, Error, Page, Playwright, ViewportSize, expect

from saucer.core.engine.warm import warm
from saucer.core.look.model import look_from
from saucer.demo.catalogue import FOLDER, PICTURES
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures import rules as pictures
from tests.browser.pages import Bench, signed_in
from tests.studio.work import run_worker

ARGUMENTS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--disable-features=BackForwardCache",
]  # fmt: skip
PASSWORD = "a-long-password"
SIZE: ViewportSize = {"width": 1280, "height": 800}
# Milliseconds: a machine busy with other things may stand still for seconds, and no time is measured here.
PATIENCE = 45_000
expect.set_options(timeout=20_000)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    for item in items:
        if Path(item.fspath).parent == Path(__file__).parent:
            item.add_marker(pytest.mark.browser)


@pytest.fixture(scope="session")
def browser(playwright: Playwright) -> Iterator[Browser]:
    warm()
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
    yield browser
    browser.close()


@pytest.fixture(autouse=True)
def own_files(tmp_path: Path, settings) -> None:
    settings.STORAGES = settings.STORAGES | {
        "default": {"BACKEND": "django.core.files.storage.FileSystemStorage", "OPTIONS": {"location": str(tmp_path / "files")}}
    }
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture(scope="session")
def profile(browser: Browser) -> Iterator[BrowserContext]:
    """One profile for all tests, so that scripts and fonts are fetched and compiled once; what a person leaves in it is cleared by `page`."""
    context = browser.new_context(viewport=SIZE, accept_downloads=True)
    context.set_default_timeout(PATIENCE)
    yield context
    context.close()


@pytest.fixture
def page(profile: BrowserContext) -> Iterator[Page]:
    """A page at the size most people have, that fails the test when the application throws.

    It is one tab for all tests: a new one is a new process, which compiles the application again. What a test leaves is cleared here.
    """
    page = profile.pages[0] if profile.pages else profile.new_page()
    page.set_viewport_size(SIZE)
    page.mouse.move(0, 0)
    thrown: list[str] = []

    def keep(error: Error) -> None:
        thrown.append(str(error))

    page.on("pageerror", keep)
    yield page
    profile.set_offline(False)
    try:
        if page.url.startswith("http"):
            page.evaluate("() => (localStorage.clear(), sessionStorage.clear())")
            # Away from the application, yet not from its origin: that would end the tab's process.
            page.goto(urljoin(page.url, "/mark.svg"))
    except Error:
        page.close()  # A tab that hangs or has crashed fails its own test only: the next one gets a new tab.
        raise
    page.remove_listener("pageerror", keep)
    profile.clear_cookies()
    profile.clear_permissions()
    assert not thrown, thrown


_proxy = pictures.proxy
_proxy_once = cache(_proxy)


@pytest.fixture
def studio(transactional_db, monkeypatch: pytest.MonkeyPatch) -> Person:
    """A designer and three of the demo's pictures: a display one, a chart, and a film log one."""

    def proxy(path: Path, *given: object, **named: object) -> tuple[np.ndarray, int]:
        # The demo's pictures are averaged down once for all tests: it takes seconds.
        return (_proxy_once if path.parent == FOLDER else _proxy)(path, *given, **named)

    monkeypatch.setattr(pictures, "proxy", proxy)
    person = Person.objects.create_user("ilse", password=PASSWORD, role="designer", full_name="Ilse Harrow")
    for how in PICTURES:
        if how.scene in ("harbour", "chart", "interior"):
            pictures.bring_in(person, FOLDER / how.file, how.file, how.name, how.encoding)
    return person


@pytest.fixture
def bench(page: Page, live_server, studio: Person) -> Bench:
    """The Bench with a fresh look of one neutral Curves step."""
    entry = looks.create(studio, look_from({"name": "Salt", "steps": [{"kind": "curves"}]}))
    signed_in(page, live_server.url, studio)
    return Bench(page, live_server.url).open(entry.pk)


@pytest.fixture
def do_jobs() -> Callable[[], None]:
    """Let a worker do what is queued."""
    return run_worker
