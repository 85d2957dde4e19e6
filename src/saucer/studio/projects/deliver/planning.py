"""A delivery worked out: which files of which shots, under which names, in which parts, how long and how large."""

from __future__ import annotations

import time
from dataclasses import dataclass, field

import numpy as np

from saucer.core.clips.writing import KINDS, ClipKind
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import render
from saucer.core.files.registry import formats
from saucer.core.look.model import Look
from saucer.core.pictures.scale import held_to
from saucer.studio.common.refusals import NotPossible
from saucer.studio.luts.rules import at_hand
from saucer.studio.projects import rules
from saucer.studio.projects.deliver.choice import FOLDERS, SUFFIXES, DeliveryChoice
from saucer.studio.projects.deliver.freezing import freeze
from saucer.studio.projects.deliver.frozen import Frozen, FrozenFootage, FrozenShot
from saucer.studio.projects.models import Project, Shot

FRAMES_A_PART = 48
BYTES_A_PIXEL = {
    "png": 1.5, "tiff": 1.25, "tiff frame": 6.0, "jpeg": 0.18, "openexr": 1.0, "dpx": 6.0, "h264": 0.03, "prores": 0.44,
    "prores4444": 0.58, "h265": 0.03, "vc3": 0.44, "ffv1": 1.12,
}  # fmt: skip
"""Measured on four of the demo's pictures and both its clips after a soft curve; what a camera brings, with its noise, is larger."""
SECONDS_A_PIXEL = {
    "png": 2.7e-7, "tiff": 3.8e-7, "tiff frame": 3e-8, "jpeg": 8.5e-8, "openexr": 1.7e-7, "dpx": 9.1e-8, "h264": 9.4e-8, "prores": 1.4e-7,
    "prores4444": 1.6e-7, "h265": 1.1e-7, "vc3": 1.0e-7, "ffv1": 1.3e-7,
}  # fmt: skip
"""Reading and writing, measured on the same, on two cores of 2026; grading is measured when it is estimated."""


@dataclass(frozen=True)
class Planned:
    """A file to be made. place: of its shot in the document; part: those of one part are made together"""

    kind: str
    place: int
    file_name: str
    part: int
    frame: int | None


@dataclass
class Plan:
    """document: from which all of it is made; seconds, bytes: about how long it takes one worker, and how large it gets"""

    document: Frozen
    files: list[Planned] = field(default_factory=list)
    seconds: float = 0.0
    bytes: float = 0.0

    @property
    def parts(self) -> int:
        return 1 + max((one.part for one in self.files), default=-1)

    @property
    def left_out(self) -> list[str]:
        return self.document.left_out


def shots_of(project: Project, choice: DeliveryChoice) -> list[Shot]:
    """In story order. Raises: NotPossible where none is chosen, or one is gone"""
    shots = rules.list_shots(project)
    if choice.shots:
        wanted = set(choice.shots)
        shots = [shot for shot in shots if shot.pk in wanted]
        if len(shots) < len(wanted):
            raise NotPossible("Some of these shots were taken out meanwhile. Choose again.")
    if not shots:
        raise NotPossible("There is no shot to be delivered.")
    return shots


def plan(project: Project, choice: DeliveryChoice, number: int, by: str) -> Plan:
    """Nothing is changed or made. number: that the delivery would have; by: who asks, as they are shown

    Raises: NotPossible, EncodingError, LutError
    """
    if not choice.holds_anything:
        raise NotPossible("Choose what is to be delivered.")
    if choice.luts and choice.luts not in formats():
        raise NotPossible(f'There is no LUT format "{choice.luts}"; use one of {", ".join(sorted(formats()))}.')
    document, looks = freeze(project, choice, shots_of(project, choice), number, by)
    made, pace = Plan(document), _Pace()
    for place, shot in enumerate(document.shots):
        _plan_shot(made, choice, place, shot, looks[shot.look], pace)
    if not made.files and not (choice.cdl or choice.timeline or choice.looks or choice.sheet):
        raise NotPossible(" ; ".join(made.left_out)[:500] or "None of these shots can be delivered so.")
    return made


