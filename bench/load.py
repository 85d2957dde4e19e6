"""Twenty designers at once on one server: dragging, saving, searching, baking; five who scroll the Shelf; a delivery; and one who only
looks at the jobs. Held against one designer alone on the same server, just before.

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

from bench.measure import Result
from bench.page import served
from saucer.core.look.model import look_from
from saucer.launch.processes import worker_arguments
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures.models import Picture
from saucer.studio.projects.models import Project

DESIGNERS, SECONDS = 20, 120
DRAGGING, RESTING, FRAMES_A_SECOND = 3.0, 2.0, 30
STEPS = [
    {"kind": "curves", "blue": [[0, 0.05], [1, 0.95]]}, {"kind": "tone", "exposure": 0.1}, {"kind": "hue-bands"},
    {"kind": "split-tone"}, {"kind": "saturation", "factor": 1.2}, {"kind": "curves"},
]  # fmt: skip
SCROLLING, ALONE = 5, 20.0
# How many times longer than for one person alone: at the 50th and at the 95th percentile, both against the 50th of one alone.
TIMES: dict[str, tuple[float, float]] = {"drag": (10, 14), "jobs": (3, 12)}
GROWN = 1.05
"""How much memory may grow after the first minute."""


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


def _scroll(talker: Talker, picture: int, seed: int, until: float) -> None:
    rng = random.Random(seed)
    while time.monotonic() < until:
        page = json.loads(talker.ask("scroll", "GET", "/shelf/entries?size=60"))
        for entry in rng.sample(page["entries"], min(6, len(page["entries"]))):
            talker.ask("card", "GET", f"/shelf/entries/{entry['id']}/preview.jpg?picture={picture}")
        time.sleep(rng.uniform(0.2, 0.6))


def _deliver(talker: Talker, until: float) -> None:
    """One delivery after the other, of whatever the demo's project holds."""
    project = Project.objects.filter(deleted=None).earliest("pk").pk
    number = 0
    while time.monotonic() < until:
        number += 1
        choice = {"stills": "tiff", "luts": "cube", "template": f"{{scene}}_{{shot}}_{number}"}
        made = json.loads(talker.ask("deliver", "POST", f"/projects/{project}/deliveries", choice))["number"]
        while time.monotonic() < until:
            time.sleep(2)
            told = json.loads(talker.ask("delivery", "GET", f"/projects/{project}/deliveries/{made}"))
            if told["job"]["state"] not in ("waiting", "running"):
                break


def _together(*threads: threading.Thread) -> None:
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()


def run(seconds: float = SECONDS) -> Iterator[Result]:
    people = [Person.objects.get_or_create(username=f"load-{n}", defaults={"role": "designer"})[0] for n in range(DESIGNERS + 1)]
    admin = Person.objects.get_or_create(username="load-admin", defaults={"role": "admin"})[0]
    made = [looks.create(person, look_from({"name": "Loaded", "steps": STEPS})).pk for person in people[:DESIGNERS]]
    alone_on = looks.create(people[0], look_from({"name": "Alone", "steps": STEPS})).pk
    picture = Picture.objects.get(name="Quay, dusk").pk
    alone: dict[str, list[float]] = defaultdict(list)
    times: dict[str, list[float]] = defaultdict(list)
    memory: list[float] = []
    with served() as (url, group):
        group.start("bench-worker", worker_arguments(), gives_way=True)
        first = Talker(url, people[0], defaultdict(list))
        first.ask("first", "POST", "/looks/frame", {"look": {"steps": STEPS}, "picture": picture, "quality": "drag"})
        single, watching = Talker(url, people[0], alone), Talker(url, people[-1], alone)
        until = time.monotonic() + ALONE
        _together(
            threading.Thread(target=_design, args=[single, alone_on, picture, 99, until]),
            threading.Thread(target=_watch, args=[watching, until]),
        )
        talkers = [Talker(url, person, times) for person in people]
        until = time.monotonic() + seconds

        def remember() -> None:
            while time.monotonic() < until:
                memory.append(_memory(group.pids()))
                time.sleep(5)

        _together(
            *(threading.Thread(target=_design, args=[talkers[n], made[n], picture, n, until]) for n in range(DESIGNERS)),
            *(threading.Thread(target=_scroll, args=[Talker(url, people[n], times), picture, n, until]) for n in range(SCROLLING)),
            threading.Thread(target=_deliver, args=[Talker(url, admin, times), until]),
            threading.Thread(target=_watch, args=[talkers[-1], until]),
            threading.Thread(target=remember),
        )
    for called, found in (("alone", alone), ("all", times)):
        for kind, some in sorted(found.items()):
            told = f"p50 {at(some, 0.5):7.0f}   p95 {at(some, 0.95):7.0f}   p99 {at(some, 0.99):7.0f} ms"
            print(f"  {called:6} {kind:24} {len(some):6} asked   {told}")
    settled, end = max(memory[: max(1, round(60 / 5))]), memory[-1]
    print(f"  memory of the server and the worker: {settled:.0f} MB at most in the first minute, {end:.0f} MB at the end")
    for kind, (middle, most) in TIMES.items():
        base = at(alone[kind], 0.5)
        yield Result(f"load.{kind}.p50", at(times[kind], 0.5), f"{middle:.0f} times one alone", middle * base, 1)
        yield Result(f"load.{kind}.p95", at(times[kind], 0.95), f"{most:.0f} times one alone", most * base, 1)
    refused = sum(len(some) for kind, some in times.items() if "refused" in kind)
    answered = sum(len(some) for some in times.values())
    yield Result("load.answered", answered, "answers that were no refusal", answered - refused, 1)
    yield Result("load.memory", end, f"{GROWN} times the first minute's", GROWN * settled, 1)
