from __future__ import annotations

import numpy as np
import pytest

from saucer.core.errors import LutError
from saucer.core.files.fitting import write_lut
from saucer.core.files.registry import formats
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.combine import compose, extract_grey_axis, fade_lut, mix_luts
from saucer.core.lut.domain import grid
from saucer.core.lut.formulas import Cdl, Exponent, Log, LogChannel
from saucer.core.lut.invert import _solve, invert
from saucer.core.lut.likeness import bucket_of, do_the_same, near_buckets, take_sample
from saucer.core.lut.table import Curve1D, Lattice, Lut, lut_of
from saucer.core.lut.tables import as_tables, change_domain, resize
from tests.make import a_lut, random_pixels

X = random_pixels(40, 50).reshape(-1, 3)


def smooth_lut(size: int = 17, gamma: float = 1.3) -> Lut:
    table = grid(size) ** np.float32(gamma)
    table = table @ np.array([[0.9, 0.05, 0.0], [0.1, 0.9, 0.1], [0.0, 0.05, 0.9]], np.float32)
    return Lut(lattice=Lattice(table.reshape(size, size, size, 3)))


def curve(power: float, size: int = 257) -> Lut:
    return Lut(Curve1D(np.linspace(0, 1, size, dtype=np.float32)[:, None].repeat(3, 1) ** np.float32(power)))


def shaped() -> Lut:
    samples = np.linspace(0, 1, 1025, dtype=np.float32)[:, None].repeat(3, 1) ** np.float32(0.5)
    return Lut(Curve1D(samples, ((0.0,) * 3, (2.0,) * 3)), smooth_lut().lattice)


@pytest.mark.parametrize("lut", [a_lut(9), curve(1.4), shaped()], ids=["3D", "1D", "1D + 3D"])
@pytest.mark.parametrize("strength", [0.0, 0.35, 1.0])
def test_strength_baked_in(lut, strength):
    faded = fade_lut(lut, strength)
    assert faded.kind == lut.kind
    expected = X + np.float32(strength) * (apply_lut(lut, X) - X)
    # Exact on the lattice's own cells; behind a shaper the faded part is no longer straight in a cell.
    np.testing.assert_allclose(
        apply_lut(faded, X), expected, atol=3e-3 if lut.shaper is not None and lut.lattice is not None else 3e-6
    )


def test_strength_keeps_the_conversion():
    """Between encodings, strength 0 is the plain conversion, not what went in."""
    lut = smooth_lut()
    faded = fade_lut(lut, 0.0, lambda x: x**2)
    np.testing.assert_allclose(faded.lattice.table, grid(17).reshape(17, 17, 17, 3) ** 2, atol=1e-6)


def test_composition_is_one_after_the_other():
    one, two = smooth_lut(33), smooth_lut(33, 0.8)
    np.testing.assert_allclose(apply_lut(compose(one, two), X), apply_lut(two, apply_lut(one, X)), atol=4e-3)
    curves = compose(curve(1.4), curve(0.8))
    assert curves.kind == "1D"
    np.testing.assert_allclose(apply_lut(curves, X), apply_lut(curve(0.8), apply_lut(curve(1.4), X)), atol=2e-4)
    assert compose(shaped(), one).kind == "1D + 3D", "the shaper stays in front"
    between = compose(one, two, between=lambda x: np.clip(x, 0, 0.5))
    assert apply_lut(between, X).max() <= apply_lut(two, np.full((1, 3), 0.5, np.float32)).max() + 1e-3


def test_blending_two():
    one, two = a_lut(9, 1), a_lut(9, 2)
    half = mix_luts(one, two, 0.25)
    np.testing.assert_allclose(half.lattice.table, 0.75 * one.lattice.table + 0.25 * two.lattice.table, atol=1e-6)
    assert mix_luts(curve(1.4), curve(0.8), 0.5).kind == "1D"
    wide = Lut(lattice=Lattice(a_lut(9).lattice.table, ((-1.0,) * 3, (2.0,) * 3)))
    assert mix_luts(one, wide, 0.5).domain == ((-1.0,) * 3, (2.0,) * 3)


def test_resizing_between_sizes():
    small = resize(smooth_lut(33), 17)
    np.testing.assert_allclose(small.lattice.table, smooth_lut(17).lattice.table, atol=2e-6)
    assert resize(smooth_lut(17), 17).lattice.size == 17
    with pytest.raises(LutError, match="a 1D LUT has no lattice to resize"):
        resize(curve(1.2), 17)
    with pytest.raises(LutError, match="must be from 2 to 129"):
        resize(smooth_lut(), 200)


def test_another_domain():
    wide = change_domain(smooth_lut(33), ((-0.5,) * 3, (1.5,) * 3))
    inside = X * np.float32(0.9) + np.float32(0.05)
    np.testing.assert_allclose(apply_lut(wide, inside), apply_lut(smooth_lut(33), inside), atol=6e-3)
    crop = change_domain(curve(1.4), ((0.0,) * 3, (0.5,) * 3))
    np.testing.assert_allclose(apply_lut(crop, X / 2), apply_lut(curve(1.4), X / 2), atol=1e-4)
    with pytest.raises(LutError, match="must rise in every channel"):
        change_domain(curve(1.4), ((0.0,) * 3, (0.0,) * 3))


def test_the_grey_axis_as_curves():
    lut = smooth_lut(33)
    grey = np.repeat(np.linspace(0, 1, 50, dtype=np.float32)[:, None], 3, 1)
    axis = extract_grey_axis(lut)
    assert axis.kind == "1D"
    np.testing.assert_allclose(apply_lut(axis, grey), apply_lut(lut, grey), atol=2e-5)


