"""States of the wall that are kept by name: a person's own, and the team's."""

from __future__ import annotations

from django.db import transaction
from django.db.models import Q

from saucer.studio.catalogue.models import SavedView
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, record, require

MOST = 100
"""Of one person."""


def list_views(person: Person) -> list[SavedView]:
    """Their own and the team's, by name."""
    return list(SavedView.objects.filter(Q(owner=person) | Q(shared=True)).select_related("owner"))


def may_change_view(person: Person, view: SavedView) -> bool:
    return view.owner_id == person.pk or (view.shared and may(person, Role.CURATOR))


def keep(person: Person, name: str, address: str, shared: bool) -> SavedView:
    """One's own of the same name becomes this. Raises: NotPossible; NotAllowed for the team's from a viewer"""
    name = " ".join(name.split())[:80]
    if not name:
        raise NotPossible("A view needs a name.")
    if shared:
        require(person, Role.DESIGNER, "keep views for the team")
    with transaction.atomic():
        Person.objects.select_for_update().get(pk=person.pk)  # two at once of one name: the second finds the first
        view = SavedView.objects.filter(owner=person, name__iexact=name).first()
        if view is None and SavedView.objects.filter(owner=person).count() >= MOST:
            raise NotPossible(f"{MOST} views are the most; delete one first.")
        view = view or SavedView(owner=person)
        view.name, view.address, view.shared = name, address.lstrip("?")[:2000], shared
        view.save()
        record(person, "keep view", view, shared=shared)
    return view


def delete(person: Person, pk: int) -> None:
    """Raises: NotFound, for somebody else's too"""
    with transaction.atomic():
        view = SavedView.objects.select_for_update().filter(pk=pk).first()
        if view is None or not may_change_view(person, view):
            raise NotFound("There is no such view of yours.")
        record(person, "delete view", view, address=view.address)
        view.delete()
