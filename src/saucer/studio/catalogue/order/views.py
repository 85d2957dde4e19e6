"""States of the wall that are kept by name: a person's own, and the team's."""

from __future__ import annotations

from urllib.parse import parse_qsl, urlencode

from django.db import transaction
from django.db.models import Q

from saucer.studio.catalogue.models import SavedView
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, record, require

MOST = 100
"""Of one person."""
LISTS = ("kind", "category", "tag", "state", "expects", "format", "health", "holds", "rights", "owner")
SINGLE = ("q", "favourite", "used", "ending", "days", "order", "layout", "picture", "like")
"""What the wall's address is made of (web/src/shelf/wall/address.ts)."""


def as_address(text: str) -> str:
    """The query of the wall's address, written anew. Raises: NotPossible for one of another page, or none"""
    try:
        fields = parse_qsl(text.removeprefix("?"), keep_blank_values=True, strict_parsing=bool(text.strip("?")), max_num_fields=200)
    except ValueError:
        fields = [("", "")]
    names = [name for name, _ in fields]
    if not set(names) <= {*LISTS, *SINGLE} or any(names.count(name) > 1 for name in SINGLE):
        raise NotPossible("This is no address of the Shelf's wall. Keep a view from the wall itself.")
    return urlencode(fields)[:2000]


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
    address = as_address(address)
    if shared:
        require(person, Role.DESIGNER, "keep views for the team")
    with transaction.atomic():
        Person.objects.select_for_update().get(pk=person.pk)  # two at once of one name: the second finds the first
        view = SavedView.objects.filter(owner=person, name__iexact=name).first()
        if view is None and SavedView.objects.filter(owner=person).count() >= MOST:
            raise NotPossible(f"{MOST} views are the most; delete one first.")
        view = view or SavedView(owner=person)
        view.name, view.address, view.shared = name, address, shared
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
