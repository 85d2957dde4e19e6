"""What must hold for every setting of a step, beyond the common battery."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, reject, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from saucer.core.colour.conversion import conversion, convert, to_linear_709
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.colour.working import in_oklab, in_turn
from saucer.core.errors import LookError
from saucer.core.look.model import look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid
from saucer.core.numeric.planes import through
from saucer.core.steps.kinds import pixel_kinds
from saucer.core.steps.pixel import channel_mix, hue_bands, isolate_hue, limit, split_tone, tone, white_balance
from saucer.core.steps.registry import Junction
from tests.make import CHANGED, LUTS, a_look, any_step, evaluate, sample_look

SRGB = ENCODINGS["srgb"]
greys = arrays(np.float32, 9, elements=st.floats(-1, 16, width=32))


def run(step, x: np.ndarray, encoding: str = "srgb") -> np.ndarray:
    return through(pixel_kinds()[step.kind].prepare(step, Junction(ENCODINGS[encoding], luts=LUTS)), x)


def as_pixels(grey: np.ndarray) -> np.ndarray:
    return np.ascontiguousarray(np.repeat(grey[:, None], 3, axis=1), np.float32)


@given(step=any_step("tone"), name=st.sampled_from(["srgb", "linear-709", "film-log", "acescct", "pq", "rec2020"]))
def test_tone_rises_for_every_setting(step, name):
    x = np.linspace(-1, 3, 4001, dtype=np.float32)
    y = run(step, as_pixels(x), name)[:, 0].astype(np.float64)
    assert (np.diff(y) >= -4e-7 * np.maximum(np.abs(y[1:]), 1)).all()


@given(step=any_step("tone"))
def test_tone_has_no_corner(step):
    """C1: from one short step to the next the slope changes little, wherever the pieces meet; exposure aside, whose curve is sRGB's."""
    step = step.model_copy(update={"contrast_on": "code"})  # a power below 1 is endlessly steep at black
    step = step.model_copy(update={"exposure": 0.0})
    pivot = float(SRGB.transfer.encode(np.array(step.pivot)))
    pivot = min(max(pivot, 0.02), 0.98)
    h = 0.005 * min(pivot, 1 - pivot)
    for meeting in (0.0, pivot, 1.0):
        x = np.array([meeting - h, meeting, meeting + h], np.float32)
        y = run(step, as_pixels(x))[:, 0].astype(np.float64)
        slopes = np.diff(y) / np.diff(x.astype(np.float64))
        assert abs(slopes[1] - slopes[0]) <= 0.2 * np.abs(slopes).max() + 1e-6 / h


def test_the_pivot_keeps_its_place_and_contrast_is_undone_by_its_inverse():
    x = as_pixels(np.linspace(-0.5, 1.5, 200, dtype=np.float32))
    for contrast in (0.3, 1.7, 4.0):
        there = run(tone.Tone(contrast=contrast), x)
        np.testing.assert_allclose(run(tone.Tone(contrast=1 / contrast), there), x, atol=5e-6)
        grey = as_pixels(np.float32([SRGB.transfer.encode(np.array(0.18))]))
        np.testing.assert_allclose(run(tone.Tone(contrast=contrast), grey), grey, atol=1e-6)


def test_exposure_is_stops_of_light():
    x = np.float32([[0.2, 0.4, 0.6]])
    light = convert(run(tone.Tone(exposure=1.0), x), SRGB, ENCODINGS["linear-709"])
    np.testing.assert_allclose(light, 2 * convert(x, SRGB, ENCODINGS["linear-709"]), rtol=1e-5)


@given(step=any_step("hue-bands"), hues=arrays(np.float64, 20, elements=st.floats(0, 360)))
def test_the_weights_of_hue_bands_are_a_partition(step, hues):
    weights = hue_bands.weights(step, hues)
    np.testing.assert_allclose(weights.sum(axis=0), 1, atol=1e-12)
    assert (weights >= -1e-12).all()
    own = hue_bands.weights(step, np.array([band.centre for band in step.bands]))
    np.testing.assert_allclose(own, np.eye(8), atol=1e-9)


@given(step=any_step("split-tone"), lightness=arrays(np.float64, 20, elements=st.floats(-0.5, 2)))
def test_the_weights_of_a_split_tone_are_a_partition(step, lightness):
    weights = split_tone.weights(step, lightness)
    np.testing.assert_allclose(weights.sum(axis=0), 1, atol=1e-12)
    assert (weights >= -1e-12).all()


