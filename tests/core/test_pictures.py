from __future__ import annotations

import struct
import zlib
from pathlib import Path

import numpy as np
import OpenEXR
import OpenImageIO as oiio
import pytest
import tifffile
from PIL import Image

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade, grade_file
from saucer.core.errors import PictureError
from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture, inspect_picture, read_picture, write_picture
from saucer.core.pictures.scale import make_proxy, scale_down
from tests.make import a_look, a_picture, random_pixels

SRGB = ENCODINGS["srgb"]


@pytest.mark.parametrize(
    ("name", "depth", "tolerance"),
    [
        ("a.png", "u8", 0.5 / 255), ("a.png", "u16", 0.5 / 65535), ("a.tif", "u8", 0.5 / 255), ("a.tif", "u16", 0.5 / 65535), ("a.tif", "f32", 0),
        ("a.exr", "f16", 2.5e-4), ("a.exr", "f32", 0), ("a.dpx", "u16", 0.5 / 65535), ("a.jpg", "u8", 0.06),
    ],
)  # fmt: skip
def test_every_format_and_depth_goes_there_and_back(tmp_path: Path, name, depth, tolerance):
    pixels = random_pixels()
    write_picture(Picture(pixels, depth), tmp_path / name)
    back = read_picture(tmp_path / name)
    assert (back.width, back.height, back.depth) == (40, 24, depth)
    assert np.abs(back.pixels - pixels).max() <= tolerance + 1e-7
    info = inspect_picture(tmp_path / name)
    assert (info.width, info.height, info.depth) == (40, 24, depth)


def test_what_pillow_writes_is_read_code_for_code(tmp_path: Path):
    codes = np.random.default_rng(3).integers(0, 256, (9, 7, 3), dtype=np.uint8)
    Image.fromarray(codes).save(tmp_path / "p.png")
    assert np.array_equal(np.round(read_picture(tmp_path / "p.png").pixels * 255), codes)
    Image.fromarray(codes[..., 0]).save(tmp_path / "grey.png")
    assert np.array_equal(np.round(read_picture(tmp_path / "grey.png").pixels * 255), codes[..., :1].repeat(3, 2))
    Image.fromarray(codes).quantize(16).save(tmp_path / "palette.png")
    assert read_picture(tmp_path / "palette.png").pixels.shape == (9, 7, 3)


def test_alpha_is_kept_aside_and_colours_are_not_multiplied(tmp_path: Path):
    codes = np.random.default_rng(3).integers(0, 256, (6, 5, 4), dtype=np.uint8)
    Image.fromarray(codes).save(tmp_path / "a.png")
    picture = read_picture(tmp_path / "a.png")
    assert picture.alpha is not None
    assert np.array_equal(np.round(picture.pixels * 255), codes[..., :3])
    write_picture(picture, tmp_path / "b.png")
    assert np.array_equal(np.asarray(Image.open(tmp_path / "b.png")), codes)


@pytest.mark.parametrize("turn", range(1, 9))
def test_orientation_as_pillow_turns_it(tmp_path: Path, turn):
    codes = np.random.default_rng(3).integers(0, 256, (6, 10, 3), dtype=np.uint8)
    exif = Image.Exif()
    exif[0x0112] = turn
    Image.fromarray(codes).save(tmp_path / "t.tif", exif=exif)
    from PIL import ImageOps

    upright = np.asarray(ImageOps.exif_transpose(Image.open(tmp_path / "t.tif")))
    assert np.array_equal(np.round(read_picture(tmp_path / "t.tif").pixels * 255), upright)
    grade_file(Grade.of_look(a_look({"kind": "curves"})), tmp_path / "t.tif", tmp_path / "o.png", SRGB, SRGB)
    assert np.array_equal(np.asarray(Image.open(tmp_path / "o.png")), upright)


def test_samples_that_are_not_finite_become_black_and_are_counted(tmp_path: Path):
    pixels = random_pixels()
    pixels[2, 3, 1], pixels[4, 5, 0] = np.nan, np.inf
    output = oiio.ImageOutput.create("openexr")
    output.open(str(tmp_path / "n.exr"), oiio.ImageSpec(40, 24, 3, "float"))
    output.write_image(pixels)
    output.close()
    picture = read_picture(tmp_path / "n.exr")
    assert picture.mended == 2
    assert picture.pixels[2, 3].tolist() == pytest.approx([pixels[2, 3, 0], 0, pixels[2, 3, 2]])
    assert make_proxy(tmp_path / "n.exr", ENCODINGS["linear-709"], 20, 12)[1] == 2


