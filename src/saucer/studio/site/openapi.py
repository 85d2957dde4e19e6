"""The OpenAPI file that the web application's types are generated from; `./saucer generate` writes web/openapi.json."""

from __future__ import annotations

import json

from saucer.studio.site.api import api


def openapi_text() -> str:
    return json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=2, sort_keys=True, default=str) + "\n"
