"""A proposal as one group of a look, between the conversions that it needs, and what it takes from the reference in words."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import View
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.making.apart.whole import contents_of
from saucer.core.making.towards.towards import Proposal
from saucer.core.reports.telling import tell_steps
from saucer.core.steps.kinds import title_of

TITLES = {"all": "Tone and colour", "tone": "Tone", "colour": "Colour"}


def group_of(proposal: Proposal, name: str, source: Encoding, display: Encoding, view: View) -> dict[str, Any]:
    """A group as a look file holds it, from `source` back to it. display: the encoding that the proposal was made in"""
    steps = contents_of(proposal.steps)
    if source != display:
        there, back = ({"kind": "convert", "to": one.id, "rendering": view} for one in (display, source))
        steps = [there, *steps, back]
    return {"kind": "group", "name": f"{TITLES[proposal.what]} of {name}"[:80], "steps": steps}


def words_of(proposal: Proposal, pictures: Sequence[np.ndarray], display: Encoding) -> list[str]:
    """What the steps do to the pictures, one line a step. pictures: (h, w, 3) float32 code values of `display`"""
    look = look_from({"input": display.id, "output": display.id, "steps": contents_of(proposal.steps)})
    flat = np.concatenate([one.reshape(-1, 3)[:: max(1, one.size // 3 // 20_000)] for one in pictures])[None]
    told = tell_steps(prepare(look), np.ascontiguousarray(flat, np.float32))
    return [f"{title_of(step)}: {one.words}" for step, one in zip(look.steps, told, strict=True) if one.words]
