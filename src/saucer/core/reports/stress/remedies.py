"""What can be done with one press where a look breaks: the gentlest change of its guilty step, tried before it is offered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from saucer.core.colour.encodings import Encoding
from saucer.core.look.model import Look
from saucer.core.look.tree import Place, change_step
from saucer.core.steps.parameters import SkinLeavingParameters
from saucer.core.steps.pixel.limit import Limit

RemedyKind = Literal["strength", "leave-skin", "limit"]
SHARES = (0.75, 0.5, 0.25)
KNEE = 0.1


@dataclass(frozen=True)
class Remedy:
    """kind: "strength" of the step, "leave-skin" by it, both to `value`, or a soft "limit" at the end; words: on the button"""

    kind: RemedyKind
    place: Place
    value: float
    words: str


def remedies_for(what: str, look: Look, place: Place, end: Encoding) -> Iterator[Remedy]:
    """What might help, the gentlest first."""
    step = step_at(look, place)
    if what == "skin" and isinstance(step, SkinLeavingParameters) and step.leave_skin.amount < 1:
        yield Remedy("leave-skin", place, 1.0, "Leave skin as it was in this step")
    if what in ("clipped", "gamut") and end.referred == "display":
        yield Remedy("limit", (len(look.steps),), KNEE, "Add a soft limit at the end")
    for share in SHARES:
        value = round(step.strength * share, 2)
        yield Remedy("strength", place, value, f"Strength of this step to {value * 100:.0f} %")


def with_remedy(look: Look, remedy: Remedy) -> Look:
    """Raises: LookError where the place is none of the look's"""
    if remedy.kind == "limit":
        return look.model_copy(update={"steps": (*look.steps, Limit(low=0, high=1, knee=remedy.value, keep="hue"))})

    def change(step: Any) -> Any:
        if remedy.kind == "leave-skin":
            return step.model_copy(update={"leave_skin": step.leave_skin.model_copy(update={"amount": remedy.value})})
        return step.model_copy(update={"strength": remedy.value})

    return look.model_copy(update={"steps": change_step(look.steps, remedy.place, change)})


def without(look: Look, place: Place) -> Look:
    """The look with one of its steps left out, its conversion kept where it has one."""
    return look.model_copy(
        update={"steps": change_step(look.steps, place, lambda step: step.model_copy(update={"enabled": False}))}
    )


def step_at(look: Look, place: Place) -> Any:
    found: Any = look
    for index in place:
        found = found.steps[index]
    return found
