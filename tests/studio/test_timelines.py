"""Edit lists and OpenTimelineIO files as shots: names, order, in and out, CDLs as trims; read back by the library as ours."""

from __future__ import annotations

import json
from fractions import Fraction
from io import BytesIO
from pathlib import Path
from typing import Any

import opentimelineio as otio
import pytest

from saucer.studio.jobs.models import Job
from saucer.studio.pictures import footage
from saucer.studio.pictures.models import Picture
from saucer.studio.projects import rules as projects
from saucer.studio.projects.conform import timelines
from saucer.studio.projects.conform.timelines import TimelineError, read_timeline
from saucer.studio.projects.models import Layer, Shot, ShotNote
from tests.clips import write
from tests.studio.conftest import api_for
from tests.studio.work import run_worker

# An edit list as CMX 3600 lays it out: event, reel, track, kind of edit, source in and out, record in and out.
# Source: CMX 3600 edit list, as documented by the OpenTimelineIO adapter; ASC CDL lines as in ASC CDL 1.2, "EDL comments".
EDIT_LIST = """TITLE: FERRY REEL 1
FCM: NON-DROP FRAME

001  QUAY     V     C        10:00:00:05 10:00:00:17 01:00:00:00 01:00:00:12
* FROM CLIP NAME: QUAY_A.MOV
* ASC_SOP (1.2 1.0 0.9) (0.01 0.0 -0.01) (1.0 1.1 1.0)
* ASC_SAT 0.85
002  TIDE     V     C        10:00:00:00 10:00:00:10 01:00:00:12 01:00:00:22
* FROM CLIP NAME: tide.mov
003  GULL     V     C        00:00:00:00 00:00:01:00 01:00:00:22 01:00:01:22
* FROM CLIP NAME: gull.mov
"""


def test_an_edit_list_is_read_with_its_cdl():
    events = read_timeline(EDIT_LIST.encode(), "ferry.edl")
    first, second, third = events
    assert (first.media.lower(), first.start, first.record) == ("quay_a", 10 * 3600 * 24 + 5, 0)
    assert first.cdl is not None
    assert (first.cdl.slope, first.cdl.saturation) == ((1.2, 1.0, 0.9), 0.85)
    assert second.cdl is None
    assert third.count == 24


def test_a_cdl_without_its_saturation_leaves_it_alone():
    """The ASC CDL's own default is 1 (ASC Color Decision List transfer functions 1.2)."""
    first = read_timeline(EDIT_LIST.replace("* ASC_SAT 0.85\n", "").encode(), "ferry.edl")[0]
    assert first.cdl is not None
    assert (first.cdl.slope, first.cdl.saturation) == ((1.2, 1.0, 0.9), 1)


def test_more_clips_than_may_be_are_counted_before_any_is_built(monkeypatch):
    monkeypatch.setattr(timelines, "MOST_EVENTS", 1)
    monkeypatch.setattr(timelines.otio.adapters, "read_from_string", lambda *given, **named: pytest.fail("it was built"))
    with pytest.raises(TimelineError, match="about 3 clips; 1 is the most"):
        timelines.parse_timeline(EDIT_LIST.encode(), "ferry.edl", Fraction(24))


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"\xff\xd8\xff", "is no text"), (b"nonsense", "holds no clip|cannot be read as a timeline"), (b'{"OTIO_SCHEMA": "Clip.1"', "cannot be read as a timeline"),
        (b"001  A V C 10:00:00 10:00:01:00 01:00:00:00 01:00:01:00\n", "cannot be read as a timeline: line 1"), (b"TITLE: EMPTY\n", "holds no clip"),
    ],
)  # fmt: skip
def test_broken_timelines_are_refused_in_words(data, words):
    with pytest.raises(TimelineError, match=words):
        read_timeline(data, "ferry.edl")


def line(number: int, start: int, count: int, record: int, reel: str = "A", channels: str = "V", way: str = "C") -> str:
    """An event of an edit list at 24 frames a second, the timeline from 01:00:00:00 on."""

    def timecode(frames: int) -> str:
        return f"{frames // 86400:02d}:{frames // 1440 % 60:02d}:{frames // 24 % 60:02d}:{frames % 24:02d}"

    times = (start, start + count, 86400 + record, 86400 + record + count)
    return f"{number:03d}  {reel} {channels} {way} {' '.join(map(timecode, times))}\n"


