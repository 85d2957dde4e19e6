"""Pictures brought towards a reference: how much of the way, skin held, grey content taken for grey; transport against known cases."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.stats import wasserstein_distance

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.colour.oklab import oklab_to_linear
from saucer.core.colour.skin import skin_shift
from saucer.core.commands.main import main
from saucer.core.errors import LookError
from saucer.core.look.bundle import read_bundle
from saucer.core.making.towards.towards import propose
from saucer.core.making.towards.transport import distance, send, sort_out
from saucer.core.making.towards.whole import group_of, words_of
from saucer.core.pictures.io import Picture, read_picture, write_picture
from tests.core.test_reports_along import a_scene
from tests.make import a_look, render

SRGB = ENCODINGS["srgb"]
WARM_AND_SOFT = (
    {"kind": "curves", "master": [[0, 0.06], [0.3, 0.27], [0.7, 0.74], [1, 0.95]]},
    {"kind": "split-tone", "shadows": {"hue": 250, "amount": 0.02}, "highlights": {"hue": 80, "amount": 0.03}},
    {"kind": "saturation", "factor": 0.8},
)
HARD = ({"kind": "tone", "contrast": 1.3, "exposure": -0.4}, {"kind": "saturation", "factor": 1.25})
TEAL = ({"kind": "hue-bands", "bands": [{"centre": centre, "hue": 14 if centre == 142 else 0, "saturation": 0.9} for centre in (29, 66, 110, 142, 195, 264, 300, 328)]},)  # fmt: skip


def flat(values: np.ndarray) -> np.ndarray:
    return values.reshape(-1, 3)


@pytest.mark.parametrize("steps", [WARM_AND_SOFT, HARD, TEAL])
@pytest.mark.parametrize("seed", [3, 8])
def test_most_of_the_way_to_a_picture_graded_by_a_known_look(steps, seed):
    """At least 70 % of it, in tone and in colour where these are asked for by themselves; skin within the tolerance."""
    scene = a_scene(seed)
    reference = np.clip(render(a_look(*steps, input="srgb", output="srgb"), scene), 0, 1)
    found = {one.what: one for one in propose([scene], SRGB, reference)}
    assert found["all"].gone >= 0.7
    group = group_of(found["all"], "scene", SRGB, SRGB, "soft")
    made = np.clip(render(a_look(group, input="srgb", output="srgb"), scene), 0, 1)
    assert np.abs(made - reference).mean() < 0.5 * np.abs(scene - reference).mean(), "pixel by pixel, which nobody had told it"
    assert found["all"].after.whole < found["all"].before.whole


def test_the_part_that_is_asked_for_leaves_the_other():
    scene = a_scene()
    reference = np.clip(render(a_look(*WARM_AND_SOFT, input="srgb", output="srgb"), scene), 0, 1)
    found = {one.what: one for one in propose([scene], SRGB, reference)}
    assert set(found) == {"all", "tone", "colour"}
    assert {step.kind for step in found["tone"].steps} == {"curves"}
    assert "curves" not in {step.kind for step in found["colour"].steps}
    assert found["tone"].gone >= 0.7
    assert found["colour"].gone >= 0.7
    told = words_of(found["all"], [scene], SRGB)
    assert any("lifts blacks" in one for one in told)


@pytest.mark.parametrize("tolerance", [3, 8])
def test_skin_turns_no_further_than_it_may(tolerance):
    scene = a_scene()
    turned = {"kind": "hue-bands", "bands": [{"centre": centre, "hue": 20} for centre in (29, 66, 110, 142, 195, 264, 300, 328)]}
    reference = np.clip(render(a_look(turned, input="srgb", output="srgb"), scene), 0, 1)
    found = propose([scene], SRGB, reference, tolerance)
    assert found
    for one in found:
        made = render(a_look(group_of(one, "turned", SRGB, SRGB, "soft"), input="srgb", output="srgb"), scene)
        shift = skin_shift(flat(scene), SRGB, np.clip(flat(made), 0, 1), SRGB, tolerance).shift
        assert abs(shift) <= tolerance + 0.5
        assert one.skin == pytest.approx(shift, abs=0.7), "told as it is, on some of the pixels"


def test_a_red_car_does_not_redden_a_street():
    """The reference shows the same greys, and a fifth of it is red: greys stay grey."""
    random = np.random.default_rng(2)
    light = random.uniform(0.2, 0.9, 600)
    street = np.stack([light, *random.normal(0, 0.004, (2, 600))], axis=-1)
    with_car = street.copy()
    with_car[:120, 1:] = (0.18, 0.09)
    one, other = (
        SRGB.transfer.encode(np.clip(oklab_to_linear(lab), 0, 1)).astype(np.float32).reshape(20, 30, 3)
        for lab in (street, with_car)
    )
    for proposal in propose([one], SRGB, other):
        made = render(a_look(group_of(proposal, "car", SRGB, SRGB, "soft"), input="srgb", output="srgb"), one)
        assert np.abs((made - one)[..., 0] - (made - one)[..., 2]).mean() < 2 / 255
    sent, worth = send(street, with_car)
    assert np.abs(np.median(sent[worth > 0, 1:] - street[worth > 0, 1:], axis=0)).max() < 0.006


def test_what_is_the_same_already_needs_nothing():
    assert propose([a_scene()], SRGB, a_scene()) == []


def test_greys_of_a_tinted_picture_are_its_greys():
    lab = np.stack([np.linspace(0.2, 0.9, 400), np.full(400, 0.03), np.full(400, -0.02)], axis=-1)
    lab[::10, 1:] += 0.12
    chroma = sort_out(lab).chroma
    assert np.median(chroma) < 0.005
    assert chroma[::10].min() > 0.1


def test_the_distance_is_the_wasserstein_distance_of_a_slice():
    """Against SciPy's, in one dimension; and a shift by d along lightness alone lies d away in tone and nothing in colour."""
    random = np.random.default_rng(4)
    one, other = random.normal(size=(500, 3)), random.normal(0.4, 1.3, size=(500, 3))
    assert distance(one, other).tone == pytest.approx(wasserstein_distance(one[:, 0], other[:, 0]), rel=1e-6)
    moved = distance(one, one + np.array([0.25, 0, 0]))
    assert (moved.tone, moved.colour) == (pytest.approx(0.25), pytest.approx(0))


