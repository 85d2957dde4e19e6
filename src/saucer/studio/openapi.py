"""The OpenAPI file that the web application's types are generated from: `python -m saucer.studio.openapi > web/openapi.json`."""

from __future__ import annotations

import json
import os


def text() -> str:
    import django

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer.studio.settings")
    django.setup()
    from saucer.studio.api import api

    return json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=2, sort_keys=True, default=str) + "\n"


if __name__ == "__main__":
    print(text(), end="")
