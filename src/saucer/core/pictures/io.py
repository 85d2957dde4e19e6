"""Pictures in and out, colour values untouched: PNG, JPEG, TIFF, EXR, DPX and WebP both ways; HEIC, AVIF, Radiance HDR and raw are read."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import numpy as np
import OpenImageIO as oiio

from saucer.core.colour.encodings import Encoding
from saucer.core.errors import PictureError
from saucer.core.pictures.carried import NOTHING, Carried, put_into
from saucer.core.pictures.profile import state
from saucer.core.pictures.stored import (
    AT_ONCE,
    Depth,
    Header,
    PictureInfo,
    StoredPicture,
    inspect_stored,
    read_stored,
    reason,
    rows_of_strips,
    unit_of,
)
from saucer.core.reading.room import Session, ask

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
_STORED = {"u8": "uint8", "u16": "uint16", "f16": "half", "f32": "float"}
_HOLDS: dict[str, tuple[Depth, ...]] = {
    "png": ("u8", "u16"), "jpeg": ("u8",), "tiff": ("u8", "u16", "f32"), "openexr": ("f16", "f32"), "dpx": ("u8", "u16"),
    "webp": ("u8",),
}  # fmt: skip


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


def inspect_picture(path: Path, name: str | None = None) -> PictureInfo:
    """Read the header only. Raises: PictureError for what is no picture, is damaged or too large."""
    place = name or path.name
    return ask(inspect_stored, path, place, place=place)


def read_picture(path: Path, name: str | None = None, white: int | None = None) -> Picture:
    """The whole picture, upright. Grey becomes three equal channels; alpha is kept aside.

    white: kelvin that a raw photograph is balanced to; its camera's for None. Other kinds take no notice of it.

    Float samples that are no number become 0, infinite ones the largest half float; the pixels are counted in `mended`.
    Raises: PictureError as inspect_picture, and when the pixels are cut short or damaged
    """
    place = name or path.name
    found = ask(read_stored, path, place, white, place=place)
    if found is None:
        with PictureReader(path, name, white) as reader:
            header, samples = reader.header, next(reader.strips(reader.info.height))
            mended = reader.mended
    else:
        header, samples, mended = found
    samples = upright(samples, header.orientation)
    pixels = np.ascontiguousarray(samples[..., :3])
    alpha = np.ascontiguousarray(samples[..., 3]) if samples.shape[2] == 4 else None
    return Picture(pixels, header.info.depth, alpha, header.info.kind, mended)


def read_rows(path: Path, top: int, bottom: int, name: str | None = None, white: int | None = None) -> tuple[np.ndarray, int, int]:
    """Rows top..bottom of a picture, upright, without what lies below the first or beyond the last.

    white: as of `read_picture`
    Returns: (rows, width, 3) float32; the index of the first of them; the height of the whole picture
    Raises: PictureError as read_picture
    """
    with PictureReader(path, name, white) as reader:
        if reader.orientation != 1:
            whole = upright(next(reader.strips(reader.info.height)), reader.orientation)[..., :3]
            return whole[top:bottom], top, whole.shape[0]
        found, row = [np.zeros((0, reader.info.width, 3), np.float32)], 0
        for strip in reader.strips(64):
            found.append(strip[max(top - row, 0) : max(bottom - row, 0), :, :3])
            row += len(strip)
            if row >= bottom:
                break
        return np.concatenate(found), top, reader.info.height


class PictureReader:
    """A picture read in strips of rows, as stored (not turned upright), so that a large one never stands in memory whole.

    Not to be used by two threads at once. white: as of `read_picture`. Raises: PictureError
    """

    def __init__(self, path: Path, name: str | None = None, white: int | None = None) -> None:
        self._session = Session(StoredPicture, path, name or path.name, white, place=name or path.name)
        self.mended = 0

    def __enter__(self) -> PictureReader:
        self.header: Header = self._session.open()
        self.info, self.orientation, self.has_alpha = self.header.info, self.header.orientation, self.header.has_alpha
        self.premultiplied, self.carried, self.parts = self.header.premultiplied, self.header.carried, self.header.parts
        self.extra = self.header.extra
        self.extra_formats = [oiio.TypeDesc(one) for one in self.header.extra_formats]
        return self

    def __exit__(self, *problem: Any) -> None:
        self._session.close()

    def strips(self, rows: int, multiple: int = 1, with_extra: bool = False) -> Iterator[np.ndarray]:
        """(rows, w, 3) or, with alpha, (rows, w, 4) float32, from the top, about `rows` high; `extra` channels behind, if wanted.

        Each but the last has a multiple of `multiple` rows; with rows of the whole height there is one strip only.
        """
        info, unit = self.info, unit_of(self.header, multiple)
        wanted = rows_of_strips(info.height, rows, unit)
        each = min(wanted, rows_of_strips(info.height, AT_ONCE // info.width, unit))
        whole, filled, top = np.zeros((0, 0, 0), np.float32), 0, 0
        for strip, mended in self._session.each("strips", each, with_extra):
            self.mended = mended
            if wanted == each:
                yield strip
                continue
            while len(strip):
                if not filled:
                    whole = np.empty((min(wanted, info.height - top), *strip.shape[1:]), np.float32)
                part = strip[: len(whole) - filled]
                whole[filled : filled + len(part)] = part
                strip, filled = strip[len(part) :], filled + len(part)
                if filled == len(whole):
                    yield whole
                    top, filled = top + filled, 0


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


def kind_written(kind: str) -> str:
    """The kind of file that a picture of this kind is written as: the same, or one that holds as much where its own is only read."""
    return kind if kind in KINDS else "openexr" if kind == "hdr" else "tiff"


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
            raise PictureError(path.name, f"cannot be written: {reason(writer.geterror)}")
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
