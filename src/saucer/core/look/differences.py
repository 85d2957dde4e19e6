"""How two looks differ, in words, one line a change."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from pydantic import BaseModel

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.model import Group, Look
from saucer.core.steps.kinds import title_of
from saucer.core.steps.parameters import SETTINGS, StepParameters

_CHANNELS = ("red", "green", "blue")
_PEAK = 255
"""Code values of points and levels are told in 8-bit codes."""


def describe_differences(before: Look, after: Look) -> list[str]:
    """From `before` to `after`: what is said of the look, then steps gone, new, moved and changed. Empty where nothing differs.

    A step is the same one where its id is; one without an id, where it is the next of its kind that is not yet spoken for.
    """
    lines = [*_of_look(before, after)]
    old, new = list(_listed(before.steps)), list(_listed(after.steps))
    pairs = _paired([step for step, _ in old], [step for step, _ in new])
    matched = {id(first) for first, _ in pairs}, {id(second) for _, second in pairs}
    lines += [f"{title_of(step)}: removed" for step, _ in old if id(step) not in matched[0]]
    lines += [f"{title_of(step)}: added" for step, _ in new if id(step) not in matched[1]]
    lines += _moved(pairs, dict(_inside(old)), dict(_inside(new)))
    for first, second in pairs:
        lines += [f"{title_of(second)}: {change}" for change in _of_step(first, second)]
    return lines


def _of_look(before: Look, after: Look) -> Iterator[str]:
    if before.name != after.name:
        yield f'Name: "{before.name}" -> "{after.name}"'
    for field, title in (("input", "Made for"), ("output", "Ends in")):
        old, new = getattr(before, field), getattr(after, field)
        if old != new:
            yield f"{title}: {_encoding(old)} -> {_encoding(new)}"
    if before.strength != after.strength:
        yield f"Strength of the look: {_percent(before.strength)} -> {_percent(after.strength)}"
    if before.encodings != after.encodings:
        yield "The look's own encodings changed"
    yield from _of_family(before, after)


def _of_family(before: Look, after: Look) -> Iterator[str]:
    old, new = ({member.name: member for member in look.family} for look in (before, after))
    yield from (f'Family: "{name}" removed' for name in old if name not in new)
    yield from (f'Family: "{name}" added' for name in new if name not in old)
    yield from (f'Family: other settings in "{name}"' for name in new if name in old and old[name] != new[name])


def _encoding(name: str) -> str:
    return ENCODINGS[name].name if name in ENCODINGS else name or "that of the junction"


def _listed(steps: Sequence[Any], group: str = "") -> Iterator[tuple[Any, str]]:
    """Every step and group, with the title of the group that holds it."""
    for step in steps:
        yield step, group
        if isinstance(step, Group):
            yield from _listed(step.steps, title_of(step))


def _inside(listed: Sequence[tuple[Any, str]]) -> Iterator[tuple[int, str]]:
    return ((id(step), group) for step, group in listed)


def _paired(old: Sequence[Any], new: Sequence[Any]) -> list[tuple[Any, Any]]:
    by_id = {step.id: step for step in old if step.id}
    pairs = [(by_id[step.id], step) for step in new if step.id in by_id and by_id[step.id].kind == step.kind]
    taken = {id(step) for pair in pairs for step in pair}
    for step in new:
        if id(step) in taken:
            continue
        other = next((one for one in old if id(one) not in taken and one.kind == step.kind and not (one.id and step.id)), None)
        if other is not None:
            pairs.append((other, step))
            taken |= {id(other), id(step)}
    order = {id(step): index for index, step in enumerate(new)}
    return sorted(pairs, key=lambda pair: order[id(pair[1])])


def _moved(pairs: Sequence[tuple[Any, Any]], old_groups: dict[int, str], new_groups: dict[int, str]) -> Iterator[str]:
    """Steps that changed their group, and the fewest whose order among the rest explains the new order."""
    for first, second in pairs:
        group = new_groups[id(second)]
        if old_groups[id(first)] != group and not isinstance(second, Group):
            yield f"{title_of(second)}: moved {f'into {group}' if group else f'out of {old_groups[id(first)]}'}"
    stayed = [(first, second) for first, second in pairs if old_groups[id(first)] == new_groups[id(second)]]
    places = {id(first): index for index, first in enumerate(_by_place(old_groups, [first for first, _ in stayed]))}
    kept = _longest_rising([places[id(first)] for first, _ in stayed])
    for index, (_, second) in enumerate(stayed):
        if index not in kept:
            before = stayed[index - 1][1] if index else None
            yield f"{title_of(second)}: moved {f'after {title_of(before)}' if before is not None else 'to the beginning'}"


def _by_place(groups: dict[int, str], steps: Sequence[Any]) -> list[Any]:
    order = {name: index for index, name in enumerate(groups)}
    return sorted(steps, key=lambda step: order[id(step)])


def _longest_rising(values: Sequence[int]) -> set[int]:
    """Indices of one longest run that rises, gaps allowed."""
    runs: list[list[int]] = []
    for index, value in enumerate(values):
        longest: list[int] = []
        for run in runs:
            if values[run[-1]] < value and len(run) > len(longest):
                longest = run
        runs.append([*longest, index])
    return set(sorted(runs, key=len)[-1]) if runs else set()


def _of_step(before: StepParameters, after: StepParameters) -> Iterator[str]:
    if before.enabled != after.enabled:
        yield "on" if after.enabled else "off"
    if before.strength != after.strength:
        yield f"strength {_percent(before.strength)} -> {_percent(after.strength)}"
    if before.name != after.name:
        yield f'renamed from "{title_of(before)}"'
    if before.note != after.note:
        yield "another note" if after.note else "no note"
    if before.per_shot != after.per_shot:
        yield "to be set for each shot" if after.per_shot else "no longer to be set for each shot"
    for name in type(after).model_fields:
        if name in (*SETTINGS, "steps", "file"):
            continue
        old, new = getattr(before, name), getattr(after, name)
        if old != new:
            yield from _of_field(after.kind, name, old, new)


def _of_field(kind: str, name: str, old: Any, new: Any) -> Iterator[str]:
    words = name.replace("_", " ")
    if kind == "curves" and name in ("master", *_CHANNELS):
        yield from _of_points(words, old, new)
    elif name in ("to", "expects", "gives"):
        yield f"{words} {_encoding(old)} -> {_encoding(new)}"
    elif name == "sha256":
        yield "another LUT file"
    elif isinstance(new, BaseModel):
        for field in type(new).model_fields:
            first, second = getattr(old, field), getattr(new, field)
            if first != second:
                yield f"{words} {field.replace('_', ' ')} {_value(first)} -> {_value(second)}"
    elif isinstance(new, tuple) and len(old) != len(new) and isinstance((*old, *new)[0], BaseModel):
        yield f"{words} {len(old)} -> {len(new)}"
    elif isinstance(new, tuple) and new and isinstance(new[0], BaseModel):
        for index, (first, second) in enumerate(zip(old, new, strict=True), 1):
            yield from _of_field(kind, f"{words.removesuffix('s')}_{index}", first, second)
    else:
        yield f"{words} {_value(old)} -> {_value(new)}"


def _of_points(channel: str, old: Sequence[Sequence[float]], new: Sequence[Sequence[float]]) -> Iterator[str]:
    """Points of one curve: those that moved where their number stayed, else how many there are now."""
    if len(old) != len(new):
        yield f"{channel} curve, {len(old)} points -> {len(new)}: {', '.join(f'{_code(x)} to {_code(y)}' for x, y in new)}"
        return
    for index, ((x, y), (to_x, to_y)) in enumerate(zip(old, new, strict=True)):
        if (x, y) == (to_x, to_y):
            continue
        ends = {0: "black point", len(new) - 1: "white point"}
        point = ends.get(index, f"point {index + 1}")
        if x == to_x:
            yield f"{channel} {point} {_code(y)} -> {_code(to_y)}"
        else:
            yield f"{channel} {point} {_code(x)} to {_code(y)} -> {_code(to_x)} to {_code(to_y)}"


def _code(value: float) -> str:
    return f"{round(value * _PEAK, 1):g}"


def _percent(value: float) -> str:
    return f"{round(value * 100, 1):g} %"


def _value(value: Any) -> str:
    if value is None:
        return "open"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{round(value, 4):g}"
    if isinstance(value, tuple):
        return f"({', '.join(_value(part) for part in value)})"
    return str(value) or "none"