def test_a_curve_is_inverted_exactly():
    found = invert(curve(1.8))
    # Where the curve is nearly flat, near black, its inverse is steep: seen from the outputs it is exact there too.
    bright = X[(X > 0.05).all(axis=1)]
    np.testing.assert_allclose(apply_lut(found.lut, apply_lut(curve(1.8), bright)), bright, atol=3e-5)
    assert found.largest < 1e-6
    falling = Lut(Curve1D(np.linspace(1, 0, 65, dtype=np.float32)[:, None].repeat(3, 1)))
    np.testing.assert_allclose(apply_lut(invert(falling).lut, apply_lut(falling, X)), X, atol=1e-5)
    bent = np.array([[0, 0, 0], [0.6, 0.6, 0.6], [0.4, 0.5, 0.5], [1, 1, 1]], np.float32)
    with pytest.raises(LutError, match="1D table, red: turns back at entry 2, so it has no inverse"):
        invert(Lut(Curve1D(bent)))


def test_a_lattice_is_inverted_with_a_reported_residual():
    lut = smooth_lut(17)
    found = invert(lut, 33)
    outputs = apply_lut(lut, X)
    off = np.abs(apply_lut(lut, apply_lut(found.lut, outputs)) - outputs).max(axis=1)
    assert off.mean() < 2e-3
    # The residual is that of another sample of the same LUT: of the same size, and never flattering.
    assert off.mean() < 1.5 * found.mean + 1e-4
    assert 0.5 < found.reached <= 1


def test_a_chain_as_tables():
    chain = lut_of(
        [Log("linToLog", 10.0, (LogChannel(0.25, 0.6, 1.0, 0.01),) * 3), smooth_lut(17).lattice, Exponent("basicFwd", (1.2,) * 3)]
    )
    tables = as_tables(chain)
    assert (tables.kind, tables.size) == ("1D + 3D", 17)
    np.testing.assert_allclose(apply_lut(tables, X), apply_lut(chain, X), atol=3e-3)
    alone = as_tables(lut_of([Cdl((1.1, 1, 1), power=(1.2, 1, 1))]))
    assert alone.kind == "1D"
    assert as_tables(lut_of([Cdl(saturation=0.5)])).kind == "3D"


def test_a_lut_does_the_same_in_every_format_that_holds_it_and_another_does_not():
    lut = smooth_lut(17)
    sample = take_sample(lut)
    for form in ("cube", "csp", "clf", "spi3d", "3dl", "tiles", "hald"):
        fit = write_lut(resize(lut, 16), formats()[form]) if form in ("tiles", "hald") else write_lut(lut, formats()[form])
        copy = take_sample(fit.lut)
        assert do_the_same(copy, take_sample(resize(lut, 16)) if form in ("tiles", "hald") else sample), form
        assert bucket_of(copy) in near_buckets(copy)
    assert not do_the_same(take_sample(smooth_lut(17, 1.31)), sample)


def test_copies_rewritten_with_five_decimals_do_the_same_and_are_found_by_their_buckets():
    rng = np.random.default_rng(3)
    for _ in range(51):
        lut = smooth_lut(9, float(rng.uniform(0.8, 1.6)))
        copy = Lut(lattice=Lattice(np.round(lut.lattice.table, 5)))
        assert do_the_same(take_sample(lut), take_sample(copy))
        assert bucket_of(take_sample(lut)) in near_buckets(take_sample(copy))


def test_the_inverse_through_a_shaper_and_of_colours_that_cannot_be_reached():
    bent = Curve1D(np.linspace(0, 1, 1024, dtype=np.float32)[:, None].repeat(3, 1) ** np.float32(0.45))
    lut = Lut(bent, smooth_lut(33).lattice)
    found = invert(lut, 33)
    assert found.lut.kind == "3D"
    assert found.mean < 3e-3
    narrow = Lut(lattice=Lattice((grid(17) * np.float32(0.5) + np.float32(0.25)).reshape(17, 17, 17, 3)))
    inverse = invert(narrow, 17)
    # Half of each axis is reached: (8 + 1) of 17 nodes; a colour beyond it comes from the nearest there is, which is held at the ends.
    assert inverse.reached == pytest.approx((9 / 17) ** 3)
    np.testing.assert_allclose(inverse.lut.lattice.table, np.clip((grid(17) - 0.25) * 2, 0, 1).reshape(17, 17, 17, 3), atol=1e-4)
    with pytest.raises(LutError, match="turns back"):
        invert(Lut(Curve1D(np.array([[0, 0, 0], [0.8, 0.8, 0.8], [0.4, 0.5, 0.5], [1, 1, 1]], np.float32)), smooth_lut(9).lattice))


def test_inputs_found_are_no_further_off_than_those_a_general_solver_finds():
    """Reference: SciPy's bounded least squares (trust region reflective), colour by colour."""
    least_squares = pytest.importorskip("scipy.optimize").least_squares
    lut = a_lut(9, 4)
    targets = np.random.default_rng(5).random((40, 3)).astype(np.float32)
    made = invert(lut, 33).lut

    def off(inputs: np.ndarray) -> np.ndarray:
        return np.linalg.norm(apply_lut(lut, np.ascontiguousarray(inputs, np.float32)) - targets, axis=1)

    ours = _solve(lut, targets)
    theirs = np.stack(
        [
            least_squares(lambda x, wanted=wanted: apply_lut(lut, x.astype(np.float32)[None])[0] - wanted, start, bounds=(0, 1)).x
            for wanted, start in zip(targets, apply_lut(made, targets).clip(0.001, 0.999), strict=True)
        ]
    )
    assert (off(ours) <= off(theirs) + 2e-3).all()
