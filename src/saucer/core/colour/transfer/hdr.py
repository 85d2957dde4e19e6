"""PQ and HLG, scaled so that linear 1.0 is the HDR reference white of ITU-R BT.2408-7: 203 cd/m2, 75 % of HLG. Mirrored about 0.

Source of both curves: ITU-R BT.2100-3, tables 4 and 5.
"""

from __future__ import annotations

import math

import numpy as np

from saucer.core.colour.transfer import HALF_MAX, Transfer
from saucer.core.numeric.elementary import F, clamp, compiled, exp2, log2, power, split

REFERENCE_WHITE = 203.0
_M1, _M2 = 2610 / 16384, 2523 / 4096 * 128
_C1, _C2, _C3 = 3424 / 4096, 2413 / 4096 * 32, 2392 / 4096 * 32
_ONE_LESS_C1 = 1 - _C1  # also c2 - c3
_PEAK = 10000 / REFERENCE_WHITE


def _pq_decode(x: np.ndarray) -> np.ndarray:
    n = np.minimum(np.abs(x), _PQ_TOP) ** (1 / _M2)
    return np.copysign(_PEAK * (np.maximum(n - _C1, 0) / (_C2 - _C3 * n)) ** (1 / _M1), x)


def _pq_encode(x: np.ndarray) -> np.ndarray:
    y = (np.minimum(np.abs(x), HALF_MAX) / _PEAK) ** _M1
    return np.copysign(((_C1 + _C2 * y) / (1 + _C3 * y)) ** _M2, x)


_PQ_TOP = math.inf
_PQ_TOP = float(_pq_encode(np.array(HALF_MAX)))


# In float32 the published form loses four digits to n - c1 and c2 - c3 n. With d = 1 - n both become sums without cancellation,
# and d itself comes from the power series of 2**t - 1, or goes into that of log2(1 - d).
@compiled
def _pq_decode_fast(values, top, lowest, per_m2, peak, high, low):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        size = abs(values[j])
        t = clamp(log2(size if size < top else top) * per_m2, lowest, F(0.5))
        series = F(1.3333558e-3) + t * (F(1.5403530e-4) + t * F(1.5252734e-5))
        series = F(2.4022651e-1) + t * (F(5.5504109e-2) + t * (F(9.6181291e-3) + t * series))
        d = -t * (F(6.9314718e-1) + t * series)
        ratio = (F(_ONE_LESS_C1) - d) / (F(_ONE_LESS_C1) + F(_C3) * d)
        light = peak * power(ratio if ratio > F(0) else F(0), high, low)
        values[j] = -light if values[j] < F(0) else light


@compiled
def _pq_encode_fast(values, top, m2, peak, high, low):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        size = abs(values[j])
        y = power((size if size < top else top) / peak, high, low)
        d = F(_ONE_LESS_C1) * (F(1) - y) / (F(1) + F(_C3) * y)
        s = -d / (F(2) - d)
        z = s * s
        series = F(0.96179669) + z * (F(0.57707802) + z * (F(0.41219858) + z * F(0.32059890)))
        code = exp2(m2 * s * (F(2.8853901) + z * series))
        values[j] = -code if values[j] < F(0) else code


PQ = Transfer(
    _pq_decode,
    _pq_encode,
    lambda v: _pq_decode_fast(v, F(_PQ_TOP), F(math.log2(_C1)), F(1 / _M2), F(_PEAK), *split(1 / _M1)),
    lambda v: _pq_encode_fast(v, F(HALF_MAX), F(_M2), F(_PEAK), *split(_M1)),
)

_A = 0.17883277
_B, _C = 1 - 4 * _A, 0.5 - _A * math.log(4 * _A)
HLG_WHITE = (math.exp((0.75 - _C) / _A) + _B) / 12
"""The scene's light at 75 % of HLG, of the 1.0 that a signal of 1.0 stands for."""


def _hlg_decode(x: np.ndarray) -> np.ndarray:
    size = np.minimum(np.abs(x), _HLG_TOP)
    scene = np.where(size <= 0.5, size**2 / 3, (np.exp((np.maximum(size, 0.5) - _C) / _A) + _B) / 12)
    return np.copysign(scene / HLG_WHITE, x)


def _hlg_encode(x: np.ndarray) -> np.ndarray:
    scene = np.minimum(np.abs(x), HALF_MAX) * HLG_WHITE
    return np.copysign(np.where(scene <= 1 / 12, np.sqrt(3 * scene), _A * np.log(12 * np.maximum(scene, 1 / 12) - _B) + _C), x)


_HLG_TOP = float(_hlg_encode(np.array(HALF_MAX)))


@compiled
def _hlg_decode_fast(values, top, per_log2, c, white):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        size = abs(values[j])
        size = size if size < top else top
        light = (exp2((size - c) / per_log2) + F(_B)) / (F(12) * white)
        light = light if size > F(0.5) else size * size / (F(3) * white)
        values[j] = -light if values[j] < F(0) else light


@compiled
def _hlg_encode_fast(values, top, per_log2, c, white):  # type: ignore[no-untyped-def]
    for j in range(values.size):
        size = abs(values[j])
        scene = (size if size < top else top) * white
        code = per_log2 * log2(F(12) * scene - F(_B)) + c
        code = code if scene > F(1 / 12) else np.sqrt(F(3) * scene)
        values[j] = -code if values[j] < F(0) else code


_PER_LOG2 = _A * math.log(2)
HLG = Transfer(
    _hlg_decode,
    _hlg_encode,
    lambda v: _hlg_decode_fast(v, F(_HLG_TOP), F(_PER_LOG2), F(_C), F(HLG_WHITE)),
    lambda v: _hlg_encode_fast(v, F(HALF_MAX), F(_PER_LOG2), F(_C), F(HLG_WHITE)),
)
