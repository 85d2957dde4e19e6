"""Media folders: places on the server that whoever runs it has allowed, read in place, never written to."""

from __future__ import annotations

import os
import time
from collections import deque
from collections.abc import Iterator, Set
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings

from saucer.core.clips import decoding as clips
from saucer.core.clips.sequences import Sequence, find_sequences
from saucer.core.pictures import stored as pictures
from saucer.studio.common.refusals import NotFound, NotPossible

MOST_LISTED = 20_000
MOST_FOLDERS = 5_000
LONGEST_WALK = 30.0
"""Seconds that folders are walked through; what was found until then counts."""
CLIPS = clips.SUFFIXES
STILLS = frozenset(suffix for kind in pictures.SUFFIXES.values() for suffix in kind)


@dataclass(frozen=True)
class Listing:
    """What lies in a folder: folders, clips and single stills by name; sequences of stills; how many files are none of these"""

    folders: list[str]
    clips: list[str]
    stills: list[str]
    sequences: list[Sequence]
    others: int


def names() -> list[str]:
    return sorted(settings.MEDIA_FOLDERS)


def root_of(name: str) -> Path:
    """Raises: NotFound for a folder that is not allowed, or not there"""
    found = settings.MEDIA_FOLDERS.get(name)
    if found is None:
        raise NotFound(f'There is no media folder "{name}". Whoever runs the server names them.')
    root = Path(found)
    if not root.is_dir():
        raise NotFound(f'The media folder "{name}" cannot be reached at the moment.')
    return root.resolve()


def place_in(name: str, path: str) -> Path:
    """A path inside the folder, links followed. Raises: NotFound; NotPossible for one that leads outside"""
    root = root_of(name)
    if "\0" in path:
        raise NotPossible("This is no path.")
    place = (root / path).resolve()
    if not place.is_relative_to(root):
        raise NotPossible(f'"{path}" lies outside the media folder "{name}".')
    if not place.exists():
        raise NotFound(f'There is no "{path}" in the media folder "{name}".')
    return place


def list_folder(name: str, path: str = "") -> Listing:
    """Raises: NotFound, NotPossible"""
    place = place_in(name, path)
    if not place.is_dir():
        raise NotPossible(f'"{path}" is no folder.')
    folders, clips, stills, others = [], [], [], 0
    for entry in _entries(place, root_of(name)):
        suffix = Path(entry.name).suffix.lower()
        if entry.is_dir():
            folders.append(entry.name)
        elif not entry.is_file():
            others += 1  # a pipe, a device, a link to nothing: opening one may never end
        elif suffix in CLIPS:
            clips.append(entry.name)
        elif suffix in STILLS:
            stills.append(entry.name)
        else:
            others += 1
    sequences, single = find_sequences(stills)
    return Listing(sorted(folders), sorted(clips), single, sequences, others)


def find_by_stem(stems: Set[str]) -> dict[str, tuple[str, str]]:
    """Where in the media folders something is called so: name of the folder, and a path in it. stems: without ending, in small letters

    Each folder is looked into once, however many ways lead to it, and for so long as `LONGEST_WALK` says. A sequence is found by its stem
    without its number, and told by its first frame; where several fit, the first by name is told.
    """
    found: dict[str, tuple[str, str]] = {}
    been: set[tuple[int, int]] = set()
    until = time.monotonic() + LONGEST_WALK
    for name in names():
        try:
            root = root_of(name)
        except NotFound:
            continue
        below, seen = deque([""]), 0
        while below and seen < MOST_LISTED and len(been) < MOST_FOLDERS and len(found) < len(stems) and time.monotonic() < until:
            path = below.popleft()
            try:
                told = (root / path).stat()
                if (told.st_dev, told.st_ino) in been:
                    continue
                been.add((told.st_dev, told.st_ino))
                listing = list_folder(name, path)
            except (NotPossible, NotFound, OSError):
                continue
            seen += len(listing.clips) + len(listing.stills) + listing.others
            here = [(Path(one).stem, one) for one in (*listing.clips, *listing.stills)]
            here += [(one.title, one.names[one.first]) for one in listing.sequences]
            for stem, file in here:
                if stem.strip().lower() in stems:
                    found.setdefault(stem.strip().lower(), (name, str((root / path / file).relative_to(root))))
            below += [str(Path(path) / one) for one in listing.folders]
    return found


def _entries(place: Path, root: Path) -> Iterator[os.DirEntry[str]]:
    """Without what is hidden, and what leads outside."""
    with os.scandir(place) as found:
        for count, entry in enumerate(found):
            if count >= MOST_LISTED:
                raise NotPossible(f"More than {MOST_LISTED} files lie in this folder; it is too full to be listed.")
            if entry.name.startswith("."):
                continue
            if entry.is_symlink() and not Path(entry.path).resolve().is_relative_to(root):
                continue
            yield entry
