"""Who looks, written across a picture: seen on light and dark, and nothing hidden below."""

from __future__ import annotations

import numpy as np
import pytest
import simplejpeg

from saucer.studio.guests.stamping import VEIL, stamp_on


def jpeg(level: int, height: int = 270, width: int = 480) -> bytes:
    return simplejpeg.encode_jpeg(np.full((height, width, 3), level, np.uint8), 95, "RGB", "444")


def seen(data: bytes) -> np.ndarray:
    return simplejpeg.decode_jpeg(data, "RGB").astype(np.float32).mean(axis=2)


@pytest.mark.parametrize(("level", "towards"), [(0, 255), (60, 255), (200, 0), (255, 0)])
def test_letters_are_light_on_dark_and_dark_on_light_and_let_the_picture_through(level, towards):
    change = seen(stamp_on(jpeg(level), "Wren Ashdown, 2026-12-01", "guest 1")) - level
    most = VEIL * abs(towards - level)
    assert np.sign(change[np.abs(change).argmax() // change.shape[1], np.abs(change).argmax() % change.shape[1]]) == np.sign(
        towards - level
    )
    assert 0.7 * most < np.abs(change).max() < 1.25 * most + 3, "JPEG itself rings by a few codes"
    still = (np.abs(change) < 3).mean()
    assert 0.75 < still < 0.97, "most of the picture is as it was"
    rows = (np.abs(change) > most / 2).any(axis=1).mean()
    assert rows > 0.9, "no part of it can be cut out that has no letters"


def test_a_name_that_the_font_lacks_is_told_by_its_number():
    number = stamp_on(jpeg(60), "guest 12", "")
    assert stamp_on(jpeg(60), "Ўладзімір, 2026-12-01", "guest 12") == number
    assert stamp_on(jpeg(60), "two\nlines", "guest 12") == number
    assert stamp_on(jpeg(60), "Zoë ÿ", "guest 12") != number


def test_a_small_picture_and_a_tall_one_are_stamped_too():
    for height, width in ((60, 100), (540, 120)):
        changed = np.abs(seen(stamp_on(jpeg(60, height, width), "Wren", "guest 1")) - 60)
        assert changed.shape == (height, width)
        assert changed.max() > 20
