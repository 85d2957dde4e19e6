from __future__ import annotations

import numpy as np
import pytest

from saucer.core.bake.bake import bake
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.engine.grade import Grade
from saucer.core.errors import LutError
from saucer.core.files.formats import cube
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Lattice, Lut
from saucer.core.pictures.scopes import histogram, outside
from saucer.core.reports.fingerprint import draw_look, draw_lut
from tests.make import WARM, a_look, a_lut, evaluate, random_pixels

SRGB, LOG = ENCODINGS["srgb"], ENCODINGS["film-log"]


def test_strength_fades_the_look_never_the_conversion():
    x = random_pixels()
    grade = Grade.of_lut(a_lut(9), LOG, LOG, 0.0, "plain")
    assert np.array_equal(grade(x, SRGB, SRGB), x)
    np.testing.assert_allclose(grade(x, SRGB, LOG), convert(x, SRGB, LOG), atol=1e-7)
    log = convert(x, SRGB, LOG)
    done = apply_lut(a_lut(9), log)
    full = Grade.of_lut(a_lut(9), LOG, LOG, 1, "plain")(x, SRGB, SRGB)
    np.testing.assert_allclose(full, convert(done, LOG, SRGB), atol=1e-6)
    half = Grade.of_lut(a_lut(9), LOG, LOG, 0.5, "plain")(x, SRGB, SRGB)
    np.testing.assert_allclose(half, convert((log + done) / 2, LOG, SRGB), atol=1e-6)


def test_a_look_as_a_grade_is_the_exact_look():
    x = random_pixels()
    assert np.array_equal(Grade.of_look(a_look())(x, SRGB, SRGB), evaluate(a_look(), x))


def test_baking_says_how_it_was_made_and_repeats():
    look = a_look(WARM, name="Salt")
    lut = bake(look, 17, author="Ilse Harrow", notes=("Version 3",))
    assert (lut.size, lut.title) == (17, "Salt")
    assert lut.comments[1:] == (
        "Version 3",
        "Expects srgb, gives srgb",
        "Made to be read by tetrahedral interpolation",
        "Author: Ilse Harrow",
    )
    assert look.content_hash[:12] in lut.comments[0]
    assert cube.write(lut) == cube.write(bake(look, 17, author="Ilse Harrow", notes=("Version 3",)))
    for size in (1, 130):
        with pytest.raises(LutError, match=f"from 2 to 129 nodes a side, got {size}"):
            bake(look, size)
    assert bake(look, 129).size == 129


def test_a_baked_lut_is_close_to_the_look_and_closer_when_larger():
    look, x = a_look(WARM), random_pixels(100, 100)
    errors = [np.abs(apply_lut(bake(look, size), x) - evaluate(look, x)).max() for size in (9, 17, 33, 65)]
    assert errors == sorted(errors, reverse=True)
    assert errors[-1] < 1e-3


def test_the_fingerprint_of_a_neutral_look_is_the_plain_wheel():
    """COLOUR.md 10: OKLab L 0.72, chroma 0 to 0.125 at 0.80 of the radius; a grey ramp from 0.84, clockwise from the top."""
    disc = draw_look(a_look({"kind": "curves"}), 200)
    assert (disc.shape, disc.dtype) == ((200, 200, 4), np.uint8)
    inside = disc[100, 100 + 60].astype(float)  # to the right: hue 0, 0.6 of the radius
    lab = linear_to_oklab(SRGB.transfer.decode(inside[:3] / 255))
    assert lab == pytest.approx([0.72, 0.125 * 0.605 / 0.80, 0], abs=0.004)
    up = linear_to_oklab(SRGB.transfer.decode(disc[100 - 60, 100, :3] / 255.0))
    assert up[1:] == pytest.approx([0, 0.125 * 0.6 / 0.80], abs=0.004)
    right, bottom, left = disc[100, 192], disc[192, 100], disc[100, 8]
    for pixel, grey in ((right, 0.25), (bottom, 0.5), (left, 0.75)):
        assert pixel[:3] / 255 == pytest.approx([grey] * 3, abs=0.012)
    assert disc[100, 182, 3] == 0, "clear between wheel and rim"
    assert disc[0, 0, 3] == 0
    assert disc[100, 100, 3] == 255


def test_fingerprints_tell_looks_apart_and_a_lut_has_that_of_its_look():
    look = a_look(WARM)
    own = draw_look(look, 40).astype(int)
    assert np.abs(own - draw_look(a_look({"kind": "curves"}), 40)).max() > 10
    assert np.abs(own - draw_lut(bake(look, 65), SRGB, SRGB, 40, "plain")).max() <= 1
    identity = Lut(lattice=Lattice(grid(9).reshape(9, 9, 9, 3)))
    for encoding in ENCODINGS.values():
        if not encoding.linear:
            disc = draw_lut(identity, encoding, encoding, 40, "plain").astype(int)
            # ACEScc holds black at a code below 0, where the domain of this LUT ends.
            allowed = 3 if encoding.id == "acescc" else 1
            assert np.abs(disc - draw_look(a_look({"kind": "curves"}), 40)).max() <= allowed


def test_histogram_counts_every_pixel_once():
    values = random_pixels(50, 50) * 1.4 - 0.2
    counts = histogram(values, SRGB)
    assert (counts.sum(axis=1) == 2500).all()
    flat = values.reshape(-1, 3)
    for channel in range(3):
        expected, _ = np.histogram(np.clip(flat[:, channel], 0, 0.99999), 256, (0, 1))
        assert np.abs(counts[channel] - expected).sum() <= 6, "float32 and float64 may differ at an edge"
    low, high = outside(np.array([[0, 0.5, 0.5], [0.5, 1.0, 0.5], [0.5, 0.5, 0.5], [0, 0, 1]], np.float32))
    assert (low, high) == (0.5, 0.5)
