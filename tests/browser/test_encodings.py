"""Encodings of the team's own, made on their page, chosen on the Bench, and removed; what a viewer is offered."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from saucer.studio.encodings import rules as encodings
from saucer.studio.people.models import Person
from tests.browser.conftest import PASSWORD
from tests.browser.pages import Bench
from tests.browser.test_access import violations
from tests.find import look_named


def test_an_encoding_is_made_from_points_and_chosen_and_removed(bench: Bench):
    page = bench.page
    page.get_by_role("link", name="Pictures").click()
    page.get_by_role("link", name=re.compile("^Encodings")).click()
    expect(page.get_by_text("There are none yet.")).to_be_visible()
    page.get_by_role("button", name="Make an encoding").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("button", name="Keep it")).to_be_disabled()
    sheet.get_by_label("Name").fill("Pinhole 3")
    sheet.get_by_role("radio", name="Points").click()
    sheet.get_by_role("button", name="Primaries and white").click()
    page.get_by_role("option", name="P3-D65").click()
    expect(sheet.get_by_label("green y")).to_have_value("0.69")
    box = sheet.get_by_role("textbox", name=re.compile("^Code value and linear light"))
    box.fill("0, 0\n0.5, 0.18\n0.4, 1")
    expect(sheet.get_by_text(re.compile("must rise"))).to_be_visible()
    expect(sheet.get_by_role("button", name="Keep it")).to_be_disabled()
    box.fill("0, 0\n0.5, 0.18\n1, 4")
    expect(sheet.get_by_test_id("curve-facts")).to_contain_text("18 % grey is code 0.500")
    expect(sheet.get_by_test_id("curve-facts")).to_contain_text("code 1 is a light of 4.000")
    assert violations(page) == []
    sheet.get_by_role("button", name="Keep it").click()
    own = page.get_by_role("table", name="Your own encodings")
    expect(own).to_contain_text("pinhole-3")
    assert encodings.find("pinhole-3").primaries.red == (0.68, 0.32)
    bench.open(look_named("Salt").pk)
    bench.add_step("Convert").page.get_by_role("button", name="Choose an encoding").click()
    expect(page.get_by_role("option", name="Pinhole 3")).to_be_visible()
    page.keyboard.press("Escape")
    page.goto(f"{bench.url}/encodings")
    page.get_by_role("button", name="Remove Pinhole 3").click()
    expect(page.get_by_text("Pinhole 3 was removed.")).to_be_visible()


def test_a_viewer_sees_them_and_is_offered_nothing_to_make(bench: Bench):
    viewer = Person.objects.create_user("nadia", password=PASSWORD, role="viewer")
    bench.enter_as(viewer).arrive("/encodings")
    expect(bench.page.get_by_role("table", name="Shipped encodings")).to_contain_text("ACEScct")
    expect(bench.page.get_by_role("button", name="Make an encoding")).to_have_count(0)
    expect(bench.page.get_by_text("A designer can make them.")).to_be_visible()
