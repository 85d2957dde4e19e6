"""The round trip: a clean chart is called clean, each contamination is found at the smallest amount that moves a picture by CIEDE2000 1.

"Moves a picture by 1" is taken as: 5 % of the pixels of a demo picture differ by 1 and more (its 95th percentile is 1).
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageFilter
from scipy.ndimage import gaussian_filter

from saucer.core.colour.conversion import to_linear_709
from saucer.core.colour.difference_fast import difference_of_light
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import LutError
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.health import examine
from saucer.core.making.roundtrip.chart import TwinLayout, layout_from_strip, new_chart
from saucer.core.making.roundtrip.reading import Expected, read_chart
from saucer.core.making.roundtrip.standin import Editor, edit, edited
from saucer.core.pictures.io import Picture, read_picture, write_picture
from saucer.demo.catalogue import FOLDER
from tests.make import evaluate

SRGB = ENCODINGS["srgb"]
SIZE = 11
PLAIN = Editor()


@cache
def demo() -> np.ndarray:
    """The middle of a demo picture at half its size."""
    return np.ascontiguousarray(read_picture(FOLDER / "quay-dusk.png").pixels[270:810:2, 480:1440:2])


def light_of(pixels: np.ndarray) -> np.ndarray:
    return to_linear_709(np.ascontiguousarray(pixels.reshape(-1, 3), np.float32), SRGB)


@cache
def recoloured() -> np.ndarray:
    return light_of(PLAIN(demo()))


def moved(editor: Editor) -> float:
    """CIEDE2000 at the 95th percentile between the recoloured picture with and without what is not recolouring."""
    return float(np.percentile(difference_of_light(light_of(edited(editor, demo()).pixels), recoloured()), 95))


@cache
def smallest(field: str, high: float) -> Editor:
    """The editor with the smallest amount that moves the picture by 1."""
    low = 0.0
    for _ in range(8):
        middle = (low + high) / 2
        low, high = (low, middle) if moved(replace(PLAIN, **{field: middle})) >= 1 else (middle, high)
    return replace(PLAIN, **{field: high})


def trip(tmp_path: Path, editor: Editor, depth: int = 16, kind: str = "twin", size: int = SIZE, suffix: str = ".png"):
    source, target = tmp_path / "chart.png", tmp_path / ("out.jpg" if editor.jpeg else f"out{suffix}")
    source.write_bytes(new_chart(kind, size, depth))
    edit(editor, source, target)
    return read_chart(target)


def truth(size: int, editor: Editor = PLAIN) -> np.ndarray:
    return np.clip(evaluate(editor.look, grid(size)), 0, 1).reshape(size, size, size, 3)


@pytest.mark.parametrize("depth", [8, 16])
@pytest.mark.parametrize("recolour", [True, False])
@pytest.mark.parametrize("suffix", [".png", ".tif", ".webp"])
def test_a_clean_chart_is_called_clean(tmp_path: Path, depth, recolour, suffix):
    back = trip(tmp_path, Editor(recolour), depth, suffix=suffix)
    assert back.found == ()
    assert back.verdict == "Clean: the colours alone decide what they become."
    peak = 255 if depth == 8 or suffix == ".webp" else 65535
    wanted = truth(SIZE, Editor(recolour))
    # Tenths are no whole codes: the chart rounds them, and the editor's slope of up to 6 enlarges that.
    assert np.abs(back.lut.lattice.table - wanted).max() < 4 / peak
    np.testing.assert_allclose(back.smooth.lattice.table, back.lut.lattice.table, atol=1e-6)


@pytest.mark.parametrize(
    ("field", "most", "name"), [("grain", 0.4, "grain"), ("vignette", 0.3, "vignette"), ("sharpen", 3.0, "sharpening")]
)
@pytest.mark.parametrize("depth", [8, 16])
def test_each_contamination_is_found_at_the_smallest_amount_that_shows(tmp_path: Path, field, most, name, depth):
    editor = smallest(field, most)
    assert 0.95 < moved(editor) < 1.3
    back = trip(tmp_path, editor, depth)
    assert [one.id for one in back.found] == [name], "that one, and no other"
    assert back.found[0].codes > 0


@pytest.mark.parametrize("quality", [98, 95, 90, 75])
def test_compression_is_found(tmp_path: Path, quality):
    """Every one of these moves the picture by more than 1, the best of them too: its colour is at half size."""
    editor = Editor(jpeg=quality)
    assert moved(editor) > 1
    back = trip(tmp_path, editor)
    assert [one.id for one in back.found] == ["compression"]


def test_the_best_jpeg_is_not_called_compression(tmp_path: Path):
    """Quality 100 with full colour stays within one code, so it is clean."""
    back = trip(tmp_path, Editor(jpeg=100))
    assert back.measured.ripple <= 1.0 + 1e-6
    assert back.found == ()


def test_resizing_and_back_is_found(tmp_path: Path):
    low, high = 0.3, 1.0
    for _ in range(8):
        middle = (low + high) / 2
        low, high = (low, middle) if moved(Editor(resize=middle)) < 1 else (middle, high)
    back = trip(tmp_path, Editor(resize=low))
    assert "resize" in [one.id for one in back.found]


def test_lossy_webp_is_found(tmp_path: Path):
    (tmp_path / "c.png").write_bytes(new_chart("twin", SIZE))
    Image.open(tmp_path / "c.png").convert("RGB").save(tmp_path / "out.webp", quality=80)
    assert "compression" in [one.id for one in read_chart(tmp_path / "out.webp").found]


def test_everything_at_once_is_named(tmp_path: Path):
    back = trip(tmp_path, Editor(grain=0.1, vignette=0.3, sharpen=0.6))
    assert {one.id for one in back.found} >= {"grain", "vignette", "sharpening"}


def test_the_smoothed_reading_is_nearer_to_the_truth(tmp_path: Path):
    for editor, share in ((Editor(vignette=0.25), 0.5), (Editor(grain=0.5), 0.9), (Editor(jpeg=80), 0.9)):
        back = trip(tmp_path, editor)
        raw, smooth = (np.sqrt(np.mean((one.lattice.table - truth(SIZE)) ** 2)) for one in (back.lut, back.smooth))
        assert smooth < share * raw


def test_amounts_are_in_codes(tmp_path: Path):
    """A vignette that takes a fifth of the light from the corners takes about 1 - 0.8^(1 / 2.2) of the codes of a mid grey."""
    back = trip(tmp_path, Editor(vignette=0.2))
    corner = abs(back.measured.corner)
    taken = (1 - 0.8 ** (1 / 2.2)) * 127
    assert 0.6 * taken < corner < 1.2 * taken
    assert "corners are darker" in back.verdict


@pytest.mark.parametrize("kind", ["hald", "tiles", "strip"])
@pytest.mark.parametrize("depth", [8, 16])
def test_plain_charts_are_read_back(tmp_path: Path, kind, depth):
    (tmp_path / "c.png").write_bytes(new_chart("plain", 16, depth, layout=kind))
    edit(PLAIN, tmp_path / "c.png", tmp_path / "o.png")
    back = read_chart(tmp_path / "o.png")
    assert (back.kind, back.size, back.found) == ("plain", 16, ())
    assert np.abs(back.lut.lattice.table - truth(16)).max() < 1.6 / (255 if depth == 8 else 65535)


def test_a_spoilt_plain_chart_is_called_rough_and_no_more(tmp_path: Path):
    back = trip(tmp_path, Editor(jpeg=80), kind="plain", size=25)
    assert [one.id for one in back.found] == ["rough"]
    assert "A twin chart tells which" in back.verdict


def refused(picture: np.ndarray, tmp_path: Path, expected: Expected | None = None) -> str:
    write_picture(Picture(np.ascontiguousarray(picture), "u8"), tmp_path / "r.png")
    with pytest.raises(LutError) as refusal:
        read_chart(tmp_path / "r.png", "mine.png", expected)
    return str(refusal.value)


@pytest.mark.parametrize("known", [True, False])
def test_charts_that_were_resized_cropped_or_turned_are_refused_by_name(tmp_path: Path, known):
    layout = TwinLayout(SIZE)
    chart = layout.picture()
    expected = Expected("twin", SIZE) if known else None
    small = np.stack(
        [np.asarray(Image.fromarray(chart[..., c]).resize((layout.width // 2, layout.height // 2))) for c in range(3)], -1
    )
    assert "resized from" in refused(np.clip(small, 0, 1), tmp_path, expected)
    assert "turned" in refused(np.rot90(chart), tmp_path, expected)
    assert "turned upside down" in refused(chart[::-1, ::-1], tmp_path, expected)
    assert "mirrored" in refused(chart[:, ::-1], tmp_path, expected)
    assert "cropped" in refused(chart[:, :-20], tmp_path, expected)
    assert "not one of our charts" in refused(chart[20:-20, 20:-30], tmp_path) or known
    assert refused(chart[:, ::-1], tmp_path, expected).startswith("mine.png: the chart was mirrored")


@pytest.mark.parametrize("percent", [90, 50, 75, 110, 33])
def test_a_resized_chart_is_traced_back_to_the_size_that_people_make(tmp_path: Path, percent):
    """The default chart is 984 x 800. Other sizes and patches have the same shape once rounded; nobody makes them by default."""
    made = TwinLayout(17)
    assert (made.width, made.height) == (984, 800)
    width, height = round(984 * percent / 100), round(800 * percent / 100)
    words = refused(np.full((height, width, 3), 0.5, np.float32), tmp_path)
    assert f"{width} x {height} is no chart's size; it may be a twin chart of 17 that was resized from 984 x 800" in words


def filtered(tmp_path: Path, size: int, through) -> set[str]:
    """What is claimed of a chart that was recoloured and then went through a filter of Pillow's."""
    (tmp_path / "c.png").write_bytes(new_chart("twin", size, 8))
    edit(PLAIN, tmp_path / "c.png", tmp_path / "e.png")
    through(Image.open(tmp_path / "e.png").convert("RGB")).save(tmp_path / "o.png")
    return {one.id for one in read_chart(tmp_path / "o.png").found}


