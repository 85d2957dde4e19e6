"""Everybody can use it: axe-core on every view, and the Bench without a mouse."""

from __future__ import annotations

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from saucer.core.look.model import look_from
from saucer.core.steps.kinds import pixel_kinds, spatial_kinds
from saucer.studio.looks import rules as looks
from tests.browser.pages import Bench, settle
from tests.browser.test_bench import close, draft, expected
from tests.find import look_named

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"


def violations(page: Page, within: str = "body") -> list[str]:
    """What axe-core finds serious or critical, with where.

    Left out is the region in which React Aria says to screen readers that a button is busy: it names the button, which may be gone by then.
    """
    settle(page)
    if not page.evaluate("() => 'axe' in window"):
        page.evaluate(AXE.read_text())
    run = "(within) => axe.run({ include: [within], exclude: ['[data-live-announcer]'] }, { resultTypes: ['violations'] })"
    found = page.evaluate(run, within)["violations"]
    return [
        f"{one['id']}: {node['html'][:160]} {node['failureSummary'][:200]}"
        for one in found
        if one["impact"] in ("serious", "critical")
        for node in one["nodes"][:3]
    ]


def test_no_serious_violation_in_the_views(bench: Bench):
    page = bench.page
    assert violations(page) == []
    for key in ("a", "h", "?", "p"):
        bench.leave()
        bench.choose("Curves")
        page.keyboard.press(key)
        assert violations(page) == [], key
        page.keyboard.press("Escape")
        settle(page)
    for name in ("Marks over the picture: None", "Sides: original / draft", "Set of test pictures: All pictures"):
        page.get_by_role("button", name=name).click()
        assert violations(page) == [], name
        page.keyboard.press("Escape")
        settle(page)
    page.get_by_role("button", name="Bake…").click()
    assert violations(page) == []
    page.keyboard.press("Escape")
    for surround in ("Light surround", "Dark surround", "Mid grey surround"):
        page.get_by_role("radio", name=surround).click()
        assert violations(page) == [], surround
    for name in ("Shelf", "Pictures"):
        page.get_by_role("link", name=name, exact=True).click()
        expect(page.get_by_role("main")).to_be_visible()
        assert violations(page) == [], name
    page.get_by_role("button", name="Signed in as").click()
    page.get_by_role("radio", name="Dark", exact=True).click()
    assert violations(page) == [], "dark"
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    assert violations(page) == []


def test_no_serious_violation_in_any_editor(bench: Bench, studio):
    entry = look_named("Salt")
    kinds = [*pixel_kinds(), *spatial_kinds(), "group"]
    looks.save_draft(
        studio,
        entry.pk,
        look_from({"name": "Salt", "steps": [{"kind": kind, "id": kind} for kind in kinds if kind != "lut"]}),
        entry.revision,
    )
    bench.open(entry.pk)
    found = {}
    for kind in kinds:
        if kind == "lut":
            continue
        bench.page.locator(f'[data-line="{kind}"]').click()
        expect(bench.page.get_by_label("Name of the step")).to_be_visible()
        if serious := violations(bench.page, "[aria-label^='Step: ']"):
            found[kind] = serious
    assert found == {}


def test_a_look_is_made_without_a_mouse(bench: Bench):
    page = bench.page
    page.keyboard.press("a")
    page.keyboard.type("tone")
    # Curves holds the word in its description only: names come first.
    expect(page.get_by_role("option").first).to_contain_text("Tone")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("add-panel")).to_be_hidden()
    for _ in range(80):
        page.keyboard.press("Tab")
        if (
            page.evaluate(
                "document.activeElement.closest('[role=group]') && document.activeElement.getAttribute('type') === 'range' ? document.activeElement.getAttribute('aria-label') || document.activeElement.closest('[role=group][aria-label]').getAttribute('aria-label') : null"
            )
            == "Exposure"
        ):
            break
    assert page.evaluate("getComputedStyle(document.activeElement.parentElement.parentElement).outlineStyle") == "solid", (
        "focus is seen"
    )
    for _ in range(10):
        page.keyboard.press("ArrowRight")
    after = bench.pixels()
    bench.wait_saved()
    assert draft().steps[-1].exposure == pytest.approx(0.5)
    close(after, expected(draft()))
    bench.line("Tone").focus()
    page.keyboard.press("Alt+ArrowUp")
    assert bench.order() == ["Tone", "Curves"]
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Delete")
    assert bench.order() == ["Tone"]
    page.keyboard.press("Control+z")
    assert bench.order() == ["Tone", "Curves"]
