"""A delivery worked out: which files of which shots, under which names, in which parts, how long and how large."""

from __future__ import annotations

import time
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Any

import numpy as np

from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import render
from saucer.core.errors import SaucerError
from saucer.core.files.registry import formats
from saucer.core.look.model import Look
from saucer.studio.common.refusals import NotPossible, Refusal
from saucer.studio.encodings import rules as encodings
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures.footage import rate_of
from saucer.studio.projects import rules, showing
from saucer.studio.projects.delivering.choice import FOLDERS, SUFFIXES, DeliveryChoice
from saucer.studio.projects.delivering.naming import check_distinct, name_from
from saucer.studio.projects.models import Layer, LayerRole, Project, Shot
from saucer.studio.projects.stacking import in_order, look_of

FRAMES_A_PART = 48
BYTES_A_PIXEL = {
    "png": 1.5, "tiff": 1.25, "tiff frame": 6.0, "jpeg": 0.18, "openexr": 1.0, "dpx": 6.0, "h264": 0.03, "prores": 0.44,
}  # fmt: skip
"""Measured on four of the demo's pictures and both its clips after a soft curve; what a camera brings, with its noise, is larger."""
SECONDS_A_PIXEL = {
    "png": 2.7e-7, "tiff": 3.8e-7, "tiff frame": 3e-8, "jpeg": 8.5e-8, "openexr": 1.7e-7, "dpx": 9.1e-8, "h264": 9.4e-8, "prores": 1.4e-7,
}  # fmt: skip
"""Reading and writing, measured on the same, on two cores of 2026; grading is measured when it is estimated."""


@dataclass(frozen=True)
class Planned:
    """A file to be made. part: those of one part are made together; look: what the shot goes through, whole"""

    kind: str
    shot: Shot
    file_name: str
    part: int
    frame: int | None
    applied: dict[str, Any]


@dataclass
class Plan:
    """number: that the delivery would have; left_out: what cannot be delivered, in words

    seconds, bytes: about how long it takes one worker, and how large it gets
    """

    number: int
    files: list[Planned] = field(default_factory=list)
    names: dict[str, str] = field(default_factory=dict)
    left_out: list[str] = field(default_factory=list)
    seconds: float = 0.0
    bytes: float = 0.0

    @property
    def parts(self) -> int:
        return 1 + max((one.part for one in self.files), default=-1)


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


def plan(project: Project, choice: DeliveryChoice, number: int) -> Plan:
    """Nothing is changed or made. number: that the delivery would have. Raises: NotPossible, EncodingError, LutError"""
    if not choice.holds_anything:
        raise NotPossible("Choose what is to be delivered.")
    if choice.luts and choice.luts not in formats():
        raise NotPossible(f'There is no LUT format "{choice.luts}"; use one of {", ".join(sorted(formats()))}.')
    target = encodings.find(choice.encoding or project.delivery).id
    made = Plan(number)
    shots = shots_of(project, choice)
    for shot in shots:
        made.names[f"{shot.code} of {shot.scene.name}"] = name_from(choice.template, values_of(project, shot, target, number))
    check_distinct(made.names)
    rate = _Pace()
    for shot, name in zip(shots, made.names.values(), strict=True):
        try:
            look = look_of(shot, list(shot.layers.all()), target)
            _plan_shot(made, choice, shot, name, applied_to(shot, look, target), look, rate)
        except (SaucerError, Refusal) as error:
            made.left_out.append(f"{shot.code}: {error}")
    if not made.files and not (choice.cdl or choice.timeline or choice.looks or choice.sheet):
        raise NotPossible(" ; ".join(made.left_out)[:500] or "None of these shots can be delivered so.")
    return made


def values_of(project: Project, shot: Shot, target: str, number: int) -> dict[str, str]:
    """What the fields of a template stand for."""
    looks = [layer for layer in in_order(shot.layers.all()) if layer.role == LayerRole.LOOK and layer.enabled and layer.version]
    top = looks[-1].version if looks else None
    return {
        "project": project.name, "code": project.code or project.name, "scene": shot.scene.name, "shot": shot.code, "encoding": target,
        "look": top.entry.name if top else "ungraded", "version": f"v{top.number}" if top else "v0", "delivery": f"{number:03d}",
    }  # fmt: skip


