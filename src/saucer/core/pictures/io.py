"""Pictures in and out: PNG, JPEG, TIFF, EXR, DPX and WebP through OpenImageIO, colour values untouched."""

from __future__ import annotations

import math
import os
import tempfile
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, Literal

import numpy as np
import OpenImageIO as oiio

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.transfer import HALF_MAX
from saucer.core.errors import PictureError
from saucer.core.pictures.carried import NOTHING, Carried, carried_from, put_into
from saucer.core.pictures.profile import state

Depth = Literal["u8", "u16", "f16", "f32"]
MOST_PIXELS = 100_000_000
LONGEST_SIDE = 32_768
HOLDS_ALPHA = ("png", "tiff", "openexr")
KINDS = {"png": ".png", "jpeg": ".jpg", "tiff": ".tif", "openexr": ".exr", "dpx": ".dpx", "webp": ".webp"}
_SUFFIXES = {
    ".png": "png",
    ".jpg": "jpeg",
    ".jpeg": "jpeg",
    ".tif": "tiff",
    ".tiff": "tiff",
    ".exr": "openexr",
    ".dpx": "dpx",
    ".webp": "webp",
}
_DEPTHS: dict[str, Depth] = {
    "uint8": "u8",
    "uint16": "u16",
    "uint10": "u16",
    "uint12": "u16",
    "half": "f16",
    "float": "f32",
    "double": "f32",
}
_STORED = {"u8": "uint8", "u16": "uint16", "f16": "half", "f32": "float"}
_HOLDS: dict[str, tuple[Depth, ...]] = {
    "png": ("u8", "u16"), "jpeg": ("u8",), "tiff": ("u8", "u16", "f32"), "openexr": ("f16", "f32"), "dpx": ("u8", "u16"),
    "webp": ("u8",),
}  # fmt: skip
_SIGNATURES = (
    (b"\x89PNG\r\n\x1a\n", "png"), (b"\xff\xd8\xff", "jpeg"), (b"II*\0", "tiff"), (b"MM\0*", "tiff"),
    (b"\x76\x2f\x31\x01", "openexr"), (b"SDPX", "dpx"), (b"XPDS", "dpx"),
)  # fmt: skip


@dataclass(frozen=True, eq=False)
class Picture:
    """pixels (h, w, 3) float32 code values, 0..1 for integer files, any finite value for float ones.

    depth: how the samples were or will be stored; alpha (h, w) float32 or None; kind: the file format's id
    """

    pixels: np.ndarray
    depth: Depth = "u16"
    alpha: np.ndarray | None = None
    kind: str = "png"
    mended: int = 0

    @property
    def width(self) -> int:
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        return int(self.pixels.shape[0])

    def with_pixels(self, pixels: np.ndarray) -> Picture:
        return replace(self, pixels=pixels)


Extra = Sequence[tuple[str, Any]]
"""Name and type of channels that are neither colour nor alpha."""


@dataclass(frozen=True)
class PictureInfo:
    """What a picture's header says."""

    kind: str
    width: int
    height: int
    channels: int
    depth: Depth


def sniff(head: bytes) -> str | None:
    """The kind of picture by its first bytes, or None."""
    if head[:4] == b"RIFF" and head[8:12] == b"WEBP":
        return "webp"
    return next((kind for signature, kind in _SIGNATURES if head.startswith(signature)), None)


@contextmanager
def _opened(path: Path, place: str) -> Iterator[tuple[Any, str]]:
    with path.open("rb") as file:
        head = file.read(16)
    if not head:
        raise PictureError(place, "the file is empty")
    kind = sniff(head)
    if kind is None:
        raise PictureError(place, "not a picture that Saucer reads (PNG, JPEG, TIFF, EXR, DPX, WebP), going by its content")
    options = oiio.ImageSpec()
    options["oiio:UnassociatedAlpha"] = 1  # colour as stored, never multiplied by alpha
    reader = oiio.ImageInput.open(str(path), options)
    if reader is None:
        raise PictureError(place, f"the {kind.upper()} header cannot be read: {_reason(oiio.geterror)}")
    try:
        yield reader, kind
    finally:
        reader.close()


def _reason(tell: Callable[[], str]) -> str:
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


def inspect_picture(path: Path, name: str | None = None) -> PictureInfo:
    """Read the header only. Raises: PictureError for what is no picture, is damaged or too large."""
    with _opened(path, name or path.name) as (reader, kind):
        return _info(reader, kind, name or path.name)


def read_picture(path: Path, name: str | None = None) -> Picture:
    """The whole picture, upright. Grey becomes three equal channels; alpha is kept aside.

    Float samples that are no number become 0, infinite ones the largest half float; the pixels are counted in `mended`.
    Raises: PictureError as inspect_picture, and when the pixels are cut short or damaged
    """
    with PictureReader(path, name) as reader:
        strips = list(reader.strips(reader.info.height))
        samples = upright(strips[0] if len(strips) == 1 else np.concatenate(strips), reader.orientation)
    pixels = np.ascontiguousarray(samples[..., :3])
    alpha = np.ascontiguousarray(samples[..., 3]) if samples.shape[2] == 4 else None
    return Picture(pixels, reader.info.depth, alpha, reader.info.kind, reader.mended)


