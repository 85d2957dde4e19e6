"""Raw photographs, developed without taste: linear light of the camera's own primaries, white-balanced, nothing curved and nothing clipped
but what the sensor clipped.

Which white: the camera's, or for a file that says none that of daylight; or a chosen one, in kelvin along the Planckian locus, by the
camera's matrix.
"""

from __future__ import annotations

import hashlib
import struct
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, BinaryIO

import numpy as np

from saucer.core.colour import primaries as known
from saucer.core.colour.own import GammaDefinition, OwnEncoding
from saucer.core.colour.planckian import white_at
from saucer.core.colour.primaries import rgb_to_xyz
from saucer.core.errors import PictureError
from saucer.core.pictures.decoded import Decoded

PEAK = 65535
COOLEST, WARMEST = 25_000, 2_000
"""Kelvin between which a white is chosen. Common practice, no source."""
_TIFF = {b"II*\0": "<", b"MM\0*": ">"}
_MADE_RAW = 50706
"""DNGVersion: the tag by which a DNG is one. Source: Digital Negative specification 1.6, "DNG tags"."""
_PHOTOMETRIC, _SUB_IFDS = 262, 330
_SENSOR = (32803, 34892)
"""Photometric interpretations CFA and LinearRaw. Source: TIFF/EP (ISO 12234-2), 4.3.6; Digital Negative specification 1.6."""
_TURNS = {0: 1, 3: 3, 5: 8, 6: 6}
"""The library's number of a turn -> EXIF's orientation (CIPA DC-008, tag 0x0112)."""
_MOST_IFDS, _MOST_TAGS = 16, 512


def is_raw(file: BinaryIO, head: bytes) -> bool:
    """By its content: a TIFF whose samples are those of a sensor, or what the library takes for the file of a camera."""
    order = _TIFF.get(head[:4])
    if order is not None:
        try:
            return _holds_sensor(file, order)
        except (struct.error, OSError, ValueError):
            return False
    import rawpy  # here, which only a reader's process comes to: nobody else waits for it

    file.seek(0)
    try:
        with rawpy.imread(file.name):
            return True
    except (rawpy.LibRawError, OSError):
        return False


def _holds_sensor(file: BinaryIO, order: str) -> bool:
    """In its first directory or in one that this names."""
    waiting, seen = [struct.unpack(f"{order}I", _at(file, 4, 4))[0]], 0
    while waiting and seen < _MOST_IFDS:
        at, seen = waiting.pop(0), seen + 1
        count = struct.unpack(f"{order}H", _at(file, at, 2))[0]
        if count > _MOST_TAGS:
            return False
        entries = _at(file, at + 2, 12 * count)
        for index in range(count):
            tag, kind, number, value = struct.unpack_from(f"{order}HHII", entries, 12 * index)
            if kind == 3 and number == 1:
                value = struct.unpack_from(f"{order}H", entries, 12 * index + 8)[0]
            if tag == _MADE_RAW or (tag == _PHOTOMETRIC and value in _SENSOR):
                return True
            if tag == _SUB_IFDS and number <= _MOST_IFDS:
                places = entries[12 * index + 8 : 12 * index + 12] if number == 1 else _at(file, value, 4 * number)
                waiting += struct.unpack(f"{order}{number}I", places)
    return False


def _at(file: BinaryIO, place: int, size: int) -> bytes:
    file.seek(place)
    return file.read(size)


@contextmanager
def _opened(path: Path, place: str) -> Iterator[Any]:
    import rawpy

    try:
        raw = rawpy.imread(str(path))
    except (rawpy.LibRawError, OSError) as error:
        raise PictureError(place, f"the raw photograph cannot be read: {_words(error)}") from None
    with raw:
        yield raw


def _words(error: Exception) -> str:
    told = error.args[0] if error.args else error
    return (told.decode(errors="replace") if isinstance(told, bytes) else str(told))[:160]


def check_white(white: int, place: str) -> int:
    """Raises: PictureError for kelvin that no white is chosen from"""
    if not WARMEST <= white <= COOLEST:
        raise PictureError(place, f"a white is from {WARMEST:,} to {COOLEST:,} kelvin, got {white}")
    return white


