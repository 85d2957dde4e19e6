"""What the first steps of a look make of a lattice's nodes, kept while a later step is being edited."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable
from threading import Lock

import numpy as np

DEFAULT_BYTES = 64 * 2**20


class LatticeCache:
    """The least recently used go first when `most_bytes` are reached. Safe between threads; arrays in it are read-only."""

    def __init__(self, most_bytes: int = DEFAULT_BYTES) -> None:
        self._most, self._held, self._lock = most_bytes, 0, Lock()
        self._tables: OrderedDict[Hashable, np.ndarray] = OrderedDict()

    def get(self, key: Hashable) -> np.ndarray | None:
        with self._lock:
            found = self._tables.get(key)
            if found is not None:
                self._tables.move_to_end(key)
            return found

    def put(self, key: Hashable, table: np.ndarray) -> None:
        table.flags.writeable = False
        with self._lock:
            self._held += table.nbytes - (self._tables[key].nbytes if key in self._tables else 0)
            self._tables[key] = table
            self._tables.move_to_end(key)
            while self._held > self._most and len(self._tables) > 1:
                _, dropped = self._tables.popitem(last=False)
                self._held -= dropped.nbytes
