"""Rows told one by one: one that cannot be read is left out of a list, never takes it down, and whoever runs the studio is told."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable, Iterable
from datetime import timedelta
from typing import Any, TypeVar

from django.db import Error, models, transaction
from django.utils import timezone
from pydantic import ValidationError

from saucer.core.look.problems import describe
from saucer.studio.common.models import Unreadable

Row = TypeVar("Row")
Told = TypeVar("Told")
log = logging.getLogger("saucer.reading")
KNOWN_FOR = timedelta(hours=1)
"""How long it is told after it was last met: what is mended is met no more."""
_NOTED_EVERY = 60.0
_noted: dict[tuple[str, str], float] = {}


def tell_each(rows: Iterable[Row], tell: Callable[[Row], Told]) -> list[Told]:
    """What `tell` makes of each row, without those that it cannot read. Raises: what the database itself says"""
    told: list[Told] = []
    for row in rows:
        try:
            told.append(tell(row))
        except Error:
            raise
        except Exception as error:
            leave_out(row, error)
    return told


def leave_out(row: Any, error: Exception) -> None:
    """Note a row that cannot be read."""
    is_row = isinstance(row, models.Model)
    kind, key = (row._meta.verbose_name, str(row.pk)) if is_row else (type(row).__name__, str(row))
    now = time.monotonic()
    if now - _noted.get((str(kind), key), -_NOTED_EVERY) < _NOTED_EVERY:
        return
    _noted[str(kind), key] = now
    words = "; ".join(describe(error)[:3]) if isinstance(error, ValidationError) else f"{type(error).__name__}: {error}"
    problem = " ".join(words.split())
    log.error("%s %s cannot be read and is left out: %s", kind, key, problem, exc_info=error)
    with transaction.atomic():
        name = str(row)[:200]
        Unreadable.objects.update_or_create(kind=str(kind)[:40], key=key[:64], defaults={"name": name, "problem": problem[:300]})


def list_unreadable() -> list[Unreadable]:
    """What was met lately, the latest first."""
    return list(Unreadable.objects.filter(at__gte=timezone.now() - KNOWN_FOR)[:200])


def count_unreadable() -> int:
    return Unreadable.objects.filter(at__gte=timezone.now() - KNOWN_FOR).count()
