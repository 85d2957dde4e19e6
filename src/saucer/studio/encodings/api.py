"""Encodings: listed, and those of the team's own kept and taken away."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema, Status

from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.own import OwnEncoding, draw_curve, line_of_curve
from saucer.studio.encodings import rules
from saucer.studio.people.access import designer
from saucer.studio.people.signed_in import person_of

router = Router(tags=["encodings"])
DRAWN = 25
"""Codes of a curve that is drawn as small as a word."""


class EncodingOut(Schema):
    """line: a small drawing of its curve, as `line_of_curve`"""

    id: str
    name: str
    referred: str
    linear: bool
    hdr: bool
    """PQ or HLG."""
    peak: float | None
    source: str
    primaries: str
    luma: tuple[float, float, float]
    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]
    line: list[float]
    may_remove: bool = False
    own: OwnEncoding | None = None


class CurveOut(Schema):
    line: list[float]
    grey: float
    white: float
    brightest: float


def _out(item: Encoding, own: OwnEncoding | None = None, may_remove: bool = False) -> EncodingOut:
    return EncodingOut(
        id=item.id,
        name=item.name,
        referred=item.referred,
        linear=item.linear,
        hdr=item.hdr,
        peak=item.peak,
        source=item.source,
        primaries=item.primaries.name,
        luma=tuple(item.luma.tolist()),
        red=item.primaries.red,
        green=item.primaries.green,
        blue=item.primaries.blue,
        white=item.primaries.white,
        line=line_of_curve(item, DRAWN),
        own=own,
        may_remove=may_remove,
    )


@router.get("", response=list[EncodingOut])
def list_encodings(request: HttpRequest) -> list[EncodingOut]:
    """Shipped ones, then the team's own with their definitions, which a look that uses one holds too."""
    own, mine = rules.own(), rules.removable_by(person_of(request))
    return [
        *map(_out, ENCODINGS.values()),
        *(_out(own[one.id], one, one.id in mine) for one in rules.definitions()),
    ]


@router.post("/curve", response=CurveOut, auth=designer("define encodings"))
def curve(request: HttpRequest, given: OwnEncoding) -> CurveOut:
    """How the curve of a definition runs, before it is kept."""
    return CurveOut(**vars(draw_curve(given)))


@router.post("", response=EncodingOut, auth=designer("define encodings"))
def add(request: HttpRequest, given: OwnEncoding) -> EncodingOut:
    """An encoding of the team's own, by its curve and primaries."""
    entry = rules.add(person_of(request), given)
    return _out(rules.find(entry.encoding_id), given, may_remove=True)


@router.delete("/{encoding_id}", response={204: None}, auth=designer("remove encodings"))
def remove(request: HttpRequest, encoding_id: str) -> Status[None]:
    """An encoding of the team's own goes, where nothing uses it."""
    rules.remove(person_of(request), encoding_id)
    return Status(204, None)
