"""How two looks differ, in words."""

from __future__ import annotations

import pytest

from saucer.core.look.differences import describe_differences
from tests.make import CHANGED, WARM, a_look

CURVES = {"kind": "curves", "id": "c"}
TONE = {"kind": "tone", "id": "t", "exposure": 0.5}
WASH = {"kind": "wash", "id": "w"}


def told(before, after, **fields):
    return describe_differences(a_look(*before), a_look(*after, **fields))


@pytest.mark.parametrize(
    ("before", "after", "words"),
    [
        ([CURVES], [CURVES | {"blue": [[0, 25 / 255], [1, 1]]}], ["Curves: blue black point 0 -> 25"]),
        ([CURVES], [CURVES | {"master": [[0, 0], [1, 230 / 255]]}], ["Curves: master white point 255 -> 230"]),
        ([CURVES], [CURVES | {"red": [[0, 0], [0.5, 0.6], [1, 1]]}], ["Curves: red curve, 2 points -> 3: 0 to 0, 127.5 to 153, 255 to 255"]),
        ([TONE], [TONE | {"exposure": 0.75}], ["Tone: exposure 0.5 -> 0.75"]),
        ([TONE], [TONE | {"enabled": False, "strength": 0.4}], ["Tone: off", "Tone: strength 100 % -> 40 %"]),
        ([TONE], [TONE | {"name": "Base"}], ['Base: renamed from "Tone"']),
        ([TONE], [TONE | {"note": "For the lamps"}], ["Tone: another note"]),
        ([TONE], [TONE, WASH], ["Wash: added"]),
        ([TONE, WASH], [WASH], ["Tone: removed"]),
        ([TONE, WASH, CURVES], [WASH, CURVES, TONE], ["Tone: moved after Curves"]),
        ([TONE, WASH, CURVES], [CURVES, TONE, WASH], ["Curves: moved to the beginning"]),
        ([TONE, WASH], [{"kind": "group", "id": "g", "steps": [TONE]}, WASH], ["Group: added", "Tone: moved into Group"]),
        ([WASH], [WASH | {"colour": [1, 0.5, 0]}], ["Wash: colour (1, 1, 1) -> (1, 0.5, 0)"]),
        ([CHANGED["cdl"] | {"id": "x"}], [CHANGED["cdl"] | {"id": "x", "clamp": True}], ["CDL: clamp no -> yes"]),
        ([CHANGED["split-tone"] | {"id": "x"}], [CHANGED["split-tone"] | {"id": "x", "shadows": {"hue": 240, "amount": 0.05}}], ["Split tone: shadows hue 250 -> 240"]),
    ],
)  # fmt: skip
def test_a_change_in_words(before, after, words):
    assert told(before, after) == words
    assert told(after, after) == []


def test_of_the_look_itself():
    assert told([TONE], [TONE], name="Salt", input="film-log", output="rec709", strength=0.5) == [
        'Name: "" -> "Salt"', "Made for: sRGB -> Film log", "Ends in: sRGB -> Rec.709 display", "Strength of the look: 100 % -> 50 %",
    ]  # fmt: skip


def test_steps_without_ids_are_matched_by_their_kind_and_order():
    assert told([WARM, {"kind": "tone", "exposure": 1}], [WARM, {"kind": "tone", "exposure": 2}]) == ["Tone: exposure 1 -> 2"]


def test_no_change_is_passed_over_in_a_step_that_changed_everywhere():
    """Every field of every kind has words; what is said has the step's title in front."""
    for kind, changed in CHANGED.items():
        lines = told([{"kind": kind, "id": "s"}], [changed | {"id": "s"}])
        assert len(lines) >= sum(field != "kind" for field in changed if changed[field] != "tetrahedral") - 2, (kind, lines)
        assert all((": " in line and "->" in line) or "another LUT" in line for line in lines), lines
