"""Tags: words that people put on entries of any kind. Curators rename them, and make two that mean the same into one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from django.db import transaction
from django.db.models import Count, Q

from saucer.studio.catalogue.models import Entry, Tag, there_for
from saucer.studio.catalogue.rules import describe_many
from saucer.studio.catalogue.words import LONGEST
from saucer.studio.common.locking import once_more
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require

MOST_ON_AN_ENTRY = 30


def as_tag(text: str) -> str:
    """Spaces mean nothing at the ends and count once between words. Raises: NotPossible for none, and for one that is too long"""
    name = " ".join(text.split())
    if not name or len(name) > LONGEST["tag"]:
        raise NotPossible(f"A tag has 1 to {LONGEST['tag']} letters, this one has {len(name)}.")
    return name


def list_tags(person: Person, search: str = "", most: int = 200) -> list[tuple[str, int]]:
    """Names that hold these letters, with how many entries have each; the most used first, none that nothing has."""
    used = Count("entries", filter=there_for(person, "entries__") & Q(entries__begun=True))
    found = Tag.objects.filter(name__icontains=search.strip()).annotate(n=used).filter(n__gt=0)
    return list(found.order_by("-n", "name").values_list("name", "n")[:most])


def find_or_make(names: Sequence[str]) -> list[Tag]:
    """In the transaction of their caller. A name in other letters is the tag that is there."""
    found = []
    for name in dict.fromkeys(as_tag(name) for name in names):
        same = Tag.objects.filter(name__iexact=name).first()
        found.append(same or Tag.objects.create(name=name))
    return found


def put_on(entry: Entry, add: Sequence[str], remove: Sequence[str]) -> tuple[list[str], list[str]]:
    """Add and take off tags of an entry that the caller has locked. Returns: the names that were not there, and those that were"""
    return put_on_many([entry], {entry.pk: (add, remove)})[entry.pk]


def put_on_many(
    entries: Sequence[Entry], wanted: Mapping[int, tuple[Sequence[str], Sequence[str]]]
) -> dict[int, tuple[list[str], list[str]]]:
    """Of each entry what to add and to take off. As many queries for a thousand of them as for one, but for tags that are new.

    Returns: as `put_on`, by entry. Raises: NotPossible
    """
    made = {tag.name.lower(): tag for tag in find_or_make([name for add, _ in wanted.values() for name in add])}
    through = Entry.tags.through
    there: dict[int, dict[str, Tag]] = {entry.pk: {} for entry in entries}
    pairs: dict[tuple[int, int], int] = {}
    for pair in through.objects.filter(entry__in=entries).select_related("tag"):
        there[pair.entry_id][pair.tag.name.lower()] = pair.tag
        pairs[pair.entry_id, pair.tag_id] = pair.pk
    found, fresh_pairs, gone_pairs = {}, [], []
    for entry in entries:
        add, remove = wanted[entry.pk]
        before = there[entry.pk]
        gone = [before[name.lower()] for name in dict.fromkeys(map(as_tag, remove)) if name.lower() in before]
        fresh = [made[name] for name in dict.fromkeys(as_tag(name).lower() for name in add) if name not in before]
        if len(before) - len(gone) + len(fresh) > MOST_ON_AN_ENTRY:
            raise NotPossible(f"{entry.name} would have more than {MOST_ON_AN_ENTRY} tags.")
        fresh_pairs += [through(entry_id=entry.pk, tag_id=tag.pk) for tag in fresh]
        gone_pairs += [pairs[entry.pk, tag.pk] for tag in gone]
        found[entry.pk] = [tag.name for tag in fresh], [tag.name for tag in gone]
    through.objects.filter(pk__in=gone_pairs).delete()
    through.objects.bulk_create(fresh_pairs, ignore_conflicts=True)
    return found


@once_more
def rename(person: Person, old: str, new: str) -> int:
    """Everything that had the old tag has the new one; where there is one of that name already the two become one.

    Returns: how many entries. Raises: NotAllowed, NotFound, NotPossible
    """
    require(person, Role.CURATOR, "rename tags")
    name = as_tag(new)
    with transaction.atomic():
        # All that is changed is locked in the order of its number: two renames that cross wait for each other in one direction.
        named = Q(name__iexact=old.strip()) | Q(name__iexact=name)
        held = {one.name.lower(): one for one in Tag.objects.select_for_update().filter(named).order_by("pk")}
        tag = held.get(old.strip().lower())
        if tag is None:
            raise NotFound(f"There is no tag {old.strip()}.")
        other = held.get(name.lower()) if name.lower() != tag.name.lower() else None
        locked = Entry.objects.select_for_update(of=("self",)).filter(pk__in=tag.entries.values("pk")).order_by("pk")
        entries = list(locked.values_list("pk", flat=True))
        if other is None:
            tag.name = name
            tag.save(update_fields=["name"])
        else:
            other.entries.add(*entries)
            tag.delete()
        describe_many(Entry.objects.filter(pk__in=entries))
        record(person, "rename tag" if other is None else "merge tags", name, old=old.strip(), entries=len(entries))
    return len(entries)