def edits(text: str, rate: Fraction = Fraction(24)) -> list[tuple[str, int, int, int, str]]:
    """Name, first frame, count, place in the timeline, and what is said."""
    read = read_timeline(text.encode(), "x.edl", rate)
    return [(one.name, one.start, one.count, one.record, one.facts.get("words") or one.facts.get("problem", "")) for one in read]


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("\ufeffTITLE: X\n" + line(1, 100, 24, 0), [("001", 100, 24, 0, "")]),
        (line(1, 200, 24, 24) + line(2, 100, 24, 0), [("002", 100, 24, 0, ""), ("001", 200, 24, 24, "")]),
        (line(1, 0, 24, 0, "BL") + line(2, 100, 24, 24) + line(3, 0, 24, 48, "BARS"), [("002", 100, 24, 0, "")]),
        (line(1, 100, 24, 0) + line(2, 100, 24, 0, channels="A") + line(3, 300, 24, 24, channels="AA/V"), [("001", 100, 24, 0, ""), ("003", 300, 24, 24, "")]),
        (line(1, 100, 24, 0) + "M2   A       012.0                00:00:04:04\n", [("001", 100, 12, 0, "runs at 50% of its speed; its 12 frames are taken as they are")]),
        (line(1, 100, 24, 0) + "M2   A       -024.0               00:00:04:04\n", [("001", 100, 24, 0, "runs at -100% of its speed; its 24 frames are taken as they are")]),
        (
            line(1, 100, 24, 0) + line(2, 124, 0, 24) + line(2, 200, 48, 24, "B", way="D 012") + "* FROM CLIP NAME: a.mov\n* TO CLIP NAME: b.mov\n",
            [("001", 100, 36, 0, "goes on for 12 frames of a dissolve"), ("b", 200, 48, 24, "begins with a dissolve of 12 frames")],
        ),
        (
            line(1, 100, 24, 0) + "002  B V C 00:00:99 00:00:00:10 01:00:01:00 01:00:01:10\n" + line(3, 300, 24, 34),
            [("001", 100, 24, 0, ""), ("line 2", 0, 1, 0, "line 2: Input timecode '00:00:99' is an invalid timecode"), ("003", 300, 24, 34, "")],
        ),
        (line(1, 100, 24, 0) + "2 x\n", [("001", 100, 24, 0, ""), ("line 2", 0, 1, 0, "line 2 is no event: a number, a reel, a channel, a transition and four timecodes")]),
        (
            line(1, 100, 24, 0) + "* ASC_SOP (99 1 1)(0 0 0)(1 1 1)\n",
            [("001", 100, 24, 0, "its ASC CDL is not one: 1 validation error for Cdl; it is left out")],
        ),
    ],
)  # fmt: skip
def test_edit_lists_as_they_come(text, wanted):
    assert edits(text) == wanted


@pytest.mark.parametrize("key", ["* ASC_SOP", "* asc_sop", "*ASC_SOP", "* Asc_Sop"])
def test_lines_of_a_cdl_are_read_in_any_case(key):
    text = (
        line(1, 100, 24, 0)
        + f"{key} (1.2 1 1)(0 0 0)(1 1 1)\n{key.replace('SOP', 'SAT').replace('sop', 'sat').replace('Sop', 'Sat')} 0.8\n"
    )
    [event] = read_timeline(text.encode(), "x.edl")
    assert event.cdl is not None
    assert (event.cdl.slope, event.cdl.saturation) == ((1.2, 1, 1), 0.8)


def test_half_a_cdl_is_none():
    """A saturation without the slopes that belong to it is another correction than the one that was meant."""
    [event] = read_timeline((line(1, 100, 24, 0) + "* ASC_SOP (1.2 1 1)(0 0 0)\n* ASC_SAT 0.8\n").encode(), "x.edl")
    assert event.cdl is None
    assert event.facts["words"] == "line 2: its ASC_SOP is not one, so its whole CDL is left out"


