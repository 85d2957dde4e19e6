"""What a delivery was when it was asked for: one document that is kept with it, from which every file and list of it is made.

Whatever becomes of the project, its shots, pictures and entries meanwhile changes nothing of it. Its schema is docs/delivery.schema.json.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from datetime import datetime
from fractions import Fraction
from functools import lru_cache
from typing import Annotated, Any, Literal, NamedTuple, Protocol

from pydantic import BaseModel, ConfigDict, Field

from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.own import OwnEncoding, encodings_of
from saucer.core.look.model import Look, look_from
from saucer.studio.common.refusals import NotPossible
from saucer.studio.packing.manifest import Told
from saucer.studio.pictures.models import Footage, Picture
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.models import Delivery, LayerRole, Reach, Shot


class Document(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Pinned(Protocol):
    """A layer, stored or frozen, as far as it matters here."""

    @property
    def reach(self) -> Reach: ...
    @property
    def role(self) -> str: ...
    @property
    def enabled(self) -> bool: ...
    @property
    def strength(self) -> float: ...
    @property
    def steps(self) -> Any: ...


class FrozenLayer(Document):
    """A version of an entry by its number, or steps. reach: whom it was put on; reached: the name of that roll or scene"""

    reach: Reach = Reach.SHOT
    reached: str = ""
    role: LayerRole
    name: str
    strength: float
    enabled: bool
    entry: int | None = None
    version: int | None = None
    member: Annotated[str, Field(description="which of the look's family; empty for the recipe")] = ""
    content: Annotated[str, Field(description="hash of what the version does")] = ""
    steps: list[dict[str, Any]] | None = None

    @property
    def acts(self) -> bool:
        return self.enabled and self.strength > 0

    @property
    def words(self) -> str:
        """Whose it is and what, as "Quay: correction" or "project: Print"."""
        what = "correction" if self.entry is None else self.name
        return f"{self.reached}: {what}" if self.reached else f"{'project: ' if self.reach == Reach.PROJECT else ''}{what}"


class Correction(NamedTuple):
    """Layers of steps that stand together in a chain. first, end: their places in it; end is the place after the last one"""

    first: int
    end: int


def correction_in(layers: Sequence[Pinned]) -> Correction | None:
    """What one CDL of a shot can say: the steps before its look that stand together with the shot's own, or, without those, the first.

    What is switched off stands in nobody's way. None where nothing but versions of entries acts there
    """
    runs: list[list[int]] = [[]]
    for place, one in enumerate(layers):
        if not one.enabled or one.strength == 0:
            continue
        if one.steps is None or one.role != LayerRole.BEFORE:
            runs.append([])
        else:
            runs[-1].append(place)
    found = [run for run in runs if run]
    own = [run for run in found if any(layers[place].reach == Reach.SHOT for place in run)]
    best = next(iter(own or found), None)
    return Correction(best[0], best[-1] + 1) if best else None


class FrozenFootage(Document):
    """rate: frames a second, as 24000/1001; held: frames that were missing, in words; missing: those of which no file is made, from 0

    aspect: how wide a pixel is, its height 1, as 4/3

    proxy: SHA-256 of the small copy that plays, where it was made by then
    """

    kind: Literal["clip", "sequence"]
    first: int
    count: int
    rate: str
    timecode: str
    matrix: str
    full: bool | None
    folder: str
    path: str
    variable: bool
    alpha: bool = False
    held: str = ""
    missing: list[tuple[int, int]] = []
    aspect: str = "1"
    proxy: str
    proxy_encoding: str


class FrozenPicture(Document):
    """sha256: of its file, or of the first frame; proxy: of what cards are made from; white: of a raw photograph, 0 for its camera's"""

    id: int
    name: str
    file_name: str
    encoding: str
    width: int
    height: int
    sha256: str
    proxy: str
    footage: FrozenFootage | None
    white: int = 0


class FrozenNote(Document):
    by: str
    at: datetime
    frame: int | None
    words: str


