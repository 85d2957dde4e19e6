"""Channel mix: each channel out of all three, or all three out of one grey."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.lut.formulas import Matrix
from saucer.core.lut.table import Link
from saucer.core.numeric.elementary import F, compiled
from saucer.core.numeric.planes import Operation, mix
from saucer.core.steps.parameters import StepParameters, within
from saucer.core.steps.registry import Junction, PixelKind, formulas_in_light, register

Amount = Annotated[float, within(-2, 2)]
Offset = Annotated[float, within(-1, 1)]
Row = tuple[Amount, Amount, Amount]
CHANNELS = ("red", "green", "blue")
SMALLEST_SUM = 0.01
REMAINS = 0.02
"""Share of the light that is mixed under which what remains is computed again in float64: near none a logarithm magnifies rounding."""


class ChannelMix(StepParameters):
    """Rows are what a channel takes from red, green and blue. Neutral: each channel from itself."""

    kind: Literal["channel-mix"] = "channel-mix"
    red: Row = (1.0, 0.0, 0.0)
    green: Row = (0.0, 1.0, 0.0)
    blue: Row = (0.0, 0.0, 1.0)
    offset: tuple[Offset, Offset, Offset] = (0.0, 0.0, 0.0)
    keep_neutral: Annotated[bool, Field(description="scale each row to sum 1, so that grey keeps its tone")] = False
    monochrome: Annotated[bool, Field(description="all three channels from the row `grey`")] = False
    grey: Annotated[Row | None, Field(description="null: the luma weights of the encoding's primaries")] = None
    light: Annotated[Literal["code", "linear"], Field(description="mix code values, or linear light")] = "code"

    @model_validator(mode="after")
    def _can_be_scaled(self) -> ChannelMix:
        for name in ("grey",) if self.monochrome else CHANNELS:
            row = getattr(self, name)
            if row is None:
                continue
            total = sum(row)
            if self.keep_neutral and abs(total) < SMALLEST_SUM:
                raise PydanticCustomError(
                    "field",
                    "{place}: sums to {total}, which keep_neutral cannot scale to 1; change an amount or turn keep_neutral off",
                    {"place": name, "total": f"{total:.3g}"},
                )
        return self


def matrix(step: ChannelMix, encoding: Encoding) -> np.ndarray:
    """(3, 3) float64, rows as they are used."""
    grey = encoding.luma if step.grey is None else step.grey
    rows = np.array([grey] * 3 if step.monochrome else [getattr(step, name) for name in CHANNELS])
    return rows / rows.sum(axis=1, keepdims=True) if step.keep_neutral else rows


@compiled
def _mix_and_doubt(planes, m, offset, doubtful):  # type: ignore[no-untyped-def]
    """As `mix`; doubtful: set where a channel is what hardly remains of much larger ones, and rounding shows."""
    red, green, blue = planes[0], planes[1], planes[2]
    m00, m01, m02 = m[0, 0], m[0, 1], m[0, 2]
    m10, m11, m12 = m[1, 0], m[1, 1], m[1, 2]
    m20, m21, m22 = m[2, 0], m[2, 1], m[2, 2]
    o0, o1, o2 = offset[0], offset[1], offset[2]
    for j in range(red.size):
        r, g, b = red[j], green[j], blue[j]
        x, y, z = m00 * r, m01 * g, m02 * b
        red[j] = x + y + z + o0
        doubt = abs(red[j]) < F(REMAINS) * (abs(x) + abs(y) + abs(z))
        x, y, z = m10 * r, m11 * g, m12 * b
        green[j] = x + y + z + o1
        doubt |= abs(green[j]) < F(REMAINS) * (abs(x) + abs(y) + abs(z))
        x, y, z = m20 * r, m21 * g, m22 * b
        blue[j] = x + y + z + o2
        doubt |= abs(blue[j]) < F(REMAINS) * (abs(x) + abs(y) + abs(z))
        doubtful[j] = doubt


def prepare(step: ChannelMix, junction: Junction) -> Operation:
    exact, encoding = matrix(step, junction.encoding), junction.encoding
    m, offset = exact.astype(np.float32), np.array(step.offset, np.float32)
    decode, encode = encoding.transfer.decode_fast, encoding.transfer.encode_fast
    if step.light == "code" or decode is None or encode is None:
        return lambda planes: mix(planes, m, offset)

    def run(planes: np.ndarray) -> None:
        before, doubtful = planes.copy(), np.empty(planes.shape[1], np.bool_)
        decode(planes.reshape(-1))
        _mix_and_doubt(planes, m, offset, doubtful)
        encode(planes.reshape(-1))
        again = np.flatnonzero(doubtful)
        if again.size:
            light = encoding.transfer.decode(before[:, again].astype(np.float64))
            planes[:, again] = encoding.transfer.encode(exact @ light + np.array(step.offset)[:, None])

    return run


def neutral(step: ChannelMix) -> bool:
    return not step.monochrome and not any(step.offset) and bool(np.array_equal(matrix(step, ENCODINGS["srgb"]), np.eye(3)))


def summary(step: ChannelMix) -> str:
    if neutral(step):
        return "no change"
    rows = [f"grey {_row(step.grey)}" if step.grey else "grey"] if step.monochrome else []
    if not step.monochrome:
        own = np.eye(3)
        rows = [f"{n} {_row(getattr(step, n))}" for i, n in enumerate(CHANNELS) if tuple(own[i]) != getattr(step, n)]
    rows += [f"offset {_row(step.offset)}"] if any(step.offset) else []
    return ", ".join([*rows, *(["linear light"] if step.light == "linear" else [])])


def _row(row: tuple[float, ...]) -> str:
    return " ".join(f"{value:+.2f}" for value in row)


def links(step: ChannelMix, junction: Junction) -> tuple[Link, ...] | None:
    mixed = Matrix(tuple(tuple(float(v) for v in row) for row in matrix(step, junction.encoding)), step.offset)  # type: ignore[arg-type]
    return formulas_in_light(junction.encoding, mixed) if step.light == "linear" else (mixed,)


register(
    PixelKind(
        ChannelMix,
        "Channel mix",
        prepare,
        neutral,
        summary,
        links=links,
        examples=({"red": [0.9, 0.1, 0]}, {"red": [0.9, 0.1, 0], "light": "linear"}),
    )
)
