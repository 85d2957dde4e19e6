"""Entries that do the same, or nearly: found by what they do, made one, or said to be meant as two. And the bin they lie in after."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from django.db import transaction
from django.utils import timezone

from saucer.core.reports.alike import find_near, group
from saucer.core.reports.character import PROBES
from saucer.studio.catalogue.models import Character, Entry, KeptApart, there_for
from saucer.studio.catalogue.rules import describe_for_search, list_there
from saucer.studio.common.locking import once_more
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.deleting import KEPT_FOR
from saucer.studio.people.models import Activity, Person, Role
from saucer.studio.people.rules import may, record, require

FARTHEST = 2.0
MOST_GROUPS, MOST_IN_ONE = 60, 24
FOLLOWS: list[Callable[[Entry, Entry], None]] = []
"""What the apps above put in: each takes what it has of the second entry to the first, in the transaction that makes them one."""


@dataclass(frozen=True)
class Alike:
    """apart: mean CIEDE2000 of the nearest two"""

    entries: list[int]
    apart: float


def find_duplicates(person: Person, within: float) -> list[Alike]:
    """Groups whose members lie at most `within` (mean CIEDE2000) from another of the group, the nearest first; not those kept apart.

    Of one kind each, and with the same spatial steps. Entries that do nothing are told as a group too.
    within: 0..FARTHEST. Raises: NotAllowed
    """
    require(person, Role.CURATOR, "look for duplicates")
    there = Character.objects.filter(there_for(person, "entry__"), entry__begun=True).order_by("entry")
    rows = list(there.values_list("entry", "seen", "entry__kind", "beyond"))
    if not rows:
        return []
    seen = np.frombuffer(b"".join(bytes(data) for _, data, *_ in rows), np.float32).reshape(len(rows), PROBES, 3)
    apart = set(KeptApart.objects.values_list("first", "second"))
    pairs = [
        (first, second, far)
        for first, second, far in find_near(seen, within)
        if rows[first][2:] == rows[second][2:] and (rows[first][0], rows[second][0]) not in apart
    ]
    nearest: dict[int, float] = {}
    for first, second, far in reversed(pairs):
        nearest[first] = nearest[second] = far
    return [
        Alike([rows[index][0] for index in found[:MOST_IN_ONE]], round(min(nearest[index] for index in found), 3))
        for found in group(pairs)[:MOST_GROUPS]
    ]


@once_more
def merge(person: Person, keep: int, others: Sequence[int]) -> Entry:
    """One entry out of several, of whatever kinds: it gets the tags, the favourites and the places of the others, which go to the bin.

    What uses the others goes on using them. Raises: NotAllowed, NotFound, NotPossible
    """
    require(person, Role.CURATOR, "make entries one")
    if not others or keep in others or len(set(others)) > MOST_IN_ONE:
        raise NotPossible(f"Choose one to keep and 1 to {MOST_IN_ONE} others.")
    with transaction.atomic():
        found = {
            one.pk: one
            for one in Entry.objects.visible_to(person)
            .select_for_update(of=("self",))
            .filter(pk__in=[keep, *others])
            .order_by("pk")
        }
        if len(found) < len({keep, *others}):
            raise NotFound("Some of these were deleted meanwhile. Look again.")
        kept = found[keep]
        for pk in sorted(set(others)):
            _take_over(person, kept, found[pk])
        describe_for_search(kept)
    return kept


def _take_over(person: Person, kept: Entry, other: Entry) -> None:
    kept.tags.add(*other.tags.all())
    kept.favourite_of.add(*other.favourite_of.all())
    Entry.objects.filter(merged_into=other).update(merged_into=kept)
    for follow in FOLLOWS:
        follow(kept, other)
    other.deleted, other.merged_into = timezone.now(), kept
    other.save(update_fields=["deleted", "merged_into"])
    record(person, "make one", kept, other=other.pk, name=other.name)
    record(person, "delete entry", other, into=kept.pk)


def keep_apart(person: Person, entries: Sequence[int]) -> None:
    """They are meant to be several, and are not told of as duplicates again. Raises: NotAllowed, NotFound"""
    require(person, Role.CURATOR, "keep entries apart")
    ids = sorted(set(entries))
    if Entry.objects.visible_to(person).filter(pk__in=ids).count() < len(ids):
        raise NotFound("Some of these were deleted meanwhile. Look again.")
    if len(ids) > MOST_IN_ONE:
        raise NotPossible(f"{MOST_IN_ONE} at a time are the most.")
    pairs = [KeptApart(first_id=first, second_id=second, person=person) for first in ids for second in ids if first < second]
    with transaction.atomic():
        KeptApart.objects.bulk_create(pairs, ignore_conflicts=True)
        record(person, "keep apart", f"{len(ids)} entries", entries=ids)


@dataclass(frozen=True)
class Binned:
    """deleted: when; until: when it goes for good, unless something still uses it; by: who deleted it; into: what it was made one with"""

    entry: Entry
    deleted: datetime
    until: datetime
    by: str
    into: str


def list_bin(person: Person, most: int = 500) -> list[Binned]:
    """What this person may bring back, the latest first: their own, or everybody's for a curator."""
    require(person, Role.DESIGNER, "look into the bin")
    found = (
        Entry.objects.known_to(person)
        .exclude(deleted=None)
        .select_related("owner", "category", "merged_into")
        .order_by("-deleted", "-pk")
    )
    if not may(person, Role.CURATOR):
        found = found.filter(owner=person)
    entries = list(found[:most])
    told = Activity.objects.filter(about_kind="entry", about_id__in=[one.pk for one in entries], action__startswith="delete")
    by = {one.about_id: one.person.shown_name for one in told.select_related("person").order_by("pk") if one.person}
    told_of = set(list_there(person, [one.merged_into_id for one in entries if one.merged_into_id]))
    into = {one.pk: one.merged_into.name for one in entries if one.merged_into and one.merged_into_id in told_of}
    return [
        Binned(one, one.deleted, one.deleted + KEPT_FOR, by.get(one.pk, ""), into.get(one.pk, ""))
        for one in entries
        if one.deleted is not None
    ]