class FrozenShot(Document):
    """file_name: of its files, without folder and ending; fields: what those of the template stand for; look, seen: keys of `looks`

    first, last, poster: frames of what moves, from 0; seen: the same to a screen, for its picture; empty where it was asked for without
    """

    id: int
    scene: str
    code: str
    file_name: str
    fields: dict[str, str]
    picture: FrozenPicture
    encoding: str
    first: int | None
    last: int | None
    poster: int | None
    reel: str
    note: str
    approved: bool
    notes: list[FrozenNote]
    layers: Annotated[list[FrozenLayer], Field(description="as the light goes through them")]
    corrected_in: Annotated[str, Field(description="the encoding that its correction, as one CDL, works in")] = ""
    look: str
    seen: str = ""

    @property
    def footage(self) -> Footage | None:
        """What moves, as it was."""
        return footage_of(self.picture) if self.first is not None else None

    @property
    def rate(self) -> Fraction:
        return Fraction(self.picture.footage.rate) if self.picture.footage is not None and self.first is not None else Fraction(24)

    @property
    def named(self) -> str:
        return f"{self.scene} {self.code}"

    def as_shot(self) -> Shot:
        """For what shows shots; it is not in the database."""
        picture = _picture_of(self.picture)
        return Shot(
            code=self.code, encoding=self.encoding, picture=picture, first=self.first, last=self.last, poster=self.poster
        )  # fmt: skip


class Frozen(Document):
    """encoding: what it is delivered in; encodings: definitions of those that are not shipped; looks: by their keys

    entries: what was said of whatever lies on shots, by its number; left_out: what could not be delivered, in words
    """

    format: Literal["saucer-delivery-order"] = "saucer-delivery-order"
    version: Literal[1] = 1
    project: str
    code: str
    number: int
    by: str
    asked: datetime
    encoding: str
    choice: DeliveryChoice
    encodings: list[OwnEncoding]
    looks: dict[str, dict[str, Any]]
    shots: Annotated[list[FrozenShot], Field(description="in the order of the story")]
    entries: dict[int, Told]
    left_out: list[str]

    def look_of(self, shot: FrozenShot, seen: bool = False) -> Look:
        """What it goes through: to what it is delivered in, or to a screen. Raises: LookError"""
        return look_from(self.looks[shot.seen if seen else shot.look] | {"name": shot.code}, shot.code)

    def encoding_named(self, encoding_id: str) -> Encoding:
        return ENCODINGS.get(encoding_id) or encodings_of(self.encodings)[encoding_id]


def _picture_of(one: FrozenPicture) -> Picture:
    picture = Picture(
        pk=one.id, name=one.name, file_name=one.file_name, encoding=one.encoding, width=one.width, height=one.height,
        blob_id=one.sha256, proxy_id=one.proxy,
    )  # fmt: skip
    if one.footage is not None:
        told = one.footage
        rate = Fraction(told.rate)
        picture.footage = Footage(
            picture=picture, kind=told.kind, first=told.first, count=told.count, rate_top=rate.numerator, rate_bottom=rate.denominator,
            timecode=told.timecode, matrix=told.matrix, full=told.full, folder=told.folder, path=told.path,
            facts={"variable": told.variable, "alpha": told.alpha}, proxy_id=told.proxy or None, proxy_encoding=told.proxy_encoding,
        )  # fmt: skip
    return picture


def footage_of(one: FrozenPicture) -> Footage | None:
    """As it was; its files are those of the picture, which never change."""
    return _picture_of(one).footage if one.footage is not None else None


def document_of(delivery: Delivery) -> Frozen:
    """Raises: NotPossible for a delivery that was asked for before there were documents"""
    if delivery.frozen is None:
        raise NotPossible("This delivery was asked for by an earlier Saucer and cannot be gone on with. Deliver anew.")
    return _read(delivery.pk, delivery.made)


@lru_cache(maxsize=4)
def _read(pk: int, made: datetime) -> Frozen:
    """Read once for all the parts of it that a worker takes."""
    return Frozen.model_validate(Delivery.objects.only("frozen").get(pk=pk, made=made).frozen)


def schema_text() -> str:
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Saucer delivery", **Frozen.model_json_schema()}
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
