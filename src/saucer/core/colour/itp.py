"""Delta E ITP, the difference for HDR pictures: 1 is just noticed. Source: ITU-R BT.2124-0, annex 1, on ICtCp of BT.2100-3, table 7."""

from __future__ import annotations

import numpy as np

from saucer.core.colour.primaries import BT709, BT2020, rgb_to_rgb
from saucer.core.colour.transfer.hdr import PQ

_TO_LMS = np.array([[1688, 2146, 262], [683, 2951, 462], [99, 309, 3688]]) / 4096 @ rgb_to_rgb(BT709, BT2020)
_TO_ITP = np.array([[2048, 2048, 0], [6610 / 2, -13613 / 2, 7003 / 2], [17933, -17390, -543]]) / 4096
"""BT.2124 takes half of Ct, in its second row."""


def to_itp(light: np.ndarray) -> np.ndarray:
    """(..., 3) float64 I, T, P of linear BT.709 light on which 1.0 is 203 cd/m2; what is darker than nothing counts as nothing."""
    lms = np.maximum(light.astype(np.float64) @ _TO_LMS.T, 0)
    return np.asarray(PQ.encode(lms) @ _TO_ITP.T)


def difference_itp(one: np.ndarray, other: np.ndarray) -> np.ndarray:
    """(...,) float64 Delta E ITP between (..., 3) linear BT.709 light on which 1.0 is 203 cd/m2."""
    return np.asarray(720 * np.sqrt(((to_itp(one) - to_itp(other)) ** 2).sum(axis=-1)))
