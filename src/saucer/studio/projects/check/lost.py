"""Corrections of a shot that come after something that lost detail of it."""

from __future__ import annotations

import numpy as np

from saucer.core.reports.chain_advice import advise_chain
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Person
from saucer.studio.preview.bench import MOST_ADVISED
from saucer.studio.projects import rules
from saucer.studio.projects.check.misfits import WIDTH
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.grade.chain import chain_of, with_content
from saucer.studio.projects.grade.stacking import Contents, part_of, view_of
from saucer.studio.projects.models import Layer


def advise_shot(person: Person, pk: int, shot_pk: int) -> list[tuple[Layer, str]]:
    """The layers it concerns, with words; on an even choice of the pixels of its poster. Raises: NotFound, SaucerError"""
    shot = rules.find_shot(rules.find(person, pk), shot_pk)
    chain, contents = chain_of(shot, with_content()), Contents()
    parts = [part_of(layer, contents) for layer in chain]
    values = seeing.source_of(shot, WIDTH).reshape(-1, 3)
    sample = np.ascontiguousarray(values[:: max(1, len(values) // MOST_ADVISED)])
    found = advise_chain(shot.source_encoding, parts, sample, at_hand, contents.own, view_of(shot))
    return [(chain[one.layer], one.words) for one in found]
