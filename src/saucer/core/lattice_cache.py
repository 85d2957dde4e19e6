"""Caches bounded by the bytes they hold: what the first steps of a look make of a lattice's nodes, and LUTs read from files."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable
from threading import Lock
from typing import Generic, TypeVar

import numpy as np

DEFAULT_BYTES = 64 * 2**20
Value = TypeVar("Value")


class ByteCache(Generic[Value]):
    """The least recently used go first when `most_bytes` are reached; the newest always stays. Safe between threads."""

    def __init__(self, most_bytes: int = DEFAULT_BYTES) -> None:
        self._most, self._held, self._lock = most_bytes, 0, Lock()
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
            self._held += size - (self._values[key][1] if key in self._values else 0)
            self._values[key] = (value, size)
            self._values.move_to_end(key)
            while self._held > self._most and len(self._values) > 1:
                _, (_, dropped) = self._values.popitem(last=False)
                self._held -= dropped


class LatticeCache(ByteCache[np.ndarray]):
    """Of arrays, which become read-only in it."""

    def put(self, key: Hashable, table: np.ndarray) -> None:
        table.flags.writeable = False
        self.keep(key, table, table.nbytes)
