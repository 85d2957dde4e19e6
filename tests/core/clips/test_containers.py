"""What any player plays is read, frame by frame and out of order: containers, codecs, frames that refer to later ones, cuts, broken files.

The files are made by the library itself, whose own order of presentation is the reference.
"""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from saucer.core.clips.reading import ClipReader, RawFrame
from saucer.core.errors import PictureError
from tests.clips import frames, write

LONG = {"bf": "3", "g": "12", "b-pyramid": "normal"}
H264, H264_OPEN = ("libx264", "yuv420p", {"bf": "0", "g": "12"}), ("libx264", "yuv420p", LONG | {"x264-params": "open-gop=1"})
H264_B, H264_INTRA = ("libx264", "yuv420p", LONG), ("libx264", "yuv422p10le", {"g": "1"})
HEVC = ("libx265", "yuv420p10le", {"x265-params": "log-level=error:bframes=3:keyint=12"})
MPEG2 = ("mpeg2video", "yuv420p", {"bf": "2", "g": "12", "q": "2"})
MPEG4 = ("mpeg4", "yuv420p", {"g": "12", "q": "2"})
PRORES, MJPEG = ("prores_ks", "yuv422p10le", {}), ("mjpeg", "yuvj422p", {"q": "2"})
FFV1, VP9 = ("ffv1", "yuv444p16le", {}), ("libvpx-vp9", "yuv420p", {"g": "12", "crf": "18"})
MADE = [
    *((suffix, kind) for suffix in (".mp4", ".mov", ".mkv", ".ts", ".m2ts") for kind in (H264, H264_B, H264_OPEN, HEVC)),
    *((suffix, kind) for suffix in (".mov", ".mkv") for kind in (PRORES, MJPEG, MPEG4, H264_INTRA)),
    (".mkv", FFV1), (".avi", H264), (".avi", MJPEG), (".avi", FFV1), (".ts", MPEG2), (".mkv", MPEG2), (".mxf", MPEG2), (".mkv", VP9), (".webm", VP9),
]  # fmt: skip


def luma(raw: RawFrame) -> np.ndarray:
    return raw.planes[0][: raw.height, : raw.width].astype(np.int64)


@pytest.mark.parametrize(("suffix", "kind"), MADE)
def test_every_frame_is_found_in_order_and_out_of_it(tmp_path: Path, suffix: str, kind: tuple[str, str, dict[str, str]]):
    codec, pixels, options = kind
    path = write(tmp_path / f"a{suffix}", codec, pixels, 30, options=options)
    wanted = [frame.to_ndarray(format="gray16le").astype(np.int64) for frame in decoded(path)]
    with ClipReader(path) as reader:
        assert (reader.info.count, len(wanted)) == (30, 30)
        shift = 16 - reader.info.bits
        in_order = [luma(raw) for raw in reader.frames()]
        for number in (17, 3, 29, 0, 11, 12):
            assert np.array_equal(luma(reader.frame(number)), in_order[number])
        for number, plane in enumerate(in_order):
            # The library widens to 16 bits its own way, and its range where the file is limited: the order is what is held here.
            others = [np.abs(np.corrcoef(plane.ravel() << shift, one.ravel())[0, 1]) for one in wanted]
            assert int(np.argmax(others)) == number


def decoded(path: Path) -> list[Any]:
    with av.open(str(path)) as container:
        return list(container.decode(video=0))


def cut_without_coding(source: Path, target: Path, first: int) -> Path:
    """Packets as they are, times moved so that the first `first` frames lie before 0: the container hides them by an edit list."""
    with av.open(str(source)) as one, av.open(str(target), "w") as other:
        stream = one.streams.video[0]
        copy = other.add_stream_from_template(stream)
        assert stream.time_base is not None
        start = int(first / 24 / stream.time_base)
        for packet in one.demux(stream):
            if packet.dts is not None:
                packet.pts, packet.dts, packet.stream = packet.pts - start, packet.dts - start, copy
                other.mux(packet)
    return target


@pytest.mark.parametrize("suffix", [".mp4", ".mov"])
@pytest.mark.parametrize("first", [1, 5, 13])
def test_a_cut_without_coding_again_begins_where_it_was_cut(tmp_path: Path, suffix: str, first: int):
    whole = write(tmp_path / f"a{suffix}", *H264_B[:2], 30, options=H264_B[2])
    part = cut_without_coding(whole, tmp_path / f"b{suffix}", first)
    with ClipReader(whole) as one, ClipReader(part) as other:
        assert other.info.count == 30 - first
        for number in (0, 9, 29 - first):
            assert np.array_equal(luma(other.frame(number)), luma(one.frame(number + first)))


@pytest.mark.parametrize("share", [0.4, 0.6, 0.9, 0.99])
def test_a_clip_that_was_cut_short_is_refused_when_it_is_opened(tmp_path: Path, share: float):
    """Its index stands at its beginning, so that players open it; the frames behind are not there."""
    path = tmp_path / "a.mp4"
    with av.open(str(path), "w", options={"movflags": "+faststart"}) as container:
        stream: Any = container.add_stream("libx264", rate=24)
        stream.width, stream.height, stream.pix_fmt = 64, 48, "yuv420p"
        for number, frame in enumerate(frames(30, (64, 48), "yuv420p", {})):
            frame.pts, frame.time_base = number, Fraction(1, 24)
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    whole = path.read_bytes()
    path.write_bytes(whole[: int(len(whole) * share)])
    with pytest.raises(PictureError, match="cut short: it says that it has 30 frames"), ClipReader(path):
        pass


def test_what_an_avi_cannot_say_is_refused_in_words(tmp_path: Path):
    path = write(tmp_path / "a.avi", *H264_B[:2], 30, options=H264_B[2])
    with pytest.raises(PictureError, match="does not say when its frames are shown"), ClipReader(path):
        pass