def test_dropped_frames_are_counted_also_with_colons():
    """SMPTE ST 12-1: an hour of 29.97 has 107,892 frames; 10 s from 01:00:59:28 on are 300 by number, less the two that minute 1 drops."""
    text = "FCM: DROP FRAME\n001  A V C 01:00:00:00 01:00:10:00 01:00:59:28 01:01:10:00\n"
    [(_, start, count, *_)] = edits(text, Fraction(30000, 1001))
    assert (start, count) == (107_892, 300)
    [(_, plain, *_)] = edits(text.replace("FCM: DROP", "FCM: NON-DROP"), Fraction(30000, 1001))
    assert plain == 108_000


def test_a_source_that_ends_where_it_begins_is_as_long_as_its_place():
    """Freezes and some programs' stills: in and out of the source are the same."""
    text = "001  A V C 01:00:00:00 01:00:00:00 01:00:00:00 01:00:02:00\n"
    [(_, start, count, *_)] = edits(text)
    assert (start, count) == (86400, 48)


def test_a_clip_of_one_frame_is_one_frame():
    (event,) = read_timeline(one_clip(count=1), "x.otio")
    assert event.count == 1


def otio_clip(name: str, start: int, count: int, url: str = "", **fields: Any) -> otio.schema.Clip:
    span = otio.opentime.TimeRange(otio.opentime.RationalTime(start, 24), otio.opentime.RationalTime(count, 24))
    media = otio.schema.ExternalReference(target_url=url) if url else otio.schema.MissingReference()
    return otio.schema.Clip(name=name, media_reference=media, source_range=span, **fields)


def test_an_opentimelineio_file_with_all_that_may_lie_in_it():
    """Nested tracks with ranges of their own, a gap, what is switched off, another speed, an address with signs in it."""
    inner = otio.schema.Track(name="inner", kind=otio.schema.TrackKind.Video)
    inner.extend([otio_clip("one", 100, 24), otio_clip("two", 200, 24, "file:///films/low%20tide%20%231.mov")])
    nested = otio.schema.Stack(name="nested", children=[inner])
    nested.source_range = otio.opentime.TimeRange(otio.opentime.RationalTime(12, 24), otio.opentime.RationalTime(36, 24))
    off = otio_clip("off", 0, 24)
    off.enabled = False
    fast = otio_clip("fast", 300, 48, effects=[otio.schema.LinearTimeWarp(time_scalar=2.0)])
    gap = otio.schema.Gap(
        source_range=otio.opentime.TimeRange(otio.opentime.RationalTime(0, 24), otio.opentime.RationalTime(10, 24))
    )
    outer = otio.schema.Track(name="V1", kind=otio.schema.TrackKind.Video)
    outer.extend([otio_clip("zero", 0, 24), gap, nested, off, fast])
    hidden = otio.schema.Track(name="V2", kind=otio.schema.TrackKind.Video, children=[otio_clip("hidden", 0, 24)])
    hidden.enabled = False
    timeline = otio.schema.Timeline(name="all")
    timeline.tracks.extend([outer, hidden])
    read = read_timeline(otio.adapters.write_to_string(timeline, "otio_json").encode(), "x.otio")
    told = [(one.name, one.media, one.start, one.count, one.record) for one in read]
    assert told == [
        ("zero", "zero", 0, 24, 0), ("one", "one", 112, 12, 34), ("two", "low tide #1", 200, 24, 46), ("fast", "fast", 300, 48, 94),
    ]  # fmt: skip
    assert read[-1].facts["words"] == "runs at 200% of its speed; its 48 frames are taken as they are"


@pytest.fixture
def project(db, designer, tmp_path):
    """Two of the three clips are here; one of them by its file name in other letters."""
    for name in ("quay_a.mov", "Tide.mov"):
        path = write(tmp_path / name, "prores_ks", "yuv422p10le", 24, timecode="10:00:00:00")
        footage.bring_in_clip(designer, footage.Source(path, name))
    return projects.create(designer, "The Salt Ferry")


def send(api, path: str, data: bytes | None, name: str = "ferry.edl", status: int = 200, **fields: object):
    """data: of the file; None sends none"""
    files = {}
    if data is not None:
        files["file"] = BytesIO(data)
        files["file"].name = name
    headers = {"X-CSRFToken": api.client.cookies["csrftoken"].value}
    response = api.client.post(f"/api{path}", files | fields, headers=headers)
    assert response.status_code == status, response.content[:400]
    return response.json()


