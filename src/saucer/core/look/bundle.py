"""Look files with the LUTs they use: look.json beside LUT files, or one zip of both."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path, PurePosixPath
from typing import Any

from saucer.core.errors import LookError, LutError, SaucerError
from saucer.core.files.registry import read_lut
from saucer.core.files.zips import ZIP, read_members, write_zip
from saucer.core.look.model import Look, look_text, parse_look
from saucer.core.look.tree import Place, path_of, replace_steps, walk
from saucer.core.lut.table import Lut
from saucer.core.steps.pixel.lut import LutStep
from saucer.core.steps.registry import no_luts

MOST_MEMBERS = 500
MOST_BYTES = 512 * 2**20
LOOK_NAME = "look.json"


@dataclass(frozen=True)
class Bundle:
    """A look whose LUT steps are all named by SHA-256, and the LUT files that came with it: SHA-256 to (file name, content)."""

    look: Look
    files: Mapping[str, tuple[str, bytes]]

    @cached_property
    def _tables(self) -> dict[str, Lut]:
        return {sha256: read_lut(data, name)[0] for sha256, (name, data) in self.files.items()}

    def luts(self, sha256: str) -> Lut:
        """Raises: LutError when it did not come with the look."""
        return self._tables[sha256] if sha256 in self.files else no_luts(sha256)


def read_bundle(data: bytes, place: str, folder: Path | None = None) -> Bundle:
    """A look file's or a bundle's content. LUTs of a look file are read from `folder`, never from outside it.

    Raises: LookError, LutError with the file, line or step
    """
    if data.startswith(ZIP):
        return _from_zip(data, place)
    look = parse_look(data, place)

    def beside(name: str) -> bytes:
        if folder is None:
            raise LookError("file", f'"{name}" cannot be read here; send the look and its LUTs as one bundle')
        path = (folder / name).resolve()
        if not path.is_relative_to(folder.resolve()):
            raise LookError("file", f'"{name}" lies outside the folder of the look; put the LUT beside it')
        try:
            return path.read_bytes()
        except OSError as error:
            raise LookError("file", f'"{name}": {(error.strerror or str(error)).lower()}') from None

    return _resolved(look, beside, {}, place)


def _from_zip(data: bytes, place: str) -> Bundle:
    members = _members(data, place)
    looks = [name for name in members if PurePosixPath(name).name == LOOK_NAME]
    if len(looks) != 1:
        raise LookError(place, f"a bundle holds one {LOOK_NAME}, this one holds {len(looks)}")
    home = PurePosixPath(looks[0]).parent
    look = parse_look(members.pop(looks[0]), f"{place}, {looks[0]}")
    by_hash = {hashlib.sha256(content).hexdigest(): (PurePosixPath(name).name, content) for name, content in members.items()}

    def inside(name: str) -> bytes:
        try:
            return members[str(home / name)]
        except KeyError:
            raise LookError("file", f'"{name}" is not in the bundle') from None

    return _resolved(look, inside, by_hash, place)


def _members(data: bytes, place: str) -> dict[str, bytes]:
    """Every file of the zip. Raises: LookError naming one that cannot be read"""
    members = {}
    try:
        for name, content in read_members(data, place, MOST_MEMBERS, MOST_BYTES):
            if isinstance(content, LutError):
                raise LookError(place, f'"{name}": {content.problem}')
            members[str(PurePosixPath(name))] = content
    except LutError as error:
        raise LookError(error.place, error.problem) from None
    return members


def _resolved(look: Look, read: Callable[[str], bytes], known: Mapping[str, tuple[str, bytes]], place: str) -> Bundle:
    files: dict[str, tuple[str, bytes]] = {}

    def by_hash(step: Any, at: Place) -> Any:
        if not isinstance(step, LutStep):
            return step
        if step.file:
            try:
                content = read(step.file)
                read_lut(content, step.file)
            except SaucerError as error:
                raise error.within(f"{place}, {path_of(at)}") from None
            sha256, name = hashlib.sha256(content).hexdigest(), PurePosixPath(step.file).name
            files[sha256] = (name, content)
            title = step.title or PurePosixPath(step.file).stem[:120]
            return step.model_copy(update={"file": "", "sha256": sha256, "title": title})
        if step.sha256 in known:
            files[step.sha256] = known[step.sha256]
            read_lut(files[step.sha256][1], f"{place}, {files[step.sha256][0]}")
        return step

    return Bundle(look.model_copy(update={"steps": replace_steps(look.steps, by_hash)}), files)


def lut_hashes(look: Look) -> set[str]:
    """SHA-256 of the LUT files the look uses."""
    return {step.sha256 for _, step in walk(look.steps) if isinstance(step, LutStep) and step.sha256}


def write_bundle(look: Look, files: Callable[[str], tuple[str, bytes]]) -> bytes:
    """A zip of look.json and the LUTs it uses. The same look gives the same bytes.

    files: SHA-256 to (file name, content). Raises: LutError when one is not to be had
    """
    content, members = json.loads(look_text(look)), []
    for sha256 in sorted(lut_hashes(look)):
        name, data = files(sha256)
        if hashlib.sha256(data).hexdigest() != sha256:
            raise LutError(name, "its content is not the one the look was made with")
        path = f"luts/{sha256[:8]}-{PurePosixPath(name).name}"
        _name_file(content["steps"], sha256, path)
        members.append((path, data))
    return write_zip([*members, (LOOK_NAME, (json.dumps(content, indent=2, ensure_ascii=False) + "\n").encode())])


def _name_file(steps: list[dict[str, Any]], sha256: str, path: str) -> None:
    """In a look file's own words: LUTs named by path in place of their hash."""
    for step in steps:
        if step.get("sha256") == sha256:
            del step["sha256"]
            step["file"] = path
        _name_file(step.get("steps", []), sha256, path)
