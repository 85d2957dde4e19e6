from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from saucer.core.errors import LutError, ShapeError
from saucer.core.lut import kernels
from saucer.core.lut.apply import _placing, apply_curve, apply_lattice, apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Curve1D, Lattice, Lut
from tests.make import a_lut, random_pixels


def plain(lattice: Lattice, values: np.ndarray) -> np.ndarray:
    """The tested reference: one pixel after the other, branches and all."""
    target = np.empty_like(values)
    scale, offset = _placing(lattice.size, lattice.domain)
    kernels.tetrahedral_plain(
        lattice.padded, lattice.size, scale, offset, values.reshape(-1), target.reshape(-1), 0, values.size // 3
    )
    return target


@pytest.mark.parametrize("size", [2, 3, 17, 33])
@pytest.mark.parametrize("count", [1, 2, kernels.BLOCK - 1, kernels.BLOCK, kernels.BLOCK + 1, 40_000, 400_001])
def test_the_fast_kernel_is_the_plain_one(size, count):
    lattice = a_lut(size).lattice
    values = np.random.default_rng(count).uniform(-0.2, 1.2, (count, 3)).astype(np.float32)
    for threads in (1, 2, 5):
        np.testing.assert_allclose(apply_lattice(lattice, values, threads=threads), plain(lattice, values), atol=3e-7)


@given(arrays(np.float32, (9, 3), elements=st.floats(width=32, allow_nan=True, allow_infinity=True)))
def test_anything_at_all_stays_inside_the_table(values):
    lattice = a_lut(5).lattice
    for interpolation in ("tetrahedral", "trilinear"):
        result = apply_lattice(lattice, values, interpolation)
        assert np.isfinite(result).all()
        assert result.min() >= lattice.table.min() - 1e-6
        assert result.max() <= lattice.table.max() + 1e-6


def test_ties_between_fractions():
    lattice = a_lut(4).lattice
    steps = np.linspace(0, 1, 13, dtype=np.float32)
    values = np.stack(np.meshgrid(steps, steps, steps), -1).reshape(-1, 3)
    np.testing.assert_allclose(apply_lattice(lattice, values), plain(lattice, values), atol=2e-7)


@pytest.mark.parametrize("interpolation", ["tetrahedral", "trilinear"])
def test_identity_and_nodes(interpolation):
    identity = Lattice(grid(17).reshape(17, 17, 17, 3))
    values = random_pixels()
    np.testing.assert_allclose(apply_lattice(identity, values, interpolation), values, atol=2e-7)
    lattice = a_lut(6).lattice
    assert np.allclose(apply_lattice(lattice, grid(6), interpolation), lattice.table.reshape(-1, 3), atol=1e-6)


def test_trilinear_is_three_nested_linear_blends():
    lattice = a_lut(2).lattice
    x = np.array([[0.3, 0.6, 0.9]], np.float32)
    t = lattice.table.astype(float)
    expected = sum(
        t[r, g, b] * (0.3 if r else 0.7) * (0.6 if g else 0.4) * (0.9 if b else 0.1) for r in (0, 1) for g in (0, 1) for b in (0, 1)
    )
    np.testing.assert_allclose(apply_lattice(lattice, x, "trilinear")[0], expected, atol=1e-6)


@pytest.mark.parametrize(("dtype", "peak"), [(np.uint8, 255), (np.uint16, 65535)])
@pytest.mark.parametrize("interpolation", ["tetrahedral", "trilinear"])
def test_integers_are_the_floats_rounded(dtype, peak, interpolation):
    lattice = a_lut(9).lattice
    codes = np.random.default_rng(4).integers(0, peak + 1, (777, 3)).astype(dtype)
    result = apply_lattice(lattice, codes, interpolation)
    floats = apply_lattice(lattice, codes.astype(np.float32) / np.float32(peak), interpolation)
    exact = np.clip(floats.astype(np.float64), 0, 1) * peak
    assert result.dtype == dtype
    # Half a code, and what float32 holds of a 16-bit code.
    assert np.abs(result - exact).max() <= 0.5 + peak * 4e-7


