"""A LUT from a pair, against the look that made the pair, on another picture, where there was evidence."""

from __future__ import annotations

from functools import cache
from pathlib import Path

import numpy as np
import pytest

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import LutError, PictureError
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.scattered import weights_of
from saucer.core.making.pair import ENOUGH, fit_files, fit_pair
from saucer.core.pictures.io import Picture, read_picture, write_picture
from saucer.demo.catalogue import FOLDER
from tests.make import CHANGED, a_look, evaluate, random_pixels

SRGB = ENCODINGS["srgb"]
LOOKS = {
    "curves, half the hue bands, split tone": a_look(
        CHANGED["curves"], CHANGED["hue-bands"] | {"strength": 0.5}, CHANGED["split-tone"]
    ),
    "tone and saturation": a_look(CHANGED["tone"], CHANGED["saturation"]),
}


@cache
def picture(name: str) -> np.ndarray:
    """Every second pixel each way: the evidence thins out, the colours stay."""
    return np.ascontiguousarray(read_picture(FOLDER / name).pixels[::2, ::2])


def recoloured(look, pixels: np.ndarray) -> np.ndarray:
    """As a program would save it: 8 bits."""
    return (np.round(np.clip(evaluate(look, pixels), 0, 1) * 255) / 255).astype(np.float32)


@pytest.mark.parametrize("look", LOOKS.values(), ids=LOOKS)
@pytest.mark.parametrize(("seen", "held_out"), [("six-busts.png", "table-window.png"), ("quay-dusk.png", "six-busts.png")])
def test_on_a_held_out_picture_the_fit_is_within_one_where_there_was_evidence(look, seen, held_out):
    original = picture(seen)
    fit = fit_pair(original, recoloured(look, original), SRGB, 33)
    assert fit.residual.p95 < 0.8
    assert fit.moved < 0.001
    values = picture(held_out).reshape(-1, 3)[::2]
    corners, _ = weights_of(values.astype(float), 33)
    spoken = (fit.evidence.ravel()[corners] >= ENOUGH).all(axis=1)
    assert spoken.mean() > 0.1
    light = [to_linear_709(np.clip(one, 0, 1), SRGB) for one in (apply_lut(fit.lut, values), evaluate(look, values))]
    off = difference_of_light(*light)
    assert np.percentile(off[spoken], 95) <= 1.0
    assert np.isfinite(fit.lut.lattice.table).all()
    assert np.abs(fit.lut.lattice.table).max() < 3, "no wild values where there is no evidence"


def test_coverage_tells_where_there_was_evidence():
    grey = np.repeat(np.linspace(0, 1, 256, dtype=np.float32)[None, :, None], 3, axis=2).repeat(8, axis=0)
    fit = fit_pair(grey, grey**1.2, SRGB, 17)
    on_axis = fit.evidence[np.arange(17), np.arange(17), np.arange(17)]
    assert (on_axis >= ENOUGH).all()
    assert fit.evidence[16, 0, 0] == 0
    assert fit.coverage == pytest.approx(17 / 17**3, abs=0.02)
    everything = fit_pair(random_pixels(300, 300), random_pixels(300, 300), SRGB, 9)
    assert everything.coverage == 1


def test_an_unchanged_copy_gives_an_identity():
    pixels = random_pixels(120, 160)
    fit = fit_pair(pixels, pixels, SRGB, 9)
    assert fit.residual.largest < 0.05


def test_what_no_lut_can_explain_is_reported():
    pixels = picture("six-busts.png")
    moved = np.roll(pixels, 40, axis=1)
    assert fit_pair(pixels, moved, SRGB, 9).moved > 0.1


def test_pictures_of_other_sizes_and_sizes_outside_are_refused():
    with pytest.raises(
        PictureError, match="the original is 40 x 24, its recoloured copy 40 x 20; they must be the same picture at the same size"
    ):
        fit_pair(random_pixels(), random_pixels(20, 40), SRGB)
    with pytest.raises(LutError, match="5 to 65"):
        fit_pair(random_pixels(), random_pixels(), SRGB, 3)


def test_cancelling_ends_the_work():
    class Stop(Exception):
        pass

    def report(share: float) -> None:
        raise Stop

    with pytest.raises(Stop):
        fit_pair(random_pixels(), random_pixels(), SRGB, 9, report)


@pytest.mark.parametrize(("one", "other"), [("a.png", "b.png"), ("a.exr", "b.jpg"), ("a.tif", "b.webp")])
def test_files_are_read_strip_by_strip_whatever_their_kind(tmp_path: Path, one, other):
    pixels = random_pixels(700, 90)
    look = LOOKS["tone and saturation"]
    write_picture(Picture(pixels, "u8"), tmp_path / one)
    write_picture(Picture(recoloured(look, pixels), "u8"), tmp_path / other)
    fit = fit_files(tmp_path / one, tmp_path / other, SRGB, 9)
    whole = fit_pair(read_picture(tmp_path / one).pixels, read_picture(tmp_path / other).pixels, SRGB, 9)
    np.testing.assert_allclose(fit.lut.lattice.table, whole.lut.lattice.table, atol=1e-5)
    assert fit.residual.mean == pytest.approx(whole.residual.mean, abs=1e-3)
    write_picture(Picture(pixels[:600], "u8"), tmp_path / "short.png")
    with pytest.raises(PictureError, match="the original is 90 x 700, its recoloured copy 90 x 600"):
        fit_files(tmp_path / one, tmp_path / "short.png", SRGB, 9)
