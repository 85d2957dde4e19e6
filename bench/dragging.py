"""drag.*: from a pointer move to the pixels that show it, in the real browser beside the server on the same cores.

Every move counts, also one that waited for the frame before it: the time until the first frame that was asked for after the move.
"""

from __future__ import annotations

import http.client
import json
import math
import os
import statistics
import time
from collections.abc import Iterator
from typing import Any
from urllib.parse import urlsplit

from playwright.sync_api import Page

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

from bench.looks import ten_steps
from bench.measure import Result
from bench.page import opened, served

SECONDS = 14
FRAMES = 60
SCREEN_FRAME = 1000 / 60
"""Milliseconds."""


def _waits(url: str, steps: list[dict[str, object]]) -> tuple[list[float], float]:
    """Milliseconds of each move, rising, and how long the server takes for such a frame when nobody else wants it."""
    with opened(url, steps) as bench:
        page = bench.page
        bench.drag_point((0.5, 0.5), (0.5, 0.52), release=False)
        moves = SECONDS * 60
        for index in range(moves):
            turn = index / 60 * 2.1
            page.mouse.move(*bench._graph(0.5 + 0.1 * math.sin(turn), 0.55 + 0.16 * math.cos(1.7 * turn)))
            page.wait_for_timeout(12)
        asked = json.loads(page.evaluate("window.saucerAsked"))
        page.mouse.up()
        most = page.evaluate("window.saucerMost")
        if most > 1:
            raise SystemExit(f"{most} frames were asked for at once; there must be one in flight")
        bench.wait_at_rest()
        return sorted(page.evaluate("window.saucerWaits")), _own_time(page, url, asked)


def _own_time(page: Page, url: str, asked: dict[str, Any]) -> float:
    """The median of frames asked for one by one, each of another curve, by a program in the place of the page. asked: while it dragged"""
    cookies = {str(one["name"]): str(one["value"]) for one in page.context.cookies(url)}
    headers = {
        "Cookie": "; ".join(f"{name}={value}" for name, value in cookies.items()), "X-CSRFToken": cookies["csrftoken"],
        "Content-Type": "application/json",
    }  # fmt: skip
    where = urlsplit(url)
    connection = http.client.HTTPConnection(where.hostname or "", where.port)
    times = []
    for index in range(FRAMES):
        asked["look"]["steps"][-1]["master"] = [[0, 0], [0.5, 0.45 + 0.1 * index / FRAMES], [1, 1]]
        body = json.dumps(asked)
        began = time.perf_counter()
        connection.request("POST", "/api/looks/frame", body, headers)
        answer = connection.getresponse()
        drawn = answer.read()
        times.append((time.perf_counter() - began) * 1e3)
        if answer.status != 200 or not drawn:
            raise SystemExit(f"a frame was refused: {answer.status} {drawn[:200]!r}")
    connection.close()
    return statistics.median(times[FRAMES // 5 :])


def run() -> Iterator[Result]:
    ten = [step.model_dump(mode="json") for step in ten_steps().steps]
    with served() as (url, _):
        for name, steps in (
            ("2steps", [{"kind": "tone", "exposure": 0.2}, {"kind": "curves"}]),
            ("10steps", [*ten[:-1], {"kind": "curves"}]),
        ):
            waits, own = _waits(url, steps)
            words = f"80 ms; {len(waits)} moves"
            yield Result(f"drag.{name}.median", statistics.median(waits), words, 80, 1)
            yield Result(f"drag.{name}.p95", waits[int(0.95 * len(waits))], "160 ms", 160, 1)
            most = 1.3 * own + SCREEN_FRAME
            yield Result(
                f"drag.{name}.beside-own",
                statistics.median(waits),
                f"1.3 x the server's own {own:.1f} ms and a screen frame",
                most,
                1,
            )
