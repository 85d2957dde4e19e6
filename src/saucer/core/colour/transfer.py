"""Transfer functions: code value to linear light and back, defined for every finite input.

Published curves stop at 0 and 1, or at what a file can hold. Between steps values outside are legal and must survive,
so each curve says how it goes on: display curves are mirrored about 0; log curves go on straight below the code value 0 and
linear light stops at 65504, the largest half float, as S-2016-001 does it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

HALF_MAX = 65504.0


@dataclass(frozen=True)
class Transfer:
    """decode: code value to linear light; encode: back. Both keep shape and float dtype."""

    decode: Callable[[np.ndarray], np.ndarray]
    encode: Callable[[np.ndarray], np.ndarray]


def _linear(x: np.ndarray) -> np.ndarray:
    return x


def _srgb_decode(x: np.ndarray) -> np.ndarray:
    size = np.abs(x)
    return np.copysign(np.where(size <= 0.04045, size / 12.92, ((size + 0.055) / 1.055) ** 2.4), x)


def _srgb_encode(x: np.ndarray) -> np.ndarray:
    size = np.abs(x)
    return np.copysign(np.where(size <= 0.0031308, size * 12.92, 1.055 * size ** (1 / 2.4) - 0.055), x)


def gamma(power: float) -> Transfer:
    """A pure power curve, mirrored about 0."""
    return Transfer(
        lambda x: np.copysign(np.abs(x) ** power, x),
        lambda x: np.copysign(np.abs(x) ** (1 / power), x),
    )


# Cineon: 685 is 90 % white, 95 is black, 0.002 printing density a code, negative gamma 0.6; black is offset to exactly 0.
_CODES_PER_DECADE = 0.6 / 0.002
_FILM_OFFSET = 10 ** ((95 - 685) / _CODES_PER_DECADE)


def _film_line(code: np.ndarray) -> np.ndarray:
    return (10 ** ((1023 * code - 685) / _CODES_PER_DECADE) - _FILM_OFFSET) / (1 - _FILM_OFFSET)


_FILM_AT_0 = float(_film_line(np.zeros(1))[0])
_FILM_SLOPE_AT_0 = float(10 ** (-685 / _CODES_PER_DECADE) * np.log(10) * 1023 / _CODES_PER_DECADE / (1 - _FILM_OFFSET))
_FILM_TOP = float((685 + _CODES_PER_DECADE * np.log10(HALF_MAX * (1 - _FILM_OFFSET) + _FILM_OFFSET)) / 1023)


def _film_decode(x: np.ndarray) -> np.ndarray:
    curve = _film_line(np.clip(x, 0, _FILM_TOP))
    return np.where(x < 0, _FILM_AT_0 + _FILM_SLOPE_AT_0 * x, curve)


def _film_encode(x: np.ndarray) -> np.ndarray:
    light = np.clip(x, _FILM_AT_0, HALF_MAX) * (1 - _FILM_OFFSET) + _FILM_OFFSET
    curve = (685 + _CODES_PER_DECADE * np.log10(light)) / 1023
    return np.where(x < _FILM_AT_0, (x - _FILM_AT_0) / _FILM_SLOPE_AT_0, curve)


_CCT_BREAK_LINEAR, _CCT_BREAK_CODE = 0.0078125, 0.155251141552511
_CCT_SLOPE, _CCT_OFFSET = 10.5402377416545, 0.0729055341958355


def _acescct_decode(x: np.ndarray) -> np.ndarray:
    top = (np.log2(HALF_MAX) + 9.72) / 17.52
    curve = 2.0 ** (np.clip(x, _CCT_BREAK_CODE, top) * 17.52 - 9.72)
    return np.where(x <= _CCT_BREAK_CODE, (x - _CCT_OFFSET) / _CCT_SLOPE, curve)


def _acescct_encode(x: np.ndarray) -> np.ndarray:
    curve = (np.log2(np.clip(x, _CCT_BREAK_LINEAR, HALF_MAX)) + 9.72) / 17.52
    return np.where(x <= _CCT_BREAK_LINEAR, _CCT_SLOPE * x + _CCT_OFFSET, curve)


LINEAR = Transfer(_linear, _linear)
SRGB = Transfer(_srgb_decode, _srgb_encode)
BT1886 = gamma(2.4)
FILM_LOG = Transfer(_film_decode, _film_encode)
ACESCCT = Transfer(_acescct_decode, _acescct_encode)
