"""Timelines of other programs, read: OpenTimelineIO files, and CMX 3600 edit lists with ASC CDL lines."""

from __future__ import annotations

import json
import warnings
from dataclasses import replace
from fractions import Fraction
from pathlib import PurePath
from typing import Annotated, Any
from urllib.parse import unquote

import opentimelineio as otio
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError

from saucer.core.clips import decoding as clips
from saucer.core.errors import LookError, SaucerError
from saucer.core.look.extent import check_text
from saucer.core.look.problems import describe
from saucer.core.pictures import stored as pictures
from saucer.core.reading.limits import LIMITS
from saucer.core.reading.passing import passed
from saucer.core.reading.room import ask
from saucer.core.reading.tasks import reads
from saucer.core.steps.pixel.cdl import Cdl as CdlStep
from saucer.studio.projects.conform.edit_lists import Edit, read_edits

MOST_EVENTS = 5000
LARGEST = LIMITS["timeline"].bytes
LINES_AN_EVENT = 2
"""At most: a transition takes two lines of an edit list."""
MOST_NOTES, LONGEST_NOTE = 50, 500
"""Of one clip, and letters of one."""
MEDIA_SUFFIXES = clips.SUFFIXES.union(*pictures.SUFFIXES.values())


class TimelineError(SaucerError):
    """A timeline that cannot be read."""


def keepable(text: str) -> str:
    """Raises: ValueError for what no database keeps"""
    try:
        check_text(text, "")
    except LookError as error:
        raise ValueError(error.problem) from None
    return text


Name = Annotated[str, Field(max_length=200), AfterValidator(keepable)]
Words = Annotated[str, Field(max_length=LONGEST_NOTE), AfterValidator(keepable)]
FrameNumber = Annotated[int, Field(ge=-(2**31), lt=2**31)]


@passed
class Event(BaseModel):
    """A shot of a timeline. media: the name by which its picture is looked for; start, count: frames of the source, by its own timecode

    record: frame of the timeline where it begins; cdl: the ASC CDL that stands with it
    notes: what is marked in it, each at a frame of the source
    """

    model_config = ConfigDict(frozen=True)

    name: Name
    media: Name
    start: FrameNumber
    count: Annotated[int, Field(ge=1, lt=2**31)]
    record: FrameNumber
    rate: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]
    cdl: CdlStep | None = None
    facts: dict[str, Name] = {}
    notes: Annotated[list[tuple[FrameNumber, Words]], Field(max_length=MOST_NOTES)] = []


def read_timeline(data: bytes, file_name: str, rate: Fraction = Fraction(24)) -> list[Event]:
    """Every clip of the video tracks, in order, read in a reader's process. Raises: TimelineError

    rate: of an edit list, which does not say its own
    """
    place = PurePath(file_name).name
    return ask(parse_timeline, data, place, rate, place=place)


