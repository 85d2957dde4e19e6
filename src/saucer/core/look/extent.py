"""How much a decoded JSON text may hold, counted before anything is built from it: building and complaining cost far more."""

from __future__ import annotations

from typing import Any

from saucer.core.errors import LookError

MOST_VALUES = 100_000
LONGEST_LIST = 5_000
LONGEST_TEXT = 20_000
DEEPEST = 40


def check_extent(content: Any, place: str = "") -> None:
    """Raises: LookError naming the field, for too many values, too long or too deep ones, and for text that nothing can keep (NUL, half a
    surrogate pair)"""
    count, waiting = 0, [(content, "", 0)]
    while waiting:
        value, path, depth = waiting.pop()
        if isinstance(value, str):
            check_text(value, _within(place, path))
            continue
        if not isinstance(value, dict | list):
            continue
        count += len(value)
        if depth >= DEEPEST:
            raise LookError(place, f"nested more than {DEEPEST} deep")
        if isinstance(value, list) and len(value) > LONGEST_LIST:
            raise LookError(_within(place, path), f"{len(value)} entries; {LONGEST_LIST} is the most of one list")
        if count > MOST_VALUES:
            raise LookError(place, f"more than {MOST_VALUES} values")
        if isinstance(value, dict):
            for key, inner in value.items():
                check_text(key, _within(place, path))
                if isinstance(inner, dict | list | str):
                    waiting.append((inner, f"{path}.{key}" if path else key, depth + 1))
        else:
            waiting += [
                (inner, f"{path}[{at}]", depth + 1) for at, inner in enumerate(value) if isinstance(inner, dict | list | str)
            ]


def check_text(text: str, place: str) -> None:
    """Raises: LookError for text that is too long, or that no database and no file can keep"""
    if len(text) > LONGEST_TEXT:
        raise LookError(place[:200], f"{len(text)} letters; {LONGEST_TEXT} is the most")
    if "\0" in text:
        raise LookError(place[:200], "holds a NUL character; take it out")
    try:
        text.encode()
    except UnicodeEncodeError as error:
        raise LookError(
            place[:200], f"holds half a letter at character {error.start + 1} (a lone surrogate); take it out"
        ) from None


def _within(place: str, path: str) -> str:
    return f"{place}, {path}" if place and path else place or path
