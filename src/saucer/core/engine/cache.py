"""Caches bounded by the bytes they hold: LUTs read from files, and what the first steps of a run make of a lattice's nodes."""

from __future__ import annotations

from collections import OrderedDict, deque
from collections.abc import Hashable
from threading import Lock
from typing import Generic, TypeVar

import numpy as np

DEFAULT_BYTES = 64 * 2**20
RUNS_REMEMBERED = 24
Value = TypeVar("Value")
Keys = tuple[Hashable, ...]
"""What a run of steps is, one key a step; the first says what goes in."""


class ByteCache(Generic[Value]):
    """The least recently used go first when `most_bytes` are reached; the newest always stays. Safe between threads."""

    def __init__(self, most_bytes: int = DEFAULT_BYTES) -> None:
        self._most, self._bytes, self._lock = most_bytes, 0, Lock()
        self._values: OrderedDict[Hashable, tuple[Value, int]] = OrderedDict()

    def get(self, key: Hashable) -> Value | None:
        with self._lock:
            found = self._values.get(key)
            if found is None:
                return None
            self._values.move_to_end(key)
            return found[0]

    def keep(self, key: Hashable, value: Value, size: int) -> None:
        """size: bytes of the value"""
        with self._lock:
            self._bytes += size - (self._values[key][1] if key in self._values else 0)
            self._values[key] = (value, size)
            self._values.move_to_end(key)
            while self._bytes > self._most and len(self._values) > 1:
                _, (_, dropped) = self._values.popitem(last=False)
                self._bytes -= dropped


class PrefixCache:
    """What runs of steps made of a lattice, kept up to the step that is being edited.

    Which step that is nobody has to say: it is where a run parts from the likest of those that came before it. `hits` and `misses`
    count the runs that found some of their beginning here, and those that did not.
    """

    def __init__(self, most_bytes: int = DEFAULT_BYTES) -> None:
        self._tables: ByteCache[np.ndarray] = ByteCache(most_bytes)
        self._runs: deque[Keys] = deque(maxlen=RUNS_REMEMBERED)
        self._lock = Lock()
        self.hits = self.misses = 0

    def longest(self, keys: Keys) -> tuple[int, np.ndarray | None]:
        """How many of the keys the longest known beginning has, and what was reached there; 0 and None where there is none."""
        for count in range(len(keys), 1, -1):
            found = self._tables.get(keys[:count])
            if found is not None:
                self.hits += 1
                return count, found
        self.misses += 1
        return 0, None

    def parting(self, keys: Keys) -> int:
        """How many keys the run shares with the likest run before it; it is remembered for those that follow."""
        with self._lock:
            shared = max((_shared(keys, other) for other in self._runs), default=0)
            if keys in self._runs:
                self._runs.remove(keys)
            self._runs.append(keys)
        return shared

    def keep(self, keys: Keys, table: np.ndarray) -> None:
        """The table becomes read-only."""
        table.flags.writeable = False
        self._tables.keep(keys, table, table.nbytes)


def _shared(one: Keys, other: Keys) -> int:
    count = 0
    for a, b in zip(one, other, strict=False):
        if a != b:
            break
        count += 1
    return count
