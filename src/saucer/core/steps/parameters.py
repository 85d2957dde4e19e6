"""What the parameters of every step have in common, and the words to declare them with."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field


def within(low: float, high: float, unit: str = "", what: str = "") -> Any:
    """A finite number from low to high; `unit` and `what` go into the schema. The field's default is its neutral value."""
    extra: dict[str, Any] = {"unit": unit} if unit else {}
    return Field(ge=low, le=high, allow_inf_nan=False, description=what or None, json_schema_extra=extra or None)


Strength = Annotated[float, within(0, 1, what="0 no effect .. 1 full effect")]
Beyond = Annotated[float, within(0, 1.5, what="0 no effect .. 1 full effect .. 1.5 half as much again, where the steps allow it")]
"""A strength that may lie beyond full."""
Share = Annotated[float, within(0, 1)]
Code = Annotated[float, within(0, 1, "code value")]
ROUND = "goes round"
"""Marks an angle of a whole circle: between 350 and 10 lies 0."""
Degrees = Annotated[float, within(0, 360, "degrees", "OKLCh hue"), ROUND]
Colour = tuple[Code, Code, Code]


class ParameterGroup(BaseModel):
    """A group of parameters inside a step. Absent fields take their neutral value, unknown ones are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class StepParameters(ParameterGroup):
    """One step of a look."""

    kind: str
    enabled: bool = True
    strength: Beyond = 1.0
    name: Annotated[str, Field(max_length=80, description="A name of the designer's; the kind's title without")] = ""
    note: Annotated[str, Field(max_length=400, description="Why the step is there, for whoever reads the look")] = ""
    id: Annotated[str, Field(max_length=40, description="Stays with the step through edits; no effect on the picture")] = ""
    per_shot: Annotated[bool, Field(description="To be set for each shot: neutral on purpose; no effect on the picture")] = False
    variant: Annotated[
        str, Field(max_length=40, description="Steps of one look that share it are variants: one is on; no effect on the picture")
    ] = ""


class LeaveSkin(ParameterGroup):
    """What a step leaves of skin as it was. amount: 0 nothing .. 1 all of it

    width: up to so many degrees from the line of skin it is left in full; beyond that ever less, over 30 degrees
    """

    amount: Share = 0.0
    width: Annotated[float, within(5, 60, "degrees")] = 20.0


class SkinLeavingParameters(StepParameters):
    """A step that can leave skin as it was."""

    leave_skin: LeaveSkin = LeaveSkin()


LABELS = frozenset({"name", "note", "id", "title", "per_shot", "variant"})
"""Fields of a step that say something to people and nothing to the picture."""
SETTINGS = ("kind", "enabled", "strength", "name", "note", "id", "per_shot", "variant")


def at_defaults(step: StepParameters) -> bool:
    """Every parameter of the kind's own has its default, which is its neutral value."""
    fields = type(step).model_fields
    return all(getattr(step, name) == field.default for name, field in fields.items() if name not in SETTINGS)
