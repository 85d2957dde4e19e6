"""Encodings that a team defines as data: camera-style log parameters, primaries and a white point."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.encodings import ENCODINGS, Encoding, Referred
from saucer.core.colour.primaries import Primaries
from saucer.core.colour.transfer import HALF_MAX
from saucer.core.colour.transfer.log import LogParameters, log_curve

Number = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Coordinate = Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)]
Xy = tuple[Coordinate, Coordinate]


class LogDefinition(BaseModel):
    """The parameters of Log, style cameraLinToLog, under their names. Source: SMPTE ST 2136-1."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    base: Annotated[float, Field(gt=1, le=100)] = 2.0
    log_side_slope: Positive = 1.0
    log_side_offset: Number = 0.0
    lin_side_slope: Positive = 1.0
    lin_side_offset: Number = 0.0
    lin_side_break: Number
    linear_slope: Positive | None = None


class OwnEncoding(BaseModel):
    """An encoding as data. `id` may not be that of a shipped one."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    id: Annotated[str, Field(pattern="^[a-z0-9][a-z0-9.-]{0,39}$")]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    log: LogDefinition
    red: Xy
    green: Xy
    blue: Xy
    white: Xy
    referred: Referred = "scene"

    @model_validator(mode="after")
    def _can_be_computed(self) -> OwnEncoding:
        def refuse(place: str, problem: str) -> PydanticCustomError:
            return PydanticCustomError("field", "{place}: {problem}", {"place": place, "problem": problem})

        if self.id in ENCODINGS:
            raise refuse("id", f'"{self.id}" is a shipped encoding; choose another id')
        log = self.log
        for where, light in (("lin_side_break", log.lin_side_break), ("lin_side_slope", HALF_MAX)):
            if log.lin_side_slope * light + log.lin_side_offset <= 0:
                raise refuse(f"log.{where}", "the logarithm is of nothing positive there; raise lin_side_offset or the break")
        (x, y), corners = self.white, np.array([self.red, self.green, self.blue])
        shares = np.linalg.solve(np.vstack([corners.T, np.ones(3)]), [x, y, 1]) if abs(self._area()) > 1e-4 else np.full(3, -1.0)
        if y <= 0 or (shares <= 0).any():
            raise refuse("white", "must lie inside the triangle of red, green and blue, which must not be flat")
        if any(abs(corner[1]) < 1e-9 for corner in corners):
            raise refuse("red, green, blue", "y of a primary must not be 0")
        return self

    def _area(self) -> float:
        (rx, ry), (gx, gy), (bx, by) = self.red, self.green, self.blue
        return (gx - rx) * (by - ry) - (bx - rx) * (gy - ry)


@lru_cache(maxsize=256)
def encoding_of(own: OwnEncoding) -> Encoding:
    """The same definition gives the same object, so that encodings can be compared."""
    log = own.log
    parameters = LogParameters(
        log.base,
        log.log_side_slope,
        log.log_side_offset,
        log.lin_side_slope,
        log.lin_side_offset,
        log.lin_side_break,
        log.linear_slope,
    )
    primaries = Primaries(own.id, own.red, own.green, own.blue, own.white, "defined by the team")
    return Encoding(own.id, own.name, primaries, log_curve(parameters), own.referred, "defined by the team (ST 2136-1 parameters)")


def encodings_of(definitions: Iterable[OwnEncoding]) -> Mapping[str, Encoding]:
    """By id."""
    return {own.id: encoding_of(own) for own in definitions}
