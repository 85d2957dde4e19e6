"""The sound of a clip, read in a reader's process, as its video is: its packets as they lie in the file, or what they hold, decoded.

Decoded samples are 32-bit integers: PCM of up to 24 bits comes out bit for bit.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from saucer.core.clips.decoding import CONTAINERS, PROTOCOLS
from saucer.core.errors import PictureError
from saucer.core.reading.passing import passed
from saucer.core.reading.room import Session
from saucer.core.reading.tasks import reads

MOST_TRACKS, MOST_CHANNELS = 16, 8
RATES = range(8_000, 192_001)
CHUNK = 0.5
"""Seconds of a track that come at a time."""
LEAD = 2
"""Packets before the first that is heard: what is made of a packet hangs on the one before (ISO/IEC 14496-3, overlapping windows)."""


@passed
@dataclass(frozen=True)
class Track:
    """number: among those of the file that are carried, from 0; rate: samples a second; layout: the library's name of its channels

    codec, profile: the library's names; header: what a decoder is told beforehand; unit: seconds, in which its packets' times are
    """

    number: int
    codec: str
    rate: int
    layout: str
    channels: int
    profile: str = ""
    header: bytes = b""
    unit: Fraction = Fraction(1, 48_000)


@passed
@dataclass(frozen=True)
class Sound:
    """tracks: those that can be carried; left_out: how many cannot; problem: why what was carried breaks off"""

    tracks: tuple[Track, ...]
    left_out: int
    problem: str = ""


@passed
@dataclass(frozen=True)
class Packets:
    """Some of a track, one after the other, as they lie in the file.

    data: (n,) uint8; sizes: (m,) int64, bytes of each; times: (m, 2) int64, when each begins and how long it lasts, in the track's
    units, the first from where the sound that is wanted begins; seconds: until where they last
    """

    data: np.ndarray
    sizes: np.ndarray
    times: np.ndarray
    seconds: float

    def __post_init__(self) -> None:
        if self.times.shape != (len(self.sizes), 2) or int(self.sizes.sum()) != len(self.data) or (self.sizes < 1).any():
            raise ValueError("packets that do not fit their sizes")


@reads("clip", PictureError)
class StoredSound:
    """The sound of a clip that is open. facts: its tracks"""

    def __init__(self, path: Path, place: str) -> None:
        self._path, self._place = path, place

    def __enter__(self) -> StoredSound:
        allowed = {"format_whitelist": CONTAINERS, "protocol_whitelist": PROTOCOLS}
        try:
            self._container = av.open(f"file:{self._path}", metadata_errors="replace", options=allowed)
        except (av.error.FFmpegError, OSError):
            raise PictureError(self._place, "its sound cannot be read") from None
        every = self._container.streams.audio
        self._streams = [one for one in every if _can_be_carried(one)][:MOST_TRACKS]
        tracks = tuple(_describe(number, one) for number, one in enumerate(self._streams))
        self.facts = Sound(tracks, len(every) - len(tracks))
        return self

    def __exit__(self, *problem: Any) -> None:
        self._container.close()

    def chunks(self, begin: float, end: float, copied: Sequence[int] = ()) -> Iterator[tuple[int, np.ndarray | Packets]]:
        """(number of the track, (samples, channels) int32, or Packets of the tracks whose numbers are `copied`), all as they come.

        begin, end: seconds from the first frame that is shown. Each track begins at `begin`: what is decoded and starts later is silent
        until then; what is copied has its times. Raises: PictureError where it cannot be read
        """
        video = next(iter(self._container.streams.video), None)
        zero = float((video.start_time or 0) * video.time_base) if video is not None and video.time_base else 0.0
        taken: dict[int, _Gathered | _Copied] = {
            stream.index: (_Copied if track.number in copied else _Gathered)(track, zero + begin, zero + end)
            for track, stream in zip(self.facts.tracks, self._streams, strict=True)
        }
        try:
            for packet in self._packets(zero + begin):
                one = taken[packet.stream.index]
                for chunk in one.take(packet):
                    yield one.track.number, chunk
                if all(each.is_done for each in taken.values()):
                    break
        except av.error.FFmpegError as error:
            raise PictureError(self._place, f"its sound is damaged or cut short: {str(error).splitlines()[0][:120]}") from None
        for one in taken.values():
            if (rest := one.rest()) is not None:
                yield one.track.number, rest

    def _packets(self, begin: float) -> Iterator[Any]:
        if begin > 1:
            with suppress(av.error.FFmpegError):  # from the beginning then
                self._container.seek(int((begin - 1) * 1_000_000))
        return self._container.demux(self._streams)


class _Copied:
    """Packets of a track that have come and not been given yet, from a few before where it begins to where it ends."""

    def __init__(self, track: Track, begin: float, end: float) -> None:
        self.track, self.is_done = track, False
        self._begin, self._end = round(Fraction(begin) / track.unit), round(Fraction(end) / track.unit)
        self._before: deque[tuple[bytes, int, int]] = deque(maxlen=LEAD)
        self._held: list[tuple[bytes, int, int]] = []
        self._reached: int | None = None

    def take(self, packet: Any) -> Iterator[Packets]:
        at = packet.pts if packet.pts is not None else self._reached
        if not packet.size or at is None or self.is_done or (self._reached is not None and at < self._reached - 1):
            return
        self._reached = at + max(int(packet.duration or 0), 1)
        if at >= self._end:
            self.is_done = True
            return
        one = (bytes(packet), at - self._begin, int(packet.duration or 0))
        if self._reached <= self._begin:
            self._before.append(one)
            return
        self._held += [*self._before, one]
        self._before.clear()
        if (self._held[-1][1] - self._held[0][1]) * self.track.unit >= CHUNK and (rest := self.rest()) is not None:
            yield rest

    def rest(self) -> Packets | None:
        if not self._held:
            return None
        held, self._held = self._held, []
        sizes = np.array([len(data) for data, _, _ in held], np.int64)
        times = np.array([[at, lasts] for _, at, lasts in held], np.int64)
        return Packets(
            np.frombuffer(b"".join(data for data, _, _ in held), np.uint8), sizes, times, float(sum(held[-1][1:]) * self.track.unit)
        )


class _Gathered:
    """What has been decoded of a track and not been given yet, cut to where it begins and ends."""

    def __init__(self, track: Track, begin: float, end: float) -> None:
        self.track, self._begin = track, begin
        self._most = round((end - begin) * track.rate)
        self._given, self._held = 0, 0
        self._parts: list[np.ndarray] = []
        self._resampler = av.AudioResampler("s32", track.layout, track.rate)

    @property
    def is_done(self) -> bool:
        return self._given + self._held >= self._most

    def take(self, packet: Any) -> Iterator[np.ndarray]:
        for frame in packet.decode():
            self._gather(frame)
        if self._held >= CHUNK * self.track.rate and (rest := self.rest()) is not None:
            yield rest

    def _gather(self, frame: Any) -> None:
        at = round((float(frame.time or 0) - self._begin) * self.track.rate)
        for one in self._resampler.resample(frame):
            samples = one.to_ndarray().reshape(-1, self.track.channels)
            here = self._given + self._held
            if not here and at > 0:
                self._add(np.zeros((min(at, self._most), self.track.channels), np.int32))
            elif at < 0 and not here:
                skipped = min(-at, len(samples))
                samples, at = samples[skipped:], at + skipped
            self._add(samples)

    def _add(self, samples: np.ndarray) -> None:
        kept = samples[: max(self._most - self._given - self._held, 0)]
        if len(kept):
            self._parts.append(kept)
            self._held += len(kept)

    def rest(self) -> np.ndarray | None:
        if not self._parts:
            return None
        whole = np.ascontiguousarray(np.concatenate(self._parts), np.int32)
        self._given, self._held, self._parts = self._given + len(whole), 0, []
        return whole


def _can_be_carried(stream: Any) -> bool:
    context = stream.codec_context
    return context is not None and 1 <= context.channels <= MOST_CHANNELS and context.sample_rate in RATES


def _describe(number: int, stream: Any) -> Track:
    context = stream.codec_context
    unit = stream.time_base or Fraction(1, context.sample_rate)
    header = bytes(context.extradata or b"")
    return Track(
        number, context.name, context.sample_rate, context.layout.name, context.channels, context.profile or "", header, unit
    )


class SoundReader:
    """The sound of a clip that is open. tracks: what can be carried of it; left_out: how many tracks cannot. Raises: PictureError"""

    def __init__(self, path: Path, name: str = "") -> None:
        place = name or path.name
        self._session = Session(StoredSound, path, place, place=place)

    def __enter__(self) -> SoundReader:
        found: Sound = self._session.open()
        self.tracks, self.left_out = found.tracks, found.left_out
        return self

    def __exit__(self, *problem: Any) -> None:
        self._session.close()

    def chunks(self, begin: float, end: float, copied: Sequence[int] = ()) -> Iterator[tuple[int, np.ndarray | Packets]]:
        """As `StoredSound.chunks`."""
        yield from self._session.each("chunks", begin, end, list(copied))
