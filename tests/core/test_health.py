"""Each fault is put into a healthy LUT and must be found, with its number; a healthy LUT has none."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import LutError
from saucer.core.files.guessing import guess
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.lut.health import BLACK, WHITE, Finding, examine, expects_log, roughness, unevenness
from saucer.core.lut.health_kernels import count_turned
from saucer.core.lut.repairs import repair, smooth_table
from saucer.core.lut.table import Curve1D, Lattice, Lut
from tests.make import CHANGED, a_look, evaluate, sample_look

LOOK = a_look(
    {"kind": "tone", "contrast": 1.2, "toe": 0.2, "shoulder": -0.3}, {"kind": "curves", "blue": [[0, 0.04], [0.5, 0.5], [1, 0.94]]}
)
HEALTHY = sample_look(LOOK, 33)


def finding(lut: Lut, name: str) -> Finding:
    return next(one for one in examine(lut).findings if one.id == name)


def changed(change) -> Lut:
    return Lut(lattice=Lattice(np.ascontiguousarray(change(HEALTHY.lattice.table.copy()), np.float32)))


def noisy(scale: float, seed: int = 1) -> Lut:
    return changed(lambda table: table + np.random.default_rng(seed).normal(scale=scale, size=table.shape))


def test_a_healthy_lut_has_no_findings():
    health = examine(HEALTHY)
    assert (health.level, health.summary) == ("fine", "healthy")
    assert {one.level for one in health.findings} == {"fine"}
    assert health.graphs.ramp.shape == (1024, 3)
    assert health.graphs.rough.shape == (33, 33)
    assert len(health.graphs.edge) == 9**3


@pytest.mark.parametrize("kind", ["curves", "tone", "isolate-hue", "wash"])
def test_looks_made_here_are_not_called_rough_or_banded(kind):
    levels = {one.id: one.level for one in examine(sample_look(a_look(CHANGED[kind]), 33)).findings}
    assert {levels[name] for name in ("rough", "banding", "swapped", "log", "legal")} == {"fine"}


def test_an_identity_says_that_it_changes_nothing():
    found = finding(Lut(lattice=Lattice(grid(17).reshape(17, 17, 17, 3))), "identity")
    assert (found.level, found.title) == ("notice", "Changes nothing")


@pytest.mark.parametrize("codes", [1.5, 3.0, 8.0])
def test_noise_is_measured_in_codes(codes):
    """The number is the noise's standard deviation within a third, whatever the look."""
    found = finding(noisy(codes / 1023), "rough")
    assert found.level in ("notice", "bad")
    assert found.repair == "smooth"
    assert abs(found.number - codes) < codes / 3


def test_smoothing_takes_most_of_the_noise_and_little_of_the_look():
    spoilt = noisy(4 / 1023)
    mended = repair(spoilt, "smooth")
    before = np.sqrt(np.mean((spoilt.lattice.table - HEALTHY.lattice.table) ** 2))
    after = np.sqrt(np.mean((mended.lattice.table - HEALTHY.lattice.table) ** 2))
    assert after < before / 2
    assert finding(mended, "rough").level == "fine"
    assert np.abs(smooth_table(HEALTHY.lattice.table) - HEALTHY.lattice.table).max() < 1 / 1023, "a clean LUT stays as it is"


def test_swapped_channels_are_named_and_put_back():
    swapped = changed(lambda table: table[..., [2, 0, 1]])
    found = finding(swapped, "swapped")
    assert (
        found.sentence
        == "Red comes from blue, green comes from red, blue comes from green: the axes or channels are in another order."
    )
    np.testing.assert_array_equal(repair(swapped, "unswap").lattice.table, HEALTHY.lattice.table)
    with pytest.raises(LutError, match="the channels are in order already"):
        repair(HEALTHY, "unswap")


def test_legal_range_is_seen_and_opened():
    legal = changed(lambda table: table * (WHITE - BLACK) + BLACK)
    legal = Lut(lattice=Lattice((grid(33).reshape(33, 33, 33, 3) * (WHITE - BLACK) + BLACK).astype(np.float32)))
    found = finding(legal, "legal")
    assert found.sentence == "Black becomes 64 and white 940 of 1023, as legal-range video has them."
    np.testing.assert_allclose(repair(legal, "full-range").lattice.table, grid(33).reshape(33, 33, 33, 3), atol=1e-6)


