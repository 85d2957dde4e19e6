"""Files that a command names, read and written whole or not at all."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

from saucer.core.errors import SaucerError

LARGEST_FILE = 256 * 1024 * 1024


def read_bytes(path: Path) -> bytes:
    try:
        if path.stat().st_size > LARGEST_FILE:
            raise SaucerError(str(path), f"larger than {LARGEST_FILE // 2**20} MB")
        return path.read_bytes()
    except OSError as error:
        raise SaucerError(str(path), (error.strerror or str(error)).lower()) from None


def write_bytes(data: bytes, path: Path) -> None:
    try:
        handle, temporary = tempfile.mkstemp(dir=path.parent)
        try:
            with os.fdopen(handle, "wb") as file:
                file.write(data)
            os.chmod(temporary, 0o644)
            os.replace(temporary, path)
        finally:
            Path(temporary).unlink(missing_ok=True)
    except OSError as error:
        raise SaucerError(str(path), (error.strerror or str(error)).lower()) from None
