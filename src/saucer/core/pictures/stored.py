"""Picture files as their library reads them, in a reader's process: the header first, held to what is allowed, then rows of samples."""

from __future__ import annotations

import math
import mmap
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any, BinaryIO, Literal

import numpy as np
import OpenImageIO as oiio

from saucer.core.colour.transfer import HALF_MAX
from saucer.core.errors import PictureError
from saucer.core.pictures import heif
from saucer.core.pictures.carried import Carried, carried_from
from saucer.core.pictures.raw import is_raw, open_raw
from saucer.core.reading.limits import LONGEST_SIDE, MOST_CHANNELS, MOST_PIXELS, MOST_SCANS
from saucer.core.reading.passing import passed
from saucer.core.reading.tasks import reads

Depth = Literal["u8", "u16", "f16", "f32"]
NAMES = "PNG, JPEG, TIFF, EXR, DPX, WebP, HEIC, AVIF, Radiance HDR, raw photographs"
AT_ONCE = 1 << 22
"""Pixels of a picture that comes in one answer; a larger one comes in strips."""
_DEPTHS: dict[str, Depth] = {
    "uint8": "u8", "uint16": "u16", "uint10": "u16", "uint12": "u16", "half": "f16", "float": "f32", "double": "f32",
}  # fmt: skip
_SIGNATURES = (
    (b"\x89PNG\r\n\x1a\n", "png"), (b"\xff\xd8\xff", "jpeg"), (b"II*\0", "tiff"), (b"MM\0*", "tiff"),
    (b"\x76\x2f\x31\x01", "openexr"), (b"SDPX", "dpx"), (b"XPDS", "dpx"), (b"#?RADIANCE", "hdr"), (b"#?RGBE", "hdr"),
)  # fmt: skip
SUFFIXES: dict[str, tuple[str, ...]] = {
    "png": (".png",), "jpeg": (".jpg", ".jpeg"), "tiff": (".tif", ".tiff"), "openexr": (".exr",), "dpx": (".dpx",), "webp": (".webp",),
    "heic": (".heic", ".heif"), "avif": (".avif",), "hdr": (".hdr",),
    "raw": (".dng", ".cr2", ".cr3", ".nef", ".arw", ".raf", ".orf", ".rw2", ".pef", ".srw", ".iiq", ".3fr"),
}  # fmt: skip
"""By which people know the kinds. What a file is, is told by its content."""
_SCAN = b"\xff\xda"
_HEADER = 1 << 20
"""Bytes of an EXR header that are looked through for its channels."""


@passed
@dataclass(frozen=True)
class PictureInfo:
    """What a picture's header says."""

    kind: str
    width: int
    height: int
    channels: int
    depth: Depth


@passed
@dataclass(frozen=True)
class Header:
    """What is known of a picture before its samples are read.

    orientation: EXIF's, 1 to 8; extra: channels that are neither colour nor alpha, extra_formats: their types by the library's names
    parts: pictures in the file, of which the first is read; premultiplied: colour is stored multiplied by alpha
    tile_rows: of its tiles, 0 for one that is stored in lines
    """

    info: PictureInfo
    orientation: int
    has_alpha: bool
    extra: list[str]
    extra_formats: list[str]
    carried: Carried
    parts: int
    premultiplied: bool
    tile_rows: int


def sniff(head: bytes) -> str | None:
    """The kind of picture by its first bytes, or None. A TIFF may still be a raw photograph."""
    if head[:4] == b"RIFF" and head[8:12] == b"WEBP":
        return "webp"
    return heif.kind_of(head) or next((kind for signature, kind in _SIGNATURES if head.startswith(signature)), None)


def kind_of(file: BinaryIO) -> str | None:
    """The kind of picture by its content, or None. Reads in a reader's process only: what is no other kind is tried as a raw photograph."""
    file.seek(0)
    head = file.read(64)
    kind = sniff(head)
    return "raw" if kind in (None, "tiff") and is_raw(file, head) else kind


