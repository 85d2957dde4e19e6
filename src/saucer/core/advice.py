"""What a designer should know about the steps of a look on a picture, each on the step it concerns and with what can be done."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any, Literal

import numpy as np

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.evaluate import evaluate, junction_of, stages
from saucer.core.junctions import ends_of
from saucer.core.look import Group, Look, is_spatial, walk
from saucer.core.losses import Loss, losses
from saucer.core.skin import SkinShift, skin_shift
from saucer.core.spatial import spatial_kinds
from saucer.core.steps import step_kinds
from saucer.core.steps.registry import Luts, no_luts

CORRECTIONS = frozenset({"white-balance", "tone", "levels", "cdl"})
"""Kinds that correct the base of a picture and need all of it."""
WORTH_TELLING = 0.005
"""Share of a picture's pixels below which a loss is not worth a word."""
ENOUGH_SKIN = 0.002
"""Share of a picture that must be skin coloured for its turn to mean anything."""

RemedyKind = Literal["delete", "to-finish", "move-before", "expects", "show"]
AdviceKind = Literal["after-loss", "neutral", "before-per-pixel", "lut-encoding", "skin"]


@dataclass(frozen=True)
class Remedy:
    """What one click does about it.

    target: for move-before, the id of the step to stand before; for expects, the encoding's id; for show, what to show
    into: for move-before, the id of the group that holds the target, None at the top
    gives: for expects, the encoding the LUT gives
    """

    kind: RemedyKind
    words: str
    target: str = ""
    into: str | None = None
    gives: str = ""


@dataclass(frozen=True)
class Advice:
    """id, path: of the step it concerns."""

    id: str
    path: str
    kind: AdviceKind
    words: str
    remedy: Remedy | None = None


Declared = Callable[[str], tuple[str, str] | None]
"""SHA-256 of a LUT -> ids of the encodings it is known to expect and give, or None."""


def nothing_declared(sha256: str) -> tuple[str, str] | None:
    return None


def advice(
    look: Look, values: np.ndarray, tolerance: float = 6.0, luts: Luts = no_luts, declared: Declared = nothing_declared
) -> list[Advice]:
    """In the order of the recipe.

    values: (..., 3) float32 code values of the look's input, a picture or a sample of one
    tolerance: degrees of OKLCh hue that skin may turn
    Raises: as evaluate
    """
    found = [*_neutral(look), *_early_spatial(look), *_fed_otherwise(look, luts, declared), *_after_losses(look, values, luts)]
    if not ends_of(look, luts).problem:
        found += _skin(look, values, tolerance, luts)
    order = {path: index for index, (path, _) in enumerate(walk(look.steps))}
    return sorted(found, key=lambda one: order[one.path])


def _title(step: Any) -> str:
    if step.name or isinstance(step, Group):
        return step.name or "the group"
    return str((step_kinds().get(step.kind) or spatial_kinds()[step.kind]).title)


def _named(look: Look, encoding: str) -> str:
    found = ENCODINGS.get(encoding) or look.own.get(encoding)
    return found.name if found else encoding


def _acts(step: Any) -> bool:
    return bool(step.enabled and step.strength > 0)


def _neutral(look: Look) -> list[Advice]:
    return [
        Advice(step.id, path, "neutral", "Changes nothing yet.", Remedy("delete", "Delete"))
        for path, step in walk(look.steps)
        if not isinstance(step, Group) and _acts(step) and (step_kinds().get(step.kind) or spatial_kinds()[step.kind]).neutral(step)
    ]


def _early_spatial(look: Look) -> list[Advice]:
    """Spatial steps that a per-pixel step follows: what follows will be in the LUT, what it was judged on will not."""
    words = "Stays out of the LUT, though steps after it go in."
    last = max((index for index, step in enumerate(look.steps) if not is_spatial(step) and _acts(step)), default=-1)
    return [
        Advice(step.id, f"steps[{index}]", "before-per-pixel", words, Remedy("to-finish", "Move to the finish"))
        for index, step in enumerate(look.steps[: max(last, 0)])
        if step.kind in spatial_kinds() and _acts(step)
    ]  # fmt: skip


