"""People: an admin invites, somebody comes by the link, sets up second factors and a token, and is found, changed and switched off."""

from __future__ import annotations

import time
from collections.abc import Iterator
from urllib.parse import urljoin

import pytest
from playwright.sync_api import Page, expect
from pytest_django.live_server_helper import LiveServer

from saucer.studio.people.models import Person, Token
from tests import totp
from tests.browser.conftest import PASSWORD
from tests.browser.pages import arrive, leave, signed_in
from tests.browser.test_access import violations

NEW = "porcelain-and-rain"


@pytest.fixture
def root(studio: Person) -> Person:
    return Person.objects.create_user("otis", password=PASSWORD, role="admin", full_name="Otis Fenn")


@pytest.fixture
def key(page: Page) -> Iterator[None]:
    """A passkey in the browser itself (Chrome DevTools Protocol, domain WebAuthn)."""
    session = page.context.new_cdp_session(page)
    session.send("WebAuthn.enable")
    options = {
        "protocol": "ctap2", "transport": "internal", "hasResidentKey": True, "hasUserVerification": True,
        "isUserVerified": True, "automaticPresenceSimulation": True,
    }  # fmt: skip
    made = session.send("WebAuthn.addVirtualAuthenticator", {"options": options})
    yield
    session.send("WebAuthn.removeVirtualAuthenticator", {"authenticatorId": made["authenticatorId"]})
    session.send("WebAuthn.disable")
    session.detach()


def enter(page: Page, server: LiveServer, person: Person, path: str) -> None:
    signed_in(page, server.url, person)
    arrive(page, urljoin(server.url, path))


def row(page: Page, name: str):
    return page.get_by_role("table", name="People").get_by_role("row").filter(has_text=name)


def invite(page: Page, name: str) -> str:
    """The address that it makes."""
    page.get_by_role("button", name="Invite...").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Name", exact=True).fill(name)
    sheet.get_by_role("button", name="Make the link").click()
    address = sheet.get_by_label("The link").inner_text()
    sheet.get_by_role("button", name="Done").click()
    return address


def knock(page: Page, server: LiveServer, name: str, password: str) -> None:
    """With name and password, whatever is asked after that."""
    page.goto(server.url)
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in", exact=True).click()


def sign_out(page: Page) -> None:
    page.get_by_role("button", name="signed in as").click()
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("button", name="Sign in", exact=True).wait_for()


def test_an_invited_designer_comes_in_with_an_app_a_passkey_and_a_token(page: Page, server: LiveServer, root: Person, key: None):
    enter(page, server, root, "/studio/people")
    address = invite(page, "Jana Tolm")
    expect(row(page, "Jana Tolm")).to_contain_text("invited just now by Otis Fenn")
    assert violations(page) == []
    leave(page)
    page.context.clear_cookies()

    page.goto(address)
    expect(page.get_by_text("You are invited as a designer.")).to_be_visible()
    expect(page.get_by_label("Your name, as others see it")).to_have_value("Jana Tolm")
    assert violations(page) == []
    page.get_by_label("Name to sign in with").fill("jana")
    page.get_by_label("Password").fill("short")
    page.get_by_role("button", name="Come in").click()
    expect(page.get_by_role("alert")).to_contain_text("at least 10 characters")
    page.get_by_label("Password").fill(NEW)
    page.get_by_role("button", name="Come in").click()
    # Somebody new is shown around, once.
    walk = page.get_by_role("dialog", name="Pictures to look at")
    expect(walk.get_by_role("button", name="Next")).to_be_focused()
    assert violations(page) == []
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog", name="Where looks are made")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.reload()
    page.get_by_role("button", name="signed in as Jana Tolm").click()
    expect(page.get_by_role("dialog")).to_have_count(1)
    page.get_by_role("link", name="Your own page").click()

    page.get_by_role("button", name="Set up an app").click()
    part = page.get_by_role("region", name="Second factor")
    secret = part.locator("code").inner_text().replace(" ", "")
    expect(part.get_by_role("img")).to_have_js_property("complete", True)
    assert part.get_by_role("img").evaluate("(one) => one.naturalWidth") > 0
    part.get_by_label("Code").fill(totp.code(secret))
    part.get_by_role("button", name="Set it up").click()
    codes = part.get_by_role("list", name="Recovery codes").get_by_role("listitem")
    expect(codes).to_have_count(10)
    kept = codes.first.inner_text()
    part.get_by_role("button", name="I have kept them").click()
    part.get_by_role("button", name="Add a passkey").click()
    part.get_by_label("A name for it").fill("This laptop")
    part.get_by_role("button", name="Add it").click()
    expect(part.get_by_role("row").filter(has_text="Passkey: This laptop")).to_be_visible()

    page.get_by_role("button", name="Make a token").click()
    part = page.get_by_role("region", name="Tokens")
    part.get_by_label("What is it for?").fill("nightly sync")
    part.get_by_role("button", name="Make it").click()
    expect(part.get_by_label("The token")).to_contain_text("saucer_")
    part.get_by_role("button", name="I have it").click()
    expect(part.get_by_role("row").filter(has_text="nightly sync")).to_contain_text("never")
    assert list(Token.objects.values_list("person__username", "scopes")) == [("jana", ["read"])]
    expect(page.get_by_role("table", name="Sessions")).to_contain_text("this one")
    assert violations(page) == []

    sign_out(page)
    knock(page, server, "jana", NEW)
    page.get_by_label("Code from your app, or a recovery code").fill("000000")
    assert violations(page) == []
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_role("alert")).to_be_visible()
    page.get_by_label("Code from your app, or a recovery code").fill(totp.code(secret, at=time.time() + 30))
    page.get_by_role("button", name="Go on").click()
    sign_out(page)
    knock(page, server, "jana", NEW)
    page.get_by_role("button", name="Use a passkey").click()
    sign_out(page)
    knock(page, server, "jana", NEW)
    page.get_by_label("Code from your app, or a recovery code").fill(kept)
    page.get_by_role("button", name="Go on").click()
    sign_out(page)
    page.get_by_role("button", name="With a passkey").click()
    expect(page.get_by_role("button", name="signed in as Jana Tolm")).to_be_visible()