@contextmanager
def _opened(path: Path, place: str, white: int | None = None) -> Iterator[tuple[Any, str]]:
    """white: of a raw photograph, kelvin"""
    with path.open("rb") as file:
        if not file.read(1):
            raise PictureError(place, "the file is empty")
        kind = kind_of(file)
        if kind is None:
            raise PictureError(place, f"not a picture that Saucer reads ({NAMES}), going by its content")
        if kind in ("jpeg", "openexr"):
            with mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ) as data:
                _check_scans(data, place) if kind == "jpeg" else _check_channels(data[:_HEADER], place)
    if kind in ("raw", "heic", "avif"):
        raw = kind == "raw"
        yield open_raw(path, place, white) if raw else heif.open_heif(path, place, "heic" if kind == "heic" else "avif"), kind
        return
    options = oiio.ImageSpec()
    options["oiio:UnassociatedAlpha"] = 1  # colour as stored, never multiplied by alpha
    reader = oiio.ImageInput.open(str(path), options)
    if reader is None:
        raise PictureError(place, f"the {kind.upper()} header cannot be read: {reason(oiio.geterror)}")
    try:
        yield reader, kind
    finally:
        reader.close()


def _check_scans(data: mmap.mmap, place: str) -> None:
    """A progressive JPEG is decoded once a scan. In coded samples 0xFF is always followed by 0 (ITU-T T.81, B.1.1.5): this is no sample."""
    at, count = data.find(_SCAN), 0
    while at >= 0:
        count += 1
        if count > MOST_SCANS:
            raise PictureError(place, f"is stored in more than {MOST_SCANS} scans; save it again as an ordinary JPEG")
        at = data.find(_SCAN, at + 2)


def _check_channels(head: bytes, place: str) -> None:
    """Before the library, which takes time with the square of their number. Source: OpenEXR file layout, "Channel List": a name that ends
    in a zero byte and 16 bytes a channel."""
    at = head.find(b"channels\0chlist\0")
    while at >= 0:
        start = at + 16
        end = start + 4 + int.from_bytes(head[start : start + 4], "little")
        count, at = 0, start + 4
        while at < min(end, len(head)) and head[at]:
            stop = head.find(b"\0", at)
            if stop < 0:
                break
            count, at = count + 1, stop + 17
            if count > MOST_CHANNELS:
                raise PictureError(place, f"holds more than {MOST_CHANNELS} channels")
        at = head.find(b"channels\0chlist\0", start)


def reason(tell: Callable[[], str]) -> str:
    """The library's first line, without the path of our temporary file."""
    try:
        text = tell()
    except UnicodeDecodeError:
        text = ""  # it quotes bytes of the file that are no text
    line = (text.strip().splitlines() or ["damaged file"])[0]
    return line.rsplit(f"{tempfile.gettempdir()}/", 1)[-1][:200]


def _info(reader: Any, kind: str, place: str) -> PictureInfo:
    spec = reader.spec()
    if spec.width < 1 or spec.height < 1 or spec.depth > 1:
        raise PictureError(place, f"{spec.width} x {spec.height} x {spec.depth} is no picture size")
    if spec.width * spec.height > MOST_PIXELS or max(spec.width, spec.height) > LONGEST_SIDE:
        size = f"{spec.width} x {spec.height} ({spec.width * spec.height / 1e6:.0f} megapixels)"
        raise PictureError(
            place, f"{size} is too large; the most is {MOST_PIXELS // 1_000_000} megapixels and {LONGEST_SIDE} on a side"
        )
    if spec.nchannels > MOST_CHANNELS:
        raise PictureError(place, f"holds {spec.nchannels} channels; {MOST_CHANNELS} is the most")
    depth = _DEPTHS.get(str(spec.format))
    if depth is None:
        raise PictureError(place, f"samples of type {spec.format} are not supported; save it with 8 or 16 bits or as float")
    grey_with_alpha = spec.nchannels == 2 and "a" in _names(spec)
    if (spec.nchannels == 2 and not grey_with_alpha) or spec.getattribute("tiff:ColorSpace") in ("CMYK", "color separated"):
        raise PictureError(place, "not an RGB picture; convert it to RGB first")
    return PictureInfo(kind, spec.width, spec.height, spec.nchannels, depth)


def _names(spec: Any) -> list[str]:
    """Of the channels, in small letters, without their layers."""
    return [channel.lower().rsplit(".", 1)[-1] for channel in spec.channelnames]


@reads("picture", PictureError)
def inspect_stored(path: Path, place: str) -> PictureInfo:
    """Read the header only. Raises: PictureError"""
    with _opened(path, place) as (reader, kind):
        return _info(reader, kind, place)


