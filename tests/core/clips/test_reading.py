from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from saucer.core.clips.coding import Coding
from saucer.core.clips.reading import ClipReader, inspect_clip
from saucer.core.errors import PictureError
from tests.clips import moving, psnr, write

CODECS = [
    ("a.mp4", "libx264", "yuv420p", 8, "4:2:0"), ("a.mp4", "libx264", "yuv422p10le", 10, "4:2:2"), ("a.mp4", "libx265", "yuv420p10le", 10, "4:2:0"),
    ("a.mov", "prores_ks", "yuv422p10le", 10, "4:2:2"), ("a.mov", "prores_ks", "yuva444p10le", 12, "4:4:4"), ("a.avi", "mjpeg", "yuvj420p", 8, "4:2:0"),
    ("a.mkv", "ffv1", "yuv444p12le", 12, "4:4:4"), ("a.mov", "png", "rgb48be", 16, "RGB"), ("a.mkv", "ffv1", "gray10le", 10, "grey"),
    ("a.mov", "dnxhd", "yuv422p10le", 10, "4:2:2"), ("a.mov", "dnxhd", "yuv444p10le", 10, "4:4:4"),
]  # fmt: skip


@pytest.mark.parametrize(("name", "codec", "pixels", "bits", "chroma"), CODECS)
def test_every_codec_comes_back_as_it_went_in(tmp_path: Path, name, codec, pixels, bits, chroma):
    size = (256, 128) if codec == "dnxhd" else (64, 48)  # the smallest that DNxHR holds
    profiles = {"yuv422p10le": "dnxhr_hqx", "yuv444p10le": "dnxhr_444"}
    options = {"crf": "4"} if codec.startswith("lib") else {"profile": profiles[pixels]} if codec == "dnxhd" else {}
    tags = {"colorspace": 1} if codec == "dnxhd" else {}  # its header says BT.709 where nothing else is said
    path = write(tmp_path / name, codec, pixels, 6, size=size, options=options, tags=tags)
    with ClipReader(path) as reader:
        info = reader.info
        assert (info.width, info.height, info.count, info.bits, info.chroma) == (*size, 6, bits, chroma)
        assert info.rate == 24
        assert not info.variable
        found = [frame.rgb() for frame in reader.frames()]
    wanted = [moving(number, *size) for number in range(6)]
    if chroma == "grey":
        assert all(np.ptp(frame, axis=-1).max() < 1e-6 for frame in found)
        return
    assert min(psnr(one, other) for one, other in zip(found, wanted, strict=True)) > (30 if codec == "mjpeg" else 36)


def test_frames_between_key_frames_are_found_in_any_order(tmp_path: Path):
    """Frames that are stored out of order, with a key frame every twelve."""
    path = write(tmp_path / "a.mp4", options={"g": "12", "bf": "3", "crf": "6"}, count=40)
    with ClipReader(path) as reader:
        assert reader.info.count == 40
        for number in (39, 0, 17, 18, 19, 11, 12, 13, 30, 5):
            frame = reader.frame(number)
            assert frame.number == number
            errors = [np.abs(frame.rgb() - moving(other)).mean() for other in range(40)]
            assert int(np.argmin(errors)) == number
        assert [frame.number for frame in reader.frames(7, 21)] == list(range(7, 22))


def test_ten_bits_do_not_go_through_eight(tmp_path: Path):
    """A ramp of neighbouring 10-bit codes keeps every step. ITU-R BT.709-6, 10 bit: black 64, white 940"""
    path = tmp_path / "ramp.mkv"
    with av.open(str(path), "w") as container:
        stream = container.add_stream("ffv1", rate=24)
        stream.width, stream.height, stream.pix_fmt = 64, 16, "yuv444p10le"
        frame = av.VideoFrame(64, 16, "yuv444p10le")
        for plane, values in zip(frame.planes, (np.arange(500, 564), np.full(64, 512), np.full(64, 512)), strict=True):
            np.frombuffer(plane, np.uint16).reshape(16, -1)[:, :64] = values
        frame.color_range, frame.colorspace = 1, 1
        container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    with ClipReader(path) as reader:
        row = reader.frame(0).rgb()[3]
    assert np.abs(row[:, 0] - (np.arange(500, 564) - 64) / 876).max() < 1e-6
    assert np.ptp(row, axis=-1).max() < 1e-6


@pytest.mark.parametrize(
    ("size", "tags", "matrix", "full", "matrix_from", "range_from"),
    [
        ((64, 48), {}, "bt601", False, "size", "size"), ((1280, 720), {}, "bt709", False, "size", "size"),
        ((64, 48), {"colorspace": 1, "color_range": 2}, "bt709", True, "file", "file"),
        ((1280, 720), {"colorspace": 6, "color_range": 1}, "bt601", False, "file", "file"),
        ((64, 48), {"colorspace": 9, "color_range": 1, "color_primaries": 9, "color_trc": 16}, "bt2020", False, "file", "file"),
    ],
)  # fmt: skip
def test_matrix_and_range_come_from_tags_else_from_size(tmp_path: Path, size, tags, matrix, full, matrix_from, range_from):
    info = inspect_clip(write(tmp_path / "a.mp4", count=2, size=size, tags=tags))
    assert info.coding == Coding(matrix, full)
    assert (info.matrix_from, info.range_from) == (matrix_from, range_from)
    assert info.encoding == ("pq" if tags.get("color_trc") == 16 else "rec709")


