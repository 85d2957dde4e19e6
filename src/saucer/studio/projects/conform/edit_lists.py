"""CMX 3600 edit lists, event by event: a line that cannot be read costs only itself, and says which one it is.

Each event is put before the library by itself, as a cut; what surrounds it is read here: speeds (M2), drop frame (FCM), dissolves, black.
Source: the layout of CMX 3600 lists as OpenTimelineIO's adapter documents it; lines of ASC CDLs: ASC CDL transfer functions 1.2.
"""

from __future__ import annotations

import math
import re
import warnings
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from fractions import Fraction
from typing import Any

import opentimelineio as otio

_EVENT = re.compile(
    r"^\s*(?P<number>\d+)\s+(?P<reel>\S+)\s+(?P<channels>\S+)\s+(?P<way>C|D|W\d*|K\w*)(?:\s+(?P<frames>\d+))?\s+"
    r"(?P<source_in>\S+)\s+(?P<source_out>\S+)\s+(?P<record_in>\S+)\s+(?P<record_out>\S+)\s*$",
    re.IGNORECASE,
)
_BEGINS = re.compile(r"^\s*\d+\s+\S")
_DROP = re.compile(r"^\s*FCM:\s*(?P<non>NON[- ]?)?DROP", re.IGNORECASE)
_SPEED = re.compile(r"^\s*M2\s+\S+\s+(?P<speed>[-+]?\d+(?:\.\d+)?)", re.IGNORECASE)
_ASC = re.compile(r"^\s*\*\s*ASC[_ ](?P<which>SOP|SAT)\b\s*:?\s*(?P<rest>.*)$", re.IGNORECASE)
_NAMED = re.compile(r"^\s*\*\s*(?P<which>FROM|TO)\s+CLIP\s+NAME\s*:\s*(?P<name>.*)$", re.IGNORECASE)
_LOCATED = re.compile(r"^\s*\*\s*LOC\s*:\s*(?P<at>\S+)\s+(?P<colour>[A-Za-z]+)?(?:\s+(?P<words>.*))?$", re.IGNORECASE)
_BRACKETS = re.compile(r"\(([^()]*)\)")
BLACK = ("BL", "BLACK", "BARS", "BAR")
DROPPED = (Fraction(30000, 1001), Fraction(60000, 1001))
"""Rates at which timecodes leave numbers out (SMPTE ST 12-1)."""


@dataclass(frozen=True)
class Edit:
    """An event. line: of the file, from 1; clip: of the library, none where it cannot be read; problem: why

    words: what is to be known of it; notes: its LOC lines, each at a frame of the source; within: the timeline that keeps the clip alive
    start, count: frames of the source, by its timecode; record: frame of the timeline
    """

    line: int
    clip: Any = None
    start: int = 0
    count: int = 1
    record: int = 0
    problem: str = ""
    words: tuple[str, ...] = ()
    notes: tuple[tuple[int, str], ...] = ()
    within: Any = None


@dataclass
class _Block:
    """The lines of one event: those with times, and what stands below them."""

    line: int
    drop: bool
    events: list[re.Match[str]] = field(default_factory=list)
    notes: list[tuple[int, str]] = field(default_factory=list)
    broken: str = ""


def read_edits(text: str, rate: Fraction) -> list[Edit]:
    """Every event with video, in the order of the timeline; black and bars are gaps. What cannot be read is there, with its problem."""
    found: list[Edit] = []
    for block in _blocks(text):
        edit = _edit_of(block, rate)
        if edit is None:
            continue
        if edit.problem and found:
            edit = replace(edit, record=found[-1].record)
        cross = _dissolve(block)
        if cross and found and not found[-1].problem:
            found[-1] = replace(
                found[-1], count=found[-1].count + cross, words=(*found[-1].words, f"goes on for {cross} frames of a dissolve")
            )
            edit = replace(edit, words=(*edit.words, f"begins with a dissolve of {cross} frames"))
        found.append(edit)
    first = min((one.record for one in found if not one.problem), default=0)
    return sorted((replace(one, record=max(one.record - first, 0)) for one in found), key=lambda one: one.record)


def _blocks(text: str) -> Iterator[_Block]:
    block: _Block | None = None
    drop = False
    for number, line in enumerate(text.splitlines(), 1):
        if told := _DROP.match(line):
            drop = not told["non"]
            continue
        if _BEGINS.match(line):
            event = _EVENT.match(line)
            same = block is not None and event is not None and block.events and block.events[-1]["number"] == event["number"]
            if not same:
                if block is not None:
                    yield block
                block = _Block(number, drop)
            assert block is not None
            if event is None:
                block.broken = "is no event: a number, a reel, a channel, a transition and four timecodes"
            else:
                block.events.append(event)
        elif block is not None:
            block.notes.append((number, line))
    if block is not None:
        yield block


