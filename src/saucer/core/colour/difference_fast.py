"""CIEDE2000 for millions of colours: `difference.ciede2000` compiled, from linear BT.709 light."""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from saucer.core.colour.primaries import BT709, rgb_to_xyz, xyz_of
from saucer.core.numeric.parallel import over_runs

# Rows already divided by the white, so that t = row . light is X / Xn, Y / Yn, Z / Zn.
_TO_RELATIVE = rgb_to_xyz(BT709) / xyz_of(BT709.white)[:, None]


@njit(nogil=True, cache=True, error_model="numpy")
def _f(t):  # type: ignore[no-untyped-def]
    return t ** (1.0 / 3.0) if t > 0.008856451679035631 else t * 7.787037037037037 + 0.13793103448275862


@njit(nogil=True, cache=True, error_model="numpy")
def _lab(r, g, b, m):  # type: ignore[no-untyped-def]
    x = _f(m[0, 0] * r + m[0, 1] * g + m[0, 2] * b)
    y = _f(m[1, 0] * r + m[1, 1] * g + m[1, 2] * b)
    z = _f(m[2, 0] * r + m[2, 1] * g + m[2, 2] * b)
    return 116.0 * y - 16.0, 500.0 * (x - y), 200.0 * (y - z)


@njit(nogil=True, cache=True, error_model="numpy")
def _differences(one, other, m, out, start, stop):  # type: ignore[no-untyped-def]
    to_degrees, to_radians, power = 180.0 / math.pi, math.pi / 180.0, 25.0**7
    for j in range(start, stop):
        l1, a1, b1 = _lab(one[j, 0], one[j, 1], one[j, 2], m)
        l2, a2, b2 = _lab(other[j, 0], other[j, 1], other[j, 2], m)
        mean7 = ((math.sqrt(a1 * a1 + b1 * b1) + math.sqrt(a2 * a2 + b2 * b2)) / 2.0) ** 7
        g = 0.5 * (1.0 - math.sqrt(mean7 / (mean7 + power)))
        a1, a2 = (1.0 + g) * a1, (1.0 + g) * a2
        c1, c2 = math.sqrt(a1 * a1 + b1 * b1), math.sqrt(a2 * a2 + b2 * b2)
        h1, h2 = math.atan2(b1, a1) * to_degrees % 360.0, math.atan2(b2, a2) * to_degrees % 360.0
        grey = c1 * c2 == 0
        turn = h2 - h1
        turn = turn - 360.0 if turn > 180.0 else (turn + 360.0 if turn < -180.0 else turn)
        turn = 0.0 if grey else turn
        d_l, d_c, d_h = l2 - l1, c2 - c1, 2.0 * math.sqrt(c1 * c2) * math.sin(turn / 2.0 * to_radians)
        l_mean, c_mean, total = (l1 + l2) / 2.0, (c1 + c2) / 2.0, h1 + h2
        h_mean = total / 2.0
        if grey:
            h_mean = total
        elif abs(h1 - h2) > 180.0:
            h_mean = (total + 360.0 if total < 360.0 else total - 360.0) / 2.0
        t = (
            1.0
            - 0.17 * math.cos((h_mean - 30.0) * to_radians)
            + 0.24 * math.cos(2.0 * h_mean * to_radians)
            + 0.32 * math.cos((3.0 * h_mean + 6.0) * to_radians)
            - 0.20 * math.cos((4.0 * h_mean - 63.0) * to_radians)
        )
        off = (l_mean - 50.0) * (l_mean - 50.0)
        s_l = 1.0 + 0.015 * off / math.sqrt(20.0 + off)
        s_c, s_h = 1.0 + 0.045 * c_mean, 1.0 + 0.015 * c_mean * t
        c7 = c_mean**7
        lean = (h_mean - 275.0) / 25.0
        r_t = -2.0 * math.sqrt(c7 / (c7 + power)) * math.sin(60.0 * math.exp(-lean * lean) * to_radians)
        l_term, c_term, h_term = d_l / s_l, d_c / s_c, d_h / s_h
        squared = l_term * l_term + c_term * c_term + h_term * h_term + r_t * c_term * h_term
        out[j] = math.sqrt(squared) if squared > 0 else 0.0


def difference_of_light(one: np.ndarray, other: np.ndarray) -> np.ndarray:
    """CIEDE2000 between linear BT.709 colours, 1.0 is white.

    one, other: (n, 3) float32
    Returns: (n,) float64. Source: as `difference.ciede2000`, which it agrees with to 1e-6
    """
    a, b = (np.ascontiguousarray(values, np.float32).reshape(-1, 3) for values in (one, other))
    out = np.empty(len(a))
    over_runs(lambda start, stop: _differences(a, b, _TO_RELATIVE, out, start, stop), len(a), chunk=8192)
    return out
