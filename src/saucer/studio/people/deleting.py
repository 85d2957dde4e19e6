"""Deleting that can be taken back for 30 days: one way for everything that belongs to somebody."""

from __future__ import annotations

from datetime import timedelta
from typing import Any, TypeVar

from django.db import models, transaction
from django.utils import timezone

from saucer.studio.common.refusals import NotFound
from saucer.studio.people.models import Person
from saucer.studio.people.rules import record, require_own

KEPT_FOR = timedelta(days=30)
Owned = TypeVar("Owned", bound=models.Model)
"""A model with an owner and a moment `deleted`."""


def put_away(person: Person, known: models.QuerySet[Owned], pk: int, noun: str) -> Owned:
    """known: those that the person may know of, deleted ones too. Raises: NotFound; NotAllowed"""
    return _mark(person, known, pk, f"delete this {noun}", f"delete {noun}", noun, deleted=True)


def bring_back(person: Person, known: models.QuerySet[Owned], pk: int, noun: str) -> Owned:
    """known: as `put_away`. Raises: NotFound; NotAllowed"""
    return _mark(person, known, pk, f"bring this {noun} back", f"restore {noun}", noun, deleted=False)


def _mark(person: Person, known: models.QuerySet[Owned], pk: int, what: str, action: str, noun: str, deleted: bool) -> Owned:
    with transaction.atomic():
        thing: Any = known.select_for_update(of=("self",)).filter(pk=pk).first()
        if thing is None or (deleted and thing.deleted is not None):
            raise NotFound(f"There is no such {noun}, or it was deleted." if deleted else f"There is no such {noun}.")
        require_own(person, thing.owner, what)
        thing.deleted = timezone.now() if deleted else None
        thing.save(update_fields=["deleted"])
        record(person, action, thing)
    return thing
