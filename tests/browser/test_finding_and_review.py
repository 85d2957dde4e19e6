"""Finding entries by eye and by words, changing many, and the way of a version through the hands of two people."""

from __future__ import annotations

import zipfile
from pathlib import Path

import pytest
from django.utils import timezone
from playwright.sync_api import Page, expect

from saucer.core.look.model import look_from
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.catalogue.order import many
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from tests.browser.conftest import PASSWORD
from tests.browser.pages import Bench, Shelf, eventually, option, settle, sign_in
from tests.browser.test_access import violations

WARM = {"kind": "white-balance", "warm": 40}
FADED = {"kind": "levels", "master": {"output_black": 0.12}}


@pytest.fixture
def shelf(bench: Bench, studio) -> Shelf:
    """Five looks of a designer, with categories and tags."""
    for name, steps, category, tag in (
        ("Hearth", [WARM], "Orchard/Inside", "night"), ("Hearth, faded", [WARM, FADED], "Orchard/Inside", "night"),
        ("Chalk", [FADED], "Ferry", "day"), ("Tide", [{"kind": "white-balance", "warm": -40}], "Ferry", "day"),
    ):  # fmt: skip
        draft = looks.create(studio, look_from({"name": name, "steps": steps}), category=category)
        looks.save_version(studio, draft.pk)
        many.change_one(studio, Kind.LOOK, draft.pk, {}, {}, (tag,), ())
    return Shelf.arrive(bench)


def cards(page: Page) -> list[str]:
    """As they stand on the wall, whatever their order in the page is."""
    placed = [
        (card.bounding_box(), card.get_attribute("aria-label")) for card in page.get_by_label("Entries").get_by_role("row").all()
    ]
    return [name or "" for box, name in sorted(placed, key=lambda one: (round(one[0]["y"]), one[0]["x"])) if box]


def test_finding_by_what_a_look_does_by_facets_and_by_a_slip(shelf: Shelf):
    page = shelf.page
    find = page.get_by_label("Find")
    find.fill("warm faded")
    expect(shelf.card("Hearth, faded")).to_be_visible()
    expect(page.get_by_label("Entries").get_by_role("row")).to_have_count(1)
    find.fill("hearht")
    expect(page.get_by_text("Nothing has “hearht” as it is written")).to_be_visible()
    expect(shelf.card("Hearth")).to_be_visible()
    find.fill("")
    filters = page.get_by_role("navigation", name="Filters")
    filters.get_by_role("button", name="Ferry 2").click()
    expect(page.get_by_label("Entries").get_by_role("row")).to_have_count(2)
    expect(filters.get_by_role("button", name="day 2")).to_be_visible()
    expect(filters.get_by_role("button", name="night")).to_have_count(0)
    page.get_by_role("button", name="Newest first").click()
    option(page, "Warmer first").click()

    def sorted_anew() -> None:
        assert cards(page) == ["Chalk", "Tide"]

    eventually(page, sorted_anew)
    address = page.url
    assert "category=Ferry" in address
    assert "order=warmer" in address
    shelf.card("Chalk").click()
    expect(page.get_by_role("heading", name="Chalk")).to_be_visible()
    expect(page.get_by_role("region", name="Character")).to_contain_text("faded")
    page.go_back()
    expect(page.get_by_label("Entries").get_by_role("row")).to_have_count(2)
    assert page.url == address


def test_the_wall_is_walked_by_keys_in_two_directions_and_laid_out_in_other_ways(shelf: Shelf):
    page = shelf.page
    first = page.get_by_label("Entries").get_by_role("row").first
    expect(first).to_be_visible()
    first.focus()
    names = cards(page)
    page.keyboard.press("ArrowRight")
    expect(shelf.card(names[1])).to_be_focused()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Home")
    expect(shelf.card(names[0])).to_be_focused()
    page.get_by_role("radio", name="Rows on three pictures").click()
    expect(page.get_by_role("img", name="through Chalk")).to_have_count(3)
    page.get_by_role("radio", name="List").click()
    expect(shelf.card("Chalk")).to_contain_text("Ferry")
    expect(shelf.card("Chalk")).to_contain_text("faded")
    page.keyboard.press("Tab")
    shelf.card("Tide").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Tide")).to_be_visible()


def test_many_are_tagged_together_and_taken_back(shelf: Shelf):
    page = shelf.page
    for name in ("Chalk", "Tide"):
        shelf.card(name).hover()
        shelf.card(name).locator("label").click()
    bar = page.get_by_role("group", name="What is chosen")
    expect(bar).to_contain_text("2 chosen")
    bar.get_by_role("button", name="Tags…").click()
    page.get_by_label("Add a tag").fill("autumn")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(bar).to_contain_text("2 tagged anew.")
    assert Entry.objects.filter(tags__name="autumn").count() == 2
    bar.get_by_role("button", name="Undo", exact=True).click()
    expect(bar).to_contain_text("Taken back.")
    assert Entry.objects.filter(tags__name="autumn").count() == 0
    bar.get_by_role("button", name="Done").click()
    expect(bar).to_be_hidden()


