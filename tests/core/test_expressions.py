"""Regular expressions: none is built of what comes from outside, and none can take longer than the text is long squared, or worse.

A repeat without an end inside another is what makes matching take exponential time (Python's own documentation of `re` has no bound).
"""

from __future__ import annotations

import ast
import re._constants as kinds
import re._parser as reader
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

SOURCE = Path(__file__).resolve().parents[2] / "src" / "saucer"
CALLS = {"compile", "match", "search", "fullmatch", "sub", "subn", "split", "findall", "finditer", "template"}
REPEATS = (kinds.MAX_REPEAT, kinds.MIN_REPEAT, kinds.POSSESSIVE_REPEAT)
FEW = 8
"""A repeat of at most so many times multiplies, and no more than that."""


def expressions(source: str) -> Iterator[tuple[int, str | bytes | None]]:
    """Line and expression of each that is used; None for one that is not written down there."""
    for node in ast.walk(ast.parse(source)):
        if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr in CALLS):
            continue
        if isinstance(node.func.value, ast.Name) and node.func.value.id in ("re", "regex"):
            given = node.args[0] if node.args else None
            yield node.lineno, given.value if isinstance(given, ast.Constant) else None


def repeats_a_repeat(expression: Any, inside: bool = False) -> bool:
    for kind, value in expression:
        if kind in REPEATS:
            _, most, inner = value
            many = most > FEW
            if (many and inside) or repeats_a_repeat(inner, inside or many):
                return True
        elif kind is kinds.SUBPATTERN:
            if repeats_a_repeat(value[3], inside):
                return True
        elif kind is kinds.BRANCH:
            if any(repeats_a_repeat(one, inside) for one in value[1]):
                return True
        elif kind in (kinds.ASSERT, kinds.ASSERT_NOT):
            if repeats_a_repeat(value[1], inside):
                return True
        elif kind is kinds.ATOMIC_GROUP and repeats_a_repeat(value, inside):
            return True
    return False


def faults(source: str) -> list[str]:
    found = []
    for line, expression in expressions(source):
        if expression is None:
            found.append(f"{line}: is not written down where it is used")
        elif repeats_a_repeat(reader.parse(expression)):
            found.append(f"{line}: repeats a repeat: {expression!r}")
    return found


def test_no_expression_of_ours_is_built_or_repeats_a_repeat():
    wrong = [f"{path.relative_to(SOURCE)}:{one}" for path in sorted(SOURCE.rglob("*.py")) for one in faults(path.read_text())]
    assert not wrong, "\n".join(wrong)


@pytest.mark.parametrize("source", [
    "re.compile(text)", "re.search(rf'{name}', low)", "re.fullmatch(r'(a+)+', text)", "re.compile(r'(?:<!--(?:.|\\n)*?-->\\s*)*<')",
    "re.match(r'(\\w+\\s?)*$', text)", "re.sub(pattern, '', text)",
])  # fmt: skip
def test_what_is_looked_for_is_found(source):
    assert faults(source)


@pytest.mark.parametrize(
    "source", ["re.compile(r'\\d+(/\\d+)?')", "re.search('a{1,4}b*', text)", "pattern.search(text)", "re.escape(text)"]
)
def test_what_is_harmless_is_let_through(source):
    assert not faults(source)
