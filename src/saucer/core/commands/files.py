"""Files that a command names, read and written whole or not at all."""

from __future__ import annotations

import argparse
import os
import tempfile
from dataclasses import replace
from pathlib import Path
from typing import TypeAlias

from saucer.core.errors import LookError, SaucerError
from saucer.core.files.fitting import WrittenLut
from saucer.core.files.registry import read_lut
from saucer.core.files.zips import ZIP
from saucer.core.look.bundle import Bundle, read_bundle
from saucer.core.look.family import as_member
from saucer.core.lut.table import Lut

NO_SUCH_FILE = "no such file"
LARGEST_FILE = 256 * 1024 * 1024


def require_file(path: Path) -> Path:
    """Raises: SaucerError"""
    if not path.is_file():
        raise SaucerError(str(path), NO_SUCH_FILE)
    return path


def read_bytes(path: Path) -> bytes:
    try:
        if path.stat().st_size > LARGEST_FILE:
            raise SaucerError(str(path), f"larger than {LARGEST_FILE // 2**20} MB")
        return path.read_bytes()
    except FileNotFoundError:
        raise SaucerError(str(path), NO_SUCH_FILE) from None
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


def is_look(data: bytes) -> bool:
    """A bundle, or JSON."""
    return data.startswith(ZIP) or data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1] == b"{"


def load_look(path: Path, member: str = "") -> Bundle:
    """member: which of its family. Raises: SaucerError"""
    return _member_of(read_bundle(read_bytes(path), path.name, path.parent), member)


def load(path: Path, member: str = "") -> Lut | Bundle:
    """A LUT or a look file. member: which of the look's family. Raises: SaucerError"""
    data = read_bytes(path)
    if is_look(data):
        return _member_of(read_bundle(data, path.name, path.parent), member)
    if member:
        raise LookError("--member", f"{path.name} is a LUT, which has no family; leave it out")
    return read_lut(data, path.name)[0]


def _member_of(bundle: Bundle, member: str) -> Bundle:
    return replace(bundle, look=as_member(bundle.look, member)) if member else bundle


def add_member(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--member", default="", metavar="NAME", help="which of the look's family, as `inspect` names them (default: the recipe)"
    )


def say_lost(made: WrittenLut) -> None:
    """What a written file lost, on standard output."""
    for words in made.lost:
        print(f"lost: {words}")
    if made.lost:
        within = "" if made.inside != made.inside else f"; within 0 to 1 at most {made.inside:.2g}"
        print(f"measured: colours move by {made.mean:.2g} on average, {made.largest:.2g} at most (1 is the whole range){within}")


Commands: TypeAlias = "argparse._SubParsersAction[argparse.ArgumentParser]"
