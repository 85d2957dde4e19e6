"""The JSON Schema of the look file, made from the models; `./saucer generate` writes docs/look.schema.json."""

from __future__ import annotations

import json

from saucer.core.look.model import Look

TITLE = "Saucer look file"


def schema_text() -> str:
    """JSON Schema 2020-12."""
    schema = Look.model_json_schema(mode="validation")
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": TITLE} | {
        k: v for k, v in schema.items() if k != "title"
    }
    # A field that every file must begin with has a default in the model, for code that makes looks.
    schema["required"] = ["format"]
    return json.dumps(schema, indent=2) + "\n"
