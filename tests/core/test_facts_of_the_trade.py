"""What practitioners expect of known recipes. Common practice, no source: numbers are held loosely, directions exactly."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.bake.bake import bake
from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import linear_to_oklab
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import Look, look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.reports.character import measure, see_look

SRGB, LINEAR = ENCODINGS["srgb"], ENCODINGS["linear-709"]


def codes(*values: float) -> list[float]:
    return [value / 255 for value in values]


def seen(look: Look, *colours: list[float]) -> tuple[np.ndarray, np.ndarray]:
    """(n, 3) sRGB codes. Returns: lightness, chroma and hue in degrees of each in OKLab, before and after"""

    def polar(values: np.ndarray) -> np.ndarray:
        lab = linear_to_oklab(convert(values, SRGB, LINEAR).astype(np.float64))
        return np.stack([lab[:, 0], np.hypot(lab[:, 1], lab[:, 2]), np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360], axis=1)

    given = np.array(colours, np.float32)
    return polar(given), polar(evaluate(prepare(look), given))


def test_a_cross_process_by_curves_has_blue_to_purple_shadows_and_yellow_highlights():
    """Blue with its black raised to 25 and its white lowered to 181; red pushed down in the shadows and up in the highlights."""
    look = look_from({"steps": [{
        "kind": "curves", "blue": [codes(0, 25), codes(255, 181)],
        "red": [codes(0, 0), codes(64, 54), codes(192, 202), codes(255, 255)]}]})  # fmt: skip
    found = measure(see_look(look))
    assert found.shadow_tint in ("blue", "violet")
    assert found.highlight_tint == "yellow"


def test_s_shaped_red_and_green_with_a_reversed_blue_turn_sky_sea_green_and_white_yellow():
    bent = [codes(0, 0), codes(64, 50), codes(192, 205), codes(255, 255)]
    reversed_s = [codes(0, 30), codes(64, 80), codes(192, 160), codes(255, 205)]
    look = look_from({"steps": [{"kind": "curves", "red": bent, "green": bent, "blue": reversed_s}]})
    before, after = seen(look, codes(110, 160, 210), codes(150, 190, 225), codes(245, 248, 250))
    assert (before[:2, 2] > 235).all(), "a sky is blue"
    assert (after[:2, 2] < before[:2, 2] - 15).all(), "and goes towards the green of the sea"
    assert 150 < after[0, 2] < 235
    assert 80 < after[2, 2] < 125, "paling to yellow"
    faded = look_from({"steps": [*look.model_dump()["steps"], {"kind": "levels", "master": {"output_black": 0.1}}]})
    assert measure(see_look(faded)).black > measure(see_look(look)).black + 5, "blacks raised to grey after it: a faded finish"


@pytest.mark.parametrize("strength", [0.3, 0.4])
def test_four_luts_over_each_other_are_one(strength: float):
    """Each at 30 to 40 %, baked into one of 32: within what a lattice of that size does to a look of such bends."""
    recipes = (
        {"kind": "tone", "contrast": 1.3, "toe": 0.1, "shoulder": -0.3},
        {"kind": "split-tone", "shadows": {"hue": 250, "amount": 0.05}, "highlights": {"hue": 80, "amount": 0.04}},
        {"kind": "saturation", "factor": 0.6},
        {"kind": "curves", "blue": [codes(0, 25), codes(255, 181)]},
    )
    luts = {f"{index:064x}": bake(look_from({"steps": [one]}), 33) for index, one in enumerate(recipes)}
    look = look_from({"steps": [{"kind": "lut", "sha256": name, "strength": strength} for name in luts]})
    inputs = np.random.default_rng(3).random((4000, 3), np.float32)
    in_turn = inputs
    for lut in luts.values():
        in_turn = in_turn + np.float32(strength) * (apply_lut(lut, in_turn) - in_turn)
    one = bake(look, 32, luts=luts.__getitem__)
    off = np.abs(apply_lut(one, inputs) - in_turn)
    assert off.mean() < 0.5 / 255
    assert np.quantile(off, 0.99) < 2 / 255


def test_a_print_lut_wants_log_and_is_too_hard_for_a_display_picture():
    """Made for film log: display values have their contrast already, and get it twice."""
    lut = bake(look_from({"input": "film-log", "output": "rec709", "view": "plain", "steps": [
        {"kind": "convert", "to": "rec709"}, {"kind": "tone", "contrast": 1.15}, {"kind": "saturation", "factor": 1.1}]}), 33)  # fmt: skip
    display = np.random.default_rng(5).uniform(0.1, 0.8, (3000, 3)).astype(np.float32)
    display = (0.7 * display.mean(axis=1, keepdims=True) + 0.3 * display).astype(np.float32)
    as_log = convert(display, ENCODINGS["rec709"], ENCODINGS["film-log"])

    def spread(values: np.ndarray) -> tuple[float, float]:
        lab = linear_to_oklab(convert(values, ENCODINGS["rec709"], LINEAR).astype(np.float64))
        return float(lab[:, 0].std()), float(np.hypot(lab[:, 1], lab[:, 2]).mean())

    contrast, chroma = spread(display)
    straight, by_log = spread(apply_lut(lut, display)), spread(apply_lut(lut, as_log))
    assert straight[0] > 1.5 * contrast
    assert straight[1] > 1.5 * chroma
    assert by_log[0] < 1.3 * contrast
    assert by_log[1] < 1.4 * chroma


def bands(**changes: dict[str, float]) -> dict[str, object]:
    centres = {"red": 29, "orange": 66, "yellow": 110, "green": 142, "cyan": 195, "blue": 264, "violet": 300, "magenta": 328}
    return {"kind": "hue-bands", "bands": [{"centre": centre, **changes.get(name, {})} for name, centre in centres.items()]}


def test_hues_that_are_turned_towards_each_other_meet():
    """Blues lowered and cyans raised meet in teal; greens and yellows lowered meet in orange."""
    colours = {
        "blue": codes(70, 110, 220),
        "cyan": codes(60, 190, 200),
        "green": codes(110, 190, 90),
        "yellow": codes(220, 200, 80),
    }
    teal = look_from({"steps": [bands(blue={"hue": -40}, cyan={"hue": 20})]})
    before, after = seen(teal, colours["blue"], colours["cyan"])
    assert abs(after[0, 2] - after[1, 2]) < 0.5 * abs(before[0, 2] - before[1, 2])
    assert all(200 < hue < 245 for hue in after[:, 2])
    orange = look_from({"steps": [bands(green={"hue": -60}, yellow={"hue": -35})]})
    before, after = seen(orange, colours["green"], colours["yellow"])
    assert abs(after[0, 2] - after[1, 2]) < abs(before[0, 2] - before[1, 2])
    assert all(55 < hue < 100 for hue in after[:, 2])


def test_skin_that_was_discoloured_by_oranges_comes_back_by_reds():
    """Oranges lowered turn skin towards red; reds raised a little bring it back within the tolerance of ten degrees."""
    lowered = look_from({"steps": [bands(orange={"hue": -20})]})
    mended = look_from({"steps": [bands(orange={"hue": -20}, red={"hue": 15})]})
    assert abs(measure(see_look(lowered)).skin) > 10
    assert abs(measure(see_look(mended)).skin) < 10