def _fed_otherwise(look: Look, luts: Luts, declared: Declared) -> list[Advice]:
    at = {one.path: one for one in ends_of(look, luts).steps}
    found = []
    for path, step in walk(look.steps):
        known = declared(step.sha256) if step.kind == "lut" and step.sha256 else None
        if known is None:
            continue
        fed, gives = step.expects or at[path].before, step.gives or step.expects or at[path].before
        if (fed, gives) != known:
            said = [_named(look, one) for one in (*known, fed, gives)]
            words = f"Made for {said[0]}, fed with {said[2]}." if fed != known[0] else f"Gives {said[1]}, taken as {said[3]}."
            found.append(
                Advice(step.id, path, "lut-encoding", words, Remedy("expects", "Use what it declares", known[0], gives=known[1]))
            )
    return found


def _after_losses(look: Look, values: np.ndarray, luts: Luts) -> list[Advice]:
    """Corrections behind a step that clipped some of the picture."""
    by_path = {loss.path: loss for loss in losses(look, values, luts)}
    return list(_corrections(look.steps, "steps", None, by_path))


def _corrections(steps: Sequence[Any], inside: str, into: str | None, by_path: dict[str, Loss]) -> list[Advice]:
    found: list[Advice] = []
    worst: tuple[Any, float] | None = None  # the step that clipped most so far in this list, and the share clipped by then
    for index, step in enumerate(steps):
        path = f"{inside}[{index}]"
        loss = by_path.get(path)
        if worst is not None and step.kind in CORRECTIONS and _acts(step) and not step_kinds()[step.kind].neutral(step):
            share = f"{worst[1] * 100:.0f} %" if worst[1] >= 0.01 else f"{worst[1] * 100:.1f} %"
            words = f"{share} of this picture is already clipped here, by {_title(worst[0])}."
            found.append(
                Advice(
                    step.id, path, "after-loss", words, Remedy("move-before", f"Move before {_title(worst[0])}", worst[0].id, into)
                )
            )
        if isinstance(step, Group):
            found += _corrections(step.steps, f"{path}.steps", step.id, by_path)
        if loss is not None and loss.clipped_here >= WORTH_TELLING and _acts(step):
            worst = (step, loss.clipped)
    return found


def _skin(look: Look, values: np.ndarray, tolerance: float, luts: Luts) -> list[Advice]:
    """On the top-level step that turned skin furthest, where the whole look turns it further than the tolerance."""
    source = look.encoding(look.input)
    flat = np.ascontiguousarray(values.reshape(-1, 3)[:: max(1, values.size // 3 // 20_000)])
    whole = skin_shift(flat, source, evaluate(look, flat, luts=luts), look.encoding(look.output), tolerance)
    if whole.share < ENOUGH_SKIN or abs(whole.shift) <= tolerance:
        return []
    shifts = [SkinShift(whole.share, 0.0, 0.0)]
    found = {stage.path: stage for stage in stages(look.steps, junction_of(look, luts))}
    end = source
    for index in range(len(look.steps)):
        stage = found.get(f"steps[{index}]")
        end = stage.after if stage else end
        shifts.append(skin_shift(flat, source, evaluate(look, flat, index + 1, luts), end, tolerance))
    turns = [abs(after.shift - before.shift) for before, after in pairwise(shifts)]
    worst = int(np.argmax(turns))
    way = "towards yellow and green" if whole.shift > 0 else "towards red and magenta"
    words = f"Skin turns {abs(whole.shift):.0f}° {way} in this look, mostly here."
    return [Advice(look.steps[worst].id, f"steps[{worst}]", "skin", words, Remedy("show", "Show where", "skin"))]
