"""The family of a look: its recipe under several named settings, each as a look of its own, and what lies between two of them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel
from pydantic_core import to_jsonable_python

from saucer.core.errors import LookError
from saucer.core.look.differences import describe_differences
from saucer.core.look.member import SHARED, FamilyMember, with_settings
from saucer.core.look.model import Look
from saucer.core.look.tree import walk
from saucer.core.steps.parameters import ROUND, StepParameters
from saucer.core.steps.pixel.curves import CHANNELS, Curves, evaluate_curve

_MOST_POINTS = 16
_TURN = 360.0
_DIGITS = 6
"""Places behind the point of numbers in between: far finer than any setting is seen, and they read as numbers."""


def find_member(look: Look, name: str) -> FamilyMember:
    """By its name, in capitals or not. Raises: LookError with the names there are"""
    for member in look.family:
        if member.name.casefold() == name.strip().casefold():
            return member
    known = ", ".join(f'"{member.name}"' for member in look.family)
    raise LookError("family", f'there is no "{name}" in this look; {f"there are {known}" if known else "it has no family"}')


def as_member(look: Look, name: str) -> Look:
    """The look as one of its family, with no family of its own; an empty name is the recipe as it stands.

    Raises: LookError where there is no such member
    """
    if not name:
        return look.model_copy(update={"family": ()}) if look.family else look
    member = find_member(look, name)
    return look.model_copy(
        update={
            "name": named(look.name, member.name),
            "strength": look.strength if member.strength is None else member.strength,
            "steps": with_settings(look.steps, member.settings),
            "family": (),
        }
    )


def named(look: str, member: str) -> str:
    """What a member is called away from its look."""
    return f"{look}, {member}" if look and member else look or member


def describe_member(look: Look, name: str, beside: str = "") -> list[str]:
    """In what a member differs from another one, or from the recipe, in words; one line a change. Raises: LookError"""
    first, second = as_member(look, beside), as_member(look, name)
    return describe_differences(first.model_copy(update={"name": second.name}), second)


def between(look: Look, first: str, second: str, at: float, name: str) -> FamilyMember:
    """A member, called `name`, that lies between two others, or between one and the recipe. at: 0 as the first .. 1 as the second

    Numbers lie between numbers, hues the short way round; curves between curves, whatever points they have; a step that is on in
    one only comes in by its strength. What has nothing between (a mode, lists of other lengths) changes at the half.
    Raises: LookError where there is no such member
    """
    start, end = as_member(look, first), as_member(look, second)
    recipe = {step.id: step for _, step in walk(look.steps)}
    pairs = zip(walk(start.steps), walk(end.steps), strict=True)
    settings = {}
    for (_, one), (_, other) in pairs:
        if one.id and (own := _own(recipe[one.id], _mix_steps(one, other, at))):
            settings[one.id] = own
    strength = round(start.strength + (end.strength - start.strength) * at, _DIGITS)
    return FamilyMember(name=name, strength=strength if strength != look.strength else None, settings=settings)


def _own(recipe: StepParameters, fields: dict[str, Any]) -> dict[str, Any]:
    kept = recipe.model_dump(mode="json")
    return {field: value for field, value in fields.items() if value != kept[field]}


def _mix_steps(one: StepParameters, other: StepParameters, at: float) -> dict[str, Any]:
    """Every field that a family may differ in, between the two, as JSON has it."""
    if one == other or at in (0, 1):
        return _fields(other if at == 1 else one)
    if one.enabled != other.enabled:
        # What is off has settings too, but nobody sees them: the one that is on comes in, or goes, as it is.
        on, share = (other, at) if other.enabled else (one, 1 - at)
        return _fields(on) | {"strength": round(on.strength * share, _DIGITS)}
    made = {name: value for name, value in _mix_models(one, other, at).items() if name not in SHARED}
    if isinstance(one, Curves) and isinstance(other, Curves):
        for channel in ("master", *CHANNELS):
            made[channel] = _mix_curves(one, other, channel, at)
    return made


def _fields(step: StepParameters) -> dict[str, Any]:
    return step.model_dump(mode="json", exclude=set(SHARED))


def _mix_models(one: BaseModel, other: BaseModel, at: float) -> dict[str, Any]:
    fields = {name: info for name, info in type(one).model_fields.items() if name not in SHARED}
    return {name: _mix(getattr(one, name), getattr(other, name), at, ROUND in info.metadata) for name, info in fields.items()}


def _mix(one: Any, other: Any, at: float, goes_round: bool = False) -> Any:
    """Between two values of a field, as JSON has them."""
    if isinstance(one, BaseModel) and type(one) is type(other):
        return _mix_models(one, other, at)
    if isinstance(one, tuple) and isinstance(other, tuple) and len(one) == len(other):
        return [_mix(first, second, at) for first, second in zip(one, other, strict=True)]
    if isinstance(one, float) and isinstance(other, float) and one != other:
        way = (other - one + _TURN / 2) % _TURN - _TURN / 2 if goes_round else other - one
        found = round(one + way * at, _DIGITS)
        return found % _TURN if goes_round else found
    return to_jsonable_python(one if at < 0.5 else other)


def _mix_curves(one: Curves, other: Curves, channel: str, at: float) -> list[list[float]]:
    """Between two curves: at every place where either has a point, or, where these are too many, where the one with more has."""
    first, second = getattr(one, channel), getattr(other, channel)
    if first == second:
        return [list(point) for point in first]
    if len(first) == len(second):
        return [_mix(*points, at) for points in zip(first, second, strict=True)]
    places = _apart(sorted({x for x, _ in (*first, *second)}))
    if len(places) > _MOST_POINTS:
        places = [x for x, _ in max(first, second, key=len)]
    low, high = (evaluate_curve(points, step.interpolation, places) for points, step in ((first, one), (second, other)))
    return [[x, round(float(min(1.0, max(0.0, a + (b - a) * at))), _DIGITS)] for x, a, b in zip(places, low, high, strict=True)]


def _apart(places: Sequence[float]) -> list[float]:
    """Without those that are too near to the one before; the last one stays."""
    kept = [places[0]]
    for x in places[1:]:
        if x - kept[-1] >= 1 / 1023:
            kept.append(x)
    if kept[-1] != places[-1]:
        kept[-1] = places[-1]
    return kept
