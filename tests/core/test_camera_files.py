"""Files of cameras and phones: raw photographs, HEIC, AVIF, Radiance HDR, JPEGs with a gain map; what they are in is said, and exact."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import av
import numpy as np
import OpenImageIO as oiio
import pytest
from PIL import Image

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.own import encodings_of
from saucer.core.commands.main import main
from saucer.core.errors import PictureError
from saucer.core.look.model import Look
from saucer.core.pictures.io import inspect_picture, read_picture, read_rows
from saucer.core.pictures.stated import GAIN_MAP, stated_encoding
from tests.heic import write_heic
from tests.make import a_picture
from tests.raw import MATRIX, NEUTRAL, write_dng

LIGHT_709 = ENCODINGS["linear-709"]


def gradient(height: int = 48, width: int = 64) -> np.ndarray:
    """(h, w, 3) uint8"""
    across = np.linspace(0, 255, width).astype(np.uint8)
    rows = np.tile(across, (height, 1))
    return np.stack([rows, rows[:, ::-1], np.full((height, width), 90, np.uint8)], -1)


def halves(above: tuple[float, ...], below: tuple[float, ...]) -> np.ndarray:
    """(64, 96, 3): two flat colours, one above the other."""
    return np.concatenate([np.full((32, 96, 3), above), np.full((32, 96, 3), below)])


@pytest.fixture
def dng(tmp_path: Path) -> Path:
    """A grey of two fifths above, a green below."""
    neutral = np.array(NEUTRAL)
    return write_dng(tmp_path / "one.dng", halves(tuple(neutral * 0.4), (0.05, 0.3, 0.03)))


def test_a_raw_photograph_is_linear_light_with_the_cameras_white(dng):
    info = inspect_picture(dng)
    assert (info.kind, info.width, info.height, info.depth) == ("raw", 96, 64, "u16")
    read = read_picture(dng)
    assert read.pixels[10, 40] == pytest.approx([0.4, 0.4, 0.4], abs=2e-4)
    assert read.pixels[54, 40] == pytest.approx(np.array([0.05, 0.3, 0.03]) / NEUTRAL, abs=2e-4)
    rows, top, height = read_rows(dng, 50, 60)
    assert (top, height) == (50, 64)
    assert np.array_equal(rows, read.pixels[50:60])


def test_its_own_primaries_are_stated_and_mean_what_the_file_says(dng):
    """Against the matrix by hand: the camera, balanced to D65, back to XYZ (Digital Negative specification 1.6, "Mapping Camera Color
    Space to CIE XYZ Space"); and against the library's own way to linear BT.709."""
    said = stated_encoding(dng)
    assert said.own is not None
    assert "camera's own primaries" in said.words
    own = encodings_of((said.own,))[said.own.id]
    assert own.linear
    assert own.referred == "scene"
    pixels = read_picture(dng).pixels
    ours = convert(pixels, own, LIGHT_709)
    white = np.array([0.95047, 1, 1.08883])
    balanced = np.array(MATRIX) / (np.array(MATRIX) @ white)[:, None]
    xyz = np.linalg.inv(balanced) @ pixels[54, 40]
    to_709 = np.array([[3.2404542, -1.5371385, -0.4985314], [-0.969266, 1.8760108, 0.041556], [0.0556434, -0.2040259, 1.0572252]])
    assert ours[54, 40] == pytest.approx(to_709 @ xyz, abs=1e-3)
    import rawpy

    with rawpy.imread(str(dng)) as raw:
        theirs = raw.postprocess(
            use_camera_wb=True, no_auto_bright=True, gamma=(1, 1), output_bps=16, output_color=rawpy.ColorSpace.sRGB
        )
    assert np.clip(ours, 0, 1)[[10, 54], 40] == pytest.approx(theirs[[10, 54], 40] / 65535, abs=1e-3)


def test_a_white_that_nobody_can_choose_is_refused(tmp_path, dng):
    with pytest.raises(PictureError, match="from 2,000 to 25,000 kelvin, got 900"):
        read_picture(dng, white=900)
    unknown = write_dng(tmp_path / "unknown.dng", halves((0.2, 0.2, 0.2), (0.1, 0.1, 0.1)), matrix=None)
    assert read_picture(unknown).pixels.shape == (64, 96, 3)
    with pytest.raises(PictureError, match="nobody knows what its camera sees as grey under 5000 kelvin"):
        read_picture(unknown, white=5000)


@pytest.mark.parametrize(
    ("orientation", "size", "corner"),
    [(1, (96, 64), (10, 10)), (3, (96, 64), (54, 10)), (6, (64, 96), (10, 54)), (8, (64, 96), (10, 10))],
)
def test_a_raw_photograph_stands_upright(tmp_path, orientation, size, corner):
    """Exif's turns (CIPA DC-008, tag 0x0112): the grey half comes to lie above, below, right, left."""
    path = write_dng(tmp_path / "turned.dng", halves(tuple(np.array(NEUTRAL) * 0.4), (0.05, 0.3, 0.03)), orientation)
    read = read_picture(path)
    assert (read.width, read.height) == size
    assert read.pixels[corner] == pytest.approx([0.4, 0.4, 0.4], abs=2e-4)


def test_either_order_of_bytes_is_a_raw_photograph_and_a_tiff_is_none(tmp_path):
    big = write_dng(tmp_path / "big.dng", halves((0.1, 0.2, 0.1), (0.1, 0.1, 0.1)), order=">")
    assert inspect_picture(big).kind == "raw"
    Image.fromarray(gradient()).save(tmp_path / "plain.tif")
    assert inspect_picture(tmp_path / "plain.tif").kind == "tiff"


def test_heic_keeps_ten_bits_and_its_numbers(tmp_path):
    deep = (gradient().astype(np.uint16) * 257) >> 6
    write_heic(tmp_path / "deep.heic", deep << 6)
    info = inspect_picture(tmp_path / "deep.heic")
    assert (info.kind, info.depth, info.width) == ("heic", "u16", 64)
    read = read_picture(tmp_path / "deep.heic").pixels
    assert np.abs(read * 1023 - deep).max() < 2.5, "lossless but for its way through YCbCr"
    assert len(np.unique(np.round(read[..., 0] * 1023))) == len(np.unique(deep[..., 0]))
    assert stated_encoding(tmp_path / "deep.heic").encoding == "srgb"


def test_heic_of_eight_bits_with_alpha(tmp_path):
    alpha = np.tile(np.linspace(0, 255, 48).astype(np.uint8)[:, None], (1, 64))
    write_heic(tmp_path / "a.heic", np.dstack([gradient(), alpha]))
    read = read_picture(tmp_path / "a.heic")
    assert np.abs(read.pixels * 255 - gradient()).max() < 2.5
    assert read.alpha is not None
    assert np.abs(read.alpha * 255 - alpha).max() < 1.5


@pytest.mark.parametrize(("numbers", "encoding"), [((9, 16), "pq"), ((9, 18), "hlg"), ((12, 13), "display-p3"), ((1, 1), "rec709")])
def test_what_a_heic_says_is_believed(tmp_path, numbers, encoding):
    """ITU-T H.273, tables 2 and 3."""
    path = tmp_path / "said.heic"
    write_heic(path, gradient(), numbers)
    assert stated_encoding(path).encoding == encoding


def test_avif_is_read_in_eight_bits_and_in_ten(tmp_path):
    Image.fromarray(gradient()).save(tmp_path / "a.avif", quality=100, subsampling="4:4:4")
    assert inspect_picture(tmp_path / "a.avif").kind == "avif"
    assert np.abs(read_picture(tmp_path / "a.avif").pixels * 255 - gradient()).max() < 4
    assert stated_encoding(tmp_path / "a.avif").encoding == "srgb"
    deep = gradient(64, 64).astype(np.uint16) * 257
    with av.open(str(tmp_path / "deep.avif"), "w", format="avif") as container:
        stream = container.add_stream("libsvtav1", rate=1)
        stream.width, stream.height, stream.pix_fmt, stream.options = 64, 64, "yuv420p10le", {"crf": "1"}
        frame = av.VideoFrame.from_ndarray(deep, format="rgb48le")
        frame.pts = 0
        for packet in [*stream.encode(frame), *stream.encode()]:
            container.mux(packet)
    info = inspect_picture(tmp_path / "deep.avif")
    assert (info.kind, info.depth) == ("avif", "u16")
    read = read_picture(tmp_path / "deep.avif").pixels
    assert np.abs(read - deep / 65535).mean() < 0.02
    assert np.abs(read * 255 - np.round(read * 255)).max() > 0.3, "there is something between the codes of eight bits"


def test_radiance_holds_more_than_one(tmp_path):
    """Written by OpenImageIO; four bytes a pixel with a common exponent: within 1 %."""
    light = np.geomspace(0.001, 900, 64 * 48 * 3).reshape(48, 64, 3).astype(np.float32)
    writer = oiio.ImageOutput.create("hdr")
    writer.open(str(tmp_path / "sun.hdr"), oiio.ImageSpec(64, 48, 3, "float"))
    writer.write_image(light)
    writer.close()
    info = inspect_picture(tmp_path / "sun.hdr")
    assert (info.kind, info.depth) == ("hdr", "f32")
    read = read_picture(tmp_path / "sun.hdr").pixels
    assert np.abs(read / light - 1)[..., 2].max() < 0.02
    assert read.max() > 800


def test_a_jpeg_with_a_gain_map_is_its_sdr_picture_and_says_so(tmp_path):
    Image.fromarray(gradient()).save(tmp_path / "plain.jpg", quality=95)
    data = (tmp_path / "plain.jpg").read_bytes()
    mark = b"urn:iso:std:iso:ts:21496:-1\0\0\0\0\0"
    (tmp_path / "map.jpg").write_bytes(data[:2] + b"\xff\xe2" + (len(mark) + 2).to_bytes(2, "big") + mark + data[2:] + data)
    assert np.array_equal(read_picture(tmp_path / "map.jpg").pixels, read_picture(tmp_path / "plain.jpg").pixels)
    assert stated_encoding(tmp_path / "map.jpg").left_out == GAIN_MAP
    plain = stated_encoding(tmp_path / "plain.jpg")
    assert plain is None or plain.left_out == ""


@pytest.mark.parametrize("share", [0.02, 0.3, 0.9])
@pytest.mark.parametrize("kind", ["heic", "avif", "dng", "hdr"])
def test_what_is_cut_short_is_refused_in_words(tmp_path, kind, share, dng):
    path = tmp_path / f"whole.{kind}"
    if kind == "heic":
        write_heic(path, gradient())
    elif kind == "avif":
        Image.fromarray(gradient()).save(path, quality=100)
    elif kind == "dng":
        path = dng
    else:
        writer = oiio.ImageOutput.create("hdr")
        writer.open(str(path), oiio.ImageSpec(64, 48, 3, "float"))
        writer.write_image(np.random.default_rng(1).random((48, 64, 3)).astype(np.float32))
        writer.close()
    data = path.read_bytes()
    cut = tmp_path / f"cut.{kind}"
    cut.write_bytes(data[: max(20, int(len(data) * share))])
    with pytest.raises(PictureError, match=r"^cut\."):
        read_picture(cut)


def test_the_command_line_reads_them_as_what_they_are(tmp_path, dng, capsys):
    """Through a look of no steps to linear BT.709: the same as the conversion by itself."""
    (tmp_path / "plain.json").write_text(Look(name="Plain", input="linear-709", output="linear-709").model_dump_json())
    main(["apply", str(tmp_path / "plain.json"), str(dng), "-o", str(tmp_path / "out.exr")])
    told = capsys.readouterr().out
    assert "as its raw data: linear light of the camera's own primaries" in told
    own = encodings_of((stated_encoding(dng).own,))
    (encoding,) = own.values()
    wanted = convert(read_picture(dng).pixels, encoding, LIGHT_709)
    assert np.abs(read_picture(tmp_path / "out.exr").pixels - wanted).max() < 1e-3


def test_the_command_line_balances_raw_photographs_to_a_chosen_white(tmp_path, dng, capsys):
    (tmp_path / "plain.json").write_text(Look(name="Plain", input="linear-709", output="linear-709").model_dump_json())
    whole = ["apply", str(tmp_path / "plain.json"), str(dng), "-o", str(tmp_path / "out.exr"), "--picture-encoding", "linear-709"]
    assert main([*whole, "--raw-white", "4000"]) == 0
    found = read_picture(tmp_path / "out.exr").pixels
    assert np.abs(found - read_picture(dng, white=4000).pixels).max() < 1e-3
    assert np.abs(found - read_picture(dng).pixels).max() > 0.05
    for wrong, words in (("900", "from 2,000 to 25,000 kelvin, got 900"), ("warm", "invalid")):
        with pytest.raises(SystemExit):
            main([*whole, "--raw-white", wrong])
        assert words in capsys.readouterr().err
    shown = a_picture(tmp_path / "shown.png")
    assert main(["apply", whole[1], str(shown), "-o", str(tmp_path / "out.png"), "--raw-white", "4000"]) == 0
    assert "shown.png: is no raw photograph, so that --raw-white changes nothing in it" in capsys.readouterr().out


def test_the_library_of_heic_is_loaded_by_readers_only(tmp_path):
    """Beside it the encoder of H.265 clips fails, in whatever process writes them."""
    write_heic(tmp_path / "a.heic", gradient())
    script = (
        "import sys; from pathlib import Path; import saucer.core.commands.main; from saucer.core.pictures.io import read_picture\n"
        f"read_picture(Path({str(tmp_path / 'a.heic')!r})); print('pillow_heif' in sys.modules, 'rawpy' in sys.modules)"
    )
    source = {"PYTHONPATH": str(Path(__file__).parents[2] / "src")}
    done = subprocess.run([sys.executable, "-c", script], env=os.environ | source, capture_output=True, text=True, check=True)
    assert done.stdout.split() == ["False", "False"]


@pytest.mark.parametrize("brightest", [0.5, 0.8, 0.95, 1.0])
def test_how_bright_a_raw_photograph_is_does_not_depend_on_what_is_in_it(tmp_path, brightest):
    """A grey of a fifth beside something bright: the sensor's range is what the file says, not what the picture reaches."""
    neutral = np.array(NEUTRAL)
    path = write_dng(tmp_path / "bright.dng", halves(tuple(neutral * 0.2), tuple(neutral * brightest)))
    read = read_picture(path).pixels
    assert read[10, 40] == pytest.approx([0.2, 0.2, 0.2], abs=3e-4)
    assert read[54, 40] == pytest.approx([brightest] * 3, abs=3e-4)
