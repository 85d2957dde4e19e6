"""Proposals that bring what a look makes of pictures towards a reference, each as the look with one group more."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.engine.plan import Plan, prepare
from saucer.core.engine.rendering import render
from saucer.core.look.model import Look, look_from
from saucer.core.making.towards.towards import Proposal, propose
from saucer.core.making.towards.whole import TITLES, group_of, words_of
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in

WIDTH = 480
"""Pixels across of the copies that proposals are made from."""
DISPLAY = "rec709"
"""What a look that ends in light of a scene is brought to for the steps, and back behind them."""


@dataclass(frozen=True)
class Towards:
    """look: as it is, with a group more behind its per-pixel steps; words: what the group does to the pictures, a line a step"""

    proposal: Proposal
    title: str
    words: list[str]
    look: Look


def bring_towards(look: Look, pictures: Sequence[Picture], reference: Picture, tolerance: float) -> list[Towards]:
    """The most whole first; none where nothing brings the pictures nearer. Raises: SaucerError as prepare"""
    plan = prepare(look, at_hand)
    plan.check_end()
    # What a LUT can hold stays together: steps at the finish stay behind what is added.
    at = max((index for index, stage in enumerate(plan.stages, 1) if not stage.spatial), default=0)
    before = plan.first(at)
    display = before.end if before.end.referred == "display" else ENCODINGS[DISPLAY]
    seen = [_seen(before, one, display) for one in pictures]
    wanted = np.clip(proxy_in(reference, ENCODINGS["srgb"], WIDTH, plan.view), 0, 1)
    found = []
    for proposal in propose(seen, display, wanted, tolerance, plan.view):
        group = group_of(proposal, reference.name, before.end, display, plan.view)
        content = look.model_dump(mode="json")
        content["steps"].insert(at, group)
        found.append(Towards(proposal, TITLES[proposal.what], words_of(proposal, seen, display), look_from(content)))
    return found


def _seen(plan: Plan, picture: Picture, display: Encoding) -> np.ndarray:
    pixels = render(plan, proxy_in(picture, plan.source, WIDTH, plan.view))
    return np.ascontiguousarray(np.clip(convert(pixels, plan.end, display, plan.view), 0, 1), np.float32)
