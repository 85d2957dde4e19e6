"""HEIC and AVIF pictures: still frames of video codecs, with the depth that they are coded in."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, Literal

import av
import numpy as np
from PIL import Image

from saucer.core.errors import PictureError
from saucer.core.pictures.decoded import Decoded

Kind = Literal["heic", "avif"]
_BRANDS: dict[bytes, Kind] = {
    b"heic": "heic", b"heix": "heic", b"heim": "heic", b"heis": "heic", b"mif1": "heic", b"msf1": "heic", b"avif": "avif", b"avis": "avif",
}  # fmt: skip
"""Source: ISO/IEC 23008-12, annex B, and the AV1 Image File Format 1.1, 6"""
_ORIENTATION = 0x0112


def kind_of(head: bytes) -> Kind | None:
    """By the brand of an ISO base media file; what may hold either is told by those it is compatible with."""
    if head[4:8] != b"ftyp":
        return None
    found = _BRANDS.get(head[8:12])
    return "avif" if found == "heic" and b"avif" in head[16:64] else found


def open_heif(path: Path, place: str, kind: Kind) -> Decoded:
    """Raises: PictureError"""
    return _open_heic(path, place) if kind == "heic" else _open_avif(path, place)


def _open_heic(path: Path, place: str) -> Decoded:
    image = _heic(path, place)
    width, height = image.size
    bits = int(image.info.get("bit_depth", 8))
    channels = 4 if image.has_alpha else 3 if image.mode.startswith("RGB") else 1

    def decode() -> np.ndarray:
        try:
            samples = np.asarray(image)
        except (OSError, RuntimeError, ValueError, EOFError) as error:
            raise _damaged(place, error) from None
        return samples.reshape(height, width, -1).astype(np.float32) / np.float32(2**bits - 1)

    return Decoded(width, height, channels, "uint8" if bits == 8 else "uint16", decode)


def _heic(path: Path, place: str) -> Any:
    # Here, which only a reader's process comes to: it brings an H.265 encoder of its own, beside which that of the library of clips fails.
    import pillow_heif

    try:
        return pillow_heif.open_heif(str(path), convert_hdr_to_8bit=False, hdr_to_16bit=False)
    except (OSError, RuntimeError, ValueError, EOFError, SyntaxError) as error:
        raise _damaged(place, error) from None


def _damaged(place: str, error: Exception) -> PictureError:
    words = (str(error).strip().splitlines() or ["damaged file"])[0][:160]
    return PictureError(place, f"the picture is damaged or cut short: {words}")


def _open_avif(path: Path, place: str) -> Decoded:
    """Of more than eight bits through a decoder that keeps them."""
    try:
        with Image.open(path, formats=["AVIF"]) as image:
            (width, height), mode = image.size, image.mode
            turn = int(image.getexif().get(_ORIENTATION, 1))
    except (OSError, ValueError, SyntaxError) as error:
        raise _damaged(place, error) from None
    deep = _deep_frame(path)
    if deep is not None and deep[1:] == (width, height):
        return Decoded(width, height, 3, "uint16", lambda: _decode_deep(path, place), turn)
    channels = 4 if mode == "RGBA" else 3

    def decode() -> np.ndarray:
        try:
            with Image.open(path, formats=["AVIF"]) as opened:
                return np.asarray(opened.convert("RGBA" if channels == 4 else "RGB"), np.float32) / np.float32(255)
        except (OSError, ValueError, SyntaxError) as error:
            raise _damaged(place, error) from None

    return Decoded(width, height, channels, "uint8", decode, turn)


@contextmanager
def _container(path: Path) -> Iterator[Any]:
    """Raises: FFmpegError, OSError"""
    with av.open(f"file:{path}", options={"format_whitelist": "mov,mp4,m4a,3gp,3g2,mj2", "protocol_whitelist": "file"}) as opened:
        yield opened


def _deep_frame(path: Path) -> tuple[int, int, int] | None:
    """Bits, width and height where it is coded in more than eight bits and the library of clips reads it; alpha is not among them."""
    try:
        with _container(path) as container:
            if len(container.streams.video) != 1:
                return None
            context = container.streams.video[0].codec_context
            bits = context.format.components[0].bits if context.format is not None else 8
            return (bits, context.width, context.height) if bits > 8 else None
    except (av.error.FFmpegError, OSError, IndexError, AttributeError):
        return None


def _decode_deep(path: Path, place: str) -> np.ndarray:
    """(h, w, 3) float32. Raises: PictureError"""
    try:
        with _container(path) as container:
            frame = next(container.decode(container.streams.video[0]))
            samples = frame.to_ndarray(format="gbrpf32le")
    except (av.error.FFmpegError, OSError, StopIteration, ValueError) as error:
        raise _damaged(place, error) from None
    return np.ascontiguousarray(samples.astype(np.float32))


def holds_gain_map(path: Path, place: str) -> bool:
    """Beside a HEIC. Raises: PictureError"""
    return any("gainmap" in str(name).lower() for name in _heic(path, place).info.get("aux") or {})


def coded_by(path: Path, place: str, kind: Kind) -> tuple[tuple[int, int] | None, bytes | None]:
    """Primaries and transfer by the numbers of ITU-T H.273, and the ICC profile: whichever the file has. Raises: PictureError"""
    if kind == "heic":
        info = _heic(path, place).info
        nclx = info.get("nclx_profile")
        profile = info.get("icc_profile")
        told = (int(nclx["color_primaries"]), int(nclx["transfer_characteristics"])) if nclx else None
        return told, bytes(profile) if profile else None
    try:
        with Image.open(path, formats=["AVIF"]) as image:
            profile = image.info.get("icc_profile")
    except (OSError, ValueError, SyntaxError) as error:
        raise _damaged(place, error) from None
    try:
        with _container(path) as container:
            context = container.streams.video[0].codec_context
            numbers = (int(context.color_primaries), int(context.color_trc))
    except (av.error.FFmpegError, OSError, IndexError, AttributeError):
        numbers = (2, 2)
    return (None if 2 in numbers else numbers), profile
