"""The published JSON Schema, and encodings defined as data."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.errors import LookError
from saucer.core.look import schema
from saucer.core.look.model import look_from, look_text, parse_look
from saucer.core.steps.kinds import pixel_kinds, spatial_kinds
from tests.make import a_look, any_step, evaluate

DOCS = Path(__file__).parents[2] / "docs"
LOGC3 = {
    "id": "house-log", "name": "House log", "white": [0.3127, 0.329], "red": [0.684, 0.313], "green": [0.221, 0.848],
    "blue": [0.0861, -0.102],
    "log": {
        "base": 10, "log_side_slope": 0.24719, "log_side_offset": 0.385537, "lin_side_slope": 5.555556, "lin_side_offset": 0.052272,
        "lin_side_break": 0.010591, "linear_slope": 5.367655,
    },
}  # fmt: skip


def test_every_kind_with_its_ranges_and_units_is_in_the_schema():
    definitions = json.loads(schema.schema_text())["$defs"]
    kinds = {part["properties"]["kind"]["const"] for part in definitions.values() if "kind" in part.get("properties", {})}
    assert kinds == {"group", *pixel_kinds(), *spatial_kinds()}
    exposure = definitions["Tone"]["properties"]["exposure"]
    assert (exposure["minimum"], exposure["maximum"], exposure["unit"], exposure["default"]) == (-8, 8, "stops", 0)
    for kind in (*pixel_kinds().values(), *spatial_kinds().values()):
        assert definitions[kind.parameters.__name__]["description"], kind.kind


@pytest.mark.parametrize("kind", sorted(pixel_kinds() | spatial_kinds()))
@settings(max_examples=10, suppress_health_check=[HealthCheck.filter_too_much])
@given(data=st.data())
def test_any_step_survives_the_file(kind, data):
    look = a_look(json.loads(data.draw(any_step(kind)).model_dump_json()))
    assert parse_look(look_text(look)) == look


def test_an_own_encoding_in_a_look_file_is_used_and_names_its_look():
    """LogC3's published parameters given as data are LogC3."""
    steps = [{"kind": "convert", "to": "house-log"}, {"kind": "tone", "brightness": 0.2}, {"kind": "convert", "to": "srgb"}]
    x = np.random.default_rng(1).random((100, 3), dtype=np.float32)
    own = evaluate(look_from({"encodings": [LOGC3], "steps": steps}), x)
    shipped = evaluate(look_from({"steps": [steps[0] | {"to": "logc3-ei800"}, *steps[1:]]}), x)
    np.testing.assert_allclose(own, shipped, atol=2e-5)
    assert parse_look(look_text(look_from({"encodings": [LOGC3], "steps": steps}))).encoding("house-log").name == "House log"
    assert "house-log" not in ENCODINGS


def test_pq_of_a_peak_that_the_team_states_is_the_shipped_one():
    primaries = {name: getattr(ENCODINGS["pq"].primaries, name) for name in ("red", "green", "blue", "white")}
    own = {"id": "grading-suite", "name": "Grading suite", "pq": {"peak": 1000}, "referred": "display", **primaries}
    x = np.random.default_rng(1).random((500, 3)).astype(np.float32)
    found = [
        evaluate(look_from({"input": "acescct", "output": to, "encodings": given, "steps": [
            {"kind": "convert", "to": to, "rendering": "scale", "gamut": "clip"}
        ]}), x)
        for to, given in (("grading-suite", [own]), ("pq-1000", []))
    ]  # fmt: skip
    np.testing.assert_allclose(*found, atol=1e-6)
    assert found[0].max() <= 0.7519, "1000 cd/m2 (SMPTE ST 2084)"


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"id": "srgb"}, 'encodings[0].id: "srgb" is a shipped encoding; choose another id'),
        ({"id": "House Log"}, "encodings[0].id: "),
        ({"white": [0.9, 0.9]}, "encodings[0].white: must lie inside the triangle"),
        ({"green": [0.684, 0.313]}, "encodings[0].white: must lie inside the triangle"),
        (
            {"log": LOGC3["log"] | {"lin_side_break": -1}},
            "encodings[0].log.lin_side_break: the logarithm is of nothing positive there",
        ),
        ({"log": LOGC3["log"] | {"base": 1}}, "encodings[0].log.base: "),
        ({"log": LOGC3["log"] | {"gain": 1}}, "encodings[0].log.gain: unknown field"),
        ({"red": [0.7]}, "encodings[0].red"),
        ({"log": None, "referred": "display", "logc3": {"exposure_index": 800}}, "encodings[0].referred: LogC3 is a camera's"),
        ({"log": None, "logc3": {"exposure_index": 3200}}, "encodings[0].logc3.exposure_index: "),
        ({"log": None, "pq": {"peak": 600}}, "encodings[0].referred: PQ is the light of a display"),
        ({"log": None, "referred": "display", "pq": {"peak": 60}}, "encodings[0].pq.peak: "),
    ],
)
def test_definitions_that_cannot_be_computed_are_refused_by_field(change, words):
    with pytest.raises(LookError) as refusal:
        look_from({"encodings": [LOGC3 | change]}, "a.json")
    assert str(refusal.value).startswith(f"a.json: {words}")
