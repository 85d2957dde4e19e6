"""Which part of a look is baked, between which encodings, and what a LUT of it leaves out."""

from __future__ import annotations

from dataclasses import dataclass

from saucer.core.engine.plan import Plan, Stage, prepare
from saucer.core.errors import LookError
from saucer.core.look.model import Group, Look
from saucer.core.look.tree import number_of, place_of
from saucer.core.steps.pixel.convert import Convert
from saucer.core.steps.registry import Luts, SpatialKind, no_luts


@dataclass(frozen=True)
class Part:
    """What of a look is baked: all of it, top-level steps first..last (from 1), or the one group or step at `path`."""

    first: int | None = None
    last: int | None = None
    path: str = ""

    @property
    def words(self) -> str:
        if self.path:
            return f"only step {number_of(place_of(self.path))}"
        if self.first is None and self.last is None:
            return ""
        return f"only steps {self.first or 1} to {self.last or 'the last'}"

    def holds(self, stage: Stage) -> bool:
        if self.path:
            place = place_of(self.path)
            return stage.place[: len(place)] == place
        number = stage.place[0] + 1
        return (self.first or 1) <= number <= (self.last or number)


WHOLE = Part()


def take_part(look: Look, part: Part, luts: Luts = no_luts) -> Look:
    """The part as a look of its own, from the encoding that reaches it to the one at its end; nothing else of the look takes part.

    Raises: LookError for a part that is not there
    """
    if part == WHOLE:
        return look
    plan = prepare(look, luts)
    if part.path:
        stage = plan.find(part.path)
        if stage is None:
            raise LookError("part", f'there is no "{part.path}" in this look')
        stages: tuple[Stage, ...] = (stage,)
    else:
        low, high = part.first or 1, part.last or len(look.steps)
        if not 1 <= low <= high <= len(look.steps):
            raise LookError("part", f"the look has steps 1 to {len(look.steps)}, got {low} to {high}")
        stages = plan.stages[low - 1 : high]
    steps = tuple(stage.step for stage in stages)
    return look.model_copy(update={"steps": steps, "strength": 1.0, "input": stages[0].before.id, "output": stages[-1].after.id})


def put_between(look: Look, expects: str = "", gives: str = "") -> Look:
    """The look with conversions put around it, so that it takes `expects` and gives `gives`. Raises: EncodingError"""
    if (not expects or expects == look.input) and (not gives or gives == look.output):
        return look
    for name in filter(None, (expects, gives)):
        look.encoding(name)
    steps = look.steps
    if look.strength != 1:
        # The strength is the look's, not the conversions': it goes onto a group of what was there.
        steps = (Group(name=look.name, strength=look.strength, steps=look.steps),)
    before = (Convert(to=look.input, rendering=look.view),) if expects and expects != look.input else ()
    behind = (Convert(to=gives, rendering=look.view),) if gives and gives != look.output else ()
    return look.model_copy(
        update={
            "steps": (*before, *steps, *behind),
            "strength": 1.0,
            "input": expects or look.input,
            "output": gives or look.output,
        }
    )


def name_left_out(plan: Plan, part: Part = WHOLE) -> list[str]:
    """The spatial steps that a LUT of a whole look, or of a part of it, cannot hold, each with its place in the look."""
    return [
        f"{stage.title} (step {stage.number})"
        for stage in plan.walk()
        if isinstance(stage.kind, SpatialKind) and stage.step.enabled and not stage.neutral and part.holds(stage)
    ]