def test_a_domain_is_held_at_its_faces():
    lattice = Lattice(a_lut(5).lattice.table, ((-1.0, 0.0, 0.5), (1.0, 2.0, 4.0)))
    low, high = np.array([[-9, -9, -9]], np.float32), np.array([[9, 9, 9]], np.float32)
    assert np.allclose(apply_lattice(lattice, low), lattice.table[0, 0, 0], atol=1e-6)
    assert np.allclose(apply_lattice(lattice, high), lattice.table[-1, -1, -1], atol=1e-6)
    middle = apply_lattice(lattice, np.array([[0, 1, 2.25]], np.float32))
    assert np.allclose(middle, lattice.table[2, 2, 2], atol=1e-6)


def test_shaper_then_lattice():
    shaper = Curve1D(np.array([[0, 0, 0], [0.25, 0.5, 0.75], [1, 1, 1]], np.float32), ((0.0,) * 3, (2.0,) * 3))
    lut = Lut(shaper, a_lut(7).lattice)
    x = np.array([[0.5, 1.0, 1.5]], np.float32)
    shaped = apply_curve(shaper, x)
    assert shaped[0] == pytest.approx([0.125, 0.5, 0.875])
    assert np.array_equal(apply_lut(lut, x), apply_lattice(lut.lattice, shaped))
    only = apply_lut(Lut(shaper), (x / 2 * 255).astype(np.uint8))
    assert only.dtype == np.uint8


def test_many_callers_at_once_get_their_own_pixels():
    """Several server threads call the kernels at the same time."""
    luts = [a_lut(17, seed).lattice for seed in range(6)]
    values = [random_pixels(300, 400, seed) for seed in range(6)]
    expected = [apply_lattice(lut, x, threads=1) for lut, x in zip(luts, values, strict=True)]
    with ThreadPoolExecutor(6) as pool:
        for _ in range(8):
            results = list(pool.map(lambda i: apply_lattice(luts[i], values[i], threads=2), range(6)))
            assert all(np.array_equal(a, b) for a, b in zip(results, expected, strict=True))


@pytest.mark.parametrize("dtype", [np.float32, np.uint8, np.uint16])
@pytest.mark.parametrize("interpolation", ["tetrahedral", "trilinear"])
def test_in_place(dtype, interpolation):
    lattice = a_lut(9).lattice
    values = random_pixels(300, 333)
    values = values if dtype is np.float32 else (values * np.iinfo(dtype).max).astype(dtype)
    expected = apply_lattice(lattice, values, interpolation)
    apply_lattice(lattice, values, interpolation, threads=3, out=values)
    assert np.array_equal(values, expected)


def test_what_may_not_be_applied():
    lattice = a_lut(3).lattice
    with pytest.raises(ShapeError, match=r"three channels on the last axis, got shape \(4, 4\)"):
        apply_lattice(lattice, np.zeros((4, 4), np.float32))
    with pytest.raises(ShapeError, match="float32, uint8 or uint16, got float64"):
        apply_lattice(lattice, np.zeros((4, 3)))
    with pytest.raises(ShapeError, match="out"):
        apply_lattice(lattice, np.zeros((4, 3), np.float32), out=np.zeros((5, 3), np.float32))


def test_tables_that_cannot_be():
    with pytest.raises(LutError, match="2 to 129 nodes"):
        Lattice(np.zeros((130, 2, 2, 3), np.float32))
    table = np.zeros((2, 2, 2, 3), np.float32)
    table[0, 1, 0, 2] = np.nan
    with pytest.raises(LutError, match=r"entry \(0, 1, 0, 2\) is not a finite number"):
        Lattice(table)
    with pytest.raises(LutError, match="the domain must rise"):
        Lattice(np.zeros((2, 2, 2, 3), np.float32), ((0.0, 0.0, 0.0), (1.0, 0.0, 1.0)))
    with pytest.raises(LutError, match="neither"):
        Lut()
