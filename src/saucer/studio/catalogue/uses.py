"""What uses an entry: told by the apps that know, each for its own kind of use."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from saucer.studio.catalogue.models import Entry, Version, there_for
from saucer.studio.people.models import Person


@dataclass(frozen=True)
class Use:
    """how: in words, completing "It is ..."; page: address of what uses it"""

    name: str
    how: str
    page: str


FINDERS: list[Callable[[Person, Entry], list[Use]]] = []
"""Each tells of what the person may know of, and of nothing else."""

MOST = 50


def list_uses(person: Person, entry: Entry) -> list[Use]:
    return [use for find in (*FINDERS, _find_offspring) for use in find(person, entry)[:MOST]]


def _find_offspring(person: Person, entry: Entry) -> list[Use]:
    """Entries that were branched, baked or made from one of its versions."""
    first = Version.objects.filter(there_for(person, "entry__"), from_version__entry=entry, number=1).exclude(entry=entry)
    rows = first.order_by("entry__name", "pk").values_list("entry__name", "entry__kind", "entry", "from_version__number")
    return [Use(name, f"where it came from, version {number}", f"/shelf/{kind}/{pk}") for name, kind, pk, number in rows[:MOST]]