@pytest.mark.parametrize("kind", ["hue-bands", "isolate-hue", "saturation", "colour-curves"])
@given(data=st.data(), grey=greys)
def test_neutrals_never_move(kind, data, grey):
    step = data.draw(any_step(kind))
    name = data.draw(st.sampled_from(sorted(ENCODINGS)))
    x = as_pixels(grey)
    assert np.array_equal(run(step, x, name), x)


@given(warm=st.floats(-150, 150), tint=st.floats(-0.05, 0.05), cones=st.sampled_from(["cat16", "bradford"]))
@settings(max_examples=40)
def test_a_white_balance_and_its_opposite_undo_each_other(warm, tint, cones):
    light = np.random.default_rng(2).uniform(0.01, 2, (200, 3)).astype(np.float32)
    there = run(white_balance.WhiteBalance(warm=warm, tint=tint, cones=cones), light, "linear-709")
    back = run(white_balance.WhiteBalance(warm=-warm, tint=-tint, cones=cones), there, "linear-709")
    np.testing.assert_allclose(back, light, rtol=2e-5, atol=2e-5)


@given(warm=st.floats(-140, 140), tint=st.floats(-0.03, 0.03), cones=st.sampled_from(["cat16", "bradford"]))
@settings(max_examples=25)
def test_a_picked_neutral_undoes_a_white_balance_and_grey_keeps_its_luminance_nearly(warm, tint, cones):
    encoding, grey = ENCODINGS["linear-709"], np.float32([[0.18, 0.18, 0.18]])
    moved = run(white_balance.WhiteBalance(warm=warm, tint=tint, cones=cones), grey, "linear-709")
    rel = 0.02 if abs(warm) <= 60 and abs(tint) <= 0.02 else 0.12
    assert float(moved[0] @ encoding.luma) == pytest.approx(0.18, rel=rel)
    try:
        back = white_balance.from_neutral(tuple(moved[0].astype(float)), encoding, cones)
    except LookError:
        reject()  # outside the colours of the encoding, see the test of the words
    assert back == pytest.approx((-warm, -tint), abs=0.05)


def test_warmer_is_redder_and_green_tint_greener():
    grey = np.float32([[0.5, 0.5, 0.5]])
    red, _, blue = run(white_balance.WhiteBalance(warm=60), grey)[0]
    assert red > 0.5 > blue
    assert run(white_balance.WhiteBalance(tint=0.02), grey)[0, 1] > 0.5


@pytest.mark.parametrize(
    ("code", "words"), [((0, 0, 0), "too dark"), ((1.0, 0.0, 0.0), "too colourful|more than the step reaches|pick")]
)
def test_what_cannot_be_a_neutral_is_refused_with_what_to_pick(code, words):
    with pytest.raises(LookError, match=words):
        white_balance.from_neutral(code, SRGB)


@pytest.mark.parametrize("kind", [kind for kind in CHANGED if kind != "convert"])
def test_the_lattice_at_its_nodes_is_the_exact_step(kind):
    look = a_look(CHANGED[kind])
    np.testing.assert_allclose(apply_lut(sample_look(look, 9, luts=LUTS), grid(9)), evaluate(look, grid(9), luts=LUTS), atol=2e-6)


def test_grouping_at_full_strength_changes_nothing_for_every_kind_in_turn():
    x = np.random.default_rng(2).random((300, 3), dtype=np.float32)
    steps = [CHANGED[kind] for kind in CHANGED if kind != "convert"]
    plain = evaluate(a_look(*steps), x, luts=LUTS)
    grouped = a_look(*steps[:3], {"kind": "group", "steps": [*steps[3:7], {"kind": "group", "steps": steps[7:9]}]}, *steps[9:])
    assert np.array_equal(evaluate(grouped, x, luts=LUTS), plain)


def test_keep_neutral_keeps_grey_and_monochrome_has_one_channel():
    x = np.random.default_rng(3).random((50, 3), dtype=np.float32)
    grey = as_pixels(x[:, 0])
    mixed = channel_mix.ChannelMix(red=(0.5, 1, 0.2), keep_neutral=True)
    np.testing.assert_allclose(run(mixed, grey), grey, atol=1e-6)
    mono = run(channel_mix.ChannelMix(monochrome=True, grey=(0.3, 0.5, 0.1)), x)
    np.testing.assert_allclose(mono, (x @ np.float32([0.3, 0.5, 0.1]))[:, None].repeat(3, 1), atol=1e-6)


