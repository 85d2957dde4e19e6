"""Shots as they are seen: the picture, or a frame of what moves, through everything that lies on it."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from collections.abc import Sequence
from contextlib import nullcontext
from threading import Lock

import numpy as np

from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.engine.plan import Plan, prepare
from saucer.core.engine.rendering import Sampling, render
from saucer.core.lut.apply import to_codes
from saucer.core.steps.registry import Frame
from saucer.studio.common.images import encoded
from saucer.studio.common.refusals import NotPossible
from saucer.studio.encodings import rules as encodings
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures import footage
from saucer.studio.pictures.models import Footage
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.preview.entries import CARD_WIDTH, FINE
from saucer.studio.preview.kept import CACHE, Turn, kept_preview
from saucer.studio.projects.grade.chain import in_order
from saucer.studio.projects.grade.stacking import look_of, view_of
from saucer.studio.projects.models import Layer, Shot

MOST_PLANS = 64
_plans: OrderedDict[str, Plan] = OrderedDict()
_planning = Lock()
SEEN_ON = "srgb"
NODES_PLAYED, NODES_DRAGGED = 33, 17


def footage_of(shot: Shot) -> Footage | None:
    return getattr(shot.picture, "footage", None) if shot.moves else None


def state_of(shot: Shot, layers: Sequence[Layer], large: bool, frame: int | None = None) -> str:
    """Changes whenever the shot would look different; versions never do. frame: another one than its poster"""
    moving = footage_of(shot)
    number = shot.poster if frame is None else frame
    seen = f"{moving.proxy_id}:{number}" if moving is not None else ""
    told = [
        shot.picture.proxy_id,
        seen,
        shot.source_encoding,
        view_of(shot),
        *(_told(one) for one in in_order(layers) if one.enabled),
    ]
    return f"shot-{hashlib.sha256('/'.join(told).encode()).hexdigest()[:32]}{'-large' if large else ''}"


def _told(layer: Layer) -> str:
    content = layer.version_id if layer.version_id is not None else json.dumps(layer.steps, sort_keys=True)
    member = f":{layer.member}" if layer.member else ""
    return f"{layer.role}:{content}:{layer.strength!r}{member}"


def shows(shot: Shot, layers: Sequence[Layer]) -> str:
    """Short, for addresses."""
    return state_of(shot, layers, False)[5:21]


def preview_file(shot: Shot, layers: Sequence[Layer], large: bool, frame: int | None = None, turn: Turn = nullcontext) -> bytes:
    """JPEG of a card's width, or of the whole proxy; kept by what it shows, whichever shot it is of. turn: waited for where it is made"""

    def make() -> bytes:
        with turn():
            return encoded(pixels(shot, layers, None if large else CARD_WIDTH, frame), "jpeg", FINE if large else 90)

    return kept_preview(state_of(shot, layers, large, frame), make)


def plan_of(shot: Shot, layers: Sequence[Layer]) -> Plan:
    """From what the shot is in to a screen."""
    return plan_between(shot, layers, SEEN_ON)


def plan_between(shot: Shot, layers: Sequence[Layer], target: str) -> Plan:
    """Kept by what it does: the frames of a clip, and shots under the same look, share one."""
    key = "/".join([shot.source_encoding, target, view_of(shot), *(_told(one) for one in in_order(layers) if one.enabled)])
    with _planning:
        found = _plans.pop(key, None)
    if found is None:
        found = prepare(look_of(shot, layers, target), at_hand)
    with _planning:
        _plans[key] = found
        if len(_plans) > MOST_PLANS:
            _plans.popitem(last=False)
    return found


def source_of(shot: Shot, width: int | None = None, frame: int | None = None) -> np.ndarray:
    """(h, w, 3) float32 of the proxy as code values of what the shot is in.

    frame: of what moves, from 0; its poster without. Before the small copy is made, every frame is the first one
    """
    moving, number = footage_of(shot), shot.poster if frame is None else frame
    as_it_is = encodings.find(shot.picture.encoding)
    if moving is None or number is None or moving.proxy_id is None:
        return proxy_in(shot.picture, None, width)
    return footage.frame_in(moving, number, as_it_is, width)


def pixels(
    shot: Shot, layers: Sequence[Layer], width: int | None = None, frame: int | None = None, nodes: int | None = None
) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the shot through its layers. Raises: SaucerError, NotFound, NotPossible

    nodes: a side of a lattice that per-pixel steps go through; none: exactly
    """
    if frame is not None and not shot.moves:
        raise NotPossible(f"{shot.code} is a still: it has no frames.")
    return through(plan_of(shot, layers), source_of(shot, width, frame), number_of(shot, frame), nodes)


def frame_of(shot: Shot, number: int | None) -> int | None:
    """Held to the frames of the shot; none for a still."""
    if number is None or shot.first is None or shot.last is None:
        return None
    return min(max(number, shot.first), shot.last)


def number_of(shot: Shot, frame: int | None) -> int:
    """Of the frame that is seen: the one that was asked for, else the one on the wall; 0 for a still."""
    return frame if frame is not None else shot.poster or 0


def through(plan: Plan, values: np.ndarray, number: int = 0, nodes: int | None = None) -> np.ndarray:
    """(h, w, 3) uint8 sRGB. number: of the frame, for what moves from frame to frame"""
    return to_codes(values_through(plan, values, number, nodes), np.uint8)


def values_through(plan: Plan, values: np.ndarray, number: int = 0, nodes: int | None = None) -> np.ndarray:
    """(h, w, 3) float32 sRGB code values, not clipped."""
    return show_on_srgb(rendered(plan, values, number, nodes), plan.end, plan.view)


def rendered(plan: Plan, values: np.ndarray, number: int = 0, nodes: int | None = None) -> np.ndarray:
    """(h, w, 3) float32 code values of the plan's end."""
    whole = Frame(values.shape[1], values.shape[0], 0, number)
    return render(plan, np.ascontiguousarray(values), whole, Sampling(nodes, CACHE))
