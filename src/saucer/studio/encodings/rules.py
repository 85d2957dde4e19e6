"""What may happen to encodings: a team adds its own, and takes back what nothing uses."""

from __future__ import annotations

from collections.abc import Mapping

from django.apps import apps
from django.db import IntegrityError, transaction

from saucer.core.colour.encodings import ENCODINGS, Encoding, encoding
from saucer.core.colour.own import OwnEncoding, encodings_of
from saucer.studio.encodings.models import OwnEncodingEntry
from saucer.studio.people.models import Person, Role
from saucer.studio.people.rules import record, require, require_own
from saucer.studio.refusals import NotFound, NotPossible


def definitions() -> list[OwnEncoding]:
    """The team's own encodings."""
    return [OwnEncoding.model_validate(entry.definition) for entry in OwnEncodingEntry.objects.all()]


def own() -> Mapping[str, Encoding]:
    return encodings_of(definitions())


def find(encoding_id: str, place: str = "encoding") -> Encoding:
    """Shipped or own. Raises: EncodingError listing what there is"""
    return ENCODINGS.get(encoding_id) or encoding(encoding_id, place, own())


def add(person: Person, definition: OwnEncoding) -> OwnEncodingEntry:
    """Raises: NotPossible when the id is taken."""
    require(person, Role.DESIGNER, "define encodings")
    try:
        with transaction.atomic():
            entry = OwnEncodingEntry.objects.create(
                encoding_id=definition.id, definition=definition.model_dump(mode="json"), owner=person
            )
            record(person, "define encoding", entry, **entry.definition)
    except IntegrityError:
        raise NotPossible(f'There is an encoding "{definition.id}" already; choose another id.') from None
    return entry


def remove(person: Person, encoding_id: str) -> None:
    """Raises: NotPossible while a picture or LUT is in it. Looks hold the definition themselves."""
    entry = OwnEncodingEntry.objects.filter(encoding_id=encoding_id).first()
    if entry is None:
        raise NotFound(f'There is no encoding "{encoding_id}" of your own.')
    require_own(person, entry.owner, "remove this encoding")
    pictures = apps.get_model("pictures", "Picture").objects.filter(encoding=encoding_id).count()
    entries = apps.get_model("luts", "LutEntry").objects
    luts = entries.filter(expects=encoding_id).count() + entries.filter(gives=encoding_id).count()
    if pictures or luts:
        raise NotPossible(f'"{encoding_id}" is used by {pictures} pictures and {luts} LUTs; change those first.')
    with transaction.atomic():
        record(person, "remove encoding", entry, **entry.definition)
        entry.delete()
