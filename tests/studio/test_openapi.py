"""The committed OpenAPI file and the types made from it say what the server does."""

from __future__ import annotations

from pathlib import Path

import pytest
from django.core.management import call_command
from ninja import Schema

from saucer.core.steps.kinds import kinds
from saucer.studio.site.generate import GENERATED

ROOT = Path(__file__).parents[2]
WEB = ROOT / "web"


@pytest.mark.parametrize("path", GENERATED)
def test_what_is_made_from_code_is_current(path):
    assert (ROOT / path).read_text() == GENERATED[path](), "run: ./saucer generate"


def test_every_kind_of_step_has_an_editor_and_every_editor_a_kind():
    there = {path.stem for path in (WEB / "src" / "look" / "steps" / "kinds").glob("*.tsx")}
    assert there == {f"{kind}{part}" for kind in ("group", *kinds()) for part in ("", ".editor")}


def test_migrations_are_current(db):
    call_command("makemigrations", "--check", "--dry-run", verbosity=0)


def test_no_two_models_of_the_api_share_a_name():
    """In the description one would stand for both, and the page's types would be those of the other."""
    found: dict[str, set[str]] = {}

    def walk(model: type) -> None:
        for one in model.__subclasses__():
            if one.__module__.startswith("saucer.studio"):
                found.setdefault(one.__name__, set()).add(one.__module__)
            walk(one)

    walk(Schema)
    assert len(found) > 100
    assert {name: modules for name, modules in found.items() if len(modules) > 1} == {}
