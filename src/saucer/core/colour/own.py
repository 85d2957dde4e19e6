"""Encodings that a team defines as data: a curve, primaries and a white point."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.encodings import ENCODINGS, Encoding, Referred
from saucer.core.colour.primaries import Primaries
from saucer.core.colour.transfer import HALF_MAX, LINEAR, Transfer
from saucer.core.colour.transfer.hdr import PQ
from saucer.core.colour.transfer.log import LOGC3_INDICES, LogParameters, log_curve, logc3
from saucer.core.colour.transfer.pieces import straight_pieces
from saucer.core.colour.transfer.power import touching_curve
from saucer.core.reading.passing import passed

Number = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Coordinate = Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)]
Xy = tuple[Coordinate, Coordinate]
SMALLEST_RISE = 1e-9


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


class GammaDefinition(BaseModel):
    """light = ((code + offset) / (1 + offset))**exponent, and a straight piece near black that touches it where there is an offset.

    Source: SMPTE ST 2136-1, Exponent, style monCurve (the meaning of exponent and offset)
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    exponent: Annotated[float, Field(ge=0.2, le=10)]
    offset: Annotated[float, Field(ge=0, le=0.9)] = 0.0

    @model_validator(mode="after")
    def _can_touch(self) -> GammaDefinition:
        if self.offset and self.exponent <= 1:
            raise PydanticCustomError(
                "field", "{place}: a straight piece touches only an exponent above 1; set offset to 0", {"place": "offset"}
            )
        return self


class Logc3Definition(BaseModel):
    """LogC3 at an exposure index. Source: as `logc3`"""

    model_config = ConfigDict(extra="forbid", frozen=True)

    exposure_index: Annotated[float, Field(ge=LOGC3_INDICES[0], le=LOGC3_INDICES[1])]


class PqDefinition(BaseModel):
    """PQ, on displays that reach `peak` cd/m2. Source: ITU-R BT.2100-3, table 4"""

    model_config = ConfigDict(extra="forbid", frozen=True)

    peak: Annotated[float, Field(ge=100, le=10000)]


CURVES = ("log", "logc3", "gamma", "pq", "points")


@passed
class OwnEncoding(BaseModel):
    """An encoding as data, with one of the five curves. `id` may not be that of a shipped one."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    id: Annotated[str, Field(pattern="^[a-z0-9][a-z0-9.-]{0,39}$")]
    name: Annotated[str, Field(min_length=1, max_length=80)]
    log: LogDefinition | None = None
    logc3: Logc3Definition | None = None
    gamma: GammaDefinition | None = None
    pq: PqDefinition | None = None
    points: Annotated[
        tuple[tuple[Number, Number], ...] | None,
        Field(
            min_length=2, max_length=1024, description="[code value, linear light] pairs, both rising; straight between them and on"
        ),
    ] = None
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
        given = [name for name in CURVES if getattr(self, name) is not None]
        if len(given) != 1:
            raise refuse("curve", f"give one of {', '.join(CURVES)}; got {' and '.join(given) or 'none'}")
        if self.pq is not None and self.referred != "display":
            raise refuse("referred", "PQ is the light of a display; a scene has none that it reaches")
        if self.logc3 is not None and self.referred != "scene":
            raise refuse("referred", "LogC3 is a camera's, of the light of a scene")
        for index, (before, after) in enumerate(pairwise(self.points or ()), 1):
            if after[0] - before[0] < SMALLEST_RISE or after[1] - before[1] < SMALLEST_RISE:
                raise refuse(f"points[{index}]", f"code value and light must rise; got {after} after {before}")
        log = self.log
        for where, light in (("lin_side_break", log.lin_side_break), ("lin_side_slope", HALF_MAX)) if log else ():
            assert log is not None
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
    primaries = Primaries(own.id, own.red, own.green, own.blue, own.white, "defined by the team")
    peak = own.pq.peak if own.pq is not None else None
    return Encoding(own.id, own.name, primaries, _curve_of(own), own.referred, "defined by the team", peak)


def _curve_of(own: OwnEncoding) -> Transfer:
    if own.points is not None:
        return straight_pieces(own.points)
    if own.logc3 is not None:
        return logc3(own.logc3.exposure_index)
    if own.gamma is not None and own.gamma == GammaDefinition(exponent=1):
        return LINEAR
    if own.gamma is not None:
        return touching_curve(own.gamma.exponent, own.gamma.offset)
    if own.pq is not None:
        return PQ
    log = own.log
    assert log is not None
    parameters = LogParameters(
        log.base,
        log.log_side_slope,
        log.log_side_offset,
        log.lin_side_slope,
        log.lin_side_offset,
        log.lin_side_break,
        log.linear_slope,
    )
    return log_curve(parameters)


SHOWN_STOPS = 10.0
"""Stops under and over 18 % grey that a curve is drawn over."""
SAMPLES = 129


@dataclass(frozen=True)
class CurveDrawn:
    """line: over codes 0..1, light as stops about grey, 0 ten under and 1 ten over it; grey, white: codes of 18 % grey and of 1.0

    brightest: light of code 1
    """

    line: list[float]
    grey: float
    white: float
    brightest: float


def draw_curve(own: OwnEncoding) -> CurveDrawn:
    encoding = encoding_of(own)
    grey, white = (float(code) for code in encoding.transfer.encode(np.array([0.18, 1.0])))
    return CurveDrawn(line_of_curve(encoding), grey, white, float(encoding.transfer.decode(np.ones(1))[0]))


def line_of_curve(encoding: Encoding, samples: int = SAMPLES) -> list[float]:
    """0..1 each: over as many codes from 0 to 1, light as stops about 18 % grey; 0 is SHOWN_STOPS under it and 1 as many over it."""
    light = encoding.transfer.decode(np.linspace(0, 1, samples))
    stops = np.log2(np.maximum(light, 1e-9) / 0.18)
    return [round(float(y), 4) for y in np.clip(stops / (2 * SHOWN_STOPS) + 0.5, 0, 1)]


def encodings_of(definitions: Iterable[OwnEncoding]) -> Mapping[str, Encoding]:
    """By id."""
    return {own.id: encoding_of(own) for own in definitions}
