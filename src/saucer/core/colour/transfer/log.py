"""Camera-style log curves: logarithmic above a break, straight below it, and ACEScc, which bends instead.

The constants that makers publish let the two pieces of some curves miss each other by up to 1e-5; they are kept as published.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from saucer.core.colour.transfer import HALF_MAX, Transfer
from saucer.core.lut.formulas import Log, LogChannel
from saucer.core.numeric.elementary import F, clamp, compiled, exp2, log2


@compiled
def _decode(values, per_log2, log_offset, lin_slope, lin_offset, slope, offset, at, top):  # type: ignore[no-untyped-def]
    # Dividing by a number that the loop does not change is left to the compiler; a product would round twice.
    for j in range(values.size):
        code = values[j]
        light = (exp2(((code if code < top else top) - log_offset) / per_log2) - lin_offset) / lin_slope
        values[j] = light if code >= at else (code - offset) / slope


@compiled
def _encode(values, per_log2, log_offset, lin_slope, lin_offset, slope, offset, at, top):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        light = values[j]
        code = per_log2 * log2(lin_slope * (light if light < top else top) + lin_offset) + log_offset
        values[j] = code if light >= at else slope * light + offset


@dataclass(frozen=True)
class LogParameters:
    """code = log_slope log_base(lin_slope light + lin_offset) + log_offset above `lin_break`, linear_slope light + an offset below.

    Without a linear slope the straight piece continues the log one with its slope, without a linear offset it meets it.
    Source: SMPTE ST 2136-1 (Common LUT Format), Log, style cameraLinToLog
    """

    base: float
    log_slope: float
    log_offset: float
    lin_slope: float
    lin_offset: float
    lin_break: float
    linear_slope: float | None = None
    linear_offset: float | None = None

    @property
    def slope(self) -> float:
        if self.linear_slope is not None:
            return self.linear_slope
        return self.log_slope * self.lin_slope / ((self.lin_slope * self.lin_break + self.lin_offset) * math.log(self.base))

    @property
    def offset(self) -> float:
        return self.break_code - self.slope * self.lin_break if self.linear_offset is None else self.linear_offset

    @property
    def break_code(self) -> float:
        return self.log_slope * math.log(self.lin_slope * self.lin_break + self.lin_offset, self.base) + self.log_offset


def log_curve(p: LogParameters) -> Transfer:
    """The curve of these parameters, which are taken to be checked: slopes positive, base above 1, the log defined at the break."""
    per_log2, slope, offset, at_code = p.log_slope * math.log(2, p.base), p.slope, p.offset, p.break_code
    top_code = per_log2 * math.log2(p.lin_slope * HALF_MAX + p.lin_offset) + p.log_offset

    def decode(x: np.ndarray) -> np.ndarray:
        light = (2.0 ** ((np.clip(x, at_code, top_code) - p.log_offset) / per_log2) - p.lin_offset) / p.lin_slope
        return np.where(x >= at_code, light, (x - offset) / slope)

    def encode(x: np.ndarray) -> np.ndarray:
        code = per_log2 * np.log2(p.lin_slope * np.clip(x, p.lin_break, HALF_MAX) + p.lin_offset) + p.log_offset
        return np.where(x >= p.lin_break, code, slope * x + offset)

    channel = LogChannel(p.log_slope, p.log_offset, p.lin_slope, p.lin_offset, p.lin_break, slope)
    common = [F(v) for v in (per_log2, p.log_offset, p.lin_slope, p.lin_offset, slope, offset)]
    return Transfer(
        decode,
        encode,
        lambda values: _decode(values, *common, F(at_code), F(top_code)),
        lambda values: _encode(values, *common, F(p.lin_break), F(HALF_MAX)),
        ((Log("cameraLogToLin", p.base, (channel,) * 3),), (Log("cameraLinToLog", p.base, (channel,) * 3),)),
    )


# Cineon: 685 is 90 % white, 95 is black, 0.002 printing density a code, negative gamma 0.6; black is offset to exactly 0.
_DECADE = 0.6 / 0.002
_BLACK = 10 ** ((95 - 685) / _DECADE)
_AT_CODE_0 = (10 ** (-685 / _DECADE) - _BLACK) / (1 - _BLACK)
FILM_LOG = log_curve(LogParameters(10, _DECADE / 1023, 685 / 1023, 1 - _BLACK, _BLACK, _AT_CODE_0))
ACESCCT = log_curve(LogParameters(2, 1 / 17.52, 9.72 / 17.52, 1, 0, 0.0078125, 10.5402377416545, 0.0729055341958355))
S_LOG3 = log_curve(
    LogParameters(
        10,
        261.5 / 1023,
        420 / 1023 - 261.5 / 1023 * math.log10(0.19),
        1,
        0.01,
        0.01125,
        (171.2102946929 - 95) / 0.01125 / 1023,
        95 / 1023,
    )
)
# S-Log2 is S-Log of 155 / 219 of the light. In legal range; published for light of which a white of 90 % has 1.0.
_LEGAL, _FROM = 876 / 1023, 64 / 1023
S_LOG = log_curve(
    LogParameters(
        10,
        0.432699 * _LEGAL,
        0.646596 * _LEGAL + _FROM,
        1 / 0.9,
        0.037584,
        0,
        5 / 0.9 * _LEGAL,
        0.030001222851889303 * _LEGAL + _FROM,
    )
)
S_LOG2 = log_curve(
    LogParameters(
        10, 0.432699 * _LEGAL, 0.646596 * _LEGAL + _FROM, 155 / 219 / 0.9, 0.037584, 0,
        5 * 155 / 219 / 0.9 * _LEGAL, 0.030001222851889303 * _LEGAL + _FROM,
    )
)  # fmt: skip
# By exposure index: break, offset of light, slope and offset of the log, slope and offset of the straight piece.
_LOGC3 = {
    160: (0.005561, 0.080216, 0.269036, 0.381991, 5.842037, 0.092778), 200: (0.006208, 0.076621, 0.266007, 0.382478, 5.776265, 0.092782),
    250: (0.006871, 0.072941, 0.262978, 0.382966, 5.710494, 0.092786), 320: (0.007622, 0.068768, 0.259627, 0.383508, 5.637732, 0.092791),
    400: (0.008318, 0.064901, 0.256598, 0.383999, 5.571960, 0.092795), 500: (0.009031, 0.060939, 0.253569, 0.384493, 5.506188, 0.092800),
    640: (0.009840, 0.056443, 0.250219, 0.385040, 5.433426, 0.092805), 800: (0.010591, 0.052272, 0.247190, 0.385537, 5.367655, 0.092809),
    1000: (0.011361, 0.047996, 0.244161, 0.386036, 5.301883, 0.092814), 1280: (0.012235, 0.043137, 0.240810, 0.386590, 5.229121, 0.092819),
    1600: (0.013047, 0.038625, 0.237781, 0.387093, 5.163350, 0.092824),
}  # fmt: skip
LOGC3 = {
    index: log_curve(LogParameters(10, log_slope, log_offset, 5.555556, light, at, slope, offset))
    for index, (at, light, log_slope, log_offset, slope, offset) in _LOGC3.items()
}
LOGC3_INDICES = (160.0, 1600.0)
"""Above these the published curve bends once more near its top."""


def logc3(exposure_index: float) -> Transfer:
    """LogC3 at any exposure index of `LOGC3_INDICES`.

    Source: the derivation of the published constants, from memory; it gives those of the eleven published indices within 1e-6, and within
    6e-6 the slope of the straight piece
    """
    cut, black, grey = 1 / 9, 0.003907, 0.01
    slope = 1 / (cut * math.log(10))
    offset = math.log10(cut) - slope * cut
    gain = exposure_index / 400
    log_slope = (math.log2(gain) * (0.89 - 1) / 3 + 1) * 0.256598
    log_offset = encoded_grey = 0.391007
    for _ in range(3):
        below = ((95 / 1023 - log_offset) / log_slope - offset) / slope
        log_offset = encoded_grey - math.log10(1 + below) * log_slope
    # So far of the sensor's signal; light is relative to it by the exposure index.
    per_light = 4 / (0.18 * exposure_index)
    of_signal, at_black = gain / grey, below - black * gain / grey
    light_offset = at_black + of_signal * black
    straight = slope * of_signal * log_slope
    straight_offset = log_slope * (slope * at_black + offset) + log_offset + straight * black
    at = (cut - light_offset) / (of_signal * per_light)
    return log_curve(
        LogParameters(10, log_slope, log_offset, of_signal * per_light, light_offset, at, straight * per_light, straight_offset)
    )


D_LOG = log_curve(LogParameters(10, 0.256663, 0.584555, 0.9892, 0.0108, 0.0078, 6.025, 0.0929))
F_LOG = log_curve(LogParameters(10, 0.344676, 0.790453, 0.555556, 0.009468, 0.00089, 8.735631, 0.092864))
V_LOG = log_curve(LogParameters(10, 0.241514, 0.598206, 1, 0.00873, 0.01, 5.6, 0.125))
LOG3G10 = log_curve(LogParameters(10, 0.224282, 0, 155.975327, 155.975327 * 0.01 + 1, -0.01, 15.1927))
F_LOG2 = log_curve(LogParameters(10, 0.245281, 0.384316, 5.555556, 0.064829, 0.000889, 8.799461, 0.092864))

_A4 = (2.0**18 - 16) / 117.45
_B4, _C4 = (1023 - 95) / 1023, 95 / 1023
_S4 = 7 * math.log(2) * 2 ** (7 - 14 * _C4 / _B4) / (_A4 * _B4)
_T4 = (2.0 ** (14 * (-_C4 / _B4) + 6) - 64) / _A4
LOGC4 = log_curve(LogParameters(2, _B4 / 14, _C4 - 6 * _B4 / 14, _A4, 64, _T4, 1 / _S4))


@compiled
def _decode_acescc(values, bend, top):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        code = values[j]
        light = exp2((code if code < top else top) * F(17.52) - F(9.72))
        values[j] = light if code >= bend else F(2) * (light - F(2.0**-16))


@compiled
def _encode_acescc(values, top):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        light = clamp(values[j], F(0), top)
        light = light if light >= F(2.0**-15) else F(2.0**-16) + F(0.5) * light
        values[j] = (log2(light) + F(9.72)) / F(17.52)


def _acescc() -> Transfer:
    bend, top = (9.72 - 15) / 17.52, (math.log2(HALF_MAX) + 9.72) / 17.52

    def decode(x: np.ndarray) -> np.ndarray:
        light = 2.0 ** (np.minimum(x, top) * 17.52 - 9.72)
        return np.where(x >= bend, light, (light - 2.0**-16) * 2)

    def encode(x: np.ndarray) -> np.ndarray:
        light = np.clip(x, 0, HALF_MAX)
        return (np.log2(np.where(light >= 2.0**-15, light, 2.0**-16 + light / 2)) + 9.72) / 17.52

    return Transfer(decode, encode, lambda v: _decode_acescc(v, F(bend), F(top)), lambda v: _encode_acescc(v, F(HALF_MAX)))


ACESCC = _acescc()
