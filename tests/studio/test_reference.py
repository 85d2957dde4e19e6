"""The API as it is described to programs: every call is there, and what stands there as an example passes the types."""

from __future__ import annotations

import json
import shlex

import jsonschema_rs
import pytest

from saucer.studio.site.api import api as described
from saucer.studio.site.reference import VERSION, describe, example_of
from tests.studio.access import TABLE

SCHEMA = described.get_openapi_schema(path_prefix="/api/")
CALLS = describe(described)


def unversioned(path: str) -> str:
    return path.replace(f"/api/{VERSION}/", "/api/")


def sent_to(call):
    told = SCHEMA["paths"][unversioned(call.path)][call.method.lower()]
    return told.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")


def test_every_call_is_described_and_says_what_a_token_reaches():
    assert {(one.method, unversioned(one.path)) for one in CALLS} == set(TABLE)
    by = {(one.method, unversioned(one.path)): one for one in CALLS}
    assert by["GET", "/api/shelf/entries"].takes == "read"
    assert by["POST", "/api/luts"].takes == "bring in"
    assert by["POST", "/api/luts"].files == ["file"]
    assert by["PUT", "/api/looks/{pk}/draft"].takes == "design"
    assert by["POST", "/api/catalogue/tags/rename"].takes == "publish"
    assert [by["POST", "/api/own/tokens"].takes, by["POST", "/api/team/invites"].takes] == ["", ""], "in person only"
    assert by["GET", "/api/links/{code}"].is_open
    assert not by["POST", "/api/own/tokens"].is_open
    assert all(one.words for one in CALLS)


@pytest.mark.parametrize("call", [one for one in CALLS if one.body], ids=lambda one: f"{one.method} {one.path}")
def test_an_example_passes_the_type_it_is_sent_to(call):
    """Checked by jsonschema-rs, which reads the description as any program would."""
    jsonschema_rs.validate(sent_to(call) | {"components": SCHEMA["components"]}, json.loads(call.body))
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
def test_the_page_is_told_all_of_it(api):
    found = api.get("/reference")
    assert len(found) == len(CALLS)
    assert {"group", "method", "path", "words", "takes", "is_open", "fields", "files", "body", "answer", "example"} == set(found[0])
