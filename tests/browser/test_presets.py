"""Keeping what works: presets by name, favourites, the last settings; replacing or adding as an explicit choice."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from saucer.core.look.model import look_from
from saucer.studio.catalogue import rules as catalogue
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.looks import rules as looks
from saucer.studio.presets import rules as presets
from saucer.studio.presets.models import RecentSetting
from tests.browser.pages import Bench, eventually, option
from tests.browser.test_bench import close, draft
from tests.browser.test_editors import as_graded
from tests.find import look_named

WARM = {"kind": "white-balance", "warm": 40}
COLD = {"kind": "white-balance", "warm": -40}


@pytest.fixture
def kept(bench: Bench, studio) -> Bench:
    for name, step in (("Lamplight", WARM), ("Frost", COLD)):
        presets.keep(
            studio, name, look_from({"steps": [step, {"kind": "grain", "amount": 0.1}]}).steps, "Evenings", f"{name} for interiors"
        )
    return bench.open(look_named("Salt").pk)


def test_a_run_of_steps_is_kept_with_its_spatial_one(bench: Bench, studio):
    entry = look_named("Salt")
    steps = [
        {"kind": "tone", "id": "t", "exposure": 0.3},
        {"kind": "saturation", "id": "s", "factor": 1.2, "strength": 0.5},
        {"kind": "grain", "id": "g", "amount": 0.2},
    ]
    looks.save_draft(studio, entry.pk, look_from({"name": "Salt", "steps": steps}), entry.revision)
    bench.open(entry.pk)
    bench.choose("Saturation").choose("Grain", "Shift").page.keyboard.press("p")
    sheet = bench.page.get_by_role("dialog")
    expect(sheet).to_contain_text("Saturation, Grain")
    sheet.get_by_label("Name").fill("Soft evening")
    sheet.get_by_label("Category").fill("Evenings")
    sheet.get_by_label("Note").fill("Under lamps")
    sheet.get_by_role("button", name="Keep").click()
    expect(sheet).to_be_hidden()
    preset = Entry.objects.get(kind=Kind.PRESET, name="Soft evening")
    assert (preset.category.path, preset.note) == ("Evenings", "Under lamps")
    assert [(step["kind"], step["strength"]) for step in preset.versions.get().content["steps"]] == [
        ("saturation", 0.5),
        ("grain", 1.0),
    ]


def apply(bench: Bench, name: str) -> None:
    bench.search(name)
    option(bench.page, name).click()
    expect(bench.page.get_by_test_id("add-panel")).to_be_hidden()
    bench.wait_saved()


def shape() -> list:
    return [(step.kind, getattr(step, "warm", None)) for step in draft().steps]


def test_trying_presets_one_after_another_replaces_and_adding_is_a_choice(kept: Bench):
    apply(kept, "Lamplight")
    assert shape() == [("curves", None), ("white-balance", 40), ("grain", None)]
    apply(kept, "Frost")
    assert shape() == [("curves", None), ("white-balance", -40), ("grain", None)], "the one before made way"
    kept.search("Lamplight")
    kept.page.get_by_role("radio", name="Add as well").click()
    option(kept.page, "Lamplight").click()
    kept.wait_saved()
    assert shape() == [("curves", None), ("white-balance", -40), ("white-balance", 40), ("grain", None), ("grain", None)]
    close(kept.pixels(), as_graded(draft()))
    kept.undo()
    kept.undo()
    kept.wait_saved()
    assert shape() == [("curves", None), ("white-balance", 40), ("grain", None)]


def test_one_that_was_changed_since_is_not_replaced(kept: Bench):
    apply(kept, "Lamplight")
    kept.choose("White balance").type_setting("Warm, mired", "55")
    kept.search("Frost")
    expect(kept.page.get_by_role("radio", name="Add as well")).to_have_count(0)
    option(kept.page, "Frost").click()
    kept.wait_saved()
    assert sorted(warm for kind, warm in shape() if kind == "white-balance") == [-40, 55]


def test_favourites_come_first_and_presets_are_changed_deleted_and_brought_back(kept: Bench, studio):
    page = kept.page
    kept.search("evenings")
    option(page, "Lamplight").hover()
    page.get_by_role("button", name="Star Lamplight").click()
    expect(page.get_by_role("option").first).to_contain_text("Lamplight")
    assert catalogue.list_favourites(studio, Kind.PRESET) == {Entry.objects.get(name="Lamplight").pk}
    page.get_by_role("button", name="Change Lamplight").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Name").fill("Lamps")
    sheet.get_by_role("button", name="Change", exact=True).click()
    expect(option(page, "Lamps")).to_be_visible()
    option(page, "Lamps").hover()
    page.get_by_role("button", name="Delete Lamps").click()
    expect(option(page, "Lamps")).to_have_count(0)
    page.get_by_role("button", name="Bring it back").click()
    expect(option(page, "Lamps")).to_be_visible()
    assert draft().steps[0].kind == "curves"


def test_the_settings_a_step_was_left_with_are_offered_again(bench: Bench):
    bench.add_step("Saturation").type_setting("Saturation, x", "1.7")
    bench.choose("Curves")
    bench.wait_saved()

    def kept() -> None:
        assert [(one.kind, one.step["factor"]) for one in RecentSetting.objects.all()] == [("saturation", 1.7)]

    eventually(bench.page, kept)
    bench.search("used lately")
    option(bench.page, "Saturation").click()
    bench.wait_saved()
    assert [step.factor for step in draft().steps if step.kind == "saturation"] == [1.7, 1.7]
    close(bench.pixels(), as_graded(draft()))
