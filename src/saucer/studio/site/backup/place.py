"""Where backups lie, and what stands in one.

PLACE/files/ab/abcd...      each stored file once, under its SHA-256, for all backups
PLACE/20261130T023000Z/     one backup: manifest.json, database.dump (pg_dump's custom format), secret
"""

from __future__ import annotations

from datetime import datetime
from pathlib import Path
from typing import Literal

from pydantic import BaseModel, ConfigDict, ValidationError

from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import name_of

MANIFEST, DUMP, SECRET, FILES = "manifest.json", "database.dump", "secret", "files"
UNDER_WAY = ".part"
"""Behind the name of one that is not whole yet."""


class Manifest(BaseModel):
    """migrations: the last of each app; rows: of each table; files: SHA-256 and bytes; missing: files that the store had not whole"""

    model_config = ConfigDict(extra="forbid")

    format: Literal["saucer-backup"] = "saucer-backup"
    version: Literal[1] = 1
    saucer: str
    made: datetime
    migrations: dict[str, str]
    rows: dict[str, int]
    files: dict[str, int]
    missing: list[str] = []

    @property
    def bytes(self) -> int:
        return sum(self.files.values())


def file_in(place: Path, sha256: str) -> Path:
    return place / FILES / name_of(sha256)


def list_backups(place: Path) -> list[Path]:
    """Those that are whole, the oldest first."""
    return sorted(path.parent for path in place.glob(f"*/{MANIFEST}") if path.parent.suffix != UNDER_WAY)


def find(place: Path, name: str = "") -> Path:
    """The one of that name, or the newest. Raises: NotFound"""
    there = list_backups(place)
    if not there:
        raise NotFound(f"There is no backup in {place}.")
    if not name:
        return there[-1]
    found = next((one for one in there if one.name == name), None)
    if found is None:
        raise NotFound(f'There is no backup "{name}" in {place}; there are {", ".join(one.name for one in there[-5:])}.')
    return found


def read_manifest(backup: Path) -> Manifest:
    """Raises: NotPossible for one that cannot be read"""
    try:
        return Manifest.model_validate_json((backup / MANIFEST).read_bytes())
    except (OSError, ValidationError) as error:
        raise NotPossible(f"{backup / MANIFEST} cannot be read: {str(error).splitlines()[0]}") from None
