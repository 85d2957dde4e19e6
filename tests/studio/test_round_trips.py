"""Timelines read, written as ours, and read again: the same cuts, names, corrections and notes; by the library's own reader too."""

from __future__ import annotations

from fractions import Fraction

import opentimelineio as otio
import pytest

from saucer.core.lut.formulas import Cdl
from saucer.studio.projects.conform.timelines import Event, read_timeline
from saucer.studio.projects.conform.writing import Placed, as_edit_list, as_otio, timeline_of
from tests.studio.test_timelines import EDIT_LIST, otio_clip

NTSC = Fraction(24000, 1001)


def placed(name: str, start: int, count: int, rate: Fraction = Fraction(24), **told) -> Placed:
    return Placed(name, f"clips/{name}.mov", start, count, rate, "Quay", **told)


def of(events: list[Event], rate: Fraction) -> list[Placed]:
    """What was read as it would be written."""
    cdl = [one.cdl and Cdl(one.cdl.slope, one.cdl.offset, one.cdl.power, one.cdl.saturation) for one in events]
    return [
        placed(one.name, one.start, one.count, rate, reel=one.facts.get("reel", ""), cdl=own, notes=tuple(one.notes))
        for one, own in zip(events, cdl, strict=True)
    ]


def cuts(events: list[Event]) -> list[tuple[str, int, int, int]]:
    return [(one.name.lower(), one.start, one.count, one.record) for one in events]


def edl(*lines: str, head: str = "FCM: NON-DROP FRAME") -> bytes:
    return "\n".join(["TITLE: FERRY", head, *lines, ""]).encode()


def numbered(rate: int, *spans: tuple[int, int]) -> bytes:
    """Cuts one after the other: source begin and length in frames."""
    lines, record = [], 0
    for number, (start, count) in enumerate(spans, 1):
        times = [otio.opentime.to_timecode(otio.opentime.RationalTime(one, rate), rate, False) for one in (
            start, start + count, record, record + count)]  # fmt: skip
        lines += [f"{number:03d}  R{number} V C {' '.join(times)}", f"* FROM CLIP NAME: SHOT {number}.MOV"]
        record += count
    return edl(*lines)


def whole(*clips: otio.schema.Clip) -> bytes:
    timeline = otio.schema.Timeline(name="Ferry")
    timeline.tracks.append(otio.schema.Track(name="V1", kind=otio.schema.TrackKind.Video, children=list(clips)))
    return str(otio.adapters.write_to_string(timeline, "otio_json")).encode()


def marked(clip: otio.schema.Clip, at: int, words: str) -> otio.schema.Clip:
    span = otio.opentime.TimeRange(otio.opentime.RationalTime(at, 24), otio.opentime.RationalTime(1, 24))
    clip.markers.append(otio.schema.Marker(name=words, marked_range=span))
    return clip


TIMELINES = {
    "an edit list with a CDL": (EDIT_LIST.encode(), "a.edl", Fraction(24)),
    "at 25": (numbered(25, (100, 50), (0, 1), (90000, 30)), "a.edl", Fraction(25)),
    "at 30": (numbered(30, (100, 50), (108000, 30)), "a.edl", Fraction(30)),
    "at 23.976": (numbered(24, (100, 50), (86400, 24)), "a.edl", NTSC),
    "many cuts": (numbered(24, *((17 * one, 5 + one % 7) for one in range(120))), "a.edl", Fraction(24)),
    "cuts of a frame": (numbered(24, *((one, 1) for one in range(30))), "a.edl", Fraction(24)),
    "a note on its line": (
        edl(
            "001 A V C 01:00:00:00 01:00:02:00 01:00:00:00 01:00:02:00",
            "* FROM CLIP NAME: ONE.MOV",
            "* LOC: 01:00:01:06 RED WARMER",
        ),
        "a.edl",
        Fraction(24),
    ),
    "of the library": (whole(otio_clip("one", 100, 24), otio_clip("two", 200, 36)), "a.otio", Fraction(24)),
    "with markers": (whole(marked(otio_clip("one", 100, 24), 110, "WARMER"), otio_clip("two", 0, 5)), "a.otio", Fraction(24)),
    "names with signs": (whole(otio_clip("low tide #1", 86400, 24, "file:///films/low%20tide%20%231.mov")), "a.otio", Fraction(24)),
    "speeds": (
        edl("001 A V C 01:00:00:00 01:00:01:00 01:00:00:00 01:00:02:00", "M2 A 012.0 01:00:00:00", "* FROM CLIP NAME: SLOW.MOV"),
        "a.edl",
        Fraction(24),
    ),
}


