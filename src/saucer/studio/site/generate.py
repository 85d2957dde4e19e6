"""Everything in the repository that is made from code: what it is called, and what stands in it."""

from __future__ import annotations

from collections.abc import Callable

from saucer.core.look.schema import schema_text
from saucer.core.look.step_pages import pages_text
from saucer.studio.packing.manifest import schema_text as pack_schema_text
from saucer.studio.projects.deliver.frozen import schema_text as delivery_schema_text
from saucer.studio.site.api import api
from saucer.studio.site.layout import layout_text
from saucer.studio.site.openapi import openapi_text
from saucer.studio.site.settings_page import settings_text

GENERATED: dict[str, Callable[[], str]] = {
    "docs/look.schema.json": schema_text,
    "docs/steps.md": pages_text,
    "docs/pack.schema.json": pack_schema_text,
    "docs/delivery.schema.json": delivery_schema_text,
    "web/openapi.json": lambda: openapi_text(api),
    "docs/layout.md": layout_text,
    "docs/operating.md": settings_text,
}
"""By path from the top of the repository. The web's types are made from web/openapi.json by the web's own tools."""
