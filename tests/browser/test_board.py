"""Comparing a few on a few pictures: the board, its one view, its wipe, its order, hidden names and verdicts."""

from __future__ import annotations

import re

import numpy as np
import pytest
from playwright.sync_api import Locator, expect

from saucer.core.look.model import look_from
from saucer.studio.boards.models import Board, Verdict
from saucer.studio.catalogue.models import Entry
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.preview import entries
from tests.browser.conftest import PASSWORD
from tests.browser.pages import Bench, Shelf, canvas_pixels, eventually, sign_in
from tests.browser.test_access import violations
from tests.studio.conftest import propose_all

NAMES = ("Hearth", "Tide", "Chalk", "Lamp", "Fog", "Snow")


@pytest.fixture
def shelf(bench: Bench, studio) -> Shelf:
    """Six looks that can be told apart by eye."""
    for number, name in enumerate(NAMES):
        step = {"kind": "white-balance", "warm": 60 - 24 * number}
        draft = looks.create(studio, look_from({"name": name, "steps": [step]}))
        looks.save_version(studio, draft.pk)
    return Shelf.arrive(bench)


def choose(shelf: Shelf, *names: str) -> None:
    for name in names:
        shelf.card(name).hover()
        shelf.card(name).locator("label").click()


def rows(shelf: Shelf) -> list[str]:
    return [one.get_attribute("aria-label") or "" for one in shelf.page.get_by_role("rowheader").all()]


def cell(shelf: Shelf, picture: str, name: str) -> Locator:
    return shelf.page.get_by_role("gridcell", name=f"{picture} through {name}")


def kept(shelf: Shelf, *names: str) -> Board:
    choose(shelf, *names)
    shelf.page.get_by_role("group", name="What is chosen").get_by_role("button", name="Compare").click()
    shelf.page.get_by_role("button", name="Keep this board").click()
    shelf.page.get_by_label("Its name").fill("Evenings")
    shelf.page.get_by_role("button", name="Keep it for the team").click()
    expect(shelf.page.get_by_role("heading", name="Evenings")).to_be_visible()
    return Board.objects.get()


def test_six_are_compared_on_the_pictures_and_kept_under_a_name_and_an_address(shelf: Shelf):
    board = kept(shelf, *NAMES)
    page = shelf.page
    assert page.url.endswith(f"/shelf/board/{board.pk}")
    expect(page.get_by_role("rowheader")).to_have_count(6)
    count = board.pictures.count()
    expect(page.get_by_role("gridcell")).to_have_count(6 * count)

    def loaded() -> None:
        done = page.evaluate("[...document.querySelectorAll('[role=gridcell] img')].map((one) => one.complete && one.naturalWidth)")
        assert len(done) == 6 * count
        assert set(done) == {480}

    eventually(page, loaded)
    page.reload()
    expect(page.get_by_role("rowheader")).to_have_count(6)
    assert violations(page) == []
    page.get_by_role("link", name="Shelf").first.click()
    page.get_by_role("link", name="Evenings").click()
    expect(page.get_by_role("heading", name="Evenings")).to_be_visible()


def test_more_than_six_cannot_be_chosen_to_compare(shelf: Shelf, studio):
    looks.create(studio, look_from({"name": "Seventh", "steps": [{"kind": "curves"}]}))
    shelf.page.reload()
    choose(shelf, *NAMES, "Seventh")
    bar = shelf.page.get_by_role("group", name="What is chosen")
    expect(bar).to_contain_text("Up to 6 can be compared")
    expect(bar.get_by_role("button", name="Compare")).to_have_count(0)


def test_rows_are_put_in_order_by_drag_and_by_keys_and_stay_so(shelf: Shelf):
    board = kept(shelf, "Hearth", "Tide", "Chalk")
    page = shelf.page
    first, _, last = rows(shelf)
    head = page.get_by_role("rowheader", name=last)
    head.hover()
    head.get_by_role("button", name=f"Move {last}").drag_to(page.get_by_role("rowheader", name=first))
    eventually(page, lambda: _is(rows(shelf)[0], last))
    handle = page.get_by_role("button", name=f"Move {last}")
    handle.focus()
    page.keyboard.press("ArrowDown")
    eventually(page, lambda: _is(rows(shelf)[1], last))
    order = rows(shelf)
    page.reload()
    expect(page.get_by_role("rowheader")).to_have_count(3)
    assert rows(shelf) == order
    assert [row.entry.name for row in board.entries.select_related("entry")] == order


def _is(found: str, wanted: str) -> None:
    assert found == wanted


