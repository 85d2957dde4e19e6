"""The words of a look's character against looks whose character is known, and its numbers against the CIE's formulas."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.model import look_from
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Lattice, Lut
from saucer.core.reports.character import GREYS, PROBES, WORDS, likeness, measure, probes, see_look, see_lut
from tests.make import a_look

SRGB = ENCODINGS["srgb"]


def seen(change) -> np.ndarray:
    """What a LUT of this formula on sRGB codes makes of the probes."""
    table = np.clip(change(grid(33)), 0, 1).astype(np.float32).reshape(33, 33, 33, 3)
    return see_lut(Lut(lattice=Lattice(table)), SRGB, SRGB, "plain")


def grey(x: np.ndarray) -> np.ndarray:
    return np.repeat(x @ np.array([[0.2126], [0.7152], [0.0722]]), 3, axis=1)


KNOWN = {
    "warm": lambda x: x * [1.06, 1.0, 0.9],
    "cool": lambda x: x * [0.92, 1.0, 1.08],
    "pinkish": lambda x: x * [1.05, 0.96, 1.05],
    "greenish": lambda x: x * [0.96, 1.04, 0.96],
    "dark": lambda x: x**1.5,
    "bright": lambda x: x**0.7,
    "soft": lambda x: 0.5 + 0.75 * (x - 0.5),
    "hard": lambda x: 0.5 + 1.35 * (x - 0.5),
    "muted": lambda x: grey(x) + 0.6 * (x - grey(x)),
    "rich": lambda x: grey(x) + 1.4 * (x - grey(x)),
    "monochrome": grey,
    "faded": lambda x: 0.12 + 0.88 * x,
    "crushed": lambda x: (x - 0.12) / 0.88,
    "low whites": lambda x: x * 0.9,
    "blown": lambda x: x * 1.2,
    "slight": lambda x: x * 0.995,
}


@pytest.mark.parametrize("word", KNOWN)
def test_a_pure_change_is_called_what_it_is(word):
    found = measure(seen(KNOWN[word])).words
    assert word in found
    opposites = (
        ("warm", "cool"),
        ("dark", "bright"),
        ("soft", "hard"),
        ("muted", "rich"),
        ("faded", "crushed"),
        ("pinkish", "greenish"),
    )
    for one, other in opposites:
        assert not {one, other} <= set(found)


def test_every_word_has_a_look_that_is_called_by_it():
    skins = {"rosy skin", "golden skin"}
    assert {one.word for one in WORDS} == set(KNOWN) | skins
    turned = {"rosy skin": -14, "golden skin": 14}
    for word, degrees in turned.items():
        bands = [
            {"centre": centre, "hue": degrees if centre in (29, 66) else 0} for centre in (29, 66, 110, 142, 195, 264, 300, 328)
        ]
        assert word in measure(see_look(a_look({"kind": "hue-bands", "bands": bands}))).words


def test_nothing_changed_is_nothing_but_slight():
    found = measure(probes())
    assert found.words == ("slight",)
    assert (found.contrast, found.colour, found.strength) == (pytest.approx(1), pytest.approx(1), 0)
    assert measure(see_look(look_from({}))).strength < 1e-3


def test_tints_are_named_where_they_are():
    split = {"kind": "split-tone", "shadows": {"hue": 215, "amount": 0.05}, "highlights": {"hue": 75, "amount": 0.05}}
    words = measure(see_look(a_look(split))).words
    # OKLCh 215 degrees is teal in CIELAB too, 75 a yellow.
    assert {"teal shadows", "yellow highlights"} <= set(words)
    assert not any(word.endswith(("shadows", "highlights")) for word in measure(seen(KNOWN["hard"])).words)


def test_a_tint_over_everything_is_not_taken_for_colour():
    tinted = measure(seen(lambda x: grey(x) * [1.1, 1.0, 0.8]))
    assert "monochrome" in tinted.words
    assert "warm" in tinted.words


def test_the_ramp_is_even_in_lightness():
    """CIE 15:2018, 8.2.1.1: L* of the ramp from black to white."""
    codes = probes()[:GREYS].astype(np.float64)
    linear = np.where(codes <= 0.04045, codes / 12.92, ((codes + 0.055) / 1.055) ** 2.4)  # IEC 61966-2-1
    np.testing.assert_allclose(linear_709_to_lab(linear)[:, 0], np.linspace(0, 100, GREYS), atol=1e-3)


def test_likeness_is_the_mean_difference():
    """Against CIEDE2000 as Sharma, Wu and Dalal write it, which the whole of tests/core/colour holds to their published pairs."""
    one, other = seen(KNOWN["warm"]), seen(KNOWN["soft"])

    def lab(codes: np.ndarray) -> np.ndarray:
        codes = codes.astype(np.float64)
        return linear_709_to_lab(np.where(codes <= 0.04045, codes / 12.92, ((codes + 0.055) / 1.055) ** 2.4))

    apart = likeness(one, np.stack([one, other]))
    assert apart[0] == 0
    assert apart[1] == pytest.approx(ciede2000(lab(one), lab(other)).mean(), rel=1e-3)
    assert probes().shape == (PROBES, 3)


def test_a_lut_for_log_is_judged_by_what_reaches_the_screen():
    """The camera's own conversion changes little on screen, however steep its table is."""
    from saucer.core.colour.conversion import convert

    log = ENCODINGS["film-log"]
    table = np.clip(convert(grid(65), log, SRGB), 0, 1).astype(np.float32).reshape(65, 65, 65, 3)
    assert measure(see_lut(Lut(lattice=Lattice(table)), log, SRGB, "plain")).strength < 1