def open_raw(path: Path, place: str, white: int | None = None) -> Decoded:
    """white: kelvin; None for the camera's. Raises: PictureError"""
    if white is not None:
        check_white(white, place)
    with _opened(path, place) as raw:
        sizes = raw.sizes
        if sizes.width < 1 or sizes.height < 1:
            raise PictureError(place, f"{sizes.width} x {sizes.height} is no picture size")
        orientation = _TURNS.get(sizes.flip, 1)
        return Decoded(sizes.width, sizes.height, 3, "uint16", lambda: _develop(path, place, white), orientation)


def _gains(raw: Any, white: int | None, place: str) -> list[float]:
    """Of red, green, blue and the second green, that make this white grey.

    A chosen white is what the camera gives for it, by the matrix that takes the camera, balanced to D65, to linear BT.709, and by its
    gains for D65. Source: Digital Negative specification 1.6, "Translating White Balance xy Coordinates to Camera Neutral Coordinates",
    with one matrix. Raises: PictureError where that is not known
    """
    if white is None:
        camera = list(raw.camera_whitebalance)
        found = camera if min(camera[:3]) > 0 else list(raw.daylight_whitebalance)
        return [*found[:3], found[3] or found[1]]
    to_709, daylight = np.asarray(raw.color_matrix, np.float64)[:, :3], np.asarray(raw.daylight_whitebalance[:3], np.float64)
    light = np.linalg.solve(rgb_to_xyz(known.BT709), white_at(1e6 / white, 0))
    is_known = np.isfinite(to_709).all() and abs(np.linalg.det(to_709)) > 1e-6 and daylight.min() > 0
    neutral = np.linalg.solve(to_709, light) / daylight if is_known else np.zeros(3)
    if neutral.min() <= 0:
        raise PictureError(place, f"nobody knows what its camera sees as grey under {white} kelvin; leave it at the camera's white")
    red, green, blue = (float(gain) for gain in neutral[1] / neutral)
    return [red, green, blue, green]


def _develop(path: Path, place: str, white: int | None) -> np.ndarray:
    """(h, w, 3) float32, 1 where the channel that the sensor clips first is clipped. Raises: PictureError"""
    import rawpy

    with _opened(path, place) as raw:
        gains, size = _gains(raw, white, place), (raw.sizes.height, raw.sizes.width)
        try:
            # No threshold: the library else takes the brightest that is in the picture for the most that the sensor can say.
            samples = raw.postprocess(
                user_wb=gains, no_auto_bright=True, adjust_maximum_thr=0.0, gamma=(1, 1), output_bps=16,
                user_flip=0, output_color=rawpy.ColorSpace.raw,
            )  # fmt: skip
        except rawpy.LibRawError as error:
            raise PictureError(place, f"the raw photograph is damaged or cut short: {_words(error)}") from None
    if samples.shape != (*size, 3):
        raise PictureError(place, "its sensor is of a shape that is not read: no square pixels, or none in rows")
    return samples.astype(np.float32) / np.float32(PEAK)


def primaries_of(path: Path, place: str) -> OwnEncoding | None:
    """Linear light on the camera's own primaries, by the matrix of the file or of the library; None where neither knows one.

    The matrix takes the balanced camera to linear light of BT.709's primaries and white, D65. Raises: PictureError
    """
    with _opened(path, place) as raw:
        to_709 = np.asarray(raw.color_matrix, np.float64)[:, :3]
    if not np.isfinite(to_709).all() or np.abs(to_709).max() == 0 or np.abs(to_709.sum(axis=1) - 1).max() > 0.02:
        return None
    columns = (rgb_to_xyz(known.BT709) @ to_709).T
    totals = columns.sum(axis=1)
    if np.abs(totals).min() < 1e-6:
        return None
    red, green, blue = ((round(float(x), 5), round(float(y), 5)) for x, y in columns[:, :2] / totals[:, None])
    mark = hashlib.sha256(repr((red, green, blue)).encode()).hexdigest()[:10]
    try:
        return OwnEncoding(
            id=f"camera-{mark}", name=f"Linear, primaries of the camera {mark[:4]}", gamma=GammaDefinition(exponent=1.0),
            red=red, green=green, blue=blue, white=known.BT709.white,
        )  # fmt: skip
    except ValueError:
        return None