@reads("picture", PictureError)
def read_stored(path: Path, place: str, white: int | None = None) -> tuple[Header, np.ndarray, int] | None:
    """Header, samples as `StoredPicture.strips` gives them, and how many pixels were mended; None for what does not come at once."""
    with StoredPicture(path, place, white) as stored:
        info = stored.facts.info
        if info.width * info.height > AT_ONCE:
            return None
        ((strip, mended),) = stored.strips(info.height, False)
        return stored.facts, strip, mended


@reads("picture", PictureError)
class StoredPicture:
    """A picture that is open. facts: its header; white: of a raw photograph, kelvin"""

    def __init__(self, path: Path, place: str, white: int | None = None) -> None:
        self._path, self._place, self._white = path, place, white
        self._mended = 0

    def __enter__(self) -> StoredPicture:
        self._context = _opened(self._path, self._place, self._white)
        self._reader, kind = self._context.__enter__()
        try:
            self.facts = self._header(kind)
        except BaseException:
            self._context.__exit__(None, None, None)
            raise
        return self

    def __exit__(self, *problem: Any) -> None:
        self._context.__exit__(None, None, None)

    def _header(self, kind: str) -> Header:
        info, spec = _info(self._reader, kind, self._place), self._reader.spec()
        names = _names(spec)
        colour = [names.index(c) for c in "rgb"] if set("rgb") <= set(names) else [0, 0, 0] if info.channels <= 2 else [0, 1, 2]
        has_alpha = "a" in names and len(set(names)) > 1
        self._order = [*colour, *([names.index("a")] if has_alpha else [])]
        self._extra = [index for index in range(spec.nchannels) if index not in self._order]
        return Header(
            info=info, orientation=int(spec.get_int_attribute("Orientation", 1)), has_alpha=has_alpha,
            extra=[spec.channelnames[index] for index in self._extra],
            extra_formats=[str(spec.channelformat(index)) for index in self._extra],
            carried=carried_from(spec), parts=max(1, spec.get_int_attribute("oiio:subimages", 1)),
            premultiplied=has_alpha and not spec.get_int_attribute("oiio:UnassociatedAlpha", 0),
            tile_rows=spec.tile_height if spec.tile_width else 0,
        )  # fmt: skip

    def strips(self, rows: int, with_extra: bool) -> Iterator[tuple[np.ndarray, int]]:
        """(rows, w, 3) or, with alpha, (rows, w, 4) float32, from the top, as stored (not turned upright), `extra` channels behind if
        wanted; each with the pixels so far that were not finite.

        rows: a multiple of `tile_rows`. Colour that is stored multiplied by alpha is divided by it; where that is 0 it is light that covers
        nothing, and stays.
        """
        info, header, spec = self.facts.info, self.facts, self._reader.spec()
        order = self._order + (self._extra if with_extra else [])
        for top in range(0, info.height, rows):
            bottom = min(info.height, top + rows)
            x, y = spec.x, spec.y
            if header.tile_rows:
                read = self._reader.read_tiles(0, 0, x, x + info.width, y + top, y + bottom, 0, 1, 0, info.channels, oiio.FLOAT)
            else:
                read = self._reader.read_scanlines(0, 0, y + top, y + bottom, 0, 0, info.channels, oiio.FLOAT)
            if read is None or self._reader.has_error:
                raise PictureError(self._place, f"the picture is damaged or cut short: {reason(self._reader.geterror)}")
            samples = np.asarray(read, np.float32).reshape(bottom - top, info.width, info.channels)
            strip = samples if order == list(range(info.channels)) else np.ascontiguousarray(samples[..., order])
            if info.depth in ("f16", "f32"):
                bad = ~np.isfinite(strip)
                self._mended += int(bad.any(axis=-1).sum())
                np.nan_to_num(strip, copy=False, nan=0.0, posinf=HALF_MAX, neginf=-HALF_MAX)
            if header.premultiplied:
                alpha = strip[..., 3:4]
                np.divide(strip[..., :3], alpha, out=strip[..., :3], where=alpha > 0)
            yield strip, self._mended


def rows_of_strips(height: int, rows: int, unit: int) -> int:
    """How many rows strips of about `rows` have: a multiple of `unit`, or all of them."""
    return height if rows >= height else max(unit, rows // unit * unit)


def unit_of(header: Header, multiple: int) -> int:
    return math.lcm(multiple, header.tile_rows or 1)
