"""One change to many entries: all of them or none, and back again."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from django.db import transaction
from django.utils import timezone

from saucer.studio.catalogue import rules
from saucer.studio.catalogue.models import Category, Entry, PassOn, Version, VersionState
from saucer.studio.catalogue.order import tags
from saucer.studio.catalogue.review.rules import AT_ONCE, move_many, next_states
from saucer.studio.catalogue.rules import as_category, describe_for_search, describe_many, find_or_make_category
from saucer.studio.common.locking import once_more
from saucer.studio.common.refusals import NotAllowed, NotFound, NotPossible
from saucer.studio.people.models import Activity, Person, Role
from saucer.studio.people.rules import may_change, record, require

WRITTEN = ["category", "licence", "may_pass_on", "pass_on_until", "deleted"]
ACTION = "change many"
UNDONE = "undo change of many"
MOST_AT_ONCE = 2000


@dataclass(frozen=True)
class Change:
    """What is to become of every entry; what is None or empty stays. category: a path, empty for none

    pass_on_until: a date as YYYY-MM-DD, empty for none; state: of its latest version
    """

    category: str | None = None
    licence: str | None = None
    may_pass_on: str | None = None
    pass_on_until: str | None = None
    state: str | None = None
    add_tags: tuple[str, ...] = ()
    remove_tags: tuple[str, ...] = ()
    delete: bool = False


@dataclass(frozen=True)
class Changed:
    """undo: the number by which it can be taken back; left: entries that stayed as they were, in words"""

    count: int
    undo: int | None
    left: list[str] = field(default_factory=list)


def _lock_all(person: Person, ids: Sequence[int]) -> list[Entry]:
    """In the order of their numbers, so that two such changes never wait for each other."""
    found = Entry.objects.known_to(person).select_for_update(of=("self",)).filter(pk__in=ids).order_by("pk")
    return list(found.select_related("owner", "category"))


@once_more
def change_many(person: Person, ids: Sequence[int], change: Change) -> Changed:
    """Raises: NotAllowed naming what is not the person's; NotFound; NotPossible"""
    require(person, Role.DESIGNER, "change entries")
    if not ids or len(set(ids)) > MOST_AT_ONCE:
        raise NotPossible(f"Choose 1 to {MOST_AT_ONCE} entries at a time.")
    with transaction.atomic():
        entries = [entry for entry in _lock_all(person, ids) if entry.deleted is None]
        if len(entries) < len(set(ids)):
            raise NotFound("Some of these were deleted meanwhile. Choose again.")
        foreign = [entry for entry in entries if not may_change(person, entry.owner_id)]
        if foreign:
            others = f" and {len(foreign) - 1} more" if len(foreign) > 1 else ""
            raise NotAllowed(f"{foreign[0].name}{others} belong to somebody else. A curator can change them.")
        before = {str(pk): done for pk, done in _apply(person, entries, change).items() if done}
        if not before:
            return Changed(0, None)
        told = {name: value for name, value in vars(change).items() if value not in (None, (), False)}
        record(person, ACTION, f"{len(before)} entries", change=told, before=before)
        undo = Activity.objects.filter(person=person, action=ACTION).latest("pk").pk
    return Changed(len(before), undo)


def change_one(
    person: Person,
    kind: str,
    pk: int,
    given: Mapping[str, Any],
    seen: Mapping[str, str | None],
    add: Sequence[str],
    remove: Sequence[str],
) -> Entry:
    """What people say of one entry, and its tags. Raises: as `rules.change`"""
    with transaction.atomic():
        entry = rules.change(person, kind, pk, given, seen)
        added, removed = tags.put_on(entry, add, remove)
        if added or removed:
            describe_for_search(entry)
            record(person, "tag entry", entry, added=added, removed=removed)
    return entry


def _apply(person: Person, entries: Sequence[Entry], change: Change) -> dict[int, dict[str, Any]]:
    """Returns: by entry what was there, of each thing that became another"""
    category = find_or_make_category(change.category) if change.category is not None else None
    put = tags.put_on_many(entries, {entry.pk: (change.add_tags, change.remove_tags) for entry in entries})
    found = {entry.pk: _set(entry, change, category, *put[entry.pk]) for entry in entries}
    _write([entry for entry in entries if found[entry.pk]])
    if change.state is not None:
        moved = {one.latest_id: one for one in entries if one.latest_id is not None and one.state != change.state}
        for pk, number in Version.objects.filter(pk__in=moved).values_list("pk", "number"):
            found[moved[pk].pk] |= {"state": moved[pk].state, "number": number}
        move_many(person, dict.fromkeys(moved, VersionState(change.state)))
    return found


