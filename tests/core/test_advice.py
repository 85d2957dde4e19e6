"""What a designer is told about steps: each warning where it belongs, none where it does not, and what its remedy does."""

from __future__ import annotations

import numpy as np
import pytest

from saucer.core.look.model import look_from
from saucer.core.reports.advice import Ends, advise
from tests.make import CHANGED, LUTS, SHA, WARM, a_look, random_pixels

PIXELS = random_pixels(60, 80)
CUT = {"kind": "limit", "id": "cut", "low": 0.2, "high": 0.8}
TONE = CHANGED["tone"] | {"id": "tone"}


def kinds(*steps, **fields):
    return [(one.id, one.kind) for one in advise(a_look(*steps, **fields), PIXELS, luts=LUTS)]


def test_nothing_is_said_of_a_sound_look():
    assert kinds(TONE, WARM, {"kind": "vignette", "amount": 0.4, "id": "v"}) == []


def test_a_correction_after_a_loss_says_how_much_is_gone_and_where_to_go():
    (told,) = advise(a_look(CUT, TONE), PIXELS)
    share = float(((PIXELS <= 0.2) | (PIXELS >= 0.8)).any(axis=-1).mean())
    said, rest = told.words.split(" ", 1)
    assert int(said) == pytest.approx(share * 100, abs=1.5), "losses are counted on 10-bit codes"
    assert rest == "% of this picture is already clipped here, by Limit."
    assert (told.id, told.kind) == ("tone", "after-loss")
    assert (told.remedy.kind, told.remedy.target, told.remedy.into, told.remedy.words) == (
        "move-before",
        "cut",
        None,
        "Move before Limit",
    )
    # Having moved, it is content; so it is where the loss is too small to speak of, or the step is off or no correction.
    assert kinds(TONE, CUT) == []
    assert kinds(CUT | {"low": None, "high": 1.5}, TONE) == []
    assert kinds(CUT, TONE | {"enabled": False}) == []
    assert kinds(CUT, CHANGED["wash"]) == []


@pytest.mark.parametrize("kind", ["curves", "split-tone", "saturation"])
def test_shaping_steps_need_all_of_a_picture_too(kind):
    (told,) = advise(a_look(CUT, CHANGED[kind] | {"id": kind}), PIXELS)
    assert (told.id, told.kind) == (kind, "after-loss")


def test_tones_that_fall_together_are_told_as_what_is_clipped_is():
    """A curve that gives the upper half of all tones a fiftieth of the range clips nothing, and nothing brings it back."""
    flat = {"kind": "curves", "id": "flat", "master": [[0, 0], [0.5, 0.88], [0.6, 0.9], [0.8, 0.91], [1, 0.92]]}
    (told,) = [one for one in advise(a_look(flat, TONE), PIXELS) if one.kind == "after-loss"]
    assert told.words.endswith("% of this picture lies in tones that have already fallen together here, by Curves.")
    share = float((PIXELS.min(axis=-1) > 0.65).mean())
    assert int(told.words.split(" ", 1)[0]) == pytest.approx(share * 100, abs=4)
    assert [one for one in kinds(TONE, flat) if one[1] == "after-loss"] == []
    gentle = {"kind": "curves", "id": "soft", "master": [[0, 0], [0.5, 0.6], [1, 0.9]]}
    assert [one for one in kinds(gentle, TONE) if one[1] == "after-loss"] == []


@pytest.mark.parametrize("where", [np.s_[:30], np.s_[30:], np.s_[:, :40], np.s_[:, 40:]], ids=["top", "bottom", "left", "right"])
def test_a_loss_is_told_wherever_in_the_picture_it_is(where):
    """A quarter of each half is clipped: an eighth of the picture, whichever half."""
    pixels = np.full((60, 80, 3), 0.5, np.float32)
    pixels[where].reshape(-1, 3)[:] = 0.5
    half = pixels[where]
    half[:, ::4] = 0.95
    pixels[where] = half
    share = float((pixels >= 0.8).any(axis=-1).mean())
    assert share == pytest.approx(0.125, abs=0.001)
    (told,) = advise(a_look(CUT, TONE), pixels)
    assert told.words.startswith(f"{share * 100:.0f} % of this picture") or told.words.startswith("13 % of this picture")


def test_a_loss_inside_a_group_names_the_group_as_the_place_to_move_within():
    group = {"kind": "group", "id": "g", "steps": [CUT, TONE]}
    (told,) = advise(a_look(group), PIXELS)
    assert (told.path, told.remedy.target, told.remedy.into) == ("steps[0].steps[1]", "cut", "g")


