"""The chain of a shot: what lies on many is put there, seen, switched off for one; parts are moved by hand and by keys."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from saucer.studio.catalogue.models import Entry
from saucer.studio.people.models import Person
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import Layer, Project, Shot
from tests.browser.pages import eventually
from tests.browser.test_access import violations
from tests.browser.test_projects import canvas_of, wall

__all__ = ["wall"]


def warmth(page: Page) -> float:
    """Of what the page shows of the shot: red over blue."""
    seen = canvas_of(page).reshape(-1, 3).mean(axis=0)
    return float(seen[0] - seen[2])


def looks_on(shot: Shot) -> list[str]:
    return list(Layer.objects.filter(shot=shot).order_by("position").values_list("version__entry__name", flat=True))


def _is(found: object, wanted: object) -> None:
    assert found == wanted


def test_a_look_for_a_scene_is_seen_on_each_of_its_shots_and_off_for_one(wall: Page):
    page, base = wall, wall.url
    first, second = Shot.objects.filter(scene__name="Quay").order_by("position")
    page.goto(f"{base}/shots/{first.pk}")
    expect(page.get_by_test_id("shot-picture")).to_be_visible()
    plain = eventually(page, lambda: _shown(page))
    page.get_by_role("button", name="Put something on more shots").click()
    choices = page.get_by_role("dialog", name="Put something on more shots")
    expect(choices.get_by_role("button", name=re.compile("Scene Quay, 2 shots"))).to_be_visible()
    assert violations(page) == []
    choices.get_by_role("button", name="A look, LUT or preset…").click()
    chooser = page.get_by_test_id("part-chooser")
    chooser.get_by_role("textbox").fill("Hearth")
    part = page.get_by_role("listitem", name="Hearth, for Quay")
    eventually(page, lambda: _beyond(page, plain + 8))
    assert violations(page) == []
    page.keyboard.press("Escape")
    eventually(page, lambda: _below(page, plain + 1))
    expect(part).to_have_count(0)
    page.get_by_role("button", name="Put something on more shots").click()
    choices.get_by_role("button", name="A look, LUT or preset…").click()
    chooser.get_by_role("textbox").fill("Hearth")
    chooser.get_by_role("option", name="Hearth").click()
    expect(chooser).to_have_count(0)
    expect(part).to_contain_text("Quay · 2 shots")
    warm = eventually(page, lambda: _beyond(page, plain + 8))
    part.get_by_role("button", name="Off on this shot").click()
    expect(part).to_contain_text("Off on this shot.")
    eventually(page, lambda: _below(page, warm - 8))
    page.goto(f"{base}/shots/{second.pk}")
    expect(part).to_contain_text("Quay · 2 shots")
    expect(part).not_to_contain_text("Off on this shot.")
    assert Layer.objects.get().off_on == [first.pk]
    assert violations(page) == []
    page.get_by_role("button", name="Take Hearth off for all").click()
    expect(part).to_have_count(0)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(part).to_be_visible()


def _shown(page: Page) -> float:
    assert canvas_of(page).mean() > 1
    return warmth(page)


def _beyond(page: Page, least: float) -> float:
    found = warmth(page)
    assert found > least
    return found


def _below(page: Page, most: float) -> None:
    assert warmth(page) < most


def test_stacked_looks_are_moved_by_their_dots_and_by_keys(wall: Page, studio: Person):
    page, project = wall, Project.objects.get()
    shot = Shot.objects.filter(scene__name="Quay").earliest("position")
    for name in ("Hearth", "Tide"):
        grading.put_look(studio, project.pk, [shot.pk], Entry.objects.get(name=name).pk, None, 1.0, stack=True)
    page.goto(f"{page.url}/shots/{shot.pk}")
    hearth, tide = (page.get_by_role("listitem", name=name, exact=True) for name in ("Hearth", "Tide"))
    hearth.get_by_role("button", name="Move Hearth").drag_to(tide)
    eventually(page, lambda: _is(looks_on(shot), ["Tide", "Hearth"]))
    expect(page.get_by_text("Kept.")).to_be_visible()
    grip = page.get_by_role("button", name="Move Hearth")
    grip.focus()
    page.keyboard.press("Alt+ArrowUp")
    eventually(page, lambda: _is(looks_on(shot), ["Hearth", "Tide"]))
    expect(grip).to_be_focused()
    page.keyboard.press("Alt+ArrowDown")
    eventually(page, lambda: _is(looks_on(shot), ["Tide", "Hearth"]))


def test_a_camera_is_named_on_the_wall_and_corrected_under_all_of_its_shots(wall: Page):
    page = wall
    page.get_by_role("button", name="Quay").first.click()
    roll = page.get_by_label("Camera, roll or folder")
    roll.fill("Camera B")
    roll.press("Enter")
    eventually(page, lambda: _is(set(Shot.objects.filter(scene__name="Quay").values_list("roll", flat=True)), {"Camera B"}))
    page.get_by_role("button", name="Put something on more shots").click()
    page.get_by_role("button", name=re.compile("^Scene Quay")).click()
    page.get_by_role("option", name=re.compile("All of Camera B, 2 shots")).click()
    page.get_by_role("button", name="A correction of its own").click()
    expect(page.get_by_role("region", name="For more shots")).to_contain_text("Camera B · 2 shots")
    shot = Shot.objects.filter(scene__name="Quay").earliest("position")
    page.goto(f"{page.url}/shots/{shot.pk}")
    page.get_by_role("button", name="Add a step for all").click()
    page.get_by_role("option", name="Tone", exact=True).click()
    exposure = page.get_by_role("textbox", name="Exposure")
    exposure.fill("0.5")
    exposure.press("Enter")
    eventually(page, lambda: _is([one.get("exposure") for one in Layer.objects.get(roll="Camera B").steps], [0.5]))
    assert violations(page) == []