def test_muted_colours_spare_skin_and_saturated_ones():
    """Common practice, no source, for where skin lies: on the skin line of a vectorscope."""
    step = pixel_kinds()["saturation"].parameters.model_validate({"kind": "saturation", "muted": 1})
    colours = np.float32([[0.55, 0.5, 0.5], [0.62, 0.5, 0.44], [0.44, 0.5, 0.62], [0.95, 0.05, 0.1]])
    grown = (run(step, colours).max(1) - run(step, colours).min(1)) / (colours.max(1) - colours.min(1))
    pale, skin, sky, vivid = grown
    assert sky > 1.3 * skin
    assert pale > vivid
    assert vivid == pytest.approx(1, abs=0.02)


def test_isolate_keeps_its_hue_and_greys_the_rest():
    lab = np.float32([[0.6, 0.1 * np.cos(np.radians(h)), 0.1 * np.sin(np.radians(h))] for h in (30, 60, 210)])
    step = isolate_hue.IsolateHue(centre=30, width=40, softness=20, others=0.0)
    reached = {}

    def keep(planes: np.ndarray) -> None:
        reached["lab"] = planes.copy()

    x = convert_from_oklab(lab)
    through(in_oklab(SRGB, keep), run(step, x))
    chroma = np.hypot(*reached["lab"][1:])
    assert chroma[0] == pytest.approx(0.1, abs=1e-3)
    assert chroma[1] < 0.051
    assert chroma[2] < 1e-3


def convert_from_oklab(lab: np.ndarray) -> np.ndarray:
    from saucer.core.colour.oklab import oklab_to_linear

    return convert(oklab_to_linear(lab.astype(np.float64)), ENCODINGS["linear-709"], SRGB).astype(np.float32)


@given(step=any_step("limit"), x=arrays(np.float32, (9, 3), elements=st.floats(-4, 4, width=32)))
def test_limit_holds_to_its_range_and_keeps_the_order(step, x):
    result = run(step, x)
    slack = 2e-6 * 16
    if step.low is not None:
        assert (result >= step.low - slack).all()
    if step.high is not None:
        assert (result <= step.high + slack).all()
    grey = np.sort(x[:, 0])
    assert (np.diff(run(step, as_pixels(grey))[:, 0]) >= -slack).all()


def test_limit_keeping_hue_keeps_where_the_middle_channel_stands():
    x = np.float32([[1.4, 0.8, 0.2], [0.5, 0.4, 0.3]])
    result = run(limit.Limit(low=0.0, high=1.0, keep="hue"), x)
    np.testing.assert_allclose(result[0], [1.0, 0.6, 0.2], atol=1e-6)
    assert np.array_equal(result[1], x[1])


def test_a_conversion_is_refused_a_strength_and_soft_rendering_keeps_the_highlights():
    with pytest.raises(LookError, match=r"steps\[0\]\.strength: a conversion has no strength"):
        look_from({"steps": [{"kind": "convert", "to": "pq", "strength": 0.5}]})
    light = as_pixels(np.float32([-0.1, 0, 0.18, 1, 2, 4, 8]))
    linear, srgb = ENCODINGS["linear-709"], SRGB
    soft = through(conversion(linear, srgb, "soft", 4.0), light)
    shown = convert(soft, srgb, linear)[:, 0]
    assert shown[5] == pytest.approx(1, abs=1e-5)
    assert (np.diff(shown) > 0).all()
    # Reinhard et al. 2002, eq. 4, for luminance 2 and white 4: 2 (1 + 2 / 16) / (1 + 2).
    assert shown[4] == pytest.approx(2 * (1 + 2 / 16) / 3, abs=1e-5)
    np.testing.assert_allclose(through(conversion(srgb, linear, "soft", 4.0), soft), light, rtol=2e-4, atol=1e-5)