def read_rows(path: Path, top: int, bottom: int, name: str | None = None) -> tuple[np.ndarray, int, int]:
    """Rows top..bottom of a picture, upright, without what lies below the first or beyond the last.

    Returns: (rows, width, 3) float32; the index of the first of them; the height of the whole picture
    Raises: PictureError as read_picture
    """
    with PictureReader(path, name) as reader:
        if reader.orientation != 1:
            whole = upright(np.concatenate(list(reader.strips(reader.info.height))), reader.orientation)[..., :3]
            return whole[top:bottom], top, whole.shape[0]
        found, row = [np.zeros((0, reader.info.width, 3), np.float32)], 0
        for strip in reader.strips(64):
            found.append(strip[max(top - row, 0) : max(bottom - row, 0), :, :3])
            row += len(strip)
            if row >= bottom:
                break
        return np.concatenate(found), top, reader.info.height


class PictureReader:
    """A picture read in strips of rows, as stored (not turned upright), so that a large one never stands in memory whole."""

    def __init__(self, path: Path, name: str | None = None) -> None:
        self._path, self._place = path, name or path.name
        self.mended = 0

    def __enter__(self) -> PictureReader:
        self._context = _opened(self._path, self._place)
        self._reader, kind = self._context.__enter__()
        self.info = _info(self._reader, kind, self._place)
        spec = self._reader.spec()
        self.orientation = int(spec.get_int_attribute("Orientation", 1))
        names = _names(spec)
        colour = (
            [names.index(c) for c in "rgb"] if set("rgb") <= set(names) else [0, 0, 0] if self.info.channels <= 2 else [0, 1, 2]
        )
        self.has_alpha = "a" in names and len(set(names)) > 1
        chosen = [*colour, *([names.index("a")] if self.has_alpha else [])]
        self._extra = [index for index in range(spec.nchannels) if index not in chosen]
        self.extra = [spec.channelnames[index] for index in self._extra]
        self.extra_formats = [spec.channelformat(index) for index in self._extra]
        self.carried, self.parts = carried_from(spec), max(1, spec.get_int_attribute("oiio:subimages", 1))
        self.premultiplied = self.has_alpha and not spec.get_int_attribute("oiio:UnassociatedAlpha", 0)
        self._order = chosen
        self._tile_rows = spec.tile_height if spec.tile_width else 0
        return self

    def __exit__(self, *problem: Any) -> None:
        self._context.__exit__(*problem)

    def strips(self, rows: int, multiple: int = 1, with_extra: bool = False) -> Iterator[np.ndarray]:
        """(rows, w, 3) or, with alpha, (rows, w, 4) float32, from the top, about `rows` high; `extra` channels behind, if wanted.

        Colour that is stored multiplied by alpha is divided by it; where that is 0 it is light that covers nothing, and stays.
        Each but the last has a multiple of `multiple` rows; with rows of the whole height there is one strip only.
        """
        info = self.info
        if rows < info.height:
            unit = math.lcm(multiple, self._tile_rows or 1)
            rows = max(unit, rows // unit * unit)
        for top in range(0, info.height, rows):
            bottom = min(info.height, top + rows)
            y = self._reader.spec().y
            if self._tile_rows:
                x = self._reader.spec().x
                read = self._reader.read_tiles(0, 0, x, x + info.width, y + top, y + bottom, 0, 1, 0, info.channels, oiio.FLOAT)
            else:
                read = self._reader.read_scanlines(0, 0, y + top, y + bottom, 0, 0, info.channels, oiio.FLOAT)
            if read is None or self._reader.has_error:
                raise PictureError(self._place, f"the picture is damaged or cut short: {_reason(self._reader.geterror)}")
            samples = np.asarray(read, np.float32).reshape(bottom - top, info.width, info.channels)
            strip = np.ascontiguousarray(samples[..., self._order + (self._extra if with_extra else [])])
            if info.depth in ("f16", "f32"):
                bad = ~np.isfinite(strip)
                self.mended += int(bad.any(axis=-1).sum())
                np.nan_to_num(strip, copy=False, nan=0.0, posinf=HALF_MAX, neginf=-HALF_MAX)
            if self.premultiplied:
                alpha = strip[..., 3:4]
                np.divide(strip[..., :3], alpha, out=strip[..., :3], where=alpha > 0)
            yield strip


def upright(samples: np.ndarray, turn: int) -> np.ndarray:
    """Apply the EXIF orientation 1..8. Source: CIPA DC-008 (Exif 2.32), tag 0x0112."""
    if turn in (5, 6, 7, 8):
        samples = samples.transpose(1, 0, 2)
    if turn in (2, 3, 6, 7):
        samples = samples[:, ::-1]
    if turn in (3, 4, 7, 8):
        samples = samples[::-1]
    return samples


def kind_of_name(path: Path) -> str:
    """The kind to write for this suffix. Raises: PictureError listing what there is."""
    try:
        return _SUFFIXES[path.suffix.lower()]
    except KeyError:
        raise PictureError(path.name, f"no picture format for this name; Saucer writes {', '.join(_SUFFIXES)}") from None


def depth_held(kind: str, depth: Depth) -> Depth:
    """The depth a format will hold for samples of `depth`: the same where it can, else the nearest that loses least."""
    holds = _HOLDS[kind]
    if depth in holds:
        return depth
    return holds[-1] if depth != "u8" else holds[0]


def write_picture(picture: Picture, path: Path, packed: bool = True, encoding: Encoding | None = None) -> None:
    """Write by the suffix of `path`, in the picture's depth where the format holds it; the file appears whole or not at all.

    packed: a TIFF takes thirty times as long for it, and what has grain becomes a seventh smaller
    encoding: is written into the file where the format has a way to say it. Raises: PictureError
    """
    samples = picture.pixels
    if picture.alpha is not None and kind_of_name(path) in HOLDS_ALPHA:
        samples = np.concatenate([samples, picture.alpha[..., None]], axis=-1)
    write_strips(iter([samples]), path, picture.width, picture.height, samples.shape[2], picture.depth, packed, encoding=encoding)


def write_strips(
    strips: Iterator[np.ndarray], path: Path, width: int, height: int, channels: int, depth: Depth, packed: bool = True,
    premultiplied: bool = False, encoding: Encoding | None = None, carried: Carried = NOTHING, extra: Extra = (),
) -> None:  # fmt: skip
    """Strips of rows (rows, width, channels) float32, top first, as one file that appears whole or not at all.

    premultiplied: colour is to be stored multiplied by alpha, which only some formats can; EXR always is
    encoding: is written into the file where the format has a way to say it
    carried: what the source says beside its samples; extra: name and type of channels that follow colour and alpha, in EXR
    JPEG is written at quality 97 without colour subsampling, WebP without loss. Raises: PictureError; whatever `strips` raises
    """
    kind = kind_of_name(path)
    depth = depth_held(kind, depth)
    spec = oiio.ImageSpec(width, height, channels + len(extra), _STORED[depth])
    if extra:
        spec.channelnames = (*"RGBA"[:channels], *(name for name, _ in extra))
        spec.channelformats = (*[oiio.TypeDesc(_STORED[depth])] * channels, *(type_ for _, type_ in extra))
    put_into(spec, kind, carried)
    associated = channels == 4 and (kind == "openexr" or (premultiplied and kind == "tiff"))
    spec["oiio:UnassociatedAlpha"] = int(not associated)
    spec["oiio:dither"] = 0
    state(spec, kind, encoding)
    if kind == "jpeg":
        spec["Compression"] = "jpeg:97"
        spec["jpeg:subsampling"] = "4:4:4"
    elif kind == "webp":
        spec["Compression"] = "lossless"
    elif kind == "png":
        spec["png:compressionLevel"] = 1  # half the time of the library's own choice, a quarter more bytes
    elif kind in ("openexr", "tiff"):
        spec["compression"] = "zip" if packed or kind == "openexr" else "none"
        if not any(name == "DateTime" for name, _, _ in carried.attributes):
            spec["DateTime"] = "1980:01:01 00:00:00"  # the same picture gives the same bytes
    handle, temporary = tempfile.mkstemp(suffix=path.suffix, dir=path.parent)
    os.close(handle)
    writer = oiio.ImageOutput.create(kind)
    assert writer is not None
    try:
        done, top = writer.open(temporary, spec), 0
        for strip in strips:
            if associated:
                strip = _multiplied(strip)
            # Rounded by us where all channels are alike; else the library rounds each to its own kind.
            samples = np.ascontiguousarray(strip, np.float32) if extra else _quantised(strip, depth)
            done = done and writer.write_scanlines(spec.y + top, spec.y + top + len(strip), 0, samples)
            top += len(strip)
        done = writer.close() and done
        if not done:
            raise PictureError(path.name, f"cannot be written: {_reason(writer.geterror)}")
        os.chmod(temporary, 0o644)
        os.replace(temporary, path)
    finally:
        writer.close()  # here, not whenever the writer is collected: an unfinished file makes the library complain
        Path(temporary).unlink(missing_ok=True)


def _multiplied(strip: np.ndarray) -> np.ndarray:
    """Colour times alpha; light that covers nothing, with an alpha of 0, stays as it is."""
    alpha = strip[..., 3:4]
    return np.concatenate([strip[..., :3] * np.where(alpha > 0, alpha, 1), strip[..., 3:]], axis=-1)


def _quantised(samples: np.ndarray, depth: Depth) -> np.ndarray:
    """Rounded to nearest by us, so that every format gets the same codes."""
    if depth in ("f16", "f32"):
        return np.ascontiguousarray(samples, np.float16 if depth == "f16" else np.float32)
    peak, kind = (255, np.uint8) if depth == "u8" else (65535, np.uint16)
    return (np.clip(samples, 0, 1) * np.float32(peak) + np.float32(0.5)).astype(kind)
