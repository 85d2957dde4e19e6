"""What goes with a clip beside its colours: alpha, the shape of its pixels, the display that an HDR picture was made on; or is told."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from saucer.core.clips.coding import Mastering, mastering_of
from saucer.core.clips.reading import ClipReader, inspect_clip
from saucer.core.clips.writing import KINDS, ClipWriter
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.engine.moving import grade_clip, shown_evenly, ticks_of
from saucer.core.look.model import look_from
from saucer.core.pictures.scale import held_to
from tests.clips import moving, write
from tests.core.test_cli import saucer

SIZE = (64, 48)
WARM = Grade.of_look(look_from({"input": "rec709", "output": "rec709", "steps": [{"kind": "white-balance", "warm": 20}]}))


def alpha_of(number: int, peak: int) -> np.ndarray:
    """(h, w): a wedge that moves."""
    wedge = np.linspace(0, 1, SIZE[0])[None, :] * np.linspace(1, 0.2, SIZE[1])[:, None]
    return np.round(np.roll(wedge, 5 * number, axis=1) * peak).astype(np.uint16)


def see_through(path: Path, codec: str, pixels: str, bits: int, count: int = 4) -> Path:
    """A clip with alpha, written by the library itself."""
    with av.open(str(path), "w") as container:
        stream: Any = container.add_stream(codec, rate=24)
        stream.width, stream.height, stream.pix_fmt = *SIZE, pixels
        for number in range(count):
            codes = (moving(number, *SIZE) * 65535 + 0.5).astype(np.uint16)
            frame = av.VideoFrame.from_ndarray(codes, format="rgb48le").reformat(format=pixels, dst_colorspace=1)
            plane = frame.planes[3]
            kind = np.uint8 if bits == 8 else np.uint16
            target = np.frombuffer(plane, kind).reshape(-1, plane.line_size // np.dtype(kind).itemsize)
            target[: SIZE[1], : SIZE[0]] = alpha_of(number, 2**bits - 1)
            frame.pts = number
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    return path


def alphas(path: Path) -> list[np.ndarray]:
    """By the library's own decoder, 0..1."""
    found = []
    with av.open(str(path)) as container:
        for frame in container.decode(video=0):
            bits, plane = frame.format.components[3].bits, frame.planes[3]
            kind = np.uint8 if bits == 8 else np.uint16
            rows = np.frombuffer(plane, kind).reshape(-1, plane.line_size // np.dtype(kind).itemsize)
            found.append(rows[: SIZE[1], : SIZE[0]] / (2**bits - 1))
    return found


SOURCES = [("ffv1", "yuva444p", 8), ("ffv1", "yuva444p10le", 10), ("prores_ks", "yuva444p10le", 10)]


@pytest.mark.parametrize(("codec", "pixels", "bits"), SOURCES)
@pytest.mark.parametrize("kind", ["ffv1", "prores4444"])
def test_alpha_goes_with_the_frames_where_the_target_holds_one(tmp_path, codec, pixels, bits, kind):
    source = see_through(tmp_path / f"in{'.mkv' if codec == 'ffv1' else '.mov'}", codec, pixels, bits)
    assert inspect_clip(source).alpha
    target = tmp_path / f"out{KINDS[kind].suffix}"
    grade_clip(WARM, source, target, codec=kind)
    before, after = alphas(source), alphas(target)
    assert len(after) == 4
    for one, other in zip(before, after, strict=True):
        assert np.abs(one - other).max() <= 1 / 1023, "to within half a code of ten bits, and the source's own"
    with ClipReader(source) as reader, ClipReader(target) as graded:
        change = np.abs(graded.frame(2).rgb() - WARM(reader.frame(2).rgb(), ENCODINGS["rec709"], ENCODINGS["rec709"])).mean()
        assert change < 0.01


def test_alpha_that_cannot_go_is_said_before(tmp_path):
    see_through(tmp_path / "in.mkv", "ffv1", "yuva444p", 8)
    (tmp_path / "warm.json").write_text(look_from({"steps": [{"kind": "white-balance", "warm": 20}]}).model_dump_json())
    told = saucer(tmp_path, "apply", "warm.json", "in.mkv", "-o", "out.mp4").stdout
    assert "its alpha is left out: H.264, 8 bit, 4:2:0 holds none" in told
    assert not inspect_clip(tmp_path / "out.mp4").alpha
    kept = saucer(tmp_path, "apply", "warm.json", "in.mkv", "-o", "out.mkv").stdout
    assert "alpha" not in kept


@pytest.mark.parametrize("aspect", [Fraction(16, 15), Fraction(2), Fraction(8, 9)])
@pytest.mark.parametrize("kind", ["h264", "prores", "prores4444", "h265"])
def test_pixels_keep_their_shape(tmp_path, aspect, kind):
    with av.open(str(tmp_path / "in.mp4"), "w") as container:
        stream: Any = container.add_stream("libx264", rate=24)
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        stream.codec_context.sample_aspect_ratio = aspect
        for number in range(3):
            frame = av.VideoFrame.from_ndarray((moving(number, *SIZE) * 255).astype(np.uint8), format="rgb24")
            frame.pts = number
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    assert inspect_clip(tmp_path / "in.mp4").aspect == aspect
    target = tmp_path / f"out{KINDS[kind].suffix}"
    grade_clip(WARM, tmp_path / "in.mp4", target, codec=kind)
    with av.open(str(target)) as container:
        assert container.streams.video[0].sample_aspect_ratio == aspect
    assert inspect_clip(target).aspect == aspect


def test_where_their_shape_cannot_be_said_it_is_told(tmp_path):
    with av.open(str(tmp_path / "in.mov"), "w") as container:
        stream: Any = container.add_stream("prores_ks", rate=24)
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv422p10le"
        stream.codec_context.sample_aspect_ratio = Fraction(2)
        frame = av.VideoFrame.from_ndarray((moving(0, *SIZE) * 255).astype(np.uint8), format="rgb24")
        container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    (tmp_path / "warm.json").write_text(look_from({"steps": [{"kind": "white-balance", "warm": 20}]}).model_dump_json())
    told = saucer(tmp_path, "apply", "warm.json", "in.mov", "-o", "out.mkv").stdout
    assert "that its pixels are 2 as wide as high is left out" in told


def test_square_pixels_are_said_to_be_nothing_else(tmp_path):
    source = write(tmp_path / "in.mp4", count=2)
    assert inspect_clip(source).aspect == 1


def test_the_display_that_an_hdr_picture_was_made_on_stands_in_the_file_and_goes_on(tmp_path):
    """PQ of 1,000 cd/m2 on BT.2020 primaries: red 0.708, 0.292, white 0.3127, 0.3290 (ITU-R BT.2020-2, table 3)."""
    wanted = Mastering((35400, 14600, 8500, 39850, 6550, 2300, 15635, 16450), 10_000_000, 1)
    pq = ENCODINGS["pq-1000"]
    assert mastering_of(pq) == wanted
    with ClipWriter(tmp_path / "a.mp4", KINDS["h265"], *SIZE, Fraction(24), pq) as writer:
        for number in range(3):
            writer.write(moving(number, *SIZE) * 0.6)
    assert inspect_clip(tmp_path / "a.mp4").mastering == wanted
    same = Grade.of_look(look_from({"input": "pq", "output": "pq", "steps": []}))
    grade_clip(same, tmp_path / "a.mp4", tmp_path / "b.mp4", codec="h265")
    assert inspect_clip(tmp_path / "b.mp4").mastering == wanted, "PQ itself says no display: the source's goes on"
    to_sdr = Grade.of_look(look_from({"input": "pq", "output": "rec709", "steps": [{"kind": "convert", "to": "rec709"}]}))
    grade_clip(to_sdr, tmp_path / "a.mp4", tmp_path / "c.mp4", codec="h265")
    assert inspect_clip(tmp_path / "c.mp4").mastering is None


def test_a_display_that_nobody_has_named_is_not_made_up(tmp_path):
    with ClipWriter(tmp_path / "a.mp4", KINDS["h265"], *SIZE, Fraction(24), ENCODINGS["pq"]) as writer:
        writer.write(moving(0, *SIZE) * 0.6)
    assert inspect_clip(tmp_path / "a.mp4").mastering is None


@pytest.mark.parametrize("count", [1, 2])
def test_a_clip_of_one_or_two_frames_has_times_of_decoding(tmp_path, count):
    """libx265 leaves them to chance, so each is tried a few times; a fault that shows in a quarter of them shows."""
    for number in range(8):
        path = tmp_path / f"{number}.mp4"
        with ClipWriter(path, KINDS["h265"], *SIZE, Fraction(24), ENCODINGS["pq"]) as writer:
            for frame in range(count):
                writer.write(moving(frame, *SIZE) * 0.6)
        with av.open(str(path)) as container:
            times = [(packet.pts, packet.dts) for packet in container.demux(video=0) if packet.pts is not None]
        assert len(times) == count
        assert all(shown == decoded for shown, decoded in times)


def test_a_smaller_copy_is_averaged_in_light_and_keeps_its_alpha(tmp_path):
    """Stripes of black and white as wide as a pixel come to the light of one half, not the code of one half."""
    stripes = np.zeros((*SIZE[::-1], 3), np.float32)
    stripes[:, ::2] = 1
    with ClipWriter(tmp_path / "in.mkv", KINDS["ffv1"], *SIZE, Fraction(24), ENCODINGS["rec709"]) as writer:
        for _ in range(3):
            writer.write(stripes)
    plain = Grade.of_look(look_from({"input": "rec709", "output": "rec709", "steps": []}))
    grade_clip(plain, tmp_path / "in.mkv", tmp_path / "out.mkv", lines=24)
    with ClipReader(tmp_path / "out.mkv") as reader:
        assert (reader.info.width, reader.info.height, reader.info.count) == (32, 24, 3)
        assert reader.frame(1).rgb() == pytest.approx(0.5 ** (1 / 2.4), abs=0.002), "ITU-R BT.1886: a power of 2.4"
    see_through(tmp_path / "a.mkv", "ffv1", "yuva444p", 8, 2)
    assert saucer(tmp_path, "apply", *_plain(tmp_path), "a.mkv", "-o", "b.mkv", "--lines", "32").returncode == 0
    with av.open(str(tmp_path / "b.mkv")) as container:
        frame = next(container.decode(video=0))
        plane = np.frombuffer(frame.planes[3], np.uint16).reshape(-1, frame.planes[3].line_size // 2)[:32, :42] / 65535
    whole = alphas(tmp_path / "a.mkv")[0]
    assert abs(plane.mean() - whole.mean()) < 0.01
    refused = saucer(tmp_path, "apply", *_plain(tmp_path), "a.mkv", "-o", "c.mkv", "--lines", "8")
    assert "must be from 32" in refused.stderr


def _plain(folder: Path) -> list[str]:
    (folder / "plain.json").write_text(look_from({"steps": []}).model_dump_json())
    return ["plain.json"]


@pytest.mark.parametrize(
    ("size", "lines", "wanted"),
    [((1920, 1080), 0, (1920, 1080)), ((1920, 1080), 1080, (1920, 1080)), ((1920, 1080), 540, (960, 540)), ((4096, 1716), 720, (1718, 720)),
     ((100, 2000), 33, (2, 32)), ((720, 480), 1080, (720, 480))],
)  # fmt: skip
def test_smaller_copies_keep_their_shape_and_are_never_larger(size, lines, wanted):
    assert held_to(*size, lines) == wanted


def shown_at(path: Path) -> list[float]:
    """Seconds, by the library."""
    with av.open(str(path)) as container:
        return [float(frame.time) for frame in container.decode(video=0)]


@pytest.mark.parametrize("kind", ["h264", "h265", "prores", "ffv1"])
def test_frames_of_unequal_length_stay_so_or_become_equal_where_that_is_asked(tmp_path, kind):
    times = [0, 40, 100, 140, 200, 300, 333, 400]
    source = write(tmp_path / "in.mkv", "ffv1", "yuv444p", len(times), times=times)
    assert inspect_clip(source).variable
    suffix = KINDS[kind].suffix
    grade_clip(WARM, source, tmp_path / f"kept{suffix}", codec=kind)
    kept = shown_at(tmp_path / f"kept{suffix}")
    assert np.array(kept) - kept[0] == pytest.approx(np.array(times) / 1000, abs=0.0015)
    assert inspect_clip(tmp_path / f"kept{suffix}").variable
    grade_clip(WARM, source, tmp_path / f"even{suffix}", codec=kind, constant=True)
    lengths = np.diff(shown_at(tmp_path / f"even{suffix}"))
    assert lengths == pytest.approx(lengths.mean(), abs=0.0015)


def test_frames_made_equally_long_stay_where_they_were_in_time():
    """At 10 a second: one twice as long stands twice, of two within one tick the first is left out, shaking times change nothing."""
    ticks = ticks_of(np.array([500, 590, 701, 899, 1003, 1010, 1099]), Fraction(1, 1000), Fraction(10))
    assert ticks.tolist() == [0, 1, 2, 4, 5, 5, 6]
    assert list(shown_evenly("abcdefg", ticks)) == list("abccdfg")
