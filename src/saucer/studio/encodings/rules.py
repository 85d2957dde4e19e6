"""What may happen to encodings: a team adds its own, and takes back what nothing uses."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextlib import suppress
from typing import cast

from django.conf import settings
from django.db import IntegrityError, transaction

from saucer.core.colour.encodings import ENCODINGS, Encoding, encoding
from saucer.core.colour.own import OwnEncoding, encodings_of
from saucer.core.colour.rendering import View
from saucer.studio.common.reading import tell_each
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.encodings.models import TeamEncoding
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import may_change, record, require, require_own

USES: list[tuple[str, Callable[[str], int]]] = []
"""Whatever names encodings says here how often: what it is called, and a count by the id of an encoding."""


def definitions() -> list[OwnEncoding]:
    """The team's own encodings."""
    return tell_each(TeamEncoding.objects.all(), lambda entry: OwnEncoding.model_validate(entry.definition))


def removable_by(person: Person) -> set[str]:
    """Ids of those that this person may remove, where nothing uses them."""
    owners = TeamEncoding.objects.values_list("encoding_id", "owner_id")
    return {encoding_id for encoding_id, owner in owners if may_change(person, owner)}


def own() -> Mapping[str, Encoding]:
    return encodings_of(definitions())


def studio_view() -> View:
    """By which pictures are seen where nothing says another: new looks and projects begin with it."""
    return cast(View, settings.VIEW)


def find(encoding_id: str, place: str = "encoding") -> Encoding:
    """Shipped or own. Raises: EncodingError listing what there is"""
    return ENCODINGS.get(encoding_id) or encoding(encoding_id, place, own())


def add(person: Person, definition: OwnEncoding) -> TeamEncoding:
    """Raises: NotPossible when the id is taken."""
    require(person, Role.DESIGNER, "define encodings")
    try:
        with transaction.atomic():
            entry = TeamEncoding.objects.create(
                encoding_id=definition.id, definition=definition.model_dump(mode="json"), owner=person
            )
            record(person, "define encoding", entry, **entry.definition)
    except IntegrityError:
        raise NotPossible(f'There is an encoding "{definition.id}" already; choose another id.') from None
    return entry


def adopt(person: Person, definition: OwnEncoding) -> Encoding:
    """One that a file brings along: it is defined if it is not there yet. Its id is made of what it is. Raises: NotAllowed"""
    if definition.id not in own():
        with suppress(NotPossible):  # somebody has brought it at the same moment
            add(person, definition)
    return find(definition.id)


def hold(*encoding_ids: str) -> None:
    """In the transaction of whatever takes these: none is removed before it is through. Raises: EncodingError for one that is gone"""
    own_ids = sorted(set(encoding_ids) - ENCODINGS.keys() - {""})
    if own_ids:
        locked = TeamEncoding.objects.select_for_update(no_key=True).filter(encoding_id__in=own_ids).order_by("pk")
        there = set(locked.values_list("encoding_id", flat=True))
        for encoding_id in own_ids:
            if encoding_id not in there:
                find(encoding_id)


def remove(person: Person, encoding_id: str) -> None:
    """Raises: NotPossible while something is in it. Looks and deliveries hold the definition themselves."""
    with transaction.atomic():
        entry = TeamEncoding.objects.select_for_update(of=("self",)).filter(encoding_id=encoding_id).first()
        if entry is None:
            raise NotFound(f'There is no encoding "{encoding_id}" of your own.')
        require_own(person, entry.owner, "remove this encoding")
        used = [f"{count} {noun}" for noun, count_uses in USES if (count := count_uses(encoding_id))]
        if used:
            raise NotPossible(f'"{encoding_id}" is used by {" and ".join(used)}; change those first.')
        record(person, "remove encoding", entry, **entry.definition)
        entry.delete()