def test_steps_at_neutral_and_spatial_steps_in_the_middle():
    assert kinds({"kind": "tone", "id": "still"}) == [("still", "neutral")]
    assert kinds({"kind": "tone", "id": "still", "enabled": False}) == []
    early = {"kind": "sharpen", "amount": 1, "id": "early"}
    (told,) = advise(a_look(early, TONE), PIXELS)
    assert (told.id, told.kind, told.remedy.kind) == ("early", "before-per-pixel", "to-finish")
    assert kinds(early, TONE | {"enabled": False}) == []


def test_a_lut_of_which_nobody_has_said_what_it_is_for_says_so_until_its_step_says_it():
    def unsure(sha256: str) -> Ends:
        return Ends("film-log", "rec709", is_known=False)

    def told(**ends: str) -> list[str]:
        look = a_look(CHANGED["lut"] | ends, input="film-log", output="film-log")
        return [one.words for one in advise(look, PIXELS, luts=LUTS, declared=unsure) if one.kind.startswith("lut")]

    taken = "Nobody has said what this LUT is made for; it is taken as one from Film log to Rec.709 display. Its page can say it."
    assert told(expects="film-log", gives="rec709") == [taken]
    assert told(expects="film-log", gives="srgb") == [], "its step says another thing: somebody knows"


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"expects": "", "gives": ""}, "Made for Film log, fed with sRGB."),
        ({"expects": "film-log", "gives": "film-log"}, "Gives Rec.709 display, taken as Film log."),
        ({"expects": "film-log", "gives": "rec709"}, None),
    ],
)
def test_a_lut_fed_with_the_wrong_encoding(fields, words):
    look = a_look({"kind": "lut", "id": "lut", "sha256": SHA} | fields)
    found = advise(look, PIXELS, luts=LUTS, declared=lambda sha: Ends("film-log", "rec709") if sha == SHA else None)
    assert [one.words for one in found] == ([words] if words else [])
    if words:
        assert (found[0].remedy.kind, found[0].remedy.target, found[0].remedy.gives) == ("expects", "film-log", "rec709")


def skin_coloured(height: int = 20, width: int = 20) -> np.ndarray:
    """Plain sRGB patches of four made-up skins, from OKLCh (0.45..0.8, 0.06..0.09, 50..60)."""
    tones = np.array([[0.788, 0.616, 0.514], [0.62, 0.45, 0.36], [0.45, 0.31, 0.24], [0.87, 0.72, 0.63]], np.float32)
    return np.repeat(tones, height * width // 4, axis=0).reshape(height, width, 3)


def test_skin_that_turns_further_than_the_tolerance_is_told_on_the_step_that_turns_it_most():
    bands = [{"centre": c, "hue": 20} for c in (29, 66, 110, 142, 195, 264, 300, 328)]
    look = a_look(WARM | {"id": "w", "strength": 0.05}, {"kind": "hue-bands", "id": "push", "bands": bands})
    (told,) = advise(look, skin_coloured(), 6)
    assert (told.id, told.kind, told.remedy.kind) == ("push", "skin", "show")
    assert told.words.startswith("Skin turns ")
    assert "towards yellow and green" in told.words
    assert 15 < float(told.words.split()[2].rstrip("°")) < 25, "the bands turn every hue by 20 degrees"
    assert advise(look, skin_coloured(), 40) == []
    assert advise(look, np.zeros((20, 20, 3), np.float32), 6) == [], "no skin, nothing to say"


def test_in_the_order_of_the_recipe():
    told = advise(
        look_from({"steps": [{"kind": "sharpen", "amount": 1, "id": "a"}, {"kind": "cdl", "id": "b"}, CUT, TONE]}), PIXELS
    )
    assert [one.id for one in told] == ["a", "b", "tone"]


def test_a_few_pixels_of_skin_say_nothing():
    """A fifth of a percent is what counts, here of the 20,000 that are looked at."""
    bands = [{"centre": c, "hue": 30} for c in (29, 66, 110, 142, 195, 264, 300, 328)]
    look = a_look({"kind": "hue-bands", "bands": bands})
    for count, told in ((39, False), (41, True)):
        values = np.full((200, 200, 3), 0.4, np.float32)
        places = np.linspace(0, 39_998, count).astype(int) // 2 * 2  # every second pixel is looked at
        values.reshape(-1, 3)[places] = (0.78, 0.57, 0.45)
        kinds = [one.kind for one in advise(look, values, tolerance=6)]
        assert ("skin" in kinds) is told, (count, kinds)
