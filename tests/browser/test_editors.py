"""Editors of steps other than curves: by keys, by mouse and by typed numbers, with the picture's pixels against the core."""

from __future__ import annotations

import numpy as np
import pytest
from playwright.sync_api import expect

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look import Look, look_from
from saucer.core.rendering import Sampling, render
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from tests.browser.pages import Bench
from tests.browser.test_bench import close, draft, expected

pytestmark = pytest.mark.django_db(transaction=True)


def as_baked(look: Look) -> np.ndarray:
    """The look through the lattice of a preview at rest, spatial steps and all, on the picture's proxy, as 8-bit sRGB."""
    values = proxy_in(Picture.objects.get(name="Quay, dusk"), ENCODINGS[look.input])
    return np.round(np.clip(render(look, values, sampling=Sampling(33)), 0, 1) * 255)


def test_tone_by_keys_and_by_typing(bench: Bench):
    bench.add_step("Tone")
    bench.page.get_by_role("slider", name="Exposure").focus()
    bench.page.keyboard.press("PageDown")
    bench.page.keyboard.press("ArrowLeft")
    bench.type_setting("Contrast", "1.4")
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert step.exposure < -0.05
    assert step.contrast == 1.4
    close(after, expected(draft()))
    box = bench.page.get_by_label("Contrast", exact=True).last
    box.dblclick()
    bench.wait_at_rest()
    bench.wait_saved()
    assert draft().steps[-1].contrast == 1


def test_white_balance_by_dragging_its_pad_and_by_keys(bench: Bench):
    bench.add_step("White balance")
    pad = bench.page.get_by_test_id("white-pad").bounding_box()
    assert pad
    bench.page.mouse.move(pad["x"] + pad["width"] / 2, pad["y"] + pad["height"] / 2)
    bench.page.mouse.down()
    bench.page.mouse.move(pad["x"] + pad["width"] * 0.7, pad["y"] + pad["height"] * 0.4, steps=6)
    bench.page.mouse.up()
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert step.warm == pytest.approx(60, abs=4)
    assert step.tint == pytest.approx(0.01, abs=0.002)
    close(after, expected(draft()))
    bench.page.get_by_role("slider", name="White", exact=True).focus()
    bench.page.keyboard.press("ArrowRight")
    bench.wait_at_rest()
    bench.wait_saved()
    assert draft().steps[-1].warm == pytest.approx(step.warm + 1, abs=0.11)
    bench.undo()
    bench.undo()
    bench.wait_saved()
    assert draft().steps[-1].warm == 0, "one drag is one edit"


def test_hue_bands_by_dragging_along_the_ribbon_and_by_typing(bench: Bench):
    bench.add_step("Hue bands")
    graph = bench.page.get_by_test_id("hue-graph").bounding_box()
    assert graph
    x, y = graph["x"] + graph["width"] * 29 / 360, graph["y"] + graph["height"] * (1 - 1 / 3)
    bench.page.mouse.move(x, y)
    bench.page.mouse.down()
    bench.page.mouse.move(x + graph["width"] * 15 / 360, graph["y"] + graph["height"] * (1 - 2 / 3), steps=6)
    bench.page.mouse.up()
    bench.type_setting("Hue, °", "-25")
    after = bench.pixels()
    bench.wait_saved()
    first, second = draft().steps[-1].bands[:2]
    assert (first.centre, first.saturation, first.hue) == pytest.approx((44, 2, -25), abs=1.5)
    assert (second.saturation, second.hue) == (1, 0)
    close(after, as_baked(draft()))
    # Past its neighbour it does not go.
    bench.page.get_by_role("slider", name="Band 1 of 8").focus()
    for _ in range(4):
        bench.page.keyboard.press("Shift+ArrowRight")
    bench.wait_at_rest()
    bench.wait_saved()
    assert draft().steps[-1].bands[0].centre == 61


def test_split_tone_zone_by_zone(bench: Bench):
    bench.add_step("Split tone")
    bench.type_setting("Hue, °", "250")
    bench.type_setting("Amount, C", "0.06")
    bench.page.get_by_role("radio", name="Highlights").click()
    bench.type_setting("Hue, °", "80")
    bench.type_setting("Amount, C", "0.05")
    bench.type_setting("Lean", "0.4")
    after = bench.pixels()
    bench.wait_saved()
    step = draft().steps[-1]
    assert (step.shadows.hue, step.shadows.amount, step.highlights.hue, step.highlights.amount, step.lean) == (
        250,
        0.06,
        80,
        0.05,
        0.4,
    )
    assert step.midtones.amount == 0
    close(after, as_baked(draft()))


def test_a_vignette_shows_but_stays_out_of_the_lut(bench: Bench):
    bench.add_step("Vignette")
    bench.type_setting("Amount", "0.9")
    after = bench.pixels()
    bench.wait_saved()
    look = draft()
    assert look.steps[-1].amount == 0.9
    close(after, as_baked(look))
    assert after[0, 0].mean() < 0.5 * bench.original()[0, 0].mean()


def test_a_kind_without_an_editor_yet_is_shown_in_words(bench: Bench):
    entry = looks.create(
        Person.objects.get(role="designer"), look_from({"name": "By hand", "steps": [{"kind": "cdl", "saturation": 0.4}]})
    )
    bench.open(entry.pk)
    expect(bench.page.get_by_label("Step: CDL")).to_contain_text("saturation 0.40. These settings are edited in the look file.")
    close(bench.pixels(), expected(looks.draft_of(entry)))
