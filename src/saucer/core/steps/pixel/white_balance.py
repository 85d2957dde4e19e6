"""White balance: warm or cool along the Planckian locus, tint across it, in linear light. Grey keeps its luminance."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.adaptation import CONES, adaptation
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.planckian import place_of, white_at
from saucer.core.colour.primaries import rgb_to_xyz, xyz_of
from saucer.core.colour.working import in_light
from saucer.core.errors import LookError
from saucer.core.lut.formulas import Matrix
from saucer.core.lut.table import Link
from saucer.core.numeric.planes import NO_OFFSET, Operation, mix
from saucer.core.steps.parameters import StepParameters, within
from saucer.core.steps.registry import Junction, PixelKind, formulas_in_light, register

WARM, TINT = 150.0, 0.05
COOLEST = 1.0


class WhiteBalance(StepParameters):
    """The encoding's white is moved by so many mired along the locus (positive: warmer) and so much Duv across it (positive: green)."""

    kind: Literal["white-balance"] = "white-balance"
    warm: Annotated[float, within(-WARM, WARM, "mired")] = 0.0
    tint: Annotated[float, within(-TINT, TINT, "Duv")] = 0.0
    cones: Literal["cat16", "bradford"] = "cat16"


@lru_cache(maxsize=64)
def _place(white: tuple[float, float]) -> tuple[float, float]:
    try:
        return place_of(xyz_of(white))
    except ValueError:
        raise LookError(
            "white balance", f"the encoding's white {white} is too far from any black body to be warmed or cooled"
        ) from None


@lru_cache(maxsize=256)
def matrix(encoding: Encoding, warm: float, tint: float, cones: str) -> np.ndarray:
    """(3, 3) float64 on linear light of the encoding. Raises: LookError where the locus ends."""
    mired, duv = _place(encoding.primaries.white)
    if mired + warm < COOLEST:
        raise LookError("warm", f"cannot be below {COOLEST - mired:.0f} mired in {encoding.id}, where the locus ends; got {warm:g}")
    target = white_at(mired + warm, duv + tint)
    to_xyz = rgb_to_xyz(encoding.primaries)
    return np.linalg.inv(to_xyz) @ adaptation(CONES[cones], xyz_of(encoding.primaries.white), target) @ to_xyz


def from_neutral(code: tuple[float, float, float], encoding: Encoding, cones: str = "cat16") -> tuple[float, float]:
    """(warm, tint) that make these code values, picked from a picture, grey.

    Raises: LookError when the colour is black, or further from grey than the step's ranges reach, naming what it would take
    """
    light = np.asarray(encoding.transfer.decode(np.array(code, np.float64)))
    xyz = rgb_to_xyz(encoding.primaries) @ light
    if xyz[1] < 1e-4 or (light < 0).any():
        raise LookError("neutral", "too dark or outside the colours of the encoding; pick a brighter grey")
    response = CONES[cones]
    white = response @ xyz_of(encoding.primaries.white)
    # Scaling the cones' answers by target / white must make the picked ones proportional to those of white.
    target = np.linalg.inv(response) @ (white * white / (response @ (xyz / xyz[1])))
    mired, duv = _place(encoding.primaries.white)
    try:
        warm, tint = (float(a - b) for a, b in zip(place_of(target), (mired, duv), strict=True))
    except ValueError:
        raise LookError("neutral", "too colourful to be a grey; pick something without a colour of its own") from None
    if abs(warm) > WARM or abs(tint) > TINT:
        raise LookError(
            "neutral", f"would take {warm:+.0f} mired and {tint:+.3f} Duv, more than the step reaches; pick a paler grey"
        )
    return warm, tint


def prepare(step: WhiteBalance, junction: Junction) -> Operation:
    m = matrix(junction.encoding, step.warm, step.tint, step.cones).astype(np.float32)
    return in_light(junction.encoding, lambda planes: mix(planes, m, NO_OFFSET))


def neutral(step: WhiteBalance) -> bool:
    return not step.warm and not step.tint


def summary(step: WhiteBalance) -> str:
    parts = [f"{abs(step.warm):.0f} mired {'warmer' if step.warm > 0 else 'cooler'}"] if step.warm else []
    parts += [f"tint {abs(step.tint):.3f} {'green' if step.tint > 0 else 'magenta'}"] if step.tint else []
    return ", ".join(parts) or "no change"


def links(step: WhiteBalance, junction: Junction) -> tuple[Link, ...] | None:
    rows = matrix(junction.encoding, step.warm, step.tint, step.cones)
    return formulas_in_light(junction.encoding, Matrix(tuple(tuple(float(v) for v in row) for row in rows)))  # type: ignore[arg-type]


register(PixelKind(WhiteBalance, "White balance", prepare, neutral, summary, links=links, corrects=True, examples=({"warm": 10},)))
