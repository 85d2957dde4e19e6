"""What a picture file says of its encoding: PNG's cICP and sRGB chunks, embedded ICC profiles, EXR's chromaticities."""

from __future__ import annotations

import io
import struct
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from pathlib import Path

import numpy as np
import OpenImageIO as oiio
from PIL import Image, ImageCms

from saucer.core.colour.adaptation import BRADFORD, adaptation
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.own import OwnEncoding
from saucer.core.colour.primaries import Primaries, rgb_to_xyz, xyz_of
from saucer.core.errors import PictureError
from saucer.core.pictures import heif
from saucer.core.pictures.measured import encoding_of_profile
from saucer.core.pictures.numbers import MEANT
from saucer.core.pictures.profile import D50
from saucer.core.pictures.profile_tables import ProfileTables, tables_of_profile
from saucer.core.pictures.raw import primaries_of
from saucer.core.pictures.stored import kind_of
from saucer.core.reading.passing import passed
from saucer.core.reading.room import ask
from saucer.core.reading.tasks import reads

NEAR = 1.0
"""CIE 1976 colour difference up to which the mean of a profile's colours counts as those of an encoding: its result comes in 8 bits."""
CHROMATICITY = 2e-4


@passed
@dataclass(frozen=True)
class Stated:
    """encoding: id, empty where what is said is none of ours; words: what said so, as "ICC profile: Display P3"

    own: what a profile says that is none of ours, as an encoding of its own, where it can be one
    tables: what it says where only its tables do
    left_out: what else the file holds for the eye and is not read, in words; then encoding and words may be empty
    """

    encoding: str
    words: str
    own: OwnEncoding | None = None
    tables: ProfileTables | None = None
    left_out: str = ""


def stated_encoding(path: Path) -> Stated | None:
    """None where the file says nothing of it, or cannot be read. Looked for in a reader's process. Raises: PictureError"""
    return ask(find_stated, path, place=path.name)


@reads("picture", PictureError)
def find_stated(path: Path) -> Stated | None:
    """As `stated_encoding`."""
    with path.open("rb") as file:
        kind = kind_of(file)
        file.seek(0)
        head = file.read(8)
        chunks = _png_chunks(file.read(1 << 16)) if head == b"\x89PNG\r\n\x1a\n" else {}
    if len(chunks.get(b"cICP", b"")) == 4:
        primaries, transfer = chunks[b"cICP"][0], chunks[b"cICP"][1]
        return Stated(
            MEANT.get((primaries, transfer), ""), f"cICP chunk: primaries {primaries}, transfer {transfer} of ITU-T H.273"
        )
    if kind == "raw":
        return _of_camera(path)
    if kind in ("heic", "avif"):
        return _of_heif(path, "heic" if kind == "heic" else "avif")
    said = _of_library(path, head, chunks)
    if kind == "jpeg" and _has_gain_map(path):
        return replace(said or NOTHING_SAID, left_out=GAIN_MAP)
    return said


NOTHING_SAID = Stated("", "")
GAIN_MAP = "a gain map for brighter displays is left out: this is its SDR picture"
_GAIN_MAPS = (b"urn:iso:std:iso:ts:21496:-1", b"hdrgm:Version")
"""By which a JPEG says that it holds one. Source: ISO 21496-1, and the metadata that came before it"""


def _has_gain_map(path: Path) -> bool:
    with path.open("rb") as file:
        head = file.read(1 << 20)
    return any(mark in head for mark in _GAIN_MAPS)


def _of_camera(path: Path) -> Stated:
    own = primaries_of(path, path.name)
    if own is None:
        return Stated("", "raw data of a camera whose primaries nobody knows")
    return Stated("", "raw data: linear light of the camera's own primaries, its white balanced", own)


def _of_heif(path: Path, kind: heif.Kind) -> Stated | None:
    numbers, profile = heif.coded_by(path, path.name, kind)
    said = None
    if profile is not None:
        said = _of_profile(profile)
    elif numbers is not None:
        said = Stated(MEANT.get(numbers, ""), f"nclx: primaries {numbers[0]}, transfer {numbers[1]} of ITU-T H.273")
    if kind == "heic" and heif.holds_gain_map(path, path.name):
        return replace(said or NOTHING_SAID, left_out=GAIN_MAP)
    return said


def _of_library(path: Path, head: bytes, chunks: Mapping[bytes, bytes]) -> Stated | None:
    reader = oiio.ImageInput.open(str(path))
    if reader is None:
        oiio.geterror()
        return None
    try:
        spec = reader.spec()
        profile, chromaticities = spec.getattribute("ICCProfile"), spec.getattribute("chromaticities")
    finally:
        reader.close()
    if profile is not None:
        return _of_profile(bytes(bytearray(profile)))
    if chromaticities is not None and head[:4] == b"\x76\x2f\x31\x01":
        return _of_chromaticities(tuple(float(one) for one in chromaticities))
    return Stated("srgb", "sRGB chunk") if b"sRGB" in chunks else None


