"""A project as a wall: shots in scenes, looks tried on all that are chosen, put there, taken back; what a viewer is offered."""

from __future__ import annotations

import base64
import re
from collections.abc import Callable
from io import BytesIO
from pathlib import Path
from uuid import UUID

import numpy as np
import pytest
from ninja.errors import HttpError
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import write_picture
from saucer.studio.catalogue.models import Entry
from saucer.studio.common.models import Blob
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures import footage
from saucer.studio.pictures.models import Picture
from saucer.studio.projects import rules as projects
from saucer.studio.projects.grade import grading, seeing
from saucer.studio.projects.models import Layer, Project, Shot
from saucer.studio.projects.story import shots
from saucer.studio.uploads import rules
from saucer.studio.uploads.models import Upload
from tests.browser.conftest import PASSWORD
from tests.browser.pages import Bench, eventually, signed_in
from tests.browser.test_access import violations
from tests.clips import moving, write


@pytest.fixture
def wall(bench: Bench, studio) -> Page:
    """Two scenes of two shots and one; two looks."""
    for name, warm in (("Hearth", 50), ("Tide", -50)):
        draft = looks.create(studio, look_from({"name": name, "steps": [{"kind": "white-balance", "warm": warm}]}))
        looks.save_version(studio, draft.pk)
    project = projects.create(studio, "The Salt Ferry")
    first, second, third = Picture.objects.order_by("pk").values_list("pk", flat=True)[:3]
    shots.add_shots(studio, project.pk, [shots.NewShot(one, "Quay") for one in (first, second)])
    shots.add_shots(studio, project.pk, [shots.NewShot(third, "Inside")])
    page = bench.arrive(f"/projects/{project.pk}")
    expect(page.get_by_role("heading", name="The Salt Ferry")).to_be_visible()
    return page


def scene(page: Page, name: str) -> Locator:
    return page.get_by_role("region", name=name)


def on(scene_name: str) -> list[str]:
    rows = Layer.objects.filter(shot__scene__name=scene_name).order_by("shot__position", "position")
    return list(rows.values_list("version__entry__name", flat=True))


def test_a_project_is_made_and_shots_are_brought_in(bench: Bench):
    page = bench.page
    page.get_by_role("link", name="Projects").click()
    expect(page.get_by_text("There is no project yet.")).to_be_visible()
    page.get_by_label("Name", exact=True).fill("Orchard")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_text("There are no shots yet.")).to_be_visible()
    page.get_by_role("button", name="Bring shots in").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Scene", exact=True).fill("Morning")
    for name in Picture.objects.order_by("pk").values_list("name", flat=True)[:2]:
        sheet.get_by_role("option").filter(has=page.get_by_text(name, exact=True)).click()
    sheet.get_by_role("button", name="Bring in 2").click()
    expect(scene(page, "Morning").locator("button[aria-pressed]")).to_have_count(2)
    foot = page.get_by_role("group", name="What is chosen")
    foot.get_by_role("button", name="Undo", exact=True).click()
    expect(foot.get_by_text("2 shots taken out again.")).to_be_visible()
    expect(page.get_by_text("There are no shots yet.")).to_be_visible()
    page.get_by_role("button", name="Bring shots in").click()
    sheet.get_by_label("Scene", exact=True).fill("Morning")
    for name in Picture.objects.order_by("pk").values_list("name", flat=True)[:2]:
        sheet.get_by_role("option").filter(has=page.get_by_text(name, exact=True)).click()
    sheet.get_by_role("button", name="Bring in 2").click()
    assert violations(page) == []
    page.get_by_role("link", name="Projects").click()
    expect(page.get_by_role("link", name="Orchard")).to_contain_text("2 shots")


def test_looks_are_tried_on_all_chosen_put_there_replaced_and_taken_back(wall: Page):
    page = wall
    page.get_by_role("button", name="Quay 2").click()
    foot = page.get_by_role("group", name="What is chosen")
    expect(foot).to_contain_text("2 chosen")
    shots = scene(page, "Quay").locator("button[aria-pressed] img")
    expect(shots).to_have_count(2)
    before = _seen(page, shots)
    hearth = foot.get_by_role("button", name="Hearth", exact=True)
    hearth.hover()
    expect(page.get_by_text("Hearth, tried")).to_have_count(2)

    def is_tried() -> None:
        assert not set(_seen(page, shots)) & set(before)

    def is_left() -> None:
        assert _seen(page, shots) == before, "leaving leaves no trace"

    eventually(page, is_tried)
    page.mouse.move(640, 300)
    expect(page.get_by_text("Hearth, tried")).to_have_count(0)
    eventually(page, is_left)
    assert Layer.objects.count() == 0
    hearth.click()
    expect(foot.get_by_text("Hearth is on 2 shots.")).to_be_visible()
    assert on("Quay") == ["Hearth", "Hearth"]
    foot.get_by_role("button", name="Tide", exact=True).click()
    expect(foot.get_by_text("Tide is on 2 shots.")).to_be_visible()
    assert on("Quay") == ["Tide", "Tide"], "another look replaces it"
    eye = page.get_by_role("complementary", name="What reaches the eye")
    eye.get_by_label("Strength, percent").fill("40")
    eye.get_by_label("Strength, percent").press("Enter")
    expect(page.get_by_text("Tide, version 1 at 40 %")).to_have_count(2)
    foot.get_by_role("button", name="Undo", exact=True).click()
    expect(foot.get_by_text("Taken back.")).to_be_visible()
    expect(page.get_by_text("Tide, version 1 at 40 %")).to_have_count(0)
    eye.get_by_role("button", name="Take off").click()
    eventually(page, lambda: _empty("Quay"))
    assert violations(page) == []


