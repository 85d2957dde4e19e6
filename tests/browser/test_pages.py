"""Pages whose code is fetched when somebody goes there."""

from __future__ import annotations

from playwright.sync_api import Page, Route, expect
from pytest_django.live_server_helper import LiveServer

from saucer.studio.people.models import Person
from tests.browser.pages import Bench, signed_in


def test_a_page_that_is_left_has_no_say_while_the_next_one_is_fetched(bench: Bench):
    """On a slow line: the Bench would go on writing what is looked at into the address, and so never be left."""
    page, held = bench.page, []
    page.reload()  # so that nothing is fetched yet but what this page needs
    save = bench.page.get_by_role("button", name="Save version")
    expect(save).to_be_visible()
    page.route("**/assets/ShelfPage-*.js", lambda route: held.append(route))
    page.get_by_role("navigation", name="Main").get_by_role("link", name="Shelf").click()
    expect(page.get_by_text("Fetching this page…")).to_be_visible()
    expect(save).to_have_count(0)
    assert page.url.endswith("/shelf")
    held[0].continue_()
    page.unroute("**/assets/ShelfPage-*.js")
    expect(page.get_by_role("searchbox").first).to_be_visible()


def test_a_page_that_cannot_be_fetched_says_so_and_comes_after_a_reload(page: Page, server: LiveServer, studio: Person):
    signed_in(page, server.url, studio)

    def fail(route: Route) -> None:
        route.abort()

    page.route("**/assets/EncodingsPage-*.js", fail)
    page.goto(f"{server.url}/encodings")
    expect(page.get_by_text("This page could not be fetched.")).to_be_visible()
    page.unroute("**/assets/EncodingsPage-*.js", fail)
    page.get_by_role("button", name="Reload").click()
    expect(page.get_by_role("heading", name="Encodings")).to_be_visible()
