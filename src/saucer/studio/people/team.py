"""Everybody in the studio, as admins see them."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime

from allauth.mfa.models import Authenticator

from saucer.studio.people import owning, tries
from saucer.studio.people.models import Activity, Person, Token
from saucer.studio.people.signing_in import Factor

LATELY = 12


@dataclass(frozen=True)
class Member:
    """seen: when they last did something, by a token too; factors: second factors that are set up; owns: how much of each kind"""

    person: Person
    seen: datetime | None = None
    factors: list[Factor] = field(default_factory=list)
    owns: dict[str, int] = field(default_factory=dict)
    tokens: int = 0
    is_held: bool = False


def list_members() -> list[Member]:
    """A fixed number of queries, however many people there are."""
    people = list(Person.objects.order_by("-is_active", "full_name", "username"))
    factors: dict[int, list[Factor]] = {}
    for owner, kind in Authenticator.objects.order_by("type").values_list("user", "type").distinct():
        factors.setdefault(owner, []).append(kind)
    counted: dict[int, int] = {}
    seen = {one.pk: one.seen or one.last_login for one in people}
    for owner, used in Token.objects.values_list("person", "used"):
        counted[owner] = counted.get(owner, 0) + 1
        seen[owner] = max(filter(None, (seen[owner], used)), default=None)
    owns, held = owning.count_owned(), tries.list_held()
    return [
        Member(one, seen[one.pk], factors.get(one.pk, []), owns.get(one.pk, {}), counted.get(one.pk, 0), one.username in held)
        for one in people
    ]


def list_lately(person: Person) -> list[Activity]:
    """What they did last."""
    return list(Activity.objects.filter(person=person)[:LATELY])
