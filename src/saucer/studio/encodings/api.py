from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema, Status

from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.own import OwnEncoding
from saucer.studio.encodings import rules
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of

router = Router(tags=["encodings"])


class EncodingOut(Schema):
    id: str
    name: str
    referred: str
    linear: bool
    source: str
    primaries: str
    luma: tuple[float, float, float]
    own: OwnEncoding | None = None


def _out(item: Encoding, own: OwnEncoding | None = None) -> EncodingOut:
    return EncodingOut(
        id=item.id,
        name=item.name,
        referred=item.referred,
        linear=item.linear,
        source=item.source,
        primaries=item.primaries.name,
        luma=tuple(item.luma.tolist()),
        own=own,
    )


@router.get("", response=list[EncodingOut])
def list_encodings(request: HttpRequest) -> list[EncodingOut]:
    """Shipped ones, then the team's own with their definitions, which a look that uses one holds too."""
    own = rules.own()
    return [*map(_out, ENCODINGS.values()), *(_out(own[definition.id], definition) for definition in rules.definitions())]


@router.post("", response=EncodingOut, auth=designer("define encodings"))
def add(request: HttpRequest, given: OwnEncoding) -> EncodingOut:
    entry = rules.add(person_of(request), given)
    return _out(rules.find(entry.encoding_id), given)


@router.delete("/{encoding_id}", response={204: None}, auth=designer("remove encodings"))
def remove(request: HttpRequest, encoding_id: str) -> Status[None]:
    rules.remove(person_of(request), encoding_id)
    return Status(204, None)
