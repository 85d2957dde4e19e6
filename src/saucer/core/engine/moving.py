"""Grading moving pictures: a clip into a clip, or a sequence into a sequence, the parts of the work at the same time."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Generator, Iterable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import ExitStack, closing
from fractions import Fraction
from pathlib import Path
from typing import Any, TypeVar

import numpy as np

from saucer.core.clips.carrying import Following, copied_into
from saucer.core.clips.coding import Coding
from saucer.core.clips.reading import ClipReader, RawFrame
from saucer.core.clips.sequences import StillFrame
from saucer.core.clips.sound import Sound, SoundReader
from saucer.core.clips.writing import KINDS, ClipWriter
from saucer.core.colour.encodings import Encoding
from saucer.core.engine.grade import Grade
from saucer.core.errors import PictureError
from saucer.core.numeric.parallel import thread_count
from saucer.core.pictures.scale import held_to, resized, resized_plane, unheard
from saucer.core.steps.registry import Frame

AnyFrame = RawFrame | StillFrame
Change = Callable[[AnyFrame], np.ndarray]
"""A frame -> (h, w, 3) float32 of what is delivered"""
RowChange = Callable[[np.ndarray, Frame], np.ndarray]
"""Some rows of a frame, and which they are -> the same rows of what is delivered, where no row needs another one"""
ROWS = 64
"""That go through everything together: what they are on the way stays in a core's cache."""
STORED, GRADED = 6, 48
"""Bytes a pixel of a frame: as it is decoded at most; and in float32 as it comes, on the way and as it leaves."""
NODES = 65
"""A clip goes through a lattice of so many nodes a side: its error lies well under what the codec leaves."""
BUDGET = 600 << 20
"""Bytes of frames that are under way at once, where that is more than one."""
Item = TypeVar("Item")
Made = TypeVar("Made")


def in_order(items: Iterable[Item], work: Callable[[Item], Made], ahead: int) -> Generator[Made]:
    """`work` on each item on several threads, at most `ahead` at a time, in the order of the items."""
    waiting: deque[Future[Made]] = deque()
    with ThreadPoolExecutor(max_workers=ahead, thread_name_prefix="saucer-frames") as pool:
        try:
            for item in items:
                waiting.append(pool.submit(work, item))
                if len(waiting) > ahead:
                    yield waiting.popleft().result()
            while waiting:
                yield waiting.popleft().result()
        finally:
            for one in waiting:
                one.cancel()


def fetched_ahead(items: Iterator[Item], room: int) -> Generator[Item]:
    """The items, taken by a thread of its own, so that decoding goes on while the rest is busy."""
    end: Any = object()
    waiting: deque[Future[Any]] = deque()
    with ThreadPoolExecutor(max_workers=1, thread_name_prefix="saucer-decode") as pool:
        try:
            for _ in range(room):
                waiting.append(pool.submit(next, items, end))
            while True:
                item = waiting.popleft().result()
                if item is end:
                    return
                waiting.append(pool.submit(next, items, end))
                yield item
        finally:
            for one in waiting:
                one.cancel()


def write_frames(
    frames: Iterator[AnyFrame],
    writer: ClipWriter,
    change: Change,
    count: int,
    pixels: int,
    report: Callable[[float], None] = unheard,
    by_rows: RowChange | None = None,
    sound: Following | None = None,
    size: tuple[int, int] = (0, 0),
) -> None:
    """Frames through `change` into the writer: decoding, grading and encoding overlap, as far as memory lets them.

    pixels: of a frame as it comes; sound: what goes along with them; size: that `change` makes smaller ones in, for their alpha
    report: called with the share done; what it raises ends the work
    Raises: PictureError
    """

    def work(frame: AnyFrame) -> Any:
        if by_rows is not None and isinstance(frame, RawFrame) and frame.comes_in_rows and frame.height == writer.height:
            made = _row_by_row(frame, writer, by_rows)
        else:
            made = writer.pack(change(frame), 1)
        if writer.has_alpha and isinstance(frame, RawFrame) and (alpha := frame.alpha_plane()) is not None:
            writer.fill_alpha(made, alpha if alpha.shape[0] <= writer.height else resized_plane(alpha, size), frame.layout.bits)
        return made

    # Closed here, whatever happens: a clip must not be closed by who opened it while a thread still decodes from it.
    with (
        closing(fetched_ahead(iter(frames), _room_for(pixels * STORED, 3))) as fetched,
        closing(in_order(fetched, work, _room_for(pixels * (STORED if by_rows else GRADED), thread_count()))) as made,
    ):
        for done, packed in enumerate(made, 1):
            writer.put(packed)
            if sound is not None:
                sound.go_to(writer.seconds_until(done))
            report(done / count)
    if sound is not None:
        sound.finish()


def ticks_of(times: np.ndarray, unit: Fraction, rate: Fraction) -> np.ndarray:
    """Of an even clock, the tick at which each frame begins: (n) int64. times: (n) int64, from any, in units of so many seconds"""
    step = unit * rate
    away = (times - times[0]).astype(np.int64) * step.numerator
    return (2 * away + step.denominator) // (2 * step.denominator)


