"""A project as a lightbox: shots in scenes, looks tried on all that are chosen, put there, taken back; what a viewer is offered."""

from __future__ import annotations

import pytest
from playwright.sync_api import Locator, Page, expect

from saucer.core.look.model import look_from
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.projects import rules as projects
from saucer.studio.projects.models import Layer, Project, Shot
from tests.browser.conftest import PASSWORD
from tests.browser.pages import Bench, eventually, signed_in, tick
from tests.browser.test_access import violations


@pytest.fixture
def lightbox(bench: Bench, studio) -> Page:
    """Two scenes of two shots and one; two looks."""
    for name, warm in (("Hearth", 50), ("Tide", -50)):
        draft = looks.create(studio, look_from({"name": name, "steps": [{"kind": "white-balance", "warm": warm}]}))
        looks.save_version(studio, draft.pk)
    project = projects.create(studio, "The Salt Ferry")
    first, second, third = Picture.objects.order_by("pk").values_list("pk", flat=True)[:3]
    projects.add_shots(studio, project.pk, "Quay", [first, second])
    projects.add_shots(studio, project.pk, "Inside", [third])
    bench.page.goto(f"{bench.url}/projects/{project.pk}")
    expect(bench.page.get_by_role("heading", name="The Salt Ferry")).to_be_visible()
    return bench.page


def scene(page: Page, name: str) -> Locator:
    return page.get_by_role("region", name=name)


def on(scene_name: str) -> list[str]:
    rows = Layer.objects.filter(shot__scene__name=scene_name).order_by("shot__position", "position")
    return list(rows.values_list("version__entry__name", flat=True))


def test_a_project_is_made_and_shots_are_brought_in(bench: Bench):
    page = bench.page
    page.get_by_role("link", name="Projects").click()
    expect(page.get_by_text("There is no project yet.")).to_be_visible()
    page.get_by_label("Name").fill("Orchard")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_text("There are no shots yet.")).to_be_visible()
    page.get_by_role("button", name="Bring shots in").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Scene").fill("Morning")
    for name in Picture.objects.order_by("pk").values_list("name", flat=True)[:2]:
        tick(sheet, name)
    sheet.get_by_role("button", name="Bring in 2").click()
    expect(scene(page, "Morning").locator("button[aria-pressed]")).to_have_count(2)
    assert violations(page) == []
    page.get_by_role("link", name="Projects").click()
    expect(page.get_by_role("link", name="Orchard")).to_contain_text("2 shots")


def test_looks_are_tried_on_all_chosen_put_there_replaced_and_taken_back(lightbox: Page):
    page = lightbox
    page.get_by_role("button", name="Quay 2").click()
    foot = page.get_by_role("group", name="What is chosen")
    expect(foot).to_contain_text("2 chosen")
    shots = scene(page, "Quay").locator("button[aria-pressed] img")
    before = [one.get_attribute("src") for one in shots.all()]
    hearth = foot.get_by_role("button", name="Hearth")
    hearth.hover()
    expect(page.get_by_text("Hearth, tried")).to_have_count(2)
    assert all("/api/shelf/entries/" in (one.get_attribute("src") or "") for one in shots.all())
    page.mouse.move(640, 300)
    expect(page.get_by_text("Hearth, tried")).to_have_count(0)
    assert [one.get_attribute("src") for one in shots.all()] == before, "leaving leaves no trace"
    assert Layer.objects.count() == 0
    hearth.click()
    expect(foot.get_by_text("Hearth is on 2 shots.")).to_be_visible()
    assert on("Quay") == ["Hearth", "Hearth"]
    foot.get_by_role("button", name="Tide").click()
    expect(foot.get_by_text("Tide is on 2 shots.")).to_be_visible()
    assert on("Quay") == ["Tide", "Tide"], "another look replaces it"
    foot.get_by_label("Strength, percent").fill("40")
    foot.get_by_label("Strength, percent").press("Enter")
    expect(page.get_by_text("Tide, version 1 at 40 %")).to_have_count(2)
    foot.get_by_role("button", name="Take it back").click()
    expect(foot.get_by_text("Taken back.")).to_be_visible()
    expect(page.get_by_text("Tide, version 1 at 40 %")).to_have_count(0)
    foot.get_by_role("button", name="Take off").click()
    eventually(page, lambda: _empty("Quay"))
    assert violations(page) == []


def _empty(name: str) -> None:
    assert on(name) == []


def test_shots_are_chosen_in_a_run_and_approved(lightbox: Page):
    page = lightbox
    shots = page.locator("button[aria-pressed]").filter(has=page.locator("img"))
    shots.nth(0).click()
    shots.nth(2).click(modifiers=["Shift"])
    foot = page.get_by_role("group", name="What is chosen")
    expect(foot).to_contain_text("3 chosen")
    foot.get_by_role("button", name="Approve").click()
    expect(page.get_by_role("img", name="approved")).to_have_count(3)
    assert Shot.objects.filter(approved=True).count() == 3
    page.keyboard.press("Escape")
    expect(foot).to_be_hidden()


def test_a_viewer_sees_the_wall_and_is_offered_nothing_to_change(lightbox: Page, bench: Bench):
    page, address = lightbox, lightbox.url
    page.context.clear_cookies()
    signed_in(page, bench.url, Person.objects.create_user("nadia", password=PASSWORD, role="viewer"))
    page.goto(address)
    shots = page.locator("button[aria-pressed]").filter(has=page.locator("img"))
    expect(shots).to_have_count(3)
    shots.first.click()
    expect(page.get_by_role("group", name="What is chosen")).to_have_count(0)
    expect(page.get_by_role("button", name="Bring shots in")).to_have_count(0)
    Project.objects.update(closed=True)
    page.reload()
    expect(page.get_by_text("There is no such project, or it was deleted.")).to_be_visible()