def test_one_view_for_all_cells_and_a_wipe_against_any_other(shelf: Shelf):
    kept(shelf, "Hearth", "Tide")
    page = shelf.page
    picture = Picture.objects.order_by("position", "pk").first().name
    one, other = cell(shelf, picture, "Hearth"), cell(shelf, picture, "Tide")
    box = one.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.wheel(0, -300)
    expect(page.get_by_text(re.compile(r"\d+ %, all together"))).to_be_visible()
    styles = page.evaluate(
        "[...document.querySelectorAll('[role=gridcell]')].map((one) => one.querySelector('img').style.transform)"
    )
    assert len(set(styles)) == 1
    assert "scale(1)" not in styles[0]
    page.get_by_role("button", name="Whole pictures").click()
    one.click()
    expect(one).to_have_attribute("aria-selected", "true")
    box = other.bounding_box()
    page.mouse.move(box["x"] + box["width"] * 0.4, box["y"] + box["height"] / 2)
    over = other.locator("img").nth(1)
    assert over.get_attribute("src") == one.locator("img").first.get_attribute("src")
    left = other.evaluate("(cell) => cell.children[1].style.clipPath")
    assert re.fullmatch(r"inset\(0(px|%)? 60(\.\d+)?% 0(px|%)? 0(px|%)?\)", left), left


def test_two_cells_are_opened_large_and_each_half_is_its_own(shelf: Shelf):
    kept(shelf, "Hearth", "Tide")
    page = shelf.page
    picture = Picture.objects.order_by("position", "pk").first()
    cell(shelf, picture.name, "Hearth").click()
    cell(shelf, picture.name, "Tide").click()
    page.keyboard.press("Enter")
    expect(page.get_by_role("region", name="Two of the board")).to_be_visible()
    wanted = {which: through(name, picture) for which, name in (("before", "Hearth"), ("after", "Tide"))}
    assert np.abs(wanted["before"] - wanted["after"]).mean() > 3

    def each_is_its_own() -> None:
        for which, frame in wanted.items():
            # A JPEG of quality 95 is a few codes off where colours change at once, and half a code on the whole.
            shown = canvas_pixels(page, which).astype(float)
            assert shown.shape == frame.shape
            assert np.abs(shown - frame).mean() < 1

    eventually(page, each_is_its_own)
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name="Two of the board")).to_be_hidden()


def through(name: str, picture: Picture) -> np.ndarray:
    return entries.frame(entries.grade_of(Entry.objects.get(name=name)), picture).astype(float)


def test_the_grid_is_walked_marked_and_brought_near_by_keys(shelf: Shelf):
    kept(shelf, "Hearth", "Tide")
    page = shelf.page
    cells = page.get_by_role("gridcell")
    cells.first.focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowRight")
    focused = page.evaluate("document.activeElement.getAttribute('aria-label')")
    names = [one.get_attribute("aria-label") for one in cells.all()]
    across = len(names) // 2
    assert focused == names[across + 1]
    page.keyboard.press("Space")
    expect(cells.nth(across + 1)).to_have_attribute("aria-selected", "true")
    page.keyboard.press("+")
    expect(page.get_by_text("Move across any other to wipe it against 1")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_text("150 %, all together")).to_be_visible()
    page.keyboard.press("0")
    expect(page.get_by_text("Click two to compare them")).to_be_visible()


def test_names_are_hidden_for_a_blind_choice_and_verdicts_come_out_after(shelf: Shelf, bench: Bench):
    board = kept(shelf, "Hearth", "Tide", "Chalk")
    page = shelf.page
    page.get_by_role("button", name="Hide the names").click()
    expect(page.get_by_role("rowheader", name="A", exact=True)).to_be_visible()
    assert rows(shelf) == ["A", "B", "C"]
    text = page.locator("main").inner_text()
    assert not [name for name in ("Hearth", "Tide", "Chalk") if name in text]
    page.get_by_role("group", name="Verdict on B").get_by_role("button", name="Yes").click()
    expect(page.get_by_role("group", name="Verdict on B").get_by_role("button", name="Yes")).to_have_attribute(
        "aria-pressed", "true"
    )
    page.get_by_role("button", name="Notes on B").click()
    page.get_by_label("Your note").fill("Holds on faces")
    page.get_by_role("button", name="Keep the note").click()
    expect(page.get_by_role("dialog")).to_be_hidden()
    Person.objects.create_user("nadia", password=PASSWORD, role="viewer", full_name="Nadia Quill")
    propose_all()
    address = page.url
    page.context.clear_cookies()
    sign_in(page, bench.url, "nadia", PASSWORD)
    page.goto(address)
    expect(page.get_by_role("rowheader")).to_have_count(3)
    expect(page.get_by_role("button", name="Show the names")).to_have_count(0)
    expect(page.get_by_role("button", name="Notes on B: 0")).to_be_visible()
    page.get_by_role("group", name="Verdict on B").get_by_role("button", name="No", exact=True).click()
    page.get_by_role("button", name="Notes on B: 2").click()
    expect(page.get_by_role("list", name="The others")).to_contain_text("Ilse Harrow: Yes")
    expect(page.get_by_role("list", name="The others")).to_contain_text("Holds on faces")
    assert sorted(Verdict.objects.filter(board=board).values_list("choice", flat=True)) == ["no", "yes"]
