"""Elementary functions in float32 that a loop can be vectorised around: no calls, no branches, only selects.

Largest differences from the exact values are stated beside each and tested. A domain is not checked here; callers keep to it.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from llvmlite import ir
from numba import njit, types
from numba.extending import intrinsic

F = np.float32
FASTMATH = {"contract", "nsz", "arcp", "reassoc"}  # never nnan: a NaN index would read outside a table
_intrinsic: Any = intrinsic
# The numpy error model divides without a test for zero, which would be a branch in every loop.
inlined: Any = njit(nogil=True, fastmath=FASTMATH, forceinline=True, error_model="numpy")
# Sums that cancel rounding errors must be added in the order they are written.
_exactly: Any = njit(nogil=True, fastmath={"contract", "nsz"}, forceinline=True, error_model="numpy")
compiled: Any = njit(nogil=True, fastmath=FASTMATH, cache=True, error_model="numpy")
SMALLEST_NORMAL = F(1.17549435e-38)
_ROOT_HALF_BITS = np.int32(0x3F3504F3)


@_intrinsic
def _bits(typing, value):  # type: ignore[no-untyped-def]
    """The 32 bits of a float32 as an int32."""
    return types.int32(types.float32), lambda context, builder, sign, args: builder.bitcast(args[0], ir.IntType(32))


@_intrinsic
def _from_bits(typing, value):  # type: ignore[no-untyped-def]
    """32 bits as the float32 they mean."""
    return types.float32(types.int32), lambda context, builder, sign, args: builder.bitcast(args[0], ir.FloatType())


@inlined
def clamp(x, low, high):  # type: ignore[no-untyped-def]
    """x clamped to low..high."""
    x = x if x > low else low
    return x if x < high else high


@_exactly
def _exponent_and_log2(x):  # type: ignore[no-untyped-def]
    """Whole e and fraction f, |f| <= 1/2, with log2 x = e + f; log2 of the smallest normal number for anything below it.

    Source: log(m) = 2 artanh((m - 1) / (m + 1)), Abramowitz and Stegun 4.1.27, to the ninth power
    """
    bits = _bits(x if x > SMALLEST_NORMAL else SMALLEST_NORMAL)
    # Numba widens int32 sums to int64, which would halve the lanes: each is cast back.
    exponent = np.int32(np.int32(bits - _ROOT_HALF_BITS) >> np.int32(23))
    m = _from_bits(np.int32(bits - np.int32(exponent << np.int32(23))))
    s = (m - F(1)) / (m + F(1))
    z = s * s
    series = F(0.41219858) + z * F(0.32059890)
    series = F(0.96179669) + z * (F(0.57707802) + z * series)
    return F(exponent), s * (F(2.8853901) + z * series)


@_exactly
def _scaled_exp2(f, whole):  # type: ignore[no-untyped-def]
    """2**(f + whole) for |f| <= 1/2, by Taylor's series."""
    series = F(1.3333558e-3) + f * (F(1.5403530e-4) + f * F(1.5252734e-5))
    series = F(5.5504109e-2) + f * (F(9.6181291e-3) + f * series)
    series = F(1) + f * (F(6.9314718e-1) + f * (F(2.4022651e-1) + f * series))
    return series * _from_bits(np.int32(np.int32(np.int32(whole) + np.int32(127)) << np.int32(23)))


@_exactly
def log2(x):  # type: ignore[no-untyped-def]
    """log2 of x > 0, within 1e-7 or 1 unit in the last place."""
    exponent, fraction = _exponent_and_log2(x)
    return exponent + fraction


@_exactly
def exp2(x):  # type: ignore[no-untyped-def]
    """2**x, relative difference at most 2e-7; x is held to -126..127."""
    x = x if x > F(-126) else F(-126)
    x = x if x < F(127) else F(127)
    whole = np.floor(x + F(0.5))
    return _scaled_exp2(x - whole, whole)


def split(exponent: float) -> tuple[np.float32, np.float32]:
    """An exponent 0..128 in two parts as `power` takes it: one whose product with any whole part of log2 x is exact, and the rest."""
    high = np.float32(np.round(exponent * 1024) / 1024)
    return high, np.float32(exponent - float(high))


