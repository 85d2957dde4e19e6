"""White balance: warm or cool along the Planckian locus, tint across it, in linear light.

Warmer by so much and cooler by as much undo each other, for every colour. No von Kries adaptation does that and keeps the luminance of grey
as well: of a colour's own change and its opposite, what both share is left out, and grey becomes lighter by the same little either way.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Literal

import numpy as np

from saucer.core.colour.adaptation import CONES
from saucer.core.colour.encodings import Encoding
from saucer.core.colour.planckian import place_of, uv_of, white_at
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
    """The encoding's white is moved by so many mired along the locus (positive: warmer) and so much Duv across it (positive: green).

    The same with the other sign undoes it.
    """

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
    """(3, 3) float64 on linear light of the encoding; that of (-warm, -tint) is its inverse. Raises: LookError where the locus ends."""
    mired, _ = _place(encoding.primaries.white)
    if mired - abs(warm) < COOLEST:
        reach = mired - COOLEST
        raise LookError(
            "warm", f"cannot be beyond {reach:.0f} mired either way in {encoding.id}, where the locus ends; got {warm:g}"
        )
    to_xyz = rgb_to_xyz(encoding.primaries)
    return np.linalg.inv(to_xyz) @ _adaptation(encoding.primaries.white, warm, tint, cones) @ to_xyz


def _adaptation(white: tuple[float, float], warm: float, tint: float, cones: str) -> np.ndarray:
    """(3, 3) float64 on XYZ, first along the locus, then across it: half of the way there and half of the way back from the opposite."""
    mired, duv = _place(white)
    response, own = CONES[cones], xyz_of(white)
    warmer, cooler = (response @ white_at(mired + way * warm, duv) for way in (1, -1))
    greener, redder = (response @ white_at(mired, duv + way * tint) for way in (1, -1))
    gain = np.sqrt(warmer / cooler * greener / redder)
    back = np.linalg.inv(response)
    lighter, darker = (float((back @ (response @ own * one))[1]) for one in (gain, 1 / gain))
    return np.asarray(np.sqrt(darker / lighter) * back @ (gain[:, None] * response))


def from_neutral(code: tuple[float, float, float], encoding: Encoding, cones: str = "cat16") -> tuple[float, float]:
    """(warm, tint) that make these code values, picked from a picture, grey.

    Raises: LookError when the colour is black, or further from grey than the step's ranges reach, naming what it would take
    """
    light = np.asarray(encoding.transfer.decode(np.array(code, np.float64)))
    xyz = rgb_to_xyz(encoding.primaries) @ light
    if xyz[1] < 1e-4 or (light < 0).any():
        raise LookError("neutral", "too dark or outside the colours of the encoding; pick a brighter grey")
    own, wanted = encoding.primaries.white, uv_of(xyz_of(encoding.primaries.white))
    mired, _ = _place(own)
    most = np.array([min(2 * WARM, mired - COOLEST), 4 * TINT])

    def away(at: np.ndarray) -> np.ndarray:
        return np.asarray(uv_of(_adaptation(own, float(at[0]), float(at[1]), cones) @ xyz) - wanted)

    # Newton on: what is left of the colour, by warm and tint.
    at, small = np.zeros(2), np.array([0.01, 1e-5])
    for _ in range(30):
        left = away(at)
        slopes = np.stack([(away(at + step) - left) / step.sum() for step in np.diag(small)], axis=1)
        at = np.clip(at - np.linalg.solve(slopes, left), -most, most)
        if np.abs(left).max() < 1e-10:
            break
    else:
        raise LookError("neutral", "too colourful to be a grey; pick something without a colour of its own")
    warm, tint = float(at[0]), float(at[1])
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
