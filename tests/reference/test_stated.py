"""What files say of their encoding, in profiles that LittleCMS makes and chunks laid out as the specifications say."""

from __future__ import annotations

import io
import struct
from pathlib import Path

import numpy as np
import OpenEXR
import pytest
from PIL import Image, ImageCms

from saucer.core.colour.adaptation import BRADFORD, adaptation
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.own import OwnEncoding, encoding_of
from saucer.core.colour.primaries import D65, Primaries, rgb_to_xyz, xyz_of
from saucer.core.pictures.io import Picture, write_picture
from saucer.core.pictures.measured import encoding_of_profile
from saucer.core.pictures.profile import profile_of
from saucer.core.pictures.stated import stated_encoding
from tests.make import png

PIXELS = np.zeros((4, 4, 3), np.uint8)
# Profiles that ICC's members publish cannot be shipped here; those of LittleCMS, and ours by its own functions, stand for them.


def a_profile(curve: bytes, corners: np.ndarray, name: str = "Studio monitor 7", more: dict[bytes, bytes] | None = None) -> bytes:
    """A profile by hand. corners: (3, 3) XYZ of red, green, blue, adapted to D50. Source: ICC.1:2022, 7.2, 7.3, 10.31"""
    d50 = np.array([0.9642, 1.0, 0.8249])

    def xyz(values: np.ndarray) -> bytes:
        return b"XYZ \0\0\0\0" + b"".join(struct.pack(">i", round(float(v) * 65536)) for v in values)

    text = name.encode()
    words = b"desc\0\0\0\0" + struct.pack(">I", len(text) + 1) + text + b"\0" * (1 + 8 + 4 + 67 + 2)
    tags = {b"desc": words, b"wtpt": xyz(d50), b"cprt": b"text\0\0\0\0none\0", **(more or {})}
    tags |= {letter + b"XYZ": xyz(corner) for letter, corner in zip((b"r", b"g", b"b"), corners, strict=True)}
    tags |= {letter + b"TRC": curve for letter in (b"r", b"g", b"b")}
    at, entries, body = 132 + 12 * len(tags), b"", b""
    for tag, content in tags.items():
        padded = content + b"\0" * (-len(content) % 4)
        entries += tag + struct.pack(">II", at + len(body), len(content))
        body += padded
    header = struct.pack(">I4sI4s4s4s12x4s", at + len(body), b"\0\0\0\0", 0x02400000, b"mntr", b"RGB ", b"XYZ ", b"acsp")
    header = header.ljust(68, b"\0") + b"".join(struct.pack(">i", round(float(v) * 65536)) for v in d50)
    return header.ljust(128, b"\0") + struct.pack(">I", len(tags)) + entries + body


def corners_of(primaries: Primaries) -> np.ndarray:
    return (adaptation(BRADFORD, xyz_of(primaries.white), np.array([0.9642, 1.0, 0.8249])) @ rgb_to_xyz(primaries)).T


def icc(encoding_id: str) -> bytes:
    one = ENCODINGS[encoding_id]
    curve = np.clip(one.transfer.decode(np.linspace(0, 1, 1024)), 0, 1)
    table = b"curv\0\0\0\0" + struct.pack(">I", 1024) + (curve * 65535 + 0.5).astype(">u2").tobytes()
    return a_profile(table, corners_of(one.primaries), f"Test {encoding_id}")