def test_grey_that_turns_back():
    ramp = np.linspace(0, 1, 256)
    bent = ramp + 0.05 * np.sin(ramp * 40)
    found = finding(Lut(Curve1D(np.repeat(bent[:, None], 3, 1).astype(np.float32))), "grey")
    assert found.level == "bad"
    assert found.number > 8


def test_a_negative_is_called_one():
    assert finding(changed(lambda table: 1 - table), "grey").title == "Negative"


@pytest.mark.parametrize(
    ("added", "lean"), [((0.1, 0, 0), "red"), ((0, 0.12, 0), "green"), ((-0.1, 0, 0), "cyan"), ((0, 0, -0.1), "yellow")]
)
def test_tint_has_its_colour_and_amount(added, lean):
    found = finding(changed(lambda table: table + np.array(added)), "tint")
    assert f"Grey leans to {lean}" in found.sentence
    assert found.number > 30


def test_folds_and_clipping_and_range():
    folded = sample_look(a_look(CHANGED["hue-bands"]), 33)
    assert finding(folded, "folds").level == "bad"
    clipped = changed(lambda table: np.clip(table * 2 - 0.5, 0, 1))
    assert finding(clipped, "clipped").level == "notice"
    assert finding(HEALTHY, "clipped").level == "fine"
    wide = changed(lambda table: table * 1.3 - 0.1)
    found = finding(wide, "range")
    assert found.level == "notice"
    assert "-0.1" in found.sentence


def test_banding_is_seen_at_its_place():
    steps = np.floor(np.linspace(0, 1, 1024) * 24) / 24
    found = finding(Lut(Curve1D(np.repeat(steps[:, None], 3, 1).astype(np.float32))), "banding")
    assert found.level == "notice"
    assert 255 / 24 * 0.8 < found.number < 255 / 24 * 1.2


def test_unusual_sizes_are_offered_a_usual_one():
    odd = sample_look(LOOK, 20)
    assert finding(odd, "size").repair == "resize"
    assert repair(odd, "resize").size == 33


def test_an_extended_range_goes_straight_on():
    wide = repair(Lut(lattice=Lattice(grid(17).reshape(17, 17, 17, 3))), "extend")
    x = np.array([[-0.08, 0.5, 1.08], [1.05, 1.05, -0.05]], np.float32)
    np.testing.assert_allclose(apply_lut(wide, x), x, atol=1e-5)
    with pytest.raises(LutError, match="already takes"):
        repair(wide, "extend")
    curve = repair(Lut(Curve1D(np.repeat(np.linspace(0, 1, 64, dtype=np.float32)[:, None], 3, 1) * 2)), "extend")
    np.testing.assert_allclose(apply_lut(curve, x), 2 * x, atol=1e-4)


LOGS = [
    name
    for name, one in ENCODINGS.items()
    if one.referred == "scene" and not one.linear and name not in ("rec709-camera", "hlg", "hlg-p3", "acescc", "f-log")
    # F-Log is so flat at its top that a soft rendering of it is not told from a strong display look.
]


@pytest.mark.parametrize("name", LOGS)
@pytest.mark.parametrize("rendering", ["plain", "soft"])
def test_luts_for_log_are_recognised(name, rendering):
    steps = [{"kind": "convert", "to": "rec709", "rendering": rendering}, {"kind": "limit", "low": 0, "high": 1}]
    assert expects_log(sample_look(a_look(*steps, input=name, output="rec709"), 33)) > 0.5


@pytest.mark.parametrize("contrast", [1.0, 1.3, 1.6, 2.0, 2.5])
def test_strong_contrast_is_not_taken_for_log(contrast):
    assert expects_log(sample_look(a_look({"kind": "tone", "contrast": contrast, "toe": -0.3}), 33)) < 0.5


