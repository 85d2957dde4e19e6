"""The page about every step kind, made from the models; `./saucer generate` writes docs/steps.md."""

from __future__ import annotations

import inspect
import json
from typing import Any

from saucer.core.steps.kinds import pixel_kinds, spatial_kinds
from saucer.core.steps.parameters import SETTINGS
from saucer.core.steps.registry import Kind

HEAD = """# Steps

Made by `./saucer generate` from the models that check a look file; a field's default is its neutral value. Every step
also has `enabled`, `strength` (0..1), `name` and `id`. The same as JSON Schema: [look.schema.json](look.schema.json).
"""


def pages_text() -> str:
    parts = [HEAD]
    for title, kinds in (("Per-pixel steps", pixel_kinds()), ("Spatial steps, never in a LUT", spatial_kinds())):
        parts.append(f"## {title}\n")
        parts += [_page(kind) for kind in kinds.values()]
    return "\n".join(parts)


def _page(kind: Kind) -> str:
    schema = kind.parameters.model_json_schema()
    lines = [
        f"### {kind.title} (`{kind.kind}`)",
        "",
        inspect.getdoc(kind.parameters) or "",
        "",
        "| field | values | neutral |",
        "|---|---|---|",
    ]
    lines += _rows(schema["properties"], schema.get("$defs", {}), "")
    return "\n".join(lines) + "\n"


def _rows(properties: dict[str, Any], definitions: dict[str, Any], inside: str) -> list[str]:
    rows = []
    for name, field in properties.items():
        if not inside and name in SETTINGS:
            continue
        inner = definitions.get(field.get("$ref", "").rsplit("/", 1)[-1])
        if inner is not None:
            rows.append(f"| `{name}` | {_values(field, definitions)} | |")
            continue
        rows.append(f"| `{inside}{name}` | {_values(field, definitions)} | {_neutral(field)} |")
    named = {ref for field in properties.values() for ref in (field.get("$ref"), field.get("items", {}).get("$ref")) if ref}
    for ref in sorted(named):
        rows += _rows(definitions[ref.rsplit("/", 1)[-1]]["properties"], definitions, f"{ref.rsplit('/', 1)[-1]}: ")
    return rows


def _values(field: dict[str, Any], definitions: dict[str, Any]) -> str:
    if "$ref" in field:
        words = field["$ref"].rsplit("/", 1)[-1]
    elif "enum" in field:
        words = ", ".join(f"`{value}`" for value in field["enum"])
    elif "anyOf" in field:
        words = " or ".join(_values(one, definitions) for one in field["anyOf"])
    elif "prefixItems" in field:
        parts = [_values(one, definitions) for one in field["prefixItems"]]
        words = f"{len(parts)} x {parts[0]}" if len(set(parts)) == 1 else f"({', '.join(parts)})"
    elif "items" in field:
        words = f"{field.get('minItems', 0)} to {field['maxItems']} x {_values(field['items'], definitions)}"
    elif "minimum" in field:
        above = field.get("maximum", field.get("exclusiveMaximum"))
        words = " ".join([f"{field['minimum']:g} to {above:g}", *([field["unit"]] if "unit" in field else [])])
    else:
        words = {"boolean": "true, false", "null": "null"}.get(field.get("type", ""), "text")
    return f"{words}; {field['description']}" if field.get("description") and "$ref" not in field else words


def _neutral(field: dict[str, Any]) -> str:
    if "default" not in field:
        return ""
    shown = json.dumps(field["default"])
    return f"`{shown}`" if len(shown) < 60 else "evenly about the circle, unchanged"
