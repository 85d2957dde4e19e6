"""The compiled steps against the same formulas in plain NumPy with float64, setting by setting: what float32 costs."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, Phase, assume, given, reject, settings
from hypothesis import strategies as st

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import SaucerError
from saucer.core.numeric.planes import through
from saucer.core.steps.kinds import pixel_kinds, spatial_kinds
from saucer.core.steps.pixel.levels import Levels
from saucer.core.steps.registry import Frame, Junction
from tests import numpy_steps
from tests.make import CHANGED, CHANGED_SPATIAL, LUTS, any_step
from tests.numpy_spatial import SPATIAL

X = np.random.default_rng(3).random((4096, 3), dtype=np.float32)
DOCS = Path(__file__).parents[2] / "docs"
STATED = json.loads((DOCS / "accuracy.json").read_text())
of_every_kind = pytest.mark.parametrize("kind", sorted(pixel_kinds()))


# Codes from black to four times white, which is what pictures hold.
RANGE = {"srgb": (0.0, 1.0), "acescct": (0.0729055341958355, (2 + 9.72) / 17.52)}


def difference(kind: str, setting: dict, encoding: str) -> float:
    """The largest difference, in code values, of the compiled step from float64 on 4,096 random colours, or a picture of them."""
    if kind in SPATIAL:
        return spatial_difference(kind, setting, encoding)
    step = pixel_kinds()[kind].parameters.model_validate(setting)
    junction = Junction(ENCODINGS[encoding], luts=LUTS)
    low, high = RANGE[encoding]
    x = (low + (high - low) * X).astype(np.float32)
    ours = through(pixel_kinds()[kind].prepare(step, junction), x)
    exact, _ = numpy_steps.one(step, x.astype(np.float64), ENCODINGS[encoding], LUTS)
    return float(np.abs(ours - exact).max())


def spatial_difference(kind: str, setting: dict, encoding: str) -> float:
    low, high = RANGE[encoding]
    x = (low + (high - low) * X.reshape(64, 64, 3)).astype(np.float32)
    step, known = spatial_kinds()[kind].parameters.model_validate(setting), ENCODINGS[encoding]
    ours = spatial_kinds()[kind].evaluate(step, x.copy(), known, Frame(64, 64))
    return float(np.abs(ours - SPATIAL[kind](step, x.astype(np.float64), known)).max())


@pytest.mark.parametrize("kind", [*sorted(pixel_kinds()), *SPATIAL])
def test_the_accuracy_that_is_stated_in_the_documentation(kind):
    """docs/accuracy.json, measured at the setting of tests/make.py in sRGB and in ACEScct; and it is not stated too large either."""
    for encoding in ("srgb", "acescct"):
        measured = difference(kind, (CHANGED | CHANGED_SPATIAL)[kind], encoding)
        assert measured <= STATED[kind][encoding] <= max(4 * measured, 1e-6), f"{kind} in {encoding}: {measured:.1e}"


@of_every_kind
@settings(max_examples=15, phases=[Phase.generate], suppress_health_check=[HealthCheck.filter_too_much])
@given(data=st.data())
def test_any_setting_is_the_plain_formula(kind, data):
    step = data.draw(any_step(kind))
    if kind == "convert":
        step = step.model_copy(update={"rendering": "plain", "gamut": "keep"})
    if kind == "lut":
        step = step.model_copy(update={"interpolation": "tetrahedral"})
    name = data.draw(st.sampled_from(["srgb", "film-log", "acescct", "linear-709"]))
    junction = Junction(ENCODINGS[name], luts=LUTS)
    x = X[:200]
    try:
        ours = through(pixel_kinds()[kind].prepare(step, junction), x)
    except SaucerError:
        reject()  # refused with words of their own tests
    exact, end = numpy_steps.one(step, x.astype(np.float64), ENCODINGS[name], LUTS)
    # A setting can be steep: what one rounding of a value of the input's size, or of size 1 as offsets are, does to the exact result is
    # allowed, eight times over; so is what the plain formula itself misses by in float32, as where a power ends at the foot of another.
    rounding = np.spacing(np.maximum(np.abs(x), np.float32(1)))
    moved, _ = numpy_steps.one(step, x.astype(np.float64) + rounding, ENCODINGS[name], LUTS)
    plain, _ = numpy_steps.one(step, x, ENCODINGS[name], LUTS)
    steep = np.maximum(np.abs(moved - exact), np.abs(plain - exact)).max(axis=1, keepdims=True)
    allowed = 8 * steep + 2e-6 * np.abs(exact).max(axis=1, keepdims=True) + 4e-5
    # Light of one channel beside far more of another is known to that one's rounding only: held against the brightest channel.
    transfer = ENCODINGS[end.id].transfer
    light, ours_light = transfer.decode(exact), transfer.decode(ours.astype(np.float64))
    brightest = np.maximum(np.abs(light), np.abs(transfer.decode(x.astype(np.float64)))).max(axis=1, keepdims=True)
    good = (np.abs(ours - exact) <= allowed) | (np.abs(ours_light - light) <= 5e-6 * brightest)
    # A power near its zero, or far out in a steep setting, magnifies a rounding without bound: a few samples may lie there.
    assert good.mean() >= 0.97
    assert np.median(np.abs(ours - exact)) <= 2e-6 * max(1.0, float(np.abs(exact).max()))


def test_a_power_that_ends_at_the_foot_of_another_is_the_plain_formula():
    """Rounding the inner one's -1 + 1e-10 to -1 decides what the outer one makes of it; in float32 nobody can tell them apart."""
    bent = {
        "master": {"input_black": -1, "input_white": 2, "gamma": 8.34},
        "blue": {"input_white": 2, "gamma": 0.1, "output_black": -1},
    }
    step = Levels.model_validate(bent)
    ours = through(pixel_kinds()["levels"].prepare(step, Junction(ENCODINGS["srgb"], luts=LUTS)), X[:200])
    plain, _ = numpy_steps.one(step, X[:200], ENCODINGS["srgb"], LUTS)
    assert plain.dtype == np.float32
    np.testing.assert_allclose(ours, plain, atol=2e-5)


