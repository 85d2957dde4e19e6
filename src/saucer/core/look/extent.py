"""How much a decoded JSON text may hold, counted before anything is built from it: building and complaining cost far more."""

from __future__ import annotations

import json
from typing import Any

from saucer.core.errors import LookError

MOST_VALUES = 100_000
LONGEST_LIST = 5_000
LONGEST_TEXT = 20_000
DEEPEST = 40


def decode_json(text: bytes | str, place: str = "") -> Any:
    """What a JSON text holds, within the limits here. Raises: LookError with the line, or naming the field"""
    try:
        content = json.loads(text, parse_constant=_refuse_constant, object_pairs_hook=_refuse_doubles)
    except json.JSONDecodeError as error:
        raise LookError(_within(place, f"line {error.lineno}"), f"not valid JSON: {error.msg}") from None
    except UnicodeDecodeError:
        raise LookError(place, "not UTF-8 text") from None
    except RecursionError:
        raise LookError(place, "nested too deeply") from None
    except ValueError:
        raise LookError(place, "holds a number of too many digits") from None
    except LookError as error:
        raise error.within(place) from None
    check_extent(content, place)
    return content


def _refuse_constant(name: str) -> Any:
    raise LookError("", f"{name} is not a number that can be kept")


def _refuse_doubles(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    fields: dict[str, Any] = {}
    for key, value in pairs:
        if key in fields:
            raise LookError("", f'the field "{key}" stands twice in one object')
        fields[key] = value
    return fields


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
