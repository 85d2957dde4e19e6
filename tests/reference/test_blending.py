"""All sixteen blend modes against Chromium's own canvas, which works in 8 bits."""

from __future__ import annotations

import numpy as np
import pytest
from playwright.sync_api import Playwright

from saucer.core.numeric.blending import MODES, blend
from tests.browser.conftest import ARGUMENTS
from tests.numpy_steps import blended

COUNT = 1024
# A canvas lays its source over with `source-over` where CSS says `normal`; every other name is the same.
CANVAS = {"normal": "source-over"}
OF_W3C = [mode for mode in MODES if mode != "add-less-one"]


def pairs() -> tuple[np.ndarray, np.ndarray]:
    rng = np.random.default_rng(11)
    backdrop, source = rng.integers(0, 256, (2, COUNT, 3), dtype=np.uint8)
    ends = np.array([0, 255, 127, 128, 64], np.uint8)
    backdrop[:125] = np.stack(np.meshgrid(ends, ends, ends), -1).reshape(-1, 3)
    source[:125] = np.roll(backdrop[:125], 37, axis=0)
    return backdrop, source


@pytest.fixture(scope="module")
def by_canvas(playwright: Playwright) -> dict[str, np.ndarray]:
    backdrop, source = pairs()
    script = """([modes, backdrop, source]) => Object.fromEntries(modes.map(([name, operation]) => {
        const make = (bytes) => {
            const canvas = new OffscreenCanvas(bytes.length / 3, 1);
            const context = canvas.getContext("2d", { willReadFrequently: true });
            const image = context.createImageData(canvas.width, 1);
            for (let i = 0; i < bytes.length / 3; i++) image.data.set([bytes[3 * i], bytes[3 * i + 1], bytes[3 * i + 2], 255], 4 * i);
            context.putImageData(image, 0, 0);
            return [canvas, context];
        };
        const [canvas, context] = make(backdrop), [over] = make(source);
        context.globalCompositeOperation = operation;
        context.drawImage(over, 0, 0);
        if (context.globalCompositeOperation !== operation) throw new Error(`no ${operation}`);
        return [name, [...context.getImageData(0, 0, canvas.width, 1).data]];
    }))"""
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
    names = [[mode, CANVAS.get(mode, mode)] for mode in OF_W3C]
    found = browser.new_page().evaluate(script, [names, backdrop.ravel().tolist(), source.ravel().tolist()])
    browser.close()
    return {mode: np.array(data, np.uint8).reshape(COUNT, 4)[:, :3] for mode, data in found.items()}


@pytest.mark.parametrize("mode", OF_W3C)
def test_a_mode_is_that_of_the_canvas(mode, by_canvas):
    backdrop, source = (codes.astype(np.float32) / 255 for codes in pairs())
    planes, over = (np.array(values.T, order="C") for values in (backdrop, source))
    blend(mode, planes, over)
    ours = planes.T * 255
    away = np.abs(ours - by_canvas[mode])
    # The canvas rounds on the way: two codes, and three where a quotient or a second rounding stands between.
    assert away.mean() < 0.7
    assert np.quantile(away, 0.999) <= 3.01
    np.testing.assert_allclose(planes.T, blended(mode, backdrop.astype(np.float64), source.astype(np.float64)), atol=2e-6)


def test_the_sum_less_one_is_that_and_leaves_no_black_below_black():
    """Common practice, no source: white changes nothing, black takes everything, and it darkens more than multiplying does."""
    backdrop, source = (codes.astype(np.float32) / 255 for codes in pairs())
    planes, over = (np.array(values.T, order="C") for values in (backdrop, source))
    multiplied = planes.copy()
    blend("add-less-one", planes, over.copy())
    np.testing.assert_allclose(planes.T, np.maximum(backdrop + source - 1, 0), atol=1e-6)
    blend("multiply", multiplied, over)
    assert (planes <= multiplied + 1e-6).all()


def test_highlights_above_white_survive_every_mode_but_normal():
    backdrop = np.full((3, 2), 3.0, np.float32)
    for mode in MODES:
        if mode == "normal":
            continue
        planes, source = backdrop.copy(), np.full((3, 2), 0.5, np.float32)
        held = np.ones((3, 2), np.float32)
        blend(mode, planes, source)
        blend(mode, held, np.full((3, 2), 0.5, np.float32))
        np.testing.assert_allclose(planes, held + 2, atol=1e-6)