@reads("timeline", TimelineError)
def parse_timeline(data: bytes, place: str, rate: Fraction) -> list[Event]:
    """As `read_timeline`."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise TimelineError(place, "is no text; give an OpenTimelineIO file (.otio) or an edit list (.edl)") from None
    is_json = text.lstrip().startswith("{")
    if is_json:
        # The library ends the whole process over some of what is no JSON.
        try:
            json.loads(text)
        except RecursionError:
            raise TimelineError(place, "cannot be read as a timeline: one thing stands in another, too many times over") from None
        except ValueError as error:
            raise TimelineError(place, f"cannot be read as a timeline: it is damaged ({str(error)[:120]})") from None
    # Counted before anything is built: the library takes minutes and gigabytes for what is refused anyhow.
    count = text.count('"Clip.') if is_json else sum(map(_begins_event, text.splitlines()))
    if count > LINES_AN_EVENT * MOST_EVENTS:
        raise TimelineError(place, f"holds about {count} clips; {MOST_EVENTS} is the most")
    events = _read_json(text, place) if is_json else _read_edit_list(text, place, rate)
    if not events:
        raise TimelineError(place, "holds no clip on a video track")
    if len(events) > MOST_EVENTS:
        raise TimelineError(place, f"holds {len(events)} clips; {MOST_EVENTS} is the most")
    return events


def _read_json(text: str, place: str) -> list[Event]:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            timeline = otio.adapters.read_from_string(text, "otio_json")
    except Exception as error:
        line = (str(error).strip().splitlines() or ["it is damaged"])[0][:200]
        raise TimelineError(place, f"cannot be read as a timeline: {line}") from None
    if not hasattr(timeline, "find_clips"):
        raise TimelineError(place, "holds no timeline")
    clips = [clip for track in getattr(timeline, "video_tracks", list)() if track.enabled for clip in track.find_clips()]
    events = [event for clip in clips if _is_on(clip) and (event := _read_event(clip, place, timeline)) is not None]
    if clips and not events:
        raise TimelineError(place, "holds only clips that are switched off")
    return events


def _read_edit_list(text: str, place: str, rate: Fraction) -> list[Event]:
    """Raises: TimelineError where no line of it is a good event"""
    edits = read_edits(text, rate)
    if edits and all(one.problem for one in edits):
        raise TimelineError(place, f"cannot be read as a timeline: {edits[0].problem}")
    return [_event_of_edit(one, rate) for one in edits]


def _event_of_edit(edit: Edit, rate: Fraction) -> Event:
    """With its words; what cannot be read keeps its place in the list, and says why."""
    if edit.problem:
        return _unread(edit, rate)
    words = list(edit.words)
    try:
        try:
            event = _event_of(edit.clip)
        except TimelineError as error:  # of its CDL: the shot is as good without
            words.append(f"{error.problem}; it is left out")
            edit.clip.metadata.pop("cdl")
            event = _event_of(edit.clip)
        facts = event.facts | {"words": "; ".join(words)[:200]}
        notes = [(frame, keepable(said[:LONGEST_NOTE])) for frame, said in edit.notes[:MOST_NOTES]]
        told = {"start": edit.start, "count": edit.count, "record": edit.record, "facts": facts, "notes": notes}
        return Event.model_validate(event.model_dump() | told)
    except ValidationError as error:
        return _unread(replace(edit, problem=f"line {edit.line}: {describe(error)[0]}"), rate)


def _unread(edit: Edit, rate: Fraction) -> Event:
    problem = {"problem": edit.problem[:200]}
    return Event(name=f"line {edit.line}", media="", start=0, count=1, record=edit.record, rate=float(rate), facts=problem)


def _begins_event(line: str) -> bool:
    """A line of an edit list that begins with a number is (a part of) an event."""
    return line[:1].isdigit()


def _is_on(item: Any) -> bool:
    """It, and whatever it lies in."""
    return item is None or (bool(getattr(item, "enabled", True)) and _is_on(item.parent()))


def _read_event(clip: Any, place: str, timeline: Any) -> Event | None:
    """With its place in the whole timeline, however deep it lies; none where nothing of it is seen.

    Raises: TimelineError naming the file and the clip
    """
    try:
        event, words = _event_of(clip), []
        seen = _seen_of(clip, timeline)
        if seen is None:
            return None
        record = round(clip.transformed_time(seen.start_time, timeline.tracks).rescaled_to(event.rate).value)
        span: dict[str, Any] = {
            "start": round(seen.start_time.rescaled_to(event.rate).value),
            "count": max(1, round(seen.duration.value)),
        }
        notes = _notes_of(clip, event.rate)
        span |= {"notes": [one for one in notes if span["start"] <= one[0] < span["start"] + span["count"]]}
        if len(notes) > len(span["notes"]):
            words.append(f"{len(notes) - len(span['notes'])} of its notes stand outside of what is seen of it")
        if (speed := _speed_of(clip)) != 1:
            words.append(f"runs at {speed:.0%} of its speed; its {event.count} frames are taken as they are")
        return event.model_copy(
            update=span | {"record": record, "facts": event.facts | ({"words": "; ".join(words)} if words else {})}
        )
    except ValidationError as error:
        problem = describe(error)[0]
    except TimelineError as error:
        problem = error.problem
    except (ValueError, OverflowError, TypeError, AttributeError):
        problem = "its times are none: a frame, a length or a rate is no number"
    raise TimelineError(place, f'clip "{str(clip.name or "")[:80]}": {problem}')


def _seen_of(clip: Any, timeline: Any) -> Any:
    """What of a clip is seen, in its own time: whatever it lies in may have a range of its own. None: nothing"""
    seen, around = clip.trimmed_range(), clip.parent()
    while around is not None and around != timeline.tracks:
        if around.source_range is not None:
            there, shown = clip.transformed_time_range(seen, around), around.trimmed_range()
            low = max(there.start_time, shown.start_time)
            high = min(there.end_time_exclusive(), shown.end_time_exclusive())
            if high <= low:
                return None
            seen = otio.opentime.TimeRange(seen.start_time + (low - there.start_time), high - low)
        around = around.parent()
    return seen


def _speed_of(clip: Any) -> float:
    """By its linear time warps."""
    speed = 1.0
    for effect in clip.effects:
        if isinstance(effect, otio.schema.LinearTimeWarp):
            speed *= float(effect.time_scalar)
    return speed


def _event_of(clip: Any) -> Event:
    told = clip.trimmed_range()
    rate = told.duration.rate or 24.0
    reference = clip.media_reference
    prefix = (getattr(reference, "name_prefix", "") or "").rstrip("._- ")
    url = unquote(getattr(reference, "target_url", "") or prefix)
    cmx = dict(clip.metadata.get("cmx_3600", {}))
    media = PurePath(str(url)).stem or PurePath(clip.name or "").stem or str(cmx.get("reel", ""))
    place = clip.range_in_parent().start_time
    return Event(
        name=_without_suffix(clip.name) or media, media=media, start=round(told.start_time.rescaled_to(rate).value),
        count=max(1, round(told.duration.value)),
        record=round(place.rescaled_to(rate).value), rate=float(rate), cdl=_cdl_of(clip), facts={"reel": str(cmx.get("reel", ""))},
    )  # fmt: skip


def _notes_of(clip: Any, rate: float) -> list[tuple[int, str]]:
    """Its markers, which count in its own time."""
    found = []
    for marker in list(clip.markers)[:MOST_NOTES]:
        said = [str(one).strip() for one in (marker.name, getattr(marker, "comment", "")) if one]
        words = keepable(": ".join(dict.fromkeys(one for one in said if one))[:LONGEST_NOTE])
        if words:
            found.append((round(marker.marked_range.start_time.rescaled_to(rate).value), words))
    return found


def _without_suffix(name: str | None) -> str:
    """Edit lists name clips by their files; the file's kind is no part of a shot's name."""
    told = name or ""
    return told[: -len(PurePath(told).suffix)] if PurePath(told).suffix.lower() in MEDIA_SUFFIXES else told


def _cdl_of(clip: Any) -> CdlStep | None:
    told = clip.metadata.get("cdl")
    if not told:
        return None
    sop = told.get("asc_sop", {})
    content = {name: tuple(map(float, sop[name])) for name in ("slope", "offset", "power") if name in sop}
    try:
        return CdlStep.model_validate(content | {"saturation": float(told.get("asc_sat", 1))})
    except ValueError as error:
        raise TimelineError(clip.name or "clip", f"its ASC CDL is not one: {str(error).splitlines()[0]}") from None
