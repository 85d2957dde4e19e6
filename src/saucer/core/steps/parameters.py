"""What the parameters of every step have in common."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Strength = Annotated[float, Field(ge=0, le=1, description="0 no effect .. 1 full effect", allow_inf_nan=False)]


class StepParameters(BaseModel):
    """One step of a look. Absent fields take their neutral value, unknown ones are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    kind: str
    enabled: bool = True
    strength: Strength = 1.0
    name: Annotated[str, Field(max_length=80, description="A name of the designer's; the kind's title without")] = ""
    id: Annotated[str, Field(max_length=40, description="Stays with the step through edits; no effect on the picture")] = ""
