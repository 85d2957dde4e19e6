"""Two pictures mixed by weights, in place."""

from __future__ import annotations

import numpy as np

from saucer.core.numeric.elementary import compiled
from saucer.core.numeric.parallel import over_runs


@compiled
def _mix(into, other, of_into, of_other):  # type: ignore[no-untyped-def]
    for j in range(into.size):
        into[j] = of_into * into[j] + of_other * other[j]


def mix(into: np.ndarray, other: np.ndarray, of_into: float, of_other: float) -> None:
    """into, other: contiguous float32 of one shape; `into` becomes of_into x into + of_other x other"""
    flat, others = into.reshape(-1), other.reshape(-1)
    weights = np.float32(of_into), np.float32(of_other)
    over_runs(lambda start, stop: _mix(flat[start:stop], others[start:stop], *weights), flat.size)
