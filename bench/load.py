"""Twenty designers at once on one server: dragging, saving, searching, baking; and one who only looks at the jobs.

Each drags for three seconds, one frame in flight at a time as the page does, then lets go for two: the draft is saved, something is
looked for.
"""

from __future__ import annotations

import http.client
import json
import random
import threading
import time
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import urlparse

from django.conf import settings
from django.test import Client
from django.utils import timezone

from bench.measure import Result
from bench.page import served
from saucer.core.look.model import look_from
from saucer.launch.processes import worker_arguments
from saucer.studio.catalogue.models import Entry
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture

DESIGNERS, SECONDS = 20, 120
DRAGGING, RESTING, FRAMES_A_SECOND = 3.0, 2.0, 30
STEPS = [
    {"kind": "curves", "blue": [[0, 0.05], [1, 0.95]]}, {"kind": "tone", "exposure": 0.1}, {"kind": "hue-bands"},
    {"kind": "split-tone"}, {"kind": "saturation", "factor": 1.2}, {"kind": "curves"},
]  # fmt: skip
# Of DESIGN 7 and the wishes beside it: milliseconds at the 50th and the 95th percentile.
WANTED: dict[str, tuple[float, float]] = {
    "drag": (250, 400), "jobs": (60, 150), "search": (120, 300), "save": (120, 300), "version": (120, 300), "bake": (120, 300),
}  # fmt: skip


class Talker:
    """Somebody who is signed in, with a connection of their own as a browser keeps one."""

    def __init__(self, url: str, person: Person, times: dict[str, list[float]]) -> None:
        client = Client(headers={"host": "localhost"})
        client.force_login(person, "django.contrib.auth.backends.ModelBackend")
        client.get("/api/session")
        cookies = {name: client.cookies[name].value for name in (settings.SESSION_COOKIE_NAME, "csrftoken")}
        self._headers = {
            "Cookie": "; ".join(f"{name}={value}" for name, value in cookies.items()), "X-CSRFToken": cookies["csrftoken"],
            "Content-Type": "application/json",
        }  # fmt: skip
        self._host = urlparse(url).netloc
        self._connection = http.client.HTTPConnection(self._host, timeout=60)
        self._times = times

    def ask(self, kind: str, method: str, path: str, body: object = None) -> bytes:
        began = time.perf_counter()
        data = None if body is None else json.dumps(body)
        for _ in range(2):
            try:
                self._connection.request(method, f"/api{path}", data, self._headers)
                answer = self._connection.getresponse()
                found = answer.read()
                break
            except (http.client.RemoteDisconnected, ConnectionError):
                self._connection.close()  # kept too long; a browser opens another as well
        if answer.status >= 400:
            kind = f"{kind} refused {answer.status}"
        self._times[kind].append((time.perf_counter() - began) * 1e3)
        return found


def _design(talker: Talker, look: int, picture: int, seed: int, until: float) -> None:
    rng, revision, versions = random.Random(seed), 1, 0
    time.sleep(rng.uniform(0, DRAGGING + RESTING))
    while time.monotonic() < until:
        ends = time.monotonic() + DRAGGING
        while (began := time.monotonic()) < ends:
            steps = [*STEPS[:-1], {"kind": "curves", "master": [[0, 0], [0.5, round(rng.uniform(0.4, 0.6), 4)], [1, 1]]}]
            content = {"name": "Loaded", "steps": steps}
            talker.ask("drag", "POST", "/looks/frame", {"look": content, "picture": picture, "quality": "drag", "width": 900})
            time.sleep(max(0.0, 1 / FRAMES_A_SECOND - (time.monotonic() - began)))
        saved = json.loads(talker.ask("save", "PUT", f"/looks/{look}/draft", {"look": content, "revision": revision}))
        revision = saved.get("revision", revision)
        talker.ask("search", "GET", f"/shelf/entries?size=60&q={rng.choice(('film', 'quay', 'warm', 'ni'))}")
        if rng.random() < 0.1:
            talker.ask("version", "POST", f"/looks/{look}/versions", {"revision": revision})
            versions += 1
            talker.ask("bake", "POST", f"/bake/looks/{look}", {"version": versions, "choice": {"size": 33}})
        time.sleep(RESTING)


def _watch(talker: Talker, until: float) -> None:
    while time.monotonic() < until:
        talker.ask("jobs", "GET", "/jobs")
        time.sleep(0.1)


def _memory(pids: list[int]) -> float:
    """MB that these and their children hold."""
    total = 0.0
    for path in Path("/proc").glob("[0-9]*/stat"):
        fields = path.read_text().rpartition(")")[2].split()
        if int(path.parent.name) in pids or int(fields[1]) in pids:
            total += int(fields[21]) * 4096 / 1e6
    return total


def at(times: list[float], share: float) -> float:
    return sorted(times)[min(len(times) - 1, int(share * len(times)))]


def run(seconds: float = SECONDS) -> Iterator[Result]:
    people = [Person.objects.get_or_create(username=f"load-{n}", defaults={"role": "designer"})[0] for n in range(DESIGNERS + 1)]
    made = [looks.create(person, look_from({"name": "Loaded", "steps": STEPS})).pk for person in people[:DESIGNERS]]
    picture = Picture.objects.get(name="Quay, dusk").pk
    times: dict[str, list[float]] = defaultdict(list)
    try:
        with served() as (url, group):
            group.start("bench-worker", worker_arguments())
            talkers = [Talker(url, person, times) for person in people]
            talkers[0].ask("first", "POST", "/looks/frame", {"look": {"steps": STEPS}, "picture": picture, "quality": "drag"})
            before, until = _memory(group.pids()), time.monotonic() + seconds
            threads = [threading.Thread(target=_design, args=[talkers[n], made[n], picture, n, until]) for n in range(DESIGNERS)]
            threads.append(threading.Thread(target=_watch, args=[talkers[-1], until]))
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
            after = _memory(group.pids())
    finally:
        Entry.objects.filter(pk__in=made).update(deleted=timezone.now())
    for kind, found in sorted(times.items()):
        print(
            f"  {kind:20} {len(found):6} asked   p50 {at(found, 0.5):7.0f}   p95 {at(found, 0.95):7.0f}   p99 {at(found, 0.99):7.0f} ms"
        )
    print(f"  memory of the server and the worker: {before:.0f} MB before, {after:.0f} MB after")
    for kind, (middle, most) in WANTED.items():
        if times[kind]:
            yield Result(f"load.{kind}.p50", at(times[kind], 0.5), f"{middle:.0f} ms", middle, 1)
            yield Result(f"load.{kind}.p95", at(times[kind], 0.95), f"{most:.0f} ms", most, 1)