def _png_chunks(data: bytes) -> dict[bytes, bytes]:
    """Those before the pixels, by name. Source: PNG specification, third edition, 5.3 and 11.3.2"""
    found: dict[bytes, bytes] = {}
    at = 0
    while at + 8 <= len(data):
        size, name = struct.unpack_from(">I4s", data, at)
        if name == b"IDAT":
            break
        found.setdefault(name, data[at + 8 : at + 8 + size])
        at += size + 12
    return found


def _of_chromaticities(given: tuple[float, ...]) -> Stated:
    for one in ENCODINGS.values():
        own = one.primaries
        if one.linear and np.abs(np.array([*own.red, *own.green, *own.blue, *own.white]) - given).max() < CHROMATICITY:
            return Stated(one.id, f"chromaticities: {own.name}")
    return Stated("", f"chromaticities: red {given[0]:.4f} {given[1]:.4f} and others, none that Saucer knows")


def _of_profile(data: bytes) -> Stated:
    try:
        profile = ImageCms.ImageCmsProfile(io.BytesIO(data))
        name = (profile.profile.profile_description or "").strip() or "without a name"
        coded = _cicp_of(data)
        if coded is not None:
            return Stated(MEANT.get(coded, ""), f"ICC profile: {name}")
        seen = _lab_by_profile(profile)
    except (ImageCms.PyCMSError, OSError, ValueError):
        return Stated("", "ICC profile that cannot be read")
    away = {one.id: float(np.linalg.norm(seen - _lab_of(one), axis=1).mean()) for one in _candidates()}
    best = min(away, key=lambda one: away[one])
    words = f"ICC profile: {name}"
    return Stated(best, words) if away[best] < NEAR else Stated("", words, encoding_of_profile(data, name), tables_of_profile(data))


def _cicp_of(data: bytes) -> tuple[int, int] | None:
    """Source: ICC.1:2022, 9.2.17 and 10.3: the cicp tag"""
    count = int.from_bytes(data[128:132], "big") if len(data) >= 132 else 0
    for index in range(min(count, 200)):
        name, offset, size = struct.unpack_from(">4sII", data, 132 + 12 * index)
        if name == b"cicp" and size >= 12 and offset + 12 <= len(data):
            return data[offset + 8], data[offset + 9]
    return None


def _candidates() -> list[Encoding]:
    return [one for one in ENCODINGS.values() if one.referred == "display" and one.bounded] + [ENCODINGS["rec709-camera"]]


@lru_cache(maxsize=1)
def _probes() -> np.ndarray:
    """(n, 3) uint8: greys, and colours of the whole cube."""
    grid = np.stack(np.meshgrid(*[np.array([0, 64, 128, 192, 255], np.uint8)] * 3, indexing="ij"), -1).reshape(-1, 3)
    return np.concatenate([np.repeat(np.arange(0, 256, 8, dtype=np.uint8)[:, None], 3, axis=1), grid])


def _lab_by_profile(profile: ImageCms.ImageCmsProfile) -> np.ndarray:
    """(n, 3) CIE L*a*b* of the probes, relative to D50, by LittleCMS."""
    lab = ImageCms.createProfile("LAB", 5000)
    through = ImageCms.buildTransform(profile, lab, "RGB", "LAB", ImageCms.Intent.RELATIVE_COLORIMETRIC)
    done = ImageCms.applyTransform(Image.fromarray(_probes()[None]), through)
    assert done is not None  # it is only where a picture is changed in place
    codes = np.frombuffer(done.tobytes(), np.uint8).reshape(-1, 3).astype(np.float64)
    return np.column_stack([codes[:, 0] / 2.55, codes[:, 1:].astype(np.int64) - 256 * (codes[:, 1:] > 127)])


@lru_cache(maxsize=32)
def _lab_of(encoding: Encoding) -> np.ndarray:
    """(n, 3) CIE L*a*b* of the probes, relative to D50. Source: CIE 015:2018, 8.2.1"""
    light = encoding.transfer.decode(_probes() / 255.0)
    xyz = light @ (_to_d50(encoding.primaries) @ rgb_to_xyz(encoding.primaries)).T / D50
    root = np.where(xyz > 216 / 24389, np.cbrt(np.maximum(xyz, 0)), (24389 / 27 * xyz + 16) / 116)
    x, y, z = root.T
    # Held as eight bits hold it.
    return np.column_stack([116 * y - 16, np.clip(500 * (x - y), -128, 127), np.clip(200 * (y - z), -128, 127)])


def _to_d50(primaries: Primaries) -> np.ndarray:
    return adaptation(BRADFORD, xyz_of(primaries.white), D50)
