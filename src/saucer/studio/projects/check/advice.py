"""What to know of the layers of a shot: corrections that come after something that lost detail of it, looks that state another view."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from saucer.core.colour.conversion import is_rendered
from saucer.core.look.model import Look
from saucer.core.look.stack import Layer as Part
from saucer.core.reports.chain_advice import advise_chain
from saucer.studio.catalogue.models import Kind
from saucer.studio.encodings import rules as encodings
from saucer.studio.luts.rules import at_hand
from saucer.studio.people.models import Person
from saucer.studio.preview.bench import MOST_ADVISED
from saucer.studio.projects import rules
from saucer.studio.projects.check.misfits import WIDTH
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.grade.chain import chain_of, with_content
from saucer.studio.projects.grade.stacking import Contents, part_of, view_of
from saucer.studio.projects.models import Layer, Shot


def advise_shot(person: Person, pk: int, shot_pk: int) -> list[tuple[Layer, str]]:
    """The layers it concerns, with words; on an even choice of the pixels of its poster. Raises: NotFound, SaucerError"""
    project = rules.find(person, pk)
    shot = rules.find_shot(project, shot_pk)
    chain, contents = chain_of(shot, with_content()), Contents()
    parts = [part_of(layer, contents) for layer in chain]
    values = seeing.source_of(shot, WIDTH).reshape(-1, 3)
    sample = np.ascontiguousarray(values[:: max(1, len(values) // MOST_ADVISED)])
    found = advise_chain(shot.source_encoding, parts, sample, at_hand, contents.own, view_of(shot))
    lost = [(chain[one.layer], one.words) for one in found]
    return [*lost, *_seen_otherwise(shot, project.delivery, list(zip(chain, parts, strict=True)))]


def _seen_otherwise(shot: Shot, delivery: str, chain: Sequence[tuple[Layer, Part]]) -> Iterator[tuple[Layer, str]]:
    """Looks that state another view than the project's, where the shot is taken between scene and display to reach them or behind them."""
    view, at, end = view_of(shot), encodings.find(shot.source_encoding), encodings.find(delivery)
    for layer, part in chain:
        if not part.acts or not isinstance(part.content, Look):
            continue
        look = part.content
        into, out = look.encoding(look.input), look.encoding(look.output)
        states = layer.version is not None and layer.version.entry.kind == Kind.LOOK and look.view != view
        if states and (is_rendered(at, into, "soft") or is_rendered(out, end, "soft")):
            yield (
                layer,
                f"By itself this look is seen by the {look.view} view; in this project everything is seen by the {view} one.",
            )
        at = out
