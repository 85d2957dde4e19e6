"""A project's work from an edit list to a delivery: misfits found and mended, a shot matched, a newer version taken for half."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import write_picture
from saucer.studio.catalogue.models import Entry
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures import footage
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import Delivery, Layer, Project, Shot
from saucer.studio.projects.story import shots
from tests.browser.pages import Bench, eventually
from tests.browser.test_access import violations
from tests.clips import write
from tests.core.test_misfits_match import scene
from tests.studio.work import run_worker

EDIT_LIST = """TITLE: FERRY REEL 1
FCM: NON-DROP FRAME

001  GULLS    V     C        10:00:00:05 10:00:00:17 01:00:00:00 01:00:00:12
* FROM CLIP NAME: gulls.mov
* ASC_SOP (1.2 1.0 0.9) (0.01 0.0 -0.01) (1.0 1.1 1.0)
* ASC_SAT 0.85
002  LOST     V     C        00:00:00:00 00:00:01:00 01:00:00:12 01:00:01:12
* FROM CLIP NAME: lost.mov
"""


@pytest.fixture
def film(bench: Bench, studio: Person, tmp_path: Path) -> Page:
    """Six shots under one look: four alike, one too bright, one too cool."""
    faults = {"bright": {"kind": "tone", "exposure": 1.5}, "cool": {"kind": "white-balance", "warm": -60}}
    project = projects.create(studio, "Ferry")
    wanted = []
    for number, name in enumerate(("even0", "even1", "even2", "even3", "bright", "cool")):
        pixels = scene(number + 10)
        if name in faults:
            pixels = evaluate(prepare(look_from({"steps": [faults[name]]})), pixels)
        write_picture(Pixels(np.clip(pixels, 0, 1), "u16"), tmp_path / f"{name}.png")
        wanted.append(shots.NewShot(pictures.bring_in(studio, tmp_path / f"{name}.png", f"{name}.png").pk, "Quay"))
    added = shots.add_shots(studio, project.pk, wanted)
    draft = looks.create(studio, look_from({"name": "Hearth", "steps": [{"kind": "tone", "contrast": 1.25, "exposure": 0.3}]}))
    looks.save_version(studio, draft.pk)
    grading.put_look(studio, project.pk, [one.pk for one in added], draft.pk, None, 1.0, stack=False)
    page = bench.arrive(f"/projects/{project.pk}")
    expect(page.get_by_role("heading", name="Ferry")).to_be_visible()
    return page


def test_planted_misfits_are_found_one_is_mended_and_one_is_matched(film: Page):
    page = film
    page.get_by_role("button", name="Misfits").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="Measure all").click()
    expect(sheet.get_by_text("Waiting for a worker…")).to_be_visible()
    run_worker()
    found = sheet.get_by_role("list", name="Misfits")
    expect(found.get_by_role("link")).to_have_count(2)
    assert violations(page) == []
    found.get_by_role("link", name="bright").click()
    remedy = page.get_by_role("list", name="Remedies").get_by_role("listitem").filter(has_text="before the look")
    expect(remedy).to_contain_text("Exposure -")
    remedy.get_by_role("button", name="Look at it").click()
    page.wait_for_timeout(400)
    assert not Layer.objects.filter(shot__code="bright", role="before").exists(), "only looked at"
    remedy.get_by_role("button", name="Take it").click()
    eventually(page, lambda: _is_trimmed("bright"))
    run_worker()
    page.goto(f"{page.url.rsplit('/', 1)[0]}/{Shot.objects.get(code='cool').pk}")
    page.get_by_role("button", name="To bright").click()
    proposed = page.get_by_role("region", name="Match")
    expect(proposed).to_contain_text("to be trusted by")
    assert not Layer.objects.filter(shot__code="cool", role="before").exists(), "never taken unasked"
    proposed.get_by_role("button", name="Take it, in place of its trims").click()
    eventually(page, lambda: _is_trimmed("cool"))
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_visible()


def _is_trimmed(code: str) -> None:
    assert Layer.objects.filter(shot__code=code, role="before").exists()


def test_a_newer_version_is_seen_beside_and_taken_for_half(film: Page, studio: Person):
    page, entry = film, Entry.objects.get(name="Hearth")
    draft = looks.draft_of(entry.pk)
    looks.save_draft(
        studio, entry.pk, look_from({"name": "Hearth", "steps": [{"kind": "white-balance", "warm": 60}]}), draft.revision
    )
    looks.save_version(studio, entry.pk)
    page.reload()
    expect(page.get_by_text("version 2 is there").first).to_be_visible()
    first = Shot.objects.order_by("position")[0]
    wall = page.url
    page.goto(f"{wall}/shots/{first.pk}")
    page.get_by_role("radio", name="Newer version").click()
    expect(page.get_by_role("img", name="Through the newer version")).to_be_visible()
    page.goto(wall)
    cards = page.locator("button[aria-pressed]").filter(has=page.locator("img"))
    cards.nth(0).click()
    cards.nth(2).click(modifiers=["Shift"])
    page.get_by_role("button", name="Take the newest on 3").click()
    expect(page.get_by_text("Newest version on 3 shots.")).to_be_visible()
    numbers = list(Layer.objects.order_by("shot__position").values_list("version__number", flat=True))
    assert numbers == [2, 2, 2, 1, 1, 1]


def test_stills_and_luts_are_delivered_and_a_delivery_stays_with_what_was_in_it(film: Page, tmp_path: Path):
    page = film
    page.get_by_role("button", name="Deliver").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("list", name="Names")).to_contain_text("stills/Quay_even0.png")
    sheet.get_by_role("button", name="A LUT for each shot").click()
    page.get_by_role("option", name="Cube LUT", exact=False).first.click()
    template = sheet.get_by_role("textbox", name="Names")
    template.fill("{code}")
    expect(sheet.get_by_role("region", name="What it will be")).to_contain_text("would both be called Ferry")
    expect(sheet.get_by_role("button", name="Deliver", exact=True)).to_be_disabled()
    template.fill("{shot}_{version}")
    expect(sheet.get_by_role("list", name="Names")).to_contain_text("luts/even0_v1.cube")
    assert violations(page) == []
    sheet.get_by_role("button", name="Deliver", exact=True).click()
    expect(page.get_by_role("heading", name="Delivery 1")).to_be_visible()
    expect(page.get_by_text("waiting for a worker", exact=True)).to_be_visible()
    run_worker()
    expect(page.get_by_text("14 of 14 files")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="stills/even0_v1.png").click()
    download.value.save_as(tmp_path / "even0.png")
    assert (tmp_path / "even0.png").read_bytes().startswith(b"\x89PNG")
    assert violations(page) == []
    assert Delivery.objects.get().items.filter(blob=None).count() == 0


def test_an_edit_list_becomes_shots_and_what_is_missing_is_told(film: Page, studio: Person, tmp_path: Path):
    page = film
    path = write(tmp_path / "gulls.mov", "prores_ks", "yuv422p10le", 24, timecode="10:00:00:00")
    footage.bring_in_clip(studio, footage.Source(path, "gulls.mov"))
    (tmp_path / "reel.edl").write_text(EDIT_LIST)
    page.get_by_role("button", name="Read a timeline").click()
    sheet = page.get_by_role("dialog")
    with page.expect_file_chooser() as chooser:
        sheet.get_by_role("button", name="Drop a timeline here").click()
    chooser.value.set_files(tmp_path / "reel.edl")
    table = sheet.get_by_role("table", name="What it holds")
    expect(table).to_contain_text("5 to 16")
    expect(table).to_contain_text('no picture here is called "lost"')
    sheet.get_by_role("button", name="Bring in 1").click()
    expect(page.get_by_role("region", name="reel")).to_contain_text("gulls")
    shot = Shot.objects.get(scene__name="reel")
    assert (shot.first, shot.last) == (5, 16)
    assert Layer.objects.get(shot=shot).steps[0]["kind"] == "cdl"
    assert Project.objects.get().name == "Ferry"
