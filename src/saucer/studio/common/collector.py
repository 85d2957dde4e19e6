"""Python's collector of garbage, and what it need not go through."""

from __future__ import annotations

import atexit
import gc


def leave_loaded_alone() -> None:
    """What is loaded by now stays to the end: going through it, 300,000 objects, holds a process up for a seventh of a second each time."""
    gc.collect()
    gc.freeze()
    # At the end it is put back: libraries that count what is left of theirs would call all of it lost.
    atexit.register(gc.unfreeze)
