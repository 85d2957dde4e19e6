"""What a pack says of itself: manifest.json, from which another studio can have everything back. Its schema is docs/pack.schema.json."""

from __future__ import annotations

import json
from datetime import date, datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from saucer.core.look.member import LONGEST_NAME
from saucer.studio.catalogue.models import Kind, PassOn, VersionState
from saucer.studio.catalogue.order.tags import MOST_ON_AN_ENTRY
from saucer.studio.catalogue.words import Author, CategoryPath, Licence, Name, Note, Source, TagName, Until, VersionNote

MANIFEST = "manifest.json"


Path = Annotated[str, Field(max_length=400)]
Sha256 = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
Words = Annotated[str, Field(max_length=300)]
EncodingId = Annotated[str, Field(max_length=40)]
MOST_ENTRIES, MOST_VERSIONS, MOST_FILES = 2000, 1000, 100


class _Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class PackedFile(_Strict):
    """path: within the pack; expects, gives: encodings of the LUT; lost: what its format could not hold

    member: which of a look's family it was baked from; empty for the recipe
    """

    path: Path
    format: Annotated[str, Field(max_length=20)]
    size: Annotated[int, Field(ge=0, le=1_000_000, description="nodes a side, or samples; 0 for a look or a preset")] = 0
    sha256: Sha256
    bytes: Annotated[int, Field(ge=0)]
    expects: EncodingId = ""
    gives: EncodingId = ""
    lost: Annotated[list[Words], Field(max_length=100)] = []
    member: Annotated[str, Field(max_length=LONGEST_NAME)] = ""


class PackedVersion(_Strict):
    """content: the look, or the steps of a preset; null for a LUT, which is the entry's first file"""

    number: Annotated[int, Field(ge=1, le=1_000_000)]
    state: VersionState
    note: VersionNote
    made: datetime
    made_by: Name
    content: dict[str, Any] | None = None


class Told(_Strict):
    """What is said of an entry."""

    name: Annotated[Name, Field(min_length=1)]
    author: Author
    note: Note
    category: CategoryPath
    tags: Annotated[list[TagName], Field(max_length=MOST_ON_AN_ENTRY)]
    source: Source
    licence: Licence
    may_pass_on: PassOn
    pass_on_until: Until | None


class PackedEntry(Told):
    kind: Kind
    character: Annotated[list[TagName], Field(max_length=50, description="what it does, in words")]
    versions: Annotated[
        list[PackedVersion], Field(max_length=MOST_VERSIONS, description="the earliest first; the last is the one in the files")
    ]
    files: Annotated[list[PackedFile], Field(max_length=MOST_FILES)]


class Inside(_Strict):
    """A LUT that leaves because something holds it. used_by: names of entries; the rest is what is said of it here"""

    name: Name
    path: Path
    sha256: Sha256
    used_by: list[Name]
    source: Source
    licence: Licence
    may_pass_on: PassOn
    pass_on_until: date | None


class LeftOut(_Strict):
    name: Annotated[str, Field(max_length=200)]
    why: Words


class ManifestHead(_Strict):
    """All but the entries, which are read one by one: one that cannot be read stops no other.

    luts: files that looks and presets use, by SHA-256; inside: what these are; page: the page to look at, where there is one
    """

    format: Literal["saucer-pack"] = "saucer-pack"
    version: Literal[1] = 1
    made: datetime
    made_by: Name
    luts: dict[Sha256, Path] = {}
    inside: list[Inside] = []
    left_out: list[LeftOut] = []
    page: Path = ""
    pipelines: Annotated[Path, Field(description="path of an OpenColorIO configuration, where there is one")] = ""


class Manifest(ManifestHead):
    entries: Annotated[list[PackedEntry], Field(max_length=MOST_ENTRIES)]


def manifest_text(manifest: Manifest) -> str:
    return json.dumps(manifest.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"


def schema_text() -> str:
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Saucer pack", **Manifest.model_json_schema()}
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
