"""The conditions that the database is asked, asked of the columns in memory: one filter for both, and the same entries found."""

from __future__ import annotations

import operator
from collections.abc import Callable
from datetime import date, datetime
from functools import reduce
from typing import Any, cast

import numpy as np
from django.db.models import Model, Q, QuerySet

from saucer.studio.catalogue.find.columns import NONE, WORDS, Columns, as_day, as_moment, find_place, values_of

_JOINS: dict[str, Callable[[np.ndarray, np.ndarray], np.ndarray]] = {
    Q.AND: operator.and_, Q.OR: operator.or_, Q.XOR: operator.xor
}  # fmt: skip
NUMBERS = ("owner", "category")
FEW = 12
"""Values that are compared with a column one by one."""


def find_rows(columns: Columns, asked: Q, words: dict[str, np.ndarray]) -> np.ndarray:
    """(entries,) bool: of which the condition holds, as the database would say; what it names by a query of its own is asked of that.

    words: which entries have a word, filled as they are looked for, so that none is looked for twice; never written into
    Raises: LookupError for a field or a comparison that is not kept in columns
    """
    masks = [
        find_rows(columns, one, words) if isinstance(one, Q) else _compare(columns, *cast("tuple[str, Any]", one), words)
        for one in asked.children
    ]
    found = reduce(_JOINS[asked.connector], masks) if masks else np.ones(columns.size, bool)
    return ~found if asked.negated else found


def _compare(columns: Columns, key: str, value: Any, words: dict[str, np.ndarray]) -> np.ndarray:
    name, _, way = key.partition("__")
    if name in WORDS and way in ("", "in"):
        return _is_one_of(columns.words[name], [find_place(name, one) for one in (_listed(value) if way else [value])])
    if name in NUMBERS and way in ("", "in"):
        column: np.ndarray = getattr(columns, name)
        # As in SQL, nothing is in no list; `None` by itself asks for it.
        return _is_one_of(column, [one for one in _listed(value) if one is not None] if way else [_number(value)])
    match name, way:
        case "pk", "in":
            return columns.rows_of(_listed(value))
        case "proposed", "":
            return columns.proposed == bool(value)
        case "deleted", "":
            if value is None:  # deleted ones are in no list
                return np.ones(columns.size, bool)
        case "formats", "overlap":
            fits = [place for place, names in enumerate(values_of("formats")) if set(names) & set(value)]
            return _is_one_of(columns.formats, fits)
        case "document", "contains":
            if value not in words:
                words[value] = columns.rows_of(columns.documents.find(value))
            return words[value]
        case "pass_on_until", "lte":
            return (columns.pass_on_until != NONE) & (columns.pass_on_until <= as_day(_of_kind(value, date)))
        case "shown_at", "gte":
            return columns.shown_at >= as_moment(_of_kind(value, datetime))
    raise LookupError(f"{key} is not kept in columns")


def _is_one_of(column: np.ndarray, values: list[int]) -> np.ndarray:
    if len(values) > FEW:
        return np.isin(column, values)
    return reduce(operator.or_, [column == value for value in values]) if values else np.zeros(len(column), bool)


def _listed(value: Any) -> list[Any]:
    """What is named one by one, or found by a query: of models their numbers, of rows of one value that."""
    if not isinstance(value, QuerySet):
        return list(value)
    return [one.pk if isinstance(one, Model) else next(iter(one.values())) if isinstance(one, dict) else one for one in value]


def _number(value: Any) -> int:
    """Of an entry's person or category, or of none."""
    return NONE if value is None else int(value.pk if isinstance(value, Model) else value)


def _of_kind(value: Any, kind: type) -> Any:
    if not isinstance(value, kind):
        raise LookupError(f"{value!r} is no {kind.__name__}")
    return value
