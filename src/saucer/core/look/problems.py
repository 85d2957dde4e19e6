"""What is wrong with a look file, in the words of the file."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel, ValidationError

from saucer.core.steps.kinds import kinds


def describe(error: ValidationError) -> list[str]:
    """A validation error in the words of a look file: `steps[0].red[1][0]: must be at most 1, got 1.2`."""
    return describe_details(error.errors())


def describe_details(details: Sequence[Any]) -> list[str]:
    """As `describe`, from the list that a validation error holds; a request's "body" and the name of its argument are left out."""
    lines = []
    wrong_within = Counter(detail["loc"][:end] for detail in details for end in range(len(detail["loc"]) + 1))
    for detail in details:
        loc = detail["loc"]
        if detail["type"] in ("too_short", "too_long") and wrong_within[loc] > 1:
            continue  # a list one of whose entries is wrong is counted without it: only the entry is worth telling
        place, problem = _describe_one(detail | {"loc": loc[2:] if loc[:1] == ("body",) else loc})
        lines.append(f"{place}: {problem}" if place else problem)
    return lines


def _describe_one(detail: Any) -> tuple[str, str]:
    place = ""
    known = {"group", *kinds()}
    for part in detail["loc"]:
        if isinstance(part, int):
            place += f"[{part}]"
        elif part not in known:  # the union's own tag is no field of the file
            place += f".{part}" if place else str(part)
    problem, got, kind, limits = detail["msg"], detail.get("input"), detail["type"], detail.get("ctx", {})
    shown = json.dumps(got, default=str) if not isinstance(got, BaseModel) else ""
    shown = shown if len(shown) <= 60 else shown[:57] + "..."
    match kind:
        case "extra_forbidden":
            return place, "unknown field; remove it or check its spelling"
        case "union_tag_invalid":
            return place, f'unknown kind of step "{limits.get("tag")}"; known are {", ".join(sorted(known))}'
        case "union_tag_not_found":
            return place, 'a step needs a "kind"'
        case "missing":
            return place, "is missing" if place else "nothing was sent"
        case "less_than_equal":
            return place, f"must be at most {_plain(limits['le'])}, got {shown}"
        case "greater_than_equal":
            return place, f"must be at least {_plain(limits['ge'])}, got {shown}"
        case "too_short":
            return place, f"must hold at least {limits['min_length']}, got {limits['actual_length']}"
        case "too_long":
            return place, f"may hold at most {limits['max_length']}"
        case "field":
            name, _, rest = problem.partition(": ")
            return f"{place}.{name}" if place else name, rest
        case "depth" | "count":
            return place, problem
    return place, f"{problem[0].lower()}{problem[1:]}, got {shown}"


def _plain(limit: object) -> str:
    """A number, or a day."""
    return f"{limit:g}" if isinstance(limit, int | float) else str(limit)
