"""Timelines written for other programs: OpenTimelineIO files, and CMX 3600 edit lists with ASC CDL lines."""

from __future__ import annotations

import re
import warnings
from collections.abc import Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import PurePosixPath
from typing import Any

import opentimelineio as otio

from saucer.core.lut.formulas import Cdl


@dataclass(frozen=True)
class Placed:
    """A shot to be written into a timeline. file: of its delivered clip or picture, or the first of its numbered frames

    start, count: frames, as the file counts them; numbered: the number of the first of those frames, None where it is one file
    cdl: what its correction comes to; notes: each at a frame as the file counts them
    """

    name: str
    file: str
    start: int
    count: int
    rate: Fraction
    scene: str
    reel: str = ""
    numbered: int | None = None
    cdl: Cdl | None = None
    notes: tuple[tuple[int, str], ...] = ()
    applied: dict[str, Any] = field(default_factory=dict)


def timeline_of(name: str, placed: Sequence[Placed]) -> Any:
    """One video track, shot after shot; what was applied stands in each clip's metadata, notes are markers."""
    timeline = otio.schema.Timeline(name=name)
    track = otio.schema.Track(name="V1", kind=otio.schema.TrackKind.Video)
    timeline.tracks.append(track)
    for one in placed:
        clip = otio.schema.Clip(name=one.name, source_range=_span(one.start, one.count, float(one.rate)))
        clip.media_reference = _media_of(one)
        clip.metadata["saucer"] = {"scene": one.scene, **one.applied}
        if one.reel:
            clip.metadata["cmx_3600"] = {"reel": one.reel}
        if one.cdl is not None:
            clip.metadata["cdl"] = {
                "asc_sat": one.cdl.saturation,
                "asc_sop": {"slope": list(one.cdl.slope), "offset": list(one.cdl.offset), "power": list(one.cdl.power)},
            }
        clip.markers.extend(otio.schema.Marker(name=words, marked_range=_span(at, 1, float(one.rate))) for at, words in one.notes)
        track.append(clip)
    return timeline


def _span(start: int, count: int, rate: float) -> Any:
    return otio.opentime.TimeRange(otio.opentime.RationalTime(start, rate), otio.opentime.RationalTime(count, rate))


def _media_of(one: Placed) -> Any:
    span = _span(one.start, one.count, float(one.rate))
    if one.numbered is None:
        return otio.schema.ExternalReference(target_url=one.file, available_range=span)
    path = PurePosixPath(one.file)
    number = path.stem.rsplit(".", 1)[-1]
    return otio.schema.ImageSequenceReference(
        target_url_base=f"{path.parent}/", name_prefix=path.stem[: -len(number)], name_suffix=path.suffix, start_frame=one.numbered,
        frame_step=1, rate=float(one.rate), frame_zero_padding=len(number), available_range=span,
    )  # fmt: skip


def as_otio(timeline: Any) -> bytes:
    return str(otio.adapters.write_to_string(timeline, "otio_json")).encode()


def as_edit_list(placed: Sequence[Placed], name: str) -> tuple[bytes, list[str]]:
    """CMX 3600, with ASC_SOP and ASC_SAT lines where a shot has a CDL, and notes as LOC lines; what is counted otherwise, in words.

    A list has one rate, which is that of the first shot: what runs at another is counted at it, in whole frames.
    """
    rate = placed[0].rate if placed else Fraction(24)
    counted, words, record = [], [], 0
    for one in placed:
        start, count = _at_rate(one.start, one.rate, rate), max(1, _at_rate(one.count, one.rate, rate))
        if one.rate != rate:
            words.append(
                f"{one.name} runs at {float(one.rate):g} frames a second; the edit list counts it at {float(rate):g}, "
                f"{count} frames for {one.count}"
            )
        # The list's own place of a note is in the timeline.
        notes = tuple((record + _at_rate(at - one.start, one.rate, rate), said) for at, said in one.notes)
        counted.append(Placed(one.name, one.file, start, count, rate, one.scene, _reel_of(one), cdl=one.cdl, notes=notes))
        record += count
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        text = otio.adapters.write_to_string(timeline_of(name, counted), "cmx_3600", rate=float(rate))
    return str(text).encode(), words


def _reel_of(one: Placed) -> str:
    """One word, as the layout has it: of the roll it comes from, else of its file."""
    return re.sub(r"[^\w.-]+", "_", one.reel or PurePosixPath(one.file).stem)[:32] or "AX"


def _at_rate(frames: int, rate: Fraction, other: Fraction) -> int:
    return frames if rate == other else round(frames * other / rate)