def one_clip(**times: object) -> bytes:
    """An OpenTimelineIO file of one clip, with other times than it may have."""
    told = {"start": 0, "count": 24, "rate": 24, "name": "Quay"} | times
    made = otio.schema.Timeline(name="One")
    made.tracks.append(otio.schema.Track(name="V1", kind=otio.schema.TrackKind.Video))
    span = otio.opentime.TimeRange(otio.opentime.RationalTime(7.25, 24), otio.opentime.RationalTime(3.5, 24))
    made.tracks[0].append(otio.schema.Clip(name="Quay", source_range=span))
    text = otio.adapters.write_to_string(made, "otio_json")
    text = text.replace("7.25", str(told["start"])).replace("3.5", str(told["count"])).replace('"Quay"', json.dumps(told["name"]))
    return text.replace('"rate": 24.0', f'"rate": {told["rate"]}').encode()


@pytest.mark.parametrize("times", [
    {"count": "1e300"}, {"start": "-1e300"}, {"start": "1e12"}, {"rate": "1e9"}, {"rate": "-5"}, {"count": "Infinity"}, {"start": "NaN"},
    {"name": "x" * 5000},
])  # fmt: skip
def test_times_and_names_that_nothing_can_keep_are_refused_in_words(times):
    with pytest.raises(TimelineError) as refused:
        read_timeline(one_clip(**times), "one.otio")
    assert str(refused.value)


def test_the_file_that_these_are_made_of_is_a_good_one():
    (event,) = read_timeline(one_clip(), "one.otio")
    assert (event.name, event.start, event.count, event.rate) == ("Quay", 0, 24, 24)


def test_what_is_found_becomes_shots_in_their_order_with_trims(api, project):
    base = f"/projects/{project.pk}/timeline"
    seen = send(api, f"{base}/look", EDIT_LIST.encode())["events"]
    assert [(one["first"], one["last"], one["cdl"]) for one in seen] == [(5, 16, True), (0, 9, False), (None, None, False)]
    assert 'no picture here is called "gull"' in seen[2]["words"]
    assert Shot.objects.count() == 0
    taken = send(api, base, EDIT_LIST.encode(), scene="Reel 1")
    assert len(taken["shots"]) == 2
    assert len(taken["left_out"]) == 1
    first, second = Shot.objects.order_by("position")
    assert (first.first, first.last, second.first, second.last) == (5, 16, 0, 9)
    assert first.facts["reel"] == "QUAY"
    (trim,) = Layer.objects.all()
    assert (trim.shot, trim.role, trim.steps[0]["kind"], trim.steps[0]["slope"]) == (first, "before", "cdl", [1.2, 1.0, 0.9])
    assert not trim.steps[0].get("clamp"), "an edit list does not say that anything is held"


@pytest.mark.django_db(transaction=True)
def test_a_large_one_is_read_by_a_job_and_taken_from_there(api, project, curator):
    large, base = (EDIT_LIST + "\n" + "* A LINE OF WORDS\n" * 70_000).encode(), f"/projects/{project.pk}/timeline"
    small = send(api, f"{base}/look", EDIT_LIST.encode())
    job = send(api, f"{base}/look", large, status=202)
    assert (job["state"], job["kind"]) == ("waiting", "timeline")
    assert "no such result yet" in api.expect(422, "GET", f"{base}/read/{job['id']}")["detail"]
    run_worker()
    assert api.get(f"{base}/read/{job['id']}") == small
    assert len(str(Job.objects.get(pk=job["id"]).result)) < 500, "jobs are listed with what came of them"
    assert api_for(curator).expect(404, "GET", f"{base}/read/{job['id']}"), "of somebody else"
    taken = send(api, base, None, scene="Reel 1", job=job["id"])
    assert (len(taken["shots"]), len(taken["left_out"])) == (2, 1)
    refused = send(api, base, large, scene="Reel 2", status=422)
    assert "larger than 1 MB" in refused["detail"]
    assert "number of the job" in send(api, base, None, scene="Reel 2", status=422)["detail"]


@pytest.mark.django_db(transaction=True)
def test_a_large_one_that_is_no_timeline_fails_in_words(api, project):
    job = send(api, f"/projects/{project.pk}/timeline/look", b"nonsense " * 150_000, status=202)
    run_worker()
    told = api.get(f"/jobs/{job['id']}")
    assert told["state"] == "failed"
    assert "ferry.edl" in told["problem"]


