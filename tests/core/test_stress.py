"""Where a look breaks: each measure against a case whose figure can be reckoned by hand, the step that does it, and what helps."""

from __future__ import annotations

import json

import numpy as np
import pytest

from saucer.core.commands.main import main
from saucer.core.engine.plan import prepare
from saucer.core.errors import LookError, SaucerError
from saucer.core.look.model import look_text
from saucer.core.look.tree import change_step
from saucer.core.pictures.io import Picture, write_picture
from saucer.core.reports.marks import mark_merged
from saucer.core.reports.misfits import measure
from saucer.core.reports.stress.limits import LARGEST, LIMITS, check_limit
from saucer.core.reports.stress.pictures import strain
from saucer.core.reports.stress.ramps import strain_ramps
from saucer.core.reports.stress.remedies import with_remedy
from saucer.core.reports.stress.stress import Subject, find_breaks
from tests.core.test_reports_along import a_scene
from tests.make import CHANGED, LUTS, WARM, a_look

NOTHING = {"kind": "tone"}
SOFTER = {"kind": "saturation", "factor": 0.98, "id": "softer"}
TURNED = {"kind": "hue-bands", "id": "turned", "bands": [
    {"centre": centre, "hue": 18 if centre in (29, 66, 110) else 0} for centre in (29, 66, 110, 142, 195, 264, 300, 328)
]}  # fmt: skip


def a_ramp() -> np.ndarray:
    """(64, 256, 3): a grey ramp of 8 bits from left to right."""
    return np.broadcast_to(np.linspace(0, 1, 256, dtype=np.float32)[None, :, None], (64, 256, 3)).copy()


def levels(**master: float) -> dict:
    return {"kind": "levels", "master": master, "id": "levels"}


def test_a_look_that_does_nothing_breaks_nothing():
    found = find_breaks(a_look(NOTHING), [Subject("scene", a_scene()), Subject("ramp", a_ramp())], count=2)
    assert (found.breaks, found.pictures) == ((), 2)
    assert found.figures["noise"] == pytest.approx(1, abs=1e-3), "noise comes out as it went in"
    assert {
        what: abs(found.figures[what]) for what in ("clipped", "gamut", "bands", "skin", "reversed", "beyond")
    } == dict.fromkeys(("clipped", "gamut", "bands", "skin", "reversed", "beyond"), 0)
    assert max(found.sizes.values()) < 0.01


def test_what_is_clipped_is_counted_and_the_fullest_place_is_framed():
    pixels = np.full((90, 160, 3), 0.4, np.float32)
    pixels[60:75, 120:150] = 0.95
    found = strain(prepare(a_look(levels(input_white=0.8))), pixels)
    assert found["clipped"].figure == pytest.approx(15 * 30 / (90 * 160))
    left, top, width, height = found["clipped"].place
    assert 120 / 160 <= left + width / 2 <= 150 / 160
    assert 60 / 90 <= top + height / 2 <= 75 / 90
    assert found["crushed"].place is None


def test_misfits_count_the_same_marks():
    before, after = a_scene(), np.clip(a_scene() * 1.4 - 0.1, -0.05, 1.2).astype(np.float32)
    figures, merged = measure(before, after), mark_merged(before, after)
    assert figures.merged == merged.share > 0
    assert merged.where.any()


def test_tones_that_fall_together_are_shown_where_they_are():
    merged = mark_merged(a_ramp(), np.minimum(a_ramp(), 0.5))
    assert merged.share == pytest.approx(127 / 256, abs=1 / 256)
    assert not merged.where[:, :127].any()
    assert merged.where[:, 129:].all()


def test_noise_in_the_shadows_is_lifted_as_the_slope_there_says():
    """A straight piece of slope s multiplies differences of codes by s; OKLab lightness of sRGB's codes is nearly straight there."""
    dark = np.full((60, 80, 3), 0.2, np.float32)
    steep = {"kind": "curves", "master": [[0, 0], [0.1, 0.05], [0.3, 0.55], [1, 1]]}
    plan = prepare(a_look(steep))
    slope = float(np.diff(_shown(plan, [0.199, 0.201]))[0] / 0.002)
    assert slope > 2
    assert strain(plan, dark)["noise"].figure == pytest.approx(slope, rel=0.2)
    assert strain(prepare(a_look(NOTHING)), np.full((60, 80, 3), 0.9, np.float32))["noise"].figure == 0, "there are no shadows"