def huge_png(width: int, height: int) -> bytes:
    """The head of a PNG that claims a size, with hardly any data behind it."""
    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    chunk = lambda kind, body: struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))  # noqa: E731
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(bytes(1000))) + chunk(b"IEND", b"")


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "bad.png: the file is empty"),
        (
            b"hello, I am text",
            "bad.png: not a picture that Saucer reads (PNG, JPEG, TIFF, EXR, DPX, WebP, HEIC, AVIF, Radiance HDR, raw photographs), going by its content",
        ),
        (b"%PDF-1.7 and so on", "bad.png: not a picture"),
        (b"\x89PNG\r\n\x1a\n" + bytes(40), "bad.png: the PNG header cannot be read"),
        (b"\xff\xd8\xff\xe0 cut", "bad.png: "),
        (huge_png(20_000, 10_000), "bad.png: 20000 x 10000 (200 megapixels) is too large; the most is 100 megapixels"),
        (huge_png(40_000, 10), "bad.png: 40000 x 10 (0 megapixels) is too large; the most is 100 megapixels and 16641 on a side"),
        (huge_png(300, 200), "bad.png: the picture is damaged or cut short"),
    ],
)
def test_bad_pictures_are_refused(tmp_path: Path, data, words):
    (tmp_path / "bad.png").write_bytes(data)
    with pytest.raises(PictureError) as refusal:
        read_picture(tmp_path / "bad.png")
    assert str(refusal.value).startswith(words)
    assert str(tmp_path) not in str(refusal.value)


