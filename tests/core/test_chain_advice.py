"""Corrections in a chain after something that lost detail: told with whose doing it is, and not told where nothing is lost."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.look.model import look_from
from saucer.core.look.stack import Layer
from saucer.core.reports.chain_advice import advise_chain
from tests.make import CHANGED, LUTS, WARM, random_pixels

PIXELS = random_pixels(60, 80)
TRIMS = Layer("Trims", look_from({"steps": [CHANGED["tone"]]}).steps)
CUT = Layer("Print", look_from({"steps": [{"kind": "limit", "low": 0.2, "high": 0.8}]}))
FLAT = Layer(
    "Faded", look_from({"steps": [{"kind": "curves", "master": [[0, 0], [0.5, 0.88], [0.6, 0.9], [0.8, 0.91], [1, 0.92]]}]})
)
MILD = Layer("Warm", look_from({"steps": [WARM]}))


def told(*layers: Layer, values: np.ndarray = PIXELS) -> list[tuple[int, str]]:
    return [(one.layer, one.words) for one in advise_chain("rec709", layers, values, LUTS)]


def test_a_correction_before_what_loses_or_after_what_does_not_is_sound():
    assert told(TRIMS, CUT) == []
    assert told(MILD, TRIMS) == []
    assert told(CUT, MILD) == [], "a look after a look is its own affair"
    assert told() == []


def test_a_correction_after_a_loss_is_told_on_its_place():
    ((place, words),) = told(MILD, CUT, TRIMS)
    share = float(((PIXELS <= 0.2) | (PIXELS >= 0.8)).any(axis=-1).mean())
    assert place == 2
    assert words.endswith("% of this picture is already clipped here, by Print.")
    assert int(words.split(" ", 1)[0]) == pytest.approx(share * 100, abs=4)


def test_tones_that_fell_together_count_and_each_later_correction_is_told_once():
    twice = Layer("Trims", look_from({"steps": [CHANGED["tone"], CHANGED["saturation"]]}).steps)
    found = told(FLAT, twice, MILD, TRIMS)
    assert [place for place, _ in found] == [1, 3]
    assert all("tones that have already fallen together here, by Faded" in words for _, words in found)


@pytest.mark.parametrize("off", [{"enabled": False}, {"strength": 0.0}], ids=["off", "at nothing"])
def test_what_does_not_act_loses_nothing_and_corrects_nothing(off):
    quiet = {"strength": 1.0, "enabled": True} | off
    assert told(Layer("Print", CUT.content, **quiet), TRIMS) == []
    assert told(CUT, Layer("Trims", TRIMS.content, **quiet)) == []


def test_what_a_lut_clips_of_a_bright_picture_is_told():
    """Common practice, no source: corrections go before the LUT that takes a camera's picture to a display."""
    camera = Layer("Camera", look_from({"steps": [CHANGED["lut"]]}))
    bright = np.clip(PIXELS * 1.6, 0, 1.6).astype(np.float32)
    ((place, words),) = told(camera, TRIMS, values=bright)
    assert (place, words.endswith("by Camera.")) == (1, True)
    assert told(TRIMS, camera, values=bright) == []
