"""The API described for those who write programs: every path, what a token has to reach for it, and an example that can be sent."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from ninja import NinjaAPI
from ninja.constants import NOT_SET
from ninja.operation import Operation

from saucer.studio.people.access import Access
from saucer.studio.people.models import Scope
from saucer.studio.site.openapi import operations

VERSION = "v1"
DEEPEST = 5
"""Levels of an example: what lies deeper is left out where it may be."""
TEXTS = {"date": "2027-01-31", "date-time": "2027-01-31T12:00:00Z", "binary": "FILE"}


@dataclass(frozen=True)
class Field:
    """where: in the path, behind the ? (query), or beside files (form); words: what is said of it"""

    name: str
    where: str
    type: str
    is_required: bool
    words: str


@dataclass(frozen=True)
class Described:
    """path: with its version; takes: what a token has to reach, empty where none does and somebody is there in person

    is_open: also for who has no account; files: fields of a form that hold them; body, answer: examples as JSON, empty for none
    """

    group: str
    method: str
    path: str
    words: str
    takes: str
    is_open: bool
    fields: list[Field]
    files: list[str]
    body: str
    answer: str
    example: str


def describe(api: NinjaAPI) -> list[Described]:
    """In the order of their groups and paths."""
    schema = api.get_openapi_schema()
    found_by = {(method, path): one for path, method, one in operations(api)}
    found = [
        _described(schema, method.upper(), path, told, _access(api, found_by[method.upper(), path]))
        for path, ways in schema["paths"].items()
        for method, told in ways.items()
    ]
    return sorted(found, key=lambda one: (one.group, one.path, one.method))


def _access(api: NinjaAPI, operation: Operation) -> Access | None:
    """Of the API itself, where a path says nothing else; none where everybody is let in."""
    asked = operation.auth_param if operation.auth_param is not NOT_SET else api.auth
    found = asked if isinstance(asked, Sequence) else [asked]
    return next((one for one in found if isinstance(one, Access)), None)


def _described(schema: Mapping[str, Any], method: str, path: str, told: Mapping[str, Any], access: Access | None) -> Described:
    content = told.get("requestBody", {}).get("content", {})
    form, sent = content.get("multipart/form-data"), content.get("application/json")
    body = json.dumps(example_of(schema, sent["schema"]), indent=1) if sent else ""
    files, beside = _form_of(schema, form["schema"]) if form else ([], [])
    whole = f"/api/{VERSION}{path.removeprefix('/api')}"
    fields = [_field(schema, one) for one in told.get("parameters", [])] + beside
    return Described(
        (told.get("tags") or ["other"])[0], method, whole, _words_of(told), _scope(method, access), access is None, fields, files, body,
        _answer(schema, told), _call(method, whole, body, files),
    )  # fmt: skip


def _words_of(told: Mapping[str, Any]) -> str:
    return str(told.get("description") or told["summary"].lower().capitalize())


def _scope(method: str, access: Access | None) -> str:
    if access is None or access.scope is None:
        return ""
    return str(Scope.READ.value if method == "GET" else access.scope.value)


def _field(schema: Mapping[str, Any], one: Mapping[str, Any]) -> Field:
    words = str(one.get("description") or one["schema"].get("description", ""))
    return Field(one["name"], one["in"], _type_of(schema, one["schema"]), bool(one.get("required")), words)


def _resolved(schema: Mapping[str, Any], one: Mapping[str, Any]) -> Mapping[str, Any]:
    """Without references, and of several ways the first that is not nothing."""
    while True:
        if "$ref" in one:
            one = schema["components"]["schemas"][one["$ref"].rsplit("/", 1)[1]]
        elif ways := one.get("anyOf") or one.get("oneOf") or one.get("allOf"):
            one = next((way for way in ways if way.get("type") != "null"), ways[0])
        else:
            return one


def _type_of(schema: Mapping[str, Any], one: Mapping[str, Any]) -> str:
    found = _resolved(schema, one)
    if "enum" in found:
        return " | ".join(str(value) for value in found["enum"])
    inner = _type_of(schema, found["items"]) if found.get("type") == "array" and "items" in found else ""
    return f"{inner}, several" if inner else str(found.get("format") or found.get("type", "any"))


def _form_of(schema: Mapping[str, Any], form: Mapping[str, Any]) -> tuple[list[str], list[Field]]:
    """Returns: the fields that hold files, and those beside them"""
    whole = _resolved(schema, form)
    files, beside = [], []
    for name, one in whole.get("properties", {}).items():
        if _resolved(schema, _resolved(schema, one).get("items", one)).get("format") == "binary":
            files.append(name)
        else:
            told = {"name": name, "in": "form", "required": name in whole.get("required", []), "schema": one}
            beside.append(_field(schema, told))
    return files, beside


def example_of(schema: Mapping[str, Any], one: Mapping[str, Any], depth: int = 0) -> Any:
    """A value that a schema lets through, with all that it asks for and, at the top, what it is nothing without."""
    found = _resolved(schema, one)
    for said in ("const", "default", "example"):
        if said in found and found[said] is not None:
            return found[said]
    if "enum" in found:
        return found["enum"][0]
    match found.get("type"):
        case "object":
            fields = found.get("properties", {})
            told_apart = one.get("discriminator", {}).get("propertyName")
            wanted = [*([told_apart] if told_apart in fields else []), *found.get("required", [])]
            if depth == 0 and not wanted:
                wanted = [name for name in fields if not _may_be_nothing(fields[name])][:3] or list(fields)[:1]
            return {name: example_of(schema, fields[name], depth + 1) for name in wanted if name in fields}
        case "array":
            if found.get("prefixItems"):
                return [example_of(schema, item, depth + 1) for item in found["prefixItems"]]
            few = depth > DEEPEST or "items" not in found
            return [] if few else [example_of(schema, found["items"], depth + 1)] * max(1, found.get("minItems", 1))
        case "integer":
            return int(found.get("minimum", found.get("exclusiveMinimum", 0))) or 1
        case "number":
            low, high = found.get("minimum", found.get("exclusiveMinimum", 0)), found.get("maximum", 1)
            return round((low + high) / 2, 4)
        case "boolean":
            return True
        case "string":
            return TEXTS.get(found.get("format", ""), "text"[: found.get("maxLength", 4)].ljust(found.get("minLength", 0), "x"))
    return None


def _may_be_nothing(one: Mapping[str, Any]) -> bool:
    return any(way.get("type") == "null" for way in one.get("anyOf", []))


def _answer(schema: Mapping[str, Any], told: Mapping[str, Any]) -> str:
    for status, answer in told.get("responses", {}).items():
        content = answer.get("content", {}).get("application/json") if str(status).startswith("2") else None
        if content and (found := example_of(schema, content["schema"], 1)) is not None:
            return json.dumps(found, indent=1)
    return ""


def _call(method: str, path: str, body: str, files: list[str]) -> str:
    """For a shell. The address of the studio stands in STUDIO, the token in TOKEN."""
    words = [f'curl -X {method} -H "Authorization: Bearer $TOKEN" "$STUDIO{path}"']
    words += [f"-F {name}=@file" for name in files]
    if body:
        words += ["-H 'Content-Type: application/json'", f"-d '{json.dumps(json.loads(body))}'"]
    return " \\\n  ".join(words)
