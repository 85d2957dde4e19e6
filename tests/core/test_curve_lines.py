"""Small drawings of curves: light in stops about grey over code values."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.own import SHOWN_STOPS, line_of_curve


@pytest.mark.parametrize("name", sorted(ENCODINGS))
def test_a_line_rises_and_stays_in_its_field(name):
    line = line_of_curve(ENCODINGS[name], 25)
    assert len(line) == 25
    assert np.all(np.diff(line) >= 0)
    assert (min(line), max(line)) >= (0, 0)
    assert max(line) <= 1


def test_grey_stands_in_the_middle_and_a_stop_is_a_stop():
    """sRGB (IEC 61966-2-1) at code 1 is a light of 1: log2(1 / 0.18) stops over grey; linear light of 0.5 one stop under that."""
    over = np.log2(1 / 0.18) / (2 * SHOWN_STOPS)
    assert line_of_curve(ENCODINGS["srgb"], 3)[-1] == pytest.approx(0.5 + over, abs=1e-4)
    linear = line_of_curve(ENCODINGS["linear-709"], 3)
    assert linear[-1] - linear[1] == pytest.approx(1 / (2 * SHOWN_STOPS), abs=2e-4)
    assert linear[0] == 0, "no light is under everything"
