"""How many machines a studio needs: `./saucer bench --plan DESIGNERS VIEWERS`. What requests take is measured here and now, how they wait
for each other is simulated (SimPy). Networks, proxies and the bucket are left out: what is computed and asked is what grows.

Pages are of a Shelf of SAUCER_SHELF entries (10,000). Machines that answer have CORES cores; the database has as many as are needed, and
that number is told.
"""

from __future__ import annotations

import random
import time
from collections import defaultdict
from collections.abc import Callable, Generator
from dataclasses import dataclass
from typing import Any

import numpy as np
import simpy
from django.db import connection
from django.test import Client
from tests.make import LUTS

from bench.looks import ten_steps
from bench.shelf import ASKED, COUNT, own_database
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import Sampling, render
from saucer.core.lut.apply import to_codes
from saucer.core.pictures.scale import make_proxy
from saucer.demo.catalogue import FOLDER, PICTURES
from saucer.studio.catalogue.models import Entry, Kind
from saucer.studio.common.images import encoded
from saucer.studio.people.models import Person
from saucer.studio.pictures.rules import bring_in

CORES = 8
SECONDS = 120.0
BUSY_DESIGNERS, BUSY_VIEWERS = 0.5, 0.2
"""Shares of all that there are who do something at the same time, at the busiest hour: common practice, no source."""
FRAMES_A_SECOND, DRAGGING, RESTING = 30.0, 3.0, 2.0
"""As the page asks for frames, and as bench/load.py drags."""
LOOKS_EVERY = 20.0
"""Seconds until a viewer opens the next page of the Shelf; every third time by a search."""
CARDS = 60
WITHIN = {"drag": 0.16, "list": 0.5, "search": 0.5}
"""Seconds at the 95th percentile that are called well."""


@dataclass(frozen=True)
class Cost:
    """Seconds of a core of the server's, and of the database's."""

    web: float
    database: float

    def __add__(self, other: Cost) -> Cost:
        return Cost(self.web + other.web, self.database + other.database)


@dataclass(frozen=True)
class Measured:
    """costs: by kind; entry_bytes: of the database, for each entry; card_bytes: of a preview"""

    costs: dict[str, Cost]
    entry_bytes: float
    card_bytes: int


def measure() -> Measured:
    how = next(one for one in PICTURES if one.scene == "busts")
    picture, _ = make_proxy(FOLDER / how.file, ENCODINGS[how.encoding], 960, 540)
    look = ten_steps()

    def frame(pixels: np.ndarray) -> bytes:
        values = render(prepare(look, LUTS), pixels, sampling=Sampling(17))
        return encoded(to_codes(show_on_srgb(values, ENCODINGS[look.output], look.view), np.uint8), "jpeg")

    frame(picture)
    began = time.process_time()
    for _ in range(20):
        frame(picture)
    costs = {"drag": Cost((time.process_time() - began) / 20, 0.0)}
    with own_database() as client:
        page = _asked(client, [*ASKED["shelf.list"], *ASKED["shelf.filter"]])
        costs["list"] = page + _asked(client, [*ASKED["shelf.counts"]])  # one page asks for both
        costs["search"] = _asked(client, [*ASKED["shelf.search"]])
        window = bring_in(Person.objects.get(), FOLDER / "table-window.png", "window.png").pk
        some = Entry.objects.filter(kind=Kind.LOOK)[:8]
        cards = [f"entries/{entry.pk}/preview.jpg?picture={window}" for entry in some]
        _asked(client, cards)  # made, and kept from then on
        costs["card"] = _asked(client, cards)
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_database_size(current_database())")
            size = cursor.fetchone()[0]
    return Measured(costs, size / COUNT, len(frame(picture[::3, ::3].copy())))


def _asked(client: Client, paths: list[str]) -> Cost:
    """Means of each asked three times."""
    waited = 0.0

    def timed(execute: Callable[..., Any], *given: Any) -> Any:
        nonlocal waited
        began = time.perf_counter()
        try:
            return execute(*given)
        finally:
            waited += time.perf_counter() - began

    with connection.execute_wrapper(timed):
        began = time.perf_counter()
        for _ in range(3):
            for path in paths:
                assert client.get(f"/api/shelf/{path}".replace("/shelf/..", "")).status_code == 200
        whole = time.perf_counter() - began
    count = 3 * len(paths)
    return Cost((whole - waited) / count, waited / count)