def test_an_opentimelineio_file_of_the_library_itself(api, project, tmp_path: Path):
    timeline = otio.schema.Timeline(name="Ferry")
    track = otio.schema.Track(kind="Video")
    timeline.tracks.append(track)
    for name, start, count in (("Tide", 864003, 6), ("quay_a", 864010, 40)):
        span = otio.opentime.TimeRange(otio.opentime.RationalTime(start, 24), otio.opentime.RationalTime(count, 24))
        track.append(otio.schema.Gap(duration=otio.opentime.RationalTime(5, 24)))
        track.append(
            otio.schema.Clip(
                name=name, media_reference=otio.schema.ExternalReference(f"file:///rushes/{name}.mov"), source_range=span
            )
        )
    data = otio.adapters.write_to_string(timeline, "otio_json").encode()
    seen = send(api, f"/projects/{project.pk}/timeline/look", data, "ferry.otio")["events"]
    assert [(one["name"], one["first"], one["last"]) for one in seen] == [("Tide", 3, 8), ("quay_a", 10, 23)]
    assert "reaches beyond the clip" in seen[1]["words"]


def test_media_is_found_in_an_allowed_folder_and_read_in_place(api, project, tmp_path: Path, settings):
    """Two events of one clip, which is brought in once; a sequence by its name without its number; what is nowhere is told."""
    folder = tmp_path / "rushes" / "day 2"
    folder.mkdir(parents=True)
    settings.MEDIA_FOLDERS = {"rushes": str(tmp_path / "rushes"), "gone": str(tmp_path / "gone")}
    write(folder / "GULL.mov", "prores_ks", "yuv422p10le", 30)
    (tmp_path / "outside.mov").write_bytes((folder / "GULL.mov").read_bytes())
    (folder / "mast.mov").symlink_to(tmp_path / "outside.mov")
    edit = """TITLE: REEL 2

001  GULL     V     C        00:00:00:00 00:00:00:10 01:00:00:00 01:00:00:10
* FROM CLIP NAME: gull.mov
002  GULL     V     C        00:00:00:12 00:00:00:20 01:00:00:10 01:00:00:18
* FROM CLIP NAME: gull.mov
003  MAST     V     C        00:00:00:00 00:00:00:10 01:00:00:18 01:00:01:04
* FROM CLIP NAME: mast.mov
"""
    base = f"/projects/{project.pk}/timeline"
    pictures = Picture.objects.count()
    first, second, third = send(api, f"{base}/look", edit.encode())["events"]
    assert (first["in_folder"], first["picture"]) == (True, None)
    assert f'media folder "rushes": {Path("day 2/GULL.mov")}' in first["words"]
    assert (second["in_folder"], third["in_folder"]) == (True, False), "a link that leads outside is not followed"
    assert Picture.objects.count() == pictures, "looking changes nothing"
    taken = send(api, base, edit.encode(), scene="Reel 2")
    assert len(taken["shots"]) == 2
    assert Picture.objects.count() == pictures + 1
    one, two = Shot.objects.order_by("position")
    assert (one.picture_id, one.first, one.last) == (two.picture_id, 0, 9)
    assert (two.first, two.last) == (12, 19)
    assert one.picture.footage.folder == "rushes"
    assert not one.picture.footage.files.exclude(blob=None).exists(), "nothing of it is kept"


def test_markers_become_notes_at_the_frames_of_the_shot(api, project):
    """In the same change as the shots; by the clip's own timecode, which begins at ten hours."""
    base = 10 * 3600 * 24
    clip = otio_clip("Tide", base + 4, 10, "Tide.mov")
    span = otio.opentime.TimeRange(otio.opentime.RationalTime(base + 7, 24), otio.opentime.RationalTime(1, 24))
    clip.markers.append(otio.schema.Marker(name="Lamp", comment="too hot", marked_range=span))
    timeline = otio.schema.Timeline(name="Ferry")
    timeline.tracks.append(otio.schema.Track(name="V1", kind=otio.schema.TrackKind.Video, children=[clip]))
    data = str(otio.adapters.write_to_string(timeline, "otio_json")).encode()
    send(api, f"/projects/{project.pk}/timeline", data, "ferry.otio", scene="Quay")
    note = ShotNote.objects.get()
    assert (note.frame, note.words, note.shot.first) == (7, "Lamp: too hot", 4)
    assert note.person.username == "designer"
