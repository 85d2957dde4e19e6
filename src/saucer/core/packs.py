"""Zip files read member by member: nothing is unpacked to disk, and what it may unpack to is limited."""

from __future__ import annotations

import zipfile
from collections.abc import Iterator
from pathlib import PurePosixPath
from typing import IO

from saucer.core.errors import LutError

MOST_MEMBERS = 5000
MOST_BYTES = 2 * 2**30
LARGEST_MEMBER = 128 * 2**20
_BROKEN = (zipfile.BadZipFile, NotImplementedError, EOFError, OSError, ValueError, RuntimeError)
IGNORED = ("__MACOSX", ".DS_Store", "Thumbs.db", "desktop.ini")


def plain_name(name: str) -> bool:
    """Is this a file inside the zip's own folder, by its name?"""
    parts = PurePosixPath(name)
    return not (parts.is_absolute() or ".." in parts.parts or "\\" in name or "\0" in name or ":" in name)


def members(file: IO[bytes], place: str) -> Iterator[tuple[str, bytes | LutError]]:
    """Every file of a zip with its path; an error in the place of one that cannot be read, which does not stop the others.

    Raises: LutError for what is no zip, or holds too much
    """
    try:
        archive = zipfile.ZipFile(file)
        infos = [info for info in archive.infolist() if not info.is_dir()]
    except _BROKEN as error:
        raise LutError(place, f"a damaged zip file: {error}") from None
    infos = [
        info for info in infos if not any(part in IGNORED or part.startswith("._") for part in PurePosixPath(info.filename).parts)
    ]
    if len(infos) > MOST_MEMBERS:
        raise LutError(place, f"holds {len(infos)} files; {MOST_MEMBERS} is the most")
    left = MOST_BYTES
    with archive:
        for info in infos:
            if not plain_name(info.filename):
                yield info.filename, LutError("", "its name points outside the pack, so it was not read")
                continue
            if info.flag_bits & 1:
                yield info.filename, LutError("", "is encrypted; unpack it with its password first")
                continue
            try:
                with archive.open(info) as member:
                    content = member.read(min(left, LARGEST_MEMBER) + 1)
            except _BROKEN as error:
                yield info.filename, LutError("", f"cannot be unpacked: {error}")
                continue
            left -= len(content)
            if left < 0:
                raise LutError(place, f"unpacks to more than {MOST_BYTES // 2**30} GB")
            if len(content) > LARGEST_MEMBER:
                yield info.filename, LutError("", f"larger than {LARGEST_MEMBER // 2**20} MB")
                continue
            yield info.filename, content
