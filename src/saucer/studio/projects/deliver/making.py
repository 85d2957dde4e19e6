"""The files of a delivery, each made whole from the source at full depth, whatever lies on the shot by then."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np

from saucer.core.bake.bake import Words, bake_file
from saucer.core.bake.part import name_left_out
from saucer.core.clips.carrying import Following, copied_into
from saucer.core.clips.reading import ClipReader, RawFrame
from saucer.core.clips.sequences import StillFrame
from saucer.core.clips.writing import KINDS, ClipWriter
from saucer.core.engine.grade import Grade, grade_file
from saucer.core.engine.moving import NODES, change_by, rows_by, shown_evenly, smaller, ticks_of, write_frames
from saucer.core.engine.plan import prepare
from saucer.core.errors import PictureError
from saucer.core.files.registry import formats
from saucer.core.look.model import Look
from saucer.core.pictures.io import Picture, depth_held, write_picture
from saucer.core.pictures.scale import held_to
from saucer.core.pictures.stored import Depth
from saucer.core.steps.registry import Frame
from saucer.studio.common.models import Blob
from saucer.studio.common.store import keep_bytes, keep_file, local_file
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures import footage
from saucer.studio.projects.deliver.burning import burn_into
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.deliver.frozen import Frozen, FrozenShot
from saucer.studio.projects.models import DeliveryItem

Report = Callable[[float], None]
DEPTHS: dict[str, Depth] = {"png": "u16", "tiff": "u16", "jpeg": "u8", "openexr": "f16", "dpx": "u16"}
"""What is written: as many bits as others expect of the format, whatever the source has."""


@dataclass(frozen=True)
class _Item:
    """A file to be made, and its shot as it was when it was asked for."""

    row: DeliveryItem
    shot: FrozenShot
    document: Frozen

    @property
    def look(self) -> Look:
        return self.document.look_of(self.shot)

    @property
    def grade(self) -> Grade:
        return Grade.of_look(self.look, 1.0, at_hand)


def make(rows: list[DeliveryItem], document: Frozen, report: Report) -> Iterator[tuple[DeliveryItem, Blob, dict[str, Any]]]:
    """Every file of one part in turn, with what is told of it. Raises: SaucerError naming the shot, OSError"""
    choice = document.choice
    items = [_Item(row, document.shots[row.place], document) for row in rows if row.place is not None]
    if items and items[0].row.kind == "frame":
        yield from _frames(items, choice, report)
        return
    for index, item in enumerate(items):

        def told(share: float, at: int = index) -> None:
            report((at + share) / len(items))

        try:
            blob, facts = _MAKERS[item.row.kind](item, choice, told)
        except PictureError as error:
            raise error.within(item.shot.code) from None
        yield item.row, blob, facts
        told(1.0)


def _still(item: _Item, choice: DeliveryChoice, report: Report) -> tuple[Blob, dict[str, Any]]:
    if item.shot.footage is not None:
        (_, blob, facts), *_ = _frames([item], choice, report)
        return blob, facts
    grade, depth = item.grade, depth_held(choice.stills, DEPTHS[choice.stills])
    with tempfile.TemporaryDirectory() as folder, local_file(item.shot.picture.sha256) as source:
        target = Path(folder) / Path(item.row.file_name).name
        picture = item.shot.picture
        done = grade_file(
            grade, source, target, grade.expects, grade.gives, picture.name, report, depth=depth, white=picture.white or None
        )
        return keep_file(target), {"depth": depth, "left_out": list(done.left_out)}


def _frames(items: list[_Item], choice: DeliveryChoice, report: Report) -> Iterator[tuple[DeliveryItem, Blob, dict[str, Any]]]:
    """Frames of one shot: its source is opened once."""
    moving, grade = items[0].shot.footage, items[0].grade
    assert moving is not None
    try:
        with footage.opened(moving) as reader:
            for done, item in enumerate(items, 1):
                number = item.row.frame if item.row.frame is not None else item.shot.poster or 0
                yield item.row, *_write_frame(item, reader.frame(number), number, grade, choice)
                report(done / len(items))
    except PictureError as error:
        raise error.within(items[0].shot.code) from None


def _kind(item: _Item, choice: DeliveryChoice) -> str:
    return choice.stills if item.row.kind == "still" else choice.sequences


def _write_frame(
    item: _Item, frame: RawFrame | StillFrame, number: int, grade: Grade, choice: DeliveryChoice
) -> tuple[Blob, dict[str, Any]]:
    """A frame that is a picture of its own keeps what that says beside its samples, and its alpha."""
    depth, packed = DEPTHS[_kind(item, choice)], item.row.kind == "still"
    with tempfile.TemporaryDirectory() as folder:
        target = Path(folder) / Path(item.row.file_name).name
        if isinstance(frame, StillFrame):
            with frame.place(number) as path:
                done = grade_file(
                    grade, path, target, grade.expects, grade.gives, frame.name, number=number, depth=depth, packed=packed
                )
            return keep_file(target), {"depth": depth, "left_out": list(done.left_out)}
        pixels = frame.rgb()
        graded = grade(pixels, grade.expects, grade.gives, Frame(pixels.shape[1], pixels.shape[0], 0, number))
        write_picture(Picture(graded, depth), target, packed, grade.gives)
        return keep_file(target), {"depth": depth}


def _clip(item: _Item, choice: DeliveryChoice, report: Report) -> tuple[Blob, dict[str, Any]]:
    shot, moving, kind = item.shot, item.shot.footage, KINDS[choice.clips]
    assert moving is not None
    assert shot.first is not None
    assert shot.last is not None
    first, last = shot.first, shot.last
    grade, size = item.grade, held_to(shot.picture.width, shot.picture.height, choice.lines)
    sampled = grade.sampled(NODES, grade.expects, grade.gives)
    through = change_by(sampled, grade.expects, grade.gives)
    is_smaller = size != (shot.picture.width, shot.picture.height)
    if is_smaller:
        through = smaller(through, grade.gives, size)
    marked = choice.burn or choice.mark
    by_rows = None if marked or is_smaller else rows_by(sampled, grade.expects, grade.gives, shot.picture.height)

    def change(frame: RawFrame | StillFrame) -> np.ndarray:
        done = through(frame)
        if marked:
            words = shot.code if choice.burn else ""
            return burn_into(done, words, footage.name_of_frame(moving, frame.number) if choice.burn else "", choice.mark)
        return done

    with (
        footage.opened(moving) as reader,
        footage.opened_sound(moving) as sound,
        tempfile.TemporaryDirectory() as folder,
    ):
        target = Path(folder) / Path(item.row.file_name).name
        start, encoding = footage.timecode_at(moving, first), item.document.encoding_named(item.document.encoding)
        in_time = isinstance(reader, ClipReader) and reader.info.rate == Fraction(shot.rate)
        tracks = sound.tracks if sound is not None and in_time else ()
        like = reader.info if isinstance(reader, ClipReader) else None
        copied = copied_into(kind.suffix, tracks, first == 0, like is not None and last == like.count - 1)
        times, begin, end = _when_shown(reader, shot, first, last) if in_time else (None, 0.0, 0.0)
        with ClipWriter(
            target, kind, *size, shot.rate, encoding, start, sound=tracks, copied=copied, like=like,
            times=None if choice.constant else times,
        ) as writer:  # fmt: skip
            frames: Iterator[RawFrame | StillFrame] = iter(reader.frames(first, last))
            count = last - first + 1
            if choice.constant and times is not None:
                ticks = ticks_of(*times, shot.rate)
                frames, count = shown_evenly(frames, ticks), int(ticks[-1]) + 1
            along = None
            if sound is not None and tracks:
                along = Following(sound.chunks(begin, end, copied), writer.sound)
            write_frames(frames, writer, change, count, shot.picture.width * shot.picture.height, report, by_rows, along, size)
        lost: list[str] = []
        if like is not None and like.aspect != 1 and not kind.says_aspect:
            lost.append(f"that its pixels are {like.aspect} as wide as high")
        if along is not None and along.problem:
            lost.append(f"sound from some place on: {along.problem}")
        if sound is not None and sound.left_out:
            lost.append(f"{sound.left_out} tracks of sound in a form that is not read")
        if like is not None and like.variable and not in_time:
            lost.append("frames of unequal length, written at one rate: the clip runs at another speed than its file")
        if sound is not None and sound.tracks and not tracks:
            lost.append("sound: the clip runs at another speed than its file")
        facts = {"frames": count, "timecode": start, "sound": _said_of_sound(len(tracks), len(copied)), "left_out": lost}
        return keep_file(target), facts


def _when_shown(
    reader: footage.Reader, shot: FrozenShot, first: int, last: int
) -> tuple[tuple[np.ndarray, Fraction] | None, float, float]:
    """When each frame is shown where these are not equally long, from the first; and from when to when they are in the clip, in seconds."""
    if not isinstance(reader, ClipReader) or not reader.info.variable:
        return None, float(first / shot.rate), float((last + 1) / shot.rate)
    shown, unit = reader.times()
    begin, end = (float(int(shown[frame]) * unit) for frame in (first, last))
    return (shown[first : last + 1] - shown[first], unit), begin, end + float(1 / shot.rate)


def _said_of_sound(tracks: int, copied: int) -> str:
    if not tracks:
        return "none"
    how = "as it was" if copied == tracks else "coded anew" if not copied else f"{copied} as they were"
    return f"{tracks} track{'s' if tracks != 1 else ''}, {how}"


def _lut(item: _Item, choice: DeliveryChoice, report: Report) -> tuple[Blob, dict[str, Any]]:
    look, form = item.look, formats()[choice.luts]
    left_out = name_left_out(prepare(look, at_hand))
    words = Words(title=item.shot.code, note=f"{item.shot.scene}, {item.shot.code}; trims folded in")
    made = bake_file(look, form, choice.lut_size, words, luts=at_hand, left_out=left_out)
    report(1.0)
    return keep_bytes(made.data), {
        "expects": look.input, "gives": look.output, "left_out": list(left_out), "lost": list(made.lost),
    }  # fmt: skip


_MAKERS: dict[str, Callable[[_Item, DeliveryChoice, Report], tuple[Blob, dict[str, Any]]]] = {
    "still": _still, "clip": _clip, "lut": _lut,
}  # fmt: skip
