"""Random dragging for minutes in the real browser: what grows? `./saucer bench --soak MINUTES`

Prints memory, page objects and open files of page and server, once a minute, after the garbage was collected.
"""

from __future__ import annotations

import os
import random
import time
from collections.abc import Iterator
from pathlib import Path

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

from bench.looks import ten_steps
from bench.page import opened, served

WARM_UP = 1
"""Minutes before what is counted as the beginning: caches fill first."""
GROWTH = 1.10
"""More than this much of the beginning is growth."""


def _children(pid: int) -> Iterator[int]:
    for task in Path(f"/proc/{pid}/task").iterdir():
        for child in (task / "children").read_text().split():
            yield int(child)
            yield from _children(int(child))


def _resident(pid: int) -> float:
    pages = int(Path(f"/proc/{pid}/statm").read_text().split()[1])
    return pages * os.sysconf("SC_PAGE_SIZE") / 2**20


def _server(pids: list[int]) -> tuple[float, int]:
    return sum(_resident(pid) for pid in pids), sum(len(list(Path(f"/proc/{pid}/fd").iterdir())) for pid in pids)


def soak(minutes: int) -> int:
    rng = random.Random(5)
    ten = [step.model_dump(mode="json") for step in ten_steps().steps]
    rows: list[dict[str, float]] = []
    with served() as (url, group), opened(url, [*ten[:-1], {"kind": "curves"}]) as bench:
        page = bench.page
        session = page.context.new_cdp_session(page)
        session.send("Performance.enable")
        master = next(iter(group.pids()))
        pids = [master, *_children(master)]
        frames = 0
        for minute in range(minutes + WARM_UP):
            end = time.monotonic() + 60
            while time.monotonic() < end:
                start = (rng.uniform(0.1, 0.9), rng.uniform(0.1, 0.9))
                bench.drag_point(start, start, release=False)
                for _ in range(rng.randint(5, 40)):
                    page.mouse.move(*bench._graph(rng.uniform(0, 1), rng.uniform(0, 1)))
                    page.wait_for_timeout(rng.choice((5, 16, 40)))
                page.mouse.up()
                for _ in range(max(0, len(bench.points()) - 6)):
                    page.get_by_role("slider", name="Point 2 of").press("Delete")
                if rng.random() < 0.2:
                    page.wait_for_timeout(400)
            bench.wait_at_rest()
            page.wait_for_timeout(1200)
            session.send("HeapProfiler.collectGarbage")
            metrics = {one["name"]: one["value"] for one in session.send("Performance.getMetrics")["metrics"]}
            memory, files = _server(pids)
            frames = int(page.evaluate("window.saucerWaits.length"))
            page.evaluate("window.saucerWaits.length = 0")
            row = {
                "heap MB": metrics["JSHeapUsedSize"] / 2**20,
                "nodes": metrics["Nodes"],
                "listeners": metrics["JSEventListeners"],
                "server MB": memory,
                "files": files,
            }
            if not rows:
                print(f"{'minute':>6}" + "".join(f"{name:>11}" for name in (*row, "moves seen")), flush=True)
            rows.append(row)
            print(f"{minute:6}" + "".join(f"{value:11.1f}" for value in (*row.values(), frames)), flush=True)
    first, last = rows[WARM_UP - 1] if len(rows) > WARM_UP else rows[0], rows[-1]
    grown = [name for name in first if last[name] > first[name] * GROWTH + 2]
    print(f"grown: {', '.join(grown)}" if grown else f"nothing grew by more than {GROWTH - 1:.0%} in {minutes} minutes")
    return 1 if grown else 0
