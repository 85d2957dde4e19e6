from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from threading import Condition

import pytest
from django.conf import settings
from django.core.signals import request_finished, request_started
from django.test import override_settings
from playwright.sync_api import Browser, BrowserContext, Error, Page, Playwright, ViewportSize, expect
from pytest_django.live_server_helper import LiveServer

from saucer.core.engine.warm import warm
from saucer.core.look.model import look_from
from saucer.demo.catalogue import FOLDER, PICTURES
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures import rules as pictures
from tests.browser.pages import Bench, leave, signed_in
from tests.browser.seed import Seed
from tests.studio.work import run_worker

ARGUMENTS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--disable-features=BackForwardCache",
]  # fmt: skip
WHOLE_FILES = settings.STORAGES["default"]["BACKEND"]
PASSWORD = "a-long-password"
SIZE: ViewportSize = {"width": 1280, "height": 800}
# Milliseconds: a machine busy with other things may stand still for seconds, and no time is measured here.
PATIENCE = 45_000
expect.set_options(timeout=PATIENCE)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    for item in items:
        if Path(item.fspath).parent == Path(__file__).parent:
            if item.get_closest_marker("django_db"):
                # pytest-django would empty every table behind it, and the seed with them; the database is there by `bench`.
                raise pytest.UsageError(f"{item.nodeid}: tests in the browser are not marked for the database")
            item.add_marker(pytest.mark.browser)


@pytest.fixture(scope="session")
def browser(playwright: Playwright) -> Iterator[Browser]:
    warm()
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
    yield browser
    browser.close()


@pytest.fixture(scope="session")
def profile(browser: Browser) -> Iterator[BrowserContext]:
    """One profile for all tests, so that scripts and fonts are fetched and compiled once; what a person leaves in it is cleared by `page`."""
    context = browser.new_context(viewport=SIZE, accept_downloads=True, reduced_motion="reduce")
    context.set_default_timeout(PATIENCE)
    yield context
    context.close()


@pytest.fixture
def page(profile: BrowserContext, studio: Person) -> Iterator[Page]:
    """A page at the size most people have, that fails the test when the application throws.

    It is one tab for all tests: a new one is a new process, which compiles the application again. What a test leaves is cleared here, as by
    somebody who signs out: the application itself stays, so that the next test need not load it (`arrive`).
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
    page.unroute_all(behavior="ignoreErrors")
    try:
        if page.url.startswith("http"):
            page.evaluate("() => (localStorage.clear(), sessionStorage.clear())")
            profile.clear_cookies()
            leave(page)
    except Error:
        page.close()  # A tab that hangs or has crashed fails its own test only: the next one gets a new tab.
        raise
    page.remove_listener("pageerror", keep)
    profile.clear_cookies()
    profile.clear_permissions()
    assert not thrown, thrown


@pytest.fixture(scope="session")
def seeded(django_db_setup, django_db_blocker, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Seed]:
    """A designer and three of the demo's pictures: a display one, a chart, and a film log one. Brought in once for all tests."""
    files = {"BACKEND": WHOLE_FILES, "OPTIONS": {"location": str(tmp_path_factory.mktemp("files"))}}
    own = override_settings(
        STORAGES=settings.STORAGES | {"default": files}, PASSWORD_HASHERS=["django.contrib.auth.hashers.MD5PasswordHasher"]
    )
    with own:
        with django_db_blocker.unblock():
            person = Person.objects.create_user("ilse", password=PASSWORD, role="designer", full_name="Ilse Harrow")
            for how in PICTURES:
                if how.scene in ("harbour", "chart", "interior"):
                    pictures.bring_in(person, FOLDER / how.file, how.file, how.name, how.encoding)
            seed = Seed()
        yield seed
        with django_db_blocker.unblock():
            seed.remove()


@pytest.fixture(scope="session")
def server(seeded: Seed, django_db_blocker) -> Iterator[LiveServer]:
    with django_db_blocker.unblock():
        server = LiveServer("localhost")
    yield server
    server.stop()


class _Requests:
    """How many the server is at. A page that is left leaves some behind it, which hold connections and rows for a while."""

    def __init__(self) -> None:
        self._changed, self._count = Condition(), 0
        request_started.connect(self._begin)
        request_finished.connect(self._end)

    def _begin(self, **_: object) -> None:
        with self._changed:
            self._count += 1

    def _end(self, **_: object) -> None:
        with self._changed:
            self._count -= 1
            self._changed.notify_all()

    def wait_for_all(self) -> None:
        with self._changed:
            self._changed.wait_for(lambda: self._count <= 0, timeout=30)


@pytest.fixture(scope="session")
def requests() -> _Requests:
    return _Requests()


@pytest.fixture
def transactional_db(seeded: Seed, requests: _Requests, django_db_blocker) -> Iterator[None]:
    """In the place of pytest-django's, which empties every table after each test: here only what a test has written is put back."""
    with django_db_blocker.unblock():
        yield
        requests.wait_for_all()
        seeded.restore()


@pytest.fixture
def studio(transactional_db) -> Person:
    """The designer who is there before the first test."""
    return Person.objects.get(username="ilse")


@pytest.fixture
def bench(page: Page, server: LiveServer, studio: Person) -> Bench:
    """The Bench with a fresh look of one neutral Curves step, opened when it is looked at first."""
    entry = looks.create(studio, look_from({"name": "Salt", "steps": [{"kind": "curves"}]}))
    signed_in(page, server.url, studio)
    return Bench(page, server.url, entry.pk)


@pytest.fixture
def do_jobs() -> Callable[[], None]:
    """Let a worker do what is queued."""
    return run_worker