@pytest.mark.parametrize("suffix", [".png", ".jpg", ".tif", ".webp"])
def test_the_profile_of_littlecms_is_srgb_in_every_format(tmp_path: Path, suffix):
    path = tmp_path / f"a{suffix}"
    Image.fromarray(PIXELS).save(path, icc_profile=ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    found = stated_encoding(path)
    assert found is not None
    assert (found.encoding, found.words) == ("srgb", "ICC profile: sRGB built-in")


@pytest.mark.parametrize("encoding", ["srgb", "rec709", "gamma22-709", "display-p3", "rec2020", "rec709-camera"])
def test_profiles_of_our_encodings_are_told_apart_through_littlecms(tmp_path: Path, encoding):
    path = tmp_path / "a.tif"
    Image.fromarray(PIXELS).save(path, icc_profile=icc(encoding))
    found = stated_encoding(path)
    assert found is not None
    assert (found.encoding, found.words) == (encoding, f"ICC profile: Test {encoding}")


def test_a_profile_of_something_else_is_said_and_not_guessed(tmp_path: Path):
    path = tmp_path / "a.png"
    Image.fromarray(PIXELS).save(path, icc_profile=icc("acescct"))
    found = stated_encoding(path)
    assert found is not None
    assert (found.encoding, found.words) == ("", "ICC profile: Test acescct")
    Image.fromarray(PIXELS).save(path, icc_profile=b"\0" * 200)
    broken = stated_encoding(path)
    assert broken is None or broken.encoding == ""


@pytest.mark.parametrize(
    ("codes", "encoding"),
    [((9, 16), "pq"), ((9, 18), "hlg"), ((12, 16), "pq-p3"), ((12, 13), "display-p3"), ((1, 13), "srgb"), ((22, 1), "")],
)
def test_cicp_says_what_it_is(tmp_path: Path, codes, encoding):
    """Source: PNG specification, third edition, 11.3.2.6, whose examples are 9 16 0 1 and 12 13 0 1"""
    found = stated_encoding(png(tmp_path / "a.png", (b"cICP", bytes([*codes, 0, 1]))))
    assert found is not None
    assert found.encoding == encoding


def test_an_srgb_chunk_says_so_and_nothing_says_nothing(tmp_path: Path):
    found = stated_encoding(png(tmp_path / "a.png", (b"sRGB", b"\0")))
    assert found is not None
    assert found.encoding == "srgb"
    assert stated_encoding(png(tmp_path / "b.png")) is None


@pytest.mark.parametrize(
    ("chromaticities", "encoding"),
    [
        ((0.713, 0.293, 0.165, 0.83, 0.128, 0.044, 0.32168, 0.33767), "acescg"), ((0.7347, 0.2653, 0.0, 1.0, 0.0001, -0.077, 0.32168, 0.33767), "aces2065-1"),
        ((0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329), "linear-709"), ((0.68, 0.32, 0.265, 0.69, 0.15, 0.06, 0.314, 0.351), ""),
    ],
)  # fmt: skip
def test_chromaticities_of_exr(tmp_path: Path, chromaticities, encoding):
    """Source: SMPTE ST 2065-1 (AP0), S-2014-004 (AP1), ITU-R BT.709-6; written by OpenEXR"""
    header = {"type": OpenEXR.scanlineimage, "chromaticities": chromaticities}
    OpenEXR.File(header, {"RGB": np.zeros((4, 4, 3), np.float32)}).write(str(tmp_path / "a.exr"))
    found = stated_encoding(tmp_path / "a.exr")
    assert found is not None
    assert found.encoding == encoding


DISPLAYS = [one.id for one in ENCODINGS.values() if one.referred == "display" and one.bounded]


@pytest.mark.parametrize("encoding", DISPLAYS)
def test_our_profiles_give_the_colours_of_the_encoding_by_littlecms(encoding):
    """To sRGB by LittleCMS against our own conversion, of colours that sRGB holds, within its rounding to 8 bits."""
    one, srgb = ENCODINGS[encoding], ENCODINGS["srgb"]
    wanted = np.random.default_rng(1).integers(20, 236, (4000, 3)).astype(np.uint8)
    codes = np.round(np.clip(convert(wanted / 255.0, srgb, one), 0, 1) * 255).astype(np.uint8)
    profile = ImageCms.ImageCmsProfile(io.BytesIO(profile_of(one)))
    through = ImageCms.buildTransform(profile, ImageCms.createProfile("sRGB"), "RGB", "RGB", ImageCms.Intent.RELATIVE_COLORIMETRIC)
    found = np.asarray(ImageCms.applyTransform(Image.fromarray(codes[None]), through))[0].astype(float)
    # Of the same 8 bits: what they were rounded from is nobody's fault.
    ours = np.clip(convert(codes / 255.0, one, srgb), 0, 1) * 255
    assert np.abs(found - ours).max() < 1.5


# A wide monitor that nothing ships: its primaries are made up, its white is D65.
MONITOR = Primaries("a monitor", (0.66, 0.325), (0.27, 0.64), (0.148, 0.058), D65, "made up")
ONE_POWER = b"curv\0\0\0\0" + struct.pack(">IH", 1, round(1.95 * 256))
TABLE = b"curv\0\0\0\0" + struct.pack(">I", 256) + (np.linspace(0, 1, 256) ** 2.1 * 65535 + 0.5).astype(">u2").tobytes()
STRAIGHT_FOOT = b"para\0\0\0\0" + struct.pack(
    ">HHiiiii", 3, 0, *(round(v * 65536) for v in (2.6, 1 / 1.08, 0.08 / 1.08, 1 / 14.0, 0.05))
)
BENT = b"curv\0\0\0\0" + struct.pack(">I", 64) + (np.sin(np.linspace(0, np.pi / 2, 64)) ** 2 * 65535 + 0.5).astype(">u2").tobytes()


@pytest.mark.parametrize("curve", [ONE_POWER, TABLE, STRAIGHT_FOOT, BENT])
def test_a_profile_of_a_monitor_is_an_encoding_of_its_own_as_littlecms_sees_it(tmp_path: Path, curve):
    path, data = tmp_path / "a.tif", a_profile(curve, corners_of(MONITOR))
    Image.fromarray(PIXELS).save(path, icc_profile=data)
    found = stated_encoding(path)
    assert found is not None
    assert (found.encoding, found.words) == ("", "ICC profile: Studio monitor 7")
    assert found.own is not None
    assert found.own.id.startswith("icc-studio-monitor-7-")
    own, srgb = encoding_of(found.own), ENCODINGS["srgb"]
    codes = np.random.default_rng(2).integers(60, 200, (4000, 3)).astype(np.uint8)
    ours = convert(codes / 255.0, own, srgb)
    inside = ((ours > 0.02) & (ours < 0.98)).all(axis=1)
    through = ImageCms.buildTransform(
        ImageCms.ImageCmsProfile(io.BytesIO(data)),
        ImageCms.createProfile("sRGB"),
        "RGB",
        "RGB",
        ImageCms.Intent.RELATIVE_COLORIMETRIC,
    )
    theirs = np.asarray(ImageCms.applyTransform(Image.fromarray(codes[None]), through))[0].astype(float)
    assert inside.sum() > 500
    assert np.abs(theirs - ours * 255)[inside].max() < 1.5, "its rounding to 8 bits"


def test_profiles_that_are_no_encoding_stay_told_only(tmp_path: Path):
    """Tables, and curves that differ: one for each channel, or one that falls."""
    falls = b"curv\0\0\0\0" + struct.pack(">I", 3) + np.array([0, 65535, 20000], ">u2").tobytes()
    flat = np.array([[0.3, 0.3, 0.3]] * 3)
    with_tables = a_profile(TABLE, corners_of(MONITOR), more={b"A2B0": b"mft2" + b"\0" * 60})
    for data in (
        with_tables,
        a_profile(TABLE, flat),
        a_profile(falls, corners_of(MONITOR)),
        a_profile(TABLE, corners_of(MONITOR))[:700],
    ):
        assert encoding_of_profile(data, "Odd") is None
    assert encoding_of_profile(b"", "") is None


@pytest.mark.parametrize("suffix", [".png", ".jpg", ".tif", ".webp"])
@pytest.mark.parametrize("encoding", ["srgb", "display-p3", "rec709"])
def test_a_written_picture_says_what_it_is_to_other_readers(tmp_path: Path, suffix, encoding):
    path = tmp_path / f"a{suffix}"
    write_picture(Picture(np.full((8, 8, 3), 0.5, np.float32), "u8"), path, encoding=ENCODINGS[encoding])
    with Image.open(path) as picture:
        assert picture.info["icc_profile"] == profile_of(ENCODINGS[encoding])
    found = stated_encoding(path)
    assert found is not None
    assert found.encoding == encoding


def test_nothing_is_said_of_what_no_format_has_a_word_for(tmp_path: Path):
    for encoding in ("logc4", "acescct"):
        for suffix in (".png", ".tif", ".jpg"):
            path = tmp_path / f"a{suffix}"
            write_picture(Picture(np.full((8, 8, 3), 0.5, np.float32), "u8"), path, encoding=ENCODINGS[encoding])
            assert stated_encoding(path) is None, (encoding, suffix)


def test_pq_of_a_peak_that_a_team_states_is_said_as_pq(tmp_path: Path):
    """By its curve and primaries; on others than the tables of H.273 have, nothing is said."""
    p3 = {name: getattr(ENCODINGS["pq-p3"].primaries, name) for name in ("red", "green", "blue", "white")}
    own = {"id": "suite", "name": "Suite", "referred": "display", "pq": {"peak": 600}, **p3}
    pixels = np.full((4, 6, 3), 0.5, np.float32)
    for given, codes in ((own, b"\x0c\x10\x00\x01"), (own | {"red": [0.69, 0.3]}, None)):
        write_picture(Picture(pixels, "u16"), tmp_path / "a.png", encoding=encoding_of(OwnEncoding.model_validate(given)))
        data = (tmp_path / "a.png").read_bytes()
        assert (data[data.index(b"cICP") + 4 :][:4] if b"cICP" in data else None) == codes


@pytest.mark.parametrize(("encoding", "codes"), [("pq", b"\x09\x10\x00\x01"), ("hlg", b"\x09\x12\x00\x01")])
def test_pq_and_hlg_are_said_by_cicp_alone(tmp_path: Path, encoding, codes):
    """Source: PNG specification, third edition, 11.3.2.6: where cICP is, no other chunk may say something else"""
    path = tmp_path / "a.png"
    write_picture(Picture(np.full((8, 8, 3), 0.5, np.float32), "u16"), path, encoding=ENCODINGS[encoding])
    head = path.read_bytes().partition(b"IDAT")[0]
    assert b"cICP" + codes in head
    assert not any(one in head for one in (b"sRGB", b"gAMA", b"iCCP", b"cHRM"))


def test_exr_says_its_chromaticities(tmp_path: Path):
    write_picture(Picture(np.ones((4, 4, 3), np.float32), "f16"), tmp_path / "a.exr", encoding=ENCODINGS["acescg"])
    header = OpenEXR.File(str(tmp_path / "a.exr")).header()
    assert np.asarray(header["chromaticities"]).ravel() == pytest.approx(
        [0.713, 0.293, 0.165, 0.83, 0.128, 0.044, 0.32168, 0.33767], abs=1e-6
    )