@_exactly
def power(x, high, low):  # type: ignore[no-untyped-def]
    """x**(high + low) for x >= 0, the exponent as `split` gives it; relative difference at most 3e-7 (1 + exponent)."""
    e, fraction = _exponent_and_log2(x)
    first, second = high * e, low * e + (high + low) * fraction
    total = clamp(first + second, F(-126), F(127))
    whole = np.floor(total + F(0.5))
    result = _scaled_exp2(clamp((first - whole) + second, F(-0.5), F(0.5)), whole)
    return result if x > SMALLEST_NORMAL else F(0)


@inlined
def cube_root(x):  # type: ignore[no-untyped-def]
    """Real cube root of any x, relative difference at most 2e-7 (one Newton step after the power)."""
    size = abs(x)
    y = exp2(log2(size) * F(1 / 3))
    y = y - (y - size / (y * y)) * F(1 / 3)
    y = y if size > SMALLEST_NORMAL else F(0)
    return -y if x < F(0) else y


@inlined
def near_cube_root(x):  # type: ignore[no-untyped-def]
    """Real cube root of any x, relative difference at most 3e-5: a third of its exponent and fraction, and one step after Halley."""
    size = abs(x)
    y = _from_bits(np.int32(F(_bits(size)) * F(1 / 3)) + np.int32(0x2A514067))
    cube = y * y * y
    y = y * (cube + F(2) * size) / (F(2) * cube + size)
    y = y if size > SMALLEST_NORMAL else F(0)
    return -y if x < F(0) else y


@inlined
def angle(y, x):  # type: ignore[no-untyped-def]
    """atan2(y, x) in radians within 4e-7; 0 at the origin.

    Source: Abramowitz and Stegun 4.4.49 (2e-8 before rounding)
    """
    tall, wide = abs(y), abs(x)
    low = tall if tall < wide else wide
    high = wide if tall < wide else tall
    t = low / (high if high > SMALLEST_NORMAL else SMALLEST_NORMAL)
    z = t * t
    series = F(0.0429096138) + z * (F(-0.0161657367) + z * F(0.0028662257))
    series = F(-0.1420889944) + z * (F(0.1065626393) + z * (F(-0.0752896400) + z * series))
    turn = t * (F(1) + z * (F(-0.3333314528) + z * (F(0.1999355085) + z * series)))
    turn = F(np.pi / 2) - turn if tall > wide else turn
    turn = F(np.pi) - turn if x < F(0) else turn
    return -turn if y < F(0) else turn


@inlined
def cosine_sine(x):  # type: ignore[no-untyped-def]
    """(cos x, sin x) within 2e-7 for |x| up to 100; Taylor's series about the nearest multiple of a quarter turn."""
    quarters = np.floor(x * F(2 / np.pi) + F(0.5))
    r = (x - quarters * F(1.5703125)) - quarters * F(np.pi / 2 - 1.5703125)
    z = r * r
    sine = r * (F(1) + z * (F(-1 / 6) + z * (F(1 / 120) + z * (F(-1 / 5040) + z * F(1 / 362880)))))
    cosine = F(1) + z * (F(-1 / 2) + z * (F(1 / 24) + z * (F(-1 / 720) + z * F(1 / 40320))))
    quarter = np.int32(quarters)
    odd = (quarter & np.int32(1)) != np.int32(0)
    c, s = (sine if odd else cosine), (cosine if odd else sine)
    c = -c if ((quarter + np.int32(1)) & np.int32(2)) != np.int32(0) else c
    return c, (-s if (quarter & np.int32(2)) != np.int32(0) else s)


@inlined
def smooth(t):  # type: ignore[no-untyped-def]
    """0 below 0, 1 above 1, 3 t^2 - 2 t^3 between: C1, and smooth(t) + smooth(1 - t) = 1."""
    t = clamp(t, F(0), F(1))
    return t * t * (F(3) - F(2) * t)
