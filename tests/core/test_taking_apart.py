"""LUTs taken apart into steps: our own looks found again, simple and close, ends, and the command."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.bake.bake import bake
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.commands.main import main
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.errors import LutError
from saucer.core.files.formats import cube
from saucer.core.look.bundle import read_bundle
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.domain import grid, spread_over
from saucer.core.lut.table import Curve1D, Lattice, Lut
from saucer.core.making.apart.apart import take_apart
from saucer.core.making.apart.parts import fewer_points
from saucer.core.making.apart.seen import codes_of_seen, lab_of, light_of
from saucer.core.steps.pixel.curves import Curves
from saucer.core.steps.registry import Junction
from tests.make import a_look, a_lut

SRGB = ENCODINGS["srgb"]
CURVED = {"kind": "curves", "red": [[0, 0.05], [0.42, 0.46], [1, 0.97]], "blue": [[0, 0.1], [0.58, 0.52], [1, 0.86]]}
MUTED = {"kind": "saturation", "factor": 0.7}
TURNED = {
    "kind": "hue-bands",
    "bands": [{"centre": c, "hue": 12 if c == 142 else 0} for c in (29.0, 66, 110, 142, 195, 264, 300, 328)],
}


def lut_of(*steps: dict, size: int = 17) -> Lut:
    return bake(a_look(*steps), size)


def test_our_own_look_is_found_again():
    """Curves within 1.5 codes of 255, saturation within 0.01, a band's turn within a degree; no step that was not there."""
    apart = take_apart(lut_of(CURVED, MUTED, TURNED, size=33), SRGB, SRGB, simple=0)
    curves, saturation, bands = apart.steps
    x = spread_over(count=200)
    wanted, found = (
        evaluate(prepare(a_look(one)), x) for one in (CURVED, {"kind": "curves"} | curves.model_dump(exclude_defaults=True))
    )
    assert np.abs(found - wanted).max() < 1.5 / 255
    assert saturation.factor == pytest.approx(0.7, abs=0.01)
    assert {round(band.centre): band.hue for band in bands.bands}[142] == pytest.approx(12, abs=1)
    assert apart.explained.mean < 0.1
    assert apart.whole.p95 < 0.1
    assert apart.untouched.mean > 3


def test_what_each_step_explains_is_told_and_the_rest_makes_it_whole():
    lut = lut_of(CURVED, MUTED, TURNED)
    apart = take_apart(lut, SRGB, SRGB)
    assert len(apart.shares) == len(apart.steps)
    assert all(share > 0.02 for share in apart.shares)
    content = [{"kind": step.kind} | step.model_dump(mode="json", exclude_defaults=True) for step in apart.steps]
    x = spread_over(count=2000)
    made = apply_lut(apart.rest, np.clip(evaluate(prepare(a_look(*content)), x), 0, 1))
    assert np.abs(made - np.clip(apply_lut(lut, x), 0, 1)).mean() < 0.5 / 255


def test_simple_has_fewer_points_and_steps_than_close():
    lut = lut_of(CURVED, {"kind": "saturation", "factor": 0.97}, TURNED)
    close, simple = (take_apart(lut, SRGB, SRGB, share) for share in (0, 1))
    assert len(simple.steps) < len(close.steps)
    points = [sum(len(getattr(apart.steps[0], channel)) for channel in ("red", "green", "blue")) for apart in (close, simple)]
    assert points[1] < points[0]
    assert close.explained.mean < simple.explained.mean < close.untouched.mean
    assert simple.whole.mean < 0.3, "what is left out is in the rest"


def test_points_of_a_curve_go_where_it_does_not_bend():
    straight = Curves(red=tuple((x / 10, 0.1 + 0.08 * x) for x in range(11)), blue=((0, 0), (0.3, 0.2), (0.5, 0.5), (1, 1)))
    fewer = fewer_points(straight, 1 / 1020)
    assert fewer.red == ((0.0, 0.1), (1.0, 0.9))
    assert (0.3, 0.2) in fewer.blue


def test_a_lut_fed_with_log_is_taken_apart_behind_its_conversion():
    log, display = ENCODINGS["film-log"], ENCODINGS["rec709"]
    look = a_look({"kind": "convert", "to": "rec709", "rendering": "soft"}, CURVED, MUTED, input="film-log", output="rec709")
    apart = take_apart(bake(look, 33), log, display)
    assert apart.explained.mean < 0.3
    assert [step.kind for step in apart.steps][:2] == ["curves", "saturation"]