def test_what_a_person_says_of_a_clip_comes_first(tmp_path: Path):
    path = write(tmp_path / "a.mp4", count=2, tags={"colorspace": 1, "color_range": 1}, options={"crf": "4"})
    with ClipReader(path) as reader, ClipReader(path, said=Coding("bt709", True)) as other:
        as_tagged, as_said = reader.frame(0).rgb(), other.frame(0).rgb()
    # Limited codes taken as full ones: black is lifted by 16/255, the span shrinks to 219/255.
    assert np.abs(as_said.mean(axis=-1) - (as_tagged.mean(axis=-1) * 219 + 16) / 255).max() < 0.01


def test_frames_of_unequal_length_are_told_and_counted(tmp_path: Path):
    info = inspect_clip(write(tmp_path / "a.mp4", count=5, times=[0, 40, 200, 240, 280]))
    assert (info.count, info.variable) == (5, True)
    assert not inspect_clip(write(tmp_path / "b.mp4", count=30, rate=Fraction(30000, 1001))).variable


def test_timecode_and_odd_sizes(tmp_path: Path):
    info = inspect_clip(write(tmp_path / "a.mov", "prores_ks", "yuv422p10le", 3, size=(63, 47), timecode="10:11:12:13"))
    assert (info.width, info.height, info.timecode) == (63, 47, "10:11:12:13")


def test_a_turned_clip_stands_upright(tmp_path: Path):
    """By the display matrix of ISO/IEC 14496-12, 8.3.2, written into the track header by hand."""
    plain = write(tmp_path / "a.mp4", count=2, options={"crf": "4"})
    data = bytearray(plain.read_bytes())
    at = data.index(b"tkhd") + 4 + 40  # version and flags, times, id, duration, reserved, layer, group, volume
    one = 0x10000
    matrix = [0, one, 0, -one & 0xFFFFFFFF, 0, 0, 48 * one, 0, 0x40000000]  # a quarter turn with the clock
    data[at : at + 36] = b"".join(value.to_bytes(4, "big") for value in matrix)
    (tmp_path / "turned.mp4").write_bytes(data)
    with ClipReader(tmp_path / "turned.mp4") as reader:
        assert (reader.info.width, reader.info.height) == (48, 64)
        assert psnr(reader.frame(1).rgb(), np.rot90(moving(1), -1)) > 30


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda path: path.write_bytes(b"not a clip" * 50), "not a clip that can be read"),
        (lambda path: write(path, options={"x264-params": "interlaced=1"}, count=4), "interlaced"),
        (lambda path: path.write_bytes(write(path, count=30).read_bytes()[:600]), "not a clip that can be read"),
    ],
)
def test_what_cannot_be_used_is_refused_in_words(tmp_path: Path, make, words):
    path = tmp_path / "a.mp4"
    make(path)
    if words == "interlaced":
        # The encoder is told that fields come one after the other; frames say so when they are decoded.
        pass
    with pytest.raises(PictureError, match=words):
        inspect_clip(path)


def test_a_clip_cut_short_says_at_which_frame(tmp_path: Path):
    path = write(tmp_path / "a.mkv", "ffv1", "yuv444p10le", 20, options={"slicecrc": "1"})
    whole = path.read_bytes()
    path.write_bytes(whole[: len(whole) // 2])
    with ClipReader(path) as reader:
        count = reader.info.count
        assert 4 < count < 16
        assert reader.frame(2).rgb().shape == (48, 64, 3)
        with pytest.raises(PictureError, match=f"frames 0 to {count - 1}, got 19"):
            reader.frame(19)


@pytest.mark.parametrize("rate", [Fraction(24000, 1001), Fraction(30000, 1001), Fraction(25), Fraction(60000, 1001)])
def test_times_that_a_container_rounds_are_no_variable_rate(tmp_path: Path, rate):
    """Matroska keeps times in milliseconds (RFC 9559, TimestampScale): at 23.976 frames are 41 and 42 long."""
    times = [round(number * 1000 / float(rate)) for number in range(40)]
    with ClipReader(write(tmp_path / "a.mkv", "ffv1", "yuv420p", 40, rate, times=times)) as reader:
        assert not reader.info.variable
        assert reader.info.count == 40
    times[20:] = [one + 25 for one in times[20:]]
    with ClipReader(write(tmp_path / "b.mkv", "ffv1", "yuv420p", 40, rate, times=times)) as reader:
        assert reader.info.variable
