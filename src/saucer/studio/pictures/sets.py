"""Sets of test pictures, the whole team's."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction
from django.db.models import Prefetch

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.pictures.models import Picture, PictureSet
from saucer.studio.pictures.rules import find_to_share


def listed(person: Person) -> list[PictureSet]:
    """With those of their pictures that are there for the person."""
    shown = Prefetch("pictures", Picture.objects.visible_to(person), to_attr="shown")
    return list(PictureSet.objects.prefetch_related(shown))


AGREED = "Review"
"""The set that a studio agrees on for reviews; without one of this name the pictures of everybody's tray."""


def agreed_for_reviews(person: Person) -> list[Picture]:
    """As far as they are there for the person."""
    there = Picture.objects.visible_to(person)
    agreed = list(there.filter(sets__name=AGREED))
    return agreed or list(there.filter(test=True))


def save(person: Person, name: str, pictures: Sequence[int]) -> PictureSet:
    """A set under a name; one that is there already gets other pictures. Those in it that the person may not see stay.

    Raises: NotPossible without a name or pictures; NotFound for pictures that are not there for the person; NotAllowed
    """
    require(person, Role.DESIGNER, "save sets of pictures")
    name = name.strip()
    if not name:
        raise NotPossible("A set needs a name.")
    if not pictures:
        raise NotPossible("Choose pictures that are there.")
    found = find_to_share(pictures, person)
    with transaction.atomic():
        chosen, made = PictureSet.objects.get_or_create(name=name, defaults={"owner": person})
        if not made:
            require_own(person, chosen.owner, f'change the set "{name}"')
        chosen.pictures.set([*found, *chosen.pictures.filter(deleted=None).exclude(pk__in=Picture.objects.visible_to(person))])
        chosen.shown = found  # type: ignore[attr-defined]
        record(person, "save picture set", chosen, pictures=sorted(one.pk for one in found))
    return chosen


def delete(person: Person, pk: int) -> None:
    """The pictures stay."""
    chosen = PictureSet.objects.filter(pk=pk).first()
    if chosen is None:
        raise NotFound("There is no such set.")
    require_own(person, chosen.owner, "delete this set")
    with transaction.atomic():
        record(person, "delete picture set", chosen)
        chosen.delete()
