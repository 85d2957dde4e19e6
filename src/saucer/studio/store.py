"""Content-addressed files on top of Django's storage, so that a bucket can take the place of the folder."""

from __future__ import annotations

import hashlib
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from django.core.files.base import ContentFile, File
from django.core.files.storage import default_storage

BLOCK = 1 << 20


def _name(sha256: str) -> str:
    return f"{sha256[:2]}/{sha256}"


def keep_bytes(data: bytes) -> str:
    """Store data once; returns its SHA-256 in hex, by which it is found again."""
    sha256 = hashlib.sha256(data).hexdigest()
    if not default_storage.exists(_name(sha256)):
        default_storage.save(_name(sha256), ContentFile(data))
    return sha256


def keep_file(path: Path) -> str:
    """Store a file once, without reading it into memory; returns its SHA-256 in hex."""
    with path.open("rb") as file:
        sha256 = hashlib.file_digest(file, "sha256").hexdigest()
        if not default_storage.exists(_name(sha256)):
            file.seek(0)
            default_storage.save(_name(sha256), File(file))
    return sha256


def keep_upload(upload: File[bytes]) -> str:
    """Store what was sent once; returns its SHA-256 in hex."""
    digest = hashlib.sha256()
    for block in upload.chunks():
        digest.update(block)
    sha256 = digest.hexdigest()
    if not default_storage.exists(_name(sha256)):
        upload.seek(0)
        default_storage.save(_name(sha256), upload)
    return sha256


def open_kept(sha256: str) -> IO[bytes]:
    opened: IO[bytes] = default_storage.open(_name(sha256), "rb")
    return opened


def read_kept(sha256: str) -> bytes:
    with open_kept(sha256) as file:
        return file.read()


@contextmanager
def local_file(sha256: str, suffix: str = "") -> Iterator[Path]:
    """A path on this machine to the stored file, for libraries that want one. Not to be written to."""
    try:
        path = Path(default_storage.path(_name(sha256)))
    except NotImplementedError:
        path = None
    if path is not None and not suffix:
        yield path
        return
    with tempfile.NamedTemporaryFile(suffix=suffix) as copy:
        with open_kept(sha256) as file:
            while block := file.read(BLOCK):
                copy.write(block)
        copy.flush()
        yield Path(copy.name)
