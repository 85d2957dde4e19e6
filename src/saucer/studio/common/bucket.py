"""A bucket of any store that speaks S3 in the place of the folder, with copies of what was read lately on this machine.

A name says what is in its file, so that a copy is never out of date. Source of what is asked: Amazon S3 API Reference, 2006-03-01.
"""

from __future__ import annotations

import errno
import os
import tempfile
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager, suppress
from datetime import datetime
from pathlib import Path
from threading import Lock
from time import time
from typing import IO
from urllib.parse import urlsplit

from botocore.config import Config
from botocore.exceptions import BotoCoreError, ClientError
from django.core.files.base import File
from storages.backends.s3 import S3Storage

from saucer.studio.common.store import FOUND, StoreAway

_GONE = ("404", "NoSuchKey", "NotFound")
IN_USE = 600
"""Seconds since a copy was last asked for, in which it is not taken away."""
LOOKED_AT = 0.05
"""Share of the room that may be filled before the copies are counted again."""


def where(said: str) -> tuple[str, str]:
    """Of s3://bucket/below: the bucket, and what its names begin with. Raises: ValueError"""
    parts = urlsplit(said)
    if parts.scheme != "s3" or not parts.netloc or parts.query or parts.fragment:
        raise ValueError("s3://bucket or s3://bucket/below")
    return parts.netloc, parts.path.strip("/")


@contextmanager
def _asked(name: str = "") -> Iterator[None]:
    try:
        yield
    except ClientError as error:
        if error.response.get("Error", {}).get("Code") in _GONE:
            raise FileNotFoundError(errno.ENOENT, os.strerror(errno.ENOENT), name) from None
        raise StoreAway(error) from error
    except BotoCoreError as error:
        raise StoreAway(error) from error


class BucketStorage(S3Storage):
    """said: s3://bucket/below; url: of a store that is not Amazon's; cache: a folder for copies, none for no copies; room: their bytes"""

    def __init__(
        self, said: str, url: str = "", region: str = "", key: str = "", secret: str = "", cache: Path | None = None, room: int = 0
    ) -> None:
        bucket, below = where(said)
        # A store elsewhere seldom has a host name for each bucket. What takes longer than that is away, and is said to be.
        style = {"addressing_style": "path"} if url else None
        told = Config(
            s3=style, signature_version="s3v4", connect_timeout=5, read_timeout=60, retries={"mode": "standard", "max_attempts": 3}
        )  # fmt: skip
        super().__init__(
            bucket_name=bucket, location=below, endpoint_url=url or None, region_name=region or None, access_key=key or None,
            secret_key=secret or None, client_config=told, file_overwrite=True, default_acl=None,
        )  # fmt: skip
        self._cache, self._room = cache, room
        self._lock, self._filled = Lock(), float("inf")

    def path(self, name: str) -> str:
        """Of a copy on this machine, fetched where there is none yet. Raises: FileNotFoundError; StoreAway; NotImplementedError"""
        if self._cache is None:
            raise NotImplementedError("nothing of this bucket is kept here")
        place = self._cache / name
        try:
            os.utime(place)
        except FileNotFoundError:
            self._fetch(name, place)
            FOUND.labels("copy", "no").inc()
        else:
            FOUND.labels("copy", "yes").inc()
        return str(place)

    def _fetch(self, name: str, place: Path) -> None:
        place.parent.mkdir(parents=True, exist_ok=True)
        handle, temporary = tempfile.mkstemp(dir=place.parent, prefix=".new-")
        try:
            with os.fdopen(handle, "wb") as file:
                self._read_into(file, name)
                size = file.tell()
            os.replace(temporary, place)
        finally:
            Path(temporary).unlink(missing_ok=True)
        self._make_room(size)

    def _make_room(self, more: int) -> None:
        """What was not asked for longest goes first."""
        with self._lock:
            self._filled += more
            if self._filled < self._room * LOOKED_AT:
                return
            self._filled = 0
        assert self._cache is not None
        there = []
        for path in self._cache.glob("*/*"):
            with suppress(FileNotFoundError):
                told = path.stat()
                there.append((told.st_mtime, told.st_size, path))
        over = sum(size for _, size, _ in there) - self._room * (1 - LOOKED_AT)
        for used, size, path in sorted(there):
            if over <= 0 or used > time() - IN_USE:
                break
            path.unlink(missing_ok=True)
            over -= size

    def open_stored(self, name: str) -> File[bytes]:
        """What the bucket itself has, whatever lies here. Raises: FileNotFoundError; StoreAway"""
        with ExitStack() as stack:
            file = stack.enter_context(tempfile.TemporaryFile())
            self._read_into(file, name)
            file.seek(0)
            stack.pop_all()
            return File(file, name)

    def _read_into(self, file: IO[bytes], name: str) -> None:
        with _asked(name):
            self.bucket.Object(self._normalize_name(name)).download_fileobj(file, Config=self.transfer_config)

    def _open(self, name: str, mode: str = "rb") -> File[bytes]:
        if self._cache is None:
            return self.open_stored(name)
        return File(Path(self.path(name)).open("rb"), name)

    def _save(self, name: str, content: File[bytes]) -> str:
        if self._cache is not None:
            (self._cache / name).unlink(missing_ok=True)
        with _asked(name):
            saved: str = super()._save(name, content)
        return saved

    def delete(self, name: str) -> None:
        if self._cache is not None:
            (self._cache / name).unlink(missing_ok=True)
        with suppress(FileNotFoundError), _asked(name):
            super().delete(name)

    def exists(self, name: str) -> bool:
        try:
            self.size(name)
        except FileNotFoundError:
            return False
        return True

    def size(self, name: str) -> int:
        with _asked(name):
            return int(self.bucket.Object(self._normalize_name(name)).content_length)

    def listdir(self, path: str) -> tuple[list[str], list[str]]:
        with _asked(path):
            found: tuple[list[str], list[str]] = super().listdir(path)
        return found

    def get_modified_time(self, name: str) -> datetime:
        with _asked(name):
            found: datetime = super().get_modified_time(name)
        return found

    def get_available_name(self, name: str, max_length: int | None = None) -> str:
        """As in a folder: a name says what is in the file."""
        return name