@pytest.mark.parametrize("kind", SPATIAL)
@settings(max_examples=10, phases=[Phase.generate], suppress_health_check=[HealthCheck.filter_too_much])
@given(data=st.data())
def test_any_spatial_setting_is_the_plain_formula(kind, data):
    step = data.draw(any_step(kind))
    # Both places the same are an edge, and where it falls between two pixels is a matter of rounding.
    assume(kind != "graduated-wash" or np.hypot(*np.subtract(step.start, step.end)) >= 0.05)
    x = X[:1536].reshape(32, 48, 3)
    ours = spatial_kinds()[kind].evaluate(step, x.copy(), ENCODINGS["srgb"], Frame(48, 32))
    exact = SPATIAL[kind](step, x.astype(np.float64), ENCODINGS["srgb"])
    np.testing.assert_allclose(ours, exact, atol=3e-5, rtol=2e-5)


def test_the_table_in_the_documentation_is_the_one_that_is_checked():
    page = (DOCS / "colour.md").read_text()
    for kind, stated in STATED.items():
        figures = [f"{stated[encoding]:.0e}".replace("e-0", "e-") for encoding in ("srgb", "acescct")]
        assert f"| `{kind}` | {figures[0]} | {figures[1]} |" in page


@pytest.mark.parametrize("name", ["acescc", "acescct", "logc3-ei800", "s-log3", "v-log", "log3g10", "film-log"])
def test_what_hardly_remains_of_a_mix_of_light_is_exact_in_logarithmic_encodings(name):
    """Channels that take each other away: the red of some colours is a thousandth of what it is made of, or nothing."""
    encoding = ENCODINGS[name]
    random = np.random.default_rng(12)
    green = random.uniform(0.4, 0.7, 4000)
    light = encoding.transfer.decode(green)
    red = encoding.transfer.encode(light * 0.8 / 1.8 * (1 + random.choice([0, 1e-4, -1e-4, 1e-3, 0.02], 4000)))
    x = np.stack([red, green, random.uniform(0.3, 0.7, 4000)], axis=1).astype(np.float32)
    step = pixel_kinds()["channel-mix"].parameters.model_validate({"red": [1.8, -0.8, 0], "light": "linear"})
    ours = through(pixel_kinds()["channel-mix"].prepare(step, Junction(encoding, luts=LUTS)), x)
    exact, _ = numpy_steps.one(step, x.astype(np.float64), encoding, LUTS)
    np.testing.assert_allclose(ours, exact, atol=1e-5)
