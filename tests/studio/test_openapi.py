"""The committed OpenAPI file and the types made from it say what the server does."""

from __future__ import annotations

from pathlib import Path

from django.core.management import call_command

from saucer.core.spatial import spatial_kinds
from saucer.core.steps import step_kinds
from saucer.studio.openapi import text

WEB = Path(__file__).parents[2] / "web"


def test_the_openapi_file_is_current():
    assert (WEB / "openapi.json").read_text() == text(), (
        "run: python -m saucer.studio.openapi > web/openapi.json, then npm run types in web/"
    )


def test_every_kind_of_step_has_an_editor_and_every_editor_a_kind():
    editors = {path.stem for path in (WEB / "src" / "bench" / "steps").glob("*.tsx")}
    assert editors == {"group", *step_kinds(), *spatial_kinds()}


def test_migrations_are_current(db):
    call_command("makemigrations", "--check", "--dry-run", verbosity=0)