def _plan_shot(made: Plan, choice: DeliveryChoice, place: int, shot: FrozenShot, look: Look, pace: _Pace) -> None:
    pixels, name = shot.picture.width * shot.picture.height, shot.file_name
    moving = shot.picture.footage if shot.first is not None else None
    count = shot.last - shot.first + 1 if shot.first is not None and shot.last is not None else 1

    def add(kind: str, file_name: str, part: int, frame: int | None = None) -> None:
        made.files.append(Planned(kind, place, file_name, part, frame))

    def cost(what: str, frames: int, share: float = 1.0) -> None:
        """share: of the pixels, that leave"""
        made.bytes += BYTES_A_PIXEL[what] * pixels * share * frames
        made.seconds += frames * pixels * (SECONDS_A_PIXEL[what] + pace.of(look))

    if moving is not None and moving.held:
        where = "in clips, and no file of a sequence" if moving.missing else ""
        made.left_out.append(
            f"{shot.code}: frames {moving.held} are missing; the frame before stands in their place {where}".strip()
        )
    if choice.stills:
        add("still", f"{FOLDERS['still']}/{name}{SUFFIXES[choice.stills]}", made.parts, shot.poster)
        cost(choice.stills, 1)
    if choice.sequences:
        if moving is None:
            made.left_out.append(f"{shot.code}: a still has no sequence")
        else:
            begin, first = made.parts, shot.first or 0
            left = {number for low, high in moving.missing for number in range(low, high + 1)}
            frames = [index for index in range(count) if first + index not in left]
            for place_in_part, index in enumerate(frames):
                told = moving.first + first + index
                part = begin + place_in_part // FRAMES_A_PART
                add("frame", f"{FOLDERS['frame']}/{name}/{name}.{told:06d}{SUFFIXES[choice.sequences]}", part, first + index)
            cost("tiff frame" if choice.sequences == "tiff" else choice.sequences, len(frames))
    if choice.clips:
        if moving is None:
            made.left_out.append(f"{shot.code}: a still is no clip")
        else:
            add("clip", f"{FOLDERS['clip']}/{name}{KINDS[choice.clips].suffix}", made.parts)
            width, height = held_to(shot.picture.width, shot.picture.height, choice.lines)
            cost(choice.clips, count, width * height / pixels)
            lost = lost_in_clip(moving, KINDS[choice.clips], choice.constant)
            made.left_out.extend(f"{shot.code}: {words}" for words in lost)
    if choice.luts:
        form = formats()[choice.luts]
        add("lut", f"{FOLDERS['lut']}/{name}{form.suffix}", made.parts)
        made.bytes += 27 * choice.lut_size**3
        made.seconds += 0.3


def lost_in_clip(moving: FrozenFootage, kind: ClipKind, constant: bool) -> list[str]:
    """What is known beforehand not to go with a clip. constant: its frames become equally long"""
    words = []
    if moving.variable and constant:
        words.append("frames of unequal length, made equally long: some stand twice, some are left out")
    if moving.alpha and not kind.with_alpha:
        words.append(f"its alpha, of which {kind.name} holds none")
    if moving.aspect != "1" and not kind.says_aspect:
        words.append(f"that its pixels are {moving.aspect} as wide as high")
    return words


@dataclass
class _Pace:
    """How long a pixel takes to be graded, measured once a look."""

    known: dict[str, float] = field(default_factory=dict)

    def of(self, look: Look) -> float:
        key = look.content_hash
        if key not in self.known:
            prepared = prepare(look, at_hand)
            values = np.full((64, 512, 3), 0.4, np.float32)
            render(prepared, values)
            begun = time.perf_counter()
            render(prepared, values)
            self.known[key] = (time.perf_counter() - begun) / (64 * 512)
        return self.known[key]
