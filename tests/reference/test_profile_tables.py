"""Profiles of tables, laid out by hand as ICC.1:2022 has them, against LittleCMS in float."""

from __future__ import annotations

import struct
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.pictures.io import read_picture
from saucer.core.pictures.profile_tables import convert_by_tables, tables_of_profile
from saucer.core.pictures.stated import stated_encoding
from tests.reference.libraries import LittleCms
from tests.reference.test_stated import a_profile, corners_of

colour = pytest.importorskip("colour", reason="development requirements are not installed")
D50 = np.array([0.9642, 1.0, 0.8249])
P3 = corners_of(ENCODINGS["p3-d65"].primaries)
SIZE = 9


def lab_of(rgb: np.ndarray) -> np.ndarray:
    """A device of powers with a cast, so that no three primaries and a curve say what it does. Source of L*a*b*: CIE 015:2018, 8.2.1"""
    xyz = (rgb ** np.array([1.8, 2.0, 2.3])) @ P3 * (1 - 0.15 * rgb[:, 1:2] * (1 - rgb[:, :1]))
    root = np.where(xyz / D50 > 216 / 24389, np.cbrt(xyz / D50), (24389 / 27 * xyz / D50 + 16) / 116)
    x, y, z = root.T
    return np.column_stack([116 * y - 16, 500 * (x - y), 200 * (y - z)])


def nodes() -> np.ndarray:
    """(n, 3), the last channel fastest."""
    return np.stack(np.meshgrid(*[np.linspace(0, 1, SIZE)] * 3, indexing="ij"), -1).reshape(-1, 3)


def curves(kind: str, count: int, exponent: float) -> bytes:
    most = 255 if kind == ">u1" else 65535
    return np.tile(np.round(np.linspace(0, 1, count) ** exponent * most).astype(kind), 3).tobytes()


def lut_tag(wide: bool) -> bytes:
    """lut16Type or lut8Type, with curves in front that its lattice takes back. Source: 10.10, 10.11"""
    kind, most = (">u2", 65535) if wide else (">u1", 255)
    inside = lab_of(nodes() ** 1.25)
    codes = (inside + np.array([0, 128, 128])) / (np.array([100, 255, 255]) * (65535 / 65280 if wide else 1))
    head = (b"mft2" if wide else b"mft1") + bytes(4) + bytes([3, 3, SIZE, 0])
    head += b"".join(struct.pack(">i", 65536 if i % 4 == 0 else 0) for i in range(9))
    head += struct.pack(">HH", 33, 2) if wide else b""
    lattice = np.round(np.clip(codes, 0, 1) * most).astype(kind).tobytes()
    return head + curves(kind, 33 if wide else 256, 0.8) + lattice + curves(kind, 2 if wide else 256, 1)


def elements_tag(wide: bool) -> bytes:
    """lutAToBType with all its elements, into XYZ. Source: 10.12"""
    kind, most = (">u2", 65535) if wide else (">u1", 255)

    def power(exponent: float) -> bytes:
        return b"para" + bytes(4) + struct.pack(">HHi", 0, 0, round(exponent * 65536))

    rgb = nodes()
    mixed = np.clip(rgb * (1 - 0.2 * rgb[:, ::-1]) + 0.02, 0, 1)
    lattice = (
        bytes([SIZE] * 3).ljust(16, b"\0") + bytes([2 if wide else 1, 0, 0, 0]) + np.round(mixed * most).astype(kind).tobytes()
    )
    lattice += bytes(-len(lattice) % 4)
    matrix = b"".join(struct.pack(">i", round(float(v) * 65536)) for v in (*(P3.T * 0.48).reshape(-1), 0.001, 0.002, 0.0))
    table = b"curv" + bytes(4) + struct.pack(">I", 3) + np.array([0, 20000, 65535], ">u2").tobytes() + bytes(2)
    parts = {
        "b": b"".join([power(1.0)] * 3),
        "matrix": matrix,
        "m": table * 3,
        "lattice": lattice,
        "a": b"".join([power(v) for v in (0.9, 1.1, 1.2)]),
    }
    at, offsets, body = 32, [], b""
    for content in parts.values():
        offsets.append(at + len(body))
        body += content
    return b"mAB " + bytes(4) + bytes([3, 3, 0, 0]) + struct.pack(">5I", *offsets) + body