def _seen(page: Page, shots: Locator) -> list[str]:
    """The pixels of cards, by their sums, as soon as the cards have their pictures."""
    script = """(images) => Promise.all(images.map(async (image) => {
        await image.decode();
        const canvas = new OffscreenCanvas(image.naturalWidth, image.naturalHeight), context = canvas.getContext("2d");
        context.drawImage(image, 0, 0);
        return String(context.getImageData(0, 0, canvas.width, canvas.height).data.reduce((sum, value) => (sum * 31 + value) % 1000003, 7));
    }))"""
    found: list[str] = shots.evaluate_all(script)
    return found


def _empty(name: str) -> None:
    assert on(name) == []


def test_scenes_are_named_and_put_in_order_and_both_are_taken_back(wall: Page):
    page, heads = wall, wall.get_by_role("button", name="Change the scene")
    heads.first.click()
    panel = page.get_by_role("dialog", name="Scene Quay")
    panel.get_by_label("Name of the scene").fill("Harbour")
    page.keyboard.press("Enter")
    foot = page.get_by_role("group", name="What is chosen")
    expect(foot.get_by_text("The scene is called Harbour.")).to_be_visible()
    foot.get_by_role("button", name="Undo", exact=True).click()
    expect(scene(page, "Quay")).to_be_visible()
    heads.nth(1).click()
    panel = page.get_by_role("dialog", name="Scene Inside")
    expect(panel.get_by_role("button", name="Later")).to_be_disabled()
    panel.get_by_role("button", name="Earlier").click()
    expect(foot.get_by_text("Scenes in another order.")).to_be_visible()
    expect(page.locator("section[aria-label]").first).to_have_attribute("aria-label", "Inside")
    foot.get_by_role("button", name="Undo", exact=True).click()
    expect(page.locator("section[aria-label]").first).to_have_attribute("aria-label", "Quay")


def test_shots_are_chosen_in_a_run_and_approved(wall: Page):
    page = wall
    shots = page.locator("button[aria-pressed]").filter(has=page.locator("img"))
    shots.nth(0).click()
    shots.nth(2).click(modifiers=["Shift"])
    foot = page.get_by_role("group", name="What is chosen")
    expect(foot).to_contain_text("3 chosen")
    foot.get_by_role("button", name="Approve").click()
    expect(page.get_by_role("img", name="approved")).to_have_count(3)
    assert Shot.objects.filter(approved=True).count() == 3
    page.keyboard.press("Escape")
    expect(foot).not_to_contain_text("chosen")
    foot.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_role("img", name="approved")).to_have_count(0)
    assert not Shot.objects.filter(approved=True).exists()


def test_members_are_chosen_with_their_roles_and_scopes_follow_the_look(wall: Page, studio: Person):
    page = wall
    Person.objects.create_user("marek", password=PASSWORD, role="designer", full_name="Marek Sorel")
    page.reload()
    page.get_by_role("button", name="About the project").click()
    sheet = page.get_by_role("dialog", name="About the project")
    sheet.get_by_role("button", name="Add somebody").click()
    page.get_by_role("option", name="Marek Sorel").click()
    sheet.get_by_role("button", name="What Marek Sorel does").click()
    page.get_by_role("option", name="Follows").click()
    sheet.get_by_role("button", name="Keep").click()
    expect(sheet).to_be_hidden()
    (member,) = Project.objects.get().memberships.all()
    assert (member.person.username, member.role) == ("marek", "follows")
    page.get_by_role("button", name=re.compile("^Quay 2")).wait_for()
    page.get_by_role("link", name=re.compile("^Open ")).first.click()
    scopes = page.get_by_role("region", name="Scopes")
    expect(scopes.get_by_text("black", exact=False)).to_be_visible()
    scopes.get_by_text("Waveform").click()
    field = scopes.get_by_test_id("scope-waveform")
    expect(field).to_be_visible()

    def is_counted() -> None:
        assert field.locator("canvas").evaluate(
            "(canvas) => canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height).data.some((v) => v > 0)"
        )

    eventually(page, is_counted)