@pytest.mark.parametrize("name", ["a.png", "a.tif", "a.exr", "a.jpg", "a.dpx"])
def test_every_cut_through_a_file_is_refused_or_whole(tmp_path: Path, name):
    a_picture(tmp_path / name, "u8" if name.endswith("jpg") else "u16" if not name.endswith("exr") else "f16")
    data = (tmp_path / name).read_bytes()
    for length in range(0, len(data) - 20, max(1, len(data) // 25)):
        (tmp_path / f"cut-{name}").write_bytes(data[:length])
        with pytest.raises(PictureError):
            read_picture(tmp_path / f"cut-{name}")


def test_nothing_is_left_when_writing_fails(tmp_path: Path):
    a_picture(tmp_path / "good.png")
    whole = (tmp_path / "good.png").read_bytes()
    (tmp_path / "cut.png").write_bytes(whole[: len(whole) // 2])
    (tmp_path / "kept.png").write_bytes(b"before")
    for target in ("new.png", "kept.png"):
        with pytest.raises(PictureError, match=r"cut\.png"):
            grade_file(Grade.of_look(a_look()), tmp_path / "cut.png", tmp_path / target, SRGB, SRGB)
    assert sorted(path.name for path in tmp_path.iterdir()) == ["cut.png", "good.png", "kept.png"]
    assert (tmp_path / "kept.png").read_bytes() == b"before"
    with pytest.raises(PictureError, match=r"x\.bmp: no picture format for this name"):
        write_picture(Picture(random_pixels()), tmp_path / "x.bmp")


def test_strips_give_what_the_whole_gives(tmp_path: Path, monkeypatch):
    from saucer.core.engine import grade

    a_picture(tmp_path / "a.tif", "u16", height=101, width=37)
    whole = Grade.of_look(a_look(), 0.6)
    grade_file(whole, tmp_path / "a.tif", tmp_path / "one.tif", SRGB, SRGB)
    monkeypatch.setattr(grade, "STRIP_PIXELS", 37 * 8)
    told: list[float] = []
    grade_file(whole, tmp_path / "a.tif", tmp_path / "strips.tif", SRGB, SRGB, report=told.append)
    assert np.array_equal(read_picture(tmp_path / "one.tif").pixels, read_picture(tmp_path / "strips.tif").pixels)
    assert len(told) == 13
    assert told[-1] == 1


def test_a_tiled_proxy_is_the_scanline_one_where_tiles_and_reduction_do_not_divide(tmp_path: Path, monkeypatch):
    from saucer.core.engine import grade

    pixels = random_pixels(300, 90)
    monkeypatch.setattr(grade, "STRIP_PIXELS", 90 * 40)
    proxies = []
    for tile in (0, 32):
        spec = oiio.ImageSpec(90, 300, 3, "float")
        spec.tile_width = spec.tile_height = tile
        output = oiio.ImageOutput.create("openexr")
        output.open(str(tmp_path / f"{tile}.exr"), spec)
        output.write_image(pixels)
        output.close()
        proxies.append(make_proxy(tmp_path / f"{tile}.exr", ENCODINGS["linear-709"], 30, 100)[0])
    assert np.array_equal(*proxies)
    np.testing.assert_allclose(proxies[0], pixels.reshape(100, 3, 30, 3, 3).mean(axis=(1, 3)), atol=1e-6)


def test_tiled_files_are_read_in_strips_too(tmp_path: Path):
    pixels = random_pixels(100, 70)
    spec = oiio.ImageSpec(70, 100, 3, "half")
    spec.tile_width = spec.tile_height = 32
    output = oiio.ImageOutput.create("openexr")
    output.open(str(tmp_path / "t.exr"), spec)
    output.write_image(pixels)
    output.close()
    assert np.abs(read_picture(tmp_path / "t.exr").pixels - pixels).max() < 3e-4
    small, _ = make_proxy(tmp_path / "t.exr", ENCODINGS["linear-709"], 35, 50)
    np.testing.assert_allclose(small, pixels.reshape(50, 2, 35, 2, 3).mean(axis=(1, 3)), atol=3e-4)


def test_a_proxy_is_the_mean_of_the_light(tmp_path: Path):
    """Averaging code values would darken: a black and a white pixel are half the light, code 0.735 in sRGB (IEC 61966-2-1)."""
    pixels = np.indices((40, 80)).sum(axis=0)[..., None].repeat(3, 2) % 2
    write_picture(Picture(pixels.astype(np.float32), "u8"), tmp_path / "c.png")
    small, _ = make_proxy(tmp_path / "c.png", SRGB, 20, 10)
    assert small.shape == (10, 20, 3)
    np.testing.assert_allclose(small, 1.055 * 0.5 ** (1 / 2.4) - 0.055, atol=1e-5)


@pytest.mark.parametrize("shape", [(24, 40), (37, 53), (11, 200), (500, 30)])
def test_proxies_fit_and_keep_the_shape(tmp_path: Path, shape):
    a_picture(tmp_path / "a.png", "u16", *shape)
    small, _ = make_proxy(tmp_path / "a.png", SRGB, 32, 18)
    assert small.shape[0] <= 18
    assert small.shape[1] <= 32
    assert small.shape[1] / small.shape[0] == pytest.approx(shape[1] / shape[0], rel=0.6 if min(small.shape[:2]) < 4 else 0.1)
    same = np.ones((4, 4, 3), np.float32)
    assert scale_down(same, 10, 10) is same


def test_fitted_is_the_mean_of_the_area_each_pixel_covers():
    x = random_pixels(60, 90)
    np.testing.assert_allclose(scale_down(x, 30, 30), x.reshape(20, 3, 30, 3, 3).mean(axis=(1, 3)), atol=1e-6)
    # 3 old pixels on 2 new ones: the middle one counts half for each.
    wide = np.stack([x[:, 0::3] + x[:, 1::3] / 2, x[:, 1::3] / 2 + x[:, 2::3]], axis=2).reshape(60, 60, 3) / 1.5
    both = np.stack([wide[0::3] + wide[1::3] / 2, wide[1::3] / 2 + wide[2::3]], axis=1).reshape(40, 60, 3) / 1.5
    np.testing.assert_allclose(scale_down(x, 60, 60), both, atol=1e-6)


def _with_alpha(path: Path, samples: np.ndarray, associated: bool) -> None:
    """By the reference libraries themselves, so that what reads it is checked against another writer than ours."""
    if path.suffix == ".exr":
        header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
        OpenEXR.File(header, {"RGBA": np.ascontiguousarray(samples, np.float32)}).write(str(path))
    else:
        kind = "ASSOCALPHA" if associated else "UNASSALPHA"
        tifffile.imwrite(path, (samples * 65535 + 0.5).astype(np.uint16), photometric="rgb", extrasamples=[kind])


def _alpha_of(path: Path) -> np.ndarray:
    if path.suffix == ".exr":
        return np.asarray(OpenEXR.File(str(path)).channels()["RGBA"].pixels, np.float64)
    return tifffile.imread(path).astype(np.float64) / 65535


OFFSET = look_from(
    {"input": "srgb", "output": "srgb", "steps": [{"kind": "cdl", "slope": [0.5, 0.5, 0.5], "offset": [0.1, 0.1, 0.1]}]}
)


@pytest.mark.parametrize(("suffix", "associated"), [(".exr", True), (".tif", True), (".tif", False)])
def test_colour_is_graded_without_its_alpha_and_comes_out_as_it_came(tmp_path: Path, suffix, associated):
    """Source: OpenEXR, "Technical introduction", premultiplied alpha; TIFF 6.0, section 18, ExtraSamples 1 and 2"""
    colour, alpha = np.float64([0.2, 0.6, 0.9]), np.float64([1.0, 0.5, 0.25, 0.0])
    straight = np.concatenate([np.tile(colour, (4, 1)), alpha[:, None]], axis=1)
    stored = np.concatenate([straight[:, :3] * alpha[:, None], alpha[:, None]], axis=1) if associated else straight
    source, target = tmp_path / f"a{suffix}", tmp_path / f"b{suffix}"
    _with_alpha(source, np.tile(stored, (2, 1, 1)), associated)
    grade_file(Grade.of_look(OFFSET), source, target, SRGB, SRGB)
    wanted = 0.5 * colour + 0.1
    found = _alpha_of(target)[0]
    assert found[:, 3] == pytest.approx(alpha, abs=1e-3)
    factor = alpha if associated else np.ones(4)
    np.testing.assert_allclose(found[:, :3], wanted * factor[:, None], atol=1e-3)
    if suffix == ".tif":
        with tifffile.TiffFile(target) as file:
            assert [int(one) for one in file.pages[0].extrasamples] == [1 if associated else 2]


def test_light_that_covers_nothing_is_graded_and_nothing_stays_nothing(tmp_path: Path):
    stored = np.float64([[[0.3, 0.2, 0.1, 0.0], [0.0, 0.0, 0.0, 0.0]]])
    _with_alpha(tmp_path / "a.exr", stored, True)
    grade_file(Grade.of_look(OFFSET), tmp_path / "a.exr", tmp_path / "b.exr", SRGB, SRGB)
    found = _alpha_of(tmp_path / "b.exr")[0]
    assert found[0] == pytest.approx([0.25, 0.2, 0.15, 0.0], abs=1e-3)
    assert found[1] == pytest.approx([0, 0, 0, 0])


def test_grey_with_alpha_is_read(tmp_path: Path):
    Image.fromarray(np.array([[[100, 255], [200, 0]]], np.uint8), "LA").save(tmp_path / "a.png")
    picture = read_picture(tmp_path / "a.png")
    assert picture.pixels[0, :, 0] * 255 == pytest.approx([100, 200], abs=1e-4)
    assert (picture.pixels == picture.pixels[..., :1]).all()
    assert picture.alpha is not None
    assert picture.alpha[0] == pytest.approx([1, 0])


def test_infinite_light_is_the_largest_and_what_is_no_number_is_black(tmp_path: Path):
    samples = np.float32([[[np.inf, 1, 2], [-np.inf, 0, 0], [np.nan, 5, 6], [1, 2, 3]]])
    OpenEXR.File({"type": OpenEXR.scanlineimage}, {"RGB": samples}).write(str(tmp_path / "a.exr"))
    picture = read_picture(tmp_path / "a.exr")
    assert picture.mended == 3
    np.testing.assert_array_equal(picture.pixels[0], [[65504, 1, 2], [-65504, 0, 0], [0, 5, 6], [1, 2, 3]])
