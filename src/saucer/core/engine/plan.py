"""A look prepared once, as a tree of stages. Everything that has to do with what a look does reads the plan; nothing else walks steps.

A stage knows its place, its step, the encodings before and after it, and the operations it comes down to. Rendering takes the plan in
segments: runs of per-pixel stages, spatial steps, and groups that hold one.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from saucer.core.colour.conversion import conversion
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.rendering import Rendering, View
from saucer.core.colour.working import in_turn
from saucer.core.errors import LookError, SaucerError
from saucer.core.look.model import Group, Look
from saucer.core.look.tree import Place, number_of, path_of
from saucer.core.numeric.blending import blend
from saucer.core.numeric.planes import Operation
from saucer.core.steps.kinds import kind_of, title_of
from saucer.core.steps.leaving_skin import leave_skin
from saucer.core.steps.parameters import LABELS, SkinLeavingParameters
from saucer.core.steps.pixel.convert import Convert
from saucer.core.steps.registry import Junction, Kind, Luts, PixelKind, SpatialKind, no_luts
from saucer.core.steps.strength import at_strength


@dataclass(frozen=True, eq=False)
class Stage:
    """One step or group ready to run.

    place: its indices from the top; kind: None for a group
    junction: where it stands; after: the encoding at its end
    operations: what it comes down to on planes of samples, in order, at its strength; none where it changes nothing there. Of a group
        without the spatial steps in it
    inner: of a group, what it holds
    """

    place: Place
    step: Any
    kind: Kind | None
    junction: Junction
    after: Encoding
    operations: tuple[Operation, ...] = ()
    inner: tuple[Stage, ...] = ()

    @property
    def before(self) -> Encoding:
        return self.junction.encoding

    @property
    def path(self) -> str:
        """As in a look file: steps[2].steps[0]."""
        return path_of(self.place)

    @property
    def number(self) -> str:
        """As people count: 3.1."""
        return number_of(self.place)

    @property
    def title(self) -> str:
        return title_of(self.step)

    @property
    def strength(self) -> float:
        return self.step.strength if self.step.enabled else 0.0

    @property
    def neutral(self) -> bool:
        return self.kind is not None and self.kind.neutral(self.step)

    @property
    def acts(self) -> bool:
        """Is it switched on, with some strength and settings that do something? A group is asked for its own switch and strength only."""
        return self.strength > 0 and not self.neutral

    @cached_property
    def spatial(self) -> bool:
        """A spatial step, or a group that holds one."""
        return isinstance(self.kind, SpatialKind) or any(stage.spatial for stage in self.inner)

    @cached_property
    def acts_spatially(self) -> bool:
        if self.kind is None:
            return self.step.enabled and any(stage.acts_spatially for stage in self.inner)
        return isinstance(self.kind, SpatialKind) and self.acts

    @cached_property
    def content(self) -> str:
        """What the step does, as text: equal for steps that do the same."""
        return f"{self.step.kind} {self.step.model_dump_json(exclude=set(LABELS))}"

    def walk(self) -> Iterator[Stage]:
        """Itself, then what it holds."""
        yield self
        for stage in self.inner:
            yield from stage.walk()

    def switched_on(self) -> Stage:
        return self if self.step.enabled else _prepare(self.step.model_copy(update={"enabled": True}), self.junction, self.place)


@dataclass(frozen=True)
class PixelRun:
    """Per-pixel stages in a row, with the encodings at its ends."""

    stages: tuple[Stage, ...]
    before: Encoding
    after: Encoding

    @property
    def operations(self) -> tuple[Operation, ...]:
        return tuple(operation for stage in self.stages for operation in stage.operations)


@dataclass(frozen=True)
class SpatialSegment:
    stage: Stage


@dataclass(frozen=True)
class GroupSegment:
    """A group that holds a spatial step at work."""

    stage: Stage
    segments: tuple[Segment, ...]


Segment = PixelRun | SpatialSegment | GroupSegment


@dataclass(frozen=True, eq=False)
class Plan:
    """A look made ready.

    start: where the first step stands; strength: of the whole look
    declared: id of the encoding it must end in; None for a part of a look, which ends in whatever it ends in
    """

    stages: tuple[Stage, ...]
    start: Junction
    strength: float = 1.0
    declared: str | None = None

    @property
    def source(self) -> Encoding:
        """The encoding that comes in."""
        return self.start.encoding

    @property
    def view(self) -> View:
        """By which what comes in and what comes out is seen, and brought into other encodings."""
        return self.start.view

    @property
    def end(self) -> Encoding:
        """The encoding that the steps end in."""
        return self.stages[-1].after if self.stages else self.source

    @property
    def problem(self) -> str:
        """What is wrong with the end, with both ways to put it right; empty when it is the declared output."""
        if self.declared is None or self.end.id == self.declared:
            return ""
        return (
            f'the steps end in "{self.end.id}" but the look declares "{self.declared}"; '
            f'declare "{self.end.id}" as the output, or add a Convert step to "{self.declared}" at the end'
        )

    def check_end(self) -> None:
        """Raises: LookError when the steps do not end in the declared output."""
        if self.problem:
            raise LookError("output", self.problem)

    def walk(self) -> Iterator[Stage]:
        """Every stage, groups before what they hold, in the order the light goes through."""
        for stage in self.stages:
            yield from stage.walk()

    def find(self, path: str) -> Stage | None:
        return next((stage for stage in self.walk() if stage.path == path), None)

    def first(self, steps: int | None) -> Plan:
        """Only the first so many steps at the top level; the plan itself for None."""
        return self if steps is None else replace(self, stages=self.stages[:steps], declared=None)

    def leading_to(self, step_id: str) -> Plan:
        """What the light goes through before it reaches the step of this id; of the groups around it only what they hold before it.

        Without such a step, no steps at all.
        """
        return Plan(_leading_to(self.stages, lambda stage: bool(step_id) and stage.step.id == step_id) or (), self.start)

    def before(self, stage: Stage) -> Plan:
        """As `leading_to`, for a stage of this plan."""
        return Plan(_leading_to(self.stages, lambda one: one is stage) or (), self.start)

    @cached_property
    def run(self) -> PixelRun:
        """All that a LUT can hold, as one run; spatial steps take no part."""
        return PixelRun(self.stages, self.source, self.end)

    @cached_property
    def segments(self) -> tuple[Segment, ...]:
        return _segments(self.stages, self.source)

    @property
    def acts_spatially(self) -> bool:
        return any(stage.acts_spatially for stage in self.stages)

    def reach(self, height: int) -> int:
        """Rows above and below a row that take part in it, in a picture of this height."""
        return _reach(self.stages, height)


def prepare(look: Look, luts: Luts = no_luts) -> Plan:
    """Raises: SaucerError naming a step that cannot be made ready."""
    start = Junction(look.encoding(look.input), look.own, luts, look.view)
    return Plan(_prepare_all(look.steps, start, ()), start, look.strength, look.output)


def enclose(plan: Plan, source: Encoding, target: Encoding) -> Plan:
    """The plan with the ways from `source` to where it begins, and from where it ends to `target`, as stages of its own.

    Of a plan at full strength: what comes in would take part in its strength.
    """
    own = {**plan.start.own, source.id: source, target.id: target}
    start = replace(plan.start, encoding=source, own=own)
    before = _prepare_all(_way(source, plan.source, plan.view), start, ())
    behind = _prepare_all(_way(plan.end, target, plan.view), replace(start, encoding=plan.end), ())
    return replace(plan, stages=(*before, *plan.stages, *behind), start=start, declared=None)


def _way(source: Encoding, target: Encoding, view: View) -> list[Convert]:
    return [] if source == target else [Convert(to=target.id, rendering=view)]


def _prepare_all(steps: Sequence[Any], junction: Junction, inside: Place) -> tuple[Stage, ...]:
    found = []
    for index, step in enumerate(steps):
        stage = _prepare(step, junction, (*inside, index))
        found.append(stage)
        junction = replace(junction, encoding=stage.after)
    return tuple(found)


def _prepare(step: Any, junction: Junction, place: Place) -> Stage:
    if isinstance(step, Group):
        return _prepare_group(step, junction, place)
    kind, before = kind_of(step), junction.encoding
    # A conversion that is switched off is not there; anything else that changes the encoding leaves its conversion behind.
    if not isinstance(kind, PixelKind) or kind.neutral(step) or (isinstance(step, Convert) and not step.enabled):
        return Stage(place, step, kind, junction, before)
    try:
        after = kind.after(step, junction)
        operation: Operation | None
        if step.enabled and step.strength > 0:
            operation = kind.prepare(step, junction)
            if not kind.fades:
                operation = at_strength(operation, before, after, step.strength, junction.view)
            if isinstance(step, SkinLeavingParameters):
                operation = leave_skin(operation, before, after, step.leave_skin, junction.view)
        else:
            operation = conversion(before, after, junction.view)
        return Stage(place, step, kind, junction, after, (operation,) if operation is not None else ())
    except SaucerError as error:
        raise error.within(path_of(place)) from None


def _prepare_group(group: Group, junction: Junction, place: Place) -> Stage:
    inner = _prepare_all(group.steps, junction, place)
    before, after = junction.encoding, inner[-1].after if inner else junction.encoding
    operations = tuple(operation for stage in inner for operation in stage.operations)
    strength = group.strength if group.enabled else 0.0
    if group.blend != "normal" or strength != 1:
        rendering = rendering_of(group, junction)
        laid = _lay_over(in_turn(operations), group, before, after, rendering)
        operations = (at_strength(laid, before, after, strength, rendering),)
    return Stage(place, group, None, junction, after, operations, inner)


def rendering_of(group: Group, junction: Junction) -> Rendering:
    """By which what comes into a group is brought to its end: its own, or the look's view."""
    return group.rendering if group.rendering != "plain" else junction.view


