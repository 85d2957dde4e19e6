"""What deliveries are asked to hold, kept by names that the team gives: "for the client", "for the edit"."""

from __future__ import annotations

from django.db import transaction

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.models import KeptChoice

MOST = 100


def list_kept() -> list[KeptChoice]:
    return list(KeptChoice.objects.select_related("owner"))


def keep(person: Person, name: str, choice: DeliveryChoice) -> KeptChoice:
    """By this name, of whatever shots; one that is there already holds something else from now on. Raises: NotAllowed, NotPossible"""
    require(person, Role.DESIGNER, "keep what deliveries hold")
    name = " ".join(name.split())[:80]
    if not name:
        raise NotPossible("What is kept needs a name.")
    content = choice.model_copy(update={"shots": []}).model_dump(mode="json")
    with transaction.atomic():
        there = KeptChoice.objects.select_for_update(of=("self",)).select_related("owner")
        # Two people may give a name for the first time at once: the second then changes what the first has made, if they may.
        kept, is_new = there.get_or_create(name__iexact=name, defaults={"name": name, "choice": content, "owner": person})
        if is_new and KeptChoice.objects.count() > MOST:
            raise NotPossible(f"{MOST} are kept already; forget one first.")
        if not is_new:
            require_own(person, kept.owner, f'change "{kept.name}"')
            kept.choice = content
            kept.save(update_fields=["choice"])
        record(person, "keep delivery choice", kept)
    return kept


def forget(person: Person, pk: int) -> None:
    """Raises: NotFound, NotAllowed"""
    with transaction.atomic():
        kept = KeptChoice.objects.select_for_update(of=("self",)).select_related("owner").filter(pk=pk).first()
        if kept is None:
            raise NotFound("There is nothing kept by that number.")
        require_own(person, kept.owner, "forget this")
        record(person, "forget delivery choice", kept)
        kept.delete()
