"""What to know of a chain of layers on a picture: corrections that come after something that lost detail of it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from saucer.core.colour.own import OwnEncoding
from saucer.core.colour.rendering import View
from saucer.core.engine.plan import prepare
from saucer.core.look.model import Look
from saucer.core.look.stack import Layer, stack_told
from saucer.core.reports.advice import corrects, words_of_loss
from saucer.core.reports.losses import find_losses
from saucer.core.steps.pixel.convert import Convert
from saucer.core.steps.registry import Luts, no_luts


@dataclass(frozen=True)
class ChainAdvice:
    """layer: its place among the layers that were given, from 0"""

    layer: int
    words: str


def advise_chain(
    source: str,
    layers: Sequence[Layer],
    values: np.ndarray,
    luts: Luts = no_luts,
    own: Iterable[OwnEncoding] = (),
    view: View = "soft",
) -> list[ChainAdvice]:
    """At most one for each layer of steps that corrects, after a layer, or a conversion, that clipped or merged some of the picture.

    What a look does after another look is its own affair: only layers of steps are corrections of what reaches them.
    values: (..., 3) float32 code values of the source encoding, a picture or a sample of one. Raises: as `stack`, `prepare`
    """
    last = next((index for index in reversed(range(len(layers))) if _is_correction(layers[index])), None)
    if last is None:
        return []
    whole, owners = stack_told(source, layers[: last + 1], _end_of(layers[: last + 1], source), tuple(own), view=view)
    plan = prepare(whole, luts)
    by_path = {loss.path: loss for loss in find_losses(plan, values)}
    found: dict[int, ChainAdvice] = {}
    lost, by = "", ""
    for stage, owner in zip(plan.stages, owners, strict=True):
        place = next((index for index, one in enumerate(layers) if one is owner), None)
        correction = place is not None and _is_correction(layers[place]) and any(corrects(one) for one in stage.walk())
        if place is not None and correction and lost:
            found.setdefault(place, ChainAdvice(place, f"{lost}, by {by}."))
        loss = by_path.get(stage.path)
        loses = owner is not None or (isinstance(stage.step, Convert) and stage.step.rendering != "plain")
        if loses and loss is not None and (words := words_of_loss(loss)):
            lost, by = words, "the view on the way to a display" if owner is None else owner.name
    return list(found.values())


def _is_correction(layer: Layer) -> bool:
    return layer.acts and not isinstance(layer.content, Look)


def _end_of(layers: Sequence[Layer], source: str) -> str:
    """What the last of them leaves the picture in."""
    return next((one.content.output for one in reversed(layers) if one.acts and isinstance(one.content, Look)), source)
