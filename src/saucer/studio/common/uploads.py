"""What is sent is measured before it is read."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from saucer.core.errors import LutError, SaucerError


def place_of(name: str | None, what: str) -> str:
    """The file's own name, without folders, as it is shown."""
    return Path(name or what).name[:200] or what


def check_size(size: int, most: int, place: str, error: type[SaucerError] = LutError) -> None:
    """Raises: `error`, for what is larger"""
    if size > most:
        raise error(place, f"larger than {most // 2**20} MB")


def read_upload(upload: Any, most: int, what: str, error: type[SaucerError] = LutError) -> tuple[bytes, str]:
    """Content and name of an uploaded file. Raises: `error` for one that is larger, before anything of it is in memory"""
    place = place_of(upload.name, what)
    check_size(upload.size or 0, most, place, error)
    return upload.read(), place
