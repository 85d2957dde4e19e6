"""What pictures say beside their samples, in and out: EXIF by Pillow and ExifTool, attributes, windows and further channels of EXR by
OpenEXR."""

from __future__ import annotations

import json
import shutil
import subprocess
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade, Graded, grade_file
from tests.make import WARM, a_look

OpenEXR = pytest.importorskip("OpenEXR", reason="development requirements are not installed")
SRGB, LIGHT = ENCODINGS["srgb"], ENCODINGS["acescg"]
PIXELS = np.random.default_rng(1).random((12, 20, 3)).astype(np.float32)
MAKE, DESCRIPTION, ORIENTATION, EXPOSURE, LENS = 0x010F, 0x010E, 0x0112, 0x829A, 0xA434


def graded(source: Path, target: Path, encoding: str = "srgb") -> Graded:
    known = ENCODINGS[encoding]
    return grade_file(Grade.of_look(a_look(WARM, input=encoding, output=encoding)), source, target, known, known)


def a_jpeg(path: Path) -> None:
    """Lying on its side, with what a camera says of it."""
    exif = Image.Exif()
    exif[MAKE], exif[DESCRIPTION], exif[ORIENTATION] = "Tidemark", "Ferry at the quay", 6
    exif.get_ifd(0x8769)[LENS], exif.get_ifd(0x8769)[EXPOSURE] = "35 mm", (1, 60)
    Image.fromarray((PIXELS * 255).astype(np.uint8)).save(path, exif=exif, quality=95)


@pytest.mark.parametrize("suffix", [".jpg", ".png", ".tif"])
def test_exif_goes_with_the_picture_and_its_orientation_is_settled(tmp_path: Path, suffix):
    a_jpeg(tmp_path / "in.jpg")
    assert graded(tmp_path / "in.jpg", tmp_path / f"out{suffix}").left_out == ()
    with Image.open(tmp_path / f"out{suffix}") as made:
        found = made.getexif()
        assert made.size == (12, 20), "turned upright"
        assert (found[MAKE], found[DESCRIPTION], found.get(ORIENTATION, 1)) == ("Tidemark", "Ferry at the quay", 1)
        inner = dict(found) | found.get_ifd(0x8769)  # some of it stands beside the directory that it is meant for
        assert inner[LENS] == "35 mm"
        assert float(inner[EXPOSURE]) == pytest.approx(1 / 60, rel=1e-4)


def by_exiftool(path: Path) -> dict[str, Any]:
    """Debian's libimage-exiftool-perl, every tag as it is stored."""
    program = shutil.which("exiftool")
    assert program, "./saucer setup --development installs it"
    told = subprocess.run([program, "-json", "-n", str(path)], capture_output=True, check=True, text=True).stdout
    found: dict[str, Any] = json.loads(told)[0]
    assert "Error" not in found, found["Error"]
    assert "Warning" not in found, found["Warning"]
    return found


@pytest.mark.parametrize("suffix", [".jpg", ".png", ".tif"])
def test_exiftool_reads_what_came_with_the_picture_and_the_profile_of_what_it_is_now(tmp_path: Path, suffix):
    a_jpeg(tmp_path / "in.jpg")
    graded(tmp_path / "in.jpg", tmp_path / f"out{suffix}")
    before, after = by_exiftool(tmp_path / "in.jpg"), by_exiftool(tmp_path / f"out{suffix}")
    assert before["Orientation"] == 6
    assert after.get("Orientation", 1) == 1
    assert (after["ImageWidth"], after["ImageHeight"]) == (12, 20)
    for name in ("Make", "ImageDescription", "LensModel"):
        assert after[name] == before[name]
    assert after["ExposureTime"] == pytest.approx(1 / 60, rel=1e-4)
    assert after["ProfileDescription"] == "sRGB"
    assert after["ProfileConnectionSpace"].strip() == "XYZ"


def test_what_webp_has_no_room_for_is_told(tmp_path: Path):
    exif = Image.Exif()
    exif[MAKE] = "Tidemark"
    Image.fromarray((PIXELS * 255).astype(np.uint8)).save(tmp_path / "in.jpg", exif=exif)
    assert graded(tmp_path / "in.jpg", tmp_path / "out.webp").left_out == ("what it says of itself: Make",)
    assert "Make" not in by_exiftool(tmp_path / "out.webp")


def test_exiftool_reads_the_windows_and_attributes_of_an_exr(tmp_path: Path):
    an_exr(tmp_path / "in.exr")
    graded(tmp_path / "in.exr", tmp_path / "out.exr", "acescg")
    before, after = by_exiftool(tmp_path / "in.exr"), by_exiftool(tmp_path / "out.exr")
    assert (after["Owner"], after["DisplayWindow"], after["DataWindow"]) == (before["Owner"], "0 0 39 29", "5 7 24 18")
    told = [float(one) for one in str(after["Chromaticities"]).split()]
    own = LIGHT.primaries
    assert told == pytest.approx([*own.red, *own.green, *own.blue, *own.white], abs=1e-6)


def an_exr(path: Path) -> None:
    """A picture in a larger window, with depth and a second layer."""
    header = {
        "compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage, "owner": "Tidemark", "isoSpeed": 800.0,
        "displayWindow": (np.array([0, 0], np.int32), np.array([39, 29], np.int32)),
        "dataWindow": (np.array([5, 7], np.int32), np.array([24, 18], np.int32)),
    }  # fmt: skip
    channels = {name: PIXELS[..., index].astype(np.float16) for index, name in enumerate("RGB")}
    channels |= {"Z": (PIXELS[..., 0] * 1000 + 1e-3).astype(np.float32), "key.R": PIXELS[..., 1].astype(np.float16)}
    with OpenEXR.File(header, channels) as file:
        file.write(str(path))


def test_windows_attributes_and_further_channels_of_an_exr_stay(tmp_path: Path):
    an_exr(tmp_path / "in.exr")
    assert graded(tmp_path / "in.exr", tmp_path / "out.exr", "acescg").left_out == ()
    with (
        OpenEXR.File(str(tmp_path / "in.exr"), separate_channels=True) as before,
        OpenEXR.File(str(tmp_path / "out.exr"), separate_channels=True) as after,
    ):
        for name in ("displayWindow", "dataWindow"):
            np.testing.assert_array_equal(np.array(after.header()[name]), np.array(before.header()[name]))
        assert after.header()["owner"] == "Tidemark"
        assert after.header()["isoSpeed"] == pytest.approx(800)
        was, now = before.channels(), after.channels()
        assert set(now) == {"R", "G", "B", "Z", "key.R"}
        np.testing.assert_array_equal(now["Z"].pixels, was["Z"].pixels)
        assert now["Z"].pixels.dtype == np.float32
        np.testing.assert_array_equal(now["key.R"].pixels, was["key.R"].pixels)
        assert np.abs(now["R"].pixels.astype(float) - was["R"].pixels.astype(float)).max() > 0.01, "it was graded"


def test_what_another_kind_of_file_has_no_room_for_is_told(tmp_path: Path):
    an_exr(tmp_path / "in.exr")
    told = graded(tmp_path / "in.exr", tmp_path / "out.png", "acescg").left_out
    assert told == ("its place at 5, 7 in a window of 40 x 30", "channels Z, key.R")
