"""What brings one shot to another one, or to a picture."""

from __future__ import annotations

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
from saucer.studio.projects.models import Layer, LayerRole, Shot


def propose_match(
    person: Person, pk: int, shot_pk: int, other: int | None, picture: int | None
) -> tuple[matching.Proposal, list[dict[str, Any]]]:
    """What brings a shot, without its trims, to another one as it is trimmed, or to a picture; the steps that would do it.

    Raises: NotFound, NotPossible
    """
    project = rules.find(person, pk)
    shot = rules.find_shot(project, shot_pk)
    at = encodings.find(shot.source_encoding)
    own = matching.see(seeing.source_of(shot, WIDTH), at)
    if other is not None:
        if other == shot_pk:
            raise NotPossible("A shot matches itself already.")
        target = _trimmed(rules.find_shot(project, other))
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


def _trimmed(shot: Shot) -> matching.Seen:
    """A shot as it comes out of its trims, in what it is in."""
    trims = [one for one in Layer.objects.filter(shot=shot).select_related("version__entry") if one.role == LayerRole.BEFORE]
    at = encodings.find(shot.source_encoding)
    values = seeing.source_of(shot, WIDTH)
    if trims:
        plan = seeing.plan_between(shot, trims, shot.source_encoding)
        values = seeing.rendered(plan, values)
    return matching.see(values, at)
