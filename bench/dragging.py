"""drag.*: from a pointer move to the pixels that show it, in the real browser beside the server on the same cores.

Every move counts, also one that waited for the frame before it: the time until the first frame that was asked for after the move.
"""

from __future__ import annotations

import math
import os
import statistics
from collections.abc import Iterator

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

from bench.looks import ten_steps
from bench.measure import Result
from bench.page import opened, served

SECONDS = 14


def _waits(url: str, steps: list[dict[str, object]]) -> list[float]:
    with opened(url, steps) as bench:
        page = bench.page
        bench.drag_point((0.5, 0.5), (0.5, 0.52), release=False)
        moves = SECONDS * 60
        for index in range(moves):
            turn = index / 60 * 2.1
            page.mouse.move(*bench._graph(0.5 + 0.1 * math.sin(turn), 0.55 + 0.16 * math.cos(1.7 * turn)))
            page.wait_for_timeout(12)
        page.mouse.up()
        most = page.evaluate("window.saucerMost")
        if most > 1:
            raise SystemExit(f"{most} frames were asked for at once; there must be one in flight")
        return sorted(page.evaluate("window.saucerWaits"))


def run() -> Iterator[Result]:
    ten = [step.model_dump(mode="json") for step in ten_steps().steps]
    with served() as (url, _):
        for name, steps in (
            ("2steps", [{"kind": "tone", "exposure": 0.2}, {"kind": "curves"}]),
            ("10steps", [*ten[:-1], {"kind": "curves"}]),
        ):
            waits = _waits(url, steps)
            words = f"80 ms; {len(waits)} moves"
            yield Result(f"drag.{name}.median", statistics.median(waits), words, 80, 1)
            yield Result(f"drag.{name}.p95", waits[int(0.95 * len(waits))], "160 ms", 160, 1)
