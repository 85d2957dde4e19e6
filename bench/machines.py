"""Two machines of one studio on one database and one bucket (moto's), each with a server and a worker for one job at a time: a delivery of
frames and a pack of a hundred files, beside what one of them takes.

Both lie on this machine, and the bucket and the database with them: with two cores what they take is missing.
"""

from __future__ import annotations

import tempfile
import time
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path

from tests.bucket import bucket
from tests.clips import write
from tests.launch.installation import Caller, Installation, eventually, installed, own_database
from tests.make import a_pack

from bench.measure import Result

FRAMES, LUTS, WANTED = 192, 100, 1.7
ONE_AT_A_TIME = {"SAUCER_WORKER_JOBS": "1", "SAUCER_THREADS": "1", "SAUCER_WEB_PROCESSES": "1"}


def _project(caller: Caller, folder: Path) -> int:
    clip = write(folder / "quay.mp4", "libx264", "yuv420p", FRAMES, size=(1280, 720))
    [picture] = caller.call("POST", "/footage", files={"files": ("quay.mp4", clip.read_bytes())})["pictures"]
    project: int = caller.call("POST", "/projects", {"name": "Ferry"})["id"]
    caller.call("POST", f"/projects/{project}/shots", {"shots": [{"picture": picture, "scene": "Quay"}]})
    return project


def _timed(caller: Caller, project: int, seed: int) -> float:
    """Milliseconds until both are done."""
    packed, begun = a_pack(LUTS, 17, seed), time.perf_counter()
    number = caller.call("POST", f"/projects/{project}/deliveries", {"sequences": "png"})["number"]
    intake = caller.call("POST", "/packs", files={"files": ("pack.zip", packed)}, paths='["pack.zip"]')["id"]
    eventually(lambda: caller.call("GET", f"/jobs/{intake}")["state"] == "done", 300)
    eventually(lambda: caller.call("GET", f"/projects/{project}/deliveries/{number}")["job"]["state"] == "done", 300)
    return (time.perf_counter() - begun) * 1e3


def _signed_in(machine: Installation) -> Caller:
    told = machine.run("people", "add", "ilse", "--role", "designer").stdout
    caller = Caller(machine)
    caller.call("POST", "/session", {"username": "ilse", "password": told.partition("Password: ")[2].split()[0]})
    return caller


def run() -> Iterator[Result]:
    with ExitStack() as stack:
        there = stack.enter_context(bucket())
        settings = there.settings | ONE_AT_A_TIME | {
            "SAUCER_DATABASE_URL": stack.enter_context(own_database()), "SAUCER_STORE": there.said,
            "SAUCER_SECRET_KEY": "the same on both, and long enough to be one of fifty characters",
        }  # fmt: skip
        one, two = (stack.enter_context(installed(start=False, **settings)) for _ in range(2))
        one.start()
        caller = _signed_in(one)
        print("started", flush=True)
        project = _project(caller, Path(stack.enter_context(tempfile.TemporaryDirectory())))
        eventually(lambda: all(job["state"] == "done" for job in caller.call("GET", "/jobs")), 120)
        print("project", flush=True)
        _timed(caller, project, 0)  # kernels and connections
        print("warm", flush=True)
        alone = _timed(caller, project, 1000)
        print("alone", alone, flush=True)
        two.start()
        _timed(caller, project, 2000)
        both = _timed(caller, project, 3000)
        yield Result("machines.two", both, "one of them", alone, WANTED)
