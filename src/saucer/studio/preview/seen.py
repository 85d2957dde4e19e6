"""The picture that a request means, and what its codes are read as: by what it says of itself, or otherwise for this look only."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated

from pydantic import BaseModel, Field

from saucer.studio.encodings import rules as encodings
from saucer.studio.people.models import Person
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture

Unit = Annotated[float, Field(ge=0, le=1)]
ReadAs = Annotated[
    dict[int, Annotated[str, Field(max_length=40)]],
    Field(max_length=24, description="encodings that the codes of some of the pictures are read as, in place of their own"),
]


class PictureIn(BaseModel):
    picture: int
    read_as: Annotated[
        str,
        Field(max_length=40, description="encoding that its codes are read as, in place of its own; the picture stays as it is"),
    ] = ""


def find_seen(given: PictureIn, person: Person) -> Picture:
    """Raises: NotFound, for an encoding that is not there too"""
    return _read(pictures.find(given.picture, person), given.read_as)


def find_many_seen(ids: list[int], read_as: Mapping[int, str], person: Person) -> list[Picture]:
    """In this order. Raises: as `find_seen`"""
    return [_read(one, read_as.get(one.pk, "")) for one in pictures.find_many(ids, person)]


def _read(picture: Picture, encoding: str) -> Picture:
    """The same picture, never to be saved, with another encoding."""
    if encoding:
        picture.encoding = encodings.find(encoding).id
    return picture