@pytest.mark.parametrize(
    ("source", "target"), [("linear-2020", "srgb"), ("acescg", "linear-709"), ("s-log3", "rec709"), ("pq", "display-p3")]
)
def test_colours_outside_are_clipped_or_drawn_in_along_their_hue(source, target):
    """OKLab hue within a tenth of a degree (it was up to 18.9 when they were drawn in in linear light), lightness too; inside, nothing moves."""
    before, after = ENCODINGS[source], ENCODINGS[target]
    colours = convert(np.random.default_rng(3).random((20_000, 3)), ENCODINGS["linear-2020"], before).astype(np.float32)
    kept, clipped, drawn = (
        through(conversion(before, after, "plain", 4.0, gamut), colours) for gamut in ("keep", "clip", "compress")
    )
    top = 1 if after.bounded else np.inf
    light = after.transfer.decode(kept.astype(np.float64))
    outside = ((light < -1e-6) | (light > top + 1e-6)).any(axis=1)
    assert 0.05 < outside.mean() < 0.9
    inside = ((light > 1e-6) & (light < top - 1e-6)).all(axis=1)
    assert (drawn[inside] == kept[inside]).all()
    shown = after.transfer.decode(drawn.astype(np.float64))
    assert shown.min() > -2e-6
    assert shown.max() < top + 2e-6
    np.testing.assert_allclose(after.transfer.decode(clipped.astype(np.float64)), np.clip(light, 0, top), atol=2e-6)
    meant, got = (linear_to_oklab(to_linear_709(one.astype(np.float64), after)) for one in (kept[outside], drawn[outside]))
    np.testing.assert_allclose(got[:, 0], meant[:, 0], atol=2e-4)
    coloured = np.hypot(got[:, 1], got[:, 2]) > 0.02
    turned = np.degrees(np.angle(np.exp(1j * (np.arctan2(got[:, 2], got[:, 1]) - np.arctan2(meant[:, 2], meant[:, 1])))))
    assert coloured.mean() > 0.5
    assert np.abs(turned[coloured]).max() < 0.1
    assert (np.hypot(got[:, 1], got[:, 2]) <= np.hypot(meant[:, 1], meant[:, 2]) + 1e-5).all()


def test_monochrome_takes_the_weights_of_the_primaries():
    """BT.2020-2, table 4: 0.2627, 0.6780, 0.0593. Weights that were given stay."""
    red = np.float32([[1, 0, 0]])
    for name, wanted in (("srgb", 0.2126), ("rec2020", 0.2627)):
        look = look_from({"input": name, "output": name, "steps": [{"kind": "channel-mix", "monochrome": True}]})
        np.testing.assert_allclose(evaluate(look, red), wanted, atol=1e-4)
    given_weights = {"kind": "channel-mix", "monochrome": True, "grey": [0.5, 0.5, 0]}
    np.testing.assert_allclose(evaluate(look_from({"input": "rec2020", "output": "rec2020", "steps": [given_weights]}), red), 0.5)


@pytest.mark.parametrize("power", [0.05, 1, 8])
def test_a_cdl_at_its_extremes_gives_numbers(power):
    """What it lifts beyond the largest half float is held there."""
    step = {"kind": "cdl", "slope": [16] * 3, "offset": [4] * 3, "power": [power] * 3, "saturation": 4}
    values = np.float32([[65504, 65504, 65504], [30000, 1e-6, -270], [-65504, 0, 65504], [0, 0, 0]])
    assert np.isfinite(evaluate(look_from({"input": "acescg", "output": "acescg", "steps": [step]}), values)).all()


def test_a_print_lut_fed_through_its_film_log_conversion_is_softer_than_fed_display_codes():
    """Common practice, no source: less contrast, less saturation."""
    from saucer.core.lut.table import Lattice, Lut

    film = grid(17)
    curve = 1 / (1 + np.exp(-14 * (film - 0.45)))  # a print's S over film log codes, stronger in colour than in grey
    grey = curve.mean(axis=1, keepdims=True)
    print_lut = Lut(lattice=Lattice((grey + 1.2 * (curve - grey)).astype(np.float32).reshape(17, 17, 17, 3)))
    x = np.random.default_rng(6).random((400, 3), dtype=np.float32)
    step = {"kind": "lut", "sha256": "ab" * 32}
    through_log = evaluate(a_look(step | {"expects": "film-log", "gives": "srgb"}), x, luts=lambda sha256: print_lut)
    as_display = evaluate(a_look(step), x, luts=lambda sha256: print_lut)

    def contrast(y: np.ndarray) -> float:
        return float(y.mean(axis=1).std())

    def colourful(y: np.ndarray) -> float:
        return float((y.max(axis=1) - y.min(axis=1)).mean())

    assert contrast(through_log) < 0.9 * contrast(as_display)
    assert colourful(through_log) < 0.9 * colourful(as_display)


