"""LUTs that other libraries make, taken apart: OpenColorIO's grading transforms and a film print in densities by colour-science's curves.

The model of steps does not contain any of them. Wanted, and measured here: a mean CIEDE2000 under 0.3 and under 0.8 for the worst twentieth.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest

from saucer.core.colour.conversion import convert, to_linear_709
from saucer.core.colour.difference import ciede2000, linear_709_to_lab
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.lut.domain import grid, spread_over
from saucer.core.lut.table import Lattice, Lut
from saucer.core.making.apart.apart import take_apart

ocio = pytest.importorskip("PyOpenColorIO", reason="development requirements are not installed")
colour = pytest.importorskip("colour", reason="development requirements are not installed")
SRGB, LOG = ENCODINGS["srgb"], ENCODINGS["s-log3"]
Made = Callable[[np.ndarray], np.ndarray]


def by_ocio(*transforms: object) -> Made:
    processor = ocio.Config.CreateRaw().getProcessor(ocio.GroupTransform(list(transforms))).getDefaultCPUProcessor()

    def made(values: np.ndarray) -> np.ndarray:
        done = np.array(values, np.float32, order="C")
        processor.applyRGB(done)
        return done

    return made


def contrast_and_tint() -> Made:
    """OpenColorIO's grading for video, with less saturation."""
    graded = ocio.GradingPrimary(ocio.GRADING_VIDEO)
    graded.lift, graded.gamma = ocio.GradingRGBM(0.02, 0, 0.03, 0), ocio.GradingRGBM(1.05, 1, 0.95, 1.05)
    graded.gain, graded.saturation = ocio.GradingRGBM(1.03, 1, 0.92, 1), 0.8
    return by_ocio(ocio.GradingPrimaryTransform(graded, ocio.GRADING_VIDEO, False))


def faded() -> Made:
    range_of = ocio.RangeTransform(0.0, 1.0, 0.11, 0.93)
    return by_ocio(range_of, ocio.CDLTransform(slope=[1, 1, 0.97], offset=[0.01, 0, 0.015], power=[1, 1, 1], sat=0.7))


def cross_process() -> Made:
    """Red and green steeper in their middle, blue flatter: a curve of its own for each channel (OpenColorIO's B-splines)."""
    bend = (
        [(0, 0), (0.25, 0.17), (0.75, 0.84), (1, 1)],
        [(0, 0), (0.3, 0.25), (0.7, 0.76), (1, 1)],
        [(0, 0.1), (0.5, 0.48), (1, 0.8)],
    )
    red, green, blue = (ocio.GradingBSplineCurve([part for point in points for part in point]) for points in bend)
    curves = ocio.GradingRGBCurve(ocio.GRADING_VIDEO)
    curves.red, curves.green, curves.blue = red, green, blue
    return by_ocio(ocio.GradingRGBCurveTransform(curves, ocio.GRADING_VIDEO, False), ocio.CDLTransform(sat=1.12))


def print_like() -> Made:
    """Dyes that take from each other's light, a film's curve in density, dyes again; sRGB by colour-science (IEC 61966-2-1)."""
    take = np.array([[0.93, 0.05, 0.02], [0.04, 0.91, 0.05], [0.02, 0.07, 0.91]])
    give = np.array([[1.1, -0.06, -0.04], [-0.05, 1.12, -0.07], [-0.03, -0.09, 1.12]])

    def made(values: np.ndarray) -> np.ndarray:
        light = np.clip(colour.models.eotf_sRGB(np.asarray(values, np.float64)) @ take.T, 1e-4, 1)
        density = 1 / (1 + np.exp(-np.array([2.6, 2.5, 2.4]) * (1.1 + np.log10(light))))
        return np.asarray(colour.models.eotf_inverse_sRGB(np.clip(density / density.max() @ give.T, 0, 1)))

    return made


def graded_in_log() -> Made:
    """OpenColorIO's grading for log: brightness, contrast about its grey, less saturation."""
    graded = ocio.GradingPrimary(ocio.GRADING_LOG)
    graded.brightness, graded.contrast = ocio.GradingRGBM(0.02, 0, -0.02, 0.03), ocio.GradingRGBM(1.05, 1, 0.95, 1.15)
    graded.saturation = 0.85
    return by_ocio(ocio.GradingPrimaryTransform(graded, ocio.GRADING_LOG, False))


def corrected_in_log() -> Made:
    return by_ocio(ocio.CDLTransform(slope=[1.1, 1, 0.93], offset=[-0.01, 0, 0.02], power=[1.05, 1, 0.97], sat=0.85))


def print_fed_with_log() -> Made:
    after = print_like()
    return lambda values: after(np.clip(convert(np.asarray(values, np.float32), LOG, SRGB, "soft"), 0, 1))


def lut_of(made: Made, size: int) -> Lut:
    table = np.clip(made(grid(size)), 0, 1).astype(np.float32)
    return Lut(lattice=Lattice(table.reshape((size,) * 3 + (3,))))


@pytest.mark.parametrize("make", [contrast_and_tint, faded, cross_process, print_like], ids=lambda make: make.__name__)
def test_what_others_make_is_explained_by_a_few_steps(make):
    apart = take_apart(lut_of(make(), 33), SRGB, SRGB, simple=0.1)
    assert apart.untouched.mean > 2
    assert apart.explained.mean < 0.3
    assert apart.explained.p95 < 0.8
    assert apart.whole.mean < 0.1
    assert len(apart.steps) <= 5


@pytest.mark.parametrize("log", ["acescct", "s-log3"])
@pytest.mark.parametrize("make", [graded_in_log, corrected_in_log], ids=lambda make: make.__name__)
def test_what_others_grade_in_log_is_explained_as_it_is_seen(make, log):
    """From log to log: measured on colours that a display shows, through the view."""
    apart = take_apart(lut_of(make(), 33), ENCODINGS[log], ENCODINGS[log], simple=0.1)
    assert apart.untouched.mean > 2
    assert apart.explained.mean < 0.3
    assert apart.explained.p95 < 0.8
    assert apart.whole.mean < 0.1
    assert len(apart.steps) <= 3


def test_a_print_fed_with_log_too():
    """A LUT of 65 over log codes is itself off from the print, 0.23 on average and 0.86 for the worst twentieth: the steps come closer to the print."""
    apart = take_apart(lut_of(print_fed_with_log(), 65), LOG, SRGB, simple=0)
    assert apart.explained.mean < 0.3
    colours = spread_over(count=4000)
    steps = look_from(
        {"steps": [{"kind": step.kind} | step.model_dump(mode="json", exclude_defaults=True) for step in apart.steps]}
    )
    made, exact = np.clip(evaluate(prepare(steps), colours), 0, 1), np.clip(print_like()(colours), 0, 1)
    off = ciede2000(*(linear_709_to_lab(to_linear_709(one.astype(np.float64), SRGB)) for one in (made, exact)))
    assert off.mean() < 0.3
    assert np.percentile(off, 95) < 0.8
