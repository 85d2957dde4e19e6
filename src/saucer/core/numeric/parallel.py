"""Work on long arrays cut into runs of pixels and shared between threads.

The compiled kernels release the interpreter lock and know nothing of threads; several callers may run them at the same time.
"""

from __future__ import annotations

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import lru_cache
from itertools import pairwise

CHUNK = 131072
"""Values one thread takes at a time: a hand-over costs about 0.1 ms, which a 33 lattice (35,937 nodes) would not win back."""


def thread_count() -> int:
    """Threads to use: SAUCER_THREADS, else the cores this process may run on."""
    return int(os.environ.get("SAUCER_THREADS", 0)) or len(os.sched_getaffinity(0))


@lru_cache(maxsize=1)
def _pool(process: int) -> ThreadPoolExecutor:
    # Keyed by process: a pool made before a server forks has no threads in the child.
    del process
    return ThreadPoolExecutor(max_workers=len(os.sched_getaffinity(0)), thread_name_prefix="saucer-kernel")


def over_runs(kernel: Callable[[int, int], None], count: int, threads: int | None = None, chunk: int = CHUNK) -> None:
    """Call kernel(start, stop) over 0..count, in the calling thread alone when that is one chunk or `threads` is 1."""
    if count <= chunk:
        kernel(0, count)
        return
    threads = threads or thread_count()
    runs = max(threads, -(-count // chunk))
    edges = [count * run // runs for run in range(runs + 1)]
    pending = iter(list(pairwise(edges)))

    def work() -> None:
        # `next` on one shared iterator is a single bytecode step, so each run is taken once.
        for start, stop in pending:
            kernel(start, stop)

    others = [_pool(os.getpid()).submit(work) for _ in range(threads - 1)]
    work()
    for other in others:
        other.result()
