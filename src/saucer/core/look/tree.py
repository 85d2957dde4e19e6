"""Places in a look: how they are written and counted, and the walk over steps that are only read or replaced, not run."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from typing import Any

from saucer.core.errors import LookError

_PART = re.compile(r"steps\[(\d{1,9})\]", re.ASCII)
Place = tuple[int, ...]
"""Indices of a step from the top: (2, 0) is the first step of the group that stands third."""


def path_of(place: Place) -> str:
    """As a look file says it: (2, 0) is `steps[2].steps[0]`."""
    return ".".join(f"steps[{index}]" for index in place)


def place_of(path: str) -> Place:
    """The other way round. Raises: LookError for what is no path"""
    found = [_PART.fullmatch(part) for part in path.split(".")]
    if not all(found):
        raise LookError("path", f'must be like steps[1] or steps[1].steps[0], got "{path[:60]}"')
    return tuple(int(part[1]) for part in found if part)


def number_of(place: Place) -> str:
    """As people count: (2, 0) is 3.1."""
    return ".".join(str(index + 1) for index in place)


def walk(steps: Sequence[Any], inside: Place = ()) -> Iterator[tuple[Place, Any]]:
    """Every step with its place, groups before what they hold, in the order the light goes through."""
    for index, step in enumerate(steps):
        place = (*inside, index)
        yield place, step
        yield from walk(getattr(step, "steps", ()), place)


def replace_steps(steps: Sequence[Any], change: Callable[[Any, Place], Any], inside: Place = ()) -> tuple[Any, ...]:
    """The steps with each that is no group replaced by what `change` makes of it."""
    made = []
    for index, step in enumerate(steps):
        place = (*inside, index)
        if hasattr(step, "steps"):
            made.append(step.model_copy(update={"steps": replace_steps(step.steps, change, place)}))
        else:
            made.append(change(step, place))
    return tuple(made)


def change_step(steps: Sequence[Any], place: Place, change: Callable[[Any], Any]) -> tuple[Any, ...]:
    """The steps with the one at a place, group or not, replaced by what `change` makes of it. Raises: LookError without such a place"""
    index, *inside = place
    if not 0 <= index < len(steps) or (inside and not hasattr(steps[index], "steps")):
        raise LookError(path_of(place), "there is no such step")
    step = steps[index]
    made = step.model_copy(update={"steps": change_step(step.steps, tuple(inside), change)}) if inside else change(step)
    return (*steps[:index], made, *steps[index + 1 :])
