"""Sound goes with a clip: PCM bit for bit, AAC as sound, cut where the frames are, each track where it was. Read back by the library itself."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from saucer.core.clips.sound import Following, SoundReader, Track
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.engine.moving import grade_clip
from saucer.core.errors import PictureError
from saucer.core.look.model import look_text
from tests.clips import frames
from tests.core.test_cli import saucer
from tests.make import a_look

LOOK = a_look({"kind": "saturation", "factor": 0.5}, input="rec709", output="rec709")
RATE = 48_000


def tone(seconds: float, channels: int, hertz: float = 440.0) -> np.ndarray:
    """(samples, channels) int32 whose lowest 8 bits are empty: 24 bits of sound. Each channel an octave above the last."""
    at = np.arange(round(seconds * RATE)) / RATE
    waves = np.stack([0.4 * np.sin(2 * np.pi * hertz * 2**channel * at) for channel in range(channels)], axis=1)
    return np.asarray(np.round(waves * (2**23 - 1)), np.int32) << 8


def clip(path: Path, tracks: list[np.ndarray], codec: str = "pcm_s24le", count: int = 48, late: float = 0.0) -> Path:
    """Two seconds of video at 24 frames a second with these tracks; late: seconds by which they begin after it."""
    video_codec, pixels = ("prores_ks", "yuv422p10le") if path.suffix == ".mov" else ("libx264", "yuv420p")
    with av.open(str(path), "w") as container:
        video: Any = container.add_stream(video_codec, rate=24)
        video.width, video.height, video.pix_fmt = 64, 48, pixels
        sounds = [container.add_stream(codec, rate=RATE, layout={1: "mono", 2: "stereo"}[one.shape[1]]) for one in tracks]
        for number, frame in enumerate(frames(count, (64, 48), pixels, {})):
            frame.pts, frame.time_base = number, Fraction(1, 24)
            container.mux(video.encode(frame))
        container.mux(video.encode(None))
        for samples, stream in zip(tracks, sounds, strict=True):
            one = av.AudioFrame.from_ndarray(samples.reshape(1, -1), format="s32", layout=stream.layout.name)
            one.sample_rate, one.pts, one.time_base = RATE, round(late * RATE), Fraction(1, RATE)
            resampler = av.AudioResampler("fltp" if codec == "aac" else "s32", stream.layout.name, RATE)
            for part in [*resampler.resample(one), *resampler.resample(None)]:
                container.mux(stream.encode(part))
            container.mux(stream.encode(None))
    return path


def heard(path: Path, track: int = 0) -> np.ndarray:
    """(samples, channels) int32 as the library decodes it, from the time 0 on."""
    with av.open(str(path)) as container:
        stream = container.streams.audio[track]
        resampler = av.AudioResampler("s32", stream.layout.name, stream.rate)
        parts = [part.to_ndarray() for frame in container.decode(stream) for part in resampler.resample(frame)]
        parts += [part.to_ndarray() for part in resampler.resample(None)]
        return np.concatenate(parts, axis=1).reshape(-1, stream.channels)


def graded(source: Path, target: Path) -> Path:
    grade_clip(Grade.of_look(LOOK), source, target, ENCODINGS["rec709"], ENCODINGS["rec709"])
    return target


def test_pcm_comes_out_bit_for_bit_on_every_track(tmp_path: Path):
    tracks = [tone(2, 2), tone(2, 1, 300)]
    made = graded(clip(tmp_path / "in.mov", tracks), tmp_path / "out.mov")
    for number, samples in enumerate(tracks):
        assert np.array_equal(heard(made, number), samples)
    with av.open(str(made)) as container:
        assert [one.codec_context.name for one in container.streams.audio] == ["pcm_s24le"] * 2
        assert container.streams.video[0].frames == 48


@pytest.mark.parametrize(("source", "codec"), [("in.mov", "pcm_s24le"), ("in.mp4", "aac")])
def test_an_mp4_takes_it_as_aac(tmp_path: Path, source: str, codec: str):
    samples = tone(2, 2)
    made = graded(clip(tmp_path / source, [samples], codec), tmp_path / "out.mp4")
    with av.open(str(made)) as container:
        [stream] = container.streams.audio
        assert (stream.codec_context.name, stream.rate, stream.channels) == ("aac", RATE, 2)
        assert float(stream.duration * stream.time_base) == pytest.approx(2, abs=0.05)
    found = heard(made).astype(np.float64)
    middle = slice(RATE // 2, RATE)
    for channel, hertz in enumerate((440, 880)):
        spectrum = np.abs(np.fft.rfft(found[middle, channel]))
        assert int(spectrum.argmax()) * 2 == hertz
    assert np.abs(found[middle]).max() / 2**31 == pytest.approx(0.4, abs=0.06)


def test_it_is_cut_where_the_frames_are_and_is_silent_before_it_begins(tmp_path: Path):
    samples = tone(2, 1)
    with SoundReader(clip(tmp_path / "in.mov", [samples])) as sound:
        part = np.concatenate([chunk for _, chunk in sound.chunks(0.5, 1.25)])
    assert np.array_equal(part, samples[RATE // 2 : RATE // 2 + round(0.75 * RATE)])
    with SoundReader(clip(tmp_path / "late.mov", [samples], late=0.25)) as sound:
        whole = np.concatenate([chunk for _, chunk in sound.chunks(0, 2)])
    assert len(whole) == 2 * RATE
    assert not whole[: RATE // 4].any()
    assert np.array_equal(whole[RATE // 4 :], samples[: len(whole) - RATE // 4])


def test_a_clip_without_sound_stays_so_and_sound_is_left_out_when_asked(tmp_path: Path):
    (tmp_path / "look.json").write_text(look_text(LOOK))
    clip(tmp_path / "still.mov", [])
    clip(tmp_path / "loud.mov", [tone(2, 2)])
    given = ("apply", "look.json", "loud.mov", "--picture-encoding", "rec709")
    assert saucer(tmp_path, "apply", "look.json", "still.mov", "-o", "one.mov").returncode == 0
    assert saucer(tmp_path, *given, "-o", "two.mov").returncode == 0
    assert saucer(tmp_path, *given, "-o", "three.mov", "--no-sound").returncode == 0
    counts = []
    for name in ("one", "two", "three"):
        with av.open(str(tmp_path / f"{name}.mov")) as container:
            counts.append(len(container.streams.audio))
    assert counts == [0, 1, 0]


def test_sound_that_breaks_off_leaves_the_clip_whole(tmp_path: Path):
    """Shorter than the picture: the rest is silence, by there being nothing."""
    samples = tone(0.7, 1)
    made = graded(clip(tmp_path / "in.mov", [samples]), tmp_path / "out.mov")
    assert np.array_equal(heard(made), samples)
    with av.open(str(made)) as container:
        assert container.streams.video[0].frames == 48


def test_sound_that_is_damaged_costs_no_picture():
    """It breaks off where it cannot be decoded, and says so."""

    def chunks():
        yield 0, tone(0.5, 1)
        raise PictureError("a.mov", "its sound is damaged or cut short")

    written = []

    class Writer:
        def put(self, number, samples):
            written.append((number, len(samples)))

    along = Following(chunks(), (Track(0, "pcm_s24le", RATE, "mono", 1),), Writer())
    along.go_to(0.25)
    along.go_to(2)
    along.finish()
    assert (written, along.problem) == ([(0, RATE // 2)], "its sound is damaged or cut short")
