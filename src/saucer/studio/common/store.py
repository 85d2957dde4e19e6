"""Content-addressed files on top of Django's storage, so that a bucket can take the place of the folder."""

from __future__ import annotations

import errno
import hashlib
import os
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from django.core.files.base import ContentFile, File
from django.core.files.storage import FileSystemStorage, default_storage
from django.db import transaction
from django.utils import timezone
from prometheus_client import Counter

from saucer.studio.common.models import Blob

BLOCK = 1 << 20
PASSING = "previews/"
"""What can be made again at any time, and is looked at before it is used: it does not wait for the disk."""

FOUND = Counter("saucer_found", "What can be made or fetched again: was it there already?", ["what", "there"])


class StoreAway(OSError):
    """Where files are kept cannot be reached, or refuses."""

    def __init__(self, reason: object) -> None:
        super().__init__(errno.EIO, f"the bucket cannot be used: {str(reason).splitlines()[0][:200]}")


class WholeFileStorage(FileSystemStorage):
    """A folder in which a file is there whole or not at all: written beside its place, flushed to disk, then renamed."""

    FILE_MODE, FOLDER_MODE = 0o644, 0o755

    def _save(self, name: str, content: File[bytes]) -> str:
        with self.writing(name) as file:
            for block in content.chunks():
                file.write(block)
        return name

    @contextmanager
    def writing(self, name: str) -> Iterator[IO[bytes]]:
        """What will have this name once it is whole; nothing has where that ends by an error."""
        path, lasting = Path(self.path(name)), not name.startswith(PASSING)
        path.parent.mkdir(self.FOLDER_MODE, parents=True, exist_ok=True)
        handle, temporary = tempfile.mkstemp(dir=path.parent, prefix=".new-")
        try:
            os.close(handle)
            with open(temporary, "wb") as file:
                yield file
                file.flush()
                if lasting:
                    os.fsync(file.fileno())
            os.chmod(temporary, self.FILE_MODE)
            os.replace(temporary, path)
            if lasting:
                _flush_folder(path.parent)
        finally:
            Path(temporary).unlink(missing_ok=True)

    def get_available_name(self, name: str, max_length: int | None = None) -> str:
        """The name itself: a name says what is in the file, so one that is there already holds the same."""
        return name


def _flush_folder(folder: Path) -> None:
    """So that the new name is on disk too, not only what is under it."""
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def name_of(sha256: str) -> str:
    """Where in the storage a file lies."""
    return f"{sha256[:2]}/{sha256}"


def open_stored(name: str) -> File[bytes]:
    """What the store itself has, past copies of it on this machine. Raises: FileNotFoundError"""
    past: Callable[[str], File[bytes]] = getattr(default_storage, "open_stored", default_storage.open)
    return past(name)


def is_whole(sha256: str) -> bool:
    """Does what lies there have this hash? It is read through."""
    with open_stored(name_of(sha256)) as file:
        return hashlib.file_digest(file, "sha256").hexdigest() == sha256


def _keep(sha256: str, size: int, content: File[bytes]) -> Blob:
    """Its row is locked meanwhile, so that a file that is being discarded is not taken to be there.

    What lies there already without a row is from a keeping that was cut off, and is read through before it is believed.
    """
    name = name_of(sha256)
    with transaction.atomic():
        blob, is_new = Blob.objects.select_for_update().get_or_create(sha256=sha256, defaults={"bytes": size})
        is_there = default_storage.exists(name) and default_storage.size(name) == size and not (is_new and not is_whole(sha256))
        if not is_there:
            put(name, content)
        if not is_new:
            # Wanted again: the sweep counts its days anew.
            Blob.objects.filter(pk=sha256).update(made=timezone.now())
    return blob


def put(name: str, content: File[bytes]) -> None:
    """In the place of what lies there, whatever the storage does with names that are taken."""
    content.seek(0)
    saved = default_storage.save(name, content)
    if saved != name:
        default_storage.delete(saved)
        default_storage.delete(name)
        content.seek(0)
        default_storage.save(name, content)


def keep_bytes(data: bytes) -> Blob:
    """Store data once, under its SHA-256."""
    return _keep(hashlib.sha256(data).hexdigest(), len(data), ContentFile(data))


def keep_file(path: Path) -> Blob:
    """Store a file once, without reading it into memory."""
    with path.open("rb") as file:
        return _keep(hashlib.file_digest(file, "sha256").hexdigest(), path.stat().st_size, File(file))


def keep_upload(upload: File[bytes]) -> Blob:
    """Store what was sent once."""
    digest = hashlib.sha256()
    for block in upload.chunks():
        digest.update(block)
    return _keep(digest.hexdigest(), upload.size or 0, upload)


def look_up(name: str, what: str, is_whole: Callable[[bytes], bool]) -> bytes | None:
    """Of what can be made again: none where it is not there, or was cut off. what: as the metrics call it. It is asked for once."""
    try:
        with default_storage.open(name, "rb") as file:
            kept: bytes = file.read()
    except FileNotFoundError:
        kept = b""
    there = is_whole(kept)
    FOUND.labels(what, "yes" if there else "no").inc()
    return kept if there else None


def open_kept(sha256: str) -> IO[bytes]:
    opened: IO[bytes] = default_storage.open(name_of(sha256), "rb")
    return opened


def read_kept(sha256: str) -> bytes:
    with open_kept(sha256) as file:
        return file.read()


def discard(blob: Blob) -> None:
    """Take a file that nothing refers to out of the store. Raises: ProtectedError when something does"""
    with transaction.atomic():
        locked = Blob.objects.select_for_update().filter(pk=blob.pk, made=blob.made).first()
        if locked is None:
            return  # gone, or wanted again meanwhile
        locked.delete()
        default_storage.delete(name_of(blob.sha256))


def names_below(folder: str) -> list[str]:
    """Of the files in it; none where nothing was ever kept there, which a bucket does not tell from an empty folder."""
    try:
        return default_storage.listdir(folder)[1]
    except FileNotFoundError:
        return []


@contextmanager
def local_file(sha256: str, suffix: str = "") -> Iterator[Path]:
    """A path on this machine to the stored file, for libraries that want one. Not to be written to."""
    try:
        path = Path(default_storage.path(name_of(sha256)))
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