def clip_in(project: Project, studio: Person, folder: Path) -> Shot:
    """A clip of two seconds as a shot, its small copy made."""
    path = write(
        folder / "gulls.mov",
        "prores_ks",
        "yuv422p10le",
        48,
        size=(640, 360),
        tags={"colorspace": 1, "color_range": 1},
        timecode="10:00:00:00",
    )
    picture = footage.bring_in_clip(studio, footage.Source(path, "gulls.mov"))
    found = footage.of_picture(picture)
    footage.keep_proxy(found.pk, *footage.make_proxy(found), found)
    (shot,) = shots.add_shots(studio, project.pk, [shots.NewShot(picture.pk, "Quay", "gulls")])
    return shot


def test_a_clip_plays_while_strength_is_changed_and_no_frame_is_stale(wall: Page, studio: Person, tmp_path: Path):
    page, project = wall, Project.objects.get()
    shot = clip_in(project, studio, tmp_path)
    look = Entry.objects.get(name="Hearth")
    grading.put_look(studio, project.pk, [shot.pk], look.pk, None, 1.0, stack=False)
    page.goto(f"{page.url}/shots/{shot.pk}")
    player = page.get_by_role("group", name="Playing")
    expect(player).to_have_attribute("data-drawn", "1")
    expect(player).to_contain_text("10:00:01:00" if shot.poster == 24 else "10:00:00:23")
    player.get_by_role("button", name="Play").click()
    eventually(page, lambda: _at_least(player, "data-drawn", 20))
    thumb = page.get_by_role("slider", name="Strength of Hearth")
    # While the hand still moves, frames and changes go on to be seen.
    drawn, version = (int(player.get_attribute(name) or 0) for name in ("data-drawn", "data-version"))
    x, y, width, height = thumb.evaluate(
        "(input) => Object.values(input.parentElement.parentElement.getBoundingClientRect().toJSON())"
    )[:4]
    page.mouse.move(x + width / 2, y + height / 2)
    page.mouse.down()
    for moved in range(1, 101):
        page.mouse.move(x + width / 2 - moved, y + height / 2)
        page.wait_for_timeout(10)
    eventually(page, lambda: _at_least(player, "data-drawn", drawn + 5))
    eventually(page, lambda: _at_least(player, "data-version", version + 5))
    page.mouse.up()
    thumb.press("End")
    eventually(page, lambda: _strength_is(shot, 1.0))
    for _ in range(6):
        thumb.press("ArrowLeft")
    version = int(player.get_attribute("data-version") or 0)
    eventually(page, lambda: _at_least(player, "data-version", version + 1))
    drawn = int(player.get_attribute("data-drawn") or 0)
    eventually(page, lambda: _at_least(player, "data-drawn", drawn + 20))
    player.get_by_role("button", name="Pause").click()
    eventually(page, lambda: _strength_is(shot, 0.94))
    # The frame that is seen is the one that it says, through what is there now.
    number = int(player.get_attribute("data-frame") or 0)
    stored = Shot.objects.select_related("picture__footage", "scene").get(pk=shot.pk)
    wanted = seeing.pixels(stored, list(stored.layers.select_related("version__entry")), None, number)
    eventually(page, lambda: _is_seen(page, wanted))


def canvas_of(page: Page) -> np.ndarray:
    """What the page shows of the shot, pixel for pixel."""
    data = page.get_by_test_id("shot-picture").evaluate("canvas => canvas.toDataURL('image/png').split(',')[1]")
    return np.asarray(Image.open(BytesIO(base64.b64decode(data))).convert("RGB"))


def _is_seen(page: Page, wanted: np.ndarray) -> None:
    seen = canvas_of(page)
    assert seen.shape == wanted.shape
    assert np.abs(seen.astype(int) - wanted.astype(int)).mean() < 1.5, "JPEG only"


def _brightness(page: Page, least: float) -> float:
    """Of what the page shows of the shot: at least that."""
    found = float(canvas_of(page).mean())
    assert found > least
    return found


def _at_least(player: Locator, name: str, least: int) -> None:
    assert int(player.get_attribute(name) or 0) >= least


def _strength_is(shot: Shot, strength: float) -> None:
    assert Layer.objects.get(shot=shot).strength == pytest.approx(strength)