@dataclass
class Studio:
    """What waits for what. Frames of one person wait for each other; everything waits for a core of the machines, then of the database."""

    env: simpy.Environment
    web: simpy.Resource
    database: simpy.Resource
    costs: dict[str, Cost]
    rng: random.Random
    times: dict[str, list[float]]
    busy: dict[str, float]

    def ask(self, kind: str) -> Generator[Any, Any, None]:
        """Times are spread as those of a server are that has seen a thing before or has not: by a gamma distribution of shape 4."""
        began, cost = self.env.now, self.costs[kind]
        for resource, name, seconds in ((self.web, "web", cost.web), (self.database, "database", cost.database)):
            if seconds:
                with resource.request() as turn:
                    yield turn
                    took = self.rng.gammavariate(4, seconds / 4)
                    self.busy[name] += took
                    yield self.env.timeout(took)
        self.times[kind].append(self.env.now - began)

    def designer(self) -> Generator[Any, Any, None]:
        yield self.env.timeout(self.rng.uniform(0, DRAGGING + RESTING))
        while True:
            until = self.env.now + DRAGGING
            while self.env.now < until:
                begun = self.env.now
                yield from self.ask("drag")
                yield self.env.timeout(max(0.0, 1 / FRAMES_A_SECOND - (self.env.now - begun)))
            yield self.env.timeout(self.rng.expovariate(1 / RESTING))

    def viewer(self) -> Generator[Any, Any, None]:
        yield self.env.timeout(self.rng.uniform(0, LOOKS_EVERY))
        while True:
            yield from self.ask("search" if self.rng.random() < 1 / 3 else "list")
            for _ in range(CARDS):
                yield from self.ask("card")
            yield self.env.timeout(self.rng.expovariate(1 / LOOKS_EVERY))


def simulate(costs: dict[str, Cost], designers: int, viewers: int, cores: int, database: int) -> Studio:
    """designers, viewers: who do something at the same time; cores: of all machines that answer"""
    env = simpy.Environment()
    studio = Studio(
        env,
        simpy.Resource(env, cores),
        simpy.Resource(env, database),
        costs,
        random.Random(1),
        defaultdict(list),
        defaultdict(float),
    )
    for _ in range(designers):
        env.process(studio.designer())
    for _ in range(viewers):
        env.process(studio.viewer())
    env.run(SECONDS)
    return studio


def _line(studio: Studio, machines: int, cores: int, database: int) -> str:
    told = []
    for kind in WITHIN:
        times = studio.times[kind]
        told.append(f"{np.median(times) * 1e3:.0f} / {np.percentile(times, 95) * 1e3:.0f} ms" if times else "")
    loads = [studio.busy["web"] / SECONDS / cores, studio.busy["database"] / SECONDS / database]
    return f"| {machines} of {CORES} cores | {database} | {' | '.join(told)} | {loads[0]:.0%} | {loads[1]:.0%} |"


def plan(designers: int, viewers: int) -> int:
    measured = measure()
    print("| asked | server, ms of a core | database, ms of a core |\n|---|---|---|")
    for kind, cost in measured.costs.items():
        print(f"| {kind} | {cost.web * 1e3:.1f} | {cost.database * 1e3:.1f} |")
    print(
        f"\n{COUNT:,} entries; {measured.entry_bytes / 1e3:.1f} kB of the database for each; a card of {measured.card_bytes / 1e3:.0f} kB\n"
    )
    at_once = round(designers * BUSY_DESIGNERS), round(viewers * BUSY_VIEWERS)
    print(f"{designers} designers and {viewers} viewers, of whom {at_once[0]} and {at_once[1]} do something at the same time\n")
    print("| machines that answer | cores of the database | drag, median / p95 | list | search | busy | database busy |")
    print("|---|---|---|---|---|---|---|")
    for machines in range(1, 65):
        for database in (2, 4, 8, 16, 32):
            studio = simulate(measured.costs, *at_once, machines * CORES, database)
            if studio.busy["database"] / SECONDS / database < 0.7:
                break
        is_well = all(np.percentile(studio.times[kind], 95) <= most for kind, most in WITHIN.items() if studio.times[kind])
        if is_well or machines in (1, 2, 4, 8, 16, 32):
            print(_line(studio, machines, machines * CORES, database), flush=True)
        if is_well:
            return 0
    return 1
