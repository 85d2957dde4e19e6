"""Projects by the real server: 300 shots under a new look, frames as a player asks for them, deliveries by two workers."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
import time
from collections import defaultdict
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np

from bench.load import Talker
from bench.measure import Result
from bench.page import served
from saucer.core.clips.writing import KINDS, ClipWriter
from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture, write_picture
from saucer.studio.jobs.models import Job, State
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures import footage
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.deliver import rules as delivering
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.grade import grading
from saucer.studio.projects.models import Project
from saucer.studio.projects.story import shots

COUNT, FIRST = 300, 24
TOGETHER, CONNECTIONS = 12, 3
"""As the page asks: web/src/projects/wall/cards.ts."""
PLAYED, IN_FLIGHT, AHEAD = 144, 3, 3
"""As the player asks: web/src/play/player.ts."""


def _picture(number: int) -> np.ndarray:
    y, x = np.mgrid[0:540, 0:960].astype(np.float32)
    waves = [
        0.45 + 0.35 * np.sin((a * x + b * y) / (90 + number % 17) + number * c)
        for a, b, c in ((1, 0.3, 1), (0.2, 1, 0.7), (0.7, 0.6, 1.3))
    ]
    return np.stack(waves, -1).astype(np.float32)


def _project(person: Person, folder: Path) -> tuple[Project, list[int]]:
    project = projects.create(person, f"Filled wall {time.time():.0f}")
    wanted = []
    for number in range(COUNT):
        path = folder / f"{number}.png"
        write_picture(Picture(_picture(number), "u8"), path)
        wanted.append(shots.NewShot(pictures.bring_in(person, path, path.name).pk, f"Scene {number // 30}"))
    return project, [one.pk for one in shots.add_shots(person, project.pk, wanted)]


def _look(person: Person, name: str) -> int:
    steps = [
        {"kind": "tone", "contrast": 1.2, "toe": 0.1}, {"kind": "saturation", "factor": 1.1}, {"kind": "white-balance", "warm": 18},
        {"kind": "split-tone", "shadows": {"hue": 240, "amount": 0.03}}, {"kind": "grain", "amount": 0.2},
    ]  # fmt: skip
    draft = looks.create(person, look_from({"name": name, "steps": steps}))
    looks.save_version(person, draft.pk)
    return draft.pk


def _all(url: str, person: Person, asks: list[tuple[str, object]], connections: int) -> list[float]:
    """Everything asked for over so many connections; when each was there, in seconds."""
    times: dict[str, list[float]] = defaultdict(list)
    talkers = [Talker(url, person, times) for _ in range(connections)]
    for talker in talkers:
        talker.ask("warm", "GET", "/session")
    waiting, lock, done = iter(asks), threading.Lock(), []
    began = time.perf_counter()

    def work(talker: Talker) -> None:
        while True:
            with lock:
                ask = next(waiting, None)
            if ask is None:
                return
            path, body = ask
            talker.ask("it", "GET" if body is None else "POST", path, body)
            done.append(time.perf_counter() - began)

    threads = [threading.Thread(target=work, args=(talker,)) for talker in talkers]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return sorted(done)


def _walls(person: Person, folder: Path) -> Iterator[Result]:
    project, ids = _project(person, folder)
    grading.put_look(person, project.pk, ids, _look(person, "Filled wall"), None, 1.0, stack=False)
    with served() as (url, _):
        batches = [ids[at : at + TOGETHER] for at in range(0, COUNT, TOGETHER)]
        path = f"/projects/{project.pk}/previews"
        seen = _all(url, person, [(path, {"shots": batch}) for batch in batches], CONNECTIONS)
    yield Result("wall.300.first", seen[FIRST // TOGETHER - 1] * 1e3, f"{FIRST} shots in 0.7 s", 700, 1.0)
    yield Result("wall.300.all", seen[-1] * 1e3, f"{COUNT} shots in 3 s", 3000, 1.0)


def _clip(person: Person, folder: Path, name: str, frames: int) -> int:
    path = folder / name
    with ClipWriter(path, KINDS["h264"], 960, 540, Fraction(24)) as writer:
        for number in range(frames):
            writer.write(_picture(number // 2))
    found = footage.find(footage.bring_in_clip(person, footage.Source(path, name)).pk, person)
    footage.keep_proxy(found.pk, *footage.make_proxy(found), found)
    return found.pk


def _playing(person: Person, folder: Path) -> Iterator[Result]:
    project = projects.create(person, f"Played {time.time():.0f}")
    (shot,) = shots.add_shots(person, project.pk, [shots.NewShot(_clip(person, folder, "played.mp4", PLAYED), "One")])
    grading.put_look(person, project.pk, [shot.pk], _look(person, "Played"), None, 1.0, stack=False)
    path = f"/projects/{project.pk}/shots/{shot.pk}/frame"
    with served() as (url, _):
        asks = [(path, {"frame": number, "more": AHEAD - 1, "width": 960, "playing": True}) for number in range(0, PLAYED, AHEAD)]
        _all(url, person, asks[:4], IN_FLIGHT)
        seen = _all(url, person, asks, IN_FLIGHT)
    yield Result("play.960", seen[-1] / PLAYED * 1e3, "48 frames/s, as the player asks", 1000 / 48, 1.0)


def _worker() -> subprocess.Popen[bytes]:
    return subprocess.Popen(
        [sys.executable, "-m", "saucer.studio", "procrastinate", "worker", "--one-shot", "--concurrency", "1"],
        env=os.environ | {"SAUCER_THREADS": "1"}, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip


def _delivered(person: Person, pk: int, workers: int) -> float:
    """Seconds from the first frame that is made to the last."""
    delivery = delivering.deliver(person, pk, DeliveryChoice(sequences="tiff"))
    began = time.perf_counter()
    running = [_worker() for _ in range(workers)]
    for one in running:
        one.wait()
    took = time.perf_counter() - began
    assert delivery.job is not None
    assert Job.objects.get(pk=delivery.job.pk).state == State.DONE
    return took


def _workers(person: Person, folder: Path) -> Iterator[Result]:
    project = projects.create(person, f"Delivered {time.time():.0f}")
    wanted = [shots.NewShot(_clip(person, folder, f"d{number}.mp4", 72), "One") for number in range(4)]
    added = shots.add_shots(person, project.pk, wanted)
    grading.put_look(person, project.pk, [one.pk for one in added], _look(person, "Delivered"), None, 1.0, stack=False)
    one, two = (_delivered(person, project.pk, count) for count in (1, 2))
    yield Result("deliver.workers.2", two * 1e3, "one worker process", one * 1e3, 1.5)


def _run(bench: Callable[[Person, Path], Iterator[Result]]) -> Iterator[Result]:
    person = Person.objects.get_or_create(username="wall-of-shots", defaults={"role": "designer"})[0]
    with TemporaryDirectory() as folder:
        try:
            yield from bench(person, Path(folder))
        finally:
            Project.objects.filter(owner=person).delete()


MANY, REPEATED = 500, 5


def _changes(person: Person, folder: Path) -> Iterator[Result]:
    """What each person waits for: the change itself, as the page asks for it, of one shot and of as many as may be chosen."""
    project = projects.create(person, f"Changed {time.time():.0f}")
    path = folder / "one.png"
    write_picture(Picture(_picture(1), "u8"), path)
    picture = pictures.bring_in(person, path, path.name).pk
    ids = [one.pk for one in shots.add_shots(person, project.pk, [shots.NewShot(picture, "One", f"{at:03}") for at in range(MANY)])]
    entries = [_look(person, f"Changed {at}") for at in range(2)]

    def put(chosen: list[int]) -> float:
        """The quickest of several, each time another look than before."""
        took = []
        for at in range(REPEATED):
            began = time.perf_counter()
            grading.put_look(person, project.pk, chosen, entries[at % 2], None, 1.0, stack=False)
            took.append(time.perf_counter() - began)
        return min(took)

    one, many = put(ids[:1]), put(ids)
    yield Result("shots.put.500", many * 1e3, "25 times one shot", one * 25e3, 1.0)


def changes() -> Iterator[Result]:
    return _run(_changes)


def walls() -> Iterator[Result]:
    return _run(_walls)


def playing() -> Iterator[Result]:
    return _run(_playing)


def workers() -> Iterator[Result]:
    return _run(_workers)
