"""What it costs that readers are processes of their own: the time for something small, and peak memory against what has to be held."""

from __future__ import annotations

import gc
import json
import os
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import av
import numpy as np
from fuzz.hostile import hostile_zip
from tests.make import a_lut

from bench.measure import Result, compare
from saucer.core.clips.reading import ClipReader
from saucer.core.files.formats.cube import write
from saucer.core.files.registry import read_lut
from saucer.core.files.zips import read_members
from saucer.core.pictures.io import Picture, PictureReader, read_picture, write_picture
from saucer.core.reading import processes, reader
from saucer.studio.projects.conform.timelines import read_timeline

MOST_TIMES = 4.0
"""Of the largest thing that a reader must hold, its peak and ours together."""
MORE_MS = 10.0
"""What a small picture may cost more than read in this very process."""


def _here(work: Callable[[], object]) -> Callable[[], object]:
    def run() -> None:
        reader.inside = True
        try:
            work()
        finally:
            reader.inside = False

    return run


def _resident(pid: int | str, name: str) -> int:
    """VmRSS or VmHWM (its peak), in bytes. Source: proc(5)"""
    for line in Path(f"/proc/{pid}/status").read_text().splitlines():
        if line.startswith(f"{name}:"):
            return int(line.split()[1]) * 1024
    return 0


def _peak(name: str, holds: int, work: Callable[[], object], times: float = MOST_TIMES) -> Result:
    """Both processes' peaks beyond what they had before, in MB, against the most that is allowed for what `holds` bytes."""
    work()  # what is loaded at a first call is no reading
    processes.end_all()
    read_lut(write(a_lut(2, 0)), "small.cube")
    (one,) = processes.waiting()
    gc.collect()
    pids = (one, os.getpid())
    for pid in pids:
        Path(f"/proc/{pid}/clear_refs").write_text("5")
    before = [_resident(pid, "VmRSS") for pid in pids]
    work()
    peaks = [_resident(pid, "VmHWM") for pid in pids]
    more = sum(max(peak - was, 0) for peak, was in zip(peaks, before, strict=True))
    return Result(name, more / 2**20, f"{times:g} times the {holds / 2**20:.0f} MB it must hold", times * holds / 2**20, 1.0)


def _clip(path: Path, side: tuple[int, int], frames: int) -> Path:
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libx264", rate=Fraction(24), options={"preset": "ultrafast", "bf": "0"})
        stream.width, stream.height = side
        stream.pix_fmt = "yuv420p"
        noise = np.random.default_rng(1)
        for number in range(frames):
            planes = noise.integers(60, 70, (side[1] * 3 // 2, side[0]), np.uint8)
            frame = av.VideoFrame.from_ndarray(planes, format="yuv420p")
            frame.pts = number
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return path


def _walk(open_one: Callable[[], PictureReader]) -> None:
    with open_one() as opened:
        for _ in opened.strips(64):
            pass


def _frames(path: Path) -> None:
    with ClipReader(path) as opened:
        for frame in opened.frames():
            frame.rgb()


def run() -> Iterator[Result]:
    with TemporaryDirectory() as name:
        folder = Path(name)
        small, large = folder / "small.png", folder / "large.exr"
        write_picture(Picture(np.random.default_rng(1).random((540, 960, 3), np.float32), "u8"), small)
        picture = lambda: read_picture(small)  # noqa: E731
        here = compare("read.small-picture", picture, "read in this process", _here(picture), 0.0)
        yield Result(here.name, here.ours_ms, f"in this process, and {MORE_MS:g} ms", here.peer_ms + MORE_MS, 1.0)
        lut = write(a_lut(33, 1))
        here = compare("read.lut.33", lambda: read_lut(lut, "a.cube"), "", _here(lambda: read_lut(lut, "a.cube")), 0.0)
        yield Result(here.name, here.ours_ms, f"in this process, and {MORE_MS:g} ms", here.peer_ms + MORE_MS, 1.0)

        write_picture(Picture(np.random.default_rng(1).random((4000, 6000, 3), np.float32), "f32"), large)
        whole = 4000 * 6000 * 3 * 4
        yield _peak("memory.picture", whole, lambda: read_picture(large))
        yield _peak("memory.picture.strips", 1 << 26, lambda: _walk(lambda: PictureReader(large)))
        clip = _clip(folder / "a.mp4", (3840, 2160), 24)
        yield _peak("memory.clip", 3840 * 2160 * 3 * 4, lambda: _frames(clip))
        text = write(a_lut(129, 1))
        yield _peak("memory.lut", len(text), lambda: read_lut(text, "a.cube"))
        packed = folder / "a.zip"
        packed.write_bytes(hostile_zip((f"{one}.cube", bytes(60 << 20)) for one in range(8)))
        yield _peak("memory.pack", 60 << 20, lambda: [None for _ in read_members(packed, "a.zip")])
        words = {"words": "x" * 2000}
        clips = [{"OTIO_SCHEMA": "Clip.1", "name": f"shot {one}", "metadata": words, "source_range": _SPAN} for one in range(4000)]
        track = {"OTIO_SCHEMA": "Track.1", "kind": "Video", "children": clips}
        timeline = {"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [track]}}
        told = json.dumps(timeline).encode()
        # The library keeps every word of it as an object of its own: more than four times is not in our hands.
        yield _peak("memory.timeline", len(told), lambda: read_timeline(told, "a.otio"), 10.0)


def _time(value: float) -> dict[str, object]:
    return {"OTIO_SCHEMA": "RationalTime.1", "rate": 24.0, "value": value}


_SPAN = {"OTIO_SCHEMA": "TimeRange.1", "start_time": _time(0), "duration": _time(24)}
