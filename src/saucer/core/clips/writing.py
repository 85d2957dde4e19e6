"""Graded frames as video clips of several codecs, tagged with the encoding they are in, with what goes beside their colours."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from saucer.core.clips.carrying import SoundWriter
from saucer.core.clips.coding import CODES_OF, ClipInfo, Coding, mastering_of, matrix_for
from saucer.core.clips.sound import Track
from saucer.core.clips.yuv import Layout, from_rgb
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.errors import PictureError
from saucer.core.pictures.numbers import tags_of


@dataclass(frozen=True)
class ClipKind:
    """codec: the library's encoder; suffix: of the file; pixels: the library's name of `layout`; options: of the encoder"""

    id: str
    name: str
    codec: str
    suffix: str
    pixels: str
    layout: Layout
    options: Mapping[str, str]
    smallest: tuple[int, int] = (1, 1)
    """Columns and rows that its encoder takes."""
    is_hd: bool = False
    """Its files say BT.709 or BT.2020, and nothing of BT.601."""
    with_alpha: str = ""
    """The library's name of the same pixels with alpha; empty where it holds none."""
    says_aspect: bool = True
    """Can it say that pixels are not square?"""
    says_mastering: bool = False
    """Can it say what display an HDR picture was made on?"""


KINDS: dict[str, ClipKind] = {
    kind.id: kind
    for kind in (
        ClipKind("h264", "H.264, 8 bit, 4:2:0", "libx264", ".mp4", "yuv420p", Layout(2, 2, 8), {"preset": "veryfast", "crf": "16"}),
        ClipKind("prores", "ProRes 422 HQ, 10 bit", "prores_ks", ".mov", "yuv422p10le", Layout(2, 1, 10), {"profile": "3"}),
        ClipKind(
            "prores4444", "ProRes 4444, 10 bit", "prores_ks", ".mov", "yuv444p10le", Layout(1, 1, 10), {"profile": "4"},
            with_alpha="yuva444p10le",
        ),
        ClipKind(
            "h265", "H.265, 10 bit, 4:2:0", "libx265", ".mp4", "yuv420p10le", Layout(2, 2, 10),
            {"preset": "veryfast", "crf": "16", "tag": "hvc1", "x265-params": "log-level=error"},
            says_mastering=True,
        ),
        ClipKind(
            "vc3", "VC-3 (HQX), 10 bit, 4:2:2", "dnxhd", ".mov", "yuv422p10le", Layout(2, 1, 10), {"profile": "dnxhr_hqx"},
            (256, 120), True,
        ),
        ClipKind(
            "ffv1", "FFV1, 16 bit, without loss", "ffv1", ".mkv", "yuv444p16le", Layout(1, 1, 16), {"level": "3", "slices": "4"},
            with_alpha="yuva444p16le", says_aspect=False,
        ),
        ClipKind(
            "intra", "H.264, 10 bit, every frame by itself", "libx264", ".mp4", "yuv444p10le", Layout(1, 1, 10),
            {"preset": "ultrafast", "crf": "8", "g": "1", "tune": "fastdecode"},
        ),
    )
}  # fmt: skip


OFFERED = tuple(one for one in KINDS if one != "intra")
"""What people are given: the other one is for small copies that play."""


