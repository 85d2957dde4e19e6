"""Power curves, with or without a straight piece near black, mirrored about 0."""

from __future__ import annotations

import numpy as np

from saucer.core.colour.transfer import Transfer
from saucer.core.lut.formulas import Exponent, Formula
from saucer.core.numeric.elementary import F, compiled, power, split

BLOCK = 256
"""Pixels that are scaled at a time."""


@compiled
def _decode(values, offset, high, low, slope, at):  # type: ignore[no-untyped-def]
    scale = F(1) / (F(1) + offset)
    for j in range(values.size):
        size = abs(values[j])
        light = power((size + offset) * scale, high, low)
        light = light if size > at else size * slope
        values[j] = -light if values[j] < F(0) else light


@compiled
def _encode(values, offset, high, low, slope, at):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        size = abs(values[j])
        code = (F(1) + offset) * power(size, high, low) - offset
        code = code if size > at else size * slope
        values[j] = -code if values[j] < F(0) else code


@compiled
def _roots(gains, high, low, gain, root):  # type: ignore[no-untyped-def]
    for i in range(gains.size):
        g, r = gains[i], power(gains[i], high, low)
        gain[3 * i], gain[3 * i + 1], gain[3 * i + 2] = g, g, g
        root[3 * i], root[3 * i + 1], root[3 * i + 2] = r, r, r


@compiled
def _scale_on_curve(values, gain, root, offset, at, scaled):  # type: ignore[no-untyped-def]
    """Returns how many samples fall from the curve onto the straight piece, where this is not right."""
    fell = np.int32(0)
    for j in range(values.size):
        size = abs(values[j])
        code = (size + offset) * root[j] - offset
        fell += np.int32((size > at) & (code <= at))
        code = code if size > at else size * gain[j]
        scaled[j] = -code if values[j] < F(0) else code
    return fell


@compiled
def _mend_fallen(values, root, offset, high, low, slope, at, scaled):  # type: ignore[no-untyped-def]
    per_whole = F(1) / (F(1) + offset)
    for j in range(values.size):
        size = abs(values[j])
        left = (size + offset) * root[j]
        code = power(left * per_whole, high, low) * slope
        code = -code if values[j] < F(0) else code
        scaled[j] = code if (size > at) & (left - offset <= at) else scaled[j]


@compiled
def _scale(values, gains, offset, down_high, down_low, up_high, up_low, slope, at):  # type: ignore[no-untyped-def]
    """A gain of light is a gain of code + offset, by its root."""
    gain, root, scaled = np.empty(3 * BLOCK, np.float32), np.empty(3 * BLOCK, np.float32), np.empty(3 * BLOCK, np.float32)
    for begin in range(0, gains.size, BLOCK):
        some = gains[begin : begin + BLOCK]
        if np.all(some == F(1)):
            continue
        count = 3 * some.size
        _roots(some, up_high, up_low, gain, root)
        block = values[3 * begin : 3 * begin + count]
        if _scale_on_curve(block, gain[:count], root[:count], offset, at, scaled[:count]) > 0:
            _mend_fallen(block, root[:count], offset, down_high, down_low, slope, at, scaled[:count])
        for j in range(count):
            block[j] = scaled[j]


def power_curve(
    gamma: float, offset: float = 0.0, slope: float = 1.0, code_break: float = 0.0, light_break: float = 0.0
) -> Transfer:
    """light = ((code + offset) / (1 + offset))**gamma above `code_break`, code / slope up to it."""

    def decode(x: np.ndarray) -> np.ndarray:
        size = np.abs(x)
        return np.copysign(np.where(size <= code_break, size / slope, ((size + offset) / (1 + offset)) ** gamma), x)

    def encode(x: np.ndarray) -> np.ndarray:
        size = np.abs(x)
        return np.copysign(np.where(size <= light_break, size * slope, (1 + offset) * size ** (1 / gamma) - offset), x)

    # A straight piece below a pure power is no formula of a LUT file.
    told = offset or slope == 1

    def formula(back: bool) -> tuple[Formula, ...]:
        way = "Rev" if back else "Fwd"
        if offset:
            return (Exponent(f"monCurveMirror{way}", (gamma,) * 3, (offset,) * 3),)  # type: ignore[arg-type]
        return (Exponent(f"basicMirror{way}", (gamma,) * 3),)  # type: ignore[arg-type]

    down, up = split(gamma), split(1 / gamma)
    return Transfer(
        decode,
        encode,
        lambda values: _decode(values, F(offset), *down, F(1 / slope), F(code_break)),
        lambda values: _encode(values, F(offset), *up, F(slope), F(light_break)),
        (formula(False), formula(True)) if told else None,
        lambda values, gains: _scale(values, gains, F(offset), *down, *up, F(slope), F(code_break)),
    )


def touching_curve(gamma: float, offset: float) -> Transfer:
    """A power curve whose straight piece near black touches it; none without an offset. gamma: above 1 with one

    Source: SMPTE ST 2136-1, Exponent, style monCurveFwd (break and slope follow from exponent and offset)
    """
    if not offset:
        return power_curve(gamma)
    code_break = offset / (gamma - 1)
    light_break = (gamma * offset / ((gamma - 1) * (1 + offset))) ** gamma
    return power_curve(gamma, offset, code_break / light_break, code_break, light_break)


SRGB = power_curve(2.4, 0.055, 12.92, 0.04045, 0.0031308)
BT1886 = power_curve(2.4)
GAMMA22, GAMMA26 = power_curve(2.2), power_curve(2.6)
OPRGB = power_curve(563 / 256)
_ROMM_BREAK = 16 ** (1.8 / (1 - 1.8))
ROMM = power_curve(1.8, 0, 16, 16 * _ROMM_BREAK, _ROMM_BREAK)
# The exact constants behind BT.709's rounded 1.099 and 0.018, as BT.2020-2, table 4 gives them: with them the pieces meet.
_ALPHA, _BETA = 1.09929682680944, 0.018053968510807
BT709_CAMERA = power_curve(1 / 0.45, _ALPHA - 1, 4.5, 4.5 * _BETA, _BETA)


def of_peak(curve: Transfer, peak: float) -> Transfer:
    """The curve for light on which its own 1.0 is `peak`: 1.0 here has a code below 1."""

    def decode_fast(values: np.ndarray) -> None:
        assert curve.decode_fast is not None
        curve.decode_fast(values)
        np.multiply(values, F(peak), out=values)

    def encode_fast(values: np.ndarray) -> None:
        assert curve.encode_fast is not None
        np.divide(values, F(peak), out=values)
        curve.encode_fast(values)

    return Transfer(lambda x: curve.decode_formula(x) * peak, lambda x: curve.encode_formula(x / peak), decode_fast, encode_fast)


DCDM = of_peak(GAMMA26, 52.37 / 48)
