"""Clips as the library decodes them, in a reader's process: what a file says of itself, where each frame is, and its samples."""

from __future__ import annotations

import struct
from bisect import bisect_right
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from saucer.core.clips.coding import SITING_CODES, ClipInfo, Coding, Mastering, Said, encoding_of, matrix_of
from saucer.core.clips.yuv import Layout
from saucer.core.errors import PictureError
from saucer.core.reading.limits import GB, LIMITS, LONGEST_SIDE, MOST_FRAMES, MOST_PIXELS, MOST_SAMPLED
from saucer.core.reading.tasks import reads

NO_CLIP = "not a clip that can be read"
CONTAINERS = "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mxf,mpegts"
"""By the library's names. None of them names other files, as playlists, lists of parts and session descriptions do."""
PROTOCOLS = "file"
SUFFIXES = frozenset((".mp4", ".mov", ".mkv", ".avi", ".mxf", ".m4v", ".webm", ".mts", ".m2ts", ".ts"))
"""By which people know clips."""
_HELD = 16
"""Frames that others refer to, which a decoder may hold at once. Source: ITU-T H.264, A.3.1"""
_REFERRING = ("h264", "hevc", "vp8", "vp9", "av1", "libdav1d", "mpeg4", "mpeg2video", "vvc")
"""Codecs whose frames refer to others; of all others each frame stands alone."""
_EVEN = 0.02
"""Of a frame's length: times that differ less are those of a constant rate, rounded."""
_YUV = {
    "yuv420p": (2, 2, 8), "yuvj420p": (2, 2, 8), "yuv422p": (2, 1, 8), "yuvj422p": (2, 1, 8), "yuv444p": (1, 1, 8), "yuvj444p": (1, 1, 8),
    "yuva420p": (2, 2, 8), "yuva422p": (2, 1, 8), "yuva444p": (1, 1, 8),
    **{
        f"yuv{alpha}{name}p{bits}le": (across, down, bits)
        for alpha in ("", "a") for bits in (9, 10, 12, 14, 16)
        for name, across, down in (("420", 2, 2), ("422", 2, 1), ("444", 1, 1))
    },
}  # fmt: skip
Raw = tuple[int, tuple[np.ndarray, np.ndarray, np.ndarray], int, int, Layout, np.ndarray | None]
"""Number, planes (Y, Cb, Cr or red, green, blue), width, height, layout, alpha where there is one, in the same bits"""


