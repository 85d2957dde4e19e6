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


def test_every_editor_is_of_a_step_kind():
    """Kinds without an editor of their own yet are shown by the Bench in words, with their strength."""
    editors = {path.stem for path in (WEB / "src" / "bench" / "steps").glob("*.tsx")}
    assert editors
    assert editors <= set(step_kinds() | spatial_kinds())


def test_migrations_are_current(db):
    call_command("makemigrations", "--check", "--dry-run", verbosity=0)