def test_a_version_is_proposed_remarked_on_sent_back_and_published(shelf: Shelf, bench: Bench):
    page = shelf.page
    Person.objects.create_user("marek", password=PASSWORD, role="curator", full_name="Marek Sorel")
    shelf.enter("Hearth, faded")
    review = page.get_by_role("region", name="Review")
    review.get_by_label("A word with it").fill("For the inside scenes")
    settle(page)  # what stands above it may still come, and move it away from under a press
    review.get_by_role("button", name="Propose it").click()
    expect(review).to_contain_text("Version 1: proposed")
    expect(review.get_by_role("button", name="Publish it")).to_have_count(0)
    address = page.url
    page.context.clear_cookies()
    sign_in(page, bench.url, "marek", PASSWORD)
    page.get_by_role("button", name="Notices, 1 new").click()
    page.get_by_role("link", name="1 version waits for your review").click()
    expect(page.get_by_role("heading", name="Waiting for review")).to_be_visible()
    expect(page.get_by_text("For the inside scenes")).to_be_visible()
    page.goto(address)
    remarks = page.get_by_role("region", name="Remarks")
    remarks.get_by_role("button", name="Mark a place").click()
    box = page.get_by_test_id("compare").bounding_box()
    page.mouse.click(box["x"] + box["width"] / 4, box["y"] + box["height"] / 2)
    remarks.get_by_label("Remark on the place marked").fill("Too yellow here")
    remarks.get_by_role("button", name="Remark", exact=True).click()
    expect(remarks).to_contain_text("Too yellow here")
    expect(page.get_by_title("Too yellow here")).to_be_visible()
    review.get_by_label("A word with it").fill("See the remark")
    review.get_by_role("button", name="Send it back").click()
    expect(review).to_contain_text("Version 1: sent back")
    page.context.clear_cookies()
    sign_in(page, bench.url, "ilse", PASSWORD)
    page.goto(address)
    remarks.get_by_role("button", name="Settle").click()
    expect(remarks).to_contain_text("settled by Ilse Harrow")
    review.get_by_role("button", name="Propose it").click()
    expect(review).to_contain_text("Version 1: proposed")
    page.context.clear_cookies()
    sign_in(page, bench.url, "marek", PASSWORD)
    page.goto(f"{bench.url}/shelf/review")
    page.get_by_text("Publish it", exact=True).click()
    page.get_by_role("button", name="Publish 1").click()
    expect(page.get_by_text("Nothing waits for you.")).to_be_visible()
    assert Version.objects.get(entry__name="Hearth, faded").state == "published"


def test_a_pack_goes_out_and_its_page_opens_from_disk_without_a_network(shelf: Shelf, do_jobs, tmp_path: Path):
    page = shelf.page
    Entry.objects.filter(name__in=["Hearth", "Chalk"]).update(may_pass_on="yes")
    for name in ("Hearth", "Chalk", "Tide"):
        shelf.card(name).hover()
        shelf.card(name).locator("label").click()
    page.get_by_role("group", name="What is chosen").get_by_role("button", name="Pack…").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Title").fill("Night & day")
    expect(sheet.get_by_role("list", name="Held back")).to_contain_text("Tide: nobody has said that it may be passed on")
    assert violations(page) == []
    sheet.get_by_role("button", name="Pack 2").click()
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    with page.expect_download() as taken:
        sheet.get_by_role("link", name="night-day.zip").click()
    taken.value.save_as(tmp_path / "pack.zip")
    zipfile.ZipFile(tmp_path / "pack.zip").extractall(tmp_path / "pack")
    page.keyboard.press("Escape")
    Entry.objects.filter(name__in=["Hearth", "Chalk"]).update(deleted=timezone.now())
    page.get_by_role("button", name="Bring in LUTs").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("dialog").get_by_role("button", name="Drop LUT files").click()
    chooser.value.set_files(tmp_path / "pack.zip")
    expect(page.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    expect(page.get_by_text("The pack is on the Shelf again")).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Close").last.click()
    expect(shelf.card("Chalk")).to_be_visible()
    back = Entry.objects.get(name="Chalk", deleted=None)
    assert (back.category.path, [tag.name for tag in back.tags.all()]) == ("Ferry", ["day"])

    context = page.context.browser.new_context(offline=True, viewport={"width": 1180, "height": 800})
    other, asked, broken = context.new_page(), [], []
    other.on("request", lambda request: asked.append(request.url))
    other.on("pageerror", lambda error: broken.append(str(error)))
    other.on("console", lambda message: broken.append(message.text) if message.type == "error" else None)
    other.goto((tmp_path / "pack" / "page.html").as_uri())
    expect(other.get_by_role("heading", name="Night & day")).to_be_visible()
    expect(other.get_by_role("navigation", name="Index").get_by_role("link")).to_have_count(2)
    expect(other.get_by_role("heading", name="Hearth")).to_be_visible()
    other.get_by_label("Find").fill("faded")
    expect(other.get_by_role("heading", name="Hearth")).to_be_hidden()
    expect(other.get_by_role("heading", name="Chalk")).to_be_visible()
    first = other.get_by_role("button", name="through Chalk. Arrow keys").first
    first.focus()
    other.keyboard.press("ArrowRight")
    assert first.evaluate("box => box.style.getPropertyValue('--at')") == "10%"
    other.keyboard.press("Tab")
    other.keyboard.press("Enter")
    expect(other.get_by_role("dialog", name="Full size")).to_be_visible()
    other.keyboard.press("Escape")
    expect(other.get_by_role("dialog", name="Full size")).to_be_hidden()
    assert [url for url in asked if not url.startswith(("file:", "data:"))] == []
    assert broken == []
    other.screenshot(path=str(tmp_path / "page.png"))
    context.close()
