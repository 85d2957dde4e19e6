"""Versions in words, going back, branching, and two people on one look."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Page, expect

from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from tests.browser.conftest import PASSWORD, PATIENCE
from tests.browser.pages import Bench, eventually, settle, signed_in
from tests.browser.test_bench import draft
from tests.find import look_named


def save_version(bench: Bench, note: str) -> None:
    bench.page.get_by_role("button", name="Save version").click()
    sheet = bench.page.get_by_role("dialog")
    sheet.get_by_label("Note").fill(note)
    sheet.get_by_role("button", name="Save version").click()
    expect(sheet).to_be_hidden()


@pytest.fixture
def versions(bench: Bench) -> Bench:
    bench.type_point(1, "out", "10")
    save_version(bench, "First pass")
    bench.channel("Blue").type_point(1, "out", "25")
    save_version(bench, "Blue lifted")
    bench.channel("Red").type_point(2, "out", "240")
    bench.wait_saved()
    return bench


def test_versions_tell_what_changed_in_words(versions: Bench):
    page = versions.page
    page.get_by_role("button", name="History", exact=True).click()
    second, first = page.get_by_role("article", name="Version 2"), page.get_by_role("article", name="Version 1")
    expect(second).to_contain_text("Blue lifted")
    expect(second).to_contain_text("Curves: blue black point 0 -> 25")
    expect(first).to_contain_text("Curves: added")
    expect(page.get_by_role("dialog")).to_contain_text("Since then, in the draft")
    expect(page.get_by_role("dialog")).to_contain_text("Curves: red white point 255 -> 240")


def test_going_back_to_a_version_is_a_change_like_any_other(versions: Bench):
    page = versions.page
    page.keyboard.press("Escape")
    versions.leave()
    page.keyboard.press("h")
    page.get_by_role("article", name="Version 1").get_by_role("button", name="Go back to it").click()
    expect(page.get_by_role("button", name="Undo Go back to version 1")).to_be_visible()
    versions.wait_saved()
    assert draft().steps[0].blue[0][1] == 0
    assert draft().steps[0].master[0][1] == pytest.approx(10 / 255)
    page.get_by_role("button", name="Undo Go back to version 1").click()
    versions.wait_saved()
    assert draft().steps[0].blue[0][1] == pytest.approx(25 / 255)


def test_a_look_is_branched_from_any_version(versions: Bench):
    page = versions.page
    page.get_by_role("button", name="History", exact=True).click()
    page.get_by_role("article", name="Version 1").get_by_role("button", name="Branch a look from it").click()
    expect(page.get_by_label("Name of the look")).to_have_value("Salt, from version 1")
    origin = looks.branched_from(Person.objects.get(username="ilse"), look_named("Salt, from version 1").pk)
    assert (origin.entry.name, origin.number) == ("Salt", 1)
    page.get_by_role("button", name="History", exact=True).click()
    expect(page.get_by_role("dialog")).to_contain_text("Branched from Salt, version 1.")


def test_any_change_is_a_place_to_go_back_to(versions: Bench):
    page = versions.page
    page.get_by_role("button", name="History", exact=True).click()
    changes = page.get_by_label("Changes", exact=True)
    changes.get_by_role("button", name="As it was opened first").click()
    page.keyboard.press("Escape")
    assert versions.channel("Master").points() == [(0, 0), (255, 255)]
    page.get_by_role("button", name="History", exact=True).click()
    changes.get_by_role("button", name="Curves: move red point").click()
    page.keyboard.press("Escape")
    assert versions.channel("Red").points() == [(0, 0), (255, 240)]


@pytest.fixture
def second(browser: Browser, bench: Bench, server) -> Iterator[Bench]:
    """The same look open with somebody else."""
    ada = Person.objects.create_user("ada", password=PASSWORD, role="curator", full_name="Ada Fell")
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    page: Page = context.new_page()
    page.set_default_timeout(PATIENCE)
    signed_in(page, server.url, ada)
    yield Bench(page, server.url).open(look_named("Salt").pk)
    context.close()


def test_the_second_sees_who_edits_and_neither_loses_an_edit(bench: Bench, second: Bench):
    bench.type_point(2, "out", "200")
    bench.wait_saved()
    expect(second.page.get_by_test_id("others")).to_have_text(" Ilse Harrow is editing")
    expect(bench.page.get_by_test_id("others")).to_contain_text("Ada Fell")
    # She works on what she has; it does not go over what is there.
    second.channel("Blue").type_point(1, "out", "40")
    strip = second.page.get_by_role("alert").filter(has_text="Ilse Harrow has changed this look")
    expect(strip).to_be_visible()
    assert draft().steps[0].blue[0][1] == 0
    strip.get_by_role("button", name="What differs?").click()
    expect(strip).to_contain_text("Curves: blue black point 0 -> 40")
    expect(strip).to_contain_text("Curves: master white point 200 -> 255")
    strip.get_by_role("button", name="Take theirs").click()
    second.wait_saved()
    assert second.channel("Master").points() == [(0, 0), (255, 200)]
    second.page.get_by_role("button", name="Undo Take what Ilse Harrow saved").click()
    second.wait_saved()
    assert draft().steps[0].blue[0][1] == pytest.approx(40 / 255), "her own is one undo away"


def test_whoever_keeps_their_own_can_still_have_the_other_back(bench: Bench, second: Bench):
    bench.type_point(2, "out", "200")
    bench.wait_saved()
    second.channel("Blue").type_point(1, "out", "40")
    second.page.get_by_role("button", name="Keep mine").click()
    second.wait_saved()
    assert draft().steps[0].master[1][1] == 1
    second.page.get_by_role("button", name="Undo Keep mine").click()
    second.wait_saved()
    assert draft().steps[0].master[1][1] == pytest.approx(200 / 255)


def test_somebody_who_only_watches_is_shown_the_newer_draft_when_asked(bench: Bench, second: Bench):
    bench.type_point(2, "out", "180")
    bench.wait_saved()
    second.page.get_by_role("button", name="Show how it stands now").click()
    expect(second.page.get_by_role("button", name="Undo What Ilse Harrow saved")).to_be_visible()
    assert second.points() == [(0, 0), (255, 180)]
    revision = look_named("Salt").revision
    settle(second.page)
    second.wait_saved()
    assert look_named("Salt").revision == revision, "showing it saves nothing"


def test_a_page_that_was_reloaded_does_not_meet_itself(bench: Bench):
    with bench.page.expect_response("**/presence"):
        bench.page.reload()
    bench.wait_at_rest()
    presences = look_named("Salt").entry.presences

    def is_here_once() -> None:
        assert presences.count() == 1

    eventually(bench.page, is_here_once)
    expect(bench.page.get_by_test_id("others")).to_have_count(0)