def test_an_admin_finds_changes_hands_over_and_switches_off_by_keyboard(
    page: Page, server: LiveServer, root: Person, studio: Person
):
    Person.objects.create_user("marek", password=PASSWORD, role="curator", full_name="Marek Sorel")
    enter(page, server, root, "/studio/people?who=ilse")
    panel = page.get_by_role("complementary", name="Ilse Harrow")
    panel.get_by_role("button", name="May").focus()
    page.keyboard.press("Enter")
    page.get_by_role("option", name="curator").press("Enter")
    expect(row(page, "Ilse Harrow")).to_contain_text("curator")
    panel.get_by_role("button", name="Hand over what they own...").press("Enter")
    assert violations(page) == []
    panel.get_by_role("button", name="Hand over", exact=True).press("Enter")
    expect(panel.get_by_role("status")).to_contain_text("handed over")
    expect(row(page, "Ilse Harrow")).to_contain_text("nothing")
    panel.get_by_role("button", name="Switch off").press("Enter")
    expect(row(page, "Ilse Harrow")).to_contain_text("off")
    panel.get_by_role("button", name="Close").press("Enter")
    row(page, "Otis Fenn").get_by_role("button").press("Enter")
    page.get_by_role("complementary", name="Otis Fenn").get_by_role("button", name="Switch off").press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("only admin")

    page.get_by_role("link", name="Activity").press("Enter")
    table = page.get_by_role("table", name="Activity")
    expect(table.get_by_role("row").filter(has_text="switch off")).to_contain_text("ilse")
    page.get_by_role("searchbox", name="Search").fill("hand over")
    expect(table.get_by_role("row")).to_have_count(2)
    assert violations(page) == []
    with page.expect_download() as taken:
        page.get_by_role("link", name="As a table (CSV)").click()
    assert "hand over" in taken.value.path().read_text()


def test_whoever_runs_the_studio_asks_for_a_second_factor_and_the_page_says_so(page: Page, server: LiveServer, root: Person):
    enter(page, server, root, "/studio/settings")
    page.get_by_label("The studio's name").fill("North Light")
    page.get_by_role("region", name="Name").get_by_role("button", name="Keep").click()
    page.get_by_role("radio", name="Everybody").click()
    expect(page.get_by_text("Whoever has none sets one up before they go on.")).to_be_visible()
    assert violations(page) == []
    leave(page)
    page.context.clear_cookies()
    knock(page, server, "ilse", PASSWORD)
    expect(page.get_by_role("alert")).to_contain_text("This studio asks you for a second factor")
    expect(page.get_by_role("button", name="Set up an app")).to_be_visible()
    expect(page.get_by_role("link", name="Shelf")).to_have_count(0)
    page.goto(urljoin(server.url, "/shelf"))
    expect(page.get_by_role("alert")).to_contain_text("This studio asks you for a second factor")