@reads("clip", PictureError)
class StoredClip:
    """A clip that is open. facts: what it is

    said: matrix and range that a person has said, in place of what the file says; threads: that decode, 0 for the library's choice
    Raises: PictureError
    """

    def __init__(self, path: Path, place: str, said: Coding | None, threads: int) -> None:
        self._place = place
        self._path, self._said, self._threads = path, said, threads

    def __enter__(self) -> StoredClip:
        self._open_container()
        try:
            self._open()
        except BaseException:
            self._container.close()
            raise
        return self

    def __exit__(self, *problem: Any) -> None:
        self._container.close()

    def _open_container(self) -> None:
        allowed = {"format_whitelist": CONTAINERS, "protocol_whitelist": PROTOCOLS}
        try:
            self._container = av.open(f"file:{self._path}", metadata_errors="replace", options=allowed)
        except (av.error.FFmpegError, OSError) as error:
            raise self._broken(NO_CLIP, error) from None

    def _take_stream(self) -> Any:
        """Its video, ready to be decoded; the context of its codec."""
        videos = self._container.streams.video
        if not videos:
            raise PictureError(self._place, "holds no video")
        self._stream = videos[0]
        context = self._stream.codec_context
        if context is None:
            raise PictureError(self._place, "its video is in a form that this build does not decode")
        self._stream.thread_type = "AUTO"
        if self._threads:
            context.thread_count = self._threads
        return context

    def _open(self) -> None:
        context = self._take_stream()
        width, height = context.width, context.height
        if width < 1 or height < 1 or width * height > MOST_PIXELS or max(width, height) > LONGEST_SIDE:
            raise PictureError(self._place, f"{width} x {height} is no picture size that can be read")
        self._check_price(context, width, height)
        self._times, self._keys = self._index()
        if (whole := len(self._times) * width * height) > MOST_SAMPLED:
            told = f"this clip is {len(self._times)} frames of {width} x {height}, {whole:.1e} pixels"
            raise PictureError(self._place, f"{told}: {MOST_SAMPLED:.0e} is the most; cut it into parts")
        first = next(self._decoded(0), None)
        if first is None:
            raise PictureError(self._place, "no frame of it can be decoded: it is damaged or cut short")
        self.facts = self._describe(first)
        self._next: Iterator[Any] | None = None
        self._at = -1

    def _check_price(self, context: Any, width: int, height: int) -> None:
        """Before a frame is decoded: can the frames that a decoder holds at once be held?"""
        held = (_HELD if context.codec.name in _REFERRING else 0) + max(context.thread_count, 2)
        each = _price_of(context.format) if context.format is not None else 4
        price, most = width * height * each * held, LIMITS["clip"].memory
        if price > most:
            told = f"this clip has {self._stream.frames or 'many'} frames of {width} x {height}"
            raise PictureError(self._place, f"{told}: reading it takes more than the {most / GB:.0f} GB that a reader may have")

    def _broken(self, what: str, error: Exception) -> PictureError:
        reason = (getattr(error, "strerror", "") or str(error)).splitlines()[0][:160]
        return PictureError(self._place, f"{what}: {reason.lower()}")

    def _index(self) -> tuple[list[int], list[int]]:
        """When each frame is shown, in order, and which of these times can be jumped to. Only headers of packets are read."""
        times, keys, stored, cut = [], [], 0, False
        try:
            for packet in self._container.demux(self._stream):
                stored += packet.size > 0
                cut = cut or (packet.is_corrupt and self._container.format.name != "mpegts")  # there a gap is common, and survived
                if packet.pts is None or packet.is_discard or packet.size == 0:
                    continue
                times.append(packet.pts)
                if packet.is_keyframe:
                    keys.append(packet.pts)
                if len(times) > MOST_FRAMES:
                    raise PictureError(self._place, f"more than {MOST_FRAMES} frames")
        except av.error.FFmpegError as error:
            if not times:
                raise self._broken("cannot be read", error) from None
        if times and (cut or self._lacks_frames(stored, max(times))):
            whole = f"says that it has {self._stream.frames} frames, and " if self._stream.frames else "breaks off in a frame: "
            raise PictureError(self._place, f"is cut short: it {whole}{stored - cut} are whole. Copy it again from where it came")
        if self._container.format.name == "avi" and self._stream.codec_context.has_b_frames:
            told = "does not say when its frames are shown, which an .avi cannot for such video"
            raise PictureError(self._place, f"{told}; put it into a .mov, .mp4 or .mkv first, without coding it again")
        if not times or not keys:
            raise PictureError(self._place, "holds no frame with a time, so frames cannot be found in it")
        return sorted(times), sorted(keys)

    def _lacks_frames(self, stored: int, last: int) -> bool:
        """Fewer than the file says, and it ends earlier than it says: where an edit list hides some, it says how long the rest is."""
        stream = self._stream
        if stored >= stream.frames or stream.duration is None or not stream.average_rate or stream.time_base is None:
            return False
        frame = 1 / float(stream.average_rate * stream.time_base)
        return bool(last + 2 * frame < (stream.start_time or 0) + stream.duration)

    def _describe(self, frame: Any) -> ClipInfo:
        if frame.interlaced_frame:
            raise PictureError(self._place, "is interlaced; make it progressive first (deinterlace it), then bring it in")
        context, pixels = self._stream.codec_context, frame.format
        layout = _layout(frame)
        is_yuv = pixels.name in _YUV
        coding: Coding | None = None
        matrix_from: Said = "file"
        range_from: Said = "file"
        if is_yuv or pixels.name.startswith("gray"):
            matrix, matrix_from = matrix_of(int(frame.colorspace), frame.width, frame.height)
            full = int(frame.color_range) == 2 or pixels.name.startswith("yuvj")
            range_from = "file" if int(frame.color_range) in (1, 2) or pixels.name.startswith("yuvj") else "size"
            coding = Coding(matrix, full)
        if self._said is not None and coding is not None:
            coding, matrix_from, range_from = self._said, "person", "person"
        encoding, encoding_from = encoding_of(int(frame.color_primaries), int(frame.color_trc))
        turn = int(getattr(frame, "rotation", 0) or 0) % 360
        if turn % 90:
            raise PictureError(self._place, f"is turned by {turn} degrees; only quarter turns can be shown")
        width, height = (frame.height, frame.width) if turn in (90, 270) else (frame.width, frame.height)
        rate = self._stream.average_rate or self._stream.guessed_rate or Fraction(24)
        base = self._stream.time_base or Fraction(1, 1000)
        steps = np.diff(np.asarray(self._times, np.float64)) * float(base * rate)
        slack = max(_EVEN, 1.01 * float(base * rate))
        said = [self._stream.metadata, self._container.metadata, *(stream.metadata for stream in self._container.streams)]
        timecode = next((told for one in said if (told := one.get("timecode") or one.get("TIMECODE"))), "")
        return ClipInfo(
            codec=context.codec.name, width=width, height=height, count=len(self._times), rate=Fraction(rate), timecode=timecode,
            bits=layout.bits, chroma=layout.words if is_yuv else ("grey" if pixels.name.startswith("gray") else "RGB"), coding=coding,
            matrix_from=matrix_from, range_from=range_from, encoding=encoding,
            encoding_from=encoding_from, turn=turn, variable=bool(len(steps) and np.abs(steps - 1).max() > slack),
            alpha=_has_alpha(pixels), aspect=_aspect_of(self._stream, turn), mastering=_mastering_of(frame),
        )  # fmt: skip

    def _decoded(self, number: int) -> Iterator[Any]:
        """Decoded frames from this one on."""
        wanted = self._times[number]
        at = max(bisect_right(self._keys, wanted) - 1, 0)
        # A transport stream has no index: a jump may land behind what it was for. Then from further ahead, in the end from the start.
        for key in (self._keys[at], self._keys[max(at - 2, 0)], None):
            begun = False
            try:
                for frame in self._decoded_from(key):
                    if frame.pts is None or frame.pts < wanted:
                        continue
                    if not begun and frame.pts != wanted and key is not None:
                        break
                    begun = True
                    yield frame
            except av.error.EOFError:
                pass
            except av.error.FFmpegError as error:
                raise self._broken(f"damaged or cut short near frame {number}", error) from None
            if begun:
                return

    def _decoded_from(self, key: int | None) -> Iterator[Any]:
        """key: none for the start of the file, opened anew"""
        if key is None:
            self._container.close()
            self._open_container()
            self._take_stream()
        else:
            self._container.seek(key, stream=self._stream, backward=True)
        yield from self._container.decode(self._stream)

    def frames(self, first: int, last: int) -> Iterator[Raw]:
        """Frames first..last, both included. Raises: PictureError where one cannot be decoded"""
        self._next = None
        number = first
        for frame in self._decoded(first):
            if frame.pts != self._times[number]:
                break
            yield self._raw(frame, number)
            number += 1
            if number > last:
                return
        raise PictureError(self._place, f"frame {number} cannot be decoded: the clip is damaged or cut short there")

    def times(self) -> tuple[np.ndarray, Fraction]:
        """When each frame is shown, (count) int64 from 0, in so many parts of a second."""
        return np.asarray(self._times, np.int64) - self._times[0], Fraction(self._stream.time_base or Fraction(1, 1000))

    def frame(self, number: int) -> Raw:
        """One frame; the one after the last is the quickest to get. Raises: PictureError"""
        # From key to key it is quicker to jump than to decode what nobody sees.
        near = 1 if len(self._keys) == len(self._times) else 8
        if self._next is None or not self._at < number <= self._at + near:
            self._next, self._at = self._decoded(number), number - 1
        for frame in self._next:
            self._at += 1
            if frame.pts == self._times[number]:
                self._at = number
                return self._raw(frame, number)
            if frame.pts > self._times[number]:
                break
        self._next = None
        raise PictureError(self._place, f"frame {number} cannot be decoded: the clip is damaged or cut short there")

    def _raw(self, frame: Any, number: int) -> Raw:
        whole = _planar(frame, self._place)
        layout, coding = _layout(whole), self.facts.coding
        order = (2, 0, 1) if coding is None else (0, 1, 2)  # the library's planar RGB is green, blue, red
        planes = [_plane(whole, index, layout.bits) for index in range(len(whole.planes))]
        if len(planes) == 1:  # grey: chroma that says so
            across = np.full_like(planes[0], 2 ** (layout.bits - 1))
            planes = [planes[0], across, across]
        alpha = planes[3] if len(planes) == 4 else None
        return number, (planes[order[0]], planes[order[1]], planes[order[2]]), whole.width, whole.height, layout, alpha