def with_tables(tag: bytes, space: bytes, other: bytes | None = None) -> bytes:
    """A profile whose primaries and curve say something else than its tables. other: its perceptual tables"""
    flat = b"curv" + bytes(4) + struct.pack(">I", 0)
    data = a_profile(flat, P3, "Scanner 3", {b"A2B0": other or tag, b"A2B1": tag})
    version = 0x04200000 if tag[:4] == b"mAB " else 0x02400000
    return data[:8] + struct.pack(">I", version) + data[12:20] + space + data[24:]


CASES = [
    (lut_tag(True), b"Lab "),
    (lut_tag(False), b"Lab "),
    (elements_tag(True), b"XYZ "),
    (elements_tag(False), b"XYZ "),
]


@pytest.mark.parametrize(("tag", "space"), CASES, ids=["lut16", "lut8", "lutAToB 16", "lutAToB 8"])
def test_tables_mean_what_littlecms_makes_of_them(tag, space):
    """In XYZ, over the whole cube; LittleCMS goes through the lattice by tetrahedra too, in float."""
    data, cms = with_tables(tag, space), LittleCms()
    tables = tables_of_profile(data)
    assert tables is not None
    rgb = np.random.default_rng(1).random((5000, 3)).astype(np.float32)
    theirs = cms.apply(cms.to_xyz(cms.open(data)), rgb)
    np.testing.assert_allclose(tables.xyz(rgb), theirs, atol=1e-4)


def test_the_colorimetric_tables_go_before_the_perceptual_ones():
    good, other = lut_tag(True), lut_tag(False)
    broken = other[:48] + bytes(len(other) - 48)
    rgb = np.random.default_rng(2).random((50, 3))
    first, alone = tables_of_profile(with_tables(good, b"Lab ", broken)), tables_of_profile(with_tables(good, b"Lab "))
    assert first is not None
    assert alone is not None
    np.testing.assert_array_equal(first.xyz(rgb), alone.xyz(rgb))


def test_damaged_tables_are_none():
    data = with_tables(lut_tag(True), b"Lab ")
    for cut in (len(data) // 2, 400, 140):
        assert tables_of_profile(data[:cut]) is None
    assert tables_of_profile(data[:16] + b"CMYK" + data[20:]) is None


@pytest.mark.parametrize("suffix", [".jpg", ".tiff", ".png"])
def test_a_picture_in_such_a_profile_is_converted_to_romm_rgb(tmp_path: Path, suffix):
    """White, grey and a colour, by way of LittleCMS's XYZ and the library's ROMM RGB."""
    data, cms = with_tables(lut_tag(True), b"Lab "), LittleCms()
    codes = np.array([[255, 255, 255], [119, 119, 119], [200, 120, 40]], np.uint8)
    path = tmp_path / f"a{suffix}"
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "Rendered"
    Image.fromarray(np.repeat(codes[:, None], 16, axis=1).repeat(16, axis=0)).save(
        path, icc_profile=data, exif=exif, quality=100, subsampling=0
    )
    said = stated_encoding(path)
    assert said is not None
    assert (said.encoding, said.words) == ("", "ICC profile: Scanner 3")
    assert said.tables is not None
    convert_by_tables(path, tmp_path / "made.tiff", said.tables, path.name)
    made = read_picture(tmp_path / "made.tiff")
    assert (made.width, made.height, made.depth) == (48, 16, "u16"), "turned upright as its EXIF says"
    found = made.pixels[8, [40, 24, 8]]
    xyz = cms.apply(cms.to_xyz(cms.open(data)), (codes / 255).astype(np.float32))
    wanted = colour.XYZ_to_RGB(xyz, "ROMM RGB", apply_cctf_encoding=True)
    np.testing.assert_allclose(found, np.clip(wanted, 0, 1), atol=2e-3 if suffix != ".jpg" else 8e-3)
    assert stated_encoding(tmp_path / "made.tiff").encoding == "romm-rgb"  # type: ignore[union-attr]