def test_a_shot_is_trimmed_with_the_benchs_own_editor_and_taken_back(wall: Page):
    page, shot = wall, Shot.objects.order_by("pk").first()
    assert shot is not None
    page.goto(f"{page.url}/shots/{shot.pk}")
    expect(page.get_by_test_id("shot-picture")).to_be_visible()
    before = eventually(page, lambda: _brightness(page, 1))
    page.get_by_role("button", name="Add a trim").click()
    page.get_by_role("option", name="Tone", exact=True).click()
    eventually(page, lambda: _trims_are(shot, ["tone"]))
    exposure = page.get_by_role("textbox", name="Exposure")
    exposure.fill("1")
    exposure.press("Enter")
    eventually(page, lambda: _exposure_is(shot, 1))
    eventually(page, lambda: _brightness(page, before + 10))
    page.get_by_role("button", name="Undo", exact=True).click()
    eventually(page, lambda: _exposure_is(shot, 0))
    page.get_by_role("radio", name="After it").click()
    expect(page.get_by_role("img", name=Shot.objects.order_by("pk")[1].code)).to_be_visible()
    page.get_by_label("A note").fill("The lamp is too hot")
    page.get_by_role("button", name="To the shot").click()
    expect(page.get_by_role("region", name="Notes")).to_contain_text("The lamp is too hot")
    assert violations(page) == []


def _exposure_is(shot: Shot, stops: float) -> None:
    assert Layer.objects.get(shot=shot, role="before").steps[0].get("exposure", 0) == stops


def _trims_are(shot: Shot, kinds: list[str]) -> None:
    own = Layer.objects.filter(shot=shot, role="before").first()
    assert [step["kind"] for step in (own.steps if own else [])] == kinds


def test_files_become_shots_with_scenes_out_of_their_names(wall: Page, tmp_path: Path):
    page = wall
    clip = write(tmp_path / "deck_010.mp4", count=6, size=(320, 180))
    frames = [tmp_path / f"mast_020.{number:03d}.png" for number in (1, 2, 3)]
    for number, path in enumerate(frames):
        write_picture(Pixels(moving(number), "u8"), path)
    page.get_by_role("button", name="Bring shots in").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radio", name="In files").click()
    with page.expect_file_chooser() as chooser:
        sheet.get_by_role("button", name="Drop stills, clips and numbered frames here").click()
    chooser.value.set_files([clip, *frames])
    expect(sheet.get_by_role("option", name="deck_010")).to_contain_text("6 frames")
    sheet.get_by_role("radio", name="Out of their names").click()
    expect(sheet.get_by_role("table")).to_contain_text("mast")
    sheet.get_by_role("button", name="Bring in 2").click()
    expect(scene(page, "deck").locator("button[aria-pressed]")).to_have_count(1)
    expect(scene(page, "mast")).to_contain_text("020")
    assert Shot.objects.get(code="010").last == 5


def test_a_large_clip_goes_on_where_the_connection_was_lost(wall: Page, tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    """The browser's end is a library that others have written to the protocol (tus-js-client)."""
    page, size = wall, 6 * 2**24
    clip = write(tmp_path / "deck_010.mov", count=6, size=(320, 180))
    # An atom that holds nothing makes it as large as a long one (ISO/IEC 14496-12, 8.1.2, "Free Space Box").
    with clip.open("ab") as file:
        padding = size - clip.stat().st_size
        file.write(padding.to_bytes(4, "big") + b"free")
        file.truncate(size)
    tried, came = [], []
    receive = rules.receive

    def cut(person: Person, pk: UUID, offset: int, read: Callable[[int], bytes]) -> Upload:
        """Every third time the server, or what is in front of it, is away."""
        tried.append(offset)
        if len(tried) % 3 == 0:
            raise HttpError(503, "away")
        came.append(offset)
        return receive(person, pk, offset, read)

    monkeypatch.setattr(rules, "receive", cut)
    page.get_by_role("button", name="Bring shots in").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radio", name="In files").click()
    with page.expect_file_chooser() as chooser:
        sheet.get_by_role("button", name="Drop stills, clips and numbered frames here").click()
    chooser.value.set_files(clip)
    expect(sheet.get_by_role("option", name="deck_010")).to_contain_text("6 frames")
    assert came == [part * 2**24 for part in range(6)], "nothing came twice"
    assert len(tried) == 8
    assert not Upload.objects.exists()
    assert Blob.objects.filter(bytes=size).exists()


def test_a_viewer_sees_the_wall_and_is_offered_nothing_to_change(wall: Page, bench: Bench):
    page, address = wall, wall.url
    page.context.clear_cookies()
    signed_in(page, bench.url, Person.objects.create_user("nadia", password=PASSWORD, role="viewer"))
    page.goto(address)
    shots = page.locator("main button[aria-pressed]").filter(has=page.locator("img"))
    expect(shots).to_have_count(3)
    shots.first.click()
    expect(page.get_by_role("group", name="What is chosen")).to_have_count(0)
    expect(page.get_by_role("button", name="Bring shots in")).to_have_count(0)
    Project.objects.update(closed=True)
    page.reload()
    expect(page.get_by_text("There is no such project, or it was deleted.")).to_be_visible()