@pytest.mark.parametrize("name", TIMELINES)
def test_the_same_cuts_come_back_out_of_both_forms(name):
    data, file_name, rate = TIMELINES[name]
    first = read_timeline(data, file_name, rate)
    told = of(first, rate)
    again = read_timeline(as_otio(timeline_of("Ferry", told)), "b.otio", rate)
    text, words = as_edit_list(told, "Ferry")
    listed = read_timeline(text, "b.edl", rate)
    closed = []
    record = 0
    for one in first:  # gaps are not written: shots stand one after the other
        closed.append((one.name.lower(), one.start, one.count, record))
        record += one.count
    assert cuts(again) == closed
    assert cuts(listed) == closed
    assert words == []
    for one, other, third in zip(first, again, listed, strict=True):
        assert other.cdl == one.cdl
        assert third.cdl == one.cdl
        assert other.notes == one.notes
        assert third.notes == one.notes
    by_library = otio.adapters.read_from_string(text.decode(), "cmx_3600", rate=float(rate))
    assert [round(clip.source_range.duration.value) for clip in by_library.find_clips()] == [one.count for one in first]


def test_what_runs_at_another_rate_is_counted_at_the_lists_and_told():
    """A second is a second: 25 frames at 25 are 24 of a list at 24."""
    text, words = as_edit_list([placed("one", 0, 48), placed("two", 250, 25, Fraction(25)), placed("three", 24, 24)], "Ferry")
    events = read_timeline(text, "b.edl")
    assert cuts(events) == [("one", 0, 48, 0), ("two", 240, 24, 48), ("three", 24, 24, 72)]
    assert words == ["two runs at 25 frames a second; the edit list counts it at 24, 24 frames for 25"]
    kept = otio.adapters.read_from_string(
        as_otio(timeline_of("Ferry", [placed("two", 250, 25, Fraction(25))])).decode(), "otio_json"
    )
    assert next(iter(kept.find_clips())).source_range.duration == otio.opentime.RationalTime(25, 25)


def test_reels_are_one_word_whatever_a_roll_is_called():
    text, _ = as_edit_list([placed("one", 0, 24, reel="Camera B, day 2"), placed("low tide #1", 0, 24)], "Ferry")
    assert [line.split()[1] for line in text.decode().splitlines() if line[:3].isdigit()] == ["Camera_B_day_2", "low_tide_1"]


def test_numbered_frames_are_a_sequence_to_others():
    one = Placed("mast", "sequences/mast/mast.000101.png", 101, 5, Fraction(24), "Deck", numbered=101)
    read = otio.adapters.read_from_string(as_otio(timeline_of("Ferry", [one])).decode(), "otio_json")
    media = next(iter(read.find_clips())).media_reference
    assert isinstance(media, otio.schema.ImageSequenceReference)
    assert media.target_url_for_image_number(0) == "sequences/mast/mast.000101.png"
    assert media.target_url_for_image_number(4) == "sequences/mast/mast.000105.png"
    (event,) = read_timeline(as_otio(timeline_of("Ferry", [one])), "b.otio")
    assert (event.media, event.start, event.count) == ("mast", 101, 5)


@pytest.mark.parametrize(
    ("line", "wanted"),
    [
        ("* LOC: 01:00:01:06 RED     WARMER HERE", [(86430, "WARMER HERE")]),
        ("*LOC: 01:00:01:06 green lamp out", [(86430, "lamp out")]),
        ("* loc: 01:00:00:00 WHITE", [(86400, "WHITE")]),
        ("* LOC: 09:00:00:00 RED elsewhere", [(86400, "elsewhere")]),
        ("* LOC: no timecode RED", [(86400, "RED")]),
        ("* LOC: ", []),
    ],
)
def test_located_lines_are_notes_at_their_frames(line, wanted):
    """Layout of a LOC line: OpenTimelineIO's adapter; its timecode is of the timeline."""
    (event,) = read_timeline(edl("001 A V C 01:00:00:00 01:00:02:00 01:00:00:00 01:00:02:00", line), "a.edl")
    assert event.notes == wanted


def test_markers_outside_of_what_is_seen_are_told_and_words_are_held_short():
    clip = marked(marked(otio_clip("one", 100, 24), 130, "Later"), 105, "x" * 900)
    (event,) = read_timeline(whole(clip), "a.otio")
    assert event.notes == [(105, "x" * 500)]
    assert event.facts["words"] == "1 of its notes stand outside of what is seen of it"
