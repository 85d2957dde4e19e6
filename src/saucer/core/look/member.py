"""A member of a look's family: named settings in which it differs from the recipe, held to what the steps of the recipe allow."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, ValidationError
from pydantic_core import PydanticCustomError

from saucer.core.look.problems import describe
from saucer.core.look.tree import walk
from saucer.core.steps.parameters import LABELS, Beyond, StepParameters

MOST_MEMBERS = 12
LONGEST_NAME = 60
SHARED = LABELS | {"kind", "steps", "sha256", "file", "to", "expects", "gives"}
"""Fields of a step that are the same in all of a family: what the step is, what it holds, and the encodings it stands between."""

Settings = dict[str, dict[str, Any]]
"""Ids of steps to fields of theirs and what these are set to."""


MemberName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NAME)]


class FamilyMember(BaseModel):
    """One of a family: the recipe, with some settings of its own. What it does not name follows the recipe."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: MemberName
    strength: Annotated[Beyond | None, Field(description="of the whole look; without, the recipe's")] = None
    settings: Annotated[
        Settings,
        Field(
            description="ids of steps to the fields of theirs that differ from the recipe",
            json_schema_extra={"shared": [*sorted(SHARED)]},
        ),
    ] = {}


def with_settings(steps: Sequence[Any], settings: Mapping[str, Mapping[str, Any]]) -> tuple[Any, ...]:
    """The steps with these settings in the place of theirs; ids that no step has do nothing.

    Raises: PydanticCustomError with the id and the field, where a step does not take what it is given
    """
    made = []
    for step in steps:
        inner = getattr(step, "steps", ())
        if own := settings.get(step.id) if step.id else None:
            step = _set(step, own)
        made.append(step.model_copy(update={"steps": with_settings(inner, settings)}) if inner else step)
    return tuple(made)


def _set(step: StepParameters, own: Mapping[str, Any]) -> StepParameters:
    for field in own:
        if field in SHARED and field in type(step).model_fields:
            raise _refusal(f"{step.id}.{field}", "is the same in all of a family; change it in the steps of the look")
    kept = step.model_dump(mode="json", exclude={"steps"})
    try:
        return type(step).model_validate(kept | dict(own))
    except ValidationError as error:
        place, _, problem = describe(error)[0].partition(": ")
        raise _refusal(f"{step.id}.{place}", problem) from None


def check_family(
    family: Sequence[FamilyMember], steps: Sequence[Any], strength: float, check: Callable[[float, Sequence[Any]], None]
) -> None:
    """Holds every member to the steps that it is a setting of. check: what a look of this strength and steps is held to besides

    Raises: PydanticCustomError with the member, the step's id and the field
    """
    names: set[str] = set()
    ids = [step.id for _, step in walk(steps) if step.id]
    for index, member in enumerate(family):
        if member.name.casefold() in names:
            raise _refusal(f"family[{index}].name", f'there are two called "{member.name}"')
        names.add(member.name.casefold())
        for one in member.settings:
            if (count := ids.count(one)) != 1:
                raise _refusal(
                    f"family[{index}].settings.{one[:40]}", f"{'several steps have' if count else 'no step has'} this id"
                )
        try:
            check(strength if member.strength is None else member.strength, with_settings(steps, member.settings))
        except PydanticCustomError as error:
            place, _, problem = error.message().partition(": ")
            raise _refusal(f"family[{index}].{'' if place == 'strength' else 'settings.'}{place}", problem) from None


def _refusal(place: str, problem: str) -> PydanticCustomError:
    return PydanticCustomError("field", "{place}: {problem}", {"place": place, "problem": problem})