def applied_to(shot: Shot, look: Look, target: str) -> dict[str, Any]:
    """What is told of a file: fixed when the delivery is asked for, whatever becomes of the shot meanwhile."""
    layers = [
        {
            "role": layer.role, "strength": layer.strength, "enabled": layer.enabled,
            "name": layer.version.entry.name if layer.version else "Trims", **_pinned(layer),
        }
        for layer in in_order(shot.layers.all())
    ]  # fmt: skip
    return {
        "look": look.model_dump(mode="json"), "look_hash": look.content_hash, "layers": layers, "picture": shot.picture_id,
        "picture_name": shot.picture.name, "source": shot.picture.blob_id, "source_encoding": shot.source_encoding, "encoding": target,
        "scene": shot.scene.name, "shot": shot.code, "first": shot.first, "last": shot.last, "poster": shot.poster,
    }  # fmt: skip


def _pinned(layer: Layer) -> dict[str, Any]:
    """What identifies what lies there."""
    version = layer.version
    if version is None:
        return {"steps": layer.steps}
    return {"entry": version.entry_id, "version": version.number, "content": version.content_hash}


def _plan_shot(made: Plan, choice: DeliveryChoice, shot: Shot, name: str, applied: dict[str, Any], look: Look, pace: _Pace) -> None:
    pixels = shot.picture.width * shot.picture.height
    moving = showing.footage_of(shot)
    count = shot.last - shot.first + 1 if shot.first is not None and shot.last is not None else 1

    def add(kind: str, file_name: str, part: int, frame: int | None = None) -> None:
        made.files.append(Planned(kind, shot, file_name, part, frame, applied))

    def cost(what: str, frames: int) -> None:
        made.bytes += BYTES_A_PIXEL[what] * pixels * frames
        made.seconds += frames * pixels * (SECONDS_A_PIXEL[what] + pace.of(look, shot))

    if choice.stills:
        add("still", f"{FOLDERS['still']}/{name}{SUFFIXES[choice.stills]}", made.parts, shot.poster)
        cost(choice.stills, 1)
    if choice.sequences:
        if moving is None:
            made.left_out.append(f"{shot.code}: a still has no sequence")
        else:
            begin = made.parts
            first = shot.first or 0
            for index in range(count):
                told = moving.first + first + index
                part = begin + index // FRAMES_A_PART
                add("frame", f"{FOLDERS['frame']}/{name}/{name}.{told:06d}{SUFFIXES[choice.sequences]}", part, first + index)
            cost("tiff frame" if choice.sequences == "tiff" else choice.sequences, count)
    if choice.clips:
        if moving is None:
            made.left_out.append(f"{shot.code}: a still is no clip")
        else:
            add("clip", f"{FOLDERS['clip']}/{name}{'.mp4' if choice.clips == 'h264' else '.mov'}", made.parts)
            cost(choice.clips, count)
    if choice.luts:
        form = formats()[choice.luts]
        add("lut", f"{FOLDERS['lut']}/{name}{form.suffix}", made.parts)
        made.bytes += 27 * choice.lut_size**3
        made.seconds += 0.3


@dataclass
class _Pace:
    """How long a pixel takes to be graded, measured once a look."""

    known: dict[str, float] = field(default_factory=dict)

    def of(self, look: Look, shot: Shot) -> float:
        key = look.content_hash
        if key not in self.known:
            prepared = prepare(look, at_hand)
            values = np.full((64, 512, 3), 0.4, np.float32)
            render(prepared, values)
            begun = time.perf_counter()
            render(prepared, values)
            self.known[key] = (time.perf_counter() - begun) / (64 * 512)
        return self.known[key]


def rate_of_shot(shot: Shot) -> Fraction:
    moving = showing.footage_of(shot)
    return rate_of(moving) if moving is not None else Fraction(24)
