"""Timing two things side by side."""

from __future__ import annotations

import os
import statistics
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass

# On some machines these are set to slow, safe choices that would burden the NumPy peers.
for name in ("OPENBLAS_CORETYPE", "OPENBLAS_L2_SIZE"):
    os.environ.pop(name, None)


@dataclass(frozen=True)
class Result:
    """ours_ms and peer_ms are medians; ratio = peer_ms / ours_ms, more is better; wanted is the least of DESIGN 7."""

    name: str
    ours_ms: float
    peer: str
    peer_ms: float
    wanted: float

    @property
    def ratio(self) -> float:
        return self.peer_ms / self.ours_ms


def once(work: Callable[[], object]) -> float:
    began = time.perf_counter()
    work()
    return (time.perf_counter() - began) * 1e3


def compare(
    name: str, ours: Callable[[], object], peer: str, theirs: Callable[[], object], wanted: float, rounds: int = 15,
    restore: Callable[[], object] = lambda: None,
) -> Result:  # fmt: skip
    """Medians of rounds taken in turn, each once before that; the ratio is that of the medians.

    restore: done before each round, and not measured, where what is worked on is changed
    """
    ours(), theirs()
    pairs = []
    for _ in range(rounds):
        restore()
        pairs.append((once(ours), once(theirs)))
    return Result(name, statistics.median(a for a, _ in pairs), peer, statistics.median(b for _, b in pairs), wanted)


def against_budget(name: str, work: Callable[[], object], budget: str, budget_ms: float, wanted: float, rounds: int = 60) -> Result:
    """The 95th percentile of our times beside a fixed budget."""
    for _ in range(5):
        work()
    times = sorted(once(work) for _ in range(rounds))
    return Result(name, times[int(0.95 * len(times))], budget, budget_ms, wanted)


Bench = Callable[[], Iterator[Result]]
