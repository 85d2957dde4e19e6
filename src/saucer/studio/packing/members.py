"""Files of a pack that comes back, unpacked one after the other into a folder, so that all of them never stand in memory."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from pathlib import Path

from django.conf import settings

from saucer.core.files.zips import read_members

MOST_MEMBERS = 20_000


class Members(Mapping[str, bytes]):
    """Contents by their paths in the pack. Raises: LutError for what is no zip, or holds too much"""

    def __init__(self, zipped: Path, place: str, folder: Path) -> None:
        """folder: an empty one, which they are put into under numbers"""
        self._places: dict[str, Path] = {}
        for number, (name, content) in enumerate(read_members(zipped, place, MOST_MEMBERS, settings.PACK_UPLOAD_LIMIT * 4)):
            if isinstance(content, bytes):
                self._places[name] = folder / str(number)
                self._places[name].write_bytes(content)

    def __getitem__(self, name: str) -> bytes:
        return self._places[name].read_bytes()

    def __iter__(self) -> Iterator[str]:
        return iter(self._places)

    def __len__(self) -> int:
        return len(self._places)

    def size(self, name: str) -> int:
        """Bytes of one. Raises: KeyError"""
        return self._places[name].stat().st_size
