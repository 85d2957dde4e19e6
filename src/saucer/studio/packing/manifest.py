"""What a pack says of itself: manifest.json, from which another studio can have everything back. Its schema is docs/pack.schema.json."""

from __future__ import annotations

import json
from datetime import date, datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

MANIFEST = "manifest.json"


class PackedFile(BaseModel):
    """path: within the pack; expects, gives: encodings of the LUT; lost: what its format could not hold"""

    model_config = ConfigDict(extra="forbid")

    path: str
    format: str
    size: Annotated[int, Field(description="nodes a side, or samples; 0 for a look or a preset")] = 0
    sha256: str
    bytes: int
    expects: str = ""
    gives: str = ""
    lost: list[str] = []


class PackedVersion(BaseModel):
    """content: the look, or the steps of a preset; null for a LUT, which is the entry's first file"""

    model_config = ConfigDict(extra="forbid")

    number: int
    state: str
    note: str
    made: datetime
    made_by: str
    content: Any = None


class PackedEntry(BaseModel):
    model_config = ConfigDict(extra="forbid")

    kind: Literal["look", "lut", "preset"]
    name: str
    author: str
    note: str
    category: str
    tags: list[str]
    source: str
    licence: str
    may_pass_on: str
    pass_on_until: date | None
    character: Annotated[list[str], Field(description="what it does, in words")]
    versions: Annotated[list[PackedVersion], Field(description="the earliest first; the last is the one in the files")]
    files: list[PackedFile]


class LeftOut(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: str
    why: str


class Manifest(BaseModel):
    """luts: files that looks and presets use, by SHA-256; page: the page to look at, where there is one"""

    model_config = ConfigDict(extra="forbid")

    format: Literal["saucer-pack"] = "saucer-pack"
    version: Literal[1] = 1
    made: datetime
    made_by: str
    entries: list[PackedEntry]
    luts: dict[str, str] = {}
    left_out: list[LeftOut] = []
    page: str = ""
    pipelines: Annotated[str, Field(description="path of an OpenColorIO configuration, where there is one")] = ""


def manifest_text(manifest: Manifest) -> str:
    return json.dumps(manifest.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"


def schema_text() -> str:
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Saucer pack", **Manifest.model_json_schema()}
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
