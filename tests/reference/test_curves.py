"""Curves against SciPy's splines. The natural cubic spline is unique, so the two must be the same curve."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.interpolate import CubicSpline

from saucer.core.steps.pixel.curves import evaluate_curve

X = np.linspace(0, 1, 4001)


@pytest.mark.parametrize("seed", range(12))
def test_natural_is_scipys_natural_spline(seed):
    rng = np.random.default_rng(seed)
    count = int(rng.integers(2, 17))
    x = (
        np.concatenate([[0], np.sort(rng.choice(np.arange(1, 100), count - 2, replace=False) / 100), [1]])
        if count > 2
        else np.array([0.0, 1.0])
    )
    y = rng.random(len(x))
    spline = CubicSpline(x, y, bc_type="natural")
    ours = evaluate_curve(list(zip(x, y, strict=True)), "natural", X)
    np.testing.assert_allclose(ours, spline(X), atol=2e-6 * max(1, np.abs(spline(X)).max()))


@pytest.mark.parametrize("points", [[(0, 0), (0.25, 0.2), (0.75, 0.8), (1, 1)], [(0, 0.05), (0.3, 0.28), (0.6, 0.63), (1, 0.97)]])
def test_smooth_is_the_natural_spline_where_the_filter_does_nothing(points):
    x, y = np.array(points).T
    spline = CubicSpline(x, y, bc_type="natural")
    assert (spline(x, 1) > 0).all()
    np.testing.assert_allclose(evaluate_curve(points, "smooth", X), spline(X), atol=5e-7)


def test_smooth_stays_monotone_where_the_natural_spline_does_not():
    points = [(0, 0), (0.45, 0.02), (0.5, 0.95), (1, 1)]
    x, y = np.array(points).T
    assert np.diff(CubicSpline(x, y, bc_type="natural")(X)).min() < -1e-4
    assert np.diff(evaluate_curve(points, "smooth", X)).min() >= -1e-7


def test_linear_is_numpys_interpolation():
    points = [(0, 0.1), (0.3, 0.7), (0.31, 0.2), (1, 0.9)]
    np.testing.assert_allclose(evaluate_curve(points, "linear", X), np.interp(X, *np.array(points).T), atol=2e-6)