def test_a_look_from_log_to_log_is_found_again_over_all_greys_above_black():
    """Above what a display shows as white too. Black is code 95 of 1,023; below it nothing is seen of a curve."""
    log = ENCODINGS["film-log"]
    apart = take_apart(bake(a_look(CURVED, MUTED, input="film-log", output="film-log"), 33), log, log, simple=0)
    assert [step.kind for step in apart.steps] == ["curves", "saturation"]
    assert apart.untouched.mean > 3
    assert apart.explained.p95 < 0.3
    assert apart.whole.mean < 0.1
    greys = np.repeat(np.linspace(0.1, 1, 200, dtype=np.float32)[:, None], 3, axis=1)
    wanted, found = (
        evaluate(prepare(a_look(one, input="film-log", output="film-log")), greys)
        for one in (CURVED, {"kind": "curves"} | apart.steps[0].model_dump(exclude_defaults=True))
    )
    assert np.abs(found - wanted).max() < 2 / 255


def test_the_colours_of_a_scene_are_those_that_a_display_shows():
    """White of a display is the view's own (the scene's 4.0), and it is seen as light 1 again."""
    junction = Junction(ENCODINGS["acescct"], view="soft")
    white = codes_of_seen(np.ones((1, 3), np.float32), junction)
    assert junction.encoding.transfer.decode(white) == pytest.approx(4.0, rel=1e-3)
    assert light_of(white, junction) == pytest.approx(1.0, abs=1e-3)
    brighter = np.full((3, 1), white[0, 0] + 0.1, np.float32)
    assert lab_of(brighter, junction)[0, 0] > 1.1, "what is above white still differs"


def test_a_lut_over_another_range_than_0_to_1_is_taken_apart_as_it_acts_on_0_to_1():
    look = a_look(CURVED, MUTED)
    domain = ((-0.25,) * 3, (1.25,) * 3)
    table = np.clip(evaluate(prepare(look), np.clip(grid(37, domain), 0, 1)), 0, 1)
    apart = take_apart(Lut(lattice=Lattice(table.reshape(37, 37, 37, 3), domain)), SRGB, SRGB, simple=0)
    assert [step.kind for step in apart.steps] == ["curves", "saturation"]
    assert apart.explained.mean < 0.2
    curve = np.linspace(0, 1, 61, dtype=np.float32)[:, None].repeat(3, 1) ** np.float32(1.3)
    bent = take_apart(Lut(shaper=Curve1D(curve, ((-1.0,) * 3, (2.0,) * 3))), SRGB, SRGB, simple=0)
    assert bent.explained.mean < 0.2 < 2 < bent.untouched.mean


def test_a_lut_of_linear_light_says_why_it_is_not():
    with pytest.raises(LutError, match="gives: is linear light"):
        take_apart(a_lut(5), SRGB, ENCODINGS["acescg"])


def test_the_work_is_told_of_and_can_be_stopped():
    shares: list[float] = []

    def stop(share: float) -> None:
        shares.append(share)
        if share > 0.1:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        take_apart(lut_of(CURVED), SRGB, SRGB, report=stop)
    assert shares == sorted(shares)


def test_the_command(tmp_path, capsys):
    (tmp_path / "print.cube").write_bytes(cube.write(lut_of(CURVED, MUTED)))
    assert main(["take-apart", str(tmp_path / "print.cube"), "-o", str(tmp_path / "look.json"), "--expects", "srgb"]) == 0
    said = capsys.readouterr().out
    assert "Curves" in said
    assert "with the rest" in said
    bundle = read_bundle((tmp_path / "look.json").read_bytes(), "look.json", tmp_path)
    assert [step.kind for step in bundle.look.steps] == ["curves", "saturation", "lut"]
    x = spread_over(count=500)
    made = evaluate(prepare(bundle.look, bundle.luts), x)
    assert np.abs(made - apply_lut(lut_of(CURVED, MUTED), x)).mean() < 0.5 / 255
    assert main(["take-apart", str(tmp_path / "look.json"), "-o", str(tmp_path / "no.json")]) == 1
    assert "made of steps already" in capsys.readouterr().err
    assert not (tmp_path / "no.json").exists()
