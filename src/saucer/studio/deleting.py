"""Deleting that can be taken back for 30 days: one way for everything that belongs to somebody."""

from __future__ import annotations

from typing import Any, TypeVar

from django.db import models, transaction
from django.utils import timezone

from saucer.studio.people.models import Person
from saucer.studio.people.rules import record, require_own
from saucer.studio.refusals import NotFound

Entry = TypeVar("Entry", bound=models.Model)
"""One with an owner and a moment `deleted`."""


def put_away(person: Person, entry: models.Model, noun: str) -> None:
    """Raises: NotAllowed"""
    _mark(person, entry, f"delete this {noun}", f"delete {noun}", timezone.now())


def bring_back(person: Person, model: type[Entry], pk: int, noun: str) -> Entry:
    """Raises: NotFound; NotAllowed"""
    entry: Entry | None = model._default_manager.filter(pk=pk).first()
    if entry is None:
        raise NotFound(f"There is no such {noun}.")
    _mark(person, entry, f"bring this {noun} back", f"restore {noun}", None)
    return entry


def _mark(person: Person, entry: Any, what: str, action: str, deleted: Any) -> None:
    require_own(person, entry.owner, what)
    with transaction.atomic():
        entry.deleted = deleted
        entry.save(update_fields=["deleted"])
        record(person, action, entry)
