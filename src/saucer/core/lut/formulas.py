"""Exact formulas that stand beside tables in a LUT file: ranges, matrices, logarithms, powers, CDL, half-float curves.

Source of every formula: SMPTE ST 2136-1 and the "Common LUT Format" specification S-2014-006, the ProcessNodes of those
names. Each node takes and gives normalised code values, (..., 3) float32; it computes in float64 and rounds once.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from saucer.core.errors import LutError
from saucer.core.reading.passing import passed

Three = tuple[float, float, float]
ONES, ZEROS = (1.0, 1.0, 1.0), (0.0, 0.0, 0.0)
IDENTITY = (ONES[:1] + ZEROS[:2], (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
SMALLEST_FLOAT = float(np.finfo(np.float32).tiny)
HALF_CODES = 65536
_LIMIT = float(np.finfo(np.float32).max)


def _rounded(values: np.ndarray) -> np.ndarray:
    return np.clip(values, -_LIMIT, _LIMIT).astype(np.float32)


@passed
@dataclass(frozen=True)
class Range:
    """low_in..high_in to low_out..high_out in a straight line, held at the ends that are given if `clamp`.

    A pair may be None: then there is no scale, and only the other end is held.
    """

    low_in: float | None = 0.0
    high_in: float | None = 1.0
    low_out: float | None = 0.0
    high_out: float | None = 1.0
    clamp: bool = True

    def __call__(self, values: np.ndarray) -> np.ndarray:
        scale, offset = self.line
        result = values.astype(np.float64) * scale + offset
        if self.clamp:
            result = np.clip(result, self.low_out, self.high_out) if (self.low_out, self.high_out) != (None, None) else result
        return _rounded(result)

    @property
    def line(self) -> tuple[float, float]:
        """Scale and offset."""
        low, high = (self.low_in, self.low_out), (self.high_in, self.high_out)
        if None not in low and None not in high:
            scale = (self.high_out - self.low_out) / (self.high_in - self.low_in)  # type: ignore[operator]
            return scale, self.low_out - scale * self.low_in  # type: ignore[operator]
        pair = low if None not in low else high
        return 1.0, (pair[1] or 0.0) - (pair[0] or 0.0)


@passed
@dataclass(frozen=True)
class Matrix:
    """out = rows x in + offset."""

    rows: tuple[Three, Three, Three]
    offset: Three = ZEROS

    def __call__(self, values: np.ndarray) -> np.ndarray:
        return _rounded(values.astype(np.float64) @ np.array(self.rows).T + self.offset)

    @property
    def diagonal(self) -> bool:
        return all(self.rows[i][j] == 0 for i in range(3) for j in range(3) if i != j)


LogStyle = Literal["log10", "antiLog10", "log2", "antiLog2", "linToLog", "logToLin", "cameraLinToLog", "cameraLogToLin"]


@passed
@dataclass(frozen=True)
class LogChannel:
    """The parameters of one channel under the names of the standard."""

    log_slope: float = 1.0
    log_offset: float = 0.0
    lin_slope: float = 1.0
    lin_offset: float = 0.0
    lin_break: float | None = None
    linear_slope: float | None = None


@passed
@dataclass(frozen=True)
class Log:
    """Logarithm or its inverse, one set of parameters a channel."""

    style: LogStyle
    base: float = 2.0
    channels: tuple[LogChannel, LogChannel, LogChannel] = (LogChannel(),) * 3

    def __call__(self, values: np.ndarray) -> np.ndarray:
        x = values.astype(np.float64)
        with np.errstate(all="ignore"):
            if self.style in ("log10", "log2"):
                result = np.log(np.maximum(x, SMALLEST_FLOAT)) / math.log(10 if self.style == "log10" else 2)
            elif self.style in ("antiLog10", "antiLog2"):
                result = (10.0 if self.style == "antiLog10" else 2.0) ** x
            else:
                result = np.stack([self._channel(x[..., i], one) for i, one in enumerate(self.channels)], axis=-1)
        return _rounded(result)

    def _channel(self, x: np.ndarray, p: LogChannel) -> np.ndarray:
        def log(light: np.ndarray | float) -> np.ndarray:
            inner = np.maximum(p.lin_slope * np.asarray(light) + p.lin_offset, SMALLEST_FLOAT)
            return p.log_slope * np.log(inner) / math.log(self.base) + p.log_offset

        def light_of(code: np.ndarray) -> np.ndarray:
            return (self.base ** ((code - p.log_offset) / p.log_slope) - p.lin_offset) / p.lin_slope

        if self.style == "linToLog":
            return log(x)
        if self.style == "logToLin":
            return light_of(x)
        assert p.lin_break is not None
        slope = p.linear_slope
        if slope is None:
            slope = p.log_slope * p.lin_slope / ((p.lin_slope * p.lin_break + p.lin_offset) * math.log(self.base))
        at = float(log(p.lin_break))
        offset = at - slope * p.lin_break
        if self.style == "cameraLinToLog":
            return np.where(x <= p.lin_break, slope * x + offset, log(x))
        return np.where(x <= at, (x - offset) / slope, light_of(x))


ExponentStyle = Literal[
    "basicFwd", "basicRev", "basicMirrorFwd", "basicMirrorRev", "basicPassThruFwd", "basicPassThruRev",
    "monCurveFwd", "monCurveRev", "monCurveMirrorFwd", "monCurveMirrorRev",
]  # fmt: skip


@passed
@dataclass(frozen=True)
class Exponent:
    """A power, or a power with a straight piece near black (`monCurve`, with an offset)."""

    style: ExponentStyle
    exponent: Three
    offset: Three = ZEROS

    def __call__(self, values: np.ndarray) -> np.ndarray:
        x = values.astype(np.float64)
        with np.errstate(all="ignore"):
            parts = [self._channel(x[..., i], self.exponent[i], self.offset[i]) for i in range(3)]
        return _rounded(np.stack(parts, axis=-1))

    def _channel(self, x: np.ndarray, g: float, k: float) -> np.ndarray:
        back = self.style.endswith("Rev")
        mirrored = "Mirror" in self.style
        size = np.abs(x) if mirrored else x
        if self.style.startswith("basic"):
            power = np.maximum(size, 0) ** (1 / g if back else g)
            if "PassThru" in self.style:
                return np.where(x > 0, power, x)
            return np.copysign(power, x) if mirrored else power
        result = _straight_near_black(size, g, k, back)
        return np.copysign(result, x) if mirrored else result


def _straight_near_black(x: np.ndarray, g: float, k: float, back: bool) -> np.ndarray:
    if k == 0 or g == 1:
        return np.where(x > 0, np.maximum(x, 0) ** (1 / g if back else g), x)
    at_code = k / (g - 1)
    at_light = (k * g / ((g - 1) * (1 + k))) ** g
    slope = (g - 1) / k * at_light
    if back:
        return np.where(x >= at_light, (1 + k) * np.maximum(x, 0) ** (1 / g) - k, x / slope)
    return np.where(x >= at_code, ((np.maximum(x, at_code) + k) / (1 + k)) ** g, x * slope)


CdlStyle = Literal["Fwd", "Rev", "FwdNoClamp", "RevNoClamp"]
LUMA = np.array([0.2126, 0.7152, 0.0722])


@passed
@dataclass(frozen=True)
class Cdl:
    """Slope, offset, power, saturation. Source: ASC Color Decision List transfer functions and interchange syntax, version 1.2."""

    slope: Three = ONES
    offset: Three = ZEROS
    power: Three = ONES
    saturation: float = 1.0
    style: CdlStyle = "Fwd"

    def __call__(self, values: np.ndarray) -> np.ndarray:
        x = values.astype(np.float64)
        clamp = not self.style.endswith("NoClamp")
        slope, offset, power = np.array(self.slope), np.array(self.offset), np.array(self.power)

        def held(y: np.ndarray) -> np.ndarray:
            return np.clip(y, 0, 1) if clamp else y

        def bent(y: np.ndarray, exponent: np.ndarray) -> np.ndarray:
            return np.where(y > 0, np.maximum(y, 0) ** exponent, y)

        def saturated(y: np.ndarray, factor: float) -> np.ndarray:
            luma = (y @ LUMA)[..., None]
            return luma + factor * (y - luma)

        if self.style.startswith("Fwd"):
            result = held(saturated(bent(held(x * slope + offset), power), self.saturation))
        else:
            result = held((bent(held(saturated(held(x), 1 / self.saturation)), 1 / power) - offset) / slope)
        return _rounded(result)


@passed
@dataclass(frozen=True, eq=False)
class HalfCurve:
    """samples (65536, 3) float32: one entry for each half-float code, read between neighbouring halves. Entries of NaN codes are 0."""

    samples: np.ndarray

    def __post_init__(self) -> None:
        if self.samples.shape != (HALF_CODES, 3):
            raise LutError("half-float table", f"needs {HALF_CODES} rows of three numbers, got shape {self.samples.shape}")

    def __call__(self, values: np.ndarray) -> np.ndarray:
        x = np.clip(np.nan_to_num(values.astype(np.float64)), -65504, 65504)
        near = x.astype(np.float16)
        other = np.nextafter(near, np.where(x > near, np.float16(np.inf), np.float16(-np.inf)).astype(np.float16))
        other = np.where(np.isinf(other), near, other)
        gap = other.astype(np.float64) - near.astype(np.float64)
        share = np.divide(x - near.astype(np.float64), gap, out=np.zeros_like(x), where=gap != 0)
        channel = np.arange(3)
        low, high = (self.samples[half.view(np.uint16), channel].astype(np.float64) for half in (near, other))
        return (low + share * (high - low)).astype(np.float32)


Formula = Range | Matrix | Log | Exponent | Cdl | HalfCurve


def per_channel(node: object) -> bool:
    """Does each channel come from itself alone?"""
    if isinstance(node, Matrix):
        return node.diagonal
    if isinstance(node, Cdl):
        return node.saturation == 1
    return isinstance(node, Range | Log | Exponent | HalfCurve)