def _shown(plan, codes: list[float]) -> np.ndarray:
    from saucer.core.engine.evaluate import evaluate

    return evaluate(plan, np.repeat(np.float32(codes)[:, None], 3, axis=1))[:, 0]


def test_gradients_that_break_are_told_from_edges():
    jump = {"kind": "curves", "master": [[0, 0], [0.5, 0.4], [0.504, 0.6], [1, 1]], "id": "jump"}
    assert strain(prepare(a_look(jump)), a_ramp())["bands"].figure > 0
    edges = np.where(np.arange(256)[None, :, None] % 32 < 16, np.float32(0.2), np.float32(0.8)) * np.ones((64, 1, 3), np.float32)
    assert strain(prepare(a_look(jump)), edges)["bands"].figure == 0
    grain = {"kind": "grain", "amount": 0.3}
    assert strain(prepare(a_look(grain)), a_ramp())["bands"].figure == 0, "grain is laid on purpose"


def test_colours_that_leave_the_gamut():
    pixels = np.full((20, 30, 3), 0.5, np.float32)
    pixels[:, 15:] = (0.9, 0.1, 0.1)
    found = strain(prepare(a_look({"kind": "saturation", "factor": 2.0})), pixels)
    assert found["gamut"].figure == pytest.approx(0.5)
    assert found["gamut"].place[0] >= 0.45


@pytest.mark.parametrize(
    ("step", "what", "figure"),
    [
        ({"kind": "curves", "master": [[0, 0], [0.4, 0.6], [0.6, 0.4], [1, 1]]}, "reversed", 0.2 * 1023),
        (levels(output_black=0.25, output_white=0.25 + 1 / 16), "together", 16),
        (levels(input_black=0.5, input_white=0.52), "leaps", 50),
    ],
)
def test_ramps_of_ten_bits(step, what, figure):
    """Turned by the fifth of the range that the points fall by; a range of a sixteenth holds sixteen codes in one; a slope of fifty."""
    assert strain_ramps(prepare(a_look(step)))[what].figure == pytest.approx(figure, rel=0.1)


def test_what_lies_beyond_is_asked_too():
    turned = {"kind": "curves", "low": -0.5, "high": 1.5, "master": [[0, 0], [0.25, 0.25], [0.75, 0.75], [1, 0.6]]}
    assert strain_ramps(prepare(a_look(turned)))["beyond"].figure > 50
    assert strain_ramps(prepare(a_look(NOTHING)))["beyond"].figure == 0


@pytest.mark.parametrize(
    ("what", "steps", "id", "path", "kind"),
    [
        ("skin", (SOFTER, TURNED), "turned", "steps[1]", "leave-skin"),
        (
            "clipped",
            (SOFTER, {"kind": "group", "id": "group", "steps": [levels(input_white=0.8)]}),
            "levels",
            "steps[1].steps[0]",
            None,
        ),
    ],
)
def test_the_step_that_does_it_is_found_by_leaving_it_out_and_the_remedy_holds(what, steps, id, path, kind):
    look = a_look(*steps)
    found = next(one for one in find_breaks(look, [Subject("scene", a_scene())], count=1).breaks if one.what == what)
    assert (found.id, found.path, found.on) == (id, path, "scene")
    assert found.times == pytest.approx(abs(found.figure) / LIMITS[what])
    assert found.remedy is not None
    assert abs(strain(prepare(with_remedy(look, found.remedy)), a_scene())[what].figure) <= LIMITS[what]
    assert kind in (None, found.remedy.kind), "the gentlest: the step stays at its strength"


