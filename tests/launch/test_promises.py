"""docs/security.md names a test for each promise: every one is there. docs/formats.md tells the limits of readers as they are."""

from __future__ import annotations

import ast
import re

import pytest

from saucer.core.reading.limits import LIMITS, MB
from saucer.launch.places import ROOT

NAMED = re.findall(r"`(tests/[\w/]+\.py)::(\w+)`", (ROOT / "docs" / "security.md").read_text())


@pytest.mark.parametrize(("path", "name"), sorted(set(NAMED)))
def test_the_test_of_a_promise_is_there(path, name):
    found = ast.walk(ast.parse((ROOT / path).read_text()))
    assert name in {one.name for one in found if isinstance(one, ast.FunctionDef)}


def test_promises_are_made():
    assert len(NAMED) > 15


@pytest.mark.parametrize("kind", LIMITS)
def test_limits_are_told_as_they_are(kind):
    limit = LIMITS[kind]
    row = f"| {limit.words} | {limit.bytes // MB:,} MB | {limit.memory // MB:,} MB | {limit.processor} s | {limit.seconds:.0f} s |"
    assert row in (ROOT / "docs" / "formats.md").read_text()