@pytest.mark.parametrize("size", [11, 17])
@pytest.mark.parametrize(("radius", "percent", "threshold"), [(1, 100, 0), (2, 150, 3), (3, 80, 0), (8, 60, 0)])
def test_a_sharpened_chart_is_not_called_compressed(tmp_path: Path, size, radius, percent, threshold):
    found = filtered(tmp_path, size, lambda image: image.filter(ImageFilter.UnsharpMask(radius, percent, threshold)))
    assert "sharpening" in found
    assert "compression" not in found


@pytest.mark.parametrize(("deviation", "threshold"), [(1.5, 0.1), (2.0, 0.2)])
def test_a_blur_that_spares_strong_edges_is_not_called_compression(tmp_path: Path, deviation, threshold):
    def spare_edges(image: Image.Image) -> Image.Image:
        pixels = np.asarray(image) / 255
        soft = gaussian_filter(pixels, (deviation, deviation, 0))
        mixed = np.where(np.abs(pixels - soft).max(axis=-1, keepdims=True) < threshold, soft, pixels)
        return Image.fromarray((mixed * 255 + 0.5).astype(np.uint8))

    found = filtered(tmp_path, 17, spare_edges)
    assert found
    assert "compression" not in found


@pytest.mark.parametrize("quality", [98, 90])
def test_compression_without_a_filter_is_still_found(tmp_path: Path, quality):
    def compress(image: Image.Image) -> Image.Image:
        image.save(tmp_path / "x.jpg", quality=quality, subsampling=0)
        return Image.open(tmp_path / "x.jpg")

    assert filtered(tmp_path, 11, compress) == {"compression"}