@pytest.mark.parametrize(
    ("name", "title", "comments", "expected"),
    [
        ("x", "", ("Expects acescct, gives rec709",), ("acescct", "rec709", "declared")),
        ("x", "", ("Input: ACEScct", "Output: Rec.709 display"), ("acescct", "rec709", "declared")),
        ("S-Log3 to Rec709", "", (), ("s-log3", "rec709", "asked")),
        ("x", "LogC3_to_Rec2020", (), ("logc3-ei800", "rec2020", "asked")),
        ("V-Log2BT709", "", (), ("v-log", "rec709", "asked")),
        ("Warm sRGB", "", (), ("srgb", "srgb", "guessed")),
        ("Teal evening", "", (), ("srgb", "srgb", "asked")),
        ("log book of the ferry", "", (), ("srgb", "srgb", "asked")),
    ],
)
def test_encodings_are_declared_guessed_or_asked(name, title, comments, expected):
    found = guess(HEALTHY.titled(title, comments), name)
    assert (found.expects, found.gives, found.how) == expected
    assert found.reason


def test_a_log_curve_without_a_name_is_asked_about():
    steps = [{"kind": "convert", "to": "rec709", "rendering": "soft"}, {"kind": "limit", "low": 0, "high": 1}]
    found = guess(sample_look(a_look(*steps, input="logc4", output="rec709"), 33), "night 03")
    assert (found.how, found.gives) == ("asked", "rec709")
    assert "log" in found.reason


@pytest.mark.parametrize("size", [11, 17, 33])
@pytest.mark.parametrize("deviation", [2, 6])
def test_scatter_on_a_curved_look_is_told_apart_from_its_bends(size, deviation):
    """Independent errors of standard deviation s are said to be s, within a third; where there are none, none are said."""
    look = a_look(CHANGED["tone"], CHANGED["split-tone"])
    clean = evaluate(look, grid(size)).reshape(size, size, size, 3).astype(np.float64)
    scattered = clean + np.random.default_rng(5).normal(scale=deviation / 1023, size=clean.shape)
    assert roughness(clean.astype(np.float32)) < 0.75
    if size >= 17 and deviation > 2:
        assert roughness(scattered.astype(np.float32)) == pytest.approx(deviation, rel=0.35)


def test_a_lut_whose_encoding_is_known_is_not_told_to_say_it():
    lut = sample_look(
        a_look({"kind": "convert", "to": "rec709"}, {"kind": "limit", "low": 0, "high": 1}, input="film-log", output="rec709"), 33
    )
    asked, told = (next(one for one in examine(lut, is_told).findings if one.id == "log") for is_told in (False, True))
    assert (asked.level, asked.advice) == ("notice", "Say which log encoding it expects.")
    assert (told.level, told.advice) == ("fine", "")


def test_the_compiled_measures_are_the_plain_ones():
    """Fourth differences and determinants written out with NumPy."""
    table = (grid(13).reshape(13, 13, 13, 3) + np.random.default_rng(2).normal(scale=0.03, size=(13, 13, 13, 3))).astype(np.float32)
    total, count = np.zeros(table.shape), np.zeros(table.shape[:3])
    for axis in range(3):
        moved = np.moveaxis(table.astype(np.float64), axis, 0)
        np.moveaxis(total, axis, 0)[2:-2] += np.diff(moved, n=4, axis=0) ** 2 / 70
        np.moveaxis(count, axis, 0)[2:-2] += 1
    np.testing.assert_allclose(unevenness(table), np.sqrt(total / np.maximum(count, 1)[..., None]), atol=1e-6)
    inner = table[:-1, :-1, :-1]
    edges = np.stack([table[1:, :-1, :-1] - inner, table[:-1, 1:, :-1] - inner, table[:-1, :-1, 1:] - inner], axis=-1)
    volume, seen = np.linalg.det(edges.astype(np.float64)) * 12**3, ((inner >= 0) & (inner <= 1)).all(axis=-1)
    counts = np.zeros(3, np.int64)
    count_turned(table, 0, 13, 0.02, counts)
    assert counts.tolist() == [seen.sum(), ((volume < -0.02) & seen).sum(), ((volume > 0.02) & seen).sum()]
    assert 0 < counts[1] < counts[2]
