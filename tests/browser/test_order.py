"""Order on the Shelf by two people: views, categories, tags, duplicates, the bin, a frame of one's own, what others do in sight."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path

import pytest
from django.utils import timezone
from playwright.sync_api import Page, expect

from saucer.core.look.model import look_from
from saucer.studio.catalogue.models import Category, Entry, Kind, SavedView, Tag, Version
from saucer.studio.catalogue.order import many
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.presets import rules as presets
from tests.browser.conftest import PASSWORD
from tests.browser.pages import Bench, Shelf, eventually, option
from tests.browser.test_access import violations
from tests.make import a_picture
from tests.studio.conftest import propose_all

WARM = {"kind": "white-balance", "warm": 40}
FADED = {"kind": "levels", "master": {"output_black": 0.12}}


@pytest.fixture
def shelf(bench: Bench, studio) -> Shelf:
    """Five looks of a designer, two of which do the same; a curator is at it."""
    for name, steps, category, tag in (
        ("Hearth", [WARM], "Film/Night", "night"), ("Hearth copy", [WARM], "Film", "nigth"), ("Chalk", [FADED], "Film/Day", "day"),
        ("Warm chalk", [WARM, FADED], "House", "day"),
    ):  # fmt: skip
        draft = looks.create(studio, look_from({"name": name, "steps": steps}), category=category)
        looks.save_version(studio, draft.pk)
        many.change_one(studio, Kind.LOOK, draft.pk, {}, {}, (tag,), ())
    return enter_as(bench, Person.objects.create_user("marek", password=PASSWORD, role="curator", full_name="Marek Sorel"))


def enter_as(bench: Bench, person: Person) -> Shelf:
    """The Shelf as somebody else sees it."""
    return Shelf.arrive(bench.enter_as(person))


def drop(page: Page, path: Path, kind: str) -> None:
    """A file dropped on the wall, as the browser tells the page of it."""
    data = [*path.read_bytes()]
    transfer = page.evaluate_handle(
        """([data, name, kind]) => { const transfer = new DataTransfer();
            transfer.items.add(new File([new Uint8Array(data)], name, { type: kind })); return transfer; }""",
        [data, path.name, kind],
    )
    for event in ("dragover", "drop"):
        page.dispatch_event("main", event, {"dataTransfer": transfer})


def test_a_viewer_finds_a_look_by_eye_on_a_frame_of_their_own_by_what_it_does(shelf: Shelf, bench: Bench, tmp_path):
    shelf = enter_as(bench, Person.objects.create_user("nadia", password=PASSWORD, role="viewer", full_name="Nadia Quill"))
    propose_all()
    page = shelf.page
    drop(page, a_picture(tmp_path / "my frame.png", height=90, width=160), "image/png")
    expect(page.get_by_text("On your own frame “my frame”")).to_be_visible()
    page.get_by_label("Find").fill("warm faded")
    expect(page.get_by_label("Entries").get_by_role("row")).to_have_count(1)
    card = shelf.card("Warm chalk")
    expect(card.get_by_role("img", name="my frame through Warm chalk")).to_be_visible()
    frame = Picture.objects.get(passing=True)
    assert f"picture={frame.pk}" in page.url
    page.get_by_role("button", name="sRGB").click()
    option(page, "Film log").click()
    eventually(page, lambda: _is(Picture.objects.get(pk=frame.pk).encoding, "film-log"))
    expect(page.get_by_role("button", name="Keep it among the pictures")).to_have_count(0)
    assert violations(page) == []
    page.get_by_role("button", name="NQ: signed in").click()
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    assert Picture.objects.get(pk=frame.pk).deleted is not None


def _is(found: object, wanted: object) -> None:
    assert found == wanted


def test_a_state_of_the_wall_is_kept_for_the_team_and_comes_back(shelf: Shelf):
    page = shelf.page
    filters = page.get_by_role("navigation", name="Filters")
    filters.get_by_role("button", name="day 2").click()
    page.get_by_role("button", name="Newest first").click()
    option(page, "Warmer first").click()
    filters.get_by_role("button", name="Keep this view").click()
    page.get_by_label("Name of the view").fill("Days, warmest first")
    page.locator("label", has=page.get_by_role("checkbox", name="For the whole team")).click()
    page.get_by_role("button", name="Keep it").click()
    expect(filters.get_by_role("link", name="Days, warmest first")).to_be_visible()
    assert SavedView.objects.get().shared
    filters.get_by_role("button", name="Show everything").click()
    expect(page.get_by_label("Entries").get_by_role("row")).to_have_count(5)
    filters.get_by_role("link", name="Days, warmest first").click()
    expect(page.get_by_label("Entries").get_by_role("row")).to_have_count(2)
    expect(page.get_by_role("button", name="Warmer first")).to_be_visible()
    filters.get_by_role("button", name="Forget the view Days, warmest first").focus()
    page.keyboard.press("Enter")
    expect(filters.get_by_role("link", name="Days, warmest first")).to_have_count(0)


def test_categories_are_dragged_renamed_made_and_taken_away(shelf: Shelf):
    page = shelf.page
    page.get_by_role("button", name="Arrange categories").click()
    sheet = page.get_by_role("dialog")
    tree = sheet.get_by_role("treegrid", name="Categories")
    expect(tree.get_by_role("row")).to_have_count(4)
    assert violations(page) == []
    tree.get_by_role("row", name="Night").drag_to(tree.get_by_role("row", name="House"))
    eventually(page, lambda: _is(Category.objects.filter(path="House/Night").count(), 1))
    expect(sheet.get_by_role("heading", name="House/Night")).to_be_visible()
    sheet.get_by_label("Name", exact=True).fill("After dark")
    sheet.get_by_role("button", name="Rename or move").click()
    expect(tree.get_by_role("row", name="After dark")).to_be_visible()
    assert Entry.objects.get(name="Hearth").category_path == "House/After dark"
    sheet.get_by_label("A new one in After dark").fill("Rain")
    sheet.get_by_role("button", name="Make it").click()
    expect(tree.get_by_role("row", name="Rain")).to_be_visible()
    tree.get_by_role("row", name="Film").click()
    sheet.get_by_role("button", name="Take it away").click()
    expect(sheet.get_by_text("Film has categories below it. Move them first.")).to_be_visible()
    tree.get_by_role("row", name="Rain").click()
    sheet.get_by_role("button", name="Take it away").click()
    expect(tree.get_by_role("row", name="Rain")).to_have_count(0)


def test_a_slip_in_a_tag_is_made_one_with_the_right_one(shelf: Shelf):
    page = shelf.page
    page.get_by_role("button", name="Rename tags").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="Rename nigth").click()
    sheet.get_by_label("New name").fill("night")
    expect(sheet.get_by_text("night is there already, on 1: both become night.")).to_be_visible()
    sheet.get_by_role("button", name="Make them one").click()
    expect(sheet.get_by_role("button", name="Rename nigth")).to_have_count(0)
    assert not Tag.objects.filter(name="nigth").exists()
    assert Entry.objects.filter(tags__name="night").count() == 2


def test_duplicates_are_seen_side_by_side_made_one_and_brought_back(shelf: Shelf):
    page = shelf.page
    page.get_by_role("link", name="Duplicates").click()
    group = page.get_by_role("region", name="Hearth, Hearth copy")
    expect(group).to_contain_text("No difference")
    expect(group.get_by_role("img")).to_have_count(2)
    assert violations(page) == []
    group.get_by_role("radio", name="Keep this one").first.check()
    group.get_by_role("button", name="Keep one, bin 1").click()
    expect(group).to_be_hidden()
    kept = Entry.objects.get(name="Hearth")
    assert sorted(tag.name for tag in kept.tags.all()) == ["night", "nigth"]
    page.get_by_role("link", name="To the Shelf").click()
    page.get_by_role("link", name="Bin").click()
    row = page.get_by_role("row", name="Hearth copy")
    expect(row).to_contain_text("made one with Hearth")
    expect(row).to_contain_text("30 more days")
    assert violations(page) == []
    page.get_by_role("button", name="Bring back Hearth copy").click()
    expect(page.get_by_text("Hearth copy is on the Shelf again.")).to_be_visible()
    assert Entry.objects.get(name="Hearth copy").deleted is None


def test_what_another_does_comes_into_sight_without_reloading(shelf: Shelf, studio):
    page = shelf.page
    expect(shelf.card("Chalk")).to_be_visible()
    looks.create(studio, look_from({"name": "Made meanwhile", "steps": [WARM]}))
    expect(shelf.card("Made meanwhile")).to_be_visible()
    many.change_one(studio, Kind.LOOK, Entry.objects.get(name="Chalk").pk, {"category": "Elsewhere"}, {}, (), ())
    expect(page.get_by_role("navigation", name="Filters").get_by_role("button", name="Elsewhere 1")).to_be_visible()


def test_rights_that_end_soon_are_told_to_curators(shelf: Shelf, studio):
    pk = Entry.objects.get(name="Chalk").pk
    soon = timezone.localdate() + timedelta(days=10)
    many.change_one(studio, Kind.LOOK, pk, {"may_pass_on": "yes", "pass_on_until": soon}, {}, (), ())
    page = shelf.page
    page.reload()
    page.get_by_role("button", name="Notices").click()
    page.get_by_role("link", name="1 may be passed on for 30 days at most").click()
    expect(page.get_by_label("Entries").get_by_role("row")).to_have_count(1)
    expect(shelf.card("Chalk")).to_be_visible()


def test_versions_are_seen_beside_each_other_with_what_changed_in_words(shelf: Shelf, bench: Bench, studio):
    draft = looks.draft_of(Entry.objects.get(name="Hearth").pk)
    looks.save_draft(studio, draft.pk, look_from({"name": "Hearth", "steps": [WARM | {"warm": -60}]}), draft.revision)
    looks.save_version(studio, draft.pk, "The other way")
    page = shelf.page
    page.reload()
    shelf.enter("Hearth")
    versions = page.get_by_role("region", name="Versions")
    expect(versions).to_contain_text("Version 2, draft: Ilse Harrow")
    versions.get_by_role("button", name="The original").click()
    option(page, "Version 1").click()
    expect(versions.get_by_role("list", name="What changed")).to_contain_text("40")
    expect(versions.get_by_role("list", name="What changed")).to_contain_text("-60")


def test_a_preset_is_edited_on_the_bench_and_becomes_its_next_version(shelf: Shelf, bench: Bench, studio):
    pk = presets.keep(studio, "Dusk", look_from({"steps": [WARM | {"name": "Evening"}]}).steps).pk
    page = enter_as(bench, studio).page
    page.goto(f"{bench.url}/shelf/preset/{pk}")
    page.get_by_role("button", name="Edit on the Bench").click()
    expect(page.get_by_label("Name of the look")).to_have_value("Dusk, on the Bench")
    bench.choose("Evening")
    bench.type_setting("Warm, mired", "-25")
    bench.wait_saved()
    page.get_by_role("button", name="Keep as a preset").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("button", name="The next version of Dusk")).to_be_visible()
    sheet.get_by_role("button", name="Keep", exact=True).click()
    expect(sheet).to_be_hidden()
    version = Version.objects.get(entry=pk, number=2)
    assert version.content["steps"][0]["warm"] == -25


def test_a_file_of_another_format_is_made_on_demand(shelf: Shelf, do_jobs):
    page = shelf.page
    shelf.enter("Hearth")
    block = page.get_by_role("region", name="Take a file")
    block.get_by_role("button", name="Cube").click()
    option(page, "Common LUT Format").click()
    block.get_by_role("button", name="Make it").click()
    expect(block.get_by_text("Waiting for a worker…")).to_be_visible()
    do_jobs()
    link = block.get_by_role("link", name="hearth.clf")
    expect(link).to_be_visible()
    with page.expect_download() as download:
        link.click()
    assert b"<ProcessList" in download.value.path().read_bytes()
