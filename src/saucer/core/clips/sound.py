"""The sound of a clip: decoded in a reader's process, as its video is, and coded again into the clip that is made of it.

Samples are 32-bit integers on the way: PCM of up to 24 bits in a .mov comes out bit for bit. What goes into an .mp4 becomes AAC.
"""

from __future__ import annotations

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
HIGHEST_AAC = 96_000
CHUNK = 0.5
"""Seconds of a track that come at a time."""
CODECS = {".mp4": "aac", ".mov": "pcm_s24le", ".mkv": "pcm_s24le"}
BITS_A_CHANNEL = 160_000
"""A second, of AAC."""


@passed
@dataclass(frozen=True)
class Track:
    """number: among those of the file that are carried, from 0; rate: samples a second; layout: the library's name of its channels"""

    number: int
    codec: str
    rate: int
    layout: str
    channels: int


@passed
@dataclass(frozen=True)
class Sound:
    """tracks: those that can be carried; left_out: how many cannot; problem: why what was carried breaks off"""

    tracks: tuple[Track, ...]
    left_out: int
    problem: str = ""


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

    def chunks(self, begin: float, end: float) -> Iterator[tuple[int, np.ndarray]]:
        """(number of the track, (samples, channels) int32), all tracks as they come. begin, end: seconds from the first frame that is shown

        Each track begins at `begin`: what starts later is silent until then. Raises: PictureError where it cannot be decoded
        """
        video = next(iter(self._container.streams.video), None)
        zero = float((video.start_time or 0) * video.time_base) if video is not None and video.time_base else 0.0
        gathered = [_Gathered(track, zero + begin, zero + end) for track in self.facts.tracks]
        places = {stream.index: number for number, stream in enumerate(self._streams)}
        try:
            for frame in self._decoded(zero + begin):
                number = places[frame[0]]
                if (chunk := gathered[number].take(frame[1])) is not None:
                    yield number, chunk
                if all(one.is_done for one in gathered):
                    break
        except av.error.FFmpegError as error:
            raise PictureError(self._place, f"its sound is damaged or cut short: {str(error).splitlines()[0][:120]}") from None
        for number, one in enumerate(gathered):
            if (rest := one.rest()) is not None:
                yield number, rest

    def _decoded(self, begin: float) -> Iterator[tuple[int, Any]]:
        if begin > 1:
            with suppress(av.error.FFmpegError):  # from the beginning then
                self._container.seek(int((begin - 1) * 1_000_000))
        for packet in self._container.demux(self._streams):
            for frame in packet.decode():
                yield packet.stream.index, frame


class _Gathered:
    """What has been decoded of a track and not been given yet, cut to where it begins and ends."""

    def __init__(self, track: Track, begin: float, end: float) -> None:
        self._track, self._begin = track, begin
        self._most = round((end - begin) * track.rate)
        self._given, self._held = 0, 0
        self._parts: list[np.ndarray] = []
        self._resampler = av.AudioResampler("s32", track.layout, track.rate)

    @property
    def is_done(self) -> bool:
        return self._given + self._held >= self._most

    def take(self, frame: Any) -> np.ndarray | None:
        at = round((float(frame.time or 0) - self._begin) * self._track.rate)
        for one in self._resampler.resample(frame):
            samples = one.to_ndarray().reshape(-1, self._track.channels)
            here = self._given + self._held
            if not here and at > 0:
                self._add(np.zeros((min(at, self._most), self._track.channels), np.int32))
            elif at < 0 and not here:
                skipped = min(-at, len(samples))
                samples, at = samples[skipped:], at + skipped
            self._add(samples)
        return self.rest() if self._held >= CHUNK * self._track.rate else None

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
    return Track(number, context.name, context.sample_rate, context.layout.name, context.channels)


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

    def chunks(self, begin: float, end: float) -> Iterator[tuple[int, np.ndarray]]:
        """As `StoredSound.chunks`."""
        yield from self._session.each("chunks", begin, end)


class SoundWriter:
    """The tracks of a clip that is being written into `container`, beside its video. suffix: of the file"""

    def __init__(self, container: Any, suffix: str, tracks: Sequence[Track]) -> None:
        self._container, self._tracks = container, tracks
        codec = CODECS[suffix]
        self._streams, self._resamplers = [], []
        for track in tracks:
            rate = min(track.rate, HIGHEST_AAC) if codec == "aac" else track.rate
            stream = container.add_stream(codec, rate=rate, layout=track.layout)
            if codec == "aac":
                stream.bit_rate = BITS_A_CHANNEL * track.channels
            self._streams.append(stream)
            self._resamplers.append(av.AudioResampler("fltp" if codec == "aac" else "s32", track.layout, rate))
        self._counts = [0] * len(tracks)

    def put(self, number: int, samples: np.ndarray) -> None:
        """(samples, channels) int32, the next ones of a track."""
        track = self._tracks[number]
        frame = av.AudioFrame.from_ndarray(samples.reshape(1, -1), format="s32", layout=track.layout)
        frame.sample_rate, frame.pts, frame.time_base = track.rate, self._counts[number], Fraction(1, track.rate)
        self._counts[number] += len(samples)
        for one in self._resamplers[number].resample(frame):
            self._container.mux(self._streams[number].encode(one))

    def finish(self) -> None:
        for stream, resampler in zip(self._streams, self._resamplers, strict=True):
            for one in resampler.resample(None):
                self._container.mux(stream.encode(one))
            self._container.mux(stream.encode(None))


class Following:
    """Sound that goes along with frames as they are written: as much of it as they have lasted.

    problem: why it breaks off, where it is damaged; the pictures go on without it
    """

    def __init__(self, chunks: Iterator[tuple[int, np.ndarray]], tracks: Sequence[Track], writer: SoundWriter) -> None:
        self._chunks, self._tracks, self._writer = chunks, tracks, writer
        self.problem = ""
        self._reached = 0.0
        self._lasted = [0.0] * len(tracks)

    def go_to(self, seconds: float) -> None:
        while self._reached < seconds and (chunk := self._next()) is not None:
            number, samples = chunk
            self._writer.put(number, samples)
            self._lasted[number] += len(samples) / self._tracks[number].rate
            self._reached = max(self._lasted)

    def _next(self) -> tuple[int, np.ndarray] | None:
        try:
            return next(self._chunks, None)
        except PictureError as error:
            self.problem, self._chunks = error.problem, iter(())
            return None

    def finish(self) -> None:
        self.go_to(float("inf"))
