"""Sound goes with a clip: as it was where the file takes it, PCM bit for bit, cut where the frames are. Read back by the library itself."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from saucer.core.clips.carrying import Following, copied_into
from saucer.core.clips.sound import Packets, SoundReader, Track
from saucer.core.clips.writing import KINDS, ClipWriter
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
            context = stream.codec_context
            resampler = av.AudioResampler(context.format.name, stream.layout.name, RATE, context.frame_size or None)
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


def begins(path: Path) -> float:
    """Seconds from the first picture to the first sample that is heard."""
    with av.open(str(path)) as container:
        first = next(container.decode(container.streams.audio[0])).time
    with av.open(str(path)) as container:
        return first - next(container.decode(container.streams.video[0])).time


def packets(path: Path, codec: str) -> list[bytes]:
    with av.open(str(path)) as container:
        [stream] = container.streams.audio
        assert stream.codec_context.name == codec
        return [bytes(one) for one in container.demux(stream) if one.size]


@pytest.mark.parametrize(
    ("source", "target", "codec", "decoded"),
    [
        ("in.mp4", "out.mp4", "aac", "aac"),
        ("in.mp4", "out.mov", "aac", "aac"),
        ("in.mov", "out.mp4", "alac", "alac"),
        ("in.mp4", "out.mov", "libmp3lame", "mp3float"),
        ("in.mp4", "out.mkv", "ac3", "ac3"),
        ("in.mov", "out.mov", "pcm_s16be", "pcm_s16be"),
        ("in.mov", "out.mov", "pcm_f32le", "pcm_f32le"),
        ("in.mkv", "out.mkv", "libopus", "opus"),
        ("in.mkv", "out.mkv", "flac", "flac"),
    ],
)
def test_what_the_file_takes_is_copied_byte_for_byte(tmp_path: Path, source: str, target: str, codec: str, decoded: str):
    """And heard at the same time."""
    given = clip(tmp_path / source, [tone(2, 2)], codec)
    made = graded(given, tmp_path / target)
    kept, there = packets(given, decoded), packets(made, decoded)
    if decoded.startswith("pcm_"):  # which a file cuts into packets as it likes
        kept, there = [b"".join(kept)], [b"".join(there)]
    assert there == kept[: len(there)]
    assert len(kept) - len(there) <= 2, "what lies behind the last picture is left"
    before, after = heard(given), heard(made)
    assert np.array_equal(after[: RATE * 7 // 4], before[: RATE * 7 // 4])
    assert begins(made) == pytest.approx(begins(given), abs=0.001)


@pytest.mark.parametrize("codec", ["aac", "alac"])
def test_a_cut_of_what_is_copied_begins_at_the_sample(tmp_path: Path, codec: str):
    """In the middle of a packet: which decoders are told by the file's edit list. Read with the library as any player would."""
    given = clip(tmp_path / "in.mov", [tone(2, 2)], codec)
    target, kind = tmp_path / "out.mp4", KINDS["h264"]
    with SoundReader(given) as sound:
        copied = copied_into(".mp4", sound.tracks, starts=False, ends=False)
        assert copied == (0,)
        with ClipWriter(target, kind, 64, 48, Fraction(24), sound=sound.tracks, copied=copied) as writer:
            along = Following(sound.chunks(0.5, 1.5, copied), writer.sound)
            for _ in range(24):
                writer.write(np.zeros((48, 64, 3), np.float32))
            along.finish()
            assert not along.problem
    before, after = heard(given).astype(np.float64), heard(target).astype(np.float64)
    assert RATE <= len(after) <= RATE * 1.05
    assert begins(target) == pytest.approx(0, abs=0.001)
    # The first packet of AAC is half of what it was without the one before it; noise is filled in anew.
    assert np.abs(after[2048:RATE] - before[RATE // 2 + 2048 : RATE // 2 + RATE]).max() < 2**31 * 1e-4


def test_what_is_cut_without_an_edit_list_or_is_not_plain_aac_is_coded_anew():
    def track(codec: str, profile: str = "") -> Track:
        return Track(0, codec, RATE, "stereo", 2, profile)

    plain, efficient, samples = track("aac", "LC"), track("aac", "HE-AAC"), track("pcm_s16le")
    assert copied_into(".mov", [plain], False, False) == (0,)
    assert copied_into(".mkv", [plain], False, True) == ()
    assert copied_into(".mkv", [plain], True, False) == (0,)
    assert copied_into(".mov", [efficient], True, True) == ()
    assert copied_into(".mov", [samples], True, True) == (0,)
    assert copied_into(".mov", [samples], True, False) == ()
    assert copied_into(".mp4", [samples], True, True) == ()
    odd = Track(0, "ac3", 22_050, "stereo", 2)
    assert copied_into(".mp4", [odd], True, True) == (), "of which the library has no coder"


def test_packets_that_do_not_fit_their_sizes_are_no_packets():
    for sizes, shape in (([3, 3], (2, 2)), ([4, 0], (2, 2)), ([4], (2, 2)), ([4], (1, 3))):
        with pytest.raises(ValueError, match="do not fit"):
            Packets(np.zeros(4, np.uint8), np.array(sizes, np.int64), np.zeros(shape, np.int64), 1.0)


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
            return len(samples) / RATE

    along = Following(chunks(), Writer())
    along.go_to(0.25)
    along.go_to(2)
    along.finish()
    assert (written, along.problem) == ([(0, RATE // 2)], "its sound is damaged or cut short")
