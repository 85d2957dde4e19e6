"""The tree of categories: made, renamed, put elsewhere, taken away when nothing is in them."""

from __future__ import annotations

from django.db import transaction

from saucer.studio.catalogue.models import Category, Entry
from saucer.studio.catalogue.rules import as_category, check_category_name, describe_many, find_or_make_category
from saucer.studio.common.locking import once_more
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require

LONGEST_PATH = 200


def make(person: Person, path: str) -> Category:
    """With those above it. Raises: NotAllowed, NotPossible"""
    require(person, Role.CURATOR, "arrange categories")
    with transaction.atomic():
        _lock()
        made = find_or_make_category(path)
        if made is None:
            raise NotPossible("A category needs a name.")
        record(person, "make category", made)
    return made


@once_more
def move(person: Person, path: str, above: str, name: str) -> Category:
    """Put a category, with all below it, under another or at the top, under this name. Everything in it stays in it.

    above: path of the one it goes into, empty for the top. Raises: NotAllowed, NotFound, NotPossible
    """
    require(person, Role.CURATOR, "arrange categories")
    name = " ".join(name.replace("/", " ").split())[:80]
    if not name:
        raise NotPossible("A category needs a name.")
    check_category_name(name)
    with transaction.atomic():
        known = _lock()
        moved = _find(known, path)
        parent = _find(known, above) if as_category(above) else None
        before = moved.path
        inside = f"{before}/"
        if parent is not None and (parent.pk == moved.pk or parent.path.startswith(inside)):
            raise NotPossible(f"{moved.name} cannot go into itself.")
        after = f"{parent.path}/{name}" if parent else name
        if any(one.path.lower() == after.lower() and one.pk != moved.pk for one in known):
            raise NotPossible(f"There is a category {after} already. Give it another name, or move what is in it.")
        below = [one for one in known if one.path.startswith(inside)]
        if max(len(one.path) for one in (moved, *below)) - len(before) + len(after) > LONGEST_PATH:
            raise NotPossible(f"The path of a category below it would be longer than {LONGEST_PATH} letters.")
        deeper = after.count("/") - moved.depth
        moved.parent, moved.name = parent, name
        for one in (moved, *below):
            one.path, one.depth = after + one.path[len(before) :], one.depth + deeper
        Category.objects.bulk_update([moved, *below], ["parent", "name", "path", "depth"])
        describe_many(Entry.objects.filter(category__in=[moved, *below]))
        record(person, "move category", moved, was=before)
    return moved


def remove(person: Person, path: str) -> None:
    """Only one with nothing in it. Raises: NotAllowed, NotFound, NotPossible"""
    require(person, Role.CURATOR, "arrange categories")
    with transaction.atomic():
        known = _lock()
        gone = _find(known, path)
        if any(one.parent_id == gone.pk for one in known):
            raise NotPossible(f"{gone.name} has categories below it. Move them first.")
        count = Entry.objects.filter(category=gone, deleted=None).count()
        if count:
            raise NotPossible(f"{count} {'entry is' if count == 1 else 'entries are'} in {gone.name}. File them elsewhere first.")
        Entry.objects.filter(category=gone).update(category=gone.parent)  # what lies in the bin comes back one higher
        record(person, "remove category", gone)
        gone.delete()


def _lock() -> list[Category]:
    """All of them: two people who arrange at once wait for each other, so that no circle can come about."""
    return list(Category.objects.select_for_update().order_by("pk"))


def _find(known: list[Category], path: str) -> Category:
    wanted = as_category(path).lower()
    found = next((one for one in known if one.path.lower() == wanted), None)
    if found is None:
        raise NotFound(f"There is no category {as_category(path) or path}. Somebody may have moved it; look again.")
    return found
