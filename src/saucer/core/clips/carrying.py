"""Sound into the clip that is made: its packets as they were where the file takes them, coded anew otherwise.

Coded anew it becomes PCM of 24 bits in a .mov or .mkv, which is what it was where that was PCM, and AAC in an .mp4.
"""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from fractions import Fraction
from typing import Any

import av
import numpy as np

from saucer.core.clips.sound import Packets, Track
from saucer.core.errors import PictureError

CODECS = {".mp4": "aac", ".mov": "pcm_s24le", ".mkv": "pcm_s24le"}
HIGHEST_AAC = 96_000
BITS_A_CHANNEL = 160_000
"""A second, of AAC."""
_SAMPLES = {"pcm_s16le", "pcm_s24le", "pcm_s32le", "pcm_f32le"}
_COMMON = {"aac", "alac", "ac3", "eac3", "mp3", "mp3float"}
COPIED = {
    ".mp4": _COMMON,
    ".mov": _COMMON | _SAMPLES | {"pcm_s16be", "pcm_s24be", "pcm_s32be", "pcm_f32be"},
    ".mkv": _COMMON | _SAMPLES | {"flac", "opus"},
}
"""What a file of this suffix holds as it was, by the library's names of decoders, and players play."""
BEGUN_AS = {"mp3": "libmp3lame", "mp3float": "libmp3lame", "opus": "libopus"}
"""The library's coder of the same, where it has another name."""


class _Coder:
    """A track that is coded anew from its samples."""

    def __init__(self, container: Any, suffix: str, track: Track) -> None:
        self._container, self._track, self._count = container, track, 0
        codec = CODECS[suffix]
        rate = min(track.rate, HIGHEST_AAC) if codec == "aac" else track.rate
        self._stream = container.add_stream(codec, rate=rate, layout=track.layout)
        if codec == "aac":
            self._stream.bit_rate = BITS_A_CHANNEL * track.channels
        self._resampler = av.AudioResampler("fltp" if codec == "aac" else "s32", track.layout, rate)

    def put(self, samples: np.ndarray) -> float:
        frame = av.AudioFrame.from_ndarray(samples.reshape(1, -1), format="s32", layout=self._track.layout)
        frame.sample_rate, frame.pts, frame.time_base = self._track.rate, self._count, Fraction(1, self._track.rate)
        self._count += len(samples)
        for one in self._resampler.resample(frame):
            self._container.mux(self._stream.encode(one))
        return self._count / self._track.rate

    def finish(self) -> None:
        for one in self._resampler.resample(None):
            self._container.mux(self._stream.encode(one))
        self._container.mux(self._stream.encode(None))


class _Copier:
    """A track that goes in as it lies in its file."""

    def __init__(self, container: Any, track: Track) -> None:
        self._container, self._track, self._last = container, track, -(2**62)
        self._stream = container.add_stream(BEGUN_AS.get(track.codec, track.codec), rate=track.rate, layout=track.layout)
        # The library has no other way of saying what packets hold that were made elsewhere: what its own coder would tell a decoder is
        # told otherwise before it is written down, and the coder is never used.
        self._stream.codec_context.open()
        self._stream.codec_context.extradata = track.header or None
        self._stream.time_base = track.unit

    def put(self, packets: Packets) -> float:
        end = np.cumsum(packets.sizes)
        for stop, size, (at, lasts) in zip(end, packets.sizes, packets.times.tolist(), strict=True):
            packet = av.Packet(packets.data[stop - size : stop].tobytes())
            self._last = max(self._last + 1, at)
            packet.pts = packet.dts = self._last
            packet.duration, packet.time_base, packet.stream, packet.is_keyframe = lasts, self._track.unit, self._stream, True
            self._container.mux(packet)
        return packets.seconds

    def finish(self) -> None:
        """Nothing is held back."""


def _can_be_begun(track: Track) -> bool:
    """Has the library a coder for such a track, by which its copy is begun?"""
    container = av.open(io.BytesIO(), "w", format="matroska")
    try:
        _Copier(container, track)
    except (av.error.FFmpegError, ValueError):
        return False
    return True


def copied_into(suffix: str, tracks: Sequence[Track], starts: bool, ends: bool) -> tuple[int, ...]:
    """Numbers of the tracks that go into a file of this suffix as they are; the others are coded anew.

    starts, ends: is it wanted from the clip's first frame on, and to its last? PCM is cut between packets by coding it anew, which
    loses nothing. Others are cut by saying where in a packet they begin, which only .mp4 and .mov can (ISO/IEC 14496-12, edit lists).
    """

    def is_copied(track: Track) -> bool:
        if track.codec not in COPIED[suffix] or (track.codec == "aac" and track.profile != "LC") or not _can_be_begun(track):
            return False
        return (starts and ends) if track.codec.startswith("pcm_") else starts or suffix != ".mkv"

    return tuple(track.number for track in tracks if is_copied(track))


class SoundWriter:
    """The tracks of a clip that is being written into `container`, beside its video.

    suffix: of the file; copied: numbers of the tracks that are given as Packets
    """

    def __init__(self, container: Any, suffix: str, tracks: Sequence[Track], copied: Sequence[int] = ()) -> None:
        self._tracks: list[Any] = [
            _Copier(container, track) if track.number in copied else _Coder(container, suffix, track) for track in tracks
        ]

    def put(self, number: int, chunk: np.ndarray | Packets) -> float:
        """The next of a track: (samples, channels) int32, or Packets. Returns: the seconds that it lasts up to now"""
        lasted: float = self._tracks[number].put(chunk)
        return lasted

    def finish(self) -> None:
        for track in self._tracks:
            track.finish()


class Following:
    """Sound that goes along with frames as they are written: as much of it as they have lasted.

    problem: why it breaks off, where it is damaged; the pictures go on without it
    """

    def __init__(self, chunks: Iterator[tuple[int, np.ndarray | Packets]], writer: SoundWriter) -> None:
        self._chunks, self._writer = chunks, writer
        self.problem = ""
        self._reached = 0.0

    def go_to(self, seconds: float) -> None:
        while self._reached < seconds and (chunk := self._next()) is not None:
            try:
                self._reached = max(self._reached, self._writer.put(*chunk))
            except (av.error.InvalidDataError, av.error.ArgumentError) as error:
                self.problem, self._chunks = f"its sound cannot be taken on: {error}", iter(())

    def _next(self) -> tuple[int, np.ndarray | Packets] | None:
        try:
            return next(self._chunks, None)
        except PictureError as error:
            self.problem, self._chunks = error.problem, iter(())
            return None

    def finish(self) -> None:
        self.go_to(float("inf"))