def shown_evenly(frames: Iterable[AnyFrame], ticks: np.ndarray) -> Iterator[AnyFrame]:
    """Each frame for as many ticks as it is shown: once, several times, or not at all where the next one begins at the same."""
    lasts = np.diff(ticks, append=ticks[-1] + 1)
    for frame, count in zip(frames, lasts.tolist(), strict=True):
        for _ in range(count):
            yield frame


def rows_of(frame: AnyFrame) -> Callable[[int, int], np.ndarray]:
    """Its rows, a few at a time where it comes in rows."""
    if isinstance(frame, RawFrame) and frame.comes_in_rows:
        return frame.rows
    whole = frame.rgb(1)
    return lambda top, bottom: whole[top:bottom]


def _room_for(size: int, most: int) -> int:
    """How many things of this many bytes may be under way: one at least."""
    return max(1, min(most, BUDGET // size))


def _row_by_row(frame: RawFrame, writer: ClipWriter, change: RowChange) -> Any:
    made = writer.empty()
    for top in range(0, frame.height, ROWS):
        done = change(frame.rows(top, min(top + ROWS, frame.height)), Frame(frame.width, frame.height, top, frame.number))
        if done.shape[1] != writer.width:
            done = np.pad(done, ((0, 0), (0, writer.width - done.shape[1]), (0, 0)), mode="edge")
        writer.fill(made, done, top, 1)
    return made


def rows_by(grade: Grade, source: Encoding, target: Encoding, height: int) -> RowChange | None:
    """The grade on rows alone; None where a row needs its neighbours."""
    if grade.reach(height):
        return None
    return lambda pixels, frame: grade(pixels, source, target, frame)


def change_by(grade: Grade, source: Encoding, target: Encoding) -> Change:
    """The grade as it is laid on frames from one encoding to another."""

    def change(frame: AnyFrame) -> np.ndarray:
        pixels = frame.rgb(1)
        return grade(pixels, source, target, Frame(pixels.shape[1], pixels.shape[0], 0, frame.number))

    return change


def smaller(change: Change, encoding: Encoding, size: tuple[int, int]) -> Change:
    """What is delivered, averaged down in linear light to this width and height. encoding: of what is delivered"""
    return lambda frame: resized(change(frame), encoding, size)


def kind_of_clip(path: Path, wanted: str = "") -> str:
    """The kind of clip to write for this suffix, or the one that is wanted. Raises: PictureError where the suffix is another's"""
    suffix = path.suffix.lower()
    found = wanted or {".mp4": "h264", ".mov": "prores", ".mkv": "ffv1"}.get(suffix)
    if found is None:
        raise PictureError(path.name, "clips are written as .mp4 (H.264, H.265), .mov (ProRes, VC-3) or .mkv (FFV1)")
    if KINDS[found].suffix != suffix:
        raise PictureError(path.name, f"{KINDS[found].name} is written as {KINDS[found].suffix}")
    return found


def grade_clip(
    grade: Grade, source: Path, target: Path, source_encoding: Encoding | None = None, target_encoding: Encoding | None = None,
    said: Coding | None = None, report: Callable[[float], None] = unheard, with_sound: bool = True,
    codec: str = "", lines: int = 0, constant: bool = False,
) -> Sound:  # fmt: skip
    """A clip through a grade into another one, whole or not at all. Encodings: those of the grade where none are given.

    codec: id of a kind of clip, where the suffix of `target` has several; lines: of it at most, 0 for as many as the source has
    constant: frames of unequal length become equally long, some there twice or left out; without, they stay as they are
    Returns: the sound that went with it, and what could not
    said: matrix and range of the source, in place of what it says. Raises: PictureError
    """
    kind, before, after = KINDS[kind_of_clip(target, codec)], source_encoding or grade.expects, target_encoding or grade.gives
    with ClipReader(source, said=said) as reader, ExitStack() as open_sound:
        info = reader.info
        sounds = open_sound.enter_context(SoundReader(source)) if with_sound else None
        tracks = sounds.tracks if sounds is not None else ()
        copied = copied_into(kind.suffix, tracks, True, True)
        size = held_to(info.width, info.height, lines)
        times = reader.times() if info.variable else None
        writer = ClipWriter(
            target, kind, *size, Fraction(info.rate), after, info.timecode, source=info.coding, sound=tracks, copied=copied, like=info,
            times=None if constant else times,
        )  # fmt: skip
        sampled = grade.sampled(NODES, before, after)
        with writer:
            change, by_rows = change_by(sampled, before, after), rows_by(sampled, before, after, info.height)
            if size != (info.width, info.height):
                change, by_rows = smaller(change, after, size), None
            along = Following(sounds.chunks(0, info.seconds, copied), writer.sound) if sounds is not None and tracks else None
            frames: Iterator[AnyFrame] = reader.frames()
            count = info.count
            if constant and times is not None:
                ticks = ticks_of(*times, Fraction(info.rate))
                frames, count = shown_evenly(frames, ticks), int(ticks[-1]) + 1
            write_frames(frames, writer, change, count, info.width * info.height, report, by_rows, along, size)
    return Sound(tracks, sounds.left_out if sounds is not None else 0, along.problem if along is not None else "")
