"""The API as it is described to programs: every call is there, and what stands there as an example passes the types."""

from __future__ import annotations

import json
import shlex

import jsonschema_rs
import pytest

from saucer.launch.places import ROOT
from saucer.studio.site import openapi
from saucer.studio.site.api import api as described
from saucer.studio.site.reference import VERSION, describe, example_of
from tests.studio.access import TABLE

# As it is kept for the page's types, which a test of what is generated holds against the API: to make it takes seconds.
SCHEMA = json.loads((ROOT / "web/openapi.json").read_bytes())
SENT = {
    (method.upper(), path): told["requestBody"]["content"]["application/json"]["schema"]
    for path, ways in SCHEMA["paths"].items()
    for method, told in ways.items()
    if "application/json" in told.get("requestBody", {}).get("content", {})
}


@pytest.fixture(scope="module")
def calls():
    return {(one.method, one.path.replace(f"/api/{VERSION}/", "/api/")): one for one in describe(described)}


def test_every_call_is_described_and_says_what_a_token_reaches(calls):
    assert set(calls) == set(TABLE)
    assert calls["GET", "/api/shelf/entries"].takes == "read"
    assert calls["POST", "/api/luts"].takes == "bring in"
    assert calls["POST", "/api/luts"].files == ["file"]
    beside = [(one.name, one.where, one.type) for one in calls["POST", "/api/luts"].fields]
    assert ("name", "form", "string") in beside
    assert all(one[0] != "file" for one in beside)
    assert calls["PUT", "/api/looks/{pk}/draft"].takes == "design"
    assert calls["POST", "/api/catalogue/tags/rename"].takes == "publish"
    assert [calls["POST", "/api/own/tokens"].takes, calls["POST", "/api/team/invites"].takes] == ["", ""], "in person only"
    assert calls["GET", "/api/links/{code}"].is_open
    assert not calls["POST", "/api/own/tokens"].is_open
    named_only = [
        f"{method} {path}" for path, ways in SCHEMA["paths"].items() for method, told in ways.items() if not told.get("description")
    ]
    assert named_only == []


def test_what_was_written_is_told_only_where_it_names_the_calls_that_there_are(tmp_path, monkeypatch):
    assert openapi.written_schema(described) == SCHEMA == described.get_openapi_schema()
    monkeypatch.setattr(openapi, "WRITTEN", tmp_path / "openapi.json")
    assert openapi.written_schema(described) is None
    earlier = {path: ways for path, ways in SCHEMA["paths"].items() if path != "/api/session"}
    openapi.WRITTEN.write_text(json.dumps(SCHEMA | {"paths": earlier}))
    assert openapi.written_schema(described) is None


@pytest.mark.parametrize("sent", SENT, ids=" ".join)
def test_an_example_passes_the_type_it_is_sent_to(calls, sent):
    """Checked by jsonschema-rs, which reads the description as any program would."""
    call = calls[sent]
    jsonschema_rs.validate(SENT[sent] | {"components": SCHEMA["components"]}, json.loads(call.body))
    words = shlex.split(call.example.replace("\\\n", ""))
    assert words[:3] == ["curl", "-X", call.method]
    assert json.loads(words[words.index("-d") + 1]) == json.loads(call.body)


@pytest.mark.parametrize(
    ("schema", "value"),
    [
        ({"type": "integer", "minimum": 3}, 3),
        ({"type": "integer"}, 1),
        ({"type": "number", "minimum": 0, "maximum": 20}, 10),
        ({"type": "string", "maxLength": 2}, "te"),
        ({"type": "string", "minLength": 6}, "textxx"),
        ({"type": "string", "format": "date"}, "2027-01-31"),
        ({"enum": ["cube", "clf"]}, "cube"),
        ({"anyOf": [{"type": "null"}, {"type": "boolean"}]}, True),
        ({"type": "array", "items": {"type": "integer"}, "minItems": 2}, [1, 1]),
        ({"type": "array", "prefixItems": [{"type": "integer"}, {"type": "boolean"}]}, [1, True]),
        ({"type": "object", "properties": {"a": {"type": "integer"}, "b": {"type": "integer"}}, "required": ["b"]}, {"b": 1}),
        ({"type": "object", "properties": {"a": {"type": "integer"}, "b": {"anyOf": [{"type": "null"}]}}}, {"a": 1}),
    ],
)
def test_an_example_is_what_a_schema_asks_for(schema, value):
    assert example_of({}, schema) == value


def test_what_holds_itself_comes_to_an_end():
    nested = {
        "type": "object",
        "properties": {"steps": {"type": "array", "items": {"$ref": "#/components/schemas/Step"}}},
        "required": ["steps"],
    }
    found = example_of({"components": {"schemas": {"Step": nested}}}, nested)
    assert json.dumps(found).count("steps") < 10


@pytest.mark.django_db
def test_paths_of_programs_carry_the_version(api, client):
    assert api.call("GET", "/v1/shelf/entries").json() == api.get("/shelf/entries")
    assert client.get("/api/v1/shelf/entries").status_code == 401
    for other in ("/v2/shelf/entries", "/v01x/shelf/entries", "/v1"):
        assert api.call("GET", other).status_code == 404


@pytest.mark.django_db
def test_the_page_is_told_all_of_it(api, calls):
    found = api.get("/reference")
    assert len(found) == len(calls)
    assert {"group", "method", "path", "words", "takes", "is_open", "fields", "files", "body", "answer", "example"} == set(found[0])
