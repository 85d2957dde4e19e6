"""What brings one shot to another one, or to a picture."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from saucer.core.look.model import look_from
from saucer.core.reports import match as matching
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.encodings import rules as encodings
from saucer.studio.people.models import Person
from saucer.studio.pictures import rules as pictures
from saucer.studio.presets.rules import content_of
from saucer.studio.projects import rules
from saucer.studio.projects.check.misfits import WIDTH
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.grade.chain import OWN_TRIMS, chain_of, rank_of, with_content
from saucer.studio.projects.grade.stacking import encoding_before
from saucer.studio.projects.models import Layer, Shot


def propose_match(
    person: Person, pk: int, shot_pk: int, other: int | None, picture: int | None
) -> tuple[matching.Proposal, list[dict[str, Any]]]:
    """What brings a shot, without its trims, to another one as it is trimmed, or to a picture; the steps that would do it.

    What lies on its roll and under the project counts as the shot's: trims come after it.
    Raises: NotFound, NotPossible
    """
    project = rules.find(person, pk)
    shot = rules.find_shot(project, shot_pk)
    chain = chain_of(shot, with_content())
    own = _seen_after(shot, [one for one in chain if rank_of(one) < OWN_TRIMS])
    at = encodings.find(encoding_before(shot, [one for one in chain if rank_of(one) < OWN_TRIMS]))
    if other is not None:
        if other == shot_pk:
            raise NotPossible("A shot matches itself already.")
        beside = rules.find_shot(project, other)
        target = _seen_after(beside, [one for one in chain_of(beside, with_content()) if rank_of(one) <= OWN_TRIMS])
    elif picture is not None:
        found = pictures.find(picture, person)
        target = matching.see(pictures.proxy_in(found, None, WIDTH), encodings.find(found.encoding))
    else:
        raise NotFound("Say to which shot or picture.")
    proposal = matching.match(own, target, at)
    steps: list[dict[str, Any]] = []
    if proposal.white_confidence > 0 and (proposal.warm or proposal.tint):
        steps.append({"kind": "white-balance", "warm": _held(proposal.warm, 150), "tint": _held(proposal.tint, 0.05)})
    if proposal.exposure:
        steps.append({"kind": "tone", "exposure": proposal.exposure})
    return proposal, content_of(look_from({"steps": steps}).steps)


def _held(value: float, most: float) -> float:
    return float(np.clip(value, -most, most))


def _seen_after(shot: Shot, layers: Sequence[Layer]) -> matching.Seen:
    """A shot as it comes out of these, in what it is in there."""
    at = encoding_before(shot, layers)
    values = seeing.source_of(shot, WIDTH)
    if layers:
        values = seeing.rendered(seeing.plan_between(shot, layers, at), values)
    return matching.see(values, encodings.find(at))
