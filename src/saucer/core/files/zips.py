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
from saucer.core.reading.room import Session
from saucer.core.reading.tasks import reads

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
    zipped: Path | bytes, place: str, most: int = MOST_MEMBERS, most_bytes: int = MOST_BYTES
) -> Iterator[tuple[str, bytes | LutError]]:
    """Every file of a zip with its path; an error in the place of one that cannot be read, which does not stop the others.

    Unpacked by a reader, one member after the other. Raises: LutError for what is no zip, or holds too much
    """
    session = Session(StoredZip, zipped, place, most, most_bytes, place=place)
    session.open()
    try:
        for name, content, problem in session.each("members"):
            yield name, content if content is not None else LutError("", problem)
    finally:
        session.close()


@reads("pack", LutError)
class StoredZip:
    """A zip that is open in a reader. facts: how many files it holds"""

    def __init__(self, zipped: Path | bytes, place: str, most: int, most_bytes: int) -> None:
        self._zipped, self._place, self._most, self._left = zipped, place, most, most_bytes
        self._whole = most_bytes

    def __enter__(self) -> StoredZip:
        try:
            self._file = self._zipped.open("rb") if isinstance(self._zipped, Path) else io.BytesIO(self._zipped)
            self._archive = zipfile.ZipFile(self._file)
            infos = self._archive.infolist()
        except _BROKEN as error:
            raise LutError(self._place, f"a damaged zip file: {error}") from None
        self._infos = [info for info in infos if not info.filename.endswith("/") and not _ignored(info.filename)]
        if len(self._infos) > self._most:
            raise LutError(self._place, f"holds {len(self._infos)} files; {self._most} is the most")
        self.facts = len(self._infos)
        return self

    def __exit__(self, *problem: object) -> None:
        self._archive.close()
        self._file.close()

    def members(self) -> Iterator[tuple[str, bytes | None, str]]:
        """Path, content and what is wrong with one that has none. Sums are of what was really inflated."""
        for info in self._infos:
            content = _read(self._archive, info, min(self._left, LARGEST_MEMBER))
            if isinstance(content, LutError):
                yield info.filename, None, content.problem
                continue
            self._left -= len(content)
            if self._left < 0:
                raise LutError(self._place, f"unpacks to more than {self._whole // 2**20} MB")
            if len(content) > LARGEST_MEMBER:
                yield info.filename, None, f"larger than {LARGEST_MEMBER // 2**20} MB"
            else:
                yield info.filename, content, ""
            del content  # before the next one is unpacked


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


def count_members(path: Path) -> int:
    """About how many files a zip holds; 1 for what is none."""
    session = Session(StoredZip, path, path.name, MOST_MEMBERS, MOST_BYTES, place=path.name)
    try:
        return max(1, int(session.open()))
    except LutError:
        return 1
    finally:
        session.close()


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