def _has_alpha(form: Any) -> bool:
    return any(mark in form.name for mark in ("yuva", "gbrap", "rgba", "argb", "bgra", "abgr"))


def _aspect_of(stream: Any, turn: int) -> Fraction:
    said = Fraction(stream.sample_aspect_ratio or stream.codec_context.sample_aspect_ratio or 1)
    held = said if Fraction(1, 8) <= said <= 8 else Fraction(1)
    return 1 / held if turn in (90, 270) else held


def _mastering_of(frame: Any) -> Mastering | None:
    """What stands beside its first frame, by the layout of the library: ten fractions, and whether they were said."""
    for data in frame.side_data:
        if data.type.name == "MASTERING_DISPLAY_METADATA" and len(bytes(data)) >= 88:
            numbers = struct.unpack("<22i", bytes(data)[:88])
            fractions = [top / bottom if bottom else 0.0 for top, bottom in zip(numbers[0:20:2], numbers[1:20:2], strict=True)]
            if numbers[20] and numbers[21]:
                corners = tuple(round(one * 50_000) for one in fractions[:8])
                return Mastering(corners, round(fractions[9] * 10_000), round(fractions[8] * 10_000))  # type: ignore[arg-type]
    return None


def _price_of(form: Any) -> float:
    """Bytes a pixel of a frame as it is decoded."""
    name = form.name
    if name in _YUV:
        across, down, bits = _YUV[name]
        return (1 + 2 / (across * down)) * (1 if bits <= 8 else 2)
    return float(form.padded_bits_per_pixel) / 8


