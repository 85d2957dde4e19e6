"""Who may speak HTTP, and that every app has put its part in."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest
from django.core.checks import run_checks

from saucer.launch.places import ROOT
from saucer.studio.catalogue.uses import FINDERS
from saucer.studio.projects.changes import WAYS
from saucer.studio.site.wiring import check_parts

STUDIO = ROOT / "src" / "saucer" / "studio"
SPEAK_HTTP = frozenset((
    "common/downloads", "common/images", "people/access", "people/adapters", "people/auth_urls", "people/elsewhere", "people/own", "people/seen", "people/signed_in", "people/signing_in", "projects/answers", "projects/story/answers", "site/front", "site/headers",
    "site/metrics", "site/openapi", "site/parsing", "site/reference", "site/urls", "site/watching", "uploads/in_place",
))  # fmt: skip
"""Beside the modules called api: what answers and requests pass through."""


def speaks_http(text: str) -> bool:
    names = []
    for one in ast.walk(ast.parse(text)):
        if isinstance(one, ast.ImportFrom):
            names.append(one.module or "")
        elif isinstance(one, ast.Import):
            names += [each.name for each in one.names]
    return any(name.split(".")[0] == "ninja" or name.startswith("django.http") for name in names)


def may_speak(path: Path) -> bool:
    name = str(path.relative_to(STUDIO).with_suffix(""))
    return path.stem == "api" or path.stem.endswith("_api") or name in SPEAK_HTTP


def test_only_modules_of_the_api_speak_http():
    wrong = [str(path) for path in STUDIO.rglob("*.py") if not may_speak(path) and speaks_http(path.read_text())]
    assert wrong == []


def test_what_may_speak_http_does():
    assert all(speaks_http((STUDIO / f"{name}.py").read_text()) for name in SPEAK_HTTP)
    assert not speaks_http("from django.db import models")
    assert speaks_http("def f():\n    from ninja import Router")


def test_every_app_has_put_its_part_in():
    assert check_parts() == []
    assert not [one for one in run_checks() if one.id.startswith("saucer")]


@pytest.mark.parametrize("app", ["luts", "boards", "projects"])
def test_a_part_that_is_missing_is_told(app, monkeypatch):
    kept = [one for one in FINDERS if f".{app}." not in one.__module__]
    monkeypatch.setattr(
        "saucer.studio.site.wiring.PARTS", {"what uses an entry": (kept, frozenset({"luts", "boards", "projects"}))}
    )
    (told,) = check_parts()
    assert told.msg == f"{app} says nothing of what uses an entry"


def test_a_change_that_nothing_takes_back_is_told(monkeypatch):
    monkeypatch.delitem(WAYS, "move shots")
    (told,) = check_parts()
    assert '"move shots"' in told.msg