def _is_video(channels: str) -> bool:
    return "V" in channels.upper() or channels.upper().startswith("B")


def _dissolve(block: _Block) -> int:
    if not block.events:
        return 0
    way = block.events[-1]
    return int(way["frames"] or 0) if way["way"].upper() != "C" and _is_video(way["channels"]) else 0


def _edit_of(block: _Block, rate: Fraction) -> Edit | None:
    """None for what is no picture: sound, black, bars."""
    if block.broken and not block.events:
        return Edit(block.line, problem=f"line {block.line} {block.broken}")
    event = block.events[-1]
    if not _is_video(event["channels"]) or event["reel"].upper() in BLACK:
        return None
    names = ("source_in", "source_out", "record_in", "record_out")
    times = [_with_drop(event[name], block.drop and rate in DROPPED) for name in names]
    try:
        source, source_end, record, record_end = (round(otio.opentime.from_timecode(one, float(rate)).value) for one in times)
    except ValueError as error:
        return Edit(block.line, problem=f"line {block.line}: {str(error)[:120]}")
    if record_end <= record:
        return Edit(block.line, problem=f"line {block.line}: it ends before it begins")
    words: list[str] = []
    count = source_end - source if source_end > source else record_end - record
    speed = next((float(told["speed"]) for _, line in block.notes if (told := _SPEED.match(line))), None)
    if speed is not None and speed != float(rate):
        count = max(1, round((record_end - record) * abs(speed) / float(rate)))
        if speed < 0 and source_end - source < count:  # only where it begins is told, and from there it runs backwards
            source = source - count + 1
        words.append(f"runs at {speed / float(rate):.0%} of its speed; its {count} frames are taken as they are")
    notes, lost = _notes_of(block)
    if lost:
        words.append(lost)
    cut = f"{event['number']}  {event['reel']}  V  C  {' '.join(times)}"
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            read = otio.adapters.read_from_string(
                "\n".join(["TITLE: one", cut, *notes]), "cmx_3600", rate=float(rate), ignore_timecode_mismatch=True
            )
        clip = next(iter(read.find_clips()))
    except Exception as error:
        line = (str(error).strip().splitlines() or ["it is damaged"])[0][:160]
        return Edit(block.line, problem=f"line {block.line}: {line}")
    located = tuple(_located(block, rate, record, source, source + count))
    return Edit(block.line, clip, source, count, record, words=tuple(words), notes=located, within=read)


def _located(block: _Block, rate: Fraction, record: int, first: int, end: int) -> Iterator[tuple[int, str]]:
    """Its notes by the frame of the source; a place outside of it, or that is no timecode, is that of its first frame."""
    for _, line in block.notes:
        told = _LOCATED.match(line)
        words = told and (told["words"] or told["colour"] or "").strip()
        if not told or not words:
            continue
        try:
            at = otio.opentime.from_timecode(_with_drop(told["at"], block.drop and rate in DROPPED), float(rate))
            frame = first + round(at.value) - record
        except ValueError:
            frame = first
        yield (frame if first <= frame < end else first), words


def _with_drop(timecode: str, drop: bool) -> str:
    """As the library tells dropped frames: a semicolon before them."""
    return re.sub(r"[:;.](?=\d+$)", ";", timecode) if drop else timecode


def _is_sop(text: str) -> bool:
    """Three times three numbers in brackets, and nothing else."""
    triples = [part.replace(",", " ").split() for part in _BRACKETS.findall(text)]
    if [len(one) for one in triples] != [3, 3, 3] or _BRACKETS.sub("", text).strip():
        return False
    try:
        return all(math.isfinite(float(number)) for one in triples for number in one)
    except ValueError:
        return False


def _notes_of(block: _Block) -> tuple[list[str], str]:
    """Comments as the library reads them: keys of ASC lines in capitals, the name of what a dissolve leads to; and what was left out."""
    asc: dict[str, str] = {}
    names: dict[str, str] = {}
    kept, lost = [], ""
    for number, line in block.notes:
        if told := _ASC.match(line):
            asc[told["which"].upper()] = told["rest"].strip()
            if told["which"].upper() == "SOP" and not _is_sop(told["rest"]):
                lost = f"line {number}: its ASC_SOP is not one, so its whole CDL is left out"
        elif told := _NAMED.match(line):
            names[told["which"].upper()] = told["name"].strip()
        elif not (_SPEED.match(line) or _LOCATED.match(line)) and line.lstrip().startswith("*"):
            kept.append(line.strip())
    leads = names.get("TO") if _dissolve(block) else None
    if name := leads or names.get("FROM") or names.get("TO"):
        kept.append(f"* FROM CLIP NAME: {name}")
    if not lost:
        kept += [f"* ASC_{which} {rest}" for which, rest in asc.items()]
    return kept, lost
