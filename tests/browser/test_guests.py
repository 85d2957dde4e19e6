"""People without an account: shown what was chosen by a link, and what they say of it back where it belongs."""

from __future__ import annotations

from playwright.sync_api import expect

from saucer.core.look.model import look_from
from saucer.studio.catalogue.models import Pin
from saucer.studio.looks import rules as looks
from tests.browser.pages import Bench, Shelf, eventually, signed_in
from tests.browser.test_access import violations
from tests.browser.test_board import choose


def test_a_guest_looks_says_and_marks_a_place_and_the_team_reads_it(bench: Bench, studio):
    for name, warm in (("Hearth", 40), ("Tide", -40)):
        draft = looks.create(studio, look_from({"name": name, "steps": [{"kind": "white-balance", "warm": warm}]}))
        looks.save_version(studio, draft.pk)
    shelf = Shelf.arrive(bench)
    page = shelf.page
    choose(shelf, "Hearth", "Tide")
    page.get_by_role("button", name="Show to guests…").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("What is it called?").fill("Two for the quay")
    page.get_by_label("Password (none where this is empty)").fill("salt-and-ink")
    assert violations(page) == []
    sheet.get_by_role("button", name="Make the link").click()
    address = page.get_by_label("The address").text_content() or ""

    page.context.clear_cookies()  # somebody else, at another browser
    page.goto(f"{bench.url}/guest/{address.rpartition('/')[2]}")
    page.get_by_label("Your name").fill("Wren Ashdown")
    page.get_by_label("Password that you were given").fill("salt-and-ink")
    assert violations(page) == []
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Two for the quay")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("group", name="Verdict on Tide").get_by_role("button", name="Maybe").click()
    page.get_by_role("button", name="through Tide, larger").click()
    near = page.get_by_role("dialog")
    picture = near.get_by_role("img")
    eventually(page, lambda: picture.evaluate("(one) => one.complete && one.naturalWidth > 900"))
    box = picture.bounding_box()
    assert box is not None
    picture.click(position={"x": box["width"] * 0.25, "y": box["height"] * 0.75})
    near.get_by_label("What about this place?").fill("Colder than the water is")
    near.get_by_role("button", name="Say it").click()
    expect(near.get_by_role("button", name="Take back")).to_be_visible()
    assert violations(page) == []
    near.get_by_label("What do you say of it?").press("ArrowLeft")
    expect(near.get_by_role("heading", name="Tide")).to_be_visible()  # in the field it moves in the words
    near.get_by_role("heading", name="Tide").click()
    page.keyboard.press("ArrowLeft")
    expect(near.get_by_role("heading", name="Hearth")).to_be_visible()
    page.keyboard.press("Escape")
    expect(near).to_have_count(0)
    pin = Pin.objects.get()
    assert (round(pin.x, 2), round(pin.y, 2)) == (0.25, 0.75)
    page.goto(f"{bench.url}/shelf")
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()

    signed_in(page, bench.url, studio)
    page.goto(f"{bench.url}/shelf/look/{pin.version.entry_id}")
    expect(page.get_by_role("region", name="Remarks")).to_contain_text("Colder than the water isWren Ashdown (guest), version 1")
    expect(page.get_by_role("region", name="What guests say")).to_contain_text("Wren Ashdown: Maybe")
    page.goto(f"{bench.url}/you/guests")
    row = page.get_by_role("row", name="Two for the quay")
    row.get_by_role("button", name="Revoke").click()
    expect(row).to_contain_text("closed")
    assert violations(page) == []
