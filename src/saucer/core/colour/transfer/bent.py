"""Camera curves that no single log with a straight piece says: logs mirrored about a middle, and one that begins as a cube root.

The constants are their makers'. Each goes on beyond what is published as its outermost piece does.
"""

from __future__ import annotations

import math

import numpy as np

from saucer.core.colour.transfer import HALF_MAX, Transfer
from saucer.core.numeric.elementary import F, clamp, compiled, cube_root, exp2, log2


@compiled
def _decode_mirrored(values, per_log2, scale, above, below, slope, offset, low, high, bottom, top):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        code = clamp(values[j], bottom, top)
        over = (exp2((code - above) / per_log2) - F(1)) / scale
        under = (F(1) - exp2((below - code) / per_log2)) / scale
        values[j] = over if code > high else under if code < low else (code - offset) / slope


@compiled
def _encode_mirrored(values, per_log2, scale, above, below, slope, offset, edge, top):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        light = clamp(values[j], -top, top)
        bent = per_log2 * log2(scale * abs(light) + F(1))
        values[j] = above + bent if light > edge else below - bent if light < -edge else slope * light + offset


def mirrored_log(log_slope: float, scale: float, above: float, below: float, slope: float, offset: float, edge: float) -> Transfer:
    """code = above + log_slope log10(scale light + 1) for light over `edge`, below - log_slope log10(1 - scale light) under -edge,

    slope light + offset between. scale, slope: per light on which 1.0 is a perfect white
    """
    per_log2, top = log_slope * math.log10(2), HALF_MAX
    reach = log_slope * math.log10(scale * top + 1)
    bottom_code, top_code = below - reach, above + reach
    low, high = offset - slope * edge, offset + slope * edge

    def decode(x: np.ndarray) -> np.ndarray:
        code = np.clip(x, bottom_code, top_code)
        over, under = 10 ** ((code - above) / log_slope) - 1, 1 - 10 ** ((below - np.minimum(code, low)) / log_slope)
        return np.where(code > high, over / scale, np.where(code < low, under / scale, (code - offset) / slope))

    def encode(x: np.ndarray) -> np.ndarray:
        light = np.clip(x, -top, top)
        bent = log_slope * np.log10(scale * np.abs(light) + 1)
        return np.where(light > edge, above + bent, np.where(light < -edge, below - bent, slope * light + offset))

    common = [F(v) for v in (per_log2, scale, above, below, slope, offset)]
    return Transfer(
        decode,
        encode,
        lambda values: _decode_mirrored(values, *common, F(low), F(high), F(bottom_code), F(top_code)),
        lambda values: _encode_mirrored(values, *common, F(edge), F(top)),
    )


# Published for exposure, of which a white of 90 % reflection has 1.0; light here is reflection.
_SLOPE_1 = 0.45310179 * 10.1596 / math.log(10) / 0.9
C_LOG = mirrored_log(0.45310179, 10.1596 / 0.9, 0.12512248, 0.12512248, _SLOPE_1, 0.12512248, 0.0)
_SLOPE_2 = 0.24136077 * 87.09937546 / math.log(10) / 0.9
C_LOG2 = mirrored_log(0.24136077, 87.09937546 / 0.9, 0.092864125, 0.092864125, _SLOPE_2, 0.092864125, 0.0)
C_LOG3 = mirrored_log(0.36726845, 14.98325 / 0.9, 0.12240537, 0.12783901, 1.9754798 / 0.9, 0.12512219, 0.014 * 0.9)

# Printed to part at light 0.328 and code 452, where the pieces overlap by a tenth of a ten-bit code; here they part where they meet.
_ROOT, _TOE, _LOG, _AT_ONE, _EDGE = 650 / 1023, 0.0075, 150 / 1023, 619 / 1023, 0.3167306079149365
_EDGE_CODE = _ROOT * (_EDGE + _TOE) ** (1 / 3)


@compiled
def _decode_rooted(values, top):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        code = values[j] if values[j] < top else top
        root = code / F(_ROOT)
        light = exp2((code - F(_AT_ONE)) / F(_LOG * math.log(2)))
        values[j] = root * root * root - F(_TOE) if code < F(_EDGE_CODE) else light


@compiled
def _encode_rooted(values, top):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        light = values[j] if values[j] < top else top
        bright = light if light > F(_EDGE) else F(_EDGE)
        code = F(_LOG * math.log(2)) * log2(bright) + F(_AT_ONE)
        values[j] = F(_ROOT) * cube_root(light + F(_TOE)) if light < F(_EDGE) else code


def _rooted() -> Transfer:
    top = _LOG * math.log(HALF_MAX) + _AT_ONE

    def decode(x: np.ndarray) -> np.ndarray:
        code = np.minimum(x, top)
        return np.where(code < _EDGE_CODE, (code / _ROOT) ** 3 - _TOE, np.exp((code - _AT_ONE) / _LOG))

    def encode(x: np.ndarray) -> np.ndarray:
        light = np.minimum(x, HALF_MAX)
        return np.where(light < _EDGE, _ROOT * np.cbrt(light + _TOE), _LOG * np.log(np.maximum(light, _EDGE)) + _AT_ONE)

    return Transfer(decode, encode, lambda v: _decode_rooted(v, F(top)), lambda v: _encode_rooted(v, F(HALF_MAX)))


N_LOG = _rooted()