def _layout(frame: Any) -> Layout:
    name = frame.format.name
    siting = SITING_CODES.get(int(getattr(frame, "chroma_location", 0) or 0), "centre" if name.startswith("yuvj") else "left")
    if name in _YUV:
        across, down, bits = _YUV[name]
        return Layout(across, down, bits, siting)
    return Layout(1, 1, frame.format.components[0].bits)


def _planar(frame: Any, place: str) -> Any:
    """The frame with a plane a channel: as it is, or RGB that is packed laid apart without loss."""
    name, bits = frame.format.name, frame.format.components[0].bits
    if (
        name in _YUV
        or name in ("gray", "gray10le", "gray12le", "gray16le")
        or (name.startswith("gbr") and not name.endswith("f32le"))
    ):
        return frame
    if frame.format.is_rgb and bits <= 16:
        alpha = "a" if _has_alpha(frame.format) else ""
        return frame.reformat(format=f"gbr{alpha}p" if bits <= 8 else f"gbr{alpha}p16le")
    raise PictureError(place, f"pixels of the form {name} are not read; make it 4:2:0, 4:2:2, 4:4:4 or RGB first")


def _plane(frame: Any, index: int, bits: int) -> np.ndarray:
    plane = frame.planes[index]
    kind = np.uint8 if bits <= 8 else np.uint16
    return np.frombuffer(plane, kind).reshape(-1, plane.line_size // np.dtype(kind).itemsize)