@pytest.mark.parametrize(
    ("step", "words"),
    [
        (
            {"kind": "levels", "red": {"input_black": 0.5, "input_white": 0.4}},
            "steps[0].red.input_white: must be above input_black (0.5)",
        ),
        ({"kind": "levels", "red": {"gama": 1}}, "steps[0].red.gama: unknown field"),
        (
            {"kind": "channel-mix", "keep_neutral": True, "red": [1, -1, 0]},
            "steps[0].red: sums to 0, which keep_neutral cannot scale",
        ),
        ({"kind": "tone", "exposure": 9}, "steps[0].exposure: must be at most 8, got 9"),
        ({"kind": "limit", "low": 1, "high": 0.5}, "steps[0].high: must be above low (1) by at least 0.01, got 0.5"),
        (
            {"kind": "hue-bands", "bands": [{"centre": c} for c in (0, 1, 90, 135, 180, 225, 270, 315)]},
            "steps[0].bands[1].centre: must be at least 5",
        ),
        ({"kind": "convert", "to": "log-c"}, 'steps[0].to: unknown encoding "log-c"; use one of srgb,'),
        ({"kind": "lut", "sha256": "ab" * 32, "file": "x.cube"}, "steps[0].file: name the LUT by sha256 or by file, not both"),
        ({"kind": "wash", "mode": "colour"}, "steps[0].mode: "),
        (
            {"kind": "group", "steps": [{"kind": "cdl", "slope": [1, -1, 1]}]},
            "steps[0].steps[0].slope[1]: must be at least 0, got -1",
        ),
    ],
)
def test_wrong_parameters_say_where_what_and_what_to_do(step, words):
    with pytest.raises(LookError) as refusal:
        look_from({"steps": [step]}, "a.json")
    assert str(refusal.value).startswith(f"a.json: {words}")


def test_cooler_than_the_locus_goes_is_refused_by_name():
    own = {
        "id": "blue-white", "name": "Blue white", "white": [0.26, 0.26], "red": [0.64, 0.33], "green": [0.3, 0.6], "blue": [0.15, 0.06],
        "log": {"lin_side_break": 0.01},
    }  # fmt: skip
    look = look_from(
        {"input": "blue-white", "output": "blue-white", "encodings": [own], "steps": [{"kind": "white-balance", "warm": -150}]}
    )
    with pytest.raises(LookError, match=r"steps\[0\], (warm: cannot be beyond|white balance: )"):
        evaluate(look, np.zeros((1, 3), np.float32))


@pytest.mark.parametrize("encoding", ["linear-709", "acescct", "pq"])
def test_contrast_on_light_is_a_slope_in_stops_about_its_pivot(encoding):
    """Two stops over the pivot become 2 c stops, far beyond white too; the pivot stays; the reciprocal undoes it."""
    stops = np.array([-6, -2, 0, 2, 6], np.float64)
    codes = ENCODINGS[encoding].transfer.encode(np.repeat(0.18 * 2 ** stops[:, None], 3, axis=1)).astype(np.float32)
    step = {"kind": "tone", "contrast": 1.25, "contrast_on": "light"}
    look = look_from({"input": encoding, "output": encoding, "steps": [step]})
    done = ENCODINGS[encoding].transfer.decode(evaluate(look, codes).astype(np.float64))[:, 1]
    np.testing.assert_allclose(np.log2(done / 0.18), 1.25 * stops, atol=2e-3)
    back = look_from({"input": encoding, "output": encoding, "steps": [step, step | {"contrast": 0.8}]})
    np.testing.assert_allclose(evaluate(back, codes), codes, atol=2e-5)


@pytest.mark.parametrize("name", ["srgb", "linear-709", "acescct", "pq"])
def test_steps_that_share_the_way_to_light_or_oklab_do_what_they_do_one_by_one(name):
    """But for roundings on the way, which the cube root of OKLab makes large where hardly any light is left."""
    kinds = ("white-balance", "tone", "hue-bands", "colour-curves", "isolate-hue", "split-tone")
    steps = [pixel_kinds()[kind].parameters.model_validate(CHANGED[kind]) for kind in kinds]
    operations = [pixel_kinds()[step.kind].prepare(step, Junction(ENCODINGS[name], luts=LUTS)) for step in steps]
    one_by_one = grid(17)
    for operation in operations:
        one_by_one = through(operation, one_by_one)
    away = np.abs(through(in_turn(operations), grid(17)) - one_by_one) / np.maximum(np.abs(one_by_one), 1)
    assert np.median(away) < 1e-6
    assert np.quantile(away, 0.999) < 1e-4
