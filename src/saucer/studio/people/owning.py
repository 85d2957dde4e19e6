"""What people own, of whatever kind, and its passing from one to another."""

from __future__ import annotations

from typing import Any

from django.apps import apps
from django.db import models, transaction
from django.db.models import Count

from saucer.studio.common.refusals import NotPossible
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may, record, require


def owned_models() -> list[type[models.Model]]:
    """Every model whose rows belong to somebody."""
    return [one for one in apps.get_models() if _has_owner(one)]


def _has_owner(model: type[models.Model]) -> bool:
    found = next((one for one in model._meta.get_fields() if one.name == "owner"), None)
    # What cannot be without its owner is theirs alone (views of the wall), and passes to nobody.
    return isinstance(found, models.ForeignKey) and found.related_model is Person and found.null


def count_owned(person: Person | None = None) -> dict[int, dict[str, int]]:
    """For each owner's key, how much of each kind that was not deleted. person: of them only"""
    counts: dict[int, dict[str, int]] = {}
    for model in owned_models():
        names = {one.name for one in model._meta.get_fields()}
        there = (
            model._default_manager.filter(owner__isnull=False) if person is None else model._default_manager.filter(owner=person)
        )
        there = there.filter(deleted=None) if "deleted" in names else there
        there = there.filter(begun=True) if "begun" in names else there
        there = there.filter(passing=False) if "passing" in names else there
        kinds = ["kind"] if "kind" in names and getattr(model._meta.get_field("kind"), "choices", None) else []
        for row in there.order_by().values("owner", *kinds).annotate(number=Count("pk")):
            noun = str(row["kind"]) if kinds else str(model._meta.verbose_name)
            counts.setdefault(row["owner"], {})[noun] = row["number"]
    return counts


def hand_over(by: Person, person: Person, to: Person) -> int:
    """Everything that the one owns, what lies in the bin too, is the other's. How much it was. Raises: NotAllowed; NotPossible"""
    require(by, Role.ADMIN, "hand over what others own")
    if to == person or to.is_service or not may(to, Role.DESIGNER):
        raise NotPossible("It can be handed over to somebody else who is in, as a designer or more.")
    moved: dict[str, int] = {}
    with transaction.atomic():
        list(Person.objects.select_for_update().filter(pk__in=[person.pk, to.pk]).order_by("pk"))
        for model in owned_models():
            manager: Any = model._default_manager
            number = manager.filter(owner=person).update(owner=to)
            if number:
                moved[str(model._meta.verbose_name)] = number
        record(by, "hand over", person, to=to.username, moved=moved)
    return sum(moved.values())
