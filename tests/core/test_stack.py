"""Several looks on one picture: conversions between them, strength, what is off, own encodings."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.colour.conversion import conversion, convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.own import OwnEncoding
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import render
from saucer.core.errors import LookError
from saucer.core.look.model import Look, look_from
from saucer.core.look.stack import Layer, line_of, look_of_lut, stack
from saucer.core.lut.apply import apply_lut
from saucer.core.numeric.planes import through
from tests.make import a_lut, random_pixels

SOFTER = look_from({"name": "Softer", "steps": [{"kind": "saturation", "factor": 0.4}]})
FILM = look_from(
    {"name": "Film", "input": "logc4", "output": "rec709", "steps": [{"kind": "convert", "to": "rec709", "rendering": "soft"}, {"kind": "saturation", "factor": 1.2}]}
)  # fmt: skip
TRIM = look_from({"steps": [{"kind": "white-balance", "warm": 30}]}).steps
PIXELS = random_pixels(seed=4) * np.float32(0.9) + np.float32(0.05)


def through_soft(values: np.ndarray, source: str, target: str) -> np.ndarray:
    operation = conversion(ENCODINGS[source], ENCODINGS[target], "soft")
    assert operation is not None
    return through(operation, values)


def test_nothing_on_a_display_picture_changes_nothing():
    assert stack("srgb", [], "srgb").steps == ()
    look = stack("srgb", [], "rec709")
    assert np.allclose(evaluate(prepare(look), PIXELS), convert(PIXELS, ENCODINGS["srgb"], ENCODINGS["rec709"]), atol=1e-6)


def test_a_scene_picture_comes_onto_a_display_through_a_rendering():
    look = stack("logc4", [], "srgb")
    assert np.allclose(evaluate(prepare(look), PIXELS), through_soft(PIXELS, "logc4", "srgb"), atol=1e-6)


def test_a_display_look_on_a_log_shot_and_a_log_look_on_a_display_shot():
    on_log = stack("logc4", [Layer("Softer", SOFTER)], "srgb")
    wanted = evaluate(prepare(SOFTER), through_soft(PIXELS, "logc4", "srgb"))
    assert np.allclose(evaluate(prepare(on_log), PIXELS), wanted, atol=1e-5)
    on_display = stack("srgb", [Layer("Film", FILM)], "rec709")
    wanted = evaluate(prepare(FILM), through_soft(PIXELS, "srgb", "logc4"))
    assert np.allclose(evaluate(prepare(on_display), PIXELS), wanted, atol=1e-5)
    # There and back: white stays near white, nothing is torn.
    grey = np.repeat(np.linspace(0, 1, 64, dtype=np.float32)[:, None], 3, axis=1)
    shown = evaluate(prepare(on_display), grey)
    assert shown.max() < 1.01
    assert (np.diff(shown[:, 1]) > -1e-6).all()


def test_trims_come_before_the_look_in_what_the_shot_is_in():
    look = stack("logc4", [Layer("Trims", TRIM), Layer("Film", FILM)], "rec709")
    trimmed = evaluate(prepare(Look(input="logc4", output="logc4", steps=TRIM)), PIXELS)
    assert np.allclose(evaluate(prepare(look), PIXELS), evaluate(prepare(FILM), trimmed), atol=1e-5)


@pytest.mark.parametrize("spatial", [False, True])
def test_strength_fades_to_the_rendered_picture(spatial):
    """At half strength: half way to what the shot is shown as without a look, not to its clipped plain conversion."""
    film = (
        FILM.model_copy(update={"steps": (*FILM.steps, *look_from({"steps": [{"kind": "vignette", "amount": 0.5}]}).steps)})
        if spatial
        else FILM
    )
    look = stack("logc4", [Layer("Film", film, 0.5)], "rec709")
    plain, whole = through_soft(PIXELS, "logc4", "rec709"), render(prepare(film), PIXELS)
    assert np.allclose(render(prepare(look), PIXELS), (plain + whole) / 2, atol=1e-5)
    assert np.allclose(render(prepare(stack("logc4", [Layer("Film", film, 0.0)], "rec709")), PIXELS), plain, atol=1e-5)
    assert np.allclose(
        render(prepare(stack("logc4", [Layer("Film", film, 1.0, enabled=False)], "rec709")), PIXELS), plain, atol=1e-5
    )


def test_a_strength_of_the_look_itself_counts_too():
    half = SOFTER.model_copy(update={"strength": 0.5})
    one, other = stack("srgb", [Layer("a", half, 0.5)], "srgb"), stack("srgb", [Layer("a", SOFTER, 0.25)], "srgb")
    assert one.content_hash == other.content_hash


def test_a_lut_stands_between_its_encodings():
    lut = a_lut(9)
    look = stack("logc4", [Layer("Scan", look_of_lut("Scan", "a" * 64, "film-log", "rec709"))], "rec709")
    wanted = apply_lut(lut, convert(PIXELS, ENCODINGS["logc4"], ENCODINGS["film-log"]))
    assert np.allclose(evaluate(prepare(look, lambda sha256: lut), PIXELS), wanted, atol=1e-5)


def test_the_line_says_what_happens_where():
    line = line_of("srgb", [Layer("Trims", TRIM), Layer("Film", FILM), Layer("Off", SOFTER, 0)], "p3-theatre")
    assert [(one.encoding, one.what) for one in line] == [
        ("srgb", "as it comes"), ("logc4", "rendered"), ("rec709", "by Film"), ("p3-theatre", "converted"),
    ]  # fmt: skip
    assert [one.encoding for one in line_of("rec709", [Layer("Softer", SOFTER)], "rec709")] == ["rec709", "srgb", "srgb", "rec709"]


def own_log(slope: float) -> OwnEncoding:
    corners = {"red": (0.64, 0.33), "green": (0.3, 0.6), "blue": (0.15, 0.06), "white": (0.3127, 0.329)}
    log = {"log_side_slope": slope, "log_side_offset": 0.6, "lin_side_slope": 1.0, "lin_side_offset": 0.01, "lin_side_break": 0.01}
    return OwnEncoding.model_validate({"id": "own-log", "name": "Own", "log": log, **corners})


def test_own_encodings_come_along_and_do_not_clash():
    with pytest.raises(LookError, match='unknown encoding "own-log"'):
        stack("own-log", [], "srgb")
    look = stack("own-log", [Layer("Softer", SOFTER)], "srgb", [own_log(0.1)])
    assert [one.id for one in look.encodings] == ["own-log"]
    assert stack("logc4", [], "srgb", [own_log(0.1)]).encodings == ()
    other = SOFTER.model_copy(update={"encodings": (own_log(0.2),)})
    with pytest.raises(LookError, match="means two different encodings"):
        stack("own-log", [Layer("Softer", other)], "srgb", [own_log(0.1)])