def planes_of(frame: Any, bits: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The three planes of a frame of the library, to be written to."""
    kind = np.uint8 if bits <= 8 else np.uint16
    found = [np.frombuffer(plane, kind).reshape(-1, plane.line_size // np.dtype(kind).itemsize) for plane in frame.planes[:3]]
    return found[0], found[1], found[2]


class ClipWriter:
    """A clip being written beside its place; it gets its name when `finish` is called, and leaves nothing otherwise.

    width, height: of the frames; where the kind needs even ones, the last column or row is there twice
    sound: the tracks that go with it, which are put through `sound`; copied: numbers of those that are put as Packets
    source: what they were coded with in the file that they come from
    encoding: what the frames are in, written into the file as numbers of ITU-T H.273 where it has them
    like: the clip that the frames come from: the shape of its pixels goes with them, its alpha where the kind holds one, and the display
        that it was made on where the encoding is that of an HDR display
    times: when each frame is shown, and the length of one of these in seconds, where they are not equally long
    Raises: PictureError where the file cannot be written
    """

    def __init__(
        self, path: Path, kind: ClipKind, width: int, height: int, rate: Fraction, encoding: Encoding = ENCODINGS["rec709"],
        timecode: str = "", options: Mapping[str, str] | None = None, source: Coding | None = None, sound: Sequence[Track] = (),
        copied: Sequence[int] = (),
        like: ClipInfo | None = None, times: tuple[np.ndarray, Fraction] | None = None,
    ) -> None:  # fmt: skip
        if path.suffix.lower() != kind.suffix:
            raise PictureError(path.name, f"{kind.name} is written as {kind.suffix}")
        if width < kind.smallest[0] or height < kind.smallest[1]:
            least = f"{kind.smallest[0]} x {kind.smallest[1]}"
            raise PictureError(path.name, f"{kind.name} takes pictures of {least} and more, not of {width} x {height}")
        self._path, self.kind = path, kind
        self.has_alpha = like is not None and like.alpha and bool(kind.with_alpha)
        self._pixels = kind.with_alpha if self.has_alpha else kind.pixels
        self.mastering = (
            ((like.mastering if like is not None else None) or mastering_of(encoding)) if encoding.hdr_display else None
        )
        matrix = matrix_for(encoding, width, height, source)
        self.coding = Coding("bt709" if kind.is_hd and matrix == "bt601" else matrix, full=False)
        self.width, self.height = (
            -(-width // kind.layout.across) * kind.layout.across,
            -(-height // kind.layout.down) * kind.layout.down,
        )
        handle, temporary = tempfile.mkstemp(suffix=kind.suffix, prefix=".new-", dir=path.parent)
        os.close(handle)
        self._temporary, self._count, self._tags = Path(temporary), 0, tags_of(encoding)
        self._times: np.ndarray | None = times[0] if times is not None else None
        self._base = times[1] if times is not None else 1 / rate
        try:
            flags = {} if kind.suffix == ".mkv" else {"movflags": "+faststart+write_colr"}
            self._container = av.open(temporary, "w", options=flags)
            stream = self._container.add_stream(kind.codec, rate=rate)
            assert isinstance(stream, av.VideoStream)
            stream.width, stream.height, stream.pix_fmt = self.width, self.height, self._pixels
            stream.options = {**kind.options, **self._said_of_display(), **(options or {})}
            context = stream.codec_context
            context.color_primaries, context.color_trc = self._tags
            context.colorspace, context.color_range = CODES_OF[self.coding.matrix], 1
            context.time_base = self._base
            if like is not None and like.aspect != 1:
                context.sample_aspect_ratio = like.aspect
            if timecode:
                stream.metadata["timecode"] = timecode
            self._stream = stream
            self.sound = SoundWriter(self._container, kind.suffix, sound, copied)
        except (av.error.FFmpegError, OSError, ValueError) as error:
            self.discard()
            raise PictureError(path.name, f"cannot be written: {error}") from None

    def _said_of_display(self) -> dict[str, str]:
        """In the words of the encoder, on top of its other options."""
        if self.mastering is None or not self.kind.says_mastering:
            return {}
        rx, ry, gx, gy, bx, by, wx, wy = self.mastering.corners
        light = f"L({self.mastering.most},{self.mastering.least})"
        told = f"master-display=G({gx},{gy})B({bx},{by})R({rx},{ry})WP({wx},{wy}){light}"
        return {"x265-params": f"{self.kind.options['x265-params']}:{told}:hdr10=1"}

    def seconds_until(self, frame: int) -> float:
        """From the first frame to where this one begins."""
        last = frame if self._times is None else int(self._times[min(frame, len(self._times) - 1)])
        return float(self._base * last)

    def pack(self, rgb: np.ndarray, threads: int | None = None) -> Any:
        """(h, w, 3) float32 code values as a frame to `put`; it touches nothing else, so that several threads may pack."""
        height, width = rgb.shape[:2]
        if (height, width) != (self.height, self.width):
            rgb = np.pad(rgb, ((0, self.height - height), (0, self.width - width), (0, 0)), mode="edge")
        frame = self.empty()
        self.fill(frame, rgb, 0, threads)
        return frame

    def fill(self, frame: Any, rgb: np.ndarray, top: int, threads: int | None = None) -> None:
        """Rows of a frame from `top` on, an even number of them but for the last."""
        from_rgb(rgb, planes_of(frame, self.kind.layout.bits), self.kind.layout, self.coding, threads, top)

    def fill_alpha(self, frame: Any, alpha: np.ndarray, bits: int) -> None:
        """alpha: (h, w) whole numbers of so many bits, the whole range of them"""
        most, own = 2**bits - 1, 2**self.kind.layout.bits - 1
        height, width = alpha.shape
        values = alpha if most == own else np.round(alpha.astype(np.float64) * (own / most))
        padded = np.pad(values, ((0, self.height - height), (0, self.width - width)), mode="edge")
        plane = frame.planes[3]
        kind = np.uint8 if self.kind.layout.bits <= 8 else np.uint16
        target = np.frombuffer(plane, kind).reshape(-1, plane.line_size // np.dtype(kind).itemsize)
        target[: self.height, : self.width] = padded

    def empty(self) -> Any:
        """A frame to be filled."""
        frame = av.VideoFrame(self.width, self.height, self._pixels)
        frame.colorspace, frame.color_range = CODES_OF[self.coding.matrix], 1
        frame.color_primaries, frame.color_trc = self._tags
        return frame

    def put(self, frame: Any) -> None:
        """Frames come in the order they are shown."""
        frame.pts = self._count if self._times is None else int(self._times[self._count])
        frame.time_base = self._base
        self._count += 1
        try:
            self._container.mux(self._stream.encode(frame))
        except (av.error.FFmpegError, OSError) as error:
            raise self._failed(error) from error

    def write(self, rgb: np.ndarray) -> None:
        self.put(self.pack(rgb))

    def finish(self) -> None:
        try:
            self._container.mux(self._last())
            self.sound.finish()
            self._container.close()
            with self._temporary.open("rb") as file:
                os.fsync(file.fileno())
            os.chmod(self._temporary, 0o644)
            os.replace(self._temporary, self._path)
        except (av.error.FFmpegError, OSError) as error:
            raise self._failed(error) from error
        finally:
            self._temporary.unlink(missing_ok=True)

    def _last(self) -> list[Any]:
        """What the encoder still holds. libx265 leaves the times of decoding unset in a clip shorter than its delay of two frames, which
        are decoded in the order in which they are shown."""
        packets = self._stream.encode(None)
        if self._count <= 2:
            for packet in packets:
                packet.dts = packet.pts
        return packets

    def _failed(self, error: Exception) -> Exception:
        """What the system refuses (a full disk) stays what it is; the rest is said of the file."""
        self.discard()
        return error if isinstance(error, OSError) else PictureError(self._path.name, f"cannot be written: {error}")

    def discard(self) -> None:
        """What was begun is taken away."""
        container = getattr(self, "_container", None)
        if container is not None:
            with suppress(av.error.FFmpegError, OSError):  # a full disk cannot take the end either
                container.close()
        self._temporary.unlink(missing_ok=True)

    def __enter__(self) -> ClipWriter:
        return self

    def __exit__(self, kind: Any, *problem: Any) -> None:
        if kind is None:
            self.finish()
        else:
            self.discard()
