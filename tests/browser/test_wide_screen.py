"""A screen of more colours than sRGB: the picture in them, and as sRGB would show it; marks for what lies outside a gamut."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from playwright.sync_api import Playwright, expect

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.model import look_from
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from tests.browser.conftest import ARGUMENTS, PATIENCE, SIZE
from tests.browser.pages import Bench, signed_in
from tests.browser.test_access import violations
from tests.find import look_named
from tests.make import render

VIVID = {"name": "Salt", "steps": [{"kind": "saturation", "factor": 1.9}]}
SRGB, WIDE = ENCODINGS["srgb"], ENCODINGS["display-p3"]


@pytest.fixture
def vivid(bench: Bench, studio: Person) -> Bench:
    entry = look_named("Salt")
    looks.save_draft(studio, entry.pk, look_from(VIVID), entry.revision)
    return bench.open(entry.pk)


@pytest.fixture
def wide(playwright: Playwright, vivid: Bench, studio: Person) -> Iterator[Bench]:
    """The same in a browser whose screen shows Display P3."""
    browser = playwright.chromium.launch(
        executable_path="/usr/bin/chromium", args=[*ARGUMENTS, "--force-color-profile=display-p3-d65"]
    )
    page = browser.new_page(viewport=SIZE)
    page.set_default_timeout(PATIENCE)
    signed_in(page, vivid.url, studio)
    yield Bench(page, vivid.url).open(look_named("Salt").pk)
    browser.close()


def shown() -> np.ndarray:
    """(h, w, 3) code values of sRGB, as far as they go."""
    source = proxy_in(Picture.objects.get(name="Quay, dusk"), SRGB)
    return render(look_from(VIVID), source)


def assert_near(codes: np.ndarray, values: np.ndarray) -> None:
    """An 8-bit code or two: the browser takes part."""
    away = np.abs(codes.astype(float) - np.clip(values, 0, 1) * 255)
    assert np.percentile(away, 99) <= 2
    assert away.mean() <= 0.75


def test_a_wide_screen_gets_its_colours_and_shows_what_srgb_would(wide: Bench):
    values = shown()
    assert values.max() > 1.1, "there is something that sRGB does not show"
    assert_near(wide.pixels(), convert(values, SRGB, WIDE))
    seen = wide.page.get_by_test_id("seen-on")
    expect(seen).to_have_text("Display P3")
    seen.click()
    expect(seen).to_have_text("as sRGB")
    assert_near(wide.pixels(), convert(np.clip(values, 0, 1), SRGB, WIDE))
    assert violations(wide.page) == []


def test_another_screen_says_srgb_and_colours_outside_a_gamut_are_marked(vivid: Bench):
    page, values = vivid.page, shown()
    expect(page.get_by_test_id("seen-on")).to_have_text("sRGB")
    assert_near(vivid.pixels(), values)
    page.get_by_role("button", name="Marks over the picture").click()
    page.get_by_role("radio", name="Gamut", exact=True).click()
    legend = page.get_by_test_id("marks-legend")

    def outside(encoding: str) -> str:
        light = ENCODINGS[encoding].transfer.decode(convert(values, SRGB, ENCODINGS[encoding]))
        share = (light < -1e-3).any(axis=-1).mean() * 100
        return f"outside it {share:.{1 if 0 < share < 10 else 0}f} %"

    expect(legend).to_contain_text(outside("srgb"))
    page.get_by_role("button", name="Colours outside of").click()
    page.get_by_role("option", name="P3-D65").click()
    expect(legend).to_contain_text(outside("display-p3"))
    assert outside("srgb") != outside("display-p3")
