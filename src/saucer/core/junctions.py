"""The encoding at every junction of a look, derived, and whether its end is what it declares."""

from __future__ import annotations

from dataclasses import dataclass, replace

from saucer.core.errors import LookError
from saucer.core.evaluate import check_end, junction_of, stages
from saucer.core.look import Group, Look, is_spatial
from saucer.core.steps.convert import Convert
from saucer.core.steps.registry import Junction, Luts, no_luts


@dataclass(frozen=True)
class StepEnds:
    """Ids of the encodings before and after the step at `path`."""

    path: str
    before: str
    after: str


@dataclass(frozen=True)
class Ends:
    """Every step of a look in order; the encoding the steps end in; and what is wrong with that, if anything.

    problem: a sentence, empty when the end is what the look declares. It is mended by declaring `end` as the output, or by a Convert
        step to the declared output at the end
    """

    steps: tuple[StepEnds, ...]
    end: str
    problem: str


def ends_of(look: Look, luts: Luts = no_luts) -> Ends:
    """Raises: SaucerError naming a step that cannot be made ready."""
    start = junction_of(look, luts)
    steps, end = _along(look.steps, start, "steps")
    problem = ""
    try:
        check_end(look, end.encoding)
    except LookError as error:
        problem = error.problem
    return Ends(tuple(steps), end.encoding.id, problem)


def _along(steps: tuple[object, ...], junction: Junction, inside: str) -> tuple[list[StepEnds], Junction]:
    found: list[StepEnds] = []
    for index, step in enumerate(steps):
        path = f"{inside}[{index}]"
        reached = stages([step], junction, inside, index)  # a spatial step makes no stage and keeps the encoding
        after = reached[0].after if reached else junction.encoding
        found.append(StepEnds(path, junction.encoding.id, after.id))
        if isinstance(step, Group):
            found += _along(step.steps, junction, f"{path}.steps")[0]
        junction = replace(junction, encoding=after)
    return found, junction


def mended(look: Look, by: str, luts: Luts = no_luts) -> Look:
    """The look with its end put right.

    by: "declare", the encoding it ends in as its output; "convert", a Convert step to its output after the last that a LUT can hold
    """
    end = ends_of(look, luts).end
    if by == "declare":
        return look.model_copy(update={"output": end})
    last = max((index for index, step in enumerate(look.steps, 1) if not is_spatial(step)), default=0)
    return look.model_copy(update={"steps": (*look.steps[:last], Convert(to=look.output), *look.steps[last:])})
