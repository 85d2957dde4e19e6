"""What a designer should know about the steps of a look on a picture, each on the step it concerns and with what can be done."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.skin import skin_shift
from saucer.core.colour.working import in_turn
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import Plan, Stage, prepare
from saucer.core.look.model import Look
from saucer.core.numeric.planes import through
from saucer.core.reports.losses import Loss, find_losses
from saucer.core.steps.pixel.lut import LutStep
from saucer.core.steps.registry import Luts, PixelKind, SpatialKind, no_luts

WORTH_TELLING = 0.005
"""Share of a picture's pixels below which a loss is not worth a word."""
TONES_WORTH_TELLING = 0.02
"""The same of tones that fall together: at the ends of any shoulder a few do."""
ENOUGH_SKIN = 0.002
"""Share of a picture that must be skin coloured for its turn to mean anything."""

RemedyKind = Literal["delete", "to-finish", "move-before", "expects", "show"]
AdviceKind = Literal["after-loss", "neutral", "before-per-pixel", "lut-encoding", "lut-asked", "skin"]


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


class Ends(NamedTuple):
    """Ids of the encodings that a LUT expects and gives. is_known: or are they only a suggestion, which nobody has confirmed?"""

    expects: str
    gives: str
    is_known: bool = True


Declared = Callable[[str], Ends | None]
"""SHA-256 of a LUT -> what it is known to be for, or None."""


def nothing_declared(sha256: str) -> Ends | None:
    return None


def advise(
    look: Look, values: np.ndarray, tolerance: float = 6.0, luts: Luts = no_luts, declared: Declared = nothing_declared
) -> list[Advice]:
    """In the order of the recipe.

    values: (..., 3) float32 code values of the look's input, a picture or a sample of one
    tolerance: degrees of OKLCh hue that skin may turn
    Raises: as prepare
    """
    plan = prepare(look, luts)
    found = [*_neutral(plan), *_early_spatial(plan), *_fed_otherwise(look, plan, declared), *_after_losses(plan, values)]
    if not plan.problem:
        found += _skin(plan, values, tolerance)
    order = {stage.path: index for index, stage in enumerate(plan.walk())}
    return sorted(found, key=lambda one: order[one.path])


def _about(stage: Stage, kind: AdviceKind, words: str, remedy: Remedy | None = None) -> Advice:
    return Advice(stage.step.id, stage.path, kind, words, remedy)


def _neutral(plan: Plan) -> list[Advice]:
    return [
        _about(stage, "neutral", "Changes nothing yet.", Remedy("delete", "Delete"))
        for stage in plan.walk() if stage.strength > 0 and stage.neutral and not stage.step.per_shot
    ]  # fmt: skip


def _early_spatial(plan: Plan) -> list[Advice]:
    """Spatial steps that a per-pixel step follows: what follows will be in the LUT, what it was judged on will not."""
    words = "Stays out of the LUT, though steps after it go in."
    last = max((index for index, stage in enumerate(plan.stages) if not stage.spatial and stage.strength > 0), default=0)
    return [
        _about(stage, "before-per-pixel", words, Remedy("to-finish", "Move to the finish"))
        for stage in plan.stages[:last] if isinstance(stage.kind, SpatialKind) and stage.strength > 0
    ]  # fmt: skip


def _fed_otherwise(look: Look, plan: Plan, declared: Declared) -> list[Advice]:
    found = []
    for stage in plan.walk():
        step = stage.step
        known = declared(step.sha256) if isinstance(step, LutStep) and step.sha256 else None
        if known is None:
            continue
        fed, gives = step.expects or stage.before.id, step.gives or step.expects or stage.before.id
        if not known.is_known:
            if (fed, gives) == known[:2]:
                into, out = _named(look, fed), _named(look, gives)
                words = f"Nobody has said what this LUT is made for; it is taken as one from {into} to {out}. Its page can say it."
                found.append(_about(stage, "lut-asked", words))
        elif (fed, gives) != known[:2]:
            said = [_named(look, one) for one in (known.expects, known.gives, fed, gives)]
            words = f"Made for {said[0]}, fed with {said[2]}." if fed != known.expects else f"Gives {said[1]}, taken as {said[3]}."
            found.append(
                _about(stage, "lut-encoding", words, Remedy("expects", "Use what it declares", known.expects, gives=known.gives))
            )
    return found


def _named(look: Look, encoding: str) -> str:
    known = ENCODINGS.get(encoding) or look.own.get(encoding)
    return known.name if known else encoding


def _after_losses(plan: Plan, values: np.ndarray) -> list[Advice]:
    """Corrections behind a step that clipped some of the picture, or made tones of it one."""
    return list(_corrections(plan.stages, None, {loss.path: loss for loss in find_losses(plan, values)}))


def _corrections(stages: Sequence[Stage], into: str | None, by_path: dict[str, Loss]) -> Iterator[Advice]:
    worst: tuple[Stage, str] | None = None  # the stage that lost something last in this list, and what is lost by then
    for stage in stages:
        if worst is not None and corrects(stage):
            title = _called(worst[0])
            words = f"{worst[1]}, by {title}."
            yield _about(stage, "after-loss", words, Remedy("move-before", f"Move before {title}", worst[0].step.id, into))
        yield from _corrections(stage.inner, stage.step.id, by_path)
        loss = by_path.get(stage.path)
        if loss is not None and stage.strength > 0 and (lost := words_of_loss(loss)):
            worst = (stage, lost)


def corrects(stage: Stage) -> bool:
    """Is it a correction at work, which needs all of the picture?"""
    return isinstance(stage.kind, PixelKind) and stage.kind.corrects and stage.acts


def words_of_loss(loss: Loss) -> str:
    """What is lost by then where a step loses something worth a word itself; empty where it does not."""
    if loss.clipped_here >= WORTH_TELLING:
        return f"{_share(loss.clipped)} of this picture is already clipped here"
    if loss.fallen_here >= TONES_WORTH_TELLING:
        return f"{_share(loss.fallen)} of this picture lies in tones that have already fallen together here"
    return ""


def _share(share: float) -> str:
    return f"{share * 100:.0f} %" if share >= 0.01 else f"{share * 100:.1f} %"


def _called(stage: Stage) -> str:
    return stage.title if stage.step.name or stage.kind is not None else "the group"


def _skin(plan: Plan, values: np.ndarray, tolerance: float) -> list[Advice]:
    """On the top-level step that turned skin furthest, where the whole look turns it further than the tolerance."""
    source = plan.source
    flat = np.ascontiguousarray(values.reshape(-1, 3)[:: max(1, values.size // 3 // 20_000)])
    whole = skin_shift(flat, source, evaluate(plan, flat), plan.end, tolerance)
    if whole.share < ENOUGH_SKIN or abs(whole.shift) <= tolerance:
        return []
    shifts, reached = [0.0], flat
    for stage in plan.stages:
        reached = through(in_turn(stage.operations), reached) if stage.operations else reached
        shifts.append(skin_shift(flat, source, reached, stage.after, tolerance).shift)
    worst = plan.stages[int(np.argmax(np.abs(np.diff(shifts))))]
    way = "towards yellow and green" if whole.shift > 0 else "towards red and magenta"
    words = f"Skin turns {abs(whole.shift):.0f}° {way} in this look, mostly here."
    return [_about(worst, "skin", words, Remedy("show", "Show where", "skin"))]
