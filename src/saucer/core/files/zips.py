"""Zip files read member by member, nothing unpacked to disk and what it may unpack to limited; and written the same every time."""

from __future__ import annotations

import io
import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterable, Iterator
from pathlib import Path, PurePosixPath
from typing import IO

from saucer.core.errors import LutError

ZIP = b"PK\x03\x04"
MOST_MEMBERS = 5000
MOST_BYTES = 2 * 2**30
LARGEST_MEMBER = 128 * 2**20
LARGEST_DICTIONARY = 64 * 2**20
IGNORED = ("__MACOSX", ".DS_Store", "Thumbs.db", "desktop.ini")
_BROKEN = (
    zipfile.BadZipFile,
    struct.error,
    zlib.error,
    lzma.LZMAError,
    NotImplementedError,
    EOFError,
    OSError,
    ValueError,
    RuntimeError,
)


def is_inside(name: str) -> bool:
    """Is this a file inside the zip's own folder, by its name?"""
    path = PurePosixPath(name)
    return not (path.is_absolute() or ".." in path.parts or "\\" in name or "\0" in name or ":" in name)


def read_members(
    file: IO[bytes], place: str, most: int = MOST_MEMBERS, most_bytes: int = MOST_BYTES
) -> Iterator[tuple[str, bytes | LutError]]:
    """Every file of a zip with its path; an error in the place of one that cannot be read, which does not stop the others.

    Raises: LutError for what is no zip, or holds too much
    """
    try:
        archive = zipfile.ZipFile(file)
        infos = [info for info in archive.infolist() if not info.filename.endswith("/") and not _ignored(info.filename)]
    except _BROKEN as error:
        raise LutError(place, f"a damaged zip file: {error}") from None
    if len(infos) > most:
        raise LutError(place, f"holds {len(infos)} files; {most} is the most")
    left = most_bytes
    with archive:
        for info in infos:
            content = _read(archive, info, min(left, LARGEST_MEMBER))
            if not isinstance(content, LutError):
                left -= len(content)
                if left < 0:
                    raise LutError(place, f"unpacks to more than {most_bytes // 2**20} MB")
                if len(content) > LARGEST_MEMBER:
                    content = LutError("", f"larger than {LARGEST_MEMBER // 2**20} MB")
            yield info.filename, content


def _ignored(name: str) -> bool:
    return any(part in IGNORED or part.startswith("._") for part in PurePosixPath(name).parts)


def _read(archive: zipfile.ZipFile, info: zipfile.ZipInfo, most: int) -> bytes | LutError:
    if not info.filename:
        return LutError("", "has no name")
    if not is_inside(info.filename):
        return LutError("", "its name points outside the zip, so it was not read")
    if info.flag_bits & 1:
        return LutError("", "is encrypted; unpack it with its password first")
    try:
        if info.compress_type == zipfile.ZIP_LZMA and _dictionary(archive, info) > LARGEST_DICTIONARY:
            return LutError("", f"wants more than {LARGEST_DICTIONARY // 2**20} MB of memory to be unpacked; pack it anew")
        with archive.open(info) as member:
            return member.read(most + 1)
    except _BROKEN as error:
        return LutError("", f"cannot be unpacked: {error}")


def _dictionary(archive: zipfile.ZipFile, info: zipfile.ZipInfo) -> int:
    """Bytes that unpacking LZMA takes, as the member itself says: the library allocates them before it reads on (APPNOTE 5.8.8)."""
    file = archive.fp
    assert file is not None
    file.seek(info.header_offset)
    lengths = struct.unpack("<HH", file.read(30)[26:])
    file.seek(info.header_offset + 30 + sum(lengths))
    return int.from_bytes(file.read(9)[5:], "little")


def count_members(file: IO[bytes]) -> int:
    """About how many files a zip holds; 1 for what is none."""
    try:
        with zipfile.ZipFile(file) as archive:
            return len(archive.namelist())
    except _BROKEN:
        return 1


def write_zip(members: Iterable[tuple[str, bytes]]) -> bytes:
    """Names with contents as a zip: the same members give the same bytes."""
    packed = io.BytesIO()
    pack_into(packed, members)
    return packed.getvalue()


def pack_into(file: IO[bytes] | Path, members: Iterable[tuple[str, bytes]], level: int | None = None) -> None:
    """As write_zip into a file, one member in memory at a time. level: of deflate, 1 for soonest to 9 for smallest"""
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=level) as archive:
        for name, data in members:
            info = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            info.compress_type, info.external_attr = zipfile.ZIP_DEFLATED, 0o644 << 16
            archive.writestr(info, data)
