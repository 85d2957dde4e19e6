"""How many requests each server process is at, seen by all of them: a browser keeps its connection to one process, however many others
sit there too, so the one that has more lets go of a connection after an answer, and the browser comes to whichever takes it."""

from __future__ import annotations

import mmap
import os
import struct
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

PLACES = 16
MORE = 2
"""Requests more than another process has, from which on a connection is let go."""
_PLACE = struct.Struct("<ii")


class Board:
    """A place for each process: its number and how many requests it is at. To be made before the processes fork."""

    def __init__(self) -> None:
        self._shared = mmap.mmap(-1, PLACES * _PLACE.size)
        self._lock, self._count = Lock(), 0
        self._mine: int | None = None

    def sit_down(self) -> None:
        """Take a place that is free, or whose process has ended."""
        for place in range(PLACES):
            pid, _ = _PLACE.unpack_from(self._shared, place * _PLACE.size)
            if pid in (0, os.getpid()) or not _is_there(pid):
                self._mine = place
                self._tell()
                return

    @contextmanager
    def busy(self) -> Iterator[None]:
        """While a request is being answered."""
        self._add(1)
        try:
            yield
        finally:
            self._add(-1)

    def _add(self, number: int) -> None:
        with self._lock:
            self._count += number
            self._tell()

    def _tell(self) -> None:
        if self._mine is not None:
            _PLACE.pack_into(self._shared, self._mine * _PLACE.size, os.getpid(), self._count)

    def is_uneven(self) -> bool:
        """Has another process less to do than this one, by more than a little?"""
        if self._mine is None:
            return False
        told = [_PLACE.unpack_from(self._shared, place * _PLACE.size) for place in range(PLACES) if place != self._mine]
        others = [count for pid, count in told if pid and _is_there(pid)]
        return bool(others) and self._count >= min(others) + MORE


def _is_there(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        pass
    return True
