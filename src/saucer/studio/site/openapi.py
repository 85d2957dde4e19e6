"""The API as OpenAPI: made from code, and, as that takes seconds, read from where `./saucer generate` has written it."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from ninja import NinjaAPI
from ninja.operation import Operation

from saucer.studio.common.local import ROOT

WRITTEN = ROOT / "web" / "openapi.json"
"""The types of the page are made from it too; a test holds it against the API."""
PREFIX = "/api/"


def make_schema(api: NinjaAPI) -> dict[str, Any]:
    """From the calls and their types; a plain NinjaAPI's own way, whatever this one does in its place."""
    return NinjaAPI.get_openapi_schema(api, path_prefix=PREFIX)


def written_schema(api: NinjaAPI) -> dict[str, Any] | None:
    """What was written; none where it is not there, or tells of other calls than there are, as while one is being added."""
    try:
        found: dict[str, Any] = json.loads(WRITTEN.read_bytes())
    except FileNotFoundError:
        return None
    told = {(method.upper(), path) for path, ways in found["paths"].items() for method in ways}
    return found if told == {(method, path) for path, method, one in operations(api) if one.include_in_schema} else None


def operations(api: NinjaAPI) -> Iterator[tuple[str, str, Operation]]:
    """Paths, from /api/ on, with their methods in capitals."""
    for prefix, router in api._routers:
        for path, view in router.path_operations.items():
            for one in view.operations:
                for method in one.methods:
                    yield PREFIX + "/".join(part for part in f"{prefix}{path}".split("/") if part), method, one


def openapi_text(api: NinjaAPI) -> str:
    return json.dumps(make_schema(api), indent=2, default=str) + "\n"
