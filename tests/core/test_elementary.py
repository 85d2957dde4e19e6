"""Functions that loops are built of, against NumPy in float64: the largest differences are those stated beside each."""

from __future__ import annotations

import numpy as np
import pytest
from numba import njit

from saucer.core.numeric.elementary import angle, cube_root, near_cube_root

SIZES = (10 ** np.random.default_rng(6).uniform(-30, 6, 200_000)).astype(np.float32)


def applied(function, *arguments: np.ndarray) -> np.ndarray:
    if len(arguments) == 1:

        @njit(error_model="numpy")
        def each(x, out):
            for j in range(out.size):
                out[j] = function(x[j])

    else:

        @njit(error_model="numpy")
        def each(x, y, out):
            for j in range(out.size):
                out[j] = function(x[j], y[j])

    out = np.empty_like(arguments[0])
    each(*arguments, out)
    return out


@pytest.mark.parametrize(("function", "most"), [(cube_root, 2e-7), (near_cube_root, 3e-5)], ids=["exactly", "nearly"])
def test_cube_roots_of_either_sign(function, most):
    for sign in (1, -1):
        wanted = np.cbrt(sign * SIZES.astype(np.float64))
        assert np.abs(applied(function, np.float32(sign) * SIZES) / wanted - 1).max() <= most
    assert applied(function, np.zeros(1, np.float32))[0] == 0


def test_angles_all_round():
    turns = np.random.default_rng(7).uniform(-np.pi, np.pi, 100_000)
    y, x = (one.astype(np.float32) for one in (np.sin(turns), np.cos(turns)))
    wanted = np.arctan2(y.astype(np.float64), x.astype(np.float64))
    assert np.abs(applied(angle, y, x) - wanted).max() <= 4e-7
