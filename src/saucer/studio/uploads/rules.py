"""Files in parts: begun, received, put together, gone when they are taken or nobody goes on with them.

The parts lie in the store, so that each of several machines may receive one of them.
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Collection
from datetime import datetime, timedelta
from pathlib import Path
from typing import IO
from uuid import UUID

from django.conf import settings
from django.core.files.base import File
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import TemporaryUploadedFile
from django.db import transaction
from django.utils import timezone

from saucer.studio.common.refusals import Conflict, NotFound, NotPossible
from saucer.studio.common.store import BLOCK, names_below, put
from saucer.studio.common.uploads import place_of
from saucer.studio.people import quota
from saucer.studio.people.models import Person
from saucer.studio.uploads.models import Upload

PART = 64 * 2**20
"""Bytes of a part at most."""
MOST_OPEN = 50
"""Files that one person may have on their way."""
KEPT_FOR = timedelta(days=1)
"""Since when nothing came of a file with which nobody goes on any more."""


def _folder(pk: UUID) -> str:
    return f"parts/{pk.hex}"


def begin(person: Person, name: str, size: int) -> Upload:
    """Raises: NotPossible for too large a file, too many of them, or no room"""
    most = settings.FOOTAGE_UPLOAD_LIMIT
    if size > most:
        raise NotPossible(f"{place_of(name, 'file')} has {size / 2**30:.1f} GB; {most / 2**30:.0f} GB is the most.")
    if Upload.objects.filter(person=person).count() >= MOST_OPEN:
        raise NotPossible(f"{MOST_OPEN} files of yours are on their way already. Let some of them end, or wait a day.")
    quota.require_room("person", person.pk, size)
    return Upload.objects.create(person=person, name=place_of(name, "file"), size=size)


def find(person: Person, pk: UUID) -> Upload:
    """One's own. Raises: NotFound"""
    found = Upload.objects.filter(person=person, pk=pk).first()
    if found is None:
        raise NotFound("There is no such file on its way: it was taken, or nothing came of it for a day.")
    return found


def receive(person: Person, pk: UUID, offset: int, read: Callable[[int], bytes]) -> Upload:
    """What comes at this offset; where the connection is lost, as much of it as had come.

    read: gives so many bytes at most, none at the end

    Raises: NotFound; Conflict where the next bytes are others; NotPossible for more than the file was said to have
    """
    _require_next(find(person, pk), offset)
    with tempfile.TemporaryFile(dir=settings.FILE_UPLOAD_TEMP_DIR) as came:
        count = _read_into(came, read)
        with transaction.atomic():
            upload = Upload.objects.select_for_update().filter(person=person, pk=pk).first()
            if upload is None:
                raise NotFound("This file was cancelled meanwhile.")
            _require_next(upload, offset)
            if offset + count > upload.size:
                raise NotPossible(f"{upload.name} was said to have {upload.size} bytes, and more came.")
            if count:
                put(f"{_folder(pk)}/{offset:015d}", File(came))
                upload.offset, upload.touched = offset + count, timezone.now()
                upload.save(update_fields=["offset", "touched"])
    return upload


def _require_next(upload: Upload, offset: int) -> None:
    if offset != upload.offset:
        raise Conflict(f"The next byte of {upload.name} is number {upload.offset}, not {offset}.", offset=upload.offset)


def _read_into(file: IO[bytes], read: Callable[[int], bytes]) -> int:
    """Returns: how many bytes came. Raises: NotPossible for more than a part"""
    count = 0
    while True:
        try:
            block = read(min(BLOCK, PART + 1 - count))
        except OSError:  # the connection is lost (Django's UnreadablePostError): what has come stays
            return count
        if not block:
            return count
        count += len(block)
        if count > PART:
            raise NotPossible(f"A part has {PART // 2**20} MB at most.")
        file.write(block)


def gather(upload: Upload) -> TemporaryUploadedFile:
    """The whole of it, as a form's file. Raises: NotPossible where it is not whole yet, or parts are gone: then it begins anew"""
    if not upload.is_whole:
        raise NotPossible(f"Of {upload.name} only {upload.offset} of {upload.size} bytes have come.")
    whole = TemporaryUploadedFile(upload.name, "application/octet-stream", upload.size, None)
    for name in sorted(names_below(_folder(upload.pk))):
        with default_storage.open(f"{_folder(upload.pk)}/{name}", "rb") as part:
            while block := part.read(BLOCK):
                whole.write(block)
    if whole.tell() != upload.size:
        # As after a restore: what is on its way is in no backup.
        end(upload)
        raise NotPossible(f"Parts of {upload.name} are gone. Send it once more.")
    whole.seek(0)
    return whole


def end(upload: Upload) -> None:
    """Taken, or wanted no more."""
    with transaction.atomic():
        if Upload.objects.select_for_update().filter(pk=upload.pk).delete()[0]:
            names = [f"{_folder(upload.pk)}/{name}" for name in names_below(_folder(upload.pk))]
            for name in names:
                default_storage.delete(name)
            _drop_folder(_folder(upload.pk))


def end_all(person: Person, numbers: Collection[UUID]) -> None:
    """Those of them that are there, and the person's own."""
    for one in Upload.objects.filter(person=person, pk__in=numbers):
        end(one)


def _drop_folder(name: str) -> None:
    """An empty one would stay; a bucket has none."""
    try:
        Path(default_storage.path(name)).rmdir()
    except (NotImplementedError, FileNotFoundError):
        return


def end_old(now: datetime) -> int:
    """With which nobody went on for a day. Returns: how many"""
    old = list(Upload.objects.filter(touched__lt=now - KEPT_FOR))
    for one in old:
        end(one)
    return len(old)
