"""Sets of test pictures, the whole team's."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.pictures.models import Picture, PictureSet


def listed() -> list[PictureSet]:
    return list(PictureSet.objects.prefetch_related("pictures"))


def save(person: Person, name: str, pictures: Sequence[int]) -> PictureSet:
    """A set under a name; one that is there already gets other pictures. Raises: NotPossible without a name or pictures."""
    require(person, Role.DESIGNER, "save sets of pictures")
    name = name.strip()
    if not name:
        raise NotPossible("A set needs a name.")
    found = list(Picture.objects.filter(pk__in=pictures, deleted=None))
    if not found or len(found) != len(set(pictures)):
        raise NotPossible("Choose pictures that are there.")
    with transaction.atomic():
        chosen, made = PictureSet.objects.get_or_create(name=name, defaults={"owner": person})
        if not made:
            require_own(person, chosen.owner, f'change the set "{name}"')
        chosen.pictures.set(found)
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