def test_of_several_pictures_the_worst_is_shown_and_how_many_fail():
    bright = np.full((40, 60, 3), 0.95, np.float32)
    half = bright.copy()
    half[:20] = 0.3
    subjects = [Subject("dark", np.full((40, 60, 3), 0.3, np.float32)), Subject("half", half), Subject("bright", bright)]
    told: list[float] = []
    found = find_breaks(a_look(levels(input_white=0.8)), subjects, report=told.append, count=3)
    clipped = next(one for one in found.breaks if one.what == "clipped")
    assert (clipped.on, clipped.failing, clipped.figure) == ("bright", 2, 1.0)
    assert told == sorted(told)
    assert told[-1] <= 1


def test_a_look_that_ends_elsewhere_is_refused():
    with pytest.raises(LookError, match="the steps end in"):
        find_breaks(a_look({"kind": "convert", "to": "rec2020"}), [])


def test_a_step_at_a_place_is_changed_and_no_other():
    look = a_look(WARM, {"kind": "group", "steps": [SOFTER]})
    changed = change_step(look.steps, (1, 0), lambda step: step.model_copy(update={"factor": 0.5}))
    assert changed[0] is look.steps[0]
    assert changed[1].steps[0].factor == 0.5
    for place in ((7,), (0, 0), (1, 3)):
        with pytest.raises(LookError, match="no such step"):
            change_step(look.steps, place, lambda step: step)


@pytest.mark.parametrize("kind", sorted(set(CHANGED) - {"convert"}))
def test_every_kind_of_step_can_be_told(kind):
    scene, limits = Subject("scene", a_scene()[::3, ::3]), dict.fromkeys(LIMITS, 1e9)
    found = find_breaks(a_look(CHANGED[kind]), [scene], LUTS, limits, count=1)
    assert found.breaks == ()
    assert all(np.isfinite(figure) for figure in found.figures.values())


def test_the_command(tmp_path, capsys):
    (tmp_path / "holds.json").write_text(look_text(a_look(SOFTER)))
    (tmp_path / "breaks.json").write_text(look_text(a_look(levels(input_white=0.6))))
    pictures = tmp_path / "pictures"
    pictures.mkdir()
    (pictures / "notes.txt").write_text("no picture")
    write_picture(Picture(a_scene(), "u8"), pictures / "scene.png")

    def stress(*words: str) -> tuple[int, str]:
        code = main(["stress", *words])
        return code, capsys.readouterr().out

    assert stress(str(tmp_path / "holds.json"), str(pictures))[0] == 0
    code, said = stress(str(tmp_path / "breaks.json"), str(pictures), "--json")
    told = json.loads(said)
    assert (code, told["holds"], told["pictures"]) == (2, False, 1)
    worst = next(one for one in told["breaks"] if one["what"] == "clipped")
    assert (worst["on"], worst["path"]) == ("scene.png", "steps[0]")
    assert told["figures"]["clipped"]["figure"] > told["figures"]["clipped"]["limit"]
    lenient = [word for what in LIMITS for word in ("--limit", f"{what}={LARGEST[what]}")]
    assert stress(str(tmp_path / "breaks.json"), str(pictures), *lenient)[0] == 0
    code, said = stress(str(tmp_path / "breaks.json"), str(pictures))
    assert code == 2
    assert "by steps[0] Levels" in said
    assert stress(str(tmp_path / "holds.json"), str(tmp_path / "nowhere"))[0] == 1
    for wrong in ("clipped", "clipped=-1", "shine=2"):
        with pytest.raises(SystemExit) as ended:
            stress(str(tmp_path / "holds.json"), "--limit", wrong)
        assert ended.value.code == 2


def test_a_limit_is_of_a_measure_that_there_is_and_of_some_use():
    for what, usual in LIMITS.items():
        check_limit(what, usual)
        check_limit(what, LARGEST[what])
        for most in (0, -1, LARGEST[what] * 1.01, float("nan")):
            with pytest.raises(SaucerError, match=f"^{what}: must be above 0 and at most"):
                check_limit(what, most)
    with pytest.raises(SaucerError, match='no limit "shine"'):
        check_limit("shine", 1)