def _set(entry: Entry, change: Change, category: Category | None, added: list[str], removed: list[str]) -> dict[str, Any]:
    """In memory. Returns: what was there, of each thing that became another"""
    before: dict[str, Any] = {}
    if change.category is not None and category != entry.category:
        before["category"] = entry.category_path
        entry.category = category
    for name in ("licence", "may_pass_on"):
        value = getattr(change, name)
        if value is not None and getattr(entry, name) != value:
            before[name] = getattr(entry, name)
            setattr(entry, name, PassOn(value) if name == "may_pass_on" else value.strip()[:200])
    if change.pass_on_until is not None and str(entry.pass_on_until or "") != change.pass_on_until:
        before["pass_on_until"] = str(entry.pass_on_until or "")
        entry.pass_on_until = date.fromisoformat(change.pass_on_until) if change.pass_on_until else None
    if added or removed:
        before |= {"added": added, "removed": removed}
    if change.delete:
        before["deleted"] = False
        entry.deleted = timezone.now()
    return before


def _write(entries: Sequence[Entry]) -> None:
    Entry.objects.bulk_update(entries, WRITTEN, batch_size=AT_ONCE)
    describe_many(Entry.objects.filter(pk__in=[entry.pk for entry in entries]))


@once_more
def undo(person: Person, number: int) -> Changed:
    """Take a change of many back, wherever what it made still stands. Raises: NotFound, NotPossible"""
    require(person, Role.DESIGNER, "change entries")
    with transaction.atomic():
        done = Activity.objects.select_for_update().filter(pk=number, person=person, action=ACTION).first()
        if done is None:
            raise NotFound("There is no such change of yours.")
        if Activity.objects.filter(action=UNDONE, about_kind="", data__of=number).exists():
            raise NotPossible("This change was taken back already.")
        before: dict[str, dict[str, Any]] = done.data["before"]
        made = done.data["change"]
        entries = _lock_all(person, [int(pk) for pk in before])
        left = _put_back(person, entries, before, made)
        count = len(entries) - len(left)
        record(person, UNDONE, f"{count} entries", of=number)
    return Changed(count, None, left)


def _put_back(person: Person, entries: Sequence[Entry], before: Mapping[str, dict[str, Any]], made: dict[str, Any]) -> list[str]:
    """As it was, but for what somebody has changed since. Returns: names of entries that are not whole"""
    was = {entry.pk: before[str(entry.pk)] for entry in entries}
    paths = {one["category"] for one in was.values() if "category" in one}
    categories = {path: find_or_make_category(path) for path in paths}
    whole = {entry.pk: _set_back(entry, was[entry.pk], made, categories) for entry in entries}
    if "state" in made:
        for pk in _move_back(person, entries, was, made["state"]):
            whole[pk] = False
    tags.put_on_many(entries, {pk: (one.get("removed", ()), one.get("added", ())) for pk, one in was.items()})
    _write(entries)
    return [entry.name for entry in entries if not whole[entry.pk]]


def _set_back(entry: Entry, before: dict[str, Any], made: dict[str, Any], categories: Mapping[str, Category | None]) -> bool:
    """In memory. Is everything as it was?"""
    whole = True
    if "deleted" in before:
        entry.deleted = None
    if "category" in before:
        if entry.category_path.lower() == as_category(made["category"]).lower():
            entry.category = categories[before["category"]]
        else:
            whole = False
    for name in ("licence", "may_pass_on", "pass_on_until"):
        if name in before:
            if str(getattr(entry, name) or "") == made[name]:
                setattr(entry, name, before[name] or (None if name == "pass_on_until" else ""))
            else:
                whole = False
    return whole


def _move_back(person: Person, entries: Sequence[Entry], was: Mapping[int, dict[str, Any]], made: str) -> list[int]:
    """Versions to where they stood. Returns: entries of those that do not stand there: some ways have no way back (what was published is
    retired, not drafted again)"""
    by_entry = {entry.pk: entry for entry in entries if "state" in was[entry.pk]}
    found = Version.objects.filter(entry__in=by_entry).defer("content").select_related("entry__owner")
    wanted: dict[int, VersionState] = {}
    back: set[int] = set()
    for version in found:
        one = was[version.entry_id]
        if version.number == one["number"] and version.state == made and VersionState(one["state"]) in next_states(person, version):
            wanted[version.pk] = VersionState(one["state"])
            back.add(version.entry_id)
    if wanted:
        move_many(person, wanted, "taken back")
    return sorted(by_entry.keys() - back)
