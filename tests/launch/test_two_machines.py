"""Two machines of one studio: one database that somebody else runs, one bucket (moto's), a server and a worker on each."""

from __future__ import annotations

import os
import signal
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack
from pathlib import Path

import pytest

from tests.bucket import bucket
from tests.clips import write
from tests.database import use_copies
from tests.launch.installation import Caller, Installation, behind_nginx, eventually, installed, own_database
from tests.long import at_length
from tests.make import a_pack

LUTS, FRAMES = at_length((40, 24), (100, 60))


@pytest.fixture(scope="module")
def machines() -> Iterator[tuple[Installation, Installation]]:
    with ExitStack() as stack:
        there = stack.enter_context(bucket())
        settings = there.settings | {
            "SAUCER_DATABASE_URL": stack.enter_context(own_database(use_copies())), "SAUCER_STORE": there.said,
            "SAUCER_SECRET_KEY": "the same on both, and long enough to be one of fifty characters", "SAUCER_WEB_PROCESSES": "1",
        }  # fmt: skip
        one, two = (stack.enter_context(installed(start=False, **settings)) for _ in range(2))
        one.start()
        two.start()
        yield one, two


@pytest.fixture(scope="module")
def front(machines: tuple[Installation, Installation]) -> Iterator[int]:
    with behind_nginx("localhost", *machines, tls=False) as port:
        yield port


def kill(machine: Installation) -> None:
    """As when its power goes: everything at once."""
    assert machine.launcher is not None
    for pid in (
        machine.launcher.pid,
        *machine.children("gunicorn"),
        *machine.children("procrastinate"),
        *machine.children("saucer"),
    ):
        try:
            os.kill(pid, signal.SIGKILL)
        except ProcessLookupError:
            continue
    machine.launcher.wait(30)


def test_what_one_keeps_the_other_has_and_one_that_dies_takes_nothing_with_it(
    machines: tuple[Installation, Installation], front: int, tmp_path: Path
):
    one, two = machines
    told = one.run("people", "add", "ilse", "--role", "designer").stdout
    here = Caller(one)
    here.call("POST", "/session", {"username": "ilse", "password": told.partition("Password: ")[2].split()[0]})
    there = Caller(two)
    there.cookies = dict(here.cookies)
    assert there.call("GET", "/session")["person"]["username"] == "ilse", "who signs in on one is signed in on the other"
    through = Caller(one, front=front)
    through.cookies = dict(here.cookies)

    clip = write(tmp_path / "quay.mp4", "libx264", "yuv420p", FRAMES, size=(640, 360))
    [picture] = here.call("POST", "/footage", files={"files": ("quay.mp4", clip.read_bytes())})["pictures"]
    status, headers, _ = two.get(
        f"/api/pictures/{picture}/disc.jpg", Cookie="; ".join(f"{k}={v}" for k, v in there.cookies.items())
    )
    assert (status, headers["Content-Type"]) == (200, "image/jpeg"), "a file that one kept is seen by the other at once"

    project = here.call("POST", "/projects", {"name": "Ferry"})["id"]
    here.call("POST", f"/projects/{project}/shots", {"shots": [{"picture": picture, "scene": "Quay"}]})
    with ThreadPoolExecutor(2) as at_once:
        packed = at_once.submit(there.call, "POST", "/packs", None, {"files": ("pack.zip", a_pack(LUTS))}, 0, paths='["pack.zip"]')
        asked = at_once.submit(here.call, "POST", f"/projects/{project}/deliveries", {"sequences": "png"})
        intake, number = packed.result()["id"], asked.result()["number"]

    def delivered() -> list[dict[str, object]]:
        found: list[dict[str, object]] = there.call("GET", f"/projects/{project}/deliveries/{number}")["items"]
        return found

    eventually(lambda: any(item["bytes"] for item in delivered()) or there.call("GET", f"/jobs/{intake}")["progress"], 60)
    kill(one)
    asked_through = [through.call("GET", "/session")["person"]["username"] for _ in range(6)]
    assert asked_through == ["ilse"] * 6, "who comes through nginx notices nothing: the other one answers"
    eventually(lambda: there.call("GET", f"/jobs/{intake}")["state"] == "done", 240)
    eventually(lambda: there.call("GET", f"/projects/{project}/deliveries/{number}")["job"]["state"] == "done", 240)
    rows = there.call("GET", f"/packs/{intake}")
    assert (len(rows), [row["problem"] for row in rows if row["problem"]]) == (LUTS, [])
    frames = [item for item in delivered() if item["kind"] == "frame"]
    assert len(frames) == FRAMES
    assert all(item["bytes"] for item in frames)
    assert "The store is sound." in two.run("check").stdout
    one.start()
    eventually(one.is_ready, 60)
    assert here.call("GET", f"/packs/{intake}") == rows