def _lay_over(operation: Operation, group: Group, before: Encoding, after: Encoding, rendering: Rendering) -> Operation:
    """The group's result over its input, by its blend mode, on code values of the encoding at its end."""
    if group.blend == "normal":
        return operation
    converted = conversion(before, after, rendering)

    def run(planes: np.ndarray) -> None:
        result = planes.copy()
        operation(result)
        if converted is not None:
            converted(planes)
        blend(group.blend, planes, result)

    return run


def _segments(stages: Sequence[Stage], before: Encoding) -> tuple[Segment, ...]:
    """Per-pixel stages together, spatial steps and groups with one at work by themselves; what changes nothing is left out."""
    found: list[Segment] = []
    waiting: list[Stage] = []

    def close(after: Encoding) -> None:
        if any(stage.operations for stage in waiting):
            found.append(PixelRun(tuple(waiting), waiting[0].before, after))
        waiting.clear()

    for stage in stages:
        if not stage.acts_spatially:
            waiting.append(stage)
            continue
        close(stage.before)
        inner = _segments(stage.inner, stage.before)
        found.append(SpatialSegment(stage) if stage.kind is not None else GroupSegment(stage, inner))
    close(stages[-1].after if stages else before)
    return tuple(found)


def _leading_to(stages: Sequence[Stage], is_meant: Callable[[Stage], bool]) -> tuple[Stage, ...] | None:
    for index, stage in enumerate(stages):
        if is_meant(stage):
            return tuple(stages[:index])
        inner = _leading_to(stage.inner, is_meant)
        if inner is not None:
            return (*stages[:index], *inner)
    return None


def _reach(stages: Sequence[Stage], height: int) -> int:
    reach: Callable[[Stage], int] = lambda stage: stage.kind.reach(stage.step, height) if isinstance(stage.kind, SpatialKind) else 0  # noqa: E731
    return sum(_reach(stage.inner, height) + reach(stage) for stage in stages if stage.acts_spatially)


def settle_end(look: Look, by: str, luts: Luts = no_luts) -> Look:
    """The look with its end put right.

    by: "declare", the encoding it ends in as its output; "convert", a Convert step to its output after the last that a LUT can hold
    """
    plan = prepare(look, luts)
    if by == "declare":
        return look.model_copy(update={"output": plan.end.id})
    last = max((index for index, stage in enumerate(plan.stages, 1) if not stage.spatial), default=0)
    return look.model_copy(update={"steps": (*look.steps[:last], Convert(to=look.output, rendering=look.view), *look.steps[last:])})