@pytest.mark.parametrize(("kind", "size"), [("twin", 11), ("twin", 17), ("twin", 25), ("plain", 16), ("plain", 25)])
def test_a_clean_trip_of_a_smooth_recolouring_is_not_called_rough(tmp_path: Path, kind, size):
    back = trip(tmp_path, PLAIN, 16, kind, size)
    levels = {one.id: one.level for one in examine(back.lut).findings}
    assert (back.found, levels["rough"]) == ((), "fine")


def test_plain_charts_that_were_turned_are_refused(tmp_path: Path):
    (tmp_path / "c.png").write_bytes(new_chart("plain", 16, 16))
    chart = read_picture(tmp_path / "c.png").pixels
    assert "turned upside down" in refused(chart[::-1, ::-1], tmp_path)
    assert "resized from 64 x 64 to 32 x 32" in refused(chart[::2, ::2], tmp_path, Expected("plain", 16))
    assert "no chart's size" in refused(chart[:50, :50], tmp_path)


@pytest.mark.parametrize(("size", "patch"), [(5, 4), (17, 8), (9, 16)])
def test_the_strip_says_which_chart_it_is_even_when_recoloured(size, patch):
    layout = TwinLayout(size, patch)
    for look in (lambda p: p, lambda p: 1 - p, lambda p: 0.3 + 0.4 * p[..., [2, 0, 1]]):
        assert layout_from_strip(look(layout.picture())) == layout
    assert layout_from_strip(np.full((300, 400, 3), 0.5, np.float32)) is None


def test_twins_are_far_apart_and_have_other_neighbours():
    layout = TwinLayout(17)
    cells = layout.cells
    half = layout.columns // 2
    assert sorted(np.unique(cells[:, :half])) == list(range(17**3))
    row, column = np.nonzero(cells == 1234)
    assert abs(column[1] - column[0]) == half, "half the chart apart"
    neighbours = [{int(cells[r, (c + 1) % layout.columns]), int(cells[r - 1, c])} for r, c in zip(row, column, strict=True)]
    assert neighbours[0] != neighbours[1]


@pytest.mark.parametrize(
    ("kind", "size", "words"),
    [
        ("twin", 3, "5 to 65 colours a side, got 3"),
        ("twin", 66, "got 66"),
        ("plain", 17, "4, 9, 16, 25, 36, 49, 64, 81, 100 or 121"),
    ],
)
def test_sizes_of_charts(kind, size, words):
    with pytest.raises(LutError, match=words):
        new_chart(kind, size)


def test_the_read_back_lut_does_to_a_picture_what_the_editor_does(tmp_path: Path):
    back = trip(tmp_path, PLAIN, size=17)
    picture = np.ascontiguousarray(read_picture(FOLDER / "table-window.png").pixels[::2, ::2])
    light = [
        to_linear_709(np.ascontiguousarray(one.reshape(-1, 3), np.float32), SRGB)
        for one in (apply_lut(back.lut, picture), PLAIN(picture))
    ]
    assert np.percentile(difference_of_light(*light), 95) < 1
