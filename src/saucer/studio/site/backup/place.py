"""Where backups lie, a folder or a bucket, and what stands in one.

files/ab/abcd...      each stored file once, under its SHA-256, for all backups
20261130T023000Z/     one backup: database.dump (pg_dump's custom format), secret, and manifest.json, which is written last: what has none
                      was cut off
"""

from __future__ import annotations

import os
import re
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path
from typing import IO, Literal

from django.core.files.base import ContentFile, File
from django.core.files.storage import FileSystemStorage, Storage
from pydantic import BaseModel, ConfigDict, ValidationError

from saucer import options
from saucer.studio.common.refusals import NotFound, NotPossible
from saucer.studio.common.store import WholeFileStorage, name_of

MANIFEST, DUMP, SECRET, FILES = "manifest.json", "database.dump", "secret", "files"
_NAME = re.compile(r"\d{8}T\d{6}Z")


class Folder(WholeFileStorage):
    """Nobody else may look into it."""

    FILE_MODE, FOLDER_MODE = 0o600, 0o700


def _bucket(said: str) -> Storage:
    from saucer.studio.common.bucket import BucketStorage  # who has none does not wait for the library

    return BucketStorage(**options.reach_bucket(said))


class Place:
    """A folder or a bucket of backups. said: its path, or s3://bucket/below. Raises: ValueError"""

    def __init__(self, said: str | Path) -> None:
        self.said = str(said)
        self.storage: Storage = _bucket(self.said) if self.said.startswith(options.BUCKET) else Folder(Path(said).resolve())

    def prepare(self) -> None:
        if isinstance(self.storage, FileSystemStorage):
            Path(self.storage.location).mkdir(Folder.FOLDER_MODE, parents=True, exist_ok=True)

    def size_of(self, name: str) -> int | None:
        """None for what is not there."""
        try:
            return self.storage.size(name)
        except FileNotFoundError:
            return None

    def put(self, name: str, content: bytes) -> None:
        self.storage.save(name, ContentFile(content))

    @contextmanager
    def writing(self, name: str) -> Iterator[IO[bytes]]:
        """A file on this machine for what will have this name once it is whole; nothing has where that ends by an error."""
        if isinstance(self.storage, WholeFileStorage):
            with self.storage.writing(name) as file:
                yield file
            return
        with tempfile.NamedTemporaryFile() as copy:
            yield copy
            copy.seek(0)
            self.storage.save(name, File(copy))

    @contextmanager
    def reading(self, name: str) -> Iterator[Path]:
        """A path on this machine, for programs that want one. Raises: FileNotFoundError"""
        if isinstance(self.storage, FileSystemStorage):
            yield Path(self.storage.path(name))
            return
        with tempfile.NamedTemporaryFile() as copy, self.storage.open(name) as file:
            for block in file.chunks():
                copy.write(block)
            copy.flush()
            yield Path(copy.name)

    def read(self, name: str) -> bytes:
        with self.storage.open(name) as file:
            content: bytes = file.read()
            return content

    def below(self, folder: str = "") -> tuple[list[str], list[str]]:
        """Names of the folders and of the files in it; none where it is not there."""
        try:
            return self.storage.listdir(folder)
        except FileNotFoundError:
            return [], []

    def remove(self, folder: str) -> None:
        """With the files in it; what says that it is whole goes first."""
        for name in sorted(self.below(folder)[1], key=lambda one: one != MANIFEST):
            self.storage.delete(f"{folder}/{name}")  # in a bucket the folder is gone with the last of them
        if isinstance(self.storage, FileSystemStorage):
            os.rmdir(self.storage.path(folder))


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


def file_named(sha256: str) -> str:
    return f"{FILES}/{name_of(sha256)}"


def list_backups(place: Place) -> list[str]:
    """The names of those that are whole, the oldest first."""
    return sorted(name for name in place.below()[0] if _NAME.fullmatch(name) and place.size_of(f"{name}/{MANIFEST}") is not None)


def list_cut_off(place: Place) -> list[str]:
    """What is left of those that never became whole."""
    whole = list_backups(place)
    return [name for name in place.below()[0] if _NAME.match(name) and name not in whole]


def find(place: Place, name: str = "") -> str:
    """The name of that one, or of the newest. Raises: NotFound"""
    there = list_backups(place)
    if not there:
        raise NotFound(f"There is no backup in {place.said}.")
    if name and name not in there:
        raise NotFound(f'There is no backup "{name}" in {place.said}; there are {", ".join(there[-5:])}.')
    return name or there[-1]


def read_manifest(place: Place, name: str) -> Manifest:
    """Raises: NotPossible for one that cannot be read"""
    try:
        return Manifest.model_validate_json(place.read(f"{name}/{MANIFEST}"))
    except (OSError, ValidationError) as error:
        raise NotPossible(f"{place.said}/{name}/{MANIFEST} cannot be read: {str(error).splitlines()[0]}") from None