def test_light_of_a_scene_is_refused():
    with pytest.raises(LookError, match="light of a scene"):
        propose([a_scene()], ENCODINGS["acescg"], a_scene())


def test_the_command(tmp_path, capsys):
    scene = a_scene()
    reference = np.clip(render(a_look(*WARM_AND_SOFT, input="srgb", output="srgb"), scene), 0, 1)
    for name, pixels in (("in.png", scene), ("reference.png", reference)):
        write_picture(Picture(pixels.astype(np.float32), "u8"), tmp_path / name)
    files = [str(tmp_path / name) for name in ("reference.png", "in.png")]
    assert main(["towards", *files, "-o", str(tmp_path / "look.json")]) == 0
    said = capsys.readouterr().out
    assert "* Tone and colour" in said
    assert "lifts blacks" in said
    look = read_bundle((tmp_path / "look.json").read_bytes(), "look.json", tmp_path).look
    assert [step.name for step in look.steps] == ["Tone and colour of reference"]
    assert main(["apply", str(tmp_path / "look.json"), files[1], "-o", str(tmp_path / "out.png")]) == 0
    out = read_picture(tmp_path / "out.png").pixels
    assert np.abs(out - reference).mean() < 0.5 * np.abs(scene - reference).mean()
    assert main(["towards", files[1], files[1], "-o", str(tmp_path / "none.json")]) == 1
    assert not (tmp_path / "none.json").exists()
