"""Patterns of names against the standard library's expressions, and how long they take at their worst."""

from __future__ import annotations

import re
import time

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from saucer.studio.projects.story.patterns import read_pattern

FIELDS = frozenset(("scene", "shot"))
PARTS = st.lists(st.sampled_from(["{scene}", "{shot}", "*", "_", "a", "ab", "-", "{"]), max_size=6).filter(
    lambda parts: parts.count("{scene}") < 2 and parts.count("{shot}") < 2
)


def as_expression(parts: list[str]) -> re.Pattern[str]:
    """What a pattern means, as the expression that it stands for: fields and stars take as little as they may."""
    said = {"{scene}": "(?P<scene>.+?)", "{shot}": "(?P<shot>.+?)", "*": ".*?"}
    return re.compile("".join(said.get(part, re.escape(part)) for part in parts))


@example(["{scene}", "*"], "ab")
@example(["*", "{scene}", "{shot}"], "abc")
@given(PARTS, st.text("ab_-{", max_size=12))
def test_a_name_is_shared_out_as_the_expression_would(parts, name):
    match = as_expression(parts).fullmatch(name)
    assert read_pattern("".join(parts), FIELDS).match(name) == (match.groupdict() if match else None)


@pytest.mark.parametrize("pattern", ["{scene}" + "*" * 60, "{scene}" + "*a" * 50 + "b", "*a" * 30 + "{scene}" + "*a" * 30])
def test_ten_thousand_letters_take_less_than_ten_milliseconds(pattern):
    """At nine stars an expression took the server down."""
    wanted, name, took = read_pattern(pattern, FIELDS), "a" * 10_000, []
    for _ in range(5):
        began = time.process_time()
        wanted.match(name)
        took.append(time.process_time() - began)
    assert min(took) < 0.01
