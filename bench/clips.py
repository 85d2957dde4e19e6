"""A clip through a look into a clip, beside libavfilter with the same settings; and the index of a long one, beside reading it."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from itertools import pairwise
from pathlib import Path
from tempfile import TemporaryDirectory

import av
import numpy as np

from bench.measure import Result, compare
from saucer.core.clips.reading import ClipReader, inspect_clip
from saucer.core.clips.writing import KINDS, ClipWriter
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.engine.moving import grade_clip
from saucer.core.files.formats.cube import write
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Lattice, Lut
from saucer.demo.catalogue import FOLDER

FRAMES, WANTED = 48, 1.4
LONG, INDEXED = 3000, 0.5
"""Frames; and at most twice the time of reading it out of memory, which is far from a disk's."""


def _clip(path: Path) -> None:
    """1080p with real motion: the demo's walk between trees, enlarged."""
    with ClipReader(FOLDER / "orchard-walk.mp4") as reader, ClipWriter(path, KINDS["h264"], 1920, 1080, Fraction(24)) as writer:
        for frame in reader.frames(0, FRAMES - 1):
            writer.write(_enlarged(frame.rgb()))


def _enlarged(rgb: np.ndarray) -> np.ndarray:
    frame = av.VideoFrame.from_ndarray(np.round(np.clip(rgb, 0, 1) * 255).astype(np.uint8), format="rgb24")
    large = frame.reformat(width=1920, height=1080, format="rgb24", interpolation="BICUBIC").to_ndarray()
    return large.astype(np.float32) / np.float32(255)


def _through_libavfilter(source: Path, cube: Path, target: Path) -> None:
    with av.open(str(source)) as given, av.open(str(target), "w") as made:
        video = given.streams.video[0]
        video.thread_type = "AUTO"
        stream = made.add_stream("libx264", rate=24)
        stream.width, stream.height, stream.pix_fmt = 1920, 1080, "yuv420p"
        stream.options = dict(KINDS["h264"].options)
        graph = av.filter.Graph()
        nodes = [
            graph.add_buffer(template=video), graph.add("lut3d", f"file={cube}:interp=tetrahedral"),
            graph.add("format", "pix_fmts=yuv420p"), graph.add("buffersink"),
        ]  # fmt: skip
        for one, next_one in pairwise(nodes):
            one.link_to(next_one)
        graph.configure()
        for frame in given.decode(video):
            graph.push(frame)
            made.mux(stream.encode(graph.pull()))
        made.mux(stream.encode(None))


def _long_clip(path: Path) -> None:
    """Of 3,000 frames, about 500 MB: the same few over and over, as a file does not mind."""
    with av.open(str(path), "w") as made:
        stream = made.add_stream("prores_ks", rate=24)
        assert isinstance(stream, av.VideoStream)
        stream.width, stream.height, stream.pix_fmt = 960, 540, "yuv422p10le"
        packets: list[bytes] = []
        noise = np.random.default_rng(1)
        for number in range(4):
            frame = av.VideoFrame.from_ndarray(noise.integers(0, 65535, (540, 960, 3), np.uint16), format="rgb48le")
            frame.pts = number
            packets += [bytes(one) for one in stream.encode(frame)]
        packets += [bytes(one) for one in stream.encode(None)]
        for number in range(LONG):
            packet = av.Packet(packets[number % len(packets)])
            packet.stream, packet.pts, packet.dts, packet.time_base, packet.is_keyframe = (
                stream,
                number,
                number,
                Fraction(1, 24),
                True,
            )
            made.mux(packet)


def _read_whole(path: Path) -> None:
    with path.open("rb") as file:
        while file.read(1 << 20):
            pass


def run() -> Iterator[Result]:
    table = (grid(33).reshape(33, 33, 33, 3) ** np.float32(0.9)).astype(np.float32)
    lut, rec709 = Lut(lattice=Lattice(table)), ENCODINGS["rec709"]
    grade = Grade.of_lut(lut, rec709, rec709, 1, "plain")
    with TemporaryDirectory() as folder:
        source, cube = Path(folder) / "in.mp4", Path(folder) / "look.cube"
        _clip(source)
        cube.write_bytes(write(lut))
        ours, theirs = Path(folder) / "ours.mp4", Path(folder) / "theirs.mp4"
        yield compare(
            "deliver.clip", lambda: grade_clip(grade, source, ours, rec709, rec709), "libavfilter, H.264 1080p through 33",
            lambda: _through_libavfilter(source, cube, theirs), WANTED, rounds=5,
        )  # fmt: skip


def indexing() -> Iterator[Result]:
    with TemporaryDirectory() as folder:
        long = Path(folder) / "long.mov"
        _long_clip(long)
        whole = "reading every byte of its file"
        yield compare("clip.index", lambda: inspect_clip(long), whole, lambda: _read_whole(long), INDEXED, rounds=5)
